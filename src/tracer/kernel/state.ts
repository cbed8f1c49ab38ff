/** The path under way: where it is, what it carries, and how its direction was chosen. */

/**
 * How a direction was chosen, in place of a density: nothing else could have found that light; another choice has
 * counted it.
 */
export const ALL: f32 = -1;
export const NONE: f32 = -2;
/** Random pairs of a vertex for lamps; they lie apart so that a scene without lamps draws the same as ever. */
export const LAMPS: u32 = 0x10000;
/** The random pair of a vertex for the sheets that lie on what it meets. */
export const SHEETS: u32 = 0x30000;
/** The random pair of the moment in which the sample sees the place; openness draws as far off. */
export const SHUTTER: u32 = 0x40000;
/** That moment, from the shutter's opening (0) to its closing (1). */
export let moment: f32 = 0;

export function setMoment(t: f32): void {
  moment = t;
}

/** Light that it brings. */
export let radianceR: f32 = 0;
export let radianceG: f32 = 0;
export let radianceB: f32 = 0;
/** Origin and direction of the present ray. */
export let ox: f32 = 0;
export let oy: f32 = 0;
export let oz: f32 = 0;
export let dx: f32 = 0;
export let dy: f32 = 0;
export let dz: f32 = 0;
/** Throughput. */
export let throughputR: f32 = 1;
export let throughputG: f32 = 1;
export let throughputB: f32 = 1;
/** Density by which the direction was chosen as sky, sun and lamps see it, or ALL or NONE. */
export let pdfForSky: f32 = 0;
export let pdfForSun: f32 = 0;
export let pdfForLamps: f32 = 0;
/** Where lamps were joined when the direction was chosen. */
export let fromX: f32 = 0;
export let fromY: f32 = 0;
export let fromZ: f32 = 0;
/** Images of lamps in panes have been joined where the path comes from. */
export let imaged: bool = false;
/** The sun's glint in the water has been joined where the path comes from. */
export let glintDone: bool = false;
export let inWater: bool = false;
/** Height over the origin of the surface of the water that the path is in. */
export let waterLevel: f32 = 0;
/** Material of the body of glass that the path is in, 0 outside. */
export let inGlass: usize = 0;
/** Width of the view, metres, and what it grows by on each. */
export let width: f32 = 0;
export let spread: f32 = 0;
/** First of the random pairs of the present vertex. */
export let pair: u32 = 0;

/**
 * Where the light of each layer is noted for a sample, three f32 each and three for the fog; 0 when it is not
 * wanted.
 */
export let layers: usize = 0;
/** Number of them. */
export let layerCount: u32 = 0;
/** Layer of what is brought next. */
let layer: u32 = 0;
/** What is brought comes by way of fog or air on the eye's own ray. */
let byFog: bool = false;

export function setLayers(at: usize, count: u32): void {
  layers = count > 0 ? at : 0;
  layerCount = count;
}

// @ts-ignore: decorator
@inline
export function intoLayer(n: u32): void {
  layer = n;
}

// @ts-ignore: decorator
@inline
export function setByFog(on: bool): void {
  byFog = on;
}

function note(r: f32, g: f32, b: f32): void {
  addTo(layers + <usize>layer * 12, r, g, b);
  if (byFog) addTo(layers + <usize>layerCount * 12, r, g, b);
}

function addTo(at: usize, r: f32, g: f32, b: f32): void {
  store<f32>(at, load<f32>(at) + r);
  store<f32>(at, load<f32>(at, 4) + g, 4);
  store<f32>(at, load<f32>(at, 8) + b, 8);
}

/**
 * Ways that branch off where the eye looks at glass: both what it mirrors and what it lets through are followed.
 * Places at
 * `ways` hold origin, direction, throughput, width, spread, the body of glass, whether in water and
 * under which level, and the next vertex.
 */
let ways: usize = 0;
export let forkCount: i32 = 0;
const MOST_FORKS: i32 = 3;
const WAY_SIZE: usize = 60;
/** The path under way is such a branch, and branches no more. */
let onFork: bool = false;

export function setWays(at: usize): void {
  ways = at;
}

/** Whether the path may branch here: nothing but mirrors and clear glass lies between it and the eye. */
export function mayFork(): bool {
  return !onFork && forkCount < MOST_FORKS && pdfForSky == ALL && pdfForSun == ALL && pdfForLamps == ALL;
}

