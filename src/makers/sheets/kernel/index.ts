/**
 * What bakes surfaces: operations over strips of 32-bit floats, four at a time, and what makes sheets of whole squares with their
 * halvings. No function allocates; all lists are given as addresses by the host, their lengths multiples of four, and nothing of it
 * depends on an engine: all numbers are rounded as IEEE 754 says.
 *
 * Noise is gradient noise with a fade of the fifth degree (Perlin 2002), its lattice wrapped; points are scattered one to a cell
 * (Worley 1996).
 */

/** First free byte. */
export function free(): usize {
  return (__heap_base + 15) & ~15;
}

// @ts-ignore: decorator
@inline
const LANE: usize = 16;

// @ts-ignore: decorator
@inline
function all(x: f32): v128 {
  return f32x4.splat(x);
}

// @ts-ignore: decorator
@inline
function whole(x: i32): v128 {
  return i32x4.splat(x);
}

/** Right of the middles of texels in a row. */
export function right(to: usize, first: i32, count: i32, size: i32): void {
  const k = <f32>1 / <f32>size;
  for (let i = 0; i < count; i++) store<f32>(to + (<usize>i << 2), (<f32>((first + i) % size) + <f32>0.5) * k);
}

export function towards(to: usize, first: i32, count: i32, size: i32): void {
  const k = <f32>1 / <f32>size;
  for (let i = 0; i < count; i++) store<f32>(to + (<usize>i << 2), (<f32>((first + i) / size) + <f32>0.5) * k);
}

export function constant(to: usize, count: i32, value: f32): void {
  const end = to + (<usize>count << 2);
  for (; to < end; to += LANE) v128.store(to, all(value));
}

export function affine(to: usize, a: usize, count: i32, factor: f32, addend: f32): void {
  const end = to + (<usize>count << 2);
  const k = all(factor), c = all(addend);
  for (; to < end; to += LANE, a += LANE) v128.store(to, f32x4.add(f32x4.mul(v128.load(a), k), c));
}

export function add(to: usize, a: usize, b: usize, count: i32): void {
  const end = to + (<usize>count << 2);
  for (; to < end; to += LANE, a += LANE, b += LANE) v128.store(to, f32x4.add(v128.load(a), v128.load(b)));
}

export function subtract(to: usize, a: usize, b: usize, count: i32): void {
  const end = to + (<usize>count << 2);
  for (; to < end; to += LANE, a += LANE, b += LANE) v128.store(to, f32x4.sub(v128.load(a), v128.load(b)));
}

export function multiply(to: usize, a: usize, b: usize, count: i32): void {
  const end = to + (<usize>count << 2);
  for (; to < end; to += LANE, a += LANE, b += LANE) v128.store(to, f32x4.mul(v128.load(a), v128.load(b)));
}

export function divide(to: usize, a: usize, b: usize, count: i32): void {
  const end = to + (<usize>count << 2);
  for (; to < end; to += LANE, a += LANE, b += LANE) v128.store(to, f32x4.div(v128.load(a), v128.load(b)));
}

export function least(to: usize, a: usize, b: usize, count: i32): void {
  const end = to + (<usize>count << 2);
  for (; to < end; to += LANE, a += LANE, b += LANE) v128.store(to, f32x4.min(v128.load(a), v128.load(b)));
}

export function most(to: usize, a: usize, b: usize, count: i32): void {
  const end = to + (<usize>count << 2);
  for (; to < end; to += LANE, a += LANE, b += LANE) v128.store(to, f32x4.max(v128.load(a), v128.load(b)));
}

export function atMost(to: usize, a: usize, count: i32, limit: f32): void {
  const end = to + (<usize>count << 2);
  const c = all(limit);
  for (; to < end; to += LANE, a += LANE) v128.store(to, f32x4.min(v128.load(a), c));
}

export function atLeast(to: usize, a: usize, count: i32, limit: f32): void {
  const end = to + (<usize>count << 2);
  const c = all(limit);
  for (; to < end; to += LANE, a += LANE) v128.store(to, f32x4.max(v128.load(a), c));
}

