/**
 * Builds trees of eight children. A binary tree is split top down by binned surface-area cost, three axes in one pass
 * (Wald 2007), with the cost of leaves counted in blocks of four triangles; it is then collapsed to eight children by
 * dynamic programming on the same cost (Wald et al. 2008; Ylitie et al. 2017). References are 32 bytes: least corner,
 * payload, greatest corner. Payloads of triangles are offset, so that no lane of a reference is a denormal number: with
 * plain numbers the same build takes ten times as long.
 *
 * Large meshes are cut into ranges of at most {@link CHUNK} triangles, each collapsed by itself, so that the binary
 * tree
 * of one range is all that lies in memory at a time, and ranges can be built by several threads.
 *
 * Tried and measured (terrain of 1 M triangles, one thread): greedy opening of the largest child instead of dynamic
 * programming: 9 % more bytes, rays 1 to 2 % slower; bounds of children from passes of their own instead of from the
 * bins: build 1.6 times as long; ranges of at most 8 halved without bins: build 10 % shorter, rays 1.5 % dearer, 4 %
 * more bytes.
 */
import { TAG_TRIANGLES } from "./layout";

const MOST_BINS: i32 = 16;
const REF: usize = 32;
const NODE: usize = 224;
const LEAF: usize = 160;
/**
 * Binary node: least corner, left; greatest corner, right; choices; count. A leaf has count > 0 and left = its
 * first reference.
 */
const BIN: usize = 48;
const B_LEFT: usize = 12;
const B_RIGHT: usize = 28;
const B_CHOICE: usize = 32;
const B_COUNT: usize = 36;
/** What lies on one triangle's payload, so that its bits read as a plain float. */
const OFFSET: u32 = 0x40000000;
/** Beyond this depth ranges are halved, which bounds the stack of the walk. */
const DEEP: i32 = 48;
const HALF: f32 = 0.501;
/** Two to the 23rd: from here on neighbouring floats lie one apart. */
const WHOLE: f32 = 8388608;
const FIRST_BIN: i32 = 0x4b000001;
/** Cost of visiting a leaf, in visits of a node. */
const LEAF_COST: f32 = 0.7;

const FAR: f32 = 1e30;

let out: usize = 0;
/**
 * Where several threads build into one block: the address of its first free byte, taken in pieces of {@link PIECE};
 * 0 for one thread.
 */
let shared: usize = 0;
let pieceEnd: usize = 0;
const PIECE: usize = 16384;
let binary: usize = 0;
let scratch: usize = 0;
let positions: usize = 0;
let indices: usize = 0;
let leafMost: i32 = 4;

// Centre bounds of the two sides of the last split, and their boxes.
let leftLo: v128 = f32x4.splat(0);
let leftHi: v128 = f32x4.splat(0);
let rightLo: v128 = f32x4.splat(0);
let rightHi: v128 = f32x4.splat(0);
let leftMin: v128 = f32x4.splat(0);
let leftMax: v128 = f32x4.splat(0);
let rightMin: v128 = f32x4.splat(0);
let rightMax: v128 = f32x4.splat(0);

/** Room for a node or a leaf. */
// @ts-ignore: decorator
@inline
function take(bytes: usize): usize {
  if (shared != 0 && out + bytes > pieceEnd) {
    out = <usize>atomic.add<u32>(shared, <u32>PIECE);
    pieceEnd = out + PIECE;
  }
  const at = out;
  out += bytes;
  return at;
}

// @ts-ignore: decorator
@inline
function area(lo: v128, hi: v128): f32 {
  const d = f32x4.sub(hi, lo);
  const x = f32x4.extract_lane(d, 0);
  const y = f32x4.extract_lane(d, 1);
  const z = f32x4.extract_lane(d, 2);
  return x * y + y * z + z * x;
}

// @ts-ignore: decorator
@inline
function lane(v: v128, axis: i32): f32 {
  return axis == 0 ? f32x4.extract_lane(v, 0) : axis == 1 ? f32x4.extract_lane(v, 1) : f32x4.extract_lane(v, 2);
}