/** Keeps the path as it is now in a place. */
function keepWay(n: i32): void {
  const at = ways + <usize>n * WAY_SIZE;
  store<f32>(at, ox);
  store<f32>(at, oy, 4);
  store<f32>(at, oz, 8);
  store<f32>(at, dx, 12);
  store<f32>(at, dy, 16);
  store<f32>(at, dz, 20);
  store<f32>(at, throughputR, 24);
  store<f32>(at, throughputG, 28);
  store<f32>(at, throughputB, 32);
  store<f32>(at, width, 36);
  store<f32>(at, spread, 40);
  store<u32>(at, <u32>inGlass, 44);
  store<u32>(at, inWater ? 1 : 0, 48);
  store<u32>(at, (pair - 2) / 8 + 1, 52);
  store<f32>(at, waterLevel, 56);
}

/** Takes a way up again; returns its next vertex. */
function takeWay(n: i32): u32 {
  const at = ways + <usize>n * WAY_SIZE;
  moveTo(load<f32>(at), load<f32>(at, 4), load<f32>(at, 8));
  turnTo(load<f32>(at, 12), load<f32>(at, 16), load<f32>(at, 20));
  setThroughput(load<f32>(at, 24), load<f32>(at, 28), load<f32>(at, 32));
  width = load<f32>(at, 36);
  spread = load<f32>(at, 40);
  inGlass = <usize>load<u32>(at, 44);
  inWater = load<u32>(at, 48) != 0;
  waterLevel = load<f32>(at, 56);
  tell(ALL, ALL, ALL);
  return load<u32>(at, 52);
}

/** Keeps the path while a branch is made of it. */
export function holdWay(): void {
  keepWay(MOST_FORKS);
}

/** Goes back to where the path was held. */
export function takeHeld(): void {
  takeWay(MOST_FORKS);
}

/** Makes the path as it is now a branch, followed when this one has ended. */
export function addFork(): void {
  keepWay(forkCount++);
}

/** The path goes on as branch n; returns its vertex. */
export function startFork(n: i32): u32 {
  onFork = true;
  byFog = glintDone = imaged = false;
  return takeWay(n);
}

export function startPath(angle: f32): void {
  forkCount = 0;
  onFork = false;
  byFog = false;
  if (layers != 0) memory.fill(layers, 0, <usize>(layerCount + 1) * 12);
  radianceR = radianceG = radianceB = 0;
  throughputR = throughputG = throughputB = 1;
  pdfForSky = pdfForSun = pdfForLamps = ALL;
  glintDone = inWater = imaged = false;
  inGlass = 0;
  width = 0;
  spread = angle;
}

// @ts-ignore: decorator
@inline
export function atVertex(n: u32): void {
  pair = 2 + n * 8;
}

// @ts-ignore: decorator
@inline
export function moveTo(x: f32, y: f32, z: f32): void {
  ox = x;
  oy = y;
  oz = z;
}

// @ts-ignore: decorator
@inline
export function turnTo(x: f32, y: f32, z: f32): void {
  dx = x;
  dy = y;
  dz = z;
}

/** Light that reaches the place where the path is. */
// @ts-ignore: decorator
@inline
export function addRadiance(r: f32, g: f32, b: f32): void {
  const x = throughputR * r, y = throughputG * g, z = throughputB * b;
  radianceR += x;
  radianceG += y;
  radianceB += z;
  if (layers != 0) note(x, y, z);
}

// @ts-ignore: decorator
@inline
export function scaleThroughput(r: f32, g: f32, b: f32): void {
  throughputR *= r;
  throughputG *= g;
  throughputB *= b;
}

// @ts-ignore: decorator
@inline
export function setThroughput(r: f32, g: f32, b: f32): void {
  throughputR = r;
  throughputG = g;
  throughputB = b;
}

// @ts-ignore: decorator
@inline
export function tell(sky: f32, sun: f32, lamp: f32): void {
  pdfForSky = sky;
  pdfForSun = sun;
  pdfForLamps = lamp;
}

// @ts-ignore: decorator
@inline
export function comeFrom(x: f32, y: f32, z: f32): void {
  fromX = x;
  fromY = y;
  fromZ = z;
}

// @ts-ignore: decorator
@inline
export function setGlintDone(done: bool): void {
  glintDone = done;
}

// @ts-ignore: decorator
@inline
export function setImaged(done: bool): void {
  imaged = done;
}

// @ts-ignore: decorator
@inline
export function setInWater(inside: bool, level: f32): void {
  inWater = inside;
  waterLevel = level;
}

// @ts-ignore: decorator
@inline
export function setInGlass(material: usize): void {
  inGlass = material;
}

/** The view is spread by a rough turn. */
// @ts-ignore: decorator
@inline
export function spreadBy(angle: f32): void {
  spread = max<f32>(spread, angle);
}

// @ts-ignore: decorator
@inline
export function growOver(distance: f32): void {
  width += spread * distance;
}