export function absolute(to: usize, a: usize, count: i32): void {
  const end = to + (<usize>count << 2);
  for (; to < end; to += LANE, a += LANE) v128.store(to, f32x4.abs(v128.load(a)));
}

export function floor(to: usize, a: usize, count: i32): void {
  const end = to + (<usize>count << 2);
  for (; to < end; to += LANE, a += LANE) v128.store(to, f32x4.floor(v128.load(a)));
}

export function root(to: usize, a: usize, count: i32): void {
  const end = to + (<usize>count << 2);
  for (; to < end; to += LANE, a += LANE) v128.store(to, f32x4.sqrt(v128.load(a)));
}

// @ts-ignore: decorator
@inline
function held(x: v128): v128 {
  return f32x4.min(f32x4.max(x, all(0)), all(1));
}

export function smooth(to: usize, a: usize, count: i32): void {
  const end = to + (<usize>count << 2);
  for (; to < end; to += LANE, a += LANE) {
    const t = held(v128.load(a));
    v128.store(to, f32x4.mul(f32x4.mul(t, t), f32x4.sub(all(3), f32x4.add(t, t))));
  }
}

/** cos 2π t: folded to a quarter turn, there by the series of the sine, within 4e-6. */
export function wave(to: usize, a: usize, count: i32): void {
  const end = to + (<usize>count << 2);
  for (; to < end; to += LANE, a += LANE) {
    const t = v128.load(a);
    const turn = f32x4.abs(f32x4.sub(f32x4.sub(t, f32x4.floor(t)), all(0.5)));
    // sin of −π/2 … π/2 for turns of 0 … 0.5.
    const x = f32x4.mul(f32x4.sub(turn, all(0.25)), all(<f32>6.283185307179586));
    const x2 = f32x4.mul(x, x);
    let s = f32x4.add(f32x4.mul(x2, all(<f32>2.7557319e-6)), all(<f32>-1.984127e-4));
    s = f32x4.add(f32x4.mul(s, x2), all(<f32>8.333333e-3));
    s = f32x4.add(f32x4.mul(s, x2), all(<f32>-0.16666667));
    s = f32x4.add(f32x4.mul(f32x4.mul(s, x2), x), x);
    v128.store(to, s);
  }
}

export function mix(to: usize, a: usize, b: usize, share: usize, count: i32): void {
  const end = to + (<usize>count << 2);
  for (; to < end; to += LANE, a += LANE, b += LANE, share += LANE) {
    const x = v128.load(a);
    v128.store(to, f32x4.add(x, f32x4.mul(f32x4.sub(v128.load(b), x), held(v128.load(share)))));
  }
}

/** Mixes 32 bits in each lane. */
// @ts-ignore: decorator
@inline
function mixed(x: v128): v128 {
  x = i32x4.mul(v128.xor(x, i32x4.shr_u(x, 16)), whole(0x7feb352d));
  x = i32x4.mul(v128.xor(x, i32x4.shr_u(x, 15)), whole(0x846ca68b));
  return v128.xor(x, i32x4.shr_u(x, 16));
}

function mixedOne(x: u32): u32 {
  x = (x ^ (x >> 16)) * 0x7feb352d;
  x = (x ^ (x >> 15)) * 0x846ca68b;
  return x ^ (x >> 16);
}

// @ts-ignore: decorator
@inline
const ACROSS: i32 = 0x9e3779b1;
// @ts-ignore: decorator
@inline
const ALONG: i32 = 0x85ebca77;

/** What is left of whole numbers after a period. */
// @ts-ignore: decorator
@inline
function wrapped(x: v128, period: v128): v128 {
  return f32x4.sub(x, f32x4.mul(f32x4.floor(f32x4.div(x, period)), period));
}

