/**
 * Still water: a level plane with ripples. Ripples longer than the view of the path resolves tilt the normal; the rest
 * are their slopes' statistics, as roughness of a dielectric interface (after Bruneton et al. 2010). Patches of wind
 * ruffle some parts and leave others as a mirror.
 */
import {
  H_WATER_ALPHA, H_WAVES, H_WAVE_COUNT, H_WORLD, W_KX, W_KZ, W_LENGTH, W_PHASE, W_SIZE, W_SLOPE,
} from "./layout";
import { mix32 } from "./random";
import { f, PI, sq, u } from "./scene";

export let slopeX: f32 = 0;
export let slopeZ: f32 = 0;
export let waterAlpha: f32 = 0;

export const WATER_INDEX: f32 = 1.33;

function corner(x: i32, y: i32): f32 {
  return <f32>(mix32(<u32>x ^ mix32(<u32>y + 0x51ed270b)) >> 8) * <f32>5.960464477539063e-8;
}

export function valueNoise(x: f32, y: f32): f32 {
  const x0 = Mathf.floor(x);
  const y0 = Mathf.floor(y);
  let a = x - x0;
  let b = y - y0;
  a = a * a * (<f32>3 - <f32>2 * a);
  b = b * b * (<f32>3 - <f32>2 * b);
  const i = <i32>x0;
  const j = <i32>y0;
  return (corner(i, j) * (<f32>1 - a) + corner(i + 1, j) * a) * (<f32>1 - b) +
    (corner(i, j + 1) * (<f32>1 - a) + corner(i + 1, j + 1) * a) * b;
}

/** How much the wind ruffles a place, 0.15 to 1. World coordinates in metres. */
function ruffle(x: f32, z: f32): f32 {
  const n = <f32>0.65 * valueNoise(x / <f32>34, z / <f32>9) +
    <f32>0.35 * valueNoise(x / <f32>8 + <f32>31.7, z / <f32>2.6);
  const t = min<f32>(1, max<f32>(0, (n - <f32>0.38) / <f32>0.3));
  return <f32>0.15 + <f32>0.85 * t * t * (<f32>3 - <f32>2 * t);
}

/** Slopes and remaining roughness at a place (relative to the origin), for a view of the given width in metres. */
export function ripplesAt(x: f32, z: f32, width: f32): void {
  slopeX = 0;
  slopeZ = 0;
  const least = f(H_WATER_ALPHA);
  let rest: f32 = least * least;
  const count = <i32>u(H_WAVE_COUNT);
  if (count > 0) {
    const amount = width > 40 ? <f32>0.55 : ruffle(x + f(H_WORLD), z + f(H_WORLD + 4));
    let at = <usize>u(H_WAVES);
    for (let i = 0; i < count; i++, at += W_SIZE) {
      // Patches are of what a gust raises at once, not of waves that have come from afar.
      const s = load<f32>(at, W_SLOPE) * (load<f32>(at, W_LENGTH) > 1 ? <f32>1 : amount);
      const ratio = (<f32>2 * width) / load<f32>(at, W_LENGTH);
      const w: f32 = ratio >= 1 ? 0 : ratio <= <f32>0.25 ? 1 : (<f32>1 - ratio) / <f32>0.75;
      if (w > 0) {
        const kx = load<f32>(at, W_KX);
        const kz = load<f32>(at, W_KZ);
        const c = s * w * Mathf.cos(kx * x + kz * z + load<f32>(at, W_PHASE));
        const k = load<f32>(at, W_LENGTH) * <f32>0.15915494;
        slopeX += c * kx * k;
        slopeZ += c * kz * k;
      }
      rest += s * s * (<f32>1 - w * w);
    }
  }
  // A GGX lobe of the same slope variance: alpha² = σx² + σz², and Σ s²/2 is that sum.
  waterAlpha = Mathf.sqrt(min<f32>(<f32>0.25, <f32>0.5 * (rest - least * least) + least * least));
}

/** Exact reflectance of the interface; ratio is the index outside over the index inside. */
export function fresnel(cosine: f32, ratio: f32): f32 {
  const s2 = ratio * ratio * (<f32>1 - cosine * cosine);
  if (s2 >= 1) return 1;
  const ct = Mathf.sqrt(<f32>1 - s2);
  const a = (ratio * cosine - ct) / (ratio * cosine + ct);
  const b = (cosine - ratio * ct) / (cosine + ratio * ct);
  return <f32>0.5 * (a * a + b * b);
}

/** Light from under water as a share of light from above it, for the choice between the two. */
const BED_SHARE: f32 = 0.25;

/**
 * Chance of following the mirrored ray at the water: its share of the light, where the bed is taken to be darker
 * than the sky.
 */
// @ts-ignore: decorator
@inline
export function mirrorChance(F: f32): f32 {
  return F / (F + (<f32>1 - F) * BED_SHARE);
}

let viewX: f32 = 0;
let viewY: f32 = 0;
let viewZ: f32 = 1;
let viewLambda: f32 = 0;
let a2: f32 = 0;

export let waterValue: f32 = 0;
export let waterPdf: f32 = 0;

// @ts-ignore: decorator
@inline
function lambda(z: f32): f32 {
  const z2 = z * z;
  return <f32>0.5 * (Mathf.sqrt(<f32>1 + (a2 * (<f32>1 - z2)) / max<f32>(<f32>1e-9, z2)) - <f32>1);
}

/**
 * Takes the direction towards the viewer in the frame of the ripples' normal, z up, above water; roughness as last
 * found.
 */
export function viewWater(x: f32, y: f32, z: f32): void {
  viewX = x;
  viewY = y;
  viewZ = z;
  a2 = waterAlpha * waterAlpha;
  viewLambda = lambda(z);
}

/**
 * Value times cosine of light mirrored towards the viewer from a direction, and the density by which the path finds
 * it.
 */
export function evaluateWater(ix: f32, iy: f32, iz: f32): void {
  let hx = viewX + ix;
  let hy = viewY + iy;
  let hz = viewZ + iz;
  const l = <f32>1 / Mathf.sqrt(max<f32>(<f32>1e-20, hx * hx + hy * hy + hz * hz));
  hx *= l;
  hy *= l;
  hz *= l;
  const d = a2 / (PI * sq(sq(hz) * (a2 - <f32>1) + <f32>1));
  const F = fresnel(viewX * hx + viewY * hy + viewZ * hz, <f32>1 / WATER_INDEX);
  waterValue = (F * d) / ((<f32>1 + viewLambda + lambda(iz)) * <f32>4 * viewZ);
  waterPdf = (mirrorChance(F) * d) / ((<f32>1 + viewLambda) * <f32>4 * viewZ);
}

/** What the ripples' own shadow leaves of a direction, for a path that chose it. */
export function waterShadow(z: f32): f32 {
  return (<f32>1 + viewLambda) / (<f32>1 + viewLambda + lambda(z));
}
