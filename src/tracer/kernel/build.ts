/**
 * Builds trees of eight children. Top down: the range of references with the largest surface is split by binned
 * surface-area cost on three axes in one pass until eight ranges stand or all fit a leaf (Wald 2007; widths after
 * Dammertz 2008). References are 32 bytes: min xyz, payload, max xyz, centre is implied. Leaves of meshes hold up to
 * four triangles as structure of arrays; leaves of the top tree are the payload references themselves.
 */
import { M_SIZE, TAG_TRIANGLES } from "./layout";

const BINS: i32 = 16;
const REF: usize = 32;
const NODE: usize = 224;
const LEAF: usize = 160;

let out: usize = 0;
let scratch: usize = 0;
let positions: usize = 0;
let indices: usize = 0;
let leafMost: i32 = 4;
let splitCost: f32 = 0;

const FAR: f32 = 1e30;

// @ts-ignore: decorator
@inline
function area(lo: v128, hi: v128): f32 {
  const d = f32x4.sub(hi, lo);
  const x = f32x4.extract_lane(d, 0);
  const y = f32x4.extract_lane(d, 1);
  const z = f32x4.extract_lane(d, 2);
  return x * y + y * z + z * x;
}

function boundsOf(begin: usize, end: usize, to: usize): void {
  let lo = f32x4.splat(FAR);
  let hi = f32x4.splat(-FAR);
  for (let p = begin; p < end; p += REF) {
    lo = f32x4.pmin(lo, v128.load(p));
    hi = f32x4.pmax(hi, v128.load(p, 16));
  }
  v128.store(to, lo);
  v128.store(to, hi, 16);
}

