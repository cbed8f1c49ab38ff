/**
 * One path from the lens: traversal, fog, surfaces, water and the light from outside.
 *
 * Sun and sky are chosen at each vertex and also found by the scattered ray; the power heuristic (Veach 1997) weighs
 * the two. `skyPdf` and `sunPdf` of the state say how the last direction was chosen: a density, ALL when nothing else
 * could have found that light, NONE when another choice has counted it already:
 * - Under water the sun is joined through a flat interface, so a path that leaves the water does not count its disc.
 * - From rough surfaces and fog the sun's glint in the water is chosen by itself (a reflected visible normal of the
 *   ripples' statistics), so the water that such a path meets does not join the sun again. This takes the caustics of
 *   the mirrored sun out of the noise without a clamp.
 * There is no cap on bounces; Russian roulette by throughput ends a path.
 */
import { colB, colG, colR, gx, gy, gz, offsetAt, px, py, pz, readHit, sx, sy, sz, takeFrame, ux, uy, uz, vx, vy, vz, wet } from "./hit";
import { blocked, hitInstance, hitT, keepHit, nearest, takeHitBack } from "./intersect";
import { fogDepth, fogReach, fogX, fogY, fogZ, phase, scatterDirection } from "./fog";
import * as L from "./layout";
import { drawPair, randX, randY } from "./random";
import { f, flag, PI, sq, u } from "./scene";
import {
  airAlong, chooseSky, chooseSun, hazeIn, onSun, skyB, skyG, skyIn, skyPdf, skyR, sunPdf, sunRadiance, toPdf, toX, toY, toZ,
} from "./sky";
import {
  choose, evaluate, isMostlyMirror, newX, newY, newZ, setSurface, surfaceAlpha, valueB, valueG, valuePdf, valueR, visibleNormal,
} from "./surface";
import { fresnel, ripplesAt, slopeX, slopeZ, waterAlpha, WATER_INDEX } from "./water";

const ALL: f32 = -1;
const NONE: f32 = -2;
/** How much more often than it turns a path joins the light of the fog; measured on the demo: variance 1.08 at 1, 0.82 at 8, 0.79 at 20 and 40. */
const FOG_JOINS: f64 = 20;
/** Share of directions in fog that are chosen about the sun. */
const SUNWARD: f32 = 0.4;
/** Light from under water as a share of light from above it, for the choice between the two. */
const BED_SHARE: f32 = 0.25;

// What the path brings.
export let outR: f32 = 0;
export let outG: f32 = 0;
export let outB: f32 = 0;
export let firstDepth: f32 = 0;
export let firstId: u32 = 0;
export let albedoR: f32 = 0;
export let albedoG: f32 = 0;
export let albedoB: f32 = 0;
export let normalX: f32 = 0;
export let normalY: f32 = 0;
export let normalZ: f32 = 0;

// State of the path.
let ox: f32 = 0;
let oy: f32 = 0;
let oz: f32 = 0;
let dx: f32 = 0;
let dy: f32 = 0;
let dz: f32 = 0;
let betaR: f32 = 1;
let betaG: f32 = 1;
let betaB: f32 = 1;
let skyState: f32 = 0;
let sunState: f32 = 0;
let glintDone: bool = false;
let inWater: bool = false;
let width: f32 = 0;
let spread: f32 = 0;
let pair: u32 = 0;

// @ts-ignore: decorator
@inline
function power(a: f32, b: f32): f32 {
  const a2 = a * a;
  return a2 / (a2 + b * b);
}

/** Share of light from outside that reaches a point above water: 0 when blocked, else the fog's transmittance. */
function fromOutside(x: f32, y: f32, z: f32, ix: f32, iy: f32, iz: f32): f32 {
  if (blocked(u(L.H_TOP), x, y, z, ix, iy, iz, Infinity)) return 0;
  if (flag(L.FLAG_FOG) && !flag(L.FLAG_SKY_CLEAR)) return <f32>Math.exp(-fogDepth(y, iy, Infinity));
  return 1;
}

