/**
 * Height fog: distances are chosen by inverting its closed form, transmittance is exact, in float64 because the two
 * ends of a level ray cancel. Scattering after Henyey and Greenstein (1941).
 */
import { H_FOG_BASE, H_FOG_G, H_FOG_SCALE, H_FOG_SIGMA } from "./layout";
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

/** Optical depth from a height along a direction over a distance (Infinity allowed). */
export function fogDepth(oy: f32, dy: f32, distance: f32): f64 {
  const sigma = load<f64>(scene + H_FOG_SIGMA);
  const scale = load<f64>(scene + H_FOG_SCALE);
  const t = <f64>distance;
  if (scale == 0) return sigma * t;
  const h = <f64>oy - load<f64>(scene + H_FOG_BASE);
  const rise = <f64>dy * t;
  if (abs<f64>(rise) < 1e-4 * scale) return sigma * t * density(h + 0.5 * rise, scale);
  if (t == Infinity) return dy > 0 ? (sigma * (scale - column(h, scale))) / <f64>dy : Infinity;
  return (sigma * (column(h + rise, scale) - column(h, scale))) / <f64>dy;
}

/** Extinction per metre at a height. */
export function fogThick(y: f32): f64 {
  const scale = load<f64>(scene + H_FOG_SCALE);
  return load<f64>(scene + H_FOG_SIGMA) * (scale == 0 ? 1 : density(<f64>y - load<f64>(scene + H_FOG_BASE), scale));
}

/** Distance at which the optical depth is reached, Infinity when the fog ends before. */
export function fogReach(oy: f32, dy: f32, depth: f64): f32 {
  const sigma = load<f64>(scene + H_FOG_SIGMA);
  const scale = load<f64>(scene + H_FOG_SCALE);
  if (scale == 0) return <f32>(depth / sigma);
  const h = <f64>oy - load<f64>(scene + H_FOG_BASE);
  const level = depth / (sigma * density(h, scale));
  if (abs<f64>(<f64>dy * level) < 1e-4 * scale) return <f32>level;
  const c = column(h, scale) + (depth * <f64>dy) / sigma;
  if (c >= scale) return Infinity;
  const y = c <= 0 ? c : -scale * Math.log(1 - c / scale);
  return <f32>max<f64>(0, (y - h) / <f64>dy);
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
