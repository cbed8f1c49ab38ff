/**
 * Light from outside: clear sky and high cloud, or a sky picture, and the sun's disc. The same formulas as
 * `core/air/dome.ts`.
 */
import {
  CLOUD_N, FLAG_SKY_CONSTANT, FLAG_SUN, GRID_H, GRID_W, H_AIR, H_CLOUD, H_CLOUD_AMBIENT, H_CLOUD_SUN, H_GRID, H_SKY,
  H_SKY_CONSTANT, H_SKY_DIRECTION,
  H_PICTURE, H_SUN_COS, H_SUN_DIRECTION, H_SUN_LUX, SKY_H, SKY_W,
} from "./layout";
import {
  chosenPdf, chosenX, chosenY, chosenZ, choosePicture, pictureB, pictureG, pictureIn, picturePdf, pictureR, ringIn,
} from "./skyPicture";
import { bx, by, bz, f, flag, frameAbout, PI, tx, ty, tz, u } from "./scene";

export let skyR: f32 = 0;
export let skyG: f32 = 0;
export let skyB: f32 = 0;
/** Transmittance last taken. */
export let leftR: f32 = 1;
export let leftG: f32 = 1;
export let leftB: f32 = 1;
/** A chosen direction and its density per steradian. */
export let toX: f32 = 0;
export let toY: f32 = 0;
export let toZ: f32 = 0;
export let toPdf: f32 = 0;

const CLOUD_KM: f32 = 7;
const TILE_KM: f32 = 48;

function cloudAt(x: i32, y: i32): f32 {
  return load<f32>(u(H_CLOUD) + <usize>(((y & (CLOUD_N - 1)) * CLOUD_N + (x & (CLOUD_N - 1))) * 4));
}

function cloudDepth(dx: f32, dy: f32, dz: f32): f32 {
  if (dy <= <f32>0.005) return 0;
  const along = CLOUD_KM / dy / TILE_KM;
  const a = dx * along * <f32>CLOUD_N;
  const b = dz * along * <f32>CLOUD_N;
  const x = <i32>Mathf.floor(a);
  const y = <i32>Mathf.floor(b);
  const fx = a - <f32>x;
  const fy = b - <f32>y;
  const depth =
    (cloudAt(x, y) * (<f32>1 - fx) + cloudAt(x + 1, y) * fx) * (<f32>1 - fy) +
      (cloudAt(x, y + 1) * (<f32>1 - fx) + cloudAt(x + 1, y + 1) * fx) * fy;
  return depth * min<f32>(6, <f32>1 / dy) * Mathf.exp(-CLOUD_KM / dy / <f32>120);
}

function lobe(g: f32, c: f32): f32 {
  const d = <f32>1 + g * g - <f32>2 * g * c;
  return (<f32>1 - g * g) / (<f32>4 * PI * d * Mathf.sqrt(d));
}

function takePicture(): void {
  skyR = pictureR;
  skyG = pictureG;
  skyB = pictureB;
}