// @ts-ignore: decorator
@inline
function addSun(k: f32, vr: f32, vg: f32, vb: f32): void {
  outR += betaR * vr * k * sunRadiance(0);
  outG += betaG * vg * k * sunRadiance(4);
  outB += betaB * vb * k * sunRadiance(8);
}

// @ts-ignore: decorator
@inline
function addSky(k: f32, vr: f32, vg: f32, vb: f32): void {
  outR += betaR * vr * k * skyR;
  outG += betaG * vg * k * skyG;
  outB += betaB * vb * k * skyB;
}

/** Sky and sun that the path itself has found, by a share. */
function addOutside(share: f32): void {
  let weight: f32 = skyState == ALL ? <f32>1 : skyState == NONE ? <f32>0 : power(skyState, skyPdf(dx, dy, dz));
  if (weight > 0) {
    skyIn(dx, dy, dz);
    addSky(weight * share, 1, 1, 1);
  }
  if (sunState != NONE && onSun(dx, dy, dz)) {
    weight = sunState == ALL ? <f32>1 : power(sunState, sunPdf());
    addSun(weight * share, 1, 1, 1);
  }
}

/** Light of the sun mirrored by the water, at a point whose value towards a direction is asked by `atSurface`. */
function joinGlint(x: f32, y: f32, z: f32, atSurface: bool, extra: f32): void {
  const level = f(L.H_WATER_LEVEL);
  drawPair(pair + 5);
  const lx = f(L.H_SUN_DIRECTION);
  const ly = f(L.H_SUN_DIRECTION + 4);
  const lz = f(L.H_SUN_DIRECTION + 8);
  if (ly <= <f32>0.002) return;
  ripplesAt(0, 0, 1000);
  const alpha = waterAlpha;
  // local frame of the water: x, z level, y up → (x, z, y)
  visibleNormal(lx, lz, ly, alpha, randX, randY);
  const lh = lx * newX + lz * newY + ly * newZ;
  const wx = <f32>2 * lh * newX - lx;
  const wz = <f32>2 * lh * newY - lz;
  const wy = <f32>2 * lh * newZ - ly;
  if (wy <= <f32>1e-4) return;
  let vr: f32 = 0;
  let vg: f32 = 0;
  let vb: f32 = 0;
  if (atSurface) {
    if (-(wx * gx + wy * gy + wz * gz) <= 0) return;
    evaluate(-(wx * ux + wy * uy + wz * uz), -(wx * vx + wy * vy + wz * vz), -(wx * sx + wy * sy + wz * sz));
    vr = valueR;
    vg = valueG;
    vb = valueB;
  } else {
    vr = vg = vb = phase(-(wx * dx + wy * dy + wz * dz));
  }
  if (vr + vg + vb <= 0) return;
  const t = (y - level) / wy;
  let off: f32 = 0;
  if (atSurface) off = offsetAt();
  const qx = x + gx * off;
  const qy = y + gy * off;
  const qz = z + gz * off;
  if (blocked(u(L.H_TOP), qx, qy, qz, -wx, -wy, -wz, t)) return;
  const through = fromOutside(x - wx * t, level + <f32>1e-3, z - wz * t, lx, ly, lz);
  if (through <= 0) return;
  const a2 = alpha * alpha;
  const ll = <f32>0.5 * (Mathf.sqrt(<f32>1 + (a2 * (<f32>1 - ly * ly)) / (ly * ly)) - <f32>1);
  const lw = <f32>0.5 * (Mathf.sqrt(<f32>1 + (a2 * (<f32>1 - wy * wy)) / (wy * wy)) - <f32>1);
  let k = fresnel(max<f32>(0, lh), <f32>1 / WATER_INDEX) * ((<f32>1 + ll) / (<f32>1 + ll + lw)) * (ly / wy) * through * extra;
  if (flag(L.FLAG_FOG)) k *= <f32>Math.exp(-fogDepth(y, -wy, t));
  outR += betaR * vr * k * f(L.H_SUN_LUX);
  outG += betaG * vg * k * f(L.H_SUN_LUX + 4);
  outB += betaB * vb * k * f(L.H_SUN_LUX + 8);
}

