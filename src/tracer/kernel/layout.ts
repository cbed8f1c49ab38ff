/**
 * Where things lie in the tracer's memory: byte offsets shared by the kernel (AssemblyScript) and its driver
 * (TypeScript). Plain integer constants only, so that both compilers read this file.
 */

// Scene header, one for each scene in memory.
export const H_TOP = 0; // u32 tagged reference of the top tree, 0 when empty
export const H_FLAGS = 4;
export const H_SEED = 8;
export const H_WIDTH = 12; // u32 picture size in pixels
export const H_HEIGHT = 16;
export const H_LENS_RADIUS = 20; // f32 metres, 0 for a pinhole
export const H_FOCUS = 24; // f32 metres
export const H_PIXEL_ANGLE = 28; // f32 radians of one pixel
export const H_RIGHT = 32; // f32×3 times tan of the half field
export const H_UP = 44;
export const H_FORWARD = 56;
export const H_SUN_DIRECTION = 68; // f32×3
export const H_SUN_LUX = 80; // f32×3
export const H_SUN_COS = 92; // f32 cosine of the disc's radius
export const H_CLOUD_SUN = 96; // f32×3
export const H_CLOUD_AMBIENT = 108; // f32×3
export const H_AIR = 120; // f32×3 extinction per metre
export const H_SKY = 132; // u32 → f32 RGB table
export const H_CLOUD = 136; // u32 → f32 tile
export const H_GRID = 140; // u32 → f32 running sums
export const H_MATERIALS = 144; // u32 → material records
export const H_ALBEDO = 148; // u32 → f32 tables of directional albedo
export const H_WAVES = 152; // u32 → wave records
export const H_WAVE_COUNT = 156;
export const H_FOG_SIGMA = 160; // f64
export const H_FOG_BASE = 168; // f64 height of y0 over the origin
export const H_FOG_SCALE = 176; // f64 scale height, 0 for even fog
export const H_FOG_G = 184; // f32
export const H_FOG_ALBEDO = 188; // f32×3
export const H_WATER_LEVEL = 200; // f32 over the origin
export const H_WATER_ABSORB = 204; // f32×3 per metre
export const H_WATER_ALPHA = 216; // f32 least roughness
export const H_WORLD = 220; // f32×2 world x and z of the origin
export const H_SKY_CONSTANT = 228; // f32×3 luminance of a uniform sky (flag)
export const H_LIGHTS = 240; // u32 → light records
export const H_LIGHT_COUNT = 244;
export const H_LIGHT_NODES = 248; // u32 → tree over the lights
export const H_TOP_OPAQUE = 252; // u32 tagged reference of what casts shadows: the top tree without smooth glass
export const H_TOP_CLEAR = 256; // u32 the smooth glass alone, 0 when there is none
export const H_MIRRORS = 260; // u32 → flat faces of smooth panes
export const H_MIRROR_COUNT = 264;
export const H_SKY_DIRECTION = 268; // f32×3 of what lights the sky
/** u32 → RGB9E5 texels of a sky picture, 0 when the sky is computed; H_GRID then holds its running sums */
export const H_PICTURE = 280;
export const H_PICTURE_W = 284;
export const H_PICTURE_H = 288;
export const H_NODES = 292; // u32 → f32 luminances
export const H_NODES_W = 296;
export const H_NODES_H = 300;
export const H_RING = 304; // u32 → f32 RGB of the air by heading
export const H_PICTURE_TURN = 308; // f32 parts of a full turn
export const H_PICTURE_GAIN = 312; // f32 cd/m² a unit
export const H_PICTURE_SATURATION = 316; // f32
/** u32 lights that are summed by themselves; 0 for none, and for no fog and no openness either */
export const H_LAYERS = 320;
/** f32×3 direction of depth 1 through the frame's middle, off H_FORWARD where the film is shifted */
export const H_MIDDLE = 324;
export const H_EYE = 336; // f32×3 the lens's middle when the shutter opens
/** f32×3 where it is when the shutter closes, less where it was; then the axis about which it turns meanwhile, and by how much */
export const H_EYE_WAY = 348;
export const H_TURN_AXIS = 360;
export const H_TURN = 372; // f32 radians
export const H_WIDENS = 376; // f32 the field when the shutter closes over that when it opens, less 1
export const H_PLANET = 384; // f64 radius of the planet, 0 where the world is flat
export const H_PLANET_X = 392; // f64 where it is level, from the origin
export const H_PLANET_Y = 400; // f64 its sea there
export const H_PLANET_Z = 408;
export const H_FOAM = 416; // u32 → the fan of foam, 0 when there is none
export const H_WATER_TIME = 420; // f32 seconds
export const H_WHITE = 424; // f32 one over the light of white level ground, m²/cd
export const H_SIZE = 432;