/** Sky and cloud in a unit direction, without the sun's disc. */
export function skyIn(dx: f32, dy: f32, dz: f32): void {
  if (flag(FLAG_SKY_CONSTANT)) {
    skyR = f(H_SKY_CONSTANT);
    skyG = f(H_SKY_CONSTANT + 4);
    skyB = f(H_SKY_CONSTANT + 8);
    return;
  }
  if (u(H_PICTURE) != 0) {
    pictureIn(dx, dy, dz);
    takePicture();
    return;
  }
  const sx = f(H_SKY_DIRECTION);
  const sy = f(H_SKY_DIRECTION + 4);
  const sz = f(H_SKY_DIRECTION + 8);
  const v = Mathf.sqrt(max<f32>(0, Mathf.asin(min<f32>(1, max<f32>(-1, dy))) / (<f32>0.5 * PI))) * <f32>(SKY_H - 1);
  const turn = abs<f32>(Mathf.atan2(dx * sz - dz * sx, dx * sx + dz * sz));
  const w = min<f32>(1, turn / PI) * <f32>(SKY_W - 1);
  const x = min<i32>(SKY_W - 2, <i32>w);
  const y = min<i32>(SKY_H - 2, <i32>v);
  const fx = w - <f32>x;
  const fy = v - <f32>y;
  const at = u(H_SKY) + <usize>((y * SKY_W + x) * 12);
  const row: usize = SKY_W * 12;
  const a = (<f32>1 - fx) * (<f32>1 - fy);
  const b = fx * (<f32>1 - fy);
  const c = (<f32>1 - fx) * fy;
  const e = fx * fy;
  skyR = load<f32>(at) * a + load<f32>(at, 12) * b + load<f32>(at + row) * c + load<f32>(at + row, 12) * e;
  skyG = load<f32>(at, 4) * a + load<f32>(at, 16) * b + load<f32>(at + row, 4) * c + load<f32>(at + row, 16) * e;
  skyB = load<f32>(at, 8) * a + load<f32>(at, 20) * b + load<f32>(at + row, 8) * c + load<f32>(at + row, 20) * e;
  const depth = cloudDepth(dx, dy, dz);
  if (depth > 0) {
    const opacity = <f32>1 - Mathf.exp(-depth);
    const cosine = dx * sx + dy * sy + dz * sz;
    const phase = <f32>0.45 * lobe(<f32>0.82, cosine) + <f32>0.55 * lobe(<f32>0.12, cosine);
    const k = <f32>1 - opacity;
    skyR = skyR * k + opacity * (f(H_CLOUD_SUN) * phase + f(H_CLOUD_AMBIENT));
    skyG = skyG * k + opacity * (f(H_CLOUD_SUN + 4) * phase + f(H_CLOUD_AMBIENT + 4));
    skyB = skyB * k + opacity * (f(H_CLOUD_SUN + 8) * phase + f(H_CLOUD_AMBIENT + 8));
  }
}

/** Colour that the air itself takes on towards a direction: the sky just over the horizon there. */
export function hazeIn(dx: f32, dy: f32, dz: f32): void {
  if (u(H_PICTURE) != 0) {
    ringIn(dx, dz);
    takePicture();
    return;
  }
  const y: f32 = 0.012;
  const level = Mathf.sqrt(dx * dx + dz * dz);
  if (level < <f32>1e-6) {
    skyIn(0, 1, 0);
    return;
  }
  const k = <f32>0.999928 / level;
  skyIn(dx * k, y, dz * k);
}

/** Transmittance along a distance by the extinction (three f32) at an address, into leftR, leftG, leftB. */
export function transmittanceAlong(extinction: usize, distance: f32): void {
  leftR = Mathf.exp(-load<f32>(extinction) * distance);
  leftG = Mathf.exp(-load<f32>(extinction, 4) * distance);
  leftB = Mathf.exp(-load<f32>(extinction, 8) * distance);
}

// @ts-ignore: decorator
@inline
export function sunPdf(): f32 {
  return <f32>1 / (<f32>2 * PI * (<f32>1 - f(H_SUN_COS)));
}

/** Whether a unit direction ends on the sun's disc. */
export function onSun(dx: f32, dy: f32, dz: f32): bool {
  return flag(FLAG_SUN) && dx * f(H_SUN_DIRECTION) + dy * f(H_SUN_DIRECTION + 4) +
    dz * f(H_SUN_DIRECTION + 8) >= f(H_SUN_COS);
}

/** Chooses a direction on the sun's disc. */
export function chooseSun(a: f32, b: f32): void {
  const c = <f32>1 - a * (<f32>1 - f(H_SUN_COS));
  const s = Mathf.sqrt(max<f32>(0, <f32>1 - c * c));
  const t = b * <f32>2 * PI;
  const x = s * Mathf.cos(t);
  const y = s * Mathf.sin(t);
  const nx = f(H_SUN_DIRECTION);
  const ny = f(H_SUN_DIRECTION + 4);
  const nz = f(H_SUN_DIRECTION + 8);
  frameAbout(nx, ny, nz);
  toX = tx * x + bx * y + nx * c;
  toY = ty * x + by * y + ny * c;
  toZ = tz * x + bz * y + nz * c;
  toPdf = sunPdf();
}

