/**
 * Light that comes by way of a still surface of water: the sun's glint in it, and sun and lamps seen from under it.
 * Results go into gainR, gainG, gainB; false means that nothing comes.
 */
import { phase } from "./fog";
import { gx, gy, gz, px, py, pz, sx, sy, sz, ux, uy, uz, vx, vy, vz } from "./hit";
import { blocked } from "./intersect";
import {
  atNx, atNy, atNz, chooseFromPlace, chooseLight, choosePoint, lampB, lampG, lampR, light, lightChance, toFar,
  toPdf, toX, toY, toZ,
} from "./lamps";
import * as L from "./layout";
import { seaAt } from "./planet";
import { drawPair, randX, randY } from "./random";
import { f, u } from "./scene";
import { open, openB, openG, openR } from "./shadow";
import { waterLevel } from "./state";
import { evaluate, newX, newY, newZ, bsdfB, bsdfG, bsdfR, visibleNormal } from "./surface";
import { fresnel, ripplesAt, waterAlpha, WATER_INDEX } from "./water";

export let gainR: f32 = 0;
export let gainG: f32 = 0;
export let gainB: f32 = 0;

/**
 * The sun mirrored by the water, at a surface (its frame is the present hit's) or at a point of the fog that is
 * seen along d.
 */
export function glint(x: f32, y: f32, z: f32, dx: f32, dy: f32, dz: f32, atSurface: bool, off: f32, pair: u32): bool {
  const level = seaAt(x, z);
  const lx = f(L.H_SUN_DIRECTION);
  const ly = f(L.H_SUN_DIRECTION + 4);
  const lz = f(L.H_SUN_DIRECTION + 8);
  if (ly <= <f32>0.002) return false;
  ripplesAt(0, 0, 1000);
  const alpha = waterAlpha;
  drawPair(pair);
  // local frame of the water: x, z level, y up → (x, z, y)
  visibleNormal(lx, lz, ly, alpha, randX, randY);
  const lh = lx * newX + lz * newY + ly * newZ;
  const wx = <f32>2 * lh * newX - lx;
  const wz = <f32>2 * lh * newY - lz;
  const wy = <f32>2 * lh * newZ - ly;
  if (wy <= <f32>1e-4) return false;
  let vr: f32 = 0;
  let vg: f32 = 0;
  let vb: f32 = 0;
  if (atSurface) {
    if (-(wx * gx + wy * gy + wz * gz) <= 0) return false;
    evaluate(-(wx * ux + wy * uy + wz * uz), -(wx * vx + wy * vy + wz * vz), -(wx * sx + wy * sy + wz * sz));
    vr = bsdfR;
    vg = bsdfG;
    vb = bsdfB;
    x += gx * off;
    y += gy * off;
    z += gz * off;
  } else {
    vr = vg = vb = phase(-(wx * dx + wy * dy + wz * dz));
  }
  if (vr + vg + vb <= 0) return false;
  const t = (y - level) / wy;
  if (!open(x, y, z, -wx, -wy, -wz, t, true)) return false;
  vr *= openR;
  vg *= openG;
  vb *= openB;
  if (!open(x - wx * t, level + <f32>1e-3, z - wz * t, lx, ly, lz, Infinity, true)) return false;
  const a2 = alpha * alpha;
  const ll = <f32>0.5 * (Mathf.sqrt(<f32>1 + (a2 * (<f32>1 - ly * ly)) / (ly * ly)) - <f32>1);
  const lw = <f32>0.5 * (Mathf.sqrt(<f32>1 + (a2 * (<f32>1 - wy * wy)) / (wy * wy)) - <f32>1);
  const k = fresnel(max<f32>(0, lh), <f32>1 / WATER_INDEX) * ((<f32>1 + ll) / (<f32>1 + ll + lw)) * (ly / wy);
  gainR = vr * k * openR * f(L.H_SUN_LUX);
  gainG = vg * k * openG * f(L.H_SUN_LUX + 4);
  gainB = vb * k * openB * f(L.H_SUN_LUX + 8);
  return true;
}

/** What the way through water leaves, into gainR, gainG, gainB times k. */
function absorb(distance: f32, k: f32): void {
  gainR *= k * Mathf.exp(-f(L.H_WATER_ABSORB) * distance);
  gainG *= k * Mathf.exp(-f(L.H_WATER_ABSORB + 4) * distance);
  gainB *= k * Mathf.exp(-f(L.H_WATER_ABSORB + 8) * distance);
}

/** Takes the value of the present surface, under water, towards a direction. */
function look(wx: f32, wy: f32, wz: f32): bool {
  if (wx * gx + wy * gy + wz * gz <= 0) return false;
  evaluate(wx * ux + wy * uy + wz * uz, wx * vx + wy * vy + wz * vz, wx * sx + wy * sy + wz * sz);
  gainR = bsdfR;
  gainG = bsdfG;
  gainB = bsdfB;
  return bsdfR + bsdfG + bsdfB > 0;
}

