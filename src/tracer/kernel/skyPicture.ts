/** A picture of all directions around in place of the computed sky. The same formulas as `core/air/skyPicture.ts`. */
import {
  H_GRID, H_NODES, H_NODES_H, H_NODES_W, H_PICTURE, H_PICTURE_GAIN, H_PICTURE_H, H_PICTURE_SATURATION,
  H_PICTURE_TURN, H_PICTURE_W, H_RING, RING,
} from "./layout";
import { f, luminance, PI, u } from "./scene";

export let pictureR: f32 = 0;
export let pictureG: f32 = 0;
export let pictureB: f32 = 0;
/** A chosen direction and its density per steradian. */
export let chosenX: f32 = 0;
export let chosenY: f32 = 0;
export let chosenZ: f32 = 0;
export let chosenPdf: f32 = 0;

/** Part of the picture's width at a heading, in [0, 1). */
// @ts-ignore: decorator
@inline
function acrossOf(dx: f32, dz: f32): f32 {
  const a = Mathf.atan2(dx, -dz) / (<f32>2 * PI) + <f32>0.5 - f(H_PICTURE_TURN);
  return min<f32>(<f32>0.99999994, a - Mathf.floor(a));
}

// @ts-ignore: decorator
@inline
function downOf(dy: f32): f32 {
  return Mathf.acos(min<f32>(1, max<f32>(-1, dy))) / PI;
}

/** Adds a share of a texel. Exponents are taken apart as the float that they are. */
// @ts-ignore: decorator
@inline
function addTexel(at: usize, share: f32): void {
  const t = load<u32>(at);
  const k = reinterpret<f32>(((t >> 27) + (127 - 24)) << 23) * share;
  pictureR += <f32>(t & 511) * k;
  pictureG += <f32>((t >> 9) & 511) * k;
  pictureB += <f32>((t >> 18) & 511) * k;
}

/** The picture in a unit direction, between its texels. */
export function pictureIn(dx: f32, dy: f32, dz: f32): void {
  const w = <i32>u(H_PICTURE_W);
  const h = <i32>u(H_PICTURE_H);
  const x = acrossOf(dx, dz) * <f32>w - <f32>0.5;
  const y = min<f32>(<f32>(h - 1), max<f32>(0, downOf(dy) * <f32>h - <f32>0.5));
  const left = Mathf.floor(x);
  const top = min<i32>(<i32>y, max<i32>(0, h - 2));
  const fx = x - left;
  const fy = y - <f32>top;
  const x0 = left < 0 ? w - 1 : min<i32>(w - 1, <i32>left);
  const x1 = x0 + 1 == w ? 0 : x0 + 1;
  const at = <usize>u(H_PICTURE) + <usize>(top * w) * 4;
  const below = top + 1 < h ? <usize>w * 4 : 0;
  pictureR = 0;
  pictureG = 0;
  pictureB = 0;
  addTexel(at + <usize>x0 * 4, (<f32>1 - fx) * (<f32>1 - fy));
  addTexel(at + <usize>x1 * 4, fx * (<f32>1 - fy));
  addTexel(at + below + <usize>x0 * 4, (<f32>1 - fx) * fy);
  addTexel(at + below + <usize>x1 * 4, fx * fy);
  tinted();
}

/** Colour that the air takes on towards a heading: the picture just over its horizon. */
export function ringIn(dx: f32, dz: f32): void {
  const x = acrossOf(dx, dz) * <f32>RING - <f32>0.5;
  const left = Mathf.floor(x);
  const fx = x - left;
  const x0 = left < 0 ? RING - 1 : min<i32>(RING - 1, <i32>left);
  const a = <usize>u(H_RING) + <usize>x0 * 12;
  const b = <usize>u(H_RING) + <usize>(x0 + 1 == RING ? 0 : x0 + 1) * 12;
  pictureR = load<f32>(a) * (<f32>1 - fx) + load<f32>(b) * fx;
  pictureG = load<f32>(a, 4) * (<f32>1 - fx) + load<f32>(b, 4) * fx;
  pictureB = load<f32>(a, 8) * (<f32>1 - fx) + load<f32>(b, 8) * fx;
  tinted();
}

/** Brings what was looked up to cd/m², with the saturation that is wanted. */
// @ts-ignore: decorator
@inline
function tinted(): void {
  const gain = f(H_PICTURE_GAIN);
  const s = f(H_PICTURE_SATURATION);
  const grey = luminance(pictureR, pictureG, pictureB);
  pictureR = max<f32>(0, grey + (pictureR - grey) * s) * gain;
  pictureG = max<f32>(0, grey + (pictureG - grey) * s) * gain;
  pictureB = max<f32>(0, grey + (pictureB - grey) * s) * gain;
}

let n00: f32 = 0;
let n10: f32 = 0;
let n01: f32 = 0;
let n11: f32 = 0;
/** Where the row of cells under way begins and ends, in parts of the picture's height. */
let rowTop: f32 = 0;
let rowLow: f32 = 0;
let share: f32 = 0;

