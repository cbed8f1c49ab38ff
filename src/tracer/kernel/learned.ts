/**
 * The learned filter: a U-shaped network of 3 × 3 convolutions at three sizes that tells weights, and their use (`train/learn.py` is where
 * it learns, and has the sources). Whole numbers, and plain multiplications and additions in a fixed order, so that the same bytes come out
 * everywhere and for any parts.
 *
 * What goes from layer to layer are whole numbers of 14 bits, so many steps to one ({@link N_MOST}; Jacob et al. 2018, but of fixed steps, so
 * that no part depends on another): two channels lie in 32 bits, and one instruction multiplies and adds eight of them. What is told at the end
 * is f32. Planes have `stride` of either in a row: {@link MARGIN} zeros, the values, zeros to the end; a row of zeros lies above and below.
 * Eight pixels of four channels are summed at once: sixteen registers hold the sums, what is read and one weight; rows go by eights, so that
 * the weights of four channels are read once for all of them.
 */
import {
  N_ALBEDO, N_CANDIDATES as CANDIDATES, N_COUNT, N_COVER, N_ERROR, N_FILTERED, N_FULL as FULL, N_HALF as HALF, N_MARGIN as MARGIN,
  N_MOST, N_NEARNESS, N_NORMAL, N_PAIRS as PAIRS, N_QUARTER as QUARTER, N_SEEN_STEPS as SEEN_STEPS, N_SKY, N_TAPS as TAPS, N_TOLD as TOLD,
  N_TOLD_FULL as TOLD_FULL,
} from "./layout";
import { expMinus } from "./simd";

/** Light, error and distance as the network sees them: logarithms, with what is added so that black has one. */
const LIGHT_LEAST: f32 = 0.01;
const BRIGHTEST: f32 = 4096;
const ERROR_LEAST: f32 = 0.02;
const ERROR_MOST: f32 = 8;
const NEAR_LEAST: f32 = 0.001;
/** What is added to a colour before light is divided by it. */
const LEAST_COLOUR: f32 = 0.02;

/** Rows of all channels that are gone through while four channels' weights are at hand. */
const ROWS: i32 = 8;

/** Strides of one scale: floats and bytes of a row, bytes of a plane. */
// @ts-ignore: decorator
@inline
function strideOf(w: i32): i32 {
  return ((w + 7) & ~7) + 2 * MARGIN;
}
// @ts-ignore: decorator
@inline
function rowOf(w: i32): usize {
  return <usize>strideOf(w) * 4;
}
// @ts-ignore: decorator
@inline
function planeOf(w: i32, h: i32): usize {
  return rowOf(w) * <usize>(h + 2);
}
/** Address of the first value of a row. */
// @ts-ignore: decorator
@inline
function first(plane: usize, w: i32, y: i32): usize {
  return plane + rowOf(w) * <usize>(y + 1) + MARGIN * 4;
}

// @ts-ignore: decorator
@inline
function madd(sum: v128, a: v128, b: v128): v128 {
  return i32x4.add(sum, i32x4.dot_i16x8_s(a, b));
}

/** Sums of a channel at four pixels, as what they are. */
// @ts-ignore: decorator
@inline
function valueOf(sum: v128, by: v128, added: v128): v128 {
  return f32x4.add(f32x4.mul(f32x4.convert_i32x4_s(sum), by), added);
}

/** The same in whole steps. */
// @ts-ignore: decorator
@inline
function stepsOf(sum: v128, by: v128, added: v128, least: v128): v128 {
  const v = f32x4.min(f32x4.max(valueOf(sum, by, added), least), f32x4.splat(<f32>N_MOST));
  return i32x4.trunc_sat_f32x4_s(f32x4.nearest(v));
}

/** Two channels of four pixels in 32 bits each. */
// @ts-ignore: decorator
@inline
function paired(a: v128, b: v128): v128 {
  return v128.or(v128.and(a, i32x4.splat(0xffff)), i32x4.shl(b, 16));
}