/** Splits [begin, end) in place and returns where the second half starts. */
function split(begin: usize, end: usize): usize {
  const count = <i32>((end - begin) / REF);
  let lo = f32x4.splat(FAR);
  let hi = f32x4.splat(-FAR);
  for (let p = begin; p < end; p += REF) {
    const c = f32x4.add(v128.load(p), v128.load(p, 16));
    lo = f32x4.pmin(lo, c);
    hi = f32x4.pmax(hi, c);
  }
  const bins = count < 64 ? 8 : BINS;
  const extent = f32x4.sub(hi, lo);
  const k = f32x4.div(f32x4.splat(<f32>bins * <f32>0.9999), f32x4.pmax(extent, f32x4.splat(<f32>1e-20)));
  // bins: for each axis and bin 32 bytes of bounds, then counts
  const boxes = scratch;
  const counts = scratch + 3 * BINS * 32;
  for (let i = 0; i < 3 * BINS; i++) {
    v128.store(boxes + i * 32, f32x4.splat(FAR));
    v128.store(boxes + i * 32, f32x4.splat(-FAR), 16);
    store<i32>(counts + i * 4, 0);
  }
  for (let p = begin; p < end; p += REF) {
    const a = v128.load(p);
    const b = v128.load(p, 16);
    const bin = i32x4.trunc_sat_f32x4_s(f32x4.mul(f32x4.sub(f32x4.add(a, b), lo), k));
    const bx = i32x4.extract_lane(bin, 0);
    const by = i32x4.extract_lane(bin, 1) + BINS;
    const bz = i32x4.extract_lane(bin, 2) + 2 * BINS;
    const px = boxes + bx * 32;
    const py = boxes + by * 32;
    const pz = boxes + bz * 32;
    v128.store(px, f32x4.pmin(v128.load(px), a));
    v128.store(px, f32x4.pmax(v128.load(px, 16), b), 16);
    v128.store(py, f32x4.pmin(v128.load(py), a));
    v128.store(py, f32x4.pmax(v128.load(py, 16), b), 16);
    v128.store(pz, f32x4.pmin(v128.load(pz), a));
    v128.store(pz, f32x4.pmax(v128.load(pz, 16), b), 16);
    store<i32>(counts + bx * 4, load<i32>(counts + bx * 4) + 1);
    store<i32>(counts + by * 4, load<i32>(counts + by * 4) + 1);
    store<i32>(counts + bz * 4, load<i32>(counts + bz * 4) + 1);
  }
  let best: f32 = Infinity;
  let bestAxis = -1;
  let bestBin = 0;
  const right = counts + 3 * BINS * 4;
  for (let axis = 0; axis < 3; axis++) {
    const base = boxes + axis * BINS * 32;
    const cbase = counts + axis * BINS * 4;
    let l = f32x4.splat(FAR);
    let h = f32x4.splat(-FAR);
    let n = 0;
    for (let i = bins - 1; i > 0; i--) {
      l = f32x4.pmin(l, v128.load(base + i * 32));
      h = f32x4.pmax(h, v128.load(base + i * 32, 16));
      n += load<i32>(cbase + i * 4);
      store<f32>(right + i * 4, n > 0 ? area(l, h) * <f32>((n + 3) >> 2) : Infinity);
    }
    l = f32x4.splat(FAR);
    h = f32x4.splat(-FAR);
    n = 0;
    for (let i = 0; i < bins - 1; i++) {
      l = f32x4.pmin(l, v128.load(base + i * 32));
      h = f32x4.pmax(h, v128.load(base + i * 32, 16));
      n += load<i32>(cbase + i * 4);
      if (n == 0 || n == count) continue;
      const cost = area(l, h) * <f32>((n + 3) >> 2) + load<f32>(right + (i + 1) * 4);
      if (cost < best) {
        best = cost;
        bestAxis = axis;
        bestBin = i;
      }
    }
  }
  if (bestAxis < 0) return begin + <usize>(count >> 1) * REF;
  const axisAt = <usize>(bestAxis * 4);
  const loA = bestAxis == 0 ? f32x4.extract_lane(lo, 0) : bestAxis == 1 ? f32x4.extract_lane(lo, 1) : f32x4.extract_lane(lo, 2);
  const kA = bestAxis == 0 ? f32x4.extract_lane(k, 0) : bestAxis == 1 ? f32x4.extract_lane(k, 1) : f32x4.extract_lane(k, 2);
  let i = begin;
  let j = end;
  while (i < j) {
    const c = load<f32>(i + axisAt) + load<f32>(i + axisAt, 16);
    if (<i32>((c - loA) * kA) <= bestBin) {
      i += REF;
    } else {
      j -= REF;
      const a = v128.load(i);
      const b = v128.load(i, 16);
      v128.store(i, v128.load(j));
      v128.store(i, v128.load(j, 16), 16);
      v128.store(j, a);
      v128.store(j, b, 16);
    }
  }
  if (i == begin || i == end) return begin + <usize>(count >> 1) * REF;
  return i;
}

function emitTriangles(begin: usize, end: usize): u32 {
  const at = out;
  out += LEAF;
  memory.fill(at, 0, LEAF);
  let lane: usize = 0;
  for (let p = begin; p < end; p += REF, lane += 4) {
    const t = load<u32>(p, 12);
    const a = positions + <usize>load<u32>(indices + t * 12) * 12;
    const b = positions + <usize>load<u32>(indices + t * 12, 4) * 12;
    const c = positions + <usize>load<u32>(indices + t * 12, 8) * 12;
    for (let k: usize = 0; k < 3; k++) {
      const v = load<f32>(a + k * 4);
      store<f32>(at + k * 16 + lane, v);
      store<f32>(at + 48 + k * 16 + lane, load<f32>(b + k * 4) - v);
      store<f32>(at + 96 + k * 16 + lane, load<f32>(c + k * 4) - v);
    }
    store<u32>(at + 144 + lane, t);
  }
  return <u32>at | TAG_TRIANGLES;
}