// Fan of foam before the lens; all f32.
export const FO_COLUMNS = 0;
export const FO_ROWS = 4;
export const FO_X = 8; // of its foot, from the origin
export const FO_Z = 12;
export const FO_HEADING = 16; // first one, radians
export const FO_STEP = 20;
export const FO_FIRST = 24; // metres
export const FO_GROWTH = 28; // logarithm
export const FO_SHARES = 32; // u32 → f32 shares, row by row
export const FO_SIZE = 36;

export const FLAG_WATER = 1;
export const FLAG_FOG = 2;
export const FLAG_SKY_CLEAR = 4;
export const FLAG_SUN = 8;
export const FLAG_SKY_CONSTANT = 16;
/** For tests of the sampling itself: leave out the choice of lights, or the hits of the chosen bounces. */
export const FLAG_NO_LIGHT_SAMPLING = 32;
export const FLAG_NO_SURFACE_LIGHT = 64;
/** The water's level plane lies beyond its waves alone, which are shapes; see {@link WAVES_M}. */
export const FLAG_WATER_MESHED = 256;
/** How far waves that are shapes reach, metres. */
export const WAVES_M = 60000;
/** Camera or pieces go while the shutter is open: each sample has a moment of its own. */
export const FLAG_MOVING = 128;

// Mesh record.
export const M_ROOT = 0; // u32 tagged
export const M_INDICES = 4; // u32 → u32×3 a triangle
export const M_NORMALS = 8; // u32 → f32×3 a vertex
export const M_COLOURS = 12; // u32 → u8×4 a vertex, or 0
export const M_UNDER = 16; // u32 → f32×3 a vertex, or 0: normals that sheets lie by
export const M_SIZE = 32;

// Instance record.
export const I_INVERSE = 0; // f32×16 world to mesh, four columns of three and a zero
export const I_ROOT = 64; // u32 tagged root of the mesh
export const I_MESH = 68; // u32 → mesh record
export const I_MATERIAL = 72; // u32 index
export const I_ID = 76; // u32 piece number
export const I_TINT = 80; // u8×4, square roots of linear RGB; alpha 0 means none
export const I_ORDER = 84; // u32 place in the scene's order, for equal hits
/** u32 address of the way that it goes while the shutter is open; 0 for what stands still. Its lowest bit: */
export const I_WAY = 88;
/** several references lead here. */
export const WAY_SLICED = 1;
/** Its next: the body is cut out, see MAT_CUT. */
export const WAY_CUT = 2;
/** A way: quaternions, sizes and places when the shutter opens and when it closes, then the angle between the two. */
export const WAY_TURNS = 0; // f32×4, twice
export const WAY_SIZES = 32; // f32×3, twice
export const WAY_PLACES = 56; // f32×3, twice
export const WAY_ANGLE = 80; // f32 half of the turn, radians
export const WAY_SIZE = 96;
export const I_LIGHT = 92; // u32 number of the light that it is the body of, counted from 1
export const I_SIZE = 96;