/** Bounds of boxes and of doubled centres of [begin, end), as the left side of a split. */
function measure(begin: usize, end: usize): void {
  let lo = f32x4.splat(FAR);
  let hi = f32x4.splat(-FAR);
  let cl = lo;
  let ch = hi;
  for (let p = begin; p < end; p += REF) {
    const a = v128.load(p);
    const b = v128.load(p, 16);
    const c = f32x4.add(a, b);
    lo = f32x4.pmin(lo, a);
    hi = f32x4.pmax(hi, b);
    cl = f32x4.pmin(cl, c);
    ch = f32x4.pmax(ch, c);
  }
  leftMin = lo;
  leftMax = hi;
  leftLo = cl;
  leftHi = ch;
}

/** Halves a range whose centres all coincide, or that lies too deep. */
function halve(begin: usize, end: usize): usize {
  const middle = begin + ((end - begin) / REF / 2) * REF;
  measure(middle, end);
  rightMin = leftMin;
  rightMax = leftMax;
  rightLo = leftLo;
  rightHi = leftHi;
  measure(begin, middle);
  return middle;
}

/** Splits [begin, end), whose doubled centres lie in [lo, hi], in place; returns where the right side begins. */
function split(begin: usize, end: usize, lo: v128, hi: v128, depth: i32): usize {
  const count = <i32>((end - begin) / REF);
  if (depth > DEEP) return halve(begin, end);
  const bins = min<i32>(MOST_BINS, 4 + count / 20);
  const extent = f32x4.sub(hi, lo);
  // Bins are numbered from 1: 0.501 more, and the next sum rounds to whole numbers, which then stand in the low bits.
  const k = f32x4.div(f32x4.splat(<f32>bins - <f32>0.01), f32x4.pmax(extent, f32x4.splat(<f32>1e-20)));
  const whole = f32x4.splat(WHOLE);
  const half = f32x4.splat(HALF);
  const boxes = scratch;
  const counts = scratch + 3 * MOST_BINS * 32;
  const far = f32x4.splat(FAR);
  const near = f32x4.splat(-FAR);
  for (let axis: usize = 0; axis < 3; axis++) {
    for (let i: usize = 0; i < <usize>bins; i++) {
      const at = axis * MOST_BINS + i;
      v128.store(boxes + at * 32, far);
      v128.store(boxes + at * 32, near, 16);
      store<i32>(counts + at * 4, 0);
    }
  }
  for (let p = begin; p < end; p += REF) {
    const a = v128.load(p);
    const b = v128.load(p, 16);
    const bin = i32x4.sub(f32x4.add(f32x4.add(f32x4.mul(f32x4.sub(f32x4.add(a, b), lo), k), half), whole),
      i32x4.splat(FIRST_BIN));
    const bx = <usize>i32x4.extract_lane(bin, 0);
    const by = <usize>i32x4.extract_lane(bin, 1);
    const bz = <usize>i32x4.extract_lane(bin, 2);
    const px = boxes + bx * 32;
    const py = boxes + by * 32 + MOST_BINS * 32;
    const pz = boxes + bz * 32 + 2 * MOST_BINS * 32;
    const nx = counts + bx * 4;
    const ny = counts + by * 4 + MOST_BINS * 4;
    const nz = counts + bz * 4 + 2 * MOST_BINS * 4;
    v128.store(px, f32x4.pmin(v128.load(px), a));
    v128.store(px, f32x4.pmax(v128.load(px, 16), b), 16);
    v128.store(py, f32x4.pmin(v128.load(py), a));
    v128.store(py, f32x4.pmax(v128.load(py, 16), b), 16);
    v128.store(pz, f32x4.pmin(v128.load(pz), a));
    v128.store(pz, f32x4.pmax(v128.load(pz, 16), b), 16);
    store<i32>(nx, load<i32>(nx) + 1);
    store<i32>(ny, load<i32>(ny) + 1);
    store<i32>(nz, load<i32>(nz) + 1);
  }
  let best: f32 = Infinity;
  let bestAxis = -1;
  let bestBin = 0;
  const block = leafMost - 1;
  const shift = leafMost == 4 ? 2 : 0;
  const right = counts + 3 * MOST_BINS * 4;
  for (let axis = 0; axis < 3; axis++) {
    const base = boxes + <usize>(axis * MOST_BINS * 32);
    const cbase = counts + <usize>(axis * MOST_BINS * 4);
    let l = far;
    let h = near;
    let n = 0;
    for (let i = bins - 1; i > 0; i--) {
      l = f32x4.pmin(l, v128.load(base + <usize>i * 32));
      h = f32x4.pmax(h, v128.load(base + <usize>i * 32, 16));
      n += load<i32>(cbase + <usize>i * 4);
      store<f32>(right + <usize>i * 4, n > 0 ? area(l, h) * <f32>((n + block) >> shift) : Infinity);
    }
    l = far;
    h = near;
    n = 0;
    for (let i = 0; i < bins - 1; i++) {
      l = f32x4.pmin(l, v128.load(base + <usize>i * 32));
      h = f32x4.pmax(h, v128.load(base + <usize>i * 32, 16));
      n += load<i32>(cbase + <usize>i * 4);
      if (n == 0 || n == count) continue;
      const cost = area(l, h) * <f32>((n + block) >> shift) + load<f32>(right + <usize>(i + 1) * 4);
      if (cost < best) {
        best = cost;
        bestAxis = axis;
        bestBin = i;
      }
    }
  }
  if (bestAxis < 0) return halve(begin, end);
  // Boxes of both sides come from the bins.
  const base = boxes + <usize>(bestAxis * MOST_BINS * 32);
  let aMin = far, aMax = near, bMin = far, bMax = near;
  for (let i = 0; i < bins; i++) {
    const l = v128.load(base + <usize>i * 32);
    const h = v128.load(base + <usize>i * 32, 16);
    if (i <= bestBin) {
      aMin = f32x4.pmin(aMin, l);
      aMax = f32x4.pmax(aMax, h);
    } else {
      bMin = f32x4.pmin(bMin, l);
      bMax = f32x4.pmax(bMax, h);
    }
  }
  // Partition, with the centres' bounds of both sides on the way.
  const axisAt = <usize>(bestAxis * 4);
  const loA = lane(lo, bestAxis);
  const kA = lane(k, bestAxis);
  const last = WHOLE + <f32>(bestBin + 1);
  let al = far, ah = near, bl = far, bh = near;
  let i = begin;
  let j = end;
  while (i < j) {
    const a = v128.load(i);
    const b = v128.load(i, 16);
    const c = f32x4.add(a, b);
    if ((load<f32>(i + axisAt) + load<f32>(i + axisAt, 16) - loA) * kA + HALF + WHOLE <= last) {
      al = f32x4.pmin(al, c);
      ah = f32x4.pmax(ah, c);
      i += REF;
    } else {
      bl = f32x4.pmin(bl, c);
      bh = f32x4.pmax(bh, c);
      j -= REF;
      v128.store(i, v128.load(j));
      v128.store(i, v128.load(j, 16), 16);
      v128.store(j, a);
      v128.store(j, b, 16);
    }
  }
  leftMin = aMin;
  leftMax = aMax;
  rightMin = bMin;
  rightMax = bMax;
  leftLo = al;
  leftHi = ah;
  rightLo = bl;
  rightHi = bh;
  return i;
}

