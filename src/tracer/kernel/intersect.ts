/**
 * Nearest and any hit through two levels of trees. One ray against eight boxes in two SIMD registers; near and far
 * planes are picked by address from the signs of the direction. Triangles four at a time (Möller and Trumbore 1997)
 * without division until a hit is accepted. Equal distances go to the lowest (instance, triangle).
 */
import { I_MESH, I_ORDER, M_ROOT, TAG_INSTANCE, TAG_MASK, TAG_NODE, TAG_TRIANGLES } from "./layout";

export let hitT: f32 = 0;
export let hitInstance: usize = 0;
export let hitTriangle: u32 = 0;
export let hitU: f32 = 0;
export let hitV: f32 = 0;
/** Address of the hit triangle's lane in its leaf. */
export let hitLane: usize = 0;
export let raysCast: u64 = 0;

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

/** Where a ray notes which instances it has met: 64 notes above its stack. */
const MAILBOX: usize = 6656;

let stack: usize = 0;

export function setStack(at: usize): void {
  stack = at;
  memory.fill(at + MAILBOX, 0, 512);
}

// @ts-ignore: decorator
@inline
function inverse(d: f32): f32 {
  return <f32>1 / (abs<f32>(d) < <f32>1e-18 ? (d < 0 ? <f32>-1e-18 : <f32>1e-18) : d);
}

function triangles(leaf: usize, instance: usize, ox: f32, oy: f32, oz: f32, dx: f32, dy: f32, dz: f32): bool {
  const e1x = v128.load(leaf, 48);
  const e1y = v128.load(leaf, 64);
  const e1z = v128.load(leaf, 80);
  const e2x = v128.load(leaf, 96);
  const e2y = v128.load(leaf, 112);
  const e2z = v128.load(leaf, 128);
  const Dx = f32x4.splat(dx);
  const Dy = f32x4.splat(dy);
  const Dz = f32x4.splat(dz);
  const px = f32x4.sub(f32x4.mul(Dy, e2z), f32x4.mul(Dz, e2y));
  const py = f32x4.sub(f32x4.mul(Dz, e2x), f32x4.mul(Dx, e2z));
  const pz = f32x4.sub(f32x4.mul(Dx, e2y), f32x4.mul(Dy, e2x));
  const det = f32x4.add(f32x4.add(f32x4.mul(e1x, px), f32x4.mul(e1y, py)), f32x4.mul(e1z, pz));
  const sx = f32x4.sub(f32x4.splat(ox), v128.load(leaf));
  const sy = f32x4.sub(f32x4.splat(oy), v128.load(leaf, 16));
  const sz = f32x4.sub(f32x4.splat(oz), v128.load(leaf, 32));
  const sign = v128.and(det, i32x4.splat(0x80000000));
  const size = v128.xor(det, sign);
  const u = v128.xor(f32x4.add(f32x4.add(f32x4.mul(sx, px), f32x4.mul(sy, py)), f32x4.mul(sz, pz)), sign);
  const qx = f32x4.sub(f32x4.mul(sy, e1z), f32x4.mul(sz, e1y));
  const qy = f32x4.sub(f32x4.mul(sz, e1x), f32x4.mul(sx, e1z));
  const qz = f32x4.sub(f32x4.mul(sx, e1y), f32x4.mul(sy, e1x));
  const v = v128.xor(f32x4.add(f32x4.add(f32x4.mul(Dx, qx), f32x4.mul(Dy, qy)), f32x4.mul(Dz, qz)), sign);
  const t = v128.xor(f32x4.add(f32x4.add(f32x4.mul(e2x, qx), f32x4.mul(e2y, qy)), f32x4.mul(e2z, qz)), sign);
  const zero = f32x4.splat(0);
  const ok = v128.and(
    v128.and(v128.and(f32x4.ge(u, zero), f32x4.ge(v, zero)), f32x4.le(f32x4.add(u, v), size)),
    v128.and(v128.and(f32x4.gt(t, zero), f32x4.le(t, f32x4.mul(size, f32x4.splat(hitT)))), f32x4.gt(size, zero)),
  );
  let mask = i32x4.bitmask(ok);
  if (mask == 0) return false;
  const ratio = f32x4.div(t, size);
  let any = false;
  while (mask != 0) {
    const lane = ctz<i32>(mask);
    mask &= mask - 1;
    const at = leaf + <usize>(lane * 4);
    const d = lane == 0 ? f32x4.extract_lane(ratio, 0) : lane == 1 ? f32x4.extract_lane(ratio, 1) : lane == 2 ? f32x4.extract_lane(ratio, 2) : f32x4.extract_lane(ratio, 3);
    const id = load<u32>(at, 144);
    let nearer = d < hitT;
    if (d == hitT && hitInstance != 0) {
      const a = load<u32>(instance, I_ORDER);
      const b = load<u32>(hitInstance, I_ORDER);
      nearer = a < b || (a == b && id < hitTriangle);
    }
    if (!nearer) continue;
    const k = f32x4.div(f32x4.splat(1), size);
    const uu = f32x4.mul(u, k);
    const vv = f32x4.mul(v, k);
    hitT = d;
    hitInstance = instance;
    hitTriangle = id;
    hitLane = at;
    hitU = lane == 0 ? f32x4.extract_lane(uu, 0) : lane == 1 ? f32x4.extract_lane(uu, 1) : lane == 2 ? f32x4.extract_lane(uu, 2) : f32x4.extract_lane(uu, 3);
    hitV = lane == 0 ? f32x4.extract_lane(vv, 0) : lane == 1 ? f32x4.extract_lane(vv, 1) : lane == 2 ? f32x4.extract_lane(vv, 2) : f32x4.extract_lane(vv, 3);
    any = true;
  }
  return any;
}