/** Zeros to the right of a row, where eight values at once have gone beyond its end. */
// @ts-ignore: decorator
@inline
function endRow(row: usize, w: i32): void {
  for (let x = w; x < ((w + 7) & ~7); x++) store<f32>(row + <usize>x * 4, 0);
}

/** What comes out of a convolution: pairs, nothing below zero; pairs; or f32. */
const enum End {
  Cut,
  Both,
  Told,
}

/** Puts eight pixels of a channel that is told. */
// @ts-ignore: decorator
@inline
function tell(at: usize, first: v128, then: v128, by: v128, added: v128): void {
  v128.store(at, valueOf(first, by, added));
  v128.store(at, valueOf(then, by, added), 16);
}

/**
 * A convolution of 3 × 3, or of single pixels, from planes of pairs to `outs` channels (a multiple of four). Of each four of them `weights`
 * holds by what their sums are multiplied and what is added then (f32), then by pair and place four pairs of weights.
 * Returns where the next one's begin.
 */
function convolve(from: usize, pairs: i32, to: usize, outs: i32, w: i32, h: i32, weights: usize, wide: bool, end: End): usize {
  const plane = planeOf(w, h);
  const row = rowOf(w);
  const group = <usize>(2 + pairs * (wide ? 9 : 1)) * 16;
  const least = f32x4.splat(end == End.Cut ? <f32>0 : -<f32>N_MOST);
  for (let top = 0; top < h; top += ROWS) {
    let g = weights;
    for (let o = 0; o < outs; o += 4, g += group) for (let y = top; y < min<i32>(h, top + ROWS); y++) {
      const out = first(to + plane * <usize>(end == End.Told ? o : o >> 1), w, y);
      const aBy = v128.load32_splat(g), bBy = v128.load32_splat(g, 4), cBy = v128.load32_splat(g, 8), dBy = v128.load32_splat(g, 12);
      const aMore = v128.load32_splat(g, 16), bMore = v128.load32_splat(g, 20);
      const cMore = v128.load32_splat(g, 24), dMore = v128.load32_splat(g, 28);
      for (let x = 0; x < w; x += 8) {
        let a0 = i32x4.splat(0), a1 = a0, b0 = a0, b1 = a0, c0 = a0, c1 = a0, d0 = a0, d1 = a0;
        let s: v128, t: v128, u: v128;
        let k = g + 32;
        let p = first(from, w, y) + <usize>x * 4;
        if (wide) {
          p -= row + 4;
          for (let i = 0; i < pairs; i++, p += plane) {
            let q = p;
            for (let j = 0; j < 3; j++, q += row, k += 48) {
              s = v128.load(q, 0);
              t = v128.load(q, 16);
              u = v128.load32_splat(k, 0);
              a0 = madd(a0, s, u);
              a1 = madd(a1, t, u);
              u = v128.load32_splat(k, 4);
              b0 = madd(b0, s, u);
              b1 = madd(b1, t, u);
              u = v128.load32_splat(k, 8);
              c0 = madd(c0, s, u);
              c1 = madd(c1, t, u);
              u = v128.load32_splat(k, 12);
              d0 = madd(d0, s, u);
              d1 = madd(d1, t, u);
              s = v128.load(q, 4);
              t = v128.load(q, 20);
              u = v128.load32_splat(k, 16);
              a0 = madd(a0, s, u);
              a1 = madd(a1, t, u);
              u = v128.load32_splat(k, 20);
              b0 = madd(b0, s, u);
              b1 = madd(b1, t, u);
              u = v128.load32_splat(k, 24);
              c0 = madd(c0, s, u);
              c1 = madd(c1, t, u);
              u = v128.load32_splat(k, 28);
              d0 = madd(d0, s, u);
              d1 = madd(d1, t, u);
              s = v128.load(q, 8);
              t = v128.load(q, 24);
              u = v128.load32_splat(k, 32);
              a0 = madd(a0, s, u);
              a1 = madd(a1, t, u);
              u = v128.load32_splat(k, 36);
              b0 = madd(b0, s, u);
              b1 = madd(b1, t, u);
              u = v128.load32_splat(k, 40);
              c0 = madd(c0, s, u);
              c1 = madd(c1, t, u);
              u = v128.load32_splat(k, 44);
              d0 = madd(d0, s, u);
              d1 = madd(d1, t, u);
            }
          }
        } else {
          for (let i = 0; i < pairs; i++, p += plane, k += 16) {
            s = v128.load(p, 0);
            t = v128.load(p, 16);
            u = v128.load32_splat(k, 0);
            a0 = madd(a0, s, u);
            a1 = madd(a1, t, u);
            u = v128.load32_splat(k, 4);
            b0 = madd(b0, s, u);
            b1 = madd(b1, t, u);
            u = v128.load32_splat(k, 8);
            c0 = madd(c0, s, u);
            c1 = madd(c1, t, u);
            u = v128.load32_splat(k, 12);
            d0 = madd(d0, s, u);
            d1 = madd(d1, t, u);
          }
        }
        const at = out + <usize>x * 4;
        if (end == End.Told) {
          tell(at, a0, a1, aBy, aMore);
          tell(at + plane, b0, b1, bBy, bMore);
          tell(at + plane * 2, c0, c1, cBy, cMore);
          tell(at + plane * 3, d0, d1, dBy, dMore);
        } else {
          v128.store(at, paired(stepsOf(a0, aBy, aMore, least), stepsOf(b0, bBy, bMore, least)));
          v128.store(at, paired(stepsOf(a1, aBy, aMore, least), stepsOf(b1, bBy, bMore, least)), 16);
          v128.store(at + plane, paired(stepsOf(c0, cBy, cMore, least), stepsOf(d0, dBy, dMore, least)));
          v128.store(at + plane, paired(stepsOf(c1, cBy, cMore, least), stepsOf(d1, dBy, dMore, least)), 16);
        }
      }
      for (let k: usize = 0; k < <usize>(end == End.Told ? 4 : 2); k++) endRow(out + plane * k, w);
    }
  }
  return weights + group * <usize>(outs / 4);
}

