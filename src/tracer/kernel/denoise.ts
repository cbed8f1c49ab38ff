/**
 * Takes noise out of a band of a picture: non-local means on the two halves of the samples (Buades et al. 2005;
 * Rousselle
 * et al. 2012, 2013). Each half is averaged with weights found in the other, so that no error weighs itself. Patches of
 * 3 × 3 are compared within their known variance; what the first surface shows (its colour, its facing, its distance)
 * closes the weights over edges. Weights are the same for all colours of a pixel, so hues keep.
 *
 * Measured at 480 × 258 and 480 × 320 against 1,024 and 512 samples. Patches of 7 × 7 and 5 × 5 were 10 and 2 % worse.
 * Tried without gain: a first-order regression on colour, facing and depth with the same weights (Bitterli et al.
 * 2016: 3 %
 * nearer at three times the cost; with weights from the residuals of a first fit far worse), the same on what a wide
 * regression leaves over (a quarter worse), pixels of outlines put together from the pieces that lie in them by
 * their shares (worse:
 * light changes within a piece), a share of the picture as traced where the halves say it is nearer (1 %). Samples
 * sorted into up to four layers of like surfaces in each pixel would gain a fifth, at twice the memory of all prints.
 *
 * Planes are f32, rows of `stride` (a multiple of 4), a border of {@link BORDER} on all sides filled by the caller.
 */
import {
  D_BORDER as BORDER, D_NEARNESS, D_NORMAL_VARIANCE, D_OUT, D_PATCH as PATCH, D_ROWS as ROWS, D_SURFACE, D_VARIANCE,
} from "./layout";
import { expMinus } from "./simd";

const PATCH_SIDE: i32 = PATCH + PATCH + 1;
const PATCH_SHARE: f32 = <f32>1 / <f32>(PATCH_SIDE * PATCH_SIDE);

// Tolerances, found on prints of the demo shot; see docs/how-a-picture-is-made.md.
const K2: f32 = 0.1;
/** Weights below this are none: a very bright neighbour would shine through the smallest. */
const LEAST: f32 = 0.02;
/** What the search loses of its weights at its rim. */
const FADE: f32 = 0.6;
const COLOUR_TAU: f32 = 0.0009;
const NORMAL_TAU: f32 = 0.004;
const DEPTH_TAU: f32 = 0.0016;

let base: usize = 0;
let planeBytes: usize = 0;
let stride: i32 = 0;

// @ts-ignore: decorator
@inline
function plane(k: i32): usize {
  return base + planeBytes * <usize>k;
}

// @ts-ignore: decorator
@inline
function weight(distance: v128): v128 {
  return f32x4.pmax(f32x4.splat(0), f32x4.sub(expMinus(distance), f32x4.splat(LEAST)));
}

/** Distance of the colours at p and q = p + by, from one half: over the noise that both are known to have. */
// @ts-ignore: decorator
@inline
function colourDistance(half: i32, p: usize, by: usize): v128 {
  let over = f32x4.splat(0);
  let under = f32x4.splat(1e-12);
  for (let c = 0; c < 3; c++) {
    const a = plane(half + c) + p;
    const v = plane(D_VARIANCE + c) + p;
    const d = f32x4.sub(v128.load(a), v128.load(a + by));
    const vp = v128.load(v);
    const vq = v128.load(v + by);
    over = f32x4.add(over, f32x4.sub(f32x4.mul(d, d), f32x4.add(vp, f32x4.pmin(vp, vq))));
    under = f32x4.add(under, f32x4.add(vp, vq));
  }
  return f32x4.div(over, f32x4.mul(under, f32x4.splat(K2)));
}

/** How much the first surfaces at p and q differ, in squares of what still counts as alike. */
// @ts-ignore: decorator
@inline
function surfaceDistance(p: usize, by: usize): v128 {
  let colour = f32x4.splat(0);
  let facing = f32x4.splat(0);
  for (let c = 0; c < 3; c++) {
    const a = plane(D_SURFACE + c) + p;
    const n = plane(D_SURFACE + 3 + c) + p;
    const da = f32x4.sub(v128.load(a), v128.load(a + by));
    const dn = f32x4.sub(v128.load(n), v128.load(n + by));
    colour = f32x4.add(colour, f32x4.mul(da, da));
    facing = f32x4.add(facing, f32x4.mul(dn, dn));
  }
  const spread = plane(D_NORMAL_VARIANCE) + p;
  const loose = f32x4.add(v128.load(spread), v128.load(spread + by));
  const near = plane(D_NEARNESS) + p;
  const z = v128.load(near);
  const y = v128.load(near + by);
  const dz = f32x4.sub(z, y);
  const most = f32x4.pmax(z, y);
  const depth = f32x4.div(f32x4.mul(dz, dz),
    f32x4.add(f32x4.mul(f32x4.mul(most, most), f32x4.splat(DEPTH_TAU)), f32x4.splat(1e-12)));
  const turned = f32x4.div(f32x4.pmax(f32x4.splat(0), f32x4.sub(facing, loose)),
    f32x4.add(f32x4.splat(NORMAL_TAU), loose));
  return f32x4.pmax(f32x4.mul(colour, f32x4.splat(<f32>1 / COLOUR_TAU)), f32x4.pmax(turned, depth));
}