function emitRange(begin: usize, end: usize, depth: i32): u32 {
  const count = <i32>((end - begin) / REF);
  if (count <= leafMost) return leafMost == 1 ? load<u32>(begin, 12) : emitTriangles(begin, end);
  const node = out;
  out += NODE;
  // up to eight ranges, on the scratch stack of this depth: begin, end, area
  const ranges = scratch + 4096 + <usize>depth * 128;
  const box = scratch + 3584;
  let n = 1;
  store<u32>(ranges, <u32>begin);
  store<u32>(ranges, <u32>end, 4);
  store<f32>(ranges, FAR, 8);
  while (n < 8) {
    let pick = -1;
    let most: f32 = -1;
    for (let i = 0; i < n; i++) {
      const r = ranges + i * 12;
      if (<i32>((load<u32>(r, 4) - load<u32>(r)) / REF) <= leafMost) continue;
      const a = load<f32>(r, 8);
      if (a > most) {
        most = a;
        pick = i;
      }
    }
    if (pick < 0) break;
    const r = ranges + pick * 12;
    const b = <usize>load<u32>(r);
    const e = <usize>load<u32>(r, 4);
    const m = split(b, e);
    const q = ranges + n * 12;
    store<u32>(r, <u32>m, 4);
    store<u32>(q, <u32>m);
    store<u32>(q, <u32>e, 4);
    boundsOf(b, m, box);
    store<f32>(r, area(v128.load(box), v128.load(box, 16)), 8);
    boundsOf(m, e, box);
    store<f32>(q, area(v128.load(box), v128.load(box, 16)), 8);
    n++;
  }
  for (let i = 0; i < 8; i++) {
    const at = node + i * 4;
    if (i < n) {
      const r = ranges + i * 12;
      const b = <usize>load<u32>(r);
      const e = <usize>load<u32>(r, 4);
      boundsOf(b, e, box);
      for (let k = 0; k < 3; k++) {
        const lo = load<f32>(box + k * 4);
        const hi = load<f32>(box + k * 4, 16);
        // Padding keeps rays that graze a face inside in spite of rounding.
        const pad = max<f32>(abs<f32>(lo), abs<f32>(hi)) * <f32>4e-7;
        store<f32>(at + k * 64, lo - pad);
        store<f32>(at + k * 64 + 32, hi + pad);
      }
      store<u32>(at, emitRange(b, e, depth + 1), 192);
    } else {
      for (let k = 0; k < 3; k++) {
        store<f32>(at + k * 64, Infinity);
        store<f32>(at + k * 64 + 32, -Infinity);
      }
      store<u32>(at, 0, 192);
    }
  }
  return <u32>node;
}

/**
 * Tree over the triangles of a mesh. `refs` has room for 32 bytes a triangle, `work` 16 KiB. Returns the tagged root;
 * `builtEnd` tells where the tree ends.
 */
export function buildMesh(positionsAt: usize, indicesAt: usize, triangles: u32, refs: usize, work: usize, outAt: usize): u32 {
  positions = positionsAt;
  indices = indicesAt;
  scratch = work;
  out = outAt;
  leafMost = 4;
  for (let t: u32 = 0; t < triangles; t++) {
    const a = positions + <usize>load<u32>(indices + t * 12) * 12;
    const b = positions + <usize>load<u32>(indices + t * 12, 4) * 12;
    const c = positions + <usize>load<u32>(indices + t * 12, 8) * 12;
    const r = refs + t * 32;
    for (let k: usize = 0; k < 12; k += 4) {
      const x = load<f32>(a + k);
      const y = load<f32>(b + k);
      const z = load<f32>(c + k);
      store<f32>(r + k, min<f32>(x, min<f32>(y, z)));
      store<f32>(r + k, max<f32>(x, max<f32>(y, z)), 16);
    }
    store<u32>(r, t, 12);
    store<u32>(r, 0, 28);
  }
  return triangles == 0 ? 0 : emitRange(refs, refs + <usize>triangles * REF, 0);
}

/** Tree over given references (boxes and tagged payloads). Leaves are the payloads themselves. */
export function buildTop(refs: usize, count: u32, work: usize, outAt: usize): u32 {
  scratch = work;
  out = outAt;
  leafMost = 1;
  return count == 0 ? 0 : emitRange(refs, refs + <usize>count * REF, 0);
}

export function builtEnd(): usize {
  return out;
}
