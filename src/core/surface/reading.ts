/**
 * How sheets are read wherever they are: by tracer, working view, and where what they lie on is shaped by their heights. The tracer's
 * kernel takes these numbers by way of its layout.
 */

/** Cells over a sheet's side, of the lattice that breaks up its repeats. */
export const SHEET_CELLS = 1.7;
/** Share below which a side or a cell is not looked at, and how much of a layer is none. */
export const SHEET_LEAST = 0.01;
export const LAYER_LEAST = 0.002;
/** How much of a sheet's depth the edge of standing water takes, and of what lies over another. */
export const WATER_EDGE = 0.08;
export const OVER_EDGE = 0.25;
/** Cosine up to which what turns away from a box's front fades, and share of its half depth from which on it does. */
export const BOX_FACES = 0.2;
export const BOX_DEEP = 0.85;

/** Share of a sheet's depth over which what is worn, and dirt, end. */
export const WORN_EDGE = 0.2;
/** What is worn has so much of its roughness, and is so much paler, as stone is under its crust. */
export const WORN_ROUGHNESS = 0.72;
export const WORN_PALER = 0.35;
/** Dirt: its linear colour and roughness; how much of it lies on all of a surface that is full of it, and how much relief it hides. */
export const DIRT_RED = 0.07;
export const DIRT_GREEN = 0.055;
export const DIRT_BLUE = 0.04;
export const DIRT_ROUGHNESS = 0.95;
export const DIRT_FILM = 0.4;
export const DIRT_HIDES = 0.7;

/** Height in a sheet down to which it is worn; above all of it for none. */
export const wornTo = (worn: number): number => 1 - worn * (1 + WORN_EDGE);

/** How a sheet lies, as layers are numbered by it: cells turn and shift, shift, shift by whole blocks, or it stands once, in a box. */
export const GRAIN_TURNS = 0;
export const GRAIN_SHIFTS = 1;
export const GRAIN_BLOCKS = 2;
export const GRAIN_ONCE = 3;
/** What stands once: a picture, relief without a colour of its own, or what cuts out its body. */
export const ONCE_PICTURE = 0;
export const ONCE_RELIEF = 1;
export const ONCE_CUT = 2;
