/** The path under way: where it is, what it carries, and how its direction was chosen. */

/** How a direction was chosen, in place of a density: nothing else could have found that light; another choice has counted it. */
export const ALL: f32 = -1;
export const NONE: f32 = -2;
/** Random pairs of a vertex for lamps; they lie apart so that a scene without lamps draws the same as ever. */
export const LAMPS: u32 = 0x10000;

/** Light that it brings. */
export let outR: f32 = 0;
export let outG: f32 = 0;
export let outB: f32 = 0;
/** Origin and direction of the present ray. */
export let ox: f32 = 0;
export let oy: f32 = 0;
export let oz: f32 = 0;
export let dx: f32 = 0;
export let dy: f32 = 0;
export let dz: f32 = 0;
/** Throughput. */
export let betaR: f32 = 1;
export let betaG: f32 = 1;
export let betaB: f32 = 1;
/** Density by which the direction was chosen as sky, sun and lamps see it, or ALL or NONE. */
export let skyState: f32 = 0;
export let sunState: f32 = 0;
export let lampState: f32 = 0;
/** Where lamps were joined when the direction was chosen. */
export let fromX: f32 = 0;
export let fromY: f32 = 0;
export let fromZ: f32 = 0;
/** Images of lamps in panes have been joined where the path comes from. */
export let imaged: bool = false;
/** The sun's glint in the water has been joined where the path comes from. */
export let glintDone: bool = false;
export let inWater: bool = false;
/** Material of the body of glass that the path is in, 0 outside. */
export let inGlass: usize = 0;
/** Width of the view, metres, and what it grows by on each. */
export let width: f32 = 0;
export let spread: f32 = 0;
/** First of the random pairs of the present vertex. */
export let pair: u32 = 0;

export function startPath(angle: f32): void {
  outR = outG = outB = 0;
  betaR = betaG = betaB = 1;
  skyState = sunState = lampState = ALL;
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
export function bring(r: f32, g: f32, b: f32): void {
  outR += betaR * r;
  outG += betaG * g;
  outB += betaB * b;
}

// @ts-ignore: decorator
@inline
export function dim(r: f32, g: f32, b: f32): void {
  betaR *= r;
  betaG *= g;
  betaB *= b;
}

// @ts-ignore: decorator
@inline
export function setBeta(r: f32, g: f32, b: f32): void {
  betaR = r;
  betaG = g;
  betaB = b;
}

// @ts-ignore: decorator
@inline
export function tell(sky: f32, sun: f32, lamp: f32): void {
  skyState = sky;
  sunState = sun;
  lampState = lamp;
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
export function setInWater(inside: bool): void {
  inWater = inside;
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
