/** Entry points of the kernel. Memory is imported and shared; each worker has its own instance over the same scene. */
import { blocked, hitInstance, hitT, hitTriangle, nearest, raysCast, setStack } from "./intersect";
import { CHANNELS, H_HEIGHT, H_SEED, H_TOP, H_WIDTH, I_ID } from "./layout";
import { albedoB, albedoG, albedoR, firstDepth, firstId, normalX, normalY, normalZ, outB, outG, outR, tracePath } from "./path";
import { drawPair, randX, randY, startSample } from "./random";
import { luminance, scene, setScene, u } from "./scene";
import { skyB, skyG, skyIn, skyPdf, skyR } from "./sky";

export { buildRange, buildTop, builtCost, builtEnd, cutRange, referTriangles } from "./build";

/** Takes the scene at an address and 64 KiB of scratch for this worker alone. */
export function takeScene(at: usize, scratch: usize): void {
  setScene(at);
  setStack(scratch);
}

export function rays(): f64 {
  return <f64>raysCast;
}

// @ts-ignore: decorator
@inline
function tent(r: f32): f32 {
  return r < <f32>0.5 ? Mathf.sqrt(<f32>2 * r) - <f32>1 : <f32>1 - Mathf.sqrt(<f32>2 - <f32>2 * r);
}

/**
 * Adds samples [begin, end) of the pixels of one tile. Sums are kept in blocks of 16 by sample number: `partial` holds
 * the block under way (CHANNELS planes of f64 over the tile), `sums` the finished ones, added in order. `firsts` takes
 * depth (f32) and id (u32) of sample 0. Returns false when the word at `abort` became non-zero; the tile is then void.
 */
export function renderTile(x0: u32, y0: u32, w: u32, h: u32, begin: u32, end: u32, sums: usize, partial: usize, firsts: usize, abort: usize): bool {
  const seed = u(H_SEED);
  const plane = <usize>(w * h) * 8;
  for (let y: u32 = 0; y < h; y++) {
    if (atomic.load<u32>(abort) != 0) return false;
    for (let x: u32 = 0; x < w; x++) {
      const i = <usize>(y * w + x);
      const at = i * 8;
      let r: f64 = 0, g: f64 = 0, b: f64 = 0, l: f64 = 0;
      let ar: f64 = 0, ag: f64 = 0, ab: f64 = 0;
      let nx: f64 = 0, ny: f64 = 0, nz: f64 = 0;
      if ((begin & 15) != 0) {
        r = load<f64>(partial + at);
        g = load<f64>(partial + plane + at);
        b = load<f64>(partial + plane * 2 + at);
        l = load<f64>(partial + plane * 3 + at);
        ar = load<f64>(partial + plane * 4 + at);
        ag = load<f64>(partial + plane * 5 + at);
        ab = load<f64>(partial + plane * 6 + at);
        nx = load<f64>(partial + plane * 7 + at);
        ny = load<f64>(partial + plane * 8 + at);
        nz = load<f64>(partial + plane * 9 + at);
      }
      for (let s = begin; s < end; s++) {
        startSample(x0 + x, y0 + y, s, seed);
        drawPair(0);
        const fx = <f32>(x0 + x) + <f32>0.5 + tent(randX);
        const fy = <f32>(y0 + y) + <f32>0.5 + tent(randY);
        drawPair(1);
        tracePath(fx, fy, randX, randY);
        if (s == 0) {
          store<f32>(firsts + i * 4, firstDepth);
          store<u32>(firsts + <usize>(w * h) * 4 + i * 4, firstId);
        }
        const v = luminance(outR, outG, outB);
        if (v >= 0 && v < Infinity) {
          r += <f64>outR;
          g += <f64>outG;
          b += <f64>outB;
          l += <f64>v * <f64>v;
        }
        ar += <f64>albedoR;
        ag += <f64>albedoG;
        ab += <f64>albedoB;
        nx += <f64>normalX;
        ny += <f64>normalY;
        nz += <f64>normalZ;
        if ((s & 15) == 15) {
          add(sums + at, r);
          add(sums + plane + at, g);
          add(sums + plane * 2 + at, b);
          add(sums + plane * 3 + at, l);
          add(sums + plane * 4 + at, ar);
          add(sums + plane * 5 + at, ag);
          add(sums + plane * 6 + at, ab);
          add(sums + plane * 7 + at, nx);
          add(sums + plane * 8 + at, ny);
          add(sums + plane * 9 + at, nz);
          r = g = b = l = ar = ag = ab = nx = ny = nz = 0;
        }
      }
      if ((end & 15) != 0) {
        store<f64>(partial + at, r);
        store<f64>(partial + plane + at, g);
        store<f64>(partial + plane * 2 + at, b);
        store<f64>(partial + plane * 3 + at, l);
        store<f64>(partial + plane * 4 + at, ar);
        store<f64>(partial + plane * 5 + at, ag);
        store<f64>(partial + plane * 6 + at, ab);
        store<f64>(partial + plane * 7 + at, nx);
        store<f64>(partial + plane * 8 + at, ny);
        store<f64>(partial + plane * 9 + at, nz);
      }
    }
  }
  return true;
}

// @ts-ignore: decorator
@inline
function add(at: usize, v: f64): void {
  store<f64>(at, load<f64>(at) + v);
}

/** Casts `count` rays of seven f32 (origin, direction, far). Writes distance (f32), id, triangle for each. For picking, tests and the bench. */
export function castRays(from: usize, count: u32, to: usize, anyHit: bool): u32 {
  let hits: u32 = 0;
  const top = u(H_TOP);
  for (let i: u32 = 0; i < count; i++, from += 28, to += 12) {
    const ox = load<f32>(from), oy = load<f32>(from, 4), oz = load<f32>(from, 8);
    const dx = load<f32>(from, 12), dy = load<f32>(from, 16), dz = load<f32>(from, 20);
    const far = load<f32>(from, 24);
    const hit = anyHit ? blocked(top, ox, oy, oz, dx, dy, dz, far) : nearest(top, ox, oy, oz, dx, dy, dz, far);
    store<f32>(to, hit && !anyHit ? hitT : hit ? 0 : <f32>Infinity);
    store<u32>(to, hit && !anyHit ? load<u32>(hitInstance, I_ID) : 0, 4);
    store<u32>(to, hitTriangle, 8);
    if (hit) hits++;
  }
  return hits;
}

/** Sky in a direction: RGB and the density of its choice, four f32 at `to`. For tests. */
export function skyAt(dx: f32, dy: f32, dz: f32, to: usize): void {
  skyIn(dx, dy, dz);
  store<f32>(to, skyR);
  store<f32>(to, skyG, 4);
  store<f32>(to, skyB, 8);
  store<f32>(to, skyPdf(dx, dy, dz), 12);
}