/** Means of 2 × 2. */
function halve(from: usize, to: usize, channels: i32, w: i32, h: i32): void {
  for (let c: usize = 0; c < <usize>channels; c++) {
    for (let y = 0; y < h / 2; y++) {
      let p = first(from + planeOf(w, h) * c, w, 2 * y);
      let at = first(to + planeOf(w / 2, h / 2) * c, w / 2, y);
      for (let x = 0; x < w / 2; x++, p += 8, at += 4) {
        const q = p + rowOf(w);
        store<f32>(at, ((load<f32>(p) + load<f32>(p, 4)) + (load<f32>(q) + load<f32>(q, 4))) * <f32>0.25);
      }
    }
  }
}

/** Means of 2 × 2 of pairs that are not below zero; the sum of four has room in 16 bits. */
function halvePairs(from: usize, to: usize, pairs: i32, w: i32, h: i32): void {
  const row = rowOf(w);
  for (let c: usize = 0; c < <usize>pairs; c++) {
    for (let y = 0; y < h / 2; y++) {
      let p = first(from + planeOf(w, h) * c, w, 2 * y);
      const at = first(to + planeOf(w / 2, h / 2) * c, w / 2, y);
      for (let x = 0; x < w / 2; x += 4, p += 32) {
        const s = i16x8.add(v128.load(p), v128.load(p + row));
        const t = i16x8.add(v128.load(p, 16), v128.load(p + row, 16));
        const sum = i16x8.add(v128.shuffle<i32>(s, t, 0, 2, 4, 6), v128.shuffle<i32>(s, t, 1, 3, 5, 7));
        v128.store(at + <usize>x * 4, i16x8.shr_u(i16x8.add(sum, i16x8.splat(2)), 2));
      }
      endRow(at, w / 2);
    }
  }
}

