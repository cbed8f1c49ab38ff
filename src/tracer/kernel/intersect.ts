/**
 * Nearest and any hit through two levels of trees. One ray against eight boxes in two SIMD registers; the walk stands
 * eight times in the code, once for each octant of directions, so that near and far planes are constants (the copies
 * are made by inlining). Children wait on a stack of distance and reference in one integer, so that order is a
 * comparison. Triangles are met four at a time by the watertight test (Woop, Benthin and Wald 2013): corners relative
 * to the ray are sheared so that the ray is an axis, and the signs of three edge functions decide. Two triangles that
 * share an edge compute the same products in it, so no ray passes between them; far planes of boxes are widened by the
 * error of their distance (Ize 2013). Equal distances go to the lowest (instance, triangle).
 */
import {
  I_ORDER, I_ROOT, I_WAY, TAG_MASK, TAG_NODE, TAG_TRIANGLES, WAY_ANGLE, WAY_CUT, WAY_PLACES, WAY_SIZES, WAY_SLICED,
  WAY_TURNS,
} from "./layout";
import { isThere } from "./cut";
import { moment } from "./state";

export let hitT: f32 = 0;
export let hitInstance: usize = 0;
export let hitTriangle: u32 = 0;
export let hitU: f32 = 0;
export let hitV: f32 = 0;
/** Address of the hit triangle's lane in its leaf. */
export let hitLane: usize = 0;
export let raysCast: u64 = 0;

/** Takes another distance for that of the hit. */
export function standHit(far: f32): void {
  hitT = far;
}

let keptT: f32 = 0;
let keptInstance: usize = 0;
let keptTriangle: u32 = 0;
let keptU: f32 = 0;
let keptV: f32 = 0;
let keptLane: usize = 0;

/** Keeps the present hit while other rays are cast. */
export function keepHit(): void {
  keptT = hitT;
  keptInstance = hitInstance;
  keptTriangle = hitTriangle;
  keptU = hitU;
  keptV = hitV;
  keptLane = hitLane;
}

/** Brings back the hit that was kept. */
export function takeHitBack(): void {
  hitT = keptT;
  hitInstance = keptInstance;
  hitTriangle = keptTriangle;
  hitU = keptU;
  hitV = keptV;
  hitLane = keptLane;
}

/** A level's stack, the distances of one node's children above it, and notes of which instances this ray has met. */
const SPILL: usize = 6144;
const MAILBOX: usize = 6656;
const RAY: usize = 7168;
const LEVEL: usize = 8192;
/** Far planes move out by twice the rounding of (plane − origin) / direction. */
const WIDEN: f32 = 1.0000005;

let stack: usize = 0;
/** Where the present pose of what moves is put, as an instance has its own. */
let posed: usize = 0;

export function setStack(at: usize, pose: usize): void {
  stack = at;
  posed = pose;
  memory.fill(at + MAILBOX, 0, 512);
}

/** Address of the way from the world into an instance's mesh at the sample's moment. */
// @ts-ignore: decorator
@inline
export function poseOf(instance: usize): usize {
  const way = <usize>(load<u32>(instance, I_WAY) & ~(WAY_SLICED | WAY_CUT));
  return way == 0 ? instance : posedOn(way);
}