/**
 * Binary tree over [begin, end) with box [lo, hi] and centres in [cl, ch]. Leaves the costs of the subtree as one to
 * seven children at `costs`; those of its own children lie after it on that stack.
 */
function grow(begin: usize, end: usize, lo: v128, hi: v128, cl: v128, ch: v128, depth: i32, costs: usize): usize {
  const node = binary;
  binary += BIN;
  v128.store(node, lo);
  v128.store(node, hi, 16);
  const count = <i32>((end - begin) / REF);
  const own = area(lo, hi);
  if (count <= leafMost) {
    store<u32>(node, <u32>begin, B_LEFT);
    store<u32>(node, count, B_COUNT);
    v128.store(costs, f32x4.splat(own * LEAF_COST));
    v128.store(costs, f32x4.splat(own * LEAF_COST), 16);
    return node;
  }
  store<u32>(node, 0, B_COUNT);
  const middle = split(begin, end, cl, ch, depth);
  const rMin = rightMin, rMax = rightMax, rLo = rightLo, rHi = rightHi;
  const ofLeft = costs + 32;
  const ofRight = costs + 64;
  store<u32>(node, <u32>grow(begin, middle, leftMin, leftMax, leftLo, leftHi, depth + 1, ofLeft), B_LEFT);
  store<u32>(node, <u32>grow(middle, end, rMin, rMax, rLo, rHi, depth + 1, ofRight), B_RIGHT);
  // Least cost of standing for this subtree with at most n nodes, n = 2 … 8; the choice is how many go to the left.
  let choices: u32 = 0;
  let before: f32 = Infinity;
  let whole: f32 = 0;
  for (let n: usize = 2; n <= 8; n++) {
    let least: f32 = Infinity;
    let choice: usize = 0;
    for (let a: usize = 1; a < n; a++) {
      const c = load<f32>(ofLeft + (a - 1) * 4) + load<f32>(ofRight + (n - a - 1) * 4);
      if (c < least) {
        least = c;
        choice = a;
      }
    }
    if (n == 8) {
      whole = least + own;
      choices |= <u32>choice << 24;
      break;
    }
    if (least >= before) {
      least = before;
      choice = 0;
    }
    before = least;
    choices |= <u32>choice << <u32>((n - 2) * 4);
    store<f32>(costs + (n - 1) * 4, least);
  }
  store<f32>(costs, whole);
  for (let n: usize = 2; n <= 7; n++) {
    // One wide node may be cheaper than several of its parts.
    if (load<f32>(costs + (n - 1) * 4) <= whole) break;
    store<f32>(costs + (n - 1) * 4, whole);
    choices &= ~(<u32>15 << <u32>((n - 2) * 4));
  }
  store<u32>(node, choices, B_CHOICE);
  return node;
}