/** Adds planes of pairs of half the size, each value four times. */
function addDoubled(from: usize, to: usize, pairs: i32, w: i32, h: i32): void {
  const most = i16x8.splat(<i16>N_MOST), least = i16x8.splat(-<i16>N_MOST);
  for (let c: usize = 0; c < <usize>pairs; c++) {
    for (let y = 0; y < h; y++) {
      const p = first(from + planeOf(w / 2, h / 2) * c, w / 2, y >> 1);
      const at = first(to + planeOf(w, h) * c, w, y);
      for (let x = 0; x < w; x += 4) {
        const two = v128.load64_zero(p + <usize>(x >> 1) * 4);
        const q = at + <usize>x * 4;
        const sum = i16x8.add(v128.load(q), v128.shuffle<i32>(two, two, 0, 0, 1, 1));
        v128.store(q, i16x8.max_s(i16x8.min_s(sum, most), least));
      }
      endRow(at, w);
    }
  }
}

// @ts-ignore: decorator
@inline
function light(v: f32): f32 {
  return Mathf.log2(max<f32>(0, min<f32>(v, BRIGHTEST)) + LIGHT_LEAST) * <f32>0.125;
}

/** Puts a number into planes of pairs. */
// @ts-ignore: decorator
@inline
function put(at: usize, plane: usize, channel: usize, v: f32): void {
  const steps = max<f32>(-<f32>N_MOST, min<f32>(v * <f32>SEEN_STEPS, <f32>N_MOST));
  store<i16>(at + plane * (channel >> 1) + (channel & 1) * 2, <i16>Mathf.floor(steps + <f32>0.5));
}

/** What the network sees of the planes of a part: `planes` are w × h f32 each, without margins. */
function see(planes: usize, w: i32, h: i32, to: usize): void {
  const size = <usize>(w * h) * 4;
  const plane = planeOf(w, h);
  for (let y = 0; y < h; y++) {
    for (let x = 0; x < w; x++) {
      const p = planes + <usize>(y * w + x) * 4;
      const at = first(to, w, y) + <usize>x * 4;
      for (let c: usize = 0; c < <usize>N_ERROR; c++) put(at, plane, c, light(load<f32>(p + size * c)));
      const luma = <f32>0.1063 * (load<f32>(p) + load<f32>(p + size * 3)) +
        <f32>0.3576 * (load<f32>(p + size) + load<f32>(p + size * 4)) +
        <f32>0.0361 * (load<f32>(p + size * 2) + load<f32>(p + size * 5));
      const error = load<f32>(p + size * N_ERROR) / (luma + ERROR_LEAST);
      put(at, plane, N_ERROR, Mathf.log2(1 + 8 * max<f32>(0, min<f32>(error, ERROR_MOST))) * <f32>0.25);
      for (let c: usize = N_ALBEDO; c < <usize>N_NEARNESS; c++) put(at, plane, c, load<f32>(p + size * c));
      put(at, plane, N_NEARNESS, Mathf.log2(load<f32>(p + size * N_NEARNESS) + NEAR_LEAST) * <f32>0.125);
      put(at, plane, N_COVER, load<f32>(p + size * N_COVER));
      put(at, plane, N_COUNT, Mathf.log2(load<f32>(p + size * N_COUNT)) * <f32>0.2);
    }
  }
}

/** The mean of two pictures, and after it the same without its colour: what is averaged. */
function bothOf(even: usize, odd: usize, colours: usize, w: i32, h: i32, to: usize): void {
  const size = <usize>(w * h) * 4;
  const plane = planeOf(w, h);
  for (let y = 0; y < h; y++) {
    for (let x = 0; x < w; x++) {
      const i = <usize>(y * w + x) * 4;
      const at = first(to, w, y) + <usize>x * 4;
      for (let c: usize = 0; c < 3; c++) {
        const v = (load<f32>(even + i + size * c) + load<f32>(odd + i + size * c)) * <f32>0.5;
        store<f32>(at + plane * c, v);
        store<f32>(at + plane * (c + 3), v / (load<f32>(colours + i + size * c) + LEAST_COLOUR));
      }
    }
  }
}