/** Sun through the flat surface onto a point under water. */
function joinSunUnderWater(off: f32): void {
  const ly = f(L.H_SUN_DIRECTION + 4);
  if (ly <= <f32>0.002) return;
  const lx = f(L.H_SUN_DIRECTION);
  const lz = f(L.H_SUN_DIRECTION + 8);
  const r = <f32>1 / WATER_INDEX;
  const wy = Mathf.sqrt(<f32>1 - r * r * (<f32>1 - ly * ly));
  const wx = lx * r;
  const wz = lz * r;
  if (wx * gx + wy * gy + wz * gz <= 0) return;
  evaluate(wx * ux + wy * uy + wz * uz, wx * vx + wy * vy + wz * vz, wx * sx + wy * sy + wz * sz);
  if (valueR + valueG + valueB <= 0) return;
  const level = f(L.H_WATER_LEVEL);
  const qy = py + gy * off;
  const t = max<f32>(0, (level - qy) / wy);
  const qx = px + gx * off;
  const qz = pz + gz * off;
  if (blocked(u(L.H_TOP), qx, qy, qz, wx, wy, wz, t)) return;
  const through = fromOutside(qx + wx * t, level + <f32>1e-4, qz + wz * t, lx, ly, lz);
  if (through <= 0) return;
  const k = (<f32>1 - fresnel(ly, r)) * (ly / wy) * through;
  outR += betaR * valueR * k * f(L.H_SUN_LUX) * Mathf.exp(-f(L.H_WATER_ABSORB) * t);
  outG += betaG * valueG * k * f(L.H_SUN_LUX + 4) * Mathf.exp(-f(L.H_WATER_ABSORB + 4) * t);
  outB += betaB * valueB * k * f(L.H_SUN_LUX + 8) * Mathf.exp(-f(L.H_WATER_ABSORB + 8) * t);
}

/** A surface: lights chosen, then a new direction. False ends the path. */
function meetSurface(): bool {
  readHit(ox, oy, oz, dx, dy, dz);
  const material = <usize>u(L.H_MATERIALS) + <usize>load<u32>(hitInstance, L.I_MATERIAL) * L.MAT_SIZE;
  takeFrame(sx, sy, sz);
  let roughness = load<f32>(material, L.MAT_ROUGHNESS);
  roughness += (<f32>0.22 - roughness) * wet * (roughness > <f32>0.22 ? <f32>1 : <f32>0);
  setSurface(
    colR, colG, colB, roughness, load<f32>(material, L.MAT_METAL), load<f32>(material, L.MAT_TRANSLUCENCY),
    -(dx * ux + dy * uy + dz * uz), -(dx * vx + dy * vy + dz * vz), -(dx * sx + dy * sy + dz * sz),
  );
  const off = offsetAt();
  const choosing = !flag(L.FLAG_NO_LIGHT_SAMPLING);
  if (inWater) {
    joinSunUnderWater(off);
  } else if (choosing) {
    if (flag(L.FLAG_SUN)) {
      drawPair(pair + 1);
      chooseSun(randX, randY);
      const cx = toX, cy = toY, cz = toZ;
      joinChosen(cx, cy, cz, toPdf, true, off);
      glintDone = false;
      if (flag(L.FLAG_WATER) && !isMostlyMirror()) {
        glintDone = true;
        joinGlint(px, py, pz, true, 1);
      }
    }
    drawPair(pair + 2);
    chooseSky(randX, randY);
    const cx = toX, cy = toY, cz = toZ;
    joinChosen(cx, cy, cz, toPdf, false, off);
  }
  drawPair(pair + 3);
  const pick = randX;
  drawPair(pair + 4);
  if (!choose(pick, randX, randY)) return false;
  const ix = newX, iy = newY, iz = newZ;
  evaluate(ix, iy, iz);
  if (valuePdf <= 0) return false;
  const wx = ux * ix + vx * iy + sx * iz;
  const wy = uy * ix + vy * iy + sy * iz;
  const wz = uz * ix + vz * iy + sz * iz;
  const side = wx * gx + wy * gy + wz * gz;
  if (side * iz <= 0) return false;
  const k = <f32>1 / valuePdf;
  betaR *= valueR * k;
  betaG *= valueG * k;
  betaB *= valueB * k;
  const o: f32 = side > 0 ? off : -off;
  ox = px + gx * o;
  oy = py + gy * o;
  oz = pz + gz * o;
  dx = wx;
  dy = wy;
  dz = wz;
  skyState = choosing ? valuePdf : ALL;
  sunState = choosing ? valuePdf : ALL;
  if (inWater) {
    skyState = ALL;
    sunState = NONE;
  }
  if (flag(L.FLAG_NO_SURFACE_LIGHT)) {
    skyState = NONE;
    sunState = NONE;
  }
  spread = max<f32>(spread, isMostlyMirror() ? surfaceAlpha() : 1);
  return true;
}


