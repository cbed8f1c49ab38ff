/** The surface that a ray has hit: its place, normals and tangents; what it is like stands in the sample. */
import { hitInstance, hitLane, hitT, hitTriangle, hitU, hitV, poseOf, standHit } from "./intersect";
import * as L from "./layout";
import { layer, sampleSurface, sampleWhite } from "./sample";
import { bx, by, bz, frameAbout, tx, ty, tz } from "./scene";
import { bentX, bentY, bentZ, laySheets } from "./sheets";
import { spread, width } from "./state";

// Surface under the ray.
export let px: f32 = 0;
export let py: f32 = 0;
export let pz: f32 = 0;
export let gx: f32 = 0;
export let gy: f32 = 0;
export let gz: f32 = 0;
export let sx: f32 = 0;
export let sy: f32 = 0;
export let sz: f32 = 0;
/** Tangents of its shading normal; the choice of lights uses the scene module's frame for itself. */
export let ux: f32 = 0;
export let uy: f32 = 0;
export let uz: f32 = 0;
export let vx: f32 = 0;
export let vy: f32 = 0;
export let vz: f32 = 0;
/** Whether the ray has met the surface from its inner side. */
export let fromBehind: bool = false;

// @ts-ignore: decorator
@inline
export function offsetAt(): f32 {
  return <f32>3e-6 * max<f32>(hitT, max<f32>(abs<f32>(px), max<f32>(abs<f32>(py), abs<f32>(pz)))) + <f32>2e-5;
}

const LEAST_FACING: f32 = <f32>L.LEAST_FACING;

/** Fills place, normals and sample of the present hit, normals turned towards the viewer. */
export function readHit(ox: f32, oy: f32, oz: f32, dx: f32, dy: f32, dz: f32): void {
  px = ox + dx * hitT;
  py = oy + dy * hitT;
  pz = oz + dz * hitT;
  const lane = hitLane;
  const ox0 = load<f32>(lane), oy0 = load<f32>(lane, 16), oz0 = load<f32>(lane, 32);
  const ax = load<f32>(lane, 48) - ox0;
  const ay = load<f32>(lane, 64) - oy0;
  const az = load<f32>(lane, 80) - oz0;
  const cx = load<f32>(lane, 96) - ox0;
  const cy = load<f32>(lane, 112) - oy0;
  const cz = load<f32>(lane, 128) - oz0;
  toWorld(ay * cz - az * cy, az * cx - ax * cz, ax * cy - ay * cx);
  gx = sx;
  gy = sy;
  gz = sz;
  const mesh = <usize>load<u32>(hitInstance, L.I_MESH);
  const tri = <usize>load<u32>(mesh, L.M_INDICES) + <usize>hitTriangle * 12;
  const i0 = load<u32>(tri);
  const i1 = load<u32>(tri, 4);
  const i2 = load<u32>(tri, 8);
  const normals = <usize>load<u32>(mesh, L.M_NORMALS);
  const w = <f32>1 - hitU - hitV;
  const n0 = normals + <usize>i0 * 12;
  const n1 = normals + <usize>i1 * 12;
  const n2 = normals + <usize>i2 * 12;
  toWorld(
    load<f32>(n0) * w + load<f32>(n1) * hitU + load<f32>(n2) * hitV,
    load<f32>(n0, 4) * w + load<f32>(n1, 4) * hitU + load<f32>(n2, 4) * hitV,
    load<f32>(n0, 8) * w + load<f32>(n1, 8) * hitU + load<f32>(n2, 8) * hitV,
  );
  fromBehind = gx * dx + gy * dy + gz * dz > 0;
  if (fromBehind) {
    gx = -gx;
    gy = -gy;
    gz = -gz;
  }
  if (sx * gx + sy * gy + sz * gz < 0) {
    sx = -sx;
    sy = -sy;
    sz = -sz;
  }
  if (sx * dx + sy * dy + sz * dz >= 0) {
    sx = gx;
    sy = gy;
    sz = gz;
  }
  sampleSurface(mesh, i0, i1, i2, w, hitU, hitV);
  if (layer == 0) return;
  const across = abs<f32>(gx * dx + gy * dy + gz * dz);
  const seen = (width + spread * hitT) / Mathf.sqrt(max<f32>(<f32>0.02, across));
  const under = <usize>load<u32>(mesh, L.M_UNDER);
  if (under == 0) laySheets(px, py, pz, sx, sy, sz, sx, sy, sz, seen);
  else {
    const leansX = sx, leansY = sy, leansZ = sz;
    const u0 = under + <usize>i0 * 12, u1 = under + <usize>i1 * 12, u2 = under + <usize>i2 * 12;
    toWorld(
      load<f32>(u0) * w + load<f32>(u1) * hitU + load<f32>(u2) * hitV,
      load<f32>(u0, 4) * w + load<f32>(u1, 4) * hitU + load<f32>(u2, 4) * hitV,
      load<f32>(u0, 8) * w + load<f32>(u1, 8) * hitU + load<f32>(u2, 8) * hitV,
    );
    const k: f32 = fromBehind ? -1 : 1;
    laySheets(px, py, pz, k * sx, k * sy, k * sz, leansX, leansY, leansZ, seen);
  }
  // A normal that turns away from the eye is turned back to it until it is seen.
  const facing = bentX * dx + bentY * dy + bentZ * dz;
  const k = facing > LEAST_FACING ? facing - LEAST_FACING : 0;
  sx = bentX - k * dx;
  sy = bentY - k * dy;
  sz = bentZ - k * dz;
  const l = <f32>1 / Mathf.sqrt(sx * sx + sy * sy + sz * sz);
  sx *= l;
  sy *= l;
  sz *= l;
}