/** Sizes and places go straight, turns along the shorter arc (Shoemake 1985). */
function posedOn(way: usize): usize {
  const t = moment;
  const angle = load<f32>(way, WAY_ANGLE);
  let a: f32 = <f32>1 - t;
  let b: f32 = t;
  if (angle > <f32>1e-3) {
    const k = <f32>1 / Mathf.sin(angle);
    a = Mathf.sin(a * angle) * k;
    b = Mathf.sin(b * angle) * k;
  }
  let x = a * load<f32>(way, WAY_TURNS) + b * load<f32>(way, WAY_TURNS + 16);
  let y = a * load<f32>(way, WAY_TURNS + 4) + b * load<f32>(way, WAY_TURNS + 20);
  let z = a * load<f32>(way, WAY_TURNS + 8) + b * load<f32>(way, WAY_TURNS + 24);
  let w = a * load<f32>(way, WAY_TURNS + 12) + b * load<f32>(way, WAY_TURNS + 28);
  const n = <f32>1 / Mathf.sqrt(x * x + y * y + z * z + w * w);
  x *= n;
  y *= n;
  z *= n;
  w *= n;
  const at = posed;
  for (let i: usize = 0; i < 3; i++) {
    const s0 = load<f32>(way + i * 4, WAY_SIZES);
    const s = <f32>1 / (s0 + t * (load<f32>(way + i * 4, WAY_SIZES + 12) - s0));
    // The i-th axis of the body in the world is a row of the inverse.
    const rx: f32 = i == 0 ? <f32>1 - <f32>2 * (y * y + z * z) : i == 1 ? <f32>2 * (x * y - w * z) : <f32>2 * (x * z + w * y);
    const ry: f32 = i == 0 ? <f32>2 * (x * y + w * z) : i == 1 ? <f32>1 - <f32>2 * (x * x + z * z) : <f32>2 * (y * z - w * x);
    const rz: f32 = i == 0 ? <f32>2 * (x * z - w * y) : i == 1 ? <f32>2 * (y * z + w * x) : <f32>1 - <f32>2 * (x * x + y * y);
    const p0x = load<f32>(way, WAY_PLACES);
    const p0y = load<f32>(way, WAY_PLACES + 4);
    const p0z = load<f32>(way, WAY_PLACES + 8);
    const px = p0x + t * (load<f32>(way, WAY_PLACES + 12) - p0x);
    const py = p0y + t * (load<f32>(way, WAY_PLACES + 16) - p0y);
    const pz = p0z + t * (load<f32>(way, WAY_PLACES + 20) - p0z);
    const to = at + i * 4;
    store<f32>(to, rx * s);
    store<f32>(to, ry * s, 16);
    store<f32>(to, rz * s, 32);
    store<f32>(to, -(rx * px + ry * py + rz * pz) * s, 48);
  }
  return at;
}

// @ts-ignore: decorator
@inline
function vector(x: f32, y: f32, z: f32): v128 {
  return f32x4.replace_lane(f32x4.replace_lane(f32x4.replace_lane(f32x4.splat(0), 0, x), 1, y), 2, z);
}

// @ts-ignore: decorator
@inline
function laneOf(v: v128, i: i32): f32 {
  return i == 0 ? f32x4.extract_lane(v, 0) : i == 1 ? f32x4.extract_lane(v, 1) : i == 2 ? f32x4.extract_lane(v, 2)
    : f32x4.extract_lane(v, 3);
}

/** Whether a body is cut out, so that what a ray meets of it may not be there. */
// @ts-ignore: decorator
@inline
function isCut(instance: usize): bool {
  return (load<u32>(instance, I_WAY) & WAY_CUT) != 0;
}

/** Whether one of the hit lanes of a leaf of what is cut out is there. */
function stops(leaf: usize, instance: usize, mask: i32, v: v128, w: v128, det: v128): bool {
  const k = f32x4.div(f32x4.splat(1), det);
  while (mask != 0) {
    const lane = ctz<i32>(mask);
    mask &= mask - 1;
    if (isThere(instance, leaf + <usize>(lane * 4), laneOf(v, lane) * laneOf(k, lane), laneOf(w, lane) * laneOf(k, lane))) return true;
  }
  return false;
}

/**
 * Takes the nearest of the hit lanes of a leaf: edge functions V and W, their sum, and distance times that sum. Whether there was any: of
 * what is cut out only what is there counts.
 */