/** Weights of a few logarithms at four pixels, in place: positive, and one together. */
// @ts-ignore: decorator
@inline
function toShares(at: usize, plane: usize, count: usize): void {
  let most = v128.load(at);
  for (let k: usize = 1; k < count; k++) most = f32x4.max(most, v128.load(at + plane * k));
  let sum = f32x4.splat(0);
  for (let k: usize = 0; k < count; k++) {
    const e = expMinus(f32x4.sub(most, v128.load(at + plane * k)));
    v128.store(at + plane * k, e);
    sum = f32x4.add(sum, e);
  }
  const one = f32x4.div(f32x4.splat(1), sum);
  for (let k: usize = 0; k < count; k++) v128.store(at + plane * k, f32x4.mul(one, v128.load(at + plane * k)));
}

/** Averages of the six planes at `both` over 5 × 5 pixels by the weights at `told`, `raw` as yet or shares already; edges are repeated. */
function average(told: usize, both: usize, to: usize, w: i32, h: i32, raw: bool): void {
  const plane = planeOf(w, h);
  for (let y = 0; y < h; y++) {
    for (let x = 0; x < w; x += 4) {
      const k = first(told, w, y) + <usize>x * 4;
      if (raw) toShares(k, plane, TAPS);
      for (let c: usize = 0; c < 6; c++) {
        let sum = f32x4.splat(0);
        for (let j = 0; j < 5; j++) {
          const row = first(both + plane * c, w, min<i32>(h - 1, max<i32>(0, y + j - 2)));
          for (let i = 0; i < 5; i++) {
            const weight = v128.load(k + plane * <usize>(j * 5 + i));
            const from = x + i - 2;
            let v: v128;
            if (from >= 0 && from + 3 < w) v = v128.load(row + <usize>from * 4);
            else v = f32x4(
              load<f32>(row + <usize>min<i32>(w - 1, max<i32>(0, from)) * 4),
              load<f32>(row + <usize>min<i32>(w - 1, max<i32>(0, from + 1)) * 4),
              load<f32>(row + <usize>min<i32>(w - 1, max<i32>(0, from + 2)) * 4),
              load<f32>(row + <usize>min<i32>(w - 1, max<i32>(0, from + 3)) * 4),
            );
            sum = f32x4.add(sum, f32x4.mul(v, weight));
          }
        }
        v128.store(first(to + plane * c, w, y) + <usize>x * 4, sum);
      }
    }
    for (let c: usize = 0; c < 6; c++) endRow(first(to + plane * c, w, y), w);
  }
}

/** A plane of a smaller scale between its pixels (w × h of them, each `times` as wide) at a pixel of the full size. */
// @ts-ignore: decorator
@inline
function between(plane: usize, w: i32, h: i32, times: f32, x: i32, y: i32): f32 {
  const fx = max<f32>(0, (<f32>x + <f32>0.5) / times - <f32>0.5);
  const fy = max<f32>(0, (<f32>y + <f32>0.5) / times - <f32>0.5);
  const x0 = <i32>fx, y0 = <i32>fy;
  const x1 = min<i32>(w - 1, x0 + 1), y1 = min<i32>(h - 1, y0 + 1);
  const u = fx - <f32>x0, v = fy - <f32>y0;
  const a = first(plane, w, y0), b = first(plane, w, y1);
  const top = load<f32>(a + <usize>x0 * 4) * (1 - u) + load<f32>(a + <usize>x1 * 4) * u;
  const low = load<f32>(b + <usize>x0 * 4) * (1 - u) + load<f32>(b + <usize>x1 * 4) * u;
  return top * (1 - v) + low * v;
}

/** Bytes of room that a part takes besides its planes. */
export function learnedRoom(w: i32, h: i32): usize {
  return planeOf(w, h) * <usize>(FULL + TOLD_FULL + 12) + planeOf(w / 2, h / 2) * <usize>(HALF + FULL / 2 + TOLD + 12) +
    planeOf(w / 4, h / 4) * <usize>(QUARTER + HALF / 2 + TOLD + 12);
}

/**
 * A sky is smooth, and next to free of noise but for what air scatters: the averages are right there. What comes out is theirs within this
 * share, or as bright as both halves have it (a star, a disc, the rim of a cloud).
 */
const SKY_SHARE: f32 = 1.02;

/** What the shares of the network's own are divided by at least, where nearly all is the other filter's. */
const LEAST_SHARE: f32 = 0.000001;