/** Walks a tree. Returns true at once in `anyHit` mode when something lies nearer than hitT. */
function walk(root: u32, base: usize, instance: usize, anyHit: bool, ox: f32, oy: f32, oz: f32, dx: f32, dy: f32, dz: f32): bool {
  const ix = inverse(dx);
  const iy = inverse(dy);
  const iz = inverse(dz);
  const nx: usize = dx < 0 ? 32 : 0;
  const ny: usize = dy < 0 ? 96 : 64;
  const nz: usize = dz < 0 ? 160 : 128;
  const fx: usize = 32 - nx;
  const fy: usize = 160 - ny;
  const fz: usize = 288 - nz;
  const Ix = f32x4.splat(ix);
  const Iy = f32x4.splat(iy);
  const Iz = f32x4.splat(iz);
  const Ox = f32x4.splat(ox);
  const Oy = f32x4.splat(oy);
  const Oz = f32x4.splat(oz);
  let found = false;
  let top = base;
  let ref = root;
  while (true) {
    const tag = ref & TAG_MASK;
    if (tag == TAG_NODE) {
      const node = <usize>ref;
      const zero = f32x4.splat(0);
      const far = f32x4.splat(hitT);
      const a0 = f32x4.mul(f32x4.sub(v128.load(node + nx), Ox), Ix);
      const a1 = f32x4.mul(f32x4.sub(v128.load(node + nx, 16), Ox), Ix);
      const b0 = f32x4.mul(f32x4.sub(v128.load(node + ny), Oy), Iy);
      const b1 = f32x4.mul(f32x4.sub(v128.load(node + ny, 16), Oy), Iy);
      const c0 = f32x4.mul(f32x4.sub(v128.load(node + nz), Oz), Iz);
      const c1 = f32x4.mul(f32x4.sub(v128.load(node + nz, 16), Oz), Iz);
      const near0 = f32x4.pmax(f32x4.pmax(a0, b0), f32x4.pmax(c0, zero));
      const near1 = f32x4.pmax(f32x4.pmax(a1, b1), f32x4.pmax(c1, zero));
      const d0 = f32x4.mul(f32x4.sub(v128.load(node + fx), Ox), Ix);
      const d1 = f32x4.mul(f32x4.sub(v128.load(node + fx, 16), Ox), Ix);
      const e0 = f32x4.mul(f32x4.sub(v128.load(node + fy), Oy), Iy);
      const e1 = f32x4.mul(f32x4.sub(v128.load(node + fy, 16), Oy), Iy);
      const g0 = f32x4.mul(f32x4.sub(v128.load(node + fz), Oz), Iz);
      const g1 = f32x4.mul(f32x4.sub(v128.load(node + fz, 16), Oz), Iz);
      const far0 = f32x4.pmin(f32x4.pmin(d0, e0), f32x4.pmin(g0, far));
      const far1 = f32x4.pmin(f32x4.pmin(d1, e1), f32x4.pmin(g1, far));
      let mask = i32x4.bitmask(f32x4.le(near0, far0)) | (i32x4.bitmask(f32x4.le(near1, far1)) << 4);
      if (mask != 0) {
        const first = ctz<i32>(mask);
        mask &= mask - 1;
        if (mask == 0) {
          ref = load<u32>(node + <usize>(first * 4), 192);
          continue;
        }
        // Distances go to memory above the stack for indexed reads.
        const spill = base + 6144;
        v128.store(spill, near0);
        v128.store(spill, near1, 16);
        const start = top;
        store<u64>(top, (<u64>load<u32>(spill + <usize>(first * 4)) << 32) | <u64>load<u32>(node + <usize>(first * 4), 192));
        top += 8;
        while (mask != 0) {
          const c = ctz<i32>(mask);
          mask &= mask - 1;
          const entry = (<u64>load<u32>(spill + <usize>(c * 4)) << 32) | <u64>load<u32>(node + <usize>(c * 4), 192);
          // Insertion keeps the nearest on top; non-negative floats order as integers.
          let p = top;
          while (p > start && load<u64>(p - 8) < entry) {
            store<u64>(p, load<u64>(p - 8));
            p -= 8;
          }
          store<u64>(p, entry);
          top += 8;
        }
      }
    } else if (tag == TAG_TRIANGLES) {
      if (triangles(<usize>(ref & ~TAG_MASK), instance, ox, oy, oz, dx, dy, dz)) {
        found = true;
        if (anyHit) return true;
      }
    } else {
      const to = <usize>(ref & ~TAG_MASK);
      // A long body is entered in slices; once this ray has met it, its other slices have nothing new to say.
      const mail = base + MAILBOX + ((to >> 5) & 63) * 8;
      const letter = (<u64>to << 32) | (raysCast & 0xffffffff);
      if (load<u64>(mail) != letter) {
        store<u64>(mail, letter);
        const lx = load<f32>(to) * ox + load<f32>(to, 4) * oy + load<f32>(to, 8) * oz + load<f32>(to, 12);
        const ly = load<f32>(to, 16) * ox + load<f32>(to, 20) * oy + load<f32>(to, 24) * oz + load<f32>(to, 28);
        const lz = load<f32>(to, 32) * ox + load<f32>(to, 36) * oy + load<f32>(to, 40) * oz + load<f32>(to, 44);
        const mx = load<f32>(to) * dx + load<f32>(to, 4) * dy + load<f32>(to, 8) * dz;
        const my = load<f32>(to, 16) * dx + load<f32>(to, 20) * dy + load<f32>(to, 24) * dz;
        const mz = load<f32>(to, 32) * dx + load<f32>(to, 36) * dy + load<f32>(to, 40) * dz;
        const mesh = load<u32>(load<u32>(to, I_MESH), M_ROOT);
        if (mesh != 0 && walk(mesh, base + 8192, to, anyHit, lx, ly, lz, mx, my, mz)) {
          found = true;
          if (anyHit) return true;
        }
      }
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

/** Nearest hit before `far`. Sets the hit values; hitInstance is 0 when there is none. */
export function nearest(root: u32, ox: f32, oy: f32, oz: f32, dx: f32, dy: f32, dz: f32, far: f32): bool {
  raysCast++;
  hitT = far;
  hitInstance = 0;
  if (root == 0) return false;
  return walk(root, stack, 0, false, ox, oy, oz, dx, dy, dz);
}

/** Whether anything lies before `far`. */
export function blocked(root: u32, ox: f32, oy: f32, oz: f32, dx: f32, dy: f32, dz: f32, far: f32): bool {
  raysCast++;
  hitT = far;
  hitInstance = 0;
  if (root == 0) return false;
  return walk(root, stack, 0, true, ox, oy, oz, dx, dy, dz);
}