// Material record.
export const MAT_COLOUR = 0;
export const MAT_ROUGHNESS = 12;
export const MAT_METAL = 16;
export const MAT_TRANSLUCENCY = 20;
export const MAT_COAT = 24; // share, then roughness
export const MAT_COAT_ROUGHNESS = 28;
export const MAT_GLASS = 32; // f32 0 none, 1 a body, 2 a pane, 3 a surface of water
export const MAT_INDEX = 36;
export const MAT_TINT = 40; // f32×3 extinction per metre of a body, what one passage of a pane leaves
export const MAT_LAYERS = 52; // u32 → the sheets that lie on it, the lowest first, 0 for none
export const MAT_LAYER_COUNT = 56; // f32
export const MAT_CUT = 60; // f32 1 of a body that is only where its first sheet is there
export const MAT_GLOW = 64; // f32×3 cd/m² that it sends out; the working view alone reads it here
export const MAT_RUNS = 76; // f32 speed of running water over the root of its slope, m/s; 0 of what stands
export const MAT_SIZE = 80;

// Layer record: a sheet as it lies; `core/scene/layerTable.ts` writes it.
export const LY_SHEET = 0; // u32 → texels, the finest level first
export const LY_SIZE = 4; // f32 texels of a side at the finest
export const LY_PER_M = 8; // f32 sheets a metre
export const LY_GRAIN = 12; // f32, one of GRAIN_…
export const LY_BLOCKS = 16; // f32; of what stands once by how much its slopes are steeper up and down than across
export const LY_SEED = 20;
export const LY_COS = 24; // of its turn, then the sine
export const LY_SIN = 28;
export const LY_SLOPE = 32; // by which its slopes are steeper than baked
export const LY_TINT = 36; // share in which its mean is the surface's own colour
export const LY_WET = 40;
export const LY_WORLD = 44; // 1 where it lies by the world's metres, 0 by the piece's
export const LY_OFFSET = 48; // f32×3 metres from where it counts to the origin
export const LY_ONCE = 60; // f32 of what stands once, one of ONCE_…
export const LY_MEAN = 64; // f32×3 mean of its colour, then of its roughness
export const LY_MEAN_HEIGHT = 80; // 0 to 1
export const LY_OVER = 84; // f32 1 where the first of a material lies over its own colour
export const LY_SHARE = 88; // f32 how much of it there is at most, then how many bands it has
export const LY_BAND_COUNT = 92;
export const LY_SHADE = 96; // f32×3 times its colour, then by how much it is rougher
export const LY_ROUGHER = 108;
export const LY_WORN = 112; // f32 how far it is worn from the top, then how far dirt fills it from the bottom
export const LY_DIRT = 116;
export const LY_BANDS = 128;
export const LY_BAND_BYTES = 48;
export const LY_SIZE_BYTES = 272;
// Band: f32 quantity, rises from and to, falls from and to, then these.
export const BA_SCALE = 20; // f32 size of clouds, bricks a metre of a volume
export const BA_SEED = 24; // f32 of clouds, what a volume is where there is no brick
export const BA_UPRIGHT = 28; // f32 how much more slowly clouds change upright
export const BA_VOLUME = 28; // u32 → its words
export const BA_OFFSET = 32; // f32×3 metres from its anchor to where places count from
// Of a box: its middle from where places count, then these.
export const BA_AT = 4; // f32×3
export const BA_RIGHT = 16; // f32×3 over half its width
export const BA_UP = 28; // f32×3 over half its height
export const BA_DEEP = 40; // f32 one over half its depth
export const BA_SOFT = 44; // f32 share over which it fades at its sides, below 0 for both sides of what looks through it
export const BA_WORLD = 44; // f32 1 where it lies by the world's metres, 0 by the piece's
/** Quantities of bands; `core/surface/where/where.ts` numbers them. */
export const OF_LEAN = 1;
export const OF_HEIGHT = 2;
export const OF_CLOUDS = 3;
export const OF_VOLUME = 4;
export const OF_BOX = 5;

// Words of a volume; `core/volume/volume.ts` lays them down.
export const VO_TABLE = 16;
export const VO_ENTRY = 16;
export const VO_SAMPLES = 8;
export const VO_CELLS = 7;