/** Sum of the neighbours of a patch in a row, at four places at once. */
// @ts-ignore: decorator
@inline
function across(at: usize): v128 {
  let s = v128.load(at);
  for (let k: usize = 1; k <= <usize>PATCH; k++) {
    s = f32x4.add(s, v128.load(at - k * 4));
    s = f32x4.add(s, v128.load(at + k * 4));
  }
  return s;
}

/**
 * Averages rows [0, rows) of a band over a search of `reach` pixels each way, at most 12. `at` holds the planes of
 * layout D_*, `work` room for
 * D_WORK_ROWS rows of `rowStride`. Results go to the planes from D_OUT. `abort` is looked at for each block of rows.
 */
export function denoiseBand(at: usize, rowStride: i32, rows: i32, reach: i32, work: usize, abort: usize): bool {
  base = at;
  stride = rowStride;
  planeBytes = <usize>(rowStride * (rows + 2 * BORDER)) * 4;
  const rowBytes = <usize>rowStride * 4;
  const inner = <usize>(rowStride - BORDER - 4) * 4;
  const da = work;
  const db = da + rowBytes * <usize>(ROWS + 2 * PATCH);
  const sa = db + rowBytes * <usize>(ROWS + 2 * PATCH);
  const sb = sa + rowBytes;
  const acc = sb + rowBytes;
  const accPlane = rowBytes * <usize>ROWS;
  for (let y0 = 0; y0 < rows; y0 += ROWS) {
    if (atomic.load<u32>(abort) != 0) return false;
    const count = min<i32>(ROWS, rows - y0);
    memory.fill(acc, 0, accPlane * 8);
    for (let dy = -reach; dy <= reach; dy++) {
      for (let dx = -reach; dx <= reach; dx++) {
        // A disc that fades towards its rim: what little is left of a speck is not to be seen as a square.
        const away = <f32>(dx * dx + dy * dy) / <f32>((reach + 1) * (reach + 1));
        if (away > 1) continue;
        const fade = f32x4.splat(<f32>1 - FADE * away);
        const by = <usize>(dy * stride + dx) * 4;
        for (let r = 0; r < count + 2 * PATCH; r++) {
          const row = <usize>((y0 + r - PATCH + BORDER) * stride) * 4;
          const to = <usize>r * rowBytes;
          for (let x: usize = 32; x < inner; x += 16) {
            v128.store(da + to + x, colourDistance(0, row + x, by));
            v128.store(db + to + x, colourDistance(3, row + x, by));
          }
        }
        for (let r = 0; r < count; r++) {
          const from = <usize>r * rowBytes;
          for (let x: usize = 32; x < inner; x += 16) {
            let a = v128.load(da + from + x);
            let b = v128.load(db + from + x);
            for (let k: usize = 1; k <= <usize>(2 * PATCH); k++) {
              a = f32x4.add(a, v128.load(da + from + k * rowBytes + x));
              b = f32x4.add(b, v128.load(db + from + k * rowBytes + x));
            }
            v128.store(sa + x, a);
            v128.store(sb + x, b);
          }
          const row = <usize>((y0 + r + BORDER) * stride) * 4;
          for (let x: usize = 64; x < inner - 16; x += 16) {
            const p = row + x;
            const surface = surfaceDistance(p, by);
            const patch = f32x4.splat(PATCH_SHARE);
            const ea = f32x4.mul(fade, weight(f32x4.pmax(surface, f32x4.mul(across(sa + x), patch))));
            const eb = f32x4.mul(fade, weight(f32x4.pmax(surface, f32x4.mul(across(sb + x), patch))));
            const to = acc + from + x;
            for (let c: usize = 0; c < 3; c++) {
              // Weights from one half, values of the other.
              const a = v128.load(plane(<i32>c) + p + by);
              const b = v128.load(plane(3 + <i32>c) + p + by);
              v128.store(to + accPlane * c, f32x4.add(v128.load(to + accPlane * c), f32x4.mul(eb, a)));
              v128.store(to + accPlane * (4 + c), f32x4.add(v128.load(to + accPlane * (4 + c)), f32x4.mul(ea, b)));
            }
            v128.store(to + accPlane * 3, f32x4.add(v128.load(to + accPlane * 3), eb));
            v128.store(to + accPlane * 7, f32x4.add(v128.load(to + accPlane * 7), ea));
          }
        }
      }
    }
    for (let r = 0; r < count; r++) {
      const from = acc + <usize>r * rowBytes;
      const row = <usize>((y0 + r + BORDER) * stride) * 4;
      for (let x: usize = 64; x < inner - 16; x += 16) {
        const wa = v128.load(from + accPlane * 3 + x);
        const wb = v128.load(from + accPlane * 7 + x);
        for (let c: usize = 0; c < 3; c++) {
          const a = f32x4.div(v128.load(from + accPlane * c + x), wa);
          const b = f32x4.div(v128.load(from + accPlane * (4 + c) + x), wb);
          v128.store(plane(D_OUT + <i32>c) + row + x, a);
          v128.store(plane(D_OUT + 3 + <i32>c) + row + x, b);
        }
      }
    }
  }
  return true;
}