function joinChosen(cx: f32, cy: f32, cz: f32, pdf: f32, sun: bool, off: f32): void {
  const side = cx * gx + cy * gy + cz * gz;
  const iz = cx * sx + cy * sy + cz * sz;
  if (side * iz <= 0) return;
  evaluate(cx * ux + cy * uy + cz * uz, cx * vx + cy * vy + cz * vz, iz);
  if (valueR + valueG + valueB <= 0) return;
  const vr = valueR, vg = valueG, vb = valueB, vp = valuePdf;
  const o: f32 = side > 0 ? off : -off;
  const through = fromOutside(px + gx * o, py + gy * o, pz + gz * o, cx, cy, cz);
  if (through <= 0) return;
  const weight = flag(L.FLAG_NO_SURFACE_LIGHT) ? <f32>1 : power(pdf, vp);
  const k = (through * weight) / pdf;
  if (sun) {
    addSun(k, vr, vg, vb);
  } else {
    skyIn(cx, cy, cz);
    addSky(k, vr, vg, vb);
  }
}

/** Light from outside, chosen and joined at a point of the fog, for a path that has come along (dx, dy, dz). */
function lightFog(x: f32, y: f32, z: f32): void {
    if (flag(L.FLAG_SUN)) {
      drawPair(pair + 1);
      chooseSun(randX, randY);
      const cx = toX, cy = toY, cz = toZ;
      const p = phase(cx * dx + cy * dy + cz * dz);
      const through = fromOutside(x, y, z, cx, cy, cz);
      if (through > 0) addSun((through * power(sunPdf(), p)) / sunPdf(), p, p, p);
      if (flag(L.FLAG_WATER)) {
        drawPair(pair + 6);
        if (randY < <f32>0.25) joinGlint(x, y, z, false, 4);
      }
    }
    drawPair(pair + 2);
    chooseSky(randX, randY);
    const cx = toX, cy = toY, cz = toZ, pdf = toPdf;
    const p = phase(cx * dx + cy * dy + cz * dz);
    const through = fromOutside(x, y, z, cx, cy, cz);
    if (through > 0) {
      skyIn(cx, cy, cz);
      addSky((through * power(pdf, p)) / pdf, p, p, p);
    }
}

/** Joins the light of a point of the fog at distance t by a share, without turning the path. */
function lightSeenFog(t: f32, share: f32): void {
  const keepR = betaR, keepG = betaG, keepB = betaB;
  airAlong(t);
  betaR *= f(L.H_FOG_ALBEDO) * share * skyR;
  betaG *= f(L.H_FOG_ALBEDO + 4) * share * skyG;
  betaB *= f(L.H_FOG_ALBEDO + 8) * share * skyB;
  lightFog(ox + dx * t, oy + dy * t, oz + dz * t);
  betaR = keepR;
  betaG = keepG;
  betaB = keepB;
}