// Where things lie in the work of a part: bytes of a plane, planes that go to and fro, and what is told, averaged and made at each size.
let p1: usize = 0, p2: usize = 0, p4: usize = 0;
let a1: usize = 0, b1: usize = 0, told1: usize = 0, both1: usize = 0, made1: usize = 0;
let a2: usize = 0, b2: usize = 0, told2: usize = 0, both2: usize = 0, made2: usize = 0;
let a4: usize = 0, b4: usize = 0, told4: usize = 0, both4: usize = 0, made4: usize = 0;
let less1: usize = 0, less2: usize = 0;

function layOut(work: usize, w: i32, h: i32): void {
  const w2 = w / 2, h2 = h / 2, w4 = w / 4, h4 = h / 4;
  p1 = planeOf(w, h);
  p2 = planeOf(w2, h2);
  p4 = planeOf(w4, h4);
  a1 = work;
  b1 = a1 + p1 * (FULL / 2);
  told1 = b1 + p1 * (FULL / 2);
  both1 = told1 + p1 * TOLD_FULL;
  made1 = both1 + p1 * 6;
  a2 = made1 + p1 * 6;
  b2 = a2 + p2 * (HALF / 2);
  told2 = b2 + p2 * (HALF / 2);
  both2 = told2 + p2 * TOLD;
  made2 = both2 + p2 * 6;
  less1 = made2 + p2 * 6;
  less2 = less1 + p2 * (FULL / 2);
  a4 = less2 + p4 * (HALF / 2);
  b4 = a4 + p4 * (QUARTER / 2);
  told4 = b4 + p4 * (QUARTER / 2);
  both4 = told4 + p4 * TOLD;
  made4 = both4 + p4 * 6;
}

/** Averages of a picture at all three sizes. */
function averageAll(even: usize, odd: usize, colours: usize, w: i32, h: i32, raw: bool): void {
  const w2 = w / 2, h2 = h / 2;
  bothOf(even, odd, colours, w, h, both1);
  halve(both1, both2, 6, w, h);
  halve(both2, both4, 6, w2, h2);
  average(told4, both4, made4, w / 4, h / 4, raw);
  average(told2, both2, made2, w2, h2, raw);
  average(told1, both1, made1, w, h, raw);
}

/** What the network's own six averages give at a pixel, by their shares. */
// @ts-ignore: decorator
@inline
function ownAt(shares: usize, albedo: f32, c: usize, x: i32, y: i32, w: i32, h: i32): f32 {
  const w2 = w / 2, h2 = h / 2, w4 = w / 4, h4 = h / 4;
  const own = first(made1, w, y) + <usize>x * 4;
  const colour = albedo + LEAST_COLOUR;
  let sum = load<f32>(shares) * load<f32>(own + p1 * c) + load<f32>(shares + p1) * load<f32>(own + p1 * (3 + c)) * colour;
  sum += load<f32>(shares + p1 * 2) * between(made2 + p2 * c, w2, h2, 2, x, y) +
    load<f32>(shares + p1 * 3) * between(made2 + p2 * (3 + c), w2, h2, 2, x, y) * colour;
  return sum + load<f32>(shares + p1 * 4) * between(made4 + p4 * c, w4, h4, 4, x, y) +
    load<f32>(shares + p1 * 5) * between(made4 + p4 * (3 + c), w4, h4, 4, x, y) * colour;
}

/**
 * Puts the filtered picture of a part in place of its first three planes. `planes`: N_PLANES of w × h f32, both multiples of four;
 * `weights` as `layWeights` lays them, layer by layer; `work`: {@link learnedRoom} bytes. False when the word at `abort` is not zero.
 */
