/**
 * Height fog: distances are chosen by inverting its closed form, transmittance is exact, in float64 because the two
 * ends of a level ray cancel. Over a planet a ray is walked in stretches that rise evenly, at most about two dozen of them. Scattering after Henyey and Greenstein (1941).
 */
import { H_FOG_BASE, H_FOG_G, H_FOG_SCALE, H_FOG_SIGMA, H_PLANET } from "./layout";
import { heightAt, riseAt, worldBelow } from "./planet";
import { bx, by, bz, f, frameAbout, PI, scene, tx, ty, tz } from "./scene";

export let fogX: f32 = 0;
export let fogY: f32 = 0;
export let fogZ: f32 = 0;

// @ts-ignore: decorator
@inline
function column(h: f64, scale: f64): f64 {
  return h <= 0 ? h : scale * (1 - Math.exp(-h / scale));
}

// @ts-ignore: decorator
@inline
function density(h: f64, scale: f64): f64 {
  return h <= 0 ? 1 : Math.exp(-h / scale);
}

/** Optical depth along a line whose height goes evenly from h over a distance, for a fog of 1 per metre at its base. */
function evenDepth(h: f64, rise: f64, t: f64, scale: f64): f64 {
  if (abs<f64>(rise) < 1e-4 * scale) return t * density(h + 0.5 * rise, scale);
  return ((column(h + rise, scale) - column(h, scale)) / rise) * t;
}

/** Distance along a line that rises by `slope` a metre at which such a depth is reached, Infinity when the fog ends before. */
function evenReach(h: f64, slope: f64, depth: f64, scale: f64): f64 {
  const level = depth / density(h, scale);
  if (abs<f64>(slope * level) < 1e-4 * scale) return level;
  const c = column(h, scale) + depth * slope;
  if (c >= scale) return Infinity;
  const y = c <= 0 ? c : -scale * Math.log(1 - c / scale);
  return max<f64>(0, (y - h) / slope);
}

/** Depth through which nothing is seen. */
const BLACK: f64 = 60;
/** Scale heights over its base beyond which there is no fog. */
const TOP: f64 = 28;
/** A stretch of a ray over a planet is taken for one that rises evenly while its middle lies off by no more than this share of the scale. */
const BENDS: f64 = 0.04;

// A ray over a planet, as a walk along it is at: what is left of the stretch in the fog.
let radius: f64 = 0;
let fromCentre: f64 = 0;
let slopeThere: f64 = 0;
let from: f64 = 0;
let until: f64 = 0;
let stretch: f64 = 0;

/** Height over the fog's base at a distance along the ray. */
// @ts-ignore: decorator
@inline
function over(t: f64, base: f64): f64 {
  // (r² + 2 r s t + t²)^½ − r, without loss.
  const more = t * (2 * fromCentre * slopeThere + t);
  return more / (Math.sqrt(fromCentre * fromCentre + more) + fromCentre) + base;
}

/** Begins a walk along a ray over a planet. False where it meets no fog within the distance. */
function enter(h: f64, slope: f64, y: f64, distance: f64, scale: f64): bool {
  radius = load<f64>(scene + H_PLANET);
  fromCentre = radius + y;
  slopeThere = slope;
  from = 0;
  until = distance;
  const high = TOP * scale;
  // Where the ray passes the fog's top: t² + 2 r s t + (h − top)(2 r + top − h) = 0.
  const half = fromCentre * slope;
  const c = (h - high) * (2 * fromCentre + high - h);
  const d = half * half - c;
  if (h > high) {
    if (slope >= 0 || d <= 0) return false;
    const root = Math.sqrt(d);
    from = c / (root - half);
    until = min<f64>(until, root - half);
    if (from >= until) return false;
  } else if (d > 0) {
    until = min<f64>(until, half > 0 ? -c / (half + Math.sqrt(d)) : Math.sqrt(d) - half);
  }
  stretch = Math.sqrt(8 * radius * BENDS * scale);
  return true;
}

/** Mean of what a chord lies under the ray by, over the square of its length. */
// @ts-ignore: decorator
@inline
function bulge(slope: f64): f64 {
  return (1 - slope * slope) / (12 * radius);
}