// @ts-ignore: decorator
@inline
function fade(t: v128): v128 {
  const p = f32x4.add(f32x4.mul(f32x4.sub(f32x4.mul(t, all(6)), all(15)), t), all(10));
  return f32x4.mul(f32x4.mul(f32x4.mul(t, t), t), p);
}

/** Part of a corner whose gradient is a hash. */
// @ts-ignore: decorator
@inline
function corner(h: v128, x: v128, y: v128): v128 {
  const k = all(<f32>0.000030517578125);
  const gx = f32x4.mul(f32x4.convert_i32x4_s(i32x4.shr_s(i32x4.shl(h, 16), 16)), k);
  const gy = f32x4.mul(f32x4.convert_i32x4_s(i32x4.shr_s(h, 16)), k);
  return f32x4.add(f32x4.mul(gx, x), f32x4.mul(gy, y));
}

// @ts-ignore: decorator
@inline
function between(a: v128, b: v128, t: v128): v128 {
  return f32x4.add(a, f32x4.mul(f32x4.sub(b, a), t));
}

/** Adds `gain` times a noise of so many cells across and along at places that lie anywhere. */
function addNoise(to: usize, u: usize, v: usize, count: i32, cellsX: f32, cellsY: f32, gain: f32, seed: i32): void {
  const px = all(cellsX), py = all(cellsY), g = all(gain * <f32>1.5), one = all(1);
  const salt = whole(seed);
  for (const end = to + (<usize>count << 2); to < end; to += LANE, u += LANE, v += LANE) {
    const x = f32x4.mul(v128.load(u), px);
    const y = f32x4.mul(v128.load(v), py);
    const x0 = f32x4.floor(x);
    const y0 = f32x4.floor(y);
    const fx = f32x4.sub(x, x0);
    const fy = f32x4.sub(y, y0);
    const left = wrapped(x0, px);
    const up = wrapped(y0, py);
    const next = f32x4.add(left, one);
    const under = f32x4.add(up, one);
    const rightOf = v128.andnot(next, f32x4.ge(next, px));
    const below = v128.andnot(under, f32x4.ge(under, py));
    const hl = i32x4.mul(i32x4.trunc_sat_f32x4_s(left), whole(ACROSS));
    const hr = i32x4.mul(i32x4.trunc_sat_f32x4_s(rightOf), whole(ACROSS));
    const hu = i32x4.add(i32x4.mul(i32x4.trunc_sat_f32x4_s(up), whole(ALONG)), salt);
    const hb = i32x4.add(i32x4.mul(i32x4.trunc_sat_f32x4_s(below), whole(ALONG)), salt);
    const fx1 = f32x4.sub(fx, one);
    const fy1 = f32x4.sub(fy, one);
    const a = fade(fx);
    const top = between(corner(mixed(v128.xor(hl, hu)), fx, fy), corner(mixed(v128.xor(hr, hu)), fx1, fy), a);
    const bottom = between(corner(mixed(v128.xor(hl, hb)), fx, fy1), corner(mixed(v128.xor(hr, hb)), fx1, fy1), a);
    v128.store(to, f32x4.add(v128.load(to), f32x4.mul(between(top, bottom, fade(fy)), g)));
  }
}

// @ts-ignore: decorator
@inline
function fadeOne(t: f32): f32 {
  return t * t * t * ((t * <f32>6 - <f32>15) * t + <f32>10);
}