export function learned(planes: usize, w: i32, h: i32, weights: usize, work: usize, abort: usize): bool {
  const w2 = w / 2, h2 = h / 2, w4 = w / 4, h4 = h / 4;
  layOut(work, w, h);
  memory.fill(work, 0, learnedRoom(w, h));
  let k = weights;
  see(planes, w, h, b1);
  k = convolve(b1, PAIRS, a1, FULL, w, h, k, true, End.Cut);
  k = convolve(a1, FULL / 2, b1, FULL, w, h, k, true, End.Cut);
  if (atomic.load<u32>(abort) != 0) return false;
  halvePairs(b1, less1, FULL / 2, w, h);
  k = convolve(less1, FULL / 2, a2, HALF, w2, h2, k, true, End.Cut);
  k = convolve(a2, HALF / 2, b2, HALF, w2, h2, k, true, End.Cut);
  halvePairs(b2, less2, HALF / 2, w2, h2);
  k = convolve(less2, HALF / 2, a4, QUARTER, w4, h4, k, true, End.Cut);
  k = convolve(a4, QUARTER / 2, b4, QUARTER, w4, h4, k, true, End.Cut);
  k = convolve(b4, QUARTER / 2, a4, QUARTER, w4, h4, k, true, End.Cut);
  if (atomic.load<u32>(abort) != 0) return false;
  k = convolve(a4, QUARTER / 2, b4, HALF, w4, h4, k, false, End.Both);
  addDoubled(b4, b2, HALF / 2, w2, h2);
  k = convolve(b2, HALF / 2, a2, HALF, w2, h2, k, true, End.Cut);
  k = convolve(a2, HALF / 2, b2, FULL, w2, h2, k, false, End.Both);
  addDoubled(b2, b1, FULL / 2, w, h);
  k = convolve(b1, FULL / 2, a1, FULL, w, h, k, true, End.Cut);
  if (atomic.load<u32>(abort) != 0) return false;
  k = convolve(a4, QUARTER / 2, told4, TOLD, w4, h4, k, false, End.Told);
  k = convolve(a2, HALF / 2, told2, TOLD, w2, h2, k, false, End.Told);
  convolve(a1, FULL / 2, told1, TOLD_FULL, w, h, k, false, End.Told);
  averageAll(planes, planes + <usize>(w * h) * 12, planes + <usize>(w * h) * 4 * N_ALBEDO, w, h, true);
  const size = <usize>(w * h) * 4;
  for (let y = 0; y < h; y++) {
    for (let x = 0; x < w; x++) {
      const shares = first(told1 + p1 * TAPS, w, y) + <usize>x * 4;
      if ((x & 3) == 0) toShares(shares, p1, CANDIDATES);
      const p = planes + <usize>(y * w + x) * 4;
      for (let c: usize = 0; c < 3; c++) {
        const own = ownAt(shares, load<f32>(p + size * (N_ALBEDO + c)), c, x, y, w, h);
        const filtered = load<f32>(p + size * (N_FILTERED + c));
        const both = load<f32>(shares + p1 * 6) * filtered + own;
        const seen = min<f32>(load<f32>(p + size * c), load<f32>(p + size * (c + 3)));
        const sky = max<f32>(filtered / SKY_SHARE, min<f32>(both, max<f32>(filtered, seen) * SKY_SHARE));
        store<f32>(p + size * c, load<f32>(p + size * N_NEARNESS) > <f32>N_SKY ? both : sky);
      }
    }
  }
  return true;
}

/**
 * Filters another picture of the part that was filtered last, a layer of its light, by the same weights: `planes`, three of w × h f32 in the
 * same exposure, in place. `colours` are the part's three planes of albedo. What was the other filter's share falls to the network's own.
 */
export function learnedAlso(planes: usize, colours: usize, w: i32, h: i32, work: usize): void {
  layOut(work, w, h);
  averageAll(planes, planes, colours, w, h, false);
  const size = <usize>(w * h) * 4;
  for (let y = 0; y < h; y++) {
    for (let x = 0; x < w; x++) {
      const shares = first(told1 + p1 * TAPS, w, y) + <usize>x * 4;
      const whole = max<f32>(LEAST_SHARE, 1 - load<f32>(shares + p1 * 6));
      const i = <usize>(y * w + x) * 4;
      for (let c: usize = 0; c < 3; c++)
        store<f32>(planes + i + size * c, ownAt(shares, load<f32>(colours + i + size * c), c, x, y, w, h) / whole);
    }
  }
}