function accept(leaf: usize, instance: usize, mask: i32, v: v128, w: v128, det: v128, t: v128): bool {
  const cut = isCut(instance);
  let any = false;
  const k = f32x4.div(f32x4.splat(1), det);
  const ts = f32x4.div(t, det);
  while (mask != 0) {
    const lane = ctz<i32>(mask);
    mask &= mask - 1;
    const d = laneOf(ts, lane);
    const at = leaf + <usize>(lane * 4);
    const id = load<u32>(at, 144);
    let nearer = d < hitT;
    if (d == hitT && hitInstance != 0) {
      const a = load<u32>(instance, I_ORDER);
      const b = load<u32>(hitInstance, I_ORDER);
      nearer = a < b || (a == b && id < hitTriangle);
    }
    if (!nearer) continue;
    if (cut && !isThere(instance, at, laneOf(v, lane) * laneOf(k, lane), laneOf(w, lane) * laneOf(k, lane))) continue;
    any = true;
    hitT = d;
    hitInstance = instance;
    hitTriangle = id;
    hitLane = at;
    hitU = laneOf(v, lane) * laneOf(k, lane);
    hitV = laneOf(w, lane) * laneOf(k, lane);
  }
  return any;
}

/** Enters an instance that lies in the top tree. */
function enter(to: usize, base: usize, any: bool): bool {
  if ((load<u32>(to, I_WAY) & WAY_SLICED) != 0) {
    // A long body is entered in slices; once this ray has met it, its other slices have nothing new to say.
    const mail = base + MAILBOX + ((to >> 5) & 63) * 8;
    const letter = (<u64>to << 32) | (raysCast & 0xffffffff);
    if (load<u64>(mail) == letter) return false;
    store<u64>(mail, letter);
  }
  const root = load<u32>(to, I_ROOT);
  if (root == 0) return false;
  const pose = poseOf(to);
  const c0 = v128.load(pose);
  const c1 = v128.load(pose, 16);
  const c2 = v128.load(pose, 32);
  const ray = base + RAY;
  const o = f32x4.add(
    f32x4.add(f32x4.add(f32x4.mul(c0, v128.load32_splat(ray)), f32x4.mul(c1, v128.load32_splat(ray + 4))),
      f32x4.mul(c2, v128.load32_splat(ray + 8))),
    v128.load(pose, 48),
  );
  const d = f32x4.add(
    f32x4.add(f32x4.mul(c0, v128.load32_splat(ray + 16)), f32x4.mul(c1, v128.load32_splat(ray + 20))),
    f32x4.mul(c2, v128.load32_splat(ray + 24)),
  );
  return walk(root, base + LEVEL, to, any, o, d);
}