/** The same over a row of the square itself: what does not change along a cell is worked out once for it. */
function addNoiseRow(to: usize, y: f32, size: i32, cellsX: i32, cellsY: i32, gain: f32, seed: i32, work: usize): void {
  const yy = y * <f32>cellsY;
  const y0 = <i32>yy;
  const fy = yy - <f32>y0;
  const sy = fadeOne(fy);
  const hu: u32 = <u32>y0 * <u32>ALONG + <u32>seed;
  const hb: u32 = <u32>(y0 + 1 == cellsY ? 0 : y0 + 1) * <u32>ALONG + <u32>seed;
  const k: f32 = <f32>0.000030517578125 * gain * <f32>1.5;
  // A corner's part at a place x from it is slope x + rest.
  for (let i = 0; i < cellsX; i++) {
    const hx = <u32>i * <u32>ACROSS;
    const a = mixedOne(hx ^ hu);
    const b = mixedOne(hx ^ hb);
    const ax = <f32>((<i32>a << 16) >> 16), ay = <f32>(<i32>a >> 16) * fy;
    const bx = <f32>((<i32>b << 16) >> 16), by = <f32>(<i32>b >> 16) * (fy - <f32>1);
    store<f32>(work + (<usize>i << 3), (ax + (bx - ax) * sy) * k);
    store<f32>(work + (<usize>i << 3), (ay + (by - ay) * sy) * k, 4);
  }
  store<u64>(work + (<usize>cellsX << 3), load<u64>(work));
  const step = <f32>cellsX / <f32>size;
  const one = all(1);
  for (let i = 0; i < size; i += 4) {
    const x = f32x4.mul(f32x4.add(f32x4(0.5, 1.5, 2.5, 3.5), all(<f32>i)), all(step));
    const x0 = f32x4.floor(x);
    const f = f32x4.sub(x, x0);
    const n = i32x4.trunc_sat_f32x4_s(x0);
    const c0 = work + (<usize>i32x4.extract_lane(n, 0) << 3), c1 = work + (<usize>i32x4.extract_lane(n, 1) << 3);
    const c2 = work + (<usize>i32x4.extract_lane(n, 2) << 3), c3 = work + (<usize>i32x4.extract_lane(n, 3) << 3);
    // Slope and rest of a cell, then those of the next one.
    const e0 = v128.load(c0), e1 = v128.load(c1), e2 = v128.load(c2), e3 = v128.load(c3);
    const t0 = v128.shuffle<f32>(e0, e1, 0, 4, 1, 5), t1 = v128.shuffle<f32>(e2, e3, 0, 4, 1, 5);
    const t2 = v128.shuffle<f32>(e0, e1, 2, 6, 3, 7), t3 = v128.shuffle<f32>(e2, e3, 2, 6, 3, 7);
    const slope = v128.shuffle<f32>(t0, t1, 0, 1, 4, 5), rest = v128.shuffle<f32>(t0, t1, 2, 3, 6, 7);
    const slope1 = v128.shuffle<f32>(t2, t3, 0, 1, 4, 5), rest1 = v128.shuffle<f32>(t2, t3, 2, 3, 6, 7);
    const a = f32x4.add(f32x4.mul(slope, f), rest);
    const b = f32x4.add(f32x4.mul(slope1, f32x4.sub(f, one)), rest1);
    v128.store(to, f32x4.add(v128.load(to), between(a, b, fade(f))));
    to += LANE;
  }
}

/** The seed of an octave. */
// @ts-ignore: decorator
@inline
function octaveSeed(seed: i32, n: i32): i32 {
  return seed + n * 0x3c6ef372;
}

/** Octaves, each `gain` times as strong as the one before. */
export function noise(
  to: usize, u: usize, v: usize, count: i32, across: i32, along: i32, octaves: i32, first: f32, gain: f32, seed: i32,
): void {
  constant(to, count, 0);
  let part = first;
  for (let n = 0; n < octaves; n++) {
    addNoise(to, u, v, count, <f32>(across << n), <f32>(along << n), part, octaveSeed(seed, n));
    part *= gain;
  }
}

/** The same over whole rows of the square; `work` has room for 8 bytes a cell and one more. */
export function noiseRows(
  to: usize, firstRow: i32, rows: i32, size: i32, across: i32, along: i32, octaves: i32, first: f32, gain: f32,
  seed: i32, work: usize,
): void {
  constant(to, rows * size, 0);
  const k = <f32>1 / <f32>size;
  for (let row = 0; row < rows; row++) {
    let part = first;
    const y = (<f32>(firstRow + row) + <f32>0.5) * k;
    for (let n = 0; n < octaves; n++) {
      addNoiseRow(to, y, size, across << n, along << n, part, octaveSeed(seed, n), work);
      part *= gain;
    }
    to += <usize>size << 2;
  }
}