/** Takes a place at a distance as the hit, with a level and a shading normal, and what `sampleWhite` has it made of. */
export function placeHit(
  far: f32, x: f32, y: f32, z: f32, levelX: f32, levelY: f32, levelZ: f32, nx: f32, ny: f32, nz: f32, white: f32,
): void {
  standHit(far);
  px = x;
  py = y;
  pz = z;
  gx = levelX;
  gy = levelY;
  gz = levelZ;
  sx = nx;
  sy = ny;
  sz = nz;
  fromBehind = false;
  sampleWhite(white);
}

/** Cosine between a ray and the outer normal of the triangle that it has met; what `readHit` has read stays. */
export function hitCosine(dx: f32, dy: f32, dz: f32): f32 {
  const lane = hitLane;
  const x0 = load<f32>(lane), y0 = load<f32>(lane, 16), z0 = load<f32>(lane, 32);
  const ax = load<f32>(lane, 48) - x0;
  const ay = load<f32>(lane, 64) - y0;
  const az = load<f32>(lane, 80) - z0;
  const cx = load<f32>(lane, 96) - x0;
  const cy = load<f32>(lane, 112) - y0;
  const cz = load<f32>(lane, 128) - z0;
  const x = ay * cz - az * cy;
  const y = az * cx - ax * cz;
  const z = ax * cy - ay * cx;
  const m = poseOf(hitInstance);
  const wx = load<f32>(m) * x + load<f32>(m, 4) * y + load<f32>(m, 8) * z;
  const wy = load<f32>(m, 16) * x + load<f32>(m, 20) * y + load<f32>(m, 24) * z;
  const wz = load<f32>(m, 32) * x + load<f32>(m, 36) * y + load<f32>(m, 40) * z;
  return (wx * dx + wy * dy + wz * dz) / Mathf.sqrt(max<f32>(<f32>1e-38, wx * wx + wy * wy + wz * wz));
}

/** A mesh normal into the world, normalised, into sx, sy, sz. */
function toWorld(x: f32, y: f32, z: f32): void {
  const m = poseOf(hitInstance);
  const wx = load<f32>(m) * x + load<f32>(m, 4) * y + load<f32>(m, 8) * z;
  const wy = load<f32>(m, 16) * x + load<f32>(m, 20) * y + load<f32>(m, 24) * z;
  const wz = load<f32>(m, 32) * x + load<f32>(m, 36) * y + load<f32>(m, 40) * z;
  const k = <f32>1 / Mathf.sqrt(max<f32>(<f32>1e-38, wx * wx + wy * wy + wz * wz));
  sx = wx * k;
  sy = wy * k;
  sz = wz * k;
}

/** Takes the tangents about a normal. */
export function takeFrame(x: f32, y: f32, z: f32): void {
  frameAbout(x, y, z);
  ux = tx;
  uy = ty;
  uz = tz;
  vx = bx;
  vy = by;
  vz = bz;
}