/** The walk, with the octant's near planes as constants: offsets of the near x, y and z planes in a node. */
// @ts-ignore: decorator
@inline
function through(root: u32, base: usize, instance: usize, any: bool, nx: usize, ny: usize, nz: usize): bool {
  const ray = base + RAY;
  const Ox = v128.load32_splat(ray);
  const Oy = v128.load32_splat(ray + 4);
  const Oz = v128.load32_splat(ray + 8);
  const Ix = v128.load32_splat(ray + 32);
  const Iy = v128.load32_splat(ray + 36);
  const Iz = v128.load32_splat(ray + 40);
  const fx: usize = 32 - nx;
  const fy: usize = 160 - ny;
  const fz: usize = 288 - nz;
  const zero = f32x4.splat(0);
  const wide = f32x4.splat(WIDEN);
  let far = f32x4.splat(hitT);
  let found = false;
  let top = base;
  let ref = root;
  while (true) {
    const tag = ref & TAG_MASK;
    if (tag == TAG_NODE) {
      const node = <usize>ref;
      const near0 = f32x4.pmax(
        f32x4.pmax(f32x4.mul(f32x4.sub(v128.load(node + nx), Ox), Ix),
          f32x4.mul(f32x4.sub(v128.load(node + ny), Oy), Iy)),
        f32x4.pmax(f32x4.mul(f32x4.sub(v128.load(node + nz), Oz), Iz), zero),
      );
      const near1 = f32x4.pmax(
        f32x4.pmax(f32x4.mul(f32x4.sub(v128.load(node + nx, 16), Ox), Ix),
          f32x4.mul(f32x4.sub(v128.load(node + ny, 16), Oy), Iy)),
        f32x4.pmax(f32x4.mul(f32x4.sub(v128.load(node + nz, 16), Oz), Iz), zero),
      );
      const far0 = f32x4.pmin(
        f32x4.pmin(f32x4.mul(f32x4.sub(v128.load(node + fx), Ox), Ix),
          f32x4.mul(f32x4.sub(v128.load(node + fy), Oy), Iy)),
        f32x4.pmin(f32x4.mul(f32x4.sub(v128.load(node + fz), Oz), Iz), far),
      );
      const far1 = f32x4.pmin(
        f32x4.pmin(f32x4.mul(f32x4.sub(v128.load(node + fx, 16), Ox), Ix),
          f32x4.mul(f32x4.sub(v128.load(node + fy, 16), Oy), Iy)),
        f32x4.pmin(f32x4.mul(f32x4.sub(v128.load(node + fz, 16), Oz), Iz), far),
      );
      let mask = i32x4.bitmask(f32x4.le(near0, f32x4.mul(far0, wide))) |
        (i32x4.bitmask(f32x4.le(near1, f32x4.mul(far1, wide))) << 4);
      if (mask != 0) {
        const at = node + <usize>(ctz<i32>(mask) * 4);
        const rest = mask & (mask - 1);
        ref = load<u32>(at, 192);
        if (rest == 0) continue;
        if (any) {
          mask = rest;
          while (mask != 0) {
            store<u32>(top, load<u32>(node + <usize>(ctz<i32>(mask) * 4), 192));
            top += 8;
            mask &= mask - 1;
          }
          continue;
        }
        // Distances go to memory for indexed reads; non-negative floats order as integers.
        v128.store(base + SPILL, near0);
        v128.store(base + SPILL, near1, 16);
        const spill = base + SPILL - node;
        const second = node + <usize>(ctz<i32>(rest) * 4);
        const t1 = load<u32>(at + spill);
        const t2 = load<u32>(second + spill);
        mask = rest & (rest - 1);
        if (mask == 0) {
          const r2 = load<u32>(second, 192);
          if (t1 <= t2) {
            store<u64>(top, (<u64>t2 << 32) | <u64>r2);
          } else {
            store<u64>(top, (<u64>t1 << 32) | <u64>ref);
            ref = r2;
          }
          top += 8;
          continue;
        }
        const start = top;
        let nearest = (<u64>t1 << 32) | <u64>ref;
        let other = (<u64>t2 << 32) | <u64>load<u32>(second, 192);
        while (true) {
          // The nearest stays in hand; the others are inserted, farthest lowest.
          if (other < nearest) {
            const held = nearest;
            nearest = other;
            store<u64>(top, held);
          } else {
            let p = top;
            while (p > start && load<u64>(p - 8) < other) {
              store<u64>(p, load<u64>(p - 8));
              p -= 8;
            }
            store<u64>(p, other);
          }
          top += 8;
          if (mask == 0) break;
          const c = node + <usize>(ctz<i32>(mask) * 4);
          mask &= mask - 1;
          other = (<u64>load<u32>(c + spill) << 32) | <u64>load<u32>(c, 192);
        }
        ref = <u32>nearest;
        continue;
      }
    } else if (tag == TAG_TRIANGLES) {
      const leaf = <usize>(ref & ~TAG_MASK);
      const kx = <usize>load<u32>(ray, 48);
      const ky = <usize>load<u32>(ray, 52);
      const kz = <usize>load<u32>(ray, 56);
      const Kx = v128.load32_splat(ray + 64);
      const Ky = v128.load32_splat(ray + 68);
      const Kz = v128.load32_splat(ray + 72);
      const Sx = v128.load32_splat(ray + 80);
      const Sy = v128.load32_splat(ray + 84);
      const Az = f32x4.sub(v128.load(leaf + kz), Kz);
      const Bz = f32x4.sub(v128.load(leaf + kz, 48), Kz);
      const Cz = f32x4.sub(v128.load(leaf + kz, 96), Kz);
      const Ax = f32x4.sub(f32x4.sub(v128.load(leaf + kx), Kx), f32x4.mul(Sx, Az));
      const Ay = f32x4.sub(f32x4.sub(v128.load(leaf + ky), Ky), f32x4.mul(Sy, Az));
      const Bx = f32x4.sub(f32x4.sub(v128.load(leaf + kx, 48), Kx), f32x4.mul(Sx, Bz));
      const By = f32x4.sub(f32x4.sub(v128.load(leaf + ky, 48), Ky), f32x4.mul(Sy, Bz));
      const Cx = f32x4.sub(f32x4.sub(v128.load(leaf + kx, 96), Kx), f32x4.mul(Sx, Cz));
      const Cy = f32x4.sub(f32x4.sub(v128.load(leaf + ky, 96), Ky), f32x4.mul(Sy, Cz));
      const U = f32x4.sub(f32x4.mul(Cx, By), f32x4.mul(Cy, Bx));
      const V = f32x4.sub(f32x4.mul(Ax, Cy), f32x4.mul(Ay, Cx));
      const W = f32x4.sub(f32x4.mul(Bx, Ay), f32x4.mul(By, Ax));
      const sum = f32x4.add(f32x4.add(U, V), W);
      const sign = v128.and(sum, i32x4.splat(0x80000000));
      const det = v128.xor(sum, sign);
      const u = v128.xor(U, sign);
      const v = v128.xor(V, sign);
      const w = v128.xor(W, sign);
      const t = f32x4.mul(f32x4.add(f32x4.add(f32x4.mul(u, Az), f32x4.mul(v, Bz)), f32x4.mul(w, Cz)),
        v128.load32_splat(ray + 88));
      const ok = v128.and(
        v128.and(f32x4.ge(f32x4.pmin(f32x4.pmin(u, v), w), zero), f32x4.gt(det, zero)),
        v128.and(f32x4.gt(t, zero), f32x4.le(t, f32x4.mul(det, far))),
      );
      const mask = i32x4.bitmask(ok);
      if (mask != 0) {
        if (any) {
          if (!isCut(instance) || stops(leaf, instance, mask, v, w, det)) return true;
        } else if (accept(leaf, instance, mask, v, w, det, t)) {
          far = f32x4.splat(hitT);
          found = true;
        }
      }
    } else if (enter(<usize>(ref & ~TAG_MASK), base, any)) {
      if (any) return true;
      far = f32x4.splat(hitT);
      found = true;
    }
    if (any) {
      if (top == base) return false;
      top -= 8;
      ref = load<u32>(top);
      continue;
    }
    while (true) {
      if (top == base) return found;
      top -= 8;
      const entry = load<u64>(top);
      if (reinterpret<f32>(<u32>(entry >> 32)) <= hitT) {
        ref = <u32>entry;
        break;
      }
    }
  }
}