/** Luminance of the disc, so that it gives the stated illuminance. Channel offset 0, 4 or 8. */
// @ts-ignore: decorator
@inline
export function sunRadiance(channel: usize): f32 {
  return f(H_SUN_LUX + channel) * sunPdf();
}

/** Density by which `chooseSky` picks a direction, per steradian. 0 below the horizon of a computed sky. */
export function skyPdf(dx: f32, dy: f32, dz: f32): f32 {
  if (u(H_PICTURE) != 0) return picturePdf(dx, dy, dz);
  if (dy <= 0) return 0;
  const e = Mathf.asin(min<f32>(1, dy));
  const v = Mathf.sqrt(e / (<f32>0.5 * PI));
  const j = min<i32>(GRID_H - 1, <i32>(v * <f32>GRID_H));
  const a = Mathf.atan2(dx, -dz) / (<f32>2 * PI) + <f32>0.5;
  const i = min<i32>(GRID_W - 1, <i32>(a * <f32>GRID_W));
  const level = Mathf.sqrt(max<f32>(<f32>1e-8, <f32>1 - dy * dy));
  return cellShare(j, i) * <f32>(GRID_W * GRID_H) / (<f32>2 * PI * PI * v * level);
}

function cellShare(j: i32, i: i32): f32 {
  const grid = <usize>u(H_GRID);
  const row = load<f32>(grid + j * 4) - (j > 0 ? load<f32>(grid + (j - 1) * 4) : 0);
  const at = grid + (GRID_H + j * GRID_W + i) * 4;
  return row * (load<f32>(at) - (i > 0 ? load<f32>(at - 4) : 0));
}

/** First index of a running sum that is above x. */
function above(at: usize, count: i32, x: f32): i32 {
  let low = 0;
  let high = count - 1;
  while (low < high) {
    const m = (low + high) >> 1;
    if (load<f32>(at + m * 4) > x) high = m;
    else low = m + 1;
  }
  return low;
}

/** Chooses a direction towards the sky by its luminance. */
export function chooseSky(a: f32, b: f32): void {
  if (u(H_PICTURE) != 0) {
    choosePicture(a, b);
    toX = chosenX;
    toY = chosenY;
    toZ = chosenZ;
    toPdf = chosenPdf;
    return;
  }
  const grid = <usize>u(H_GRID);
  const j = above(grid, GRID_H, a);
  const j0: f32 = j > 0 ? load<f32>(grid + (j - 1) * 4) : 0;
  const fa = (a - j0) / max<f32>(<f32>1e-12, load<f32>(grid + j * 4) - j0);
  const rowAt = grid + (GRID_H + j * GRID_W) * 4;
  const i = above(rowAt, GRID_W, b);
  const i0: f32 = i > 0 ? load<f32>(rowAt + (i - 1) * 4) : 0;
  const fb = (b - i0) / max<f32>(<f32>1e-12, load<f32>(rowAt + i * 4) - i0);
  const v = max<f32>(<f32>1e-4, (<f32>j + min<f32>(<f32>0.9999, fa)) / <f32>GRID_H);
  const e = v * v * <f32>0.5 * PI;
  const t = ((<f32>i + min<f32>(<f32>0.9999, fb)) / <f32>GRID_W) * <f32>2 * PI - PI;
  const level = max<f32>(<f32>1e-4, Mathf.cos(e));
  toX = Mathf.sin(t) * level;
  toY = Mathf.sin(e);
  toZ = -Mathf.cos(t) * level;
  toPdf = cellShare(j, i) * <f32>(GRID_W * GRID_H) / (<f32>2 * PI * PI * v * level);
}