/** Metres, in cells, to the nearest two of the points about each place, and the nearest one's number. */
export function cells(
  near: usize, second: usize, lot: usize, u: usize, v: usize, count: i32, across: i32, along: i32, strays: f32,
  seed: i32,
): void {
  const px = all(<f32>across), py = all(<f32>along), one = all(1);
  const k = all(strays / <f32>65536), c = all(<f32>0.5 - <f32>0.5 * strays);
  const salt = whole(seed);
  for (const end = near + (<usize>count << 2); near < end;
    near += LANE, second += LANE, lot += LANE, u += LANE, v += LANE) {
    const x = f32x4.mul(v128.load(u), px);
    const y = f32x4.mul(v128.load(v), py);
    const x0 = f32x4.floor(x);
    const y0 = f32x4.floor(y);
    const fx = f32x4.sub(x, x0);
    const fy = f32x4.sub(y, y0);
    let first = all(1e9);
    let next = all(1e9);
    let number = whole(0);
    const left = wrapped(f32x4.sub(x0, one), px);
    let row = wrapped(f32x4.sub(y0, one), py);
    for (let j = -1; j <= 1; j++) {
      const hy = i32x4.add(i32x4.mul(i32x4.trunc_sat_f32x4_s(row), whole(ALONG)), salt);
      const dy0 = f32x4.sub(all(<f32>j), fy);
      let column = left;
      for (let i = -1; i <= 1; i++) {
        const h = mixed(v128.xor(i32x4.mul(i32x4.trunc_sat_f32x4_s(column), whole(ACROSS)), hy));
        const ox = f32x4.add(f32x4.mul(f32x4.convert_i32x4_s(v128.and(h, whole(0xffff))), k), c);
        const oy = f32x4.add(f32x4.mul(f32x4.convert_i32x4_s(i32x4.shr_u(h, 16)), k), c);
        const dx = f32x4.add(f32x4.sub(all(<f32>i), fx), ox);
        const dy = f32x4.add(dy0, oy);
        const far = f32x4.add(f32x4.mul(dx, dx), f32x4.mul(dy, dy));
        const nearer = f32x4.lt(far, first);
        next = v128.bitselect(first, f32x4.min(next, far), nearer);
        first = v128.bitselect(far, first, nearer);
        number = v128.bitselect(h, number, nearer);
        column = f32x4.add(column, one);
        column = v128.andnot(column, f32x4.ge(column, px));
      }
      row = f32x4.add(row, one);
      row = v128.andnot(row, f32x4.ge(row, py));
    }
    v128.store(near, f32x4.sqrt(first));
    v128.store(second, f32x4.sqrt(next));
    v128.store(lot, share(mixed(i32x4.add(number, whole(0x68bc21eb)))));
  }
}

/** Bits as a number from 0 to 1. */
// @ts-ignore: decorator
@inline
function share(bits: v128): v128 {
  return f32x4.mul(f32x4.convert_i32x4_s(i32x4.shr_u(bits, 8)), all(<f32>5.9604644775390625e-8));
}

export function lot(to: usize, a: usize, b: usize, count: i32, periodA: f32, periodB: f32, seed: i32): void {
  const pa = all(periodA), pb = all(periodB), salt = whole(seed);
  for (const end = to + (<usize>count << 2); to < end; to += LANE, a += LANE, b += LANE) {
    const x = i32x4.mul(i32x4.trunc_sat_f32x4_s(wrapped(v128.load(a), pa)), whole(ACROSS));
    const y = i32x4.add(i32x4.mul(i32x4.trunc_sat_f32x4_s(wrapped(v128.load(b), pb)), whole(ALONG)), salt);
    v128.store(to, share(mixed(v128.xor(x, y))));
  }
}