/** A point in the fog at distance t, whose light has been joined: the path turns there. */
function meetFog(t: f32): void {
  ox += dx * t;
  oy += dy * t;
  oz += dz * t;
  betaR *= f(L.H_FOG_ALBEDO);
  betaG *= f(L.H_FOG_ALBEDO + 4);
  betaB *= f(L.H_FOG_ALBEDO + 8);
  const choosing = !flag(L.FLAG_NO_LIGHT_SAMPLING);
  glintDone = choosing && flag(L.FLAG_SUN) && flag(L.FLAG_WATER);
  // The next point of the fog on this path is lit by the same narrow lobe, towards the sun. Directions are therefore
  // chosen partly about the path and partly about the sun, and weighed by the mixture of both.
  drawPair(pair + 3);
  const sun: f32 = choosing && flag(L.FLAG_SUN) ? SUNWARD : 0;
  const lx = f(L.H_SUN_DIRECTION), ly = f(L.H_SUN_DIRECTION + 4), lz = f(L.H_SUN_DIRECTION + 8);
  const about = randX < sun;
  drawPair(pair + 4);
  scatterDirection(about ? lx : dx, about ? ly : dy, about ? lz : dz, randX, randY);
  const own = phase(fogX * dx + fogY * dy + fogZ * dz);
  const p = own * (<f32>1 - sun) + phase(fogX * lx + fogY * ly + fogZ * lz) * sun;
  const k = own / p;
  betaR *= k;
  betaG *= k;
  betaB *= k;
  dx = fogX;
  dy = fogY;
  dz = fogZ;
  skyState = choosing ? p : ALL;
  sunState = choosing ? p : ALL;
  spread = 1;
}

let waterX: f32 = 0;
let waterY: f32 = 1;
let waterZ: f32 = 0;

/** Normal of the ripples' slope, on the side that the ray comes from; level where the ray would not see it. */
function turnToViewer(up: f32): void {
  const k = <f32>1 / Mathf.sqrt(<f32>1 + slopeX * slopeX + slopeZ * slopeZ);
  waterX = -slopeX * k * up;
  waterY = k * up;
  waterZ = -slopeZ * k * up;
  if (waterX * dx + waterY * dy + waterZ * dz > <f32>-1e-3) {
    waterX = 0;
    waterY = up;
    waterZ = 0;
  }
}

/** Notes what the eye's own ray meets at a distance, whatever the path does on its way there. */
function noteFirst(far: f32, onWater: bool): void {
  if (far == Infinity) return;
  firstDepth = far * (dx * f(L.H_FORWARD) + dy * f(L.H_FORWARD + 4) + dz * f(L.H_FORWARD + 8));
  if (onWater) {
    firstId = L.ID_WATER;
    ripplesAt(ox + dx * far, oz + dz * far, (spread * far) / max<f32>(<f32>0.02, abs<f32>(dy)));
    turnToViewer(inWater ? -1 : 1);
    normalX = waterX;
    normalY = waterY;
    normalZ = waterZ;
    return;
  }
  readHit(ox, oy, oz, dx, dy, dz);
  firstId = load<u32>(hitInstance, L.I_ID);
  albedoR = colR;
  albedoG = colG;
  albedoB = colB;
  normalX = sx;
  normalY = sy;
  normalZ = sz;
}

/** Chance of following the mirrored ray at the water: its share of the light, where the bed is taken to be darker than the sky. */
// @ts-ignore: decorator
@inline
function mirrorChance(F: f32): f32 {
  return F / (F + (<f32>1 - F) * BED_SHARE);
}