function nearest0(root: u32, base: usize, instance: usize): bool {
  return through(root, base, instance, false, 0, 64, 128);
}
function nearest1(root: u32, base: usize, instance: usize): bool {
  return through(root, base, instance, false, 32, 64, 128);
}
function nearest2(root: u32, base: usize, instance: usize): bool {
  return through(root, base, instance, false, 0, 96, 128);
}
function nearest3(root: u32, base: usize, instance: usize): bool {
  return through(root, base, instance, false, 32, 96, 128);
}
function nearest4(root: u32, base: usize, instance: usize): bool {
  return through(root, base, instance, false, 0, 64, 160);
}
function nearest5(root: u32, base: usize, instance: usize): bool {
  return through(root, base, instance, false, 32, 64, 160);
}
function nearest6(root: u32, base: usize, instance: usize): bool {
  return through(root, base, instance, false, 0, 96, 160);
}
function nearest7(root: u32, base: usize, instance: usize): bool {
  return through(root, base, instance, false, 32, 96, 160);
}
function any0(root: u32, base: usize, instance: usize): bool {
  return through(root, base, instance, true, 0, 64, 128);
}
function any1(root: u32, base: usize, instance: usize): bool {
  return through(root, base, instance, true, 32, 64, 128);
}
function any2(root: u32, base: usize, instance: usize): bool {
  return through(root, base, instance, true, 0, 96, 128);
}
function any3(root: u32, base: usize, instance: usize): bool {
  return through(root, base, instance, true, 32, 96, 128);
}
function any4(root: u32, base: usize, instance: usize): bool {
  return through(root, base, instance, true, 0, 64, 160);
}
function any5(root: u32, base: usize, instance: usize): bool {
  return through(root, base, instance, true, 32, 64, 160);
}
function any6(root: u32, base: usize, instance: usize): bool {
  return through(root, base, instance, true, 0, 96, 160);
}
function any7(root: u32, base: usize, instance: usize): bool {
  return through(root, base, instance, true, 32, 96, 160);
}