/** Means over so many texels to each side, across rows and then along, of a square in place; `work` is as large. */
export function mean(square: usize, size: i32, reach: i32, work: usize): void {
  for (let j = 0; j < size; j++) meanAlong(square + (<usize>(j * size) << 2), 4, work + (<usize>(j * size) << 2), size, reach);
  const row = <usize>size << 2;
  // Columns side by side, so that memory is read as it lies.
  const k = all(<f32>1 / <f32>(reach + reach + 1));
  for (let i = 0; i < size; i += 4) {
    const at = work + (<usize>i << 2);
    let sum = all(0);
    for (let j = -reach; j <= reach; j++) sum = f32x4.add(sum, v128.load(at + <usize>((j + size) % size) * row));
    for (let j = 0; j < size; j++) {
      v128.store(square + (<usize>i << 2) + <usize>j * row, f32x4.mul(sum, k));
      sum = f32x4.add(sum, v128.load(at + <usize>((j + reach + 1) % size) * row));
      sum = f32x4.sub(sum, v128.load(at + <usize>((j - reach + size) % size) * row));
    }
  }
}

function meanAlong(from: usize, step: usize, to: usize, size: i32, reach: i32): void {
  let sum: f64 = 0;
  const k = <f64>1 / <f64>(reach + reach + 1);
  for (let i = -reach; i <= reach; i++) sum += <f64>load<f32>(from + <usize>((i + size) % size) * step);
  for (let i = 0; i < size; i++) {
    store<f32>(to + <usize>i * step, <f32>(sum * k));
    sum += <f64>load<f32>(from + <usize>((i + reach + 1) % size) * step);
    sum -= <f64>load<f32>(from + <usize>((i - reach + size) % size) * step);
  }
}

/** Least and most of a list, as two numbers. */
export function range(from: usize, count: i32, to: usize): void {
  let low = all(f32.MAX_VALUE), high = all(-f32.MAX_VALUE);
  for (const end = from + (<usize>count << 2); from < end; from += LANE) {
    const v = v128.load(from);
    low = f32x4.min(low, v);
    high = f32x4.max(high, v);
  }
  v128.store(to, low);
  v128.store(to, high, 16);
  for (let i: usize = 1; i < 4; i++) {
    store<f32>(to, min<f32>(load<f32>(to), load<f32>(to + 4 * i)));
    store<f32>(to, max<f32>(load<f32>(to, 16), load<f32>(to + 4 * i, 16)), 16);
  }
}

/** Slopes of a square of heights, rise over run, across and along, and the sum of their squares; a texel is `run` wide, in heights. */
export function slopes(heights: usize, size: i32, run: f32, across: usize, along: usize, squares: usize): void {
  const k = <f32>0.5 / run;
  const row = <usize>size << 2;
  for (let j = 0; j < size; j++) {
    const here = heights + <usize>j * row;
    const up = heights + <usize>(j == 0 ? size - 1 : j - 1) * row;
    const down = heights + <usize>(j == size - 1 ? 0 : j + 1) * row;
    for (let i = 0; i < size; i++) {
      const left = i == 0 ? size - 1 : i - 1;
      const next = i == size - 1 ? 0 : i + 1;
      const dx = (load<f32>(here + (<usize>next << 2)) - load<f32>(here + (<usize>left << 2))) * k;
      const dy = (load<f32>(down + (<usize>i << 2)) - load<f32>(up + (<usize>i << 2))) * k;
      const n = (<usize>(j * size + i)) << 2;
      store<f32>(across + n, dx);
      store<f32>(along + n, dy);
      store<f32>(squares + n, dx * dx + dy * dy);
    }
  }
}

/** A square in half as many a side, each the mean of four. It may be written over itself. */
export function halve(from: usize, size: i32, to: usize): void {
  const half = size >> 1;
  const row = <usize>size << 2;
  for (let j = 0; j < half; j++) {
    let a = from + <usize>(2 * j) * row;
    for (let i = 0; i < half; i++, a += 8, to += 4) {
      const sum = load<f32>(a) + load<f32>(a, 4) + (load<f32>(a + row) + load<f32>(a + row, 4));
      store<f32>(to, sum * <f32>0.25);
    }
  }
}

