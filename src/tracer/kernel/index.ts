/** Entry points of the kernel. Memory is imported and shared; each worker has its own instance over the same scene. */
import { blocked, hitInstance, hitT, hitTriangle, nearest, raysCast, setStack } from "./intersect";
import { CHANNELS, FIRST_MASKS, H_HEIGHT, H_LAYERS, H_SEED, H_TOP, H_WIDTH, I_ID, MASKS } from "./layout";
import {
  albedoB, albedoG, albedoR, firstDepth, firstId, normalX, normalY, normalZ, openness, seenDepth, tracePath,
} from "./path";
import { drawPair, randX, randY, startSample } from "./random";
import { luminance, scene, setScene, u } from "./scene";
import { layers, radianceB, radianceG, radianceR, setLayers, setMoment, setWays } from "./state";
import { skyB, skyG, skyIn, skyPdf, skyR } from "./sky";

export { denoiseBand } from "./denoise";
export { learned, learnedAlso, learnedRoom } from "./learned";
export { buildRange, buildTop, builtEnd, cutRange, referTriangles } from "./build";

/** Bytes of the scratch that the walk through trees takes; the light of the layers of a sample lies behind. */
const STACK: usize = 65536;
const LAYERS: usize = 1024;
const WAYS: usize = 256;

/** Takes the scene at an address and 65 KiB of scratch for this worker alone. */
export function takeScene(at: usize, scratch: usize): void {
  setScene(at);
  setStack(scratch, scratch + STACK + LAYERS + WAYS);
  setMoment(0);
  setLayers(scratch + STACK, u(H_LAYERS));
  setWays(scratch + STACK + LAYERS);
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
 * Adds samples [begin, end) of the pixels of one tile. Sums are kept in blocks by sample number, which end at 4, 8, 16
 * and then each 16: `partial` holds the block under way (CHANNELS planes of f64 over the tile), `sums` the finished ones, added in order. `firsts` takes
 * depth (f32) and id (u32) of sample 0, and which numbers all samples have met. `limits` are u32, how many samples each pixel takes at most, at the end
 * of a block; 0 where all take all. Returns false when the word at
 * `abort` became non-zero; the tile is then void. Pixels beyond the frame go on below 0 and above its size.
 */
export function renderTile(x0: u32, y0: u32, w: u32, h: u32, begin: u32, end: u32, sums: usize, partial: usize,
  firsts: usize, limits: usize, abort: usize): bool {
  const seed = u(H_SEED);
  const plane = <usize>(w * h) * 8;
  const lights = <usize>u(H_LAYERS);
  const channels = <usize>CHANNELS + (lights > 0 ? 3 * lights + 4 : 0);
  if (endsBlock(begin)) memory.fill(partial, 0, plane * channels);
  for (let y: u32 = 0; y < h; y++) {
    if (atomic.load<u32>(abort) != 0) return false;
    for (let x: u32 = 0; x < w; x++) {
      const i = <usize>(y * w + x);
      const at = partial + i * 8;
      const until = limits != 0 ? min<u32>(end, load<u32>(limits + (i << 2))) : end;
      for (let s = begin; s < until; s++) {
        startSample(x0 + x, y0 + y, s, seed);
        drawPair(0);
        const fx = <f32><i32>(x0 + x) + <f32>0.5 + tent(randX);
        const fy = <f32><i32>(y0 + y) + <f32>0.5 + tent(randY);
        drawPair(1);
        tracePath(fx, fy, randX, randY);
        if (s == 0) {
          store<f32>(firsts + i * 4, firstDepth);
          store<u32>(firsts + <usize>(w * h) * 4 + i * 4, firstId);
        }
        countId(firsts + <usize>(w * h) * 4 * FIRST_MASKS + i * 4, <usize>(w * h) * 4, firstId + 1);
        const v = luminance(radianceR, radianceG, radianceB);
        if (v >= 0 && v < Infinity) {
          if (lights > 0) addLayers(at + plane * <usize>CHANNELS, plane, lights);
          add(at, radianceR);
          add(at + plane, radianceG);
          add(at + plane * 2, radianceB);
          store<f64>(at + plane * 3, load<f64>(at + plane * 3) + <f64>v * <f64>v);
          if ((s & 1) != 0) {
            add(at + plane * 10, radianceR);
            add(at + plane * 11, radianceG);
            add(at + plane * 12, radianceB);
          }
        }
        add(at + plane * 4, albedoR);
        add(at + plane * 5, albedoG);
        add(at + plane * 6, albedoB);
        add(at + plane * 7, normalX);
        add(at + plane * 8, normalY);
        add(at + plane * 9, normalZ);
        add(at + plane * 13, <f32>1 / seenDepth);
        if (endsBlock(s + 1)) {
          for (let c: usize = 0; c < channels; c++) {
            const to = sums + plane * c + i * 8;
            store<f64>(to, load<f64>(to) + load<f64>(at + plane * c));
            store<f64>(at + plane * c, 0);
          }
        }
      }
    }
  }
  return true;
}

/** Whether a block of samples ends with so many. */
// @ts-ignore: decorator
@inline
function endsBlock(samples: u32): bool {
  return (samples & 15) == 0 || samples == 4 || samples == 8;
}

/** Adds the light of each layer, that of the fog, and the openness. */
function addLayers(at: usize, plane: usize, lights: usize): void {
  const planes: usize = 3 * lights + 3;
  for (let c: usize = 0; c < planes; c++) add(at + plane * c, load<f32>(layers + c * 4));
  add(at + plane * planes, openness);
}

/** Counts a number in the pixel's slots; numbers for which no slot is left are left out. */
function countId(at: usize, plane: usize, id: u32): void {
  for (let k = 0; k < MASKS; k++, at += 2 * plane) {
    const held = load<u32>(at);
    if (held == id || held == 0) {
      store<u32>(at, id);
      store<u32>(at + plane, load<u32>(at + plane) + 1);
      return;
    }
  }
}

// @ts-ignore: decorator
@inline
function add(at: usize, v: f32): void {
  store<f64>(at, load<f64>(at) + <f64>v);
}

/**
 * Casts `count` rays of seven f32 (origin, direction, far). Writes distance (f32), id, triangle for each. For
 * picking, tests and the bench.
 */
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