// @ts-ignore: decorator
@inline
function numberOf(p: usize): u32 {
  return load<u32>(p, 12) - OFFSET;
}

function emitTriangles(begin: usize, count: u32): u32 {
  const at = take(LEAF);
  for (let i: u32 = 0; i < 4; i++) {
    // Empty lanes repeat the first vertex of the first triangle: a point, which nothing hits.
    const t = numberOf(begin + <usize>(i < count ? i : 0) * REF);
    const to = at + <usize>i * 4;
    for (let corner: usize = 0; corner < 3; corner++) {
      const v = positions + <usize>load<u32>(indices + <usize>t * 12 + (i < count ? corner : 0) * 4) * 12;
      store<f32>(to + corner * 48, load<f32>(v));
      store<f32>(to + corner * 48, load<f32>(v, 4), 16);
      store<f32>(to + corner * 48, load<f32>(v, 8), 32);
    }
    store<u32>(to, t, 144);
  }
  return <u32>at | TAG_TRIANGLES;
}

let gathered: i32 = 0;

/** Gathers the binary nodes that stand for a subtree with at most n children. */
function gather(node: usize, n: i32, list: usize): void {
  if (load<u32>(node, B_COUNT) == 0) {
    const choices = load<u32>(node, B_CHOICE);
    let k = n;
    while (k > 1) {
      const left = <i32>((choices >> <u32>((k - 2) * 4)) & 15);
      if (left != 0) {
        gather(<usize>load<u32>(node, B_LEFT), left, list);
        gather(<usize>load<u32>(node, B_RIGHT), k - left, list);
        return;
      }
      k--;
    }
  }
  store<u32>(list + <usize>gathered * 4, <u32>node);
  gathered++;
}

