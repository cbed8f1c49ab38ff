/**
 * Foam on the water's plane or waves: a share of the surface is white, told by a fan of places before the lens. In that share it is
 * lace: patches of a noise over a threshold, until they are smaller than what the path resolves.
 */
import {
  FO_COLUMNS, FO_FIRST, FO_GROWTH, FO_HEADING, FO_ROWS, FO_SHARES, FO_STEP, FO_X, FO_Z, H_FOAM, H_WORLD,
} from "./layout";
import { f, PI, u } from "./scene";
import { valueNoise } from "./water";

/** Base colour of foam. */
export const FOAM_WHITE: f32 = 0.78;
/** Across its patches and its holes, metres. */
const PATCH_M: f32 = 0.55;
const HOLE_M: f32 = 0.13;
/** Lace goes over into a mean where the view is from so wide on to so wide, metres. */
const LACE_M: f32 = 0.06;
const MEAN_M: f32 = 0.5;
const EDGE: f32 = 0.1;

// @ts-ignore: decorator
@inline
function step(a: f32, b: f32, v: f32): f32 {
  const t = min<f32>(1, max<f32>(0, (v - a) / (b - a)));
  return t * t * (<f32>3 - <f32>2 * t);
}

/** Share of the surface that is white at a place, relative to the origin, for a view of a width in metres. */
export function foamAt(x: f32, z: f32, width: f32): f32 {
  const fan = <usize>u(H_FOAM);
  const dx = x - load<f32>(fan, FO_X);
  const dz = z - load<f32>(fan, FO_Z);
  const first = load<f32>(fan, FO_FIRST);
  const far = Mathf.sqrt(dx * dx + dz * dz);
  if (far < first) return 0;
  const row = Mathf.log(far / first) / load<f32>(fan, FO_GROWTH);
  const rows = load<f32>(fan, FO_ROWS);
  if (row >= rows - <f32>1) return 0;
  const full = <f32>2 * PI;
  let turn = Mathf.atan2(dx, -dz) - load<f32>(fan, FO_HEADING);
  turn -= full * Mathf.floor(turn / full);
  const column = turn / load<f32>(fan, FO_STEP);
  const columns = load<f32>(fan, FO_COLUMNS);
  if (column >= columns - <f32>1) return 0;
  const i = Mathf.floor(column), j = Mathf.floor(row);
  const a = column - i, b = row - j;
  const at = <usize>load<u32>(fan, FO_SHARES) + (<usize>(<i32>j * <i32>columns + <i32>i) << 2);
  const below = at + (<usize>columns << 2);
  const share = (load<f32>(at) * (<f32>1 - a) + load<f32>(at, 4) * a) * (<f32>1 - b) +
    (load<f32>(below) * (<f32>1 - a) + load<f32>(below, 4) * a) * b;
  if (share < <f32>0.004) return 0;
  const mean = step(LACE_M, MEAN_M, width);
  if (mean >= 1) return share;
  const wx = x + f(H_WORLD), wz = z + f(H_WORLD + 4);
  const n = <f32>0.55 * valueNoise(wx / PATCH_M, wz / PATCH_M) +
    <f32>0.45 * valueNoise(wx / HOLE_M + <f32>17.3, wz / HOLE_M);
  // Spread so that about so much of it lies over a threshold as the threshold is under 1.
  const even = min<f32>(1, max<f32>(0, <f32>0.5 + (n - <f32>0.5) * <f32>2));
  const lace = step(<f32>1 - share - EDGE, <f32>1 - share + EDGE, even);
  return mean * share + (<f32>1 - mean) * lace;
}
