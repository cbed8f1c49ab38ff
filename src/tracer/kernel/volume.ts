/** Numbers that are known in some parts of space, as `core/volume/volume.ts` lays them down. */
import * as L from "./layout";
import { mix32 } from "./random";

/** The number at a place in bricks from the anchor, between eight samples; `missing` where there is no brick. */
export function volumeAt(words: usize, x: f32, y: f32, z: f32, missing: f32): f32 {
  const fx = Mathf.floor(x), fy = Mathf.floor(y), fz = Mathf.floor(z);
  const i = <i32>fx, j = <i32>fy, k = <i32>fz;
  const mask = load<u32>(words);
  let slot = mix32(<u32>i * 0x9e3779b1 ^ mix32(<u32>j * 0x85ebca77 ^ mix32(<u32>k * 0xc2b2ae3d))) & mask;
  let found: usize = 0;
  while (found == 0) {
    const entry = words + L.VO_TABLE + <usize>slot * L.VO_ENTRY;
    const begins = load<u32>(entry, 12);
    if (begins == 0) return missing;
    if (load<i32>(entry) == i && load<i32>(entry, 4) == j && load<i32>(entry, 8) == k) found = words + (<usize>begins << 2);
    slot = (slot + 1) & mask;
  }
  return between(found, (x - fx) * <f32>L.VO_CELLS, (y - fy) * <f32>L.VO_CELLS, (z - fz) * <f32>L.VO_CELLS);
}

function between(samples: usize, x: f32, y: f32, z: f32): f32 {
  const most: f32 = <f32>L.VO_CELLS - 1;
  const x0 = min<f32>(most, Mathf.floor(x)), y0 = min<f32>(most, Mathf.floor(y)), z0 = min<f32>(most, Mathf.floor(z));
  const a = x - x0, b = y - y0, c = z - z0;
  const at = samples + ((<usize>z0 * L.VO_SAMPLES + <usize>y0) * L.VO_SAMPLES + <usize>x0);
  const near = face(at, a, b);
  return (near + (face(at + L.VO_SAMPLES * L.VO_SAMPLES, a, b) - near) * c) * <f32>0.00392156862745098;
}

// @ts-ignore: decorator
@inline
function face(at: usize, a: f32, b: f32): f32 {
  const p = <f32>load<u8>(at), q = <f32>load<u8>(at, 1);
  const r = <f32>load<u8>(at + L.VO_SAMPLES), s = <f32>load<u8>(at + L.VO_SAMPLES, 1);
  const low = p + (q - p) * a;
  return low + (r + (s - r) * a - low) * b;
}