/** Takes the cell k, i: its nodes and its share of all. */
function takeCell(k: i32, i: i32): void {
  const w = <i32>u(H_NODES_W);
  const h = <i32>u(H_NODES_H);
  const next = i + 1 == w ? 0 : i + 1;
  const top = <usize>u(H_NODES) + <usize>(max<i32>(0, k - 1) * w) * 4;
  const low = <usize>u(H_NODES) + <usize>(min<i32>(h - 1, k) * w) * 4;
  n00 = load<f32>(top + <usize>i * 4);
  n10 = load<f32>(top + <usize>next * 4);
  n01 = load<f32>(low + <usize>i * 4);
  n11 = load<f32>(low + <usize>next * 4);
  rowTop = max<f32>(0, (<f32>k - <f32>0.5) / <f32>h);
  rowLow = min<f32>(1, (<f32>k + <f32>0.5) / <f32>h);
  const sums = <usize>u(H_GRID);
  const row = load<f32>(sums + <usize>k * 4) - (k > 0 ? load<f32>(sums + <usize>k * 4 - 4) : 0);
  const at = sums + <usize>(h + 1 + k * w + i) * 4;
  share = row * (load<f32>(at) - (i > 0 ? load<f32>(at - 4) : 0));
}

/** Density per steradian at a place in the cell that was taken. */
function density(x: f32, y: f32, level: f32): f32 {
  const here = (n00 * (<f32>1 - x) + n10 * x) * (<f32>1 - y) + (n01 * (<f32>1 - x) + n11 * x) * y;
  const mean = <f32>0.25 * (n00 + n10 + n01 + n11);
  return (share * here * <f32>u(H_NODES_W)) /
    (mean * (rowLow - rowTop) * <f32>2 * PI * PI * max<f32>(<f32>1e-5, level));
}

/** Density by which `choosePicture` picks a direction, per steradian. */
export function picturePdf(dx: f32, dy: f32, dz: f32): f32 {
  const w = <i32>u(H_NODES_W);
  const h = <i32>u(H_NODES_H);
  const down = downOf(dy);
  const x = acrossOf(dx, dz) * <f32>w - <f32>0.5;
  const left = Mathf.floor(x);
  const k = min<i32>(h, <i32>(down * <f32>h + <f32>0.5));
  takeCell(k, left < 0 ? w - 1 : min<i32>(w - 1, <i32>left));
  const y = min<f32>(1, max<f32>(0, (down - rowTop) / (rowLow - rowTop)));
  return density(x - left, y, Mathf.sqrt(max<f32>(0, <f32>1 - dy * dy)));
}

/** First index of a running sum that is above x. */
function above(at: usize, count: i32, x: f32): i32 {
  let low = 0;
  let high = count - 1;
  while (low < high) {
    const m = (low + high) >> 1;
    if (load<f32>(at + <usize>m * 4) > x) high = m;
    else low = m + 1;
  }
  return low;
}

/** Place in [0, 1) by a density that runs straight from a to b. */
function along(a: f32, b: f32, x: f32): f32 {
  return min<f32>(<f32>0.9999999,
    (x * (a + b)) / max<f32>(<f32>1e-30, a + Mathf.sqrt(a * a * (<f32>1 - x) + b * b * x)));
}

/** Chooses a direction by the picture's luminance: a row of cells, a cell in it, a place in the cell. */
export function choosePicture(a: f32, b: f32): void {
  const w = <i32>u(H_NODES_W);
  const h = <i32>u(H_NODES_H);
  const sums = <usize>u(H_GRID);
  const k = above(sums, h + 1, a);
  const k0: f32 = k > 0 ? load<f32>(sums + <usize>k * 4 - 4) : 0;
  const fa = min<f32>(<f32>0.9999999, (a - k0) / max<f32>(<f32>1e-12, load<f32>(sums + <usize>k * 4) - k0));
  const rowAt = sums + <usize>(h + 1 + k * w) * 4;
  const i = above(rowAt, w, b);
  const i0: f32 = i > 0 ? load<f32>(rowAt + <usize>i * 4 - 4) : 0;
  const fb = min<f32>(<f32>0.9999999, (b - i0) / max<f32>(<f32>1e-12, load<f32>(rowAt + <usize>i * 4) - i0));
  takeCell(k, i);
  const x = along(n00 + n01, n10 + n11, fb);
  const y = along(n00 * (<f32>1 - x) + n10 * x, n01 * (<f32>1 - x) + n11 * x, fa);
  const down = (rowTop + y * (rowLow - rowTop)) * PI;
  const turn = ((<f32>i + <f32>0.5 + x) / <f32>w - <f32>0.5 + f(H_PICTURE_TURN)) * <f32>2 * PI;
  const level = Mathf.sin(down);
  chosenX = Mathf.sin(turn) * level;
  chosenY = Mathf.cos(down);
  chosenZ = -Mathf.cos(turn) * level;
  chosenPdf = density(x, y, level);
}