/** Nearest whole number of what is not negative. */
// @ts-ignore: decorator
@inline
function rounded(x: v128): v128 {
  return i32x4.trunc_sat_f32x4_s(f32x4.add(x, all(0.5)));
}

// @ts-ignore: decorator
@inline
function byteOf(x: v128): v128 {
  return rounded(f32x4.mul(held(x), all(255)));
}

// @ts-ignore: decorator
@inline
function rooted(x: v128): v128 {
  return byteOf(f32x4.sqrt(f32x4.max(x, all(0))));
}

// @ts-ignore: decorator
@inline
function slopeOf(x: v128): v128 {
  const near = f32x4.min(f32x4.max(x, all(<f32>-7.99)), all(<f32>7.99));
  const n = i32x4.trunc_sat_f32x4_s(f32x4.floor(f32x4.add(f32x4.mul(near, all(4096)), all(0.5))));
  return v128.and(n, whole(0xffff));
}

/**
 * Packs a square into texels of three words: roots of red, green, blue, and the roughness; slopes across and along, 4,096 a unit;
 * height of 16 bits between the least and the most, root of the variance of slopes of which 2 is the most, and how much it is metal.
 */
export function pack(
  count: i32, red: usize, green: usize, blue: usize, roughness: usize, metal: usize, height: usize, across: usize,
  along: usize, squares: usize, low: f32, high: f32, to: usize,
): void {
  const k = all(high > low ? <f32>65535 / (high - low) : 0);
  const lowest = all(low);
  for (let i = 0; i < count; i += 4) {
    const n = <usize>i << 2;
    const dx = v128.load(across + n), dy = v128.load(along + n);
    const lost = f32x4.sub(f32x4.sub(v128.load(squares + n), f32x4.mul(dx, dx)), f32x4.mul(dy, dy));
    const w0 = v128.or(
      v128.or(rooted(v128.load(red + n)), i32x4.shl(rooted(v128.load(green + n)), 8)),
      v128.or(i32x4.shl(rooted(v128.load(blue + n)), 16), i32x4.shl(byteOf(v128.load(roughness + n)), 24)),
    );
    const w1 = v128.or(slopeOf(dx), i32x4.shl(slopeOf(dy), 16));
    const over = f32x4.mul(f32x4.sub(v128.load(height + n), lowest), k);
    const h = rounded(f32x4.min(f32x4.max(over, all(0)), all(65535)));
    const spread = byteOf(f32x4.mul(f32x4.sqrt(f32x4.max(lost, all(0))), all(0.5)));
    const w2 = v128.or(v128.or(h, i32x4.shl(spread, 16)), i32x4.shl(byteOf(v128.load(metal + n)), 24));
    // Four texels, word by word; the last level has one alone.
    store<u32>(to, i32x4.extract_lane(w0, 0));
    store<u32>(to, i32x4.extract_lane(w1, 0), 4);
    store<u32>(to, i32x4.extract_lane(w2, 0), 8);
    if (count == 1) return;
    store<u32>(to, i32x4.extract_lane(w0, 1), 12);
    store<u32>(to, i32x4.extract_lane(w1, 1), 16);
    store<u32>(to, i32x4.extract_lane(w2, 1), 20);
    store<u32>(to, i32x4.extract_lane(w0, 2), 24);
    store<u32>(to, i32x4.extract_lane(w1, 2), 28);
    store<u32>(to, i32x4.extract_lane(w2, 2), 32);
    store<u32>(to, i32x4.extract_lane(w0, 3), 36);
    store<u32>(to, i32x4.extract_lane(w1, 3), 40);
    store<u32>(to, i32x4.extract_lane(w2, 3), 44);
    to += 48;
  }
}