/** The water's surface at distance t. False ends the path. */
function meetWater(t: f32): bool {
  const atX = ox + dx * t;
  const atZ = oz + dz * t;
  const level = f(L.H_WATER_LEVEL);
  ripplesAt(atX, atZ, width / max<f32>(<f32>0.02, abs<f32>(dy)));
  const alpha = waterAlpha;
  const up: f32 = inWater ? -1 : 1;
  turnToViewer(up);
  const nx = waterX, ny = waterY, nz = waterZ;
  takeFrame(nx, ny, nz);
  const lx = -(dx * ux + dy * uy + dz * uz);
  const ly = -(dx * vx + dy * vy + dz * vz);
  const lz = max<f32>(<f32>1e-4, -(dx * nx + dy * ny + dz * nz));
  const a2 = alpha * alpha;
  const lambdaO = <f32>0.5 * (Mathf.sqrt(<f32>1 + (a2 * (<f32>1 - lz * lz)) / (lz * lz)) - <f32>1);
  if (!inWater && !glintDone && flag(L.FLAG_SUN) && !flag(L.FLAG_NO_LIGHT_SAMPLING)) {
    drawPair(pair + 1);
    chooseSun(randX, randY);
    const cx = toX, cy = toY, cz = toZ;
    const iz = cx * nx + cy * ny + cz * nz;
    if (iz > <f32>1e-5 && cy > 0) {
      let hx = lx + cx * ux + cy * uy + cz * uz;
      let hy = ly + cx * vx + cy * vy + cz * vz;
      let hz = lz + iz;
      const hl = <f32>1 / Mathf.sqrt(hx * hx + hy * hy + hz * hz);
      hx *= hl;
      hy *= hl;
      hz *= hl;
      const d = a2 / (PI * sq(sq(hz) * (a2 - <f32>1) + <f32>1));
      const vh = lx * hx + ly * hy + lz * hz;
      const lambdaI = <f32>0.5 * (Mathf.sqrt(<f32>1 + (a2 * (<f32>1 - iz * iz)) / (iz * iz)) - <f32>1);
      const F = fresnel(vh, <f32>1 / WATER_INDEX);
      const value = (F * d) / ((<f32>1 + lambdaO + lambdaI) * <f32>4 * lz);
      const pdf = (mirrorChance(F) * d) / ((<f32>1 + lambdaO) * <f32>4 * lz);
      if (value > <f32>1e-9) {
        const through = fromOutside(atX, level + <f32>1e-4 + abs<f32>(atX + atZ) * <f32>1e-7, atZ, cx, cy, cz);
        if (through > 0) addSun((through * power(sunPdf(), pdf)) / sunPdf(), value, value, value);
      }
    }
  }
  drawPair(pair + 4);
  visibleNormal(lx, ly, lz, alpha, randX, randY);
  const mx = newX, my = newY, mz = newZ;
  const vh = max<f32>(<f32>1e-5, lx * mx + ly * my + lz * mz);
  const ratio: f32 = inWater ? WATER_INDEX : <f32>1 / WATER_INDEX;
  const F = fresnel(vh, ratio);
  drawPair(pair + 3);
  let rx: f32;
  let ry: f32;
  let rz: f32;
  const chance: f32 = inWater ? F : mirrorChance(F);
  const reflects = randX < chance;
  if (reflects) {
    rx = <f32>2 * vh * mx - lx;
    ry = <f32>2 * vh * my - ly;
    rz = <f32>2 * vh * mz - lz;
    if (rz <= 0) return false;
  } else {
    const c = Mathf.sqrt(max<f32>(0, <f32>1 - ratio * ratio * (<f32>1 - vh * vh)));
    const q = ratio * vh - c;
    rx = q * mx - ratio * lx;
    ry = q * my - ratio * ly;
    rz = q * mz - ratio * lz;
    if (rz >= 0) return false;
  }
  const z2 = rz * rz;
  const lambdaR = <f32>0.5 * (Mathf.sqrt(<f32>1 + (a2 * (<f32>1 - z2)) / max<f32>(<f32>1e-9, z2)) - <f32>1);
  const g = ((<f32>1 + lambdaO) / (<f32>1 + lambdaO + lambdaR)) * (reflects ? F / chance : (<f32>1 - F) / (<f32>1 - chance));
  betaR *= g;
  betaG *= g;
  betaB *= g;
  dx = ux * rx + vx * ry + nx * rz;
  dy = uy * rx + vy * ry + ny * rz;
  dz = uz * rx + vz * ry + nz * rz;
  // The new direction must leave the plane on its side.
  const above = reflects ? !inWater : inWater;
  if (above ? dy <= 0 : dy >= 0) return false;
  ox = atX;
  oz = atZ;
  oy = level + (above ? <f32>1e-4 : <f32>-1e-4);
  skyState = ALL;
  if (inWater || glintDone || !reflects) {
    sunState = NONE;
  } else {
    const nl = <f32>1 / Mathf.sqrt(max<f32>(<f32>1e-20, sq(lx + rx) + sq(ly + ry) + sq(lz + rz)));
    const hz = (lz + rz) * nl;
    const d = a2 / (PI * sq(sq(hz) * (a2 - <f32>1) + <f32>1));
    sunState = (chance * d) / ((<f32>1 + lambdaO) * <f32>4 * lz);
  }
  if (flag(L.FLAG_NO_LIGHT_SAMPLING)) sunState = ALL;
  inWater = !above;
  spread = max<f32>(spread, alpha * <f32>0.5);
  return true;
}

