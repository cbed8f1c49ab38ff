/** The path at a surface of water: the level plane, or one that lies in the land. */
import { flowAt, flowX, flowZ } from "./flow";
import { FOAM_WHITE, foamAt } from "./foam";
import { gx, gy, gz, placeHit, takeFrame, ux, uy, uz, vx, vy, vz } from "./hit";
import { addLamp, addSun, chooseLamp, power } from "./join";
import { anyLamps, chooseFromPlace, keepChoice, toX as lampX, toY as lampY, toZ as lampZ } from "./lamps";
import * as L from "./layout";
import { leanAt, leanX, leanZ } from "./planet";
import { drawPair, randX, randY } from "./random";
import { recordOfHit } from "./sample";
import { flag } from "./scene";
import { open, openB, openG, openR } from "./shadow";
import { chooseSun, toPdf, toX, toY, toZ } from "./sky";
import {
  ALL, comeFrom, scaleThroughput, dx, dy, dz, fromY, glintDone, inWater, LAMPS, pdfForLamps, moveTo, NONE, ox, oz, pair,
  setGlintDone, setImaged, setInWater, spreadBy, tell, turnTo, width,
} from "./state";
import { newX, newY, newZ, visibleNormal } from "./surface";
import {
  evaluateWater, fresnel, mirrorChance, ripplesAt, slopeX, slopeZ, viewWater, waterAlpha, WATER_INDEX, waterPdf,
  waterShadow, waterValue,
} from "./water";

export let waterX: f32 = 0;
export let waterY: f32 = 1;
export let waterZ: f32 = 0;

// Level there, on the side that the ray comes from.
let levelX: f32 = 0;
let levelY: f32 = 1;
let levelZ: f32 = 0;

/**
 * Ripples at a place for a ray of a width, and their normal on the side that it comes from; level where the ray would not see it. Of a
 * surface that lies in the land the hit has been read: where it slopes it runs.
 */
export function ripplesSeen(x: f32, z: f32, wide: f32, plane: bool): void {
  leanAt(x, z);
  const up: f32 = inWater ? -1 : 1;
  const l = up / Mathf.sqrt(<f32>1 + leanX * leanX + leanZ * leanZ);
  levelX = -leanX * l;
  levelY = l;
  levelZ = -leanZ * l;
  const across = wide / max<f32>(<f32>0.02, abs<f32>(dx * levelX + dy * levelY + dz * levelZ));
  ripplesAt(x, z, across);
  let sx = slopeX + leanX, sz = slopeZ + leanZ;
  const runs: f32 = plane ? 0 : load<f32>(recordOfHit(), L.MAT_RUNS);
  if (runs > 0 && abs<f32>(gy) > <f32>0.05) {
    flowAt(x, z, -gx / gy - leanX, -gz / gy - leanZ, runs, across);
    sx += flowX;
    sz += flowZ;
  }
  const k = up / Mathf.sqrt(<f32>1 + sx * sx + sz * sz);
  waterX = -sx * k;
  waterY = k;
  waterZ = -sz * k;
  if (waterX * dx + waterY * dy + waterZ * dz > <f32>-1e-3) {
    waterX = levelX;
    waterY = levelY;
    waterZ = levelZ;
  }
}

/**
 * Takes foam on the surface of water at distance t as the hit, where chance finds some; a plane lies level, one that lies in the land as the
 * present hit does.
 */
export function foamIsMet(t: f32, level: f32, plane: bool): bool {
  const atX = ox + dx * t;
  const atZ = oz + dz * t;
  const share = foamAt(atX, atZ, width);
  if (share <= 0) return false;
  drawPair(pair + 3 * LAMPS);
  if (randX >= share) return false;
  ripplesSeen(atX, atZ, width, plane);
  placeHit(
    t, atX, level, atZ, plane ? levelX : gx, plane ? levelY : gy, plane ? levelZ : gz, waterX, waterY, waterZ, FOAM_WHITE,
  );
  return true;
}