/** Writes the record of a ray for a level and walks its tree by the copy for the ray's octant. */
function walk(root: u32, base: usize, instance: usize, any: bool, o: v128, d: v128): bool {
  const ray = base + RAY;
  const least = f32x4.splat(1e-18);
  const sign = v128.and(d, i32x4.splat(0x80000000));
  const inverse = f32x4.div(f32x4.splat(1), v128.or(f32x4.pmax(f32x4.abs(d), least), sign));
  v128.store(ray, o);
  v128.store(ray, d, 16);
  v128.store(ray, inverse, 32);
  // The axis of the sheared space is the longest of the direction; its corners are read at these offsets in a leaf.
  const ax = abs<f32>(f32x4.extract_lane(d, 0));
  const ay = abs<f32>(f32x4.extract_lane(d, 1));
  const az = abs<f32>(f32x4.extract_lane(d, 2));
  const kz: usize = ax > ay ? (ax > az ? 0 : 32) : ay > az ? 16 : 32;
  const kx: usize = kz == 32 ? 0 : kz + 16;
  const ky: usize = kx == 32 ? 0 : kx + 16;
  const along = load<f32>(ray + (kz >> 2), 32);
  store<u32>(ray, <u32>kx, 48);
  store<u32>(ray, <u32>ky, 52);
  store<u32>(ray, <u32>kz, 56);
  store<f32>(ray, load<f32>(ray + (kx >> 2)), 64);
  store<f32>(ray, load<f32>(ray + (ky >> 2)), 68);
  store<f32>(ray, load<f32>(ray + (kz >> 2)), 72);
  store<f32>(ray, load<f32>(ray + (kx >> 2), 16) * along, 80);
  store<f32>(ray, load<f32>(ray + (ky >> 2), 16) * along, 84);
  store<f32>(ray, along, 88);
  switch ((i32x4.bitmask(d) & 7) | (<i32>any << 3)) {
    case 0:
      return nearest0(root, base, instance);
    case 1:
      return nearest1(root, base, instance);
    case 2:
      return nearest2(root, base, instance);
    case 3:
      return nearest3(root, base, instance);
    case 4:
      return nearest4(root, base, instance);
    case 5:
      return nearest5(root, base, instance);
    case 6:
      return nearest6(root, base, instance);
    case 7:
      return nearest7(root, base, instance);
    case 8:
      return any0(root, base, instance);
    case 9:
      return any1(root, base, instance);
    case 10:
      return any2(root, base, instance);
    case 11:
      return any3(root, base, instance);
    case 12:
      return any4(root, base, instance);
    case 13:
      return any5(root, base, instance);
    case 14:
      return any6(root, base, instance);
    default:
      return any7(root, base, instance);
  }
}

/** Nearest hit before `far`. Sets the hit values; hitInstance is 0 when there is none. */
export function nearest(root: u32, ox: f32, oy: f32, oz: f32, dx: f32, dy: f32, dz: f32, far: f32): bool {
  raysCast++;
  hitT = far;
  hitInstance = 0;
  if (root == 0) return false;
  return walk(root, stack, 0, false, vector(ox, oy, oz), vector(dx, dy, dz));
}

/** Whether anything lies before `far`. */
export function blocked(root: u32, ox: f32, oy: f32, oz: f32, dx: f32, dy: f32, dz: f32, far: f32): bool {
  raysCast++;
  hitT = far;
  hitInstance = 0;
  if (root == 0) return false;
  return walk(root, stack, 0, true, vector(ox, oy, oz), vector(dx, dy, dz));
}