/** Texel of a sheet; `core/surface/sheet.ts` tells what its words are. */
export const TEXEL_BYTES = 12;

// How sheets are read, in the tracer and in the working view alike.
export {
  BOX_DEEP, BOX_FACES, DIRT_BLUE, DIRT_FILM, DIRT_GREEN, DIRT_HIDES, DIRT_RED, DIRT_ROUGHNESS, GRAIN_BLOCKS, GRAIN_ONCE, GRAIN_SHIFTS,
  LAYER_LEAST, ONCE_CUT, ONCE_RELIEF, OVER_EDGE, SHEET_CELLS, SHEET_LEAST, WATER_EDGE, WORN_EDGE, WORN_PALER, WORN_ROUGHNESS,
} from "../../core/surface/reading";
/** Share of diffuse light that a film of water throws back inside, for an index of 1.33. */
export const FILM_INSIDE = 0.472;
/** Roughness of what is damp, at most, and of standing water. */
export const DAMP_ROUGHNESS = 0.35;
export const WATER_ROUGHNESS = 0.03;
/** Cosine between a ray and a normal of relief up to which it is taken as it is. */
export const LEAST_FACING = -0.02;

export const GLASS_BODY = 1;
export const GLASS_PANE = 2;
/** The surface of water that lies in the land. */
export const GLASS_WATER = 3;
/** Roughness below which glass is perfectly smooth, so that light can be joined straight through it. */
export const GLASS_SMOOTH = 0.05;

// Light record. Shapes: 0 point, 1 spot, 2 sphere, 3 disc, 4 rectangle, 5 a glowing body.
export const LI_SHAPE = 0;
export const LI_NODE = 4; // u32 leaf in the tree
export const LI_MET = 8; // u32 1 when rays meet its body
export const LI_AREA = 12;
export const LI_POSITION = 16; // f32×3
export const LI_COS_INNER = 28;
export const LI_AXIS = 32; // f32×3
export const LI_COS_OUTER = 44;
export const LI_RIGHT = 48; // f32×3 times the half width
export const LI_RADIUS = 60;
export const LI_UP = 64; // f32×3 times the half height
export const LI_RGB = 80; // f32×3 candela or cd/m²
export const LI_TRIANGLES = 92; // of a body
export const LI_AREAS = 96; // u32 → running sums of their areas, the last 1
export const LI_CORNERS = 100; // u32 → positions of the mesh
export const LI_INDICES = 104;
export const LI_LAYER = 108; // u32 which layer its light is summed in
export const LI_MATRIX = 112; // f32×12 mesh to lens, rows
export const LI_SIZE = 160;
export const SHAPE_POINT = 0;
export const SHAPE_SPOT = 1;
export const SHAPE_SPHERE = 2;
export const SHAPE_DISC = 3;
export const SHAPE_RECTANGLE = 4;
export const SHAPE_BODY = 5;

// Flat face of a smooth pane: a parallelogram. Its axes are scaled so that a place on it has coordinates from −1 to 1.
export const MI_CENTRE = 0; // f32×3
export const MI_MATERIAL = 12; // u32 index
export const MI_NORMAL = 16; // f32×3 outwards
export const MI_AREA = 28;
export const MI_U = 32; // f32×3
export const MI_V = 48; // f32×3
export const MI_SIZE = 64;
/** More faces than this are left to chance. */
export const MOST_MIRRORS = 64;

// Node of the tree over the lights; `core/light/lightTree.ts` writes it.
export const N_RADIUS = 12;
export const N_AXIS = 16;
export const N_COS_SPREAD = 28;
export const N_SIN_SPREAD = 32;
export const N_COS_EMISSION = 36;
export const N_STRENGTH = 40;
export const N_LEFT = 44;
export const N_RIGHT = 48;
export const N_PARENT = 52;
export const N_LIGHT = 56;
export const N_SIZE = 64;
export const N_NONE = 0xffffffff;