/**
 * The water's surface at distance t and at a level over the origin, which the path leaves by a way. A plane lies level, one that lies in
 * the land as the present hit does. False ends the path.
 */
export function meetWater(t: f32, level: f32, leave: f32, plane: bool): bool {
  const atX = ox + dx * t;
  const atZ = oz + dz * t;
  ripplesSeen(atX, atZ, width, plane);
  // The side that the path comes from.
  const sideX: f32 = plane ? levelX : gx;
  const sideY: f32 = plane ? levelY : gy;
  const sideZ: f32 = plane ? levelZ : gz;
  const nx = waterX, ny = waterY, nz = waterZ;
  takeFrame(nx, ny, nz);
  const lx = -(dx * ux + dy * uy + dz * uz);
  const ly = -(dx * vx + dy * vy + dz * vz);
  const lz = max<f32>(<f32>1e-4, -(dx * nx + dy * ny + dz * nz));
  viewWater(lx, ly, lz);
  const choosing = !flag(L.FLAG_NO_LIGHT_SAMPLING);
  if (!inWater && choosing) {
    const over = level + leave + abs<f32>(atX + atZ) * <f32>1e-7;
    if (!glintDone && flag(L.FLAG_SUN)) {
      drawPair(pair + 1);
      chooseSun(randX, randY);
      if (valueOnWater(toX, toY, toZ) && open(atX, over, atZ, toX, toY, toZ, Infinity, true)) {
        addSun((power(toPdf, waterPdf) / toPdf) * waterValue, openR, openG, openB);
      }
    }
    if (anyLamps() && chooseLamp(atX, over, atZ, 0, 0, 0) && valueOnWater(lampX, lampY, lampZ)) {
      addLamp(atX, over, atZ, waterValue, waterValue, waterValue, waterPdf);
    }
  }
  drawPair(pair + 4);
  visibleNormal(lx, ly, lz, waterAlpha, randX, randY);
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
  const g = waterShadow(rz) * (reflects ? F / chance : (<f32>1 - F) / (<f32>1 - chance));
  scaleThroughput(g, g, g);
  turnTo(ux * rx + vx * ry + nx * rz, uy * rx + vy * ry + ny * rz, uz * rx + vz * ry + nz * rz);
  // The new direction must leave the surface on its side.
  const above = reflects ? !inWater : inWater;
  const away = dx * sideX + dy * sideY + dz * sideZ;
  if (reflects ? away <= 0 : away >= 0) return false;
  if (!reflects) leave = -leave;
  moveTo(atX + sideX * leave, level + sideY * leave, atZ + sideZ * leave);
  comeFrom(atX, level, atZ);
  if (!inWater && reflects && choosing) {
    evaluateWater(rx, ry, rz);
    tell(ALL, glintDone ? NONE : waterPdf, waterPdf);
    chooseFromPlace(atX, fromY, atZ, 0, 0, 0);
    keepChoice();
  } else {
    // From under water a lamp above it has been joined by where its light bends, unless the eye itself looks out.
    tell(ALL, choosing ? NONE : ALL, inWater && !reflects && pdfForLamps != ALL ? NONE : ALL);
  }
  // What waves mirror of each other is not joined with the sun again: it would be a speck.
  if (!plane && reflects) setGlintDone(true);
  setImaged(false);
  setInWater(!above, level);
  spreadBy(waterAlpha * <f32>0.5);
  return true;
}

/** Takes the water's value towards a direction from above; the frame is the ripples'. */
function valueOnWater(cx: f32, cy: f32, cz: f32): bool {
  const iz = cx * waterX + cy * waterY + cz * waterZ;
  if (iz <= <f32>1e-5 || cx * levelX + cy * levelY + cz * levelZ <= 0) return false;
  evaluateWater(cx * ux + cy * uy + cz * uz, cx * vx + cy * vy + cz * vz, iz);
  return waterValue > <f32>1e-9;
}