/** Optical depth from a place along a direction over a distance (Infinity allowed). */
export function fogDepth(x: f32, y: f32, z: f32, dx: f32, dy: f32, dz: f32, distance: f32): f64 {
  const sigma = load<f64>(scene + H_FOG_SIGMA);
  const scale = load<f64>(scene + H_FOG_SCALE);
  const t = <f64>distance;
  if (scale == 0) return sigma * t;
  const height = heightAt(x, y, z);
  const h = height - load<f64>(scene + H_FOG_BASE);
  const slope = riseAt(x, y, z, dx, dy, dz);
  if (load<f64>(scene + H_PLANET) == 0) {
    if (t == Infinity) return slope > 0 ? (sigma * (scale - column(h, scale))) / slope : Infinity;
    return sigma * evenDepth(h, slope * t, t, scale);
  }
  if (!enter(h, slope, height - worldBelow(), t, scale)) return 0;
  let sum: f64 = 0;
  let h0 = over(from, h);
  for (let at = from; at < until; ) {
    const next = min<f64>(at + stretch, until);
    const h1 = over(next, h);
    const low = bulge(slope) * (next - at) * (next - at);
    sum += evenDepth(h0 - low, h1 - h0, next - at, scale);
    if (sigma * sum > BLACK) break;
    at = next;
    h0 = h1;
  }
  return sigma * sum;
}

/** Extinction per metre at a place. */
export function fogThick(x: f32, y: f32, z: f32): f64 {
  const scale = load<f64>(scene + H_FOG_SCALE);
  return load<f64>(scene + H_FOG_SIGMA) *
    (scale == 0 ? 1 : density(heightAt(x, y, z) - load<f64>(scene + H_FOG_BASE), scale));
}

/** Distance at which the optical depth is reached, Infinity when the fog ends before. */
export function fogReach(x: f32, y: f32, z: f32, dx: f32, dy: f32, dz: f32, depth: f64): f32 {
  const sigma = load<f64>(scene + H_FOG_SIGMA);
  const scale = load<f64>(scene + H_FOG_SCALE);
  if (scale == 0) return <f32>(depth / sigma);
  const height = heightAt(x, y, z);
  const h = height - load<f64>(scene + H_FOG_BASE);
  const slope = riseAt(x, y, z, dx, dy, dz);
  let left = depth / sigma;
  if (load<f64>(scene + H_PLANET) == 0) return <f32>evenReach(h, slope, left, scale);
  if (!enter(h, slope, height - worldBelow(), Infinity, scale)) return Infinity;
  let h0 = over(from, h);
  for (let at = from; at < until; ) {
    const next = min<f64>(at + stretch, until);
    const h1 = over(next, h);
    const low = bulge(slope) * (next - at) * (next - at);
    const own = evenDepth(h0 - low, h1 - h0, next - at, scale);
    if (own >= left) {
      return <f32>(at + min<f64>(next - at, evenReach(h0 - low, (h1 - h0) / (next - at), left, scale)));
    }
    left -= own;
    at = next;
    h0 = h1;
  }
  return Infinity;
}

/** Phase function for the cosine between the direction of travel and the new direction. */
export function phase(cosine: f32): f32 {
  const g = f(H_FOG_G);
  const d = max<f32>(<f32>1e-6, <f32>1 + g * g - <f32>2 * g * cosine);
  return (<f32>1 - g * g) / (<f32>4 * PI * d * Mathf.sqrt(d));
}

/** Chooses a new direction; its density equals the phase function. */
export function scatterDirection(dx: f32, dy: f32, dz: f32, a: f32, b: f32): void {
  const g = f(H_FOG_G);
  let c: f32;
  if (abs<f32>(g) < <f32>1e-3) {
    c = <f32>1 - <f32>2 * a;
  } else {
    const q = (<f32>1 - g * g) / (<f32>1 - g + <f32>2 * g * a);
    c = (<f32>1 + g * g - q * q) / (<f32>2 * g);
  }
  c = min<f32>(1, max<f32>(-1, c));
  const s = Mathf.sqrt(<f32>1 - c * c);
  const t = <f32>2 * PI * b;
  frameAbout(dx, dy, dz);
  const x = s * Mathf.cos(t);
  const y = s * Mathf.sin(t);
  fogX = tx * x + bx * y + dx * c;
  fogY = ty * x + by * y + dy * c;
  fogZ = tz * x + bz * y + dz * c;
}
