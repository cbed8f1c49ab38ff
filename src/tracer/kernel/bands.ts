/** How much of a layer its bands leave at the place of the present hit. */
import * as L from "./layout";
import {
  byWorld, ownNx, ownNy, ownNz, ownX, ownY, ownZ, placeX, placeY, placeZ, worldNx, worldNy, worldNz, worldX, worldY, worldZ,
} from "./place";
import { mix32 } from "./random";
import { layer } from "./sample";
import { volumeAt } from "./volume";

// Where the present layer's box is looked through, in sheets, and its directions right and up.
export let boxS: f32 = 0;
export let boxT: f32 = 0;
export let boxRx: f32 = 0;
export let boxRy: f32 = 0;
export let boxRz: f32 = 0;
export let boxUx: f32 = 0;
export let boxUy: f32 = 0;
export let boxUz: f32 = 0;
// @ts-ignore: decorator
@inline
function smoothed(from: f32, to: f32, x: f32): f32 {
  const t = min<f32>(1, max<f32>(0, (x - from) / max<f32>(<f32>1e-6, to - from)));
  return t * t * (<f32>3 - <f32>2 * t);
}

// @ts-ignore: decorator
@inline
function cloudCorner(x: i32, y: i32, z: i32, seed: u32): f32 {
  const h = mix32(<u32>x * 0x9e3779b1 ^ (<u32>y * 0x85ebca77 ^ mix32(<u32>z * 0xc2b2ae3d + seed)));
  return <f32>(h >> 8) * <f32>5.9604644775390625e-8;
}

/** Value noise over space. */
function cloud(x: f32, y: f32, z: f32, seed: u32): f32 {
  const x0 = Mathf.floor(x), y0 = Mathf.floor(y), z0 = Mathf.floor(z);
  let a = x - x0, b = y - y0, c = z - z0;
  a = a * a * (<f32>3 - <f32>2 * a);
  b = b * b * (<f32>3 - <f32>2 * b);
  c = c * c * (<f32>3 - <f32>2 * c);
  const i = <i32>x0, j = <i32>y0, k = <i32>z0;
  let low: f32 = 0, high: f32 = 0;
  {
    const p = cloudCorner(i, j, k, seed), q = cloudCorner(i + 1, j, k, seed);
    const r = cloudCorner(i, j + 1, k, seed), s = cloudCorner(i + 1, j + 1, k, seed);
    const near = p + (q - p) * a;
    low = near + (r + (s - r) * a - near) * b;
  }
  {
    const p = cloudCorner(i, j, k + 1, seed), q = cloudCorner(i + 1, j, k + 1, seed);
    const r = cloudCorner(i, j + 1, k + 1, seed), s = cloudCorner(i + 1, j + 1, k + 1, seed);
    const near = p + (q - p) * a;
    high = near + (r + (s - r) * a - near) * b;
  }
  return low + (high - low) * c;
}

