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