/** Writes the wide node, or leaf, of a binary node; returns its tagged reference. */
function emit(node: usize, depth: i32): u32 {
  const count = load<u32>(node, B_COUNT);
  if (count > 0) {
    const begin = <usize>load<u32>(node, B_LEFT);
    return leafMost == 1 ? load<u32>(begin, 12) : emitTriangles(begin, count);
  }
  const at = take(NODE);
  const list = scratch + 8192 + <usize>depth * 32;
  gathered = 0;
  const choices = load<u32>(node, B_CHOICE);
  const left = <i32>(choices >> 24);
  gather(<usize>load<u32>(node, B_LEFT), left, list);
  gather(<usize>load<u32>(node, B_RIGHT), 8 - left, list);
  const n = gathered;
  for (let i = 0; i < 8; i++) {
    const to = at + <usize>i * 4;
    if (i < n) {
      const child = <usize>load<u32>(list + <usize>i * 4);
      for (let k: usize = 0; k < 3; k++) {
        store<f32>(to + k * 64, load<f32>(child + k * 4));
        store<f32>(to + k * 64, load<f32>(child + k * 4, 16), 32);
      }
      store<u32>(to, emit(child, depth + 1), 192);
    } else {
      for (let k: usize = 0; k < 3; k++) {
        store<f32>(to + k * 64, Infinity);
        store<f32>(to + k * 64, -Infinity, 32);
      }
      store<u32>(to, 0, 192);
    }
  }
  return <u32>at;
}

/** Tree over a range of references, by way of a binary tree at `room`. */
function build(begin: usize, end: usize, room: usize): u32 {
  if (begin == end) return 0;
  binary = room;
  measure(begin, end);
  const root = grow(begin, end, leftMin, leftMax, leftLo, leftHi, 0, scratch + 16_384);
  return emit(root, 0);
}

/** Writes the references of the triangles of a mesh, 32 bytes each. */
export function referTriangles(positionsAt: usize, indicesAt: usize, triangles: u32, refs: usize): void {
  for (let t: u32 = 0; t < triangles; t++) {
    const tri = indicesAt + <usize>t * 12;
    const a = positionsAt + <usize>load<u32>(tri) * 12;
    const b = positionsAt + <usize>load<u32>(tri, 4) * 12;
    const c = positionsAt + <usize>load<u32>(tri, 8) * 12;
    const r = refs + <usize>t * REF;
    for (let k: usize = 0; k < 12; k += 4) {
      const x = load<f32>(a + k);
      const y = load<f32>(b + k);
      const z = load<f32>(c + k);
      store<f32>(r + k, min<f32>(x, min<f32>(y, z)));
      store<f32>(r + k, max<f32>(x, max<f32>(y, z)), 16);
    }
    store<u32>(r, t + OFFSET, 12);
    store<u32>(r, 0, 28);
  }
}

/**
 * Cuts a range of references in two, in place, as the builder would; returns where the second begins. With it large
 * meshes are cut into ranges that {@link buildRange} builds one by one, or by several threads at once.
 */
export function cutRange(begin: usize, end: usize, work: usize): usize {
  scratch = work;
  leafMost = 4;
  measure(begin, end);
  return split(begin, end, leftLo, leftHi, 0);
}

/**
 * Tree over a range of references of triangles. `room` takes 96 bytes a triangle for the time of the build, `work`
 * 32 KiB. Returns the tagged root; {@link builtEnd} tells where the tree ends. With `sharedAt` several threads
 * build into one
 * block: that address holds its first free byte, and `outAt` is not looked at.
 */
export function buildRange(positionsAt: usize, indicesAt: usize, begin: usize, end: usize, room: usize, work: usize,
  outAt: usize, sharedAt: usize): u32 {
  shared = sharedAt;
  pieceEnd = 0;
  positions = positionsAt;
  indices = indicesAt;
  scratch = work;
  out = outAt;
  leafMost = 4;
  return build(begin, end, room);
}

/**
 * Tree over given references (boxes and tagged payloads). Leaves are the payloads themselves. `room` takes 96 bytes
 * a reference.
 */
export function buildTop(refs: usize, count: u32, room: usize, work: usize, outAt: usize): u32 {
  shared = 0;
  scratch = work;
  out = outAt;
  leafMost = 1;
  return build(refs, refs + <usize>count * REF, room);
}

export function builtEnd(): usize {
  return out;
}
