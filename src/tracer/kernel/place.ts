/**
 * Where the present hit is, as what lies on it counts: in the world from the origin and in the piece's own metres, and the sides that its
 * normal looks to.
 */
import { hitInstance, poseOf } from "./intersect";
import * as L from "./layout";
import { randY } from "./random";
import { layer } from "./sample";

// The place and its normal, in the world from the origin and in the piece's own metres, and directions of these in the world.
export let worldX: f32 = 0;
export let worldY: f32 = 0;
export let worldZ: f32 = 0;
export let worldNx: f32 = 0;
export let worldNy: f32 = 0;
export let worldNz: f32 = 0;
export let ownX: f32 = 0;
export let ownY: f32 = 0;
export let ownZ: f32 = 0;
export let ownNx: f32 = 0;
export let ownNy: f32 = 0;
export let ownNz: f32 = 0;
export let ax: f32 = 0;
export let ay: f32 = 0;
export let az: f32 = 0;
export let bx: f32 = 0;
export let by: f32 = 0;
export let bz: f32 = 0;
export let cx: f32 = 0;
export let cy: f32 = 0;
export let cz: f32 = 0;

// Of these, where the present layer lies by, and the weights of its sides.
export let byWorld: bool = false;
export let placeX: f32 = 0;
export let placeY: f32 = 0;
export let placeZ: f32 = 0;
export let sideX: f32 = 0;
export let sideY: f32 = 0;
export let sideZ: f32 = 0;

/** Chance of this hit for what is chosen. */
export let chance: f32 = 0;

/** Takes the directions that the present layer lies by, and the sides that its normal looks to. */
export function takePlace(whole: bool): void {
  byWorld = load<f32>(layer, L.LY_WORLD) != 0;
  placeX = byWorld ? worldX : ownX;
  placeY = byWorld ? worldY : ownY;
  placeZ = byWorld ? worldZ : ownZ;
  let wx = byWorld ? worldNx : ownNx;
  let wy = byWorld ? worldNy : ownNy;
  let wz = byWorld ? worldNz : ownNz;
  wx *= wx;
  wy *= wy;
  wz *= wz;
  wx *= wx;
  wy *= wy;
  wz *= wz;
  wx *= wx;
  wy *= wy;
  wz *= wz;
  const k = <f32>1 / (wx + wy + wz);
  sideX = wx * k;
  sideY = wy * k;
  sideZ = wz * k;
  chance = randY;
  if (whole) return;
  // One side alone; what is left of the chance chooses the cell.
  if (chance < sideY) {
    chance /= sideY;
    sideY = 1;
    sideX = sideZ = 0;
  } else if (chance < sideY + sideX) {
    chance = (chance - sideY) / sideX;
    sideX = 1;
    sideY = sideZ = 0;
  } else {
    chance = (chance - sideY - sideX) / max<f32>(<f32>1e-6, sideZ);
    sideZ = 1;
    sideX = sideY = 0;
  }
}

/** Takes a place and its normal: in the world, and in the metres of the piece that has been hit. */
export function takeHit(px: f32, py: f32, pz: f32, nx: f32, ny: f32, nz: f32): void {
  const m = poseOf(hitInstance);
  worldX = px;
  worldY = py;
  worldZ = pz;
  worldNx = nx;
  worldNy = ny;
  worldNz = nz;
  // Rows of the inverse are the piece's directions over its sizes.
  ax = load<f32>(m);
  ay = load<f32>(m, 16);
  az = load<f32>(m, 32);
  bx = load<f32>(m, 4);
  by = load<f32>(m, 20);
  bz = load<f32>(m, 36);
  cx = load<f32>(m, 8);
  cy = load<f32>(m, 24);
  cz = load<f32>(m, 40);
  const ka = <f32>1 / Mathf.sqrt(ax * ax + ay * ay + az * az);
  const kb = <f32>1 / Mathf.sqrt(bx * bx + by * by + bz * bz);
  const kc = <f32>1 / Mathf.sqrt(cx * cx + cy * cy + cz * cz);
  ownX = (ax * px + ay * py + az * pz + load<f32>(m, 48)) * ka;
  ownY = (bx * px + by * py + bz * pz + load<f32>(m, 52)) * kb;
  ownZ = (cx * px + cy * py + cz * pz + load<f32>(m, 56)) * kc;
  ax *= ka;
  ay *= ka;
  az *= ka;
  bx *= kb;
  by *= kb;
  bz *= kb;
  cx *= kc;
  cy *= kc;
  cz *= kc;
  ownNx = ax * nx + ay * ny + az * nz;
  ownNy = bx * nx + by * ny + bz * nz;
  ownNz = cx * nx + cy * ny + cz * nz;
}