/** Traces one path through a point of the film, in pixels from the top-left corner. Random pairs 0 and 1 are taken. */
export function tracePath(filmX: f32, filmY: f32, lensA: f32, lensB: f32): void {
  const a = (<f32>2 * filmX) / <f32>u(L.H_WIDTH) - <f32>1;
  const b = <f32>1 - (<f32>2 * filmY) / <f32>u(L.H_HEIGHT);
  dx = f(L.H_FORWARD) + a * f(L.H_RIGHT) + b * f(L.H_UP);
  dy = f(L.H_FORWARD + 4) + a * f(L.H_RIGHT + 4) + b * f(L.H_UP + 4);
  dz = f(L.H_FORWARD + 8) + a * f(L.H_RIGHT + 8) + b * f(L.H_UP + 8);
  ox = oy = oz = 0;
  const radius = f(L.H_LENS_RADIUS);
  if (radius > 0) {
    const focus = f(L.H_FOCUS);
    const r = radius * Mathf.sqrt(lensA);
    const t = <f32>2 * PI * lensB;
    const lr = r * Mathf.cos(t) / Mathf.sqrt(sq(f(L.H_RIGHT)) + sq(f(L.H_RIGHT + 4)) + sq(f(L.H_RIGHT + 8)));
    const lu = r * Mathf.sin(t) / Mathf.sqrt(sq(f(L.H_UP)) + sq(f(L.H_UP + 4)) + sq(f(L.H_UP + 8)));
    ox = lr * f(L.H_RIGHT) + lu * f(L.H_UP);
    oy = lr * f(L.H_RIGHT + 4) + lu * f(L.H_UP + 4);
    oz = lr * f(L.H_RIGHT + 8) + lu * f(L.H_UP + 8);
    dx = dx * focus - ox;
    dy = dy * focus - oy;
    dz = dz * focus - oz;
  }
  const k = <f32>1 / Mathf.sqrt(dx * dx + dy * dy + dz * dz);
  dx *= k;
  dy *= k;
  dz *= k;
  outR = outG = outB = 0;
  betaR = betaG = betaB = 1;
  skyState = ALL;
  sunState = ALL;
  glintDone = false;
  firstDepth = <f32>1e10;
  firstId = L.ID_SKY;
  albedoR = albedoG = albedoB = 0;
  normalX = normalY = normalZ = 0;
  const water = flag(L.FLAG_WATER);
  const fog = flag(L.FLAG_FOG);
  const level = f(L.H_WATER_LEVEL);
  inWater = water && oy < level;
  width = 0;
  spread = f(L.H_PIXEL_ANGLE);
  const top = u(L.H_TOP);
  for (let bounce = 0; true; bounce++) {
    pair = 2 + <u32>bounce * 8;
    nearest(top, ox, oy, oz, dx, dy, dz, Infinity);
    let far = hitT;
    let onWater = false;
    if (water && dy != 0) {
      const t = (level - oy) / dy;
      if (t > 0 && t < far) {
        far = t;
        onWater = true;
      }
    }
    const missed = far == Infinity;
    if (bounce == 0) noteFirst(far, onWater);
    let inFog = false;
    if (fog && !inWater && !(missed && flag(L.FLAG_SKY_CLEAR))) {
      // Light that the fog sends along this ray is joined at one point by the share of the ray that scatters, and only
      // what comes next is left to chance. The eye's own ray and its mirror images do so on every sample; others with a
      // chance of {@link FOG_JOINS} times that share, since a rare full scattering towards the sun is what specks are.
      drawPair(pair);
      const share = 1 - Math.exp(-fogDepth(oy, dy, far));
      if (flag(L.FLAG_NO_LIGHT_SAMPLING)) {
        const t = fogReach(oy, dy, -Math.log(1 - <f64>randX));
        if (t < far && t < Infinity) {
          far = t;
          inFog = true;
        }
      } else if (share > 1e-7) {
        // Rounding may push the reach of a nearly full depth to infinity.
        const turn = <f64>randY < share;
        const t = min<f32>(fogReach(oy, dy, -Math.log(1 - <f64>randX * share)), min<f32>(far, <f32>1e7));
        let joins: f64 = 1;
        if (spread >= <f32>0.05) {
          joins = min<f64>(1, FOG_JOINS * share);
          drawPair(pair + 6);
        }
        if (joins == 1 || <f64>randX < joins) {
          keepHit();
          lightSeenFog(t, <f32>(share / joins));
          takeHitBack();
        }
        if (missed) {
          // What lies behind costs no ray: it is added by the share that is left, whether the path turns or not.
          addOutside(<f32>1 - <f32>share);
          if (!turn) return;
        }
        if (turn) {
          far = t;
          inFog = true;
        }
      }
    }
    if (missed && !inFog) {
      addOutside(1);
      return;
    }
    if (inWater) {
      betaR *= Mathf.exp(-f(L.H_WATER_ABSORB) * far);
      betaG *= Mathf.exp(-f(L.H_WATER_ABSORB + 4) * far);
      betaB *= Mathf.exp(-f(L.H_WATER_ABSORB + 8) * far);
    } else if (f(L.H_AIR + 8) * far > <f32>1e-3) {
      airAlong(far);
      const ar = skyR, ag = skyG, ab = skyB;
      hazeIn(dx, dy, dz);
      outR += betaR * (<f32>1 - ar) * skyR;
      outG += betaG * (<f32>1 - ag) * skyG;
      outB += betaB * (<f32>1 - ab) * skyB;
      betaR *= ar;
      betaG *= ag;
      betaB *= ab;
    }
    width += spread * far;
    if (inFog) meetFog(far);
    else if (onWater) {
      if (!meetWater(far)) return;
    } else if (!meetSurface()) return;
    const most = max<f32>(betaR, max<f32>(betaG, betaB));
    if (!(most > <f32>1e-12)) return;
    if (bounce >= 2) {
      const stay = min<f32>(<f32>0.98, most);
      drawPair(pair + 7);
      if (randX >= stay && most < 1) return;
      if (most < 1) {
        const r = <f32>1 / stay;
        betaR *= r;
        betaG *= r;
        betaB *= r;
      }
    }
  }
}