/** Sun through the flat surface onto the present hit under water. */
export function sunUnderWater(off: f32): bool {
  const lx = f(L.H_SUN_DIRECTION);
  const ly = f(L.H_SUN_DIRECTION + 4);
  const lz = f(L.H_SUN_DIRECTION + 8);
  if (ly <= <f32>0.002) return false;
  const r = <f32>1 / WATER_INDEX;
  const wy = Mathf.sqrt(<f32>1 - r * r * (<f32>1 - ly * ly));
  const wx = lx * r;
  const wz = lz * r;
  if (!look(wx, wy, wz)) return false;
  const level = waterLevel;
  const qy = py + gy * off;
  const t = max<f32>(0, (level - qy) / wy);
  const qx = px + gx * off;
  const qz = pz + gz * off;
  if (blocked(u(L.H_TOP_OPAQUE), qx, qy, qz, wx, wy, wz, t)) return false;
  if (!open(qx + wx * t, level + <f32>1e-4, qz + wz * t, lx, ly, lz, Infinity, true)) return false;
  absorb(t, (<f32>1 - fresnel(ly, r)) * (ly / wy));
  gainR *= openR * f(L.H_SUN_LUX);
  gainG *= openG * f(L.H_SUN_LUX + 4);
  gainB *= openB * f(L.H_SUN_LUX + 8);
  return true;
}

/**
 * A lamp onto the present hit under water. From above it comes by the path of Snell's law through the flat surface; its
 * light spreads there as the solid angle at the lamp over the area that it reaches.
 */
export function lampUnderWater(off: f32, pair: u32): bool {
  const qx = px + gx * off;
  const qy = py + gy * off;
  const qz = pz + gz * off;
  chooseFromPlace(qx, qy, qz, 0, 0, 0);
  drawPair(pair);
  if (!chooseLight(randX)) return false;
  drawPair(pair + 1);
  if (!choosePoint(qx, qy, qz, randX, randY)) return false;
  const level = waterLevel;
  const depth = level - qy;
  const rise = toY * toFar - depth;
  const chance = lightChance;
  if (rise <= 0) {
    // The lamp is under water too.
    if (!look(toX, toY, toZ)) return false;
    const far = toFar;
    const r = lampR, g = lampG, b = lampB;
    const k = <f32>1 / (chance * (toPdf > 0 ? toPdf : <f32>1));
    if (blocked(u(L.H_TOP_OPAQUE), qx, qy, qz, toX, toY, toZ, far)) return false;
    absorb(far, k);
    gainR *= r;
    gainG *= g;
    gainB *= b;
    return true;
  }
  const reach = toFar * Mathf.sqrt(max<f32>(0, <f32>1 - toY * toY));
  // Sine under water, found by halving: the way out grows with it.
  const n = WATER_INDEX;
  let low: f32 = 0;
  let high: f32 = <f32>1 / n;
  for (let i = 0; i < 26; i++) {
    const s = <f32>0.5 * (low + high);
    const way = (rise * n * s) / Mathf.sqrt(max<f32>(<f32>1e-12, <f32>1 - n * n * s * s)) +
      (depth * s) / Mathf.sqrt(<f32>1 - s * s);
    if (way < reach) low = s;
    else high = s;
  }
  const s2 = <f32>0.5 * (low + high);
  const c2 = Mathf.sqrt(<f32>1 - s2 * s2);
  const s1 = n * s2;
  const c1 = Mathf.sqrt(max<f32>(<f32>1e-8, <f32>1 - s1 * s1));
  const level2 = max<f32>(<f32>1e-9, Mathf.sqrt(toX * toX + toZ * toZ));
  const ax = toX / level2;
  const az = toZ / level2;
  if (!look(ax * s2, c2, az * s2)) return false;
  // Illuminance across the ray at the hit, for one candela (a lamp without size) or for one cd/m².
  const spread = s2 < <f32>1e-3 ? <f32>1 / ((rise + depth / n) * (rise + depth / n))
    : s1 / (reach * (rise / (c1 * c1) + (depth * c1) / (n * c2 * c2 * c2)));
  let k = (spread / c2) * (<f32>1 - fresnel(c1, <f32>1 / n));
  if (toPdf > 0) {
    const straight = -(toX * atNx + toY * atNy + toZ * atNz);
    const bent = -(ax * s1 * atNx + c1 * atNy + az * s1 * atNz);
    if (bent <= 0) return false;
    k *= (bent * toFar * toFar) / (toPdf * straight);
  } else {
    // Its light was taken for the straight distance.
    k *= toFar * toFar;
  }
  const r = lampR, g = lampG, b = lampB;
  const t = depth / c2;
  if (blocked(u(L.H_TOP_OPAQUE), qx, qy, qz, ax * s2, c2, az * s2, t)) return false;
  const up = rise / c1;
  if (!open(qx + ax * s2 * t, level + <f32>1e-4, qz + az * s2 * t, ax * s1, c1, az * s1, up * <f32>0.999,
    true)) return false;
  absorb(t, k / chance);
  gainR *= r * openR;
  gainG *= g * openG;
  gainB *= b * openB;
  return true;
}