/** How much a box leaves at the present place; where it is looked through stays. */
function boxLeaves(band: usize): f32 {
  const x = (byWorld ? worldX : ownX) - load<f32>(band, L.BA_AT);
  const y = (byWorld ? worldY : ownY) - load<f32>(band, L.BA_AT + 4);
  const z = (byWorld ? worldZ : ownZ) - load<f32>(band, L.BA_AT + 8);
  const rx = load<f32>(band, L.BA_RIGHT), ry = load<f32>(band, L.BA_RIGHT + 4), rz = load<f32>(band, L.BA_RIGHT + 8);
  const s = x * rx + y * ry + z * rz;
  if (abs(s) >= 1) return 0;
  const ux = load<f32>(band, L.BA_UP), uy = load<f32>(band, L.BA_UP + 4), uz = load<f32>(band, L.BA_UP + 8);
  const t = x * ux + y * uy + z * uz;
  if (abs(t) >= 1) return 0;
  // Along the look.
  let fx = uy * rz - uz * ry, fy = uz * rx - ux * rz, fz = ux * ry - uy * rx;
  const k = <f32>1 / Mathf.sqrt(fx * fx + fy * fy + fz * fz);
  fx *= k;
  fy *= k;
  fz *= k;
  const deep = abs((x * fx + y * fy + z * fz) * load<f32>(band, L.BA_DEEP));
  if (deep >= 1) return 0;
  const fades = load<f32>(band, L.BA_SOFT);
  let left = <f32>1 - smoothed(<f32>L.BOX_DEEP, 1, deep);
  if (fades > 0) {
    const n = byWorld ? worldNx * fx + worldNy * fy + worldNz * fz : ownNx * fx + ownNy * fy + ownNz * fz;
    left *= smoothed(0, <f32>L.BOX_FACES, -n);
  }
  const from = <f32>1 - abs(fades);
  left *= (<f32>1 - smoothed(from, 1, abs(s))) * (<f32>1 - smoothed(from, 1, abs(t)));
  boxS = <f32>0.5 + <f32>0.5 * s;
  boxT = <f32>0.5 - <f32>0.5 * t;
  const kr = <f32>1 / Mathf.sqrt(rx * rx + ry * ry + rz * rz), ku = <f32>1 / Mathf.sqrt(ux * ux + uy * uy + uz * uz);
  boxRx = rx * kr;
  boxRy = ry * kr;
  boxRz = rz * kr;
  boxUx = ux * ku;
  boxUy = uy * ku;
  boxUz = uz * ku;
  return left;
}

/** How much of the layer its bands leave at the present place, which leans so. */
export function bandsLeave(lean: f32): f32 {
  let left = load<f32>(layer, L.LY_SHARE);
  const count = <u32>load<f32>(layer, L.LY_BAND_COUNT);
  for (let n: u32 = 0; n < count && left > 0; n++) {
    const band = layer + L.LY_BANDS + <usize>n * L.LY_BAND_BYTES;
    const quantity = <u32>load<f32>(band);
    if (quantity == L.OF_BOX) {
      left *= boxLeaves(band);
      continue;
    }
    let q = lean;
    if (quantity == L.OF_HEIGHT) q = placeY + load<f32>(layer, L.LY_OFFSET + 4);
    else if (quantity == L.OF_CLOUDS) {
      const k = <f32>1 / load<f32>(band, L.BA_SCALE);
      const seed = <u32>load<f32>(band, L.BA_SEED);
      const x = (placeX + load<f32>(layer, L.LY_OFFSET)) * k;
      const y = (placeY + load<f32>(layer, L.LY_OFFSET + 4)) * k * load<f32>(band, L.BA_UPRIGHT);
      const z = (placeZ + load<f32>(layer, L.LY_OFFSET + 8)) * k;
      q = <f32>0.5 * cloud(x, y, z, seed) + <f32>0.3 * cloud(x * <f32>2.13, y * <f32>2.13, z * <f32>2.13, seed + 1) +
        <f32>0.2 * cloud(x * <f32>4.7, y * <f32>4.7, z * <f32>4.7, seed + 2);
    } else if (quantity == L.OF_VOLUME) {
      const k = load<f32>(band, L.BA_SCALE);
      const world = load<f32>(band, L.BA_WORLD) != 0;
      q = volumeAt(
        <usize>load<u32>(band, L.BA_VOLUME),
        ((world ? worldX : ownX) + load<f32>(band, L.BA_OFFSET)) * k,
        ((world ? worldY : ownY) + load<f32>(band, L.BA_OFFSET + 4)) * k,
        ((world ? worldZ : ownZ) + load<f32>(band, L.BA_OFFSET + 8)) * k,
        load<f32>(band, L.BA_SEED),
      );
    }
    left *= smoothed(load<f32>(band, 4), load<f32>(band, 8), q) *
      (<f32>1 - smoothed(load<f32>(band, 12), load<f32>(band, 16), q));
  }
  return left;
}
