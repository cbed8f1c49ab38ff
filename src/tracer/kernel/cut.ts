/**
 * Bodies that are cut out by a picture: a ray goes on where it is not there. The body is a front of one by one about its middle, foot at 0.
 * What is there in part stops a share of the rays, by chance that a ray draws from where it meets the body alone: the mean of many rays is
 * right, and the same ray meets the same again.
 */
import * as L from "./layout";
import { mix32 } from "./random";
import { u } from "./scene";

/** How much of the texel is there, 0 to 255. */
// @ts-ignore: decorator
@inline
function there(sheet: usize, n: i32): f32 {
  return <f32>load<u8>(sheet + <usize>n * L.TEXEL_BYTES, 11);
}

/** Whether an instance is there at a place of a triangle, the lane of a leaf: by the shares of its second corner and its third. */
export function isThere(instance: usize, lane: usize, v: f32, w: f32): bool {
  const record = <usize>u(L.H_MATERIALS) + <usize>load<u32>(instance, L.I_MATERIAL) * L.MAT_SIZE;
  const layer = <usize>load<u32>(record, L.MAT_LAYERS);
  const sheet = <usize>load<u32>(layer, L.LY_SHEET);
  const size = <i32>load<f32>(layer, L.LY_SIZE);
  const first = <f32>1 - v - w;
  const x = first * load<f32>(lane) + v * load<f32>(lane, 48) + w * load<f32>(lane, 96);
  const y = first * load<f32>(lane, 16) + v * load<f32>(lane, 64) + w * load<f32>(lane, 112);
  const most = <f32>size - 1;
  const s = min<f32>(most, max<f32>(0, (x + <f32>0.5) * <f32>size - <f32>0.5));
  const t = min<f32>(most, max<f32>(0, (<f32>1 - y) * <f32>size - <f32>0.5));
  const i = min<i32>(<i32>s, size - 2), j = min<i32>(<i32>t, size - 2);
  const a = s - <f32>i, b = t - <f32>j;
  const n = j * size + i;
  const low = there(sheet, n) * (<f32>1 - a) + there(sheet, n + 1) * a;
  const high = there(sheet, n + size) * (<f32>1 - a) + there(sheet, n + size + 1) * a;
  const much = low + (high - low) * b;
  if (much < <f32>0.5) return false;
  if (much > <f32>254.5) return true;
  const bits = mix32(reinterpret<u32>(x) ^ mix32(reinterpret<u32>(y) ^ 0x51ed270b));
  return <f32>(bits >> 8) * <f32>(255.0 / 16777216.0) < much;
}