// Wave record.
export const W_KX = 0;
export const W_KZ = 4;
export const W_PHASE = 8;
export const W_SLOPE = 12; // amplitude times wave number
export const W_LENGTH = 16; // wave length in metres
export const W_SIZE = 32;

// Tables.
export const SKY_W = 64;
export const SKY_H = 96;
export const CLOUD_N = 512;
export const GRID_W = 128;
export const GRID_H = 48;
export const ALBEDO_N = 32;
/** Headings of the air's colour under a sky picture. */
export const RING = 64;

// Channels of the sums, each a plane of f64 over the tile.
export const CHANNELS = 14; // R G B, luminance², albedo RGB, normal XYZ, R G B of odd samples, 1 / depth
/** Layers of light: sun, sky and air, glowing pieces, then lamps; the last takes all that are left. */
export const LAYER_SUN = 0;
export const LAYER_SKY = 1;
export const LAYER_GLOW = 2;
export const LAYER_LAMPS = 3;
export const MOST_LAYERS = 12;
/**
 * More planes when lights are summed by themselves: RGB of each, RGB of what fog and air send into the eye's own
 * ray, openness.
 */
export const MOST_EXTRA = 3 * MOST_LAYERS + 4;
export const FIRST_Z = 0; // planes of first values, 4 bytes each: depth, then id
export const FIRST_ID = 1;
/** Then pairs of planes: a number that samples of the pixel have met, counted from 1, and how many of them. */
export const FIRST_MASKS = 2;
export const MASKS = 4;
export const FIRSTS = FIRST_MASKS + 2 * MASKS;

// References in trees carry what they lead to in their lowest bits.
export const TAG_NODE = 0;
export const TAG_TRIANGLES = 1;
export const TAG_INSTANCE = 2;
export const TAG_MASK = 31;

export const ID_SKY = 0;
export const ID_GROUND = 1;
export const ID_WATER = 2;
export const ID_FIRST = 3;

// Planes of a band whose noise is taken out: even RGB, odd RGB, then these.
export const D_VARIANCE = 6; // of a half, RGB
export const D_SURFACE = 9; // albedo RGB, normal XYZ
export const D_NORMAL_VARIANCE = 15;
export const D_NEARNESS = 16;
export const D_OUT = 17; // RGB of either half
export const D_PLANES = 23;
export const D_BORDER = 16;
/** Rows that are averaged at a time, reach of a patch, and rows of the stride that a band needs as room to work in. */
export const D_ROWS = 16;
export const D_PATCH = 1;
export const D_WORK_ROWS = 2 * (D_ROWS + 2 * D_PATCH) + 2 + 8 * D_ROWS;

// Planes of a part that the learned filter reads, exposed: even RGB, odd RGB, then these; it puts its picture before them.
export const N_FILTERED = 6; // RGB of the other filter
export const N_ERROR = 9;
export const N_ALBEDO = 10;
export const N_NORMAL = 13;
export const N_NEARNESS = 16;
/** What is nearer than this (1/m) is no sky. */
export const N_SKY = 1e-6;
export const N_COVER = 17; // share of the first piece
export const N_COUNT = 18; // samples
export const N_PLANES = 19;
/** Planes of two channels each that the network sees of them. */
export const N_PAIRS = 10;
/** What goes from layer to layer: the largest whole number, and steps to one of what is seen. */
export const N_MOST = 8191;
export const N_SEEN_STEPS = 1024;
/** Channels at full, half and quarter size; weights of a kernel, and as many as vectors hold; what is put together. */
export const N_FULL = 24;
export const N_HALF = 48;
export const N_QUARTER = 64;
export const N_TAPS = 25;
export const N_TOLD = 28;
export const N_CANDIDATES = 7;
export const N_TOLD_FULL = 32;
/** Pixels beside a part on which what is told there depends; parts lie on a grid of {@link N_GRID}. */
export const N_HALO = 28;
export const N_GRID = 4;
/** Floats of the margin at each end of a row that is worked on. */
export const N_MARGIN = 4;
