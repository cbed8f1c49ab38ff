/** The path at a surface: lights joined, then a new direction. Panes and bodies of glass are here, too. */
import { lookAtPane, mirrorB, mirrorG, mirrorR, paneChance, passB, passG, passR } from "./glass";
import { fromBehind, gx, gy, gz, offsetAt, px, py, pz, sx, sy, sz, takeFrame, ux, uy, uz, vx, vy, vz } from "./hit";
import { addGain, joinLights, leaveSurface, takeSurface, tellChoice, evaluatePane } from "./join";
import { anyLamps, light } from "./lamps";
import * as L from "./layout";
import { drawPair, randX, randY } from "./random";
import { coat, coatRoughness, glass, glassIndex, record, roughness, takeGlass, wetRoughness } from "./sample";
import { flag } from "./scene";
import {
  addFork, ALL, scaleThroughput, dx, dy, dz, glintDone, holdWay, imaged, inWater, LAMPS, pdfForLamps, mayFork,
  moveTo, NONE, pair, setGlintDone, setInGlass, spread, spreadBy, pdfForSun,
  takeHeld, tell,
} from "./state";
import {
  choose, chooseMirror, evaluate, evaluateMirror, halfCosine, isMostlyMirror, newX, newY, newZ, setCoat,
  surfaceAlpha, bsdfB, bsdfG, bsdfPdf,
  bsdfR, visibleNormal,
} from "./surface";
import { fresnel } from "./water";
import { glint, lampUnderWater, sunUnderWater } from "./waterLight";

/** Spread below which a path is still what the eye sees, by mirrors and still water. */
export const EYE_SPREAD: f32 = 0.05;
/** Least chance of following the mirrored ray where the eye looks at a pane. */
const EYE_MIRROR: f32 = 0.3;

/** A surface other than glass: lights chosen, then a new direction. False ends the path. */
export function meetSurface(): bool {
  takeSurface(wetRoughness());
  if (coat > 0) setCoat(coat, coatRoughness);
  const off = offsetAt();
  const choosing = !flag(L.FLAG_NO_LIGHT_SAMPLING);
  if (inWater) {
    if (sunUnderWater(off)) addGain(1, L.LAYER_SUN);
    if (anyLamps() && lampUnderWater(off, pair + LAMPS + 3)) addGain(1, load<u32>(light, L.LI_LAYER));
  } else if (choosing) {
    joinLights(off, 0);
    // By way of water that lies in the land the sun is not joined: few paths would find it, as specks.
    setGlintDone(flag(L.FLAG_SUN) && !isMostlyMirror());
    if (glintDone && flag(L.FLAG_WATER) && glint(px, py, pz, dx, dy, dz, true, off, pair + 5)) addGain(1, L.LAYER_SUN);
  }
  drawPair(pair + 3);
  const pick = randX;
  drawPair(pair + 4);
  if (!choose(pick, randX, randY)) return false;
  const ix = newX, iy = newY, iz = newZ;
  evaluate(ix, iy, iz);
  if (bsdfPdf <= 0) return false;
  const k = <f32>1 / bsdfPdf;
  scaleThroughput(bsdfR * k, bsdfG * k, bsdfB * k);
  if (!leaveSurface(ix, iy, iz, off)) return false;
  tellChoice(choosing, bsdfPdf);
  if (inWater) tell(ALL, NONE, NONE);
  spreadBy(isMostlyMirror() ? surfaceAlpha() : 1);
  return true;
}

function meetRoughPane(off: f32): bool {
  takeSurface(roughness);
  const choosing = !flag(L.FLAG_NO_LIGHT_SAMPLING) && !inWater;
  if (choosing) joinLights(off, record);
  drawPair(pair + 3);
  const pick = randX;
  drawPair(pair + 4);
  if (!chooseMirror(surfaceAlpha(), randX, randY)) return false;
  const ix = newX, iy = newY, iz = newZ;
  evaluateMirror(ix, iy, iz);
  lookAtPane(record, halfCosine());
  const mirrors = pick < paneChance();
  evaluatePane(record, ix, iy, mirrors ? iz : -iz);
  if (bsdfPdf <= 0) return false;
  const k = <f32>1 / bsdfPdf;
  scaleThroughput(bsdfR * k, bsdfG * k, bsdfB * k);
  tellChoice(choosing, bsdfPdf);
  spreadBy(surfaceAlpha());
  return leaveSurface(ix, iy, mirrors ? iz : -iz, off);
}

/** Glass: a pane, or a face of a body. False ends the path. */
export function meetGlass(): bool {
  const smooth = roughness < <f32>L.GLASS_SMOOTH;
  const pane = glass == <f32>L.GLASS_PANE;
  const off = offsetAt();
  if (pane && !smooth && !fromBehind) return meetRoughPane(off);
  drawPair(pair + 3);
  const pick = randX;
  takeFrame(sx, sy, sz);
  const lx = -(dx * ux + dy * uy + dz * uz);
  const ly = -(dx * vx + dy * vy + dz * vz);
  const lz = max<f32>(<f32>1e-4, -(dx * sx + dy * sy + dz * sz));
  if (pane) {
    let chance: f32 = 0;
    if (!fromBehind) {
      lookAtPane(record, lz);
      if (spread < EYE_SPREAD && mayFork()) {
        holdWay();
        scaleThroughput(mirrorR, mirrorG, mirrorB);
        if (leaveSurface(-lx, -ly, lz, off)) addFork();
        takeHeld();
        scaleThroughput(passR, passG, passB);
        moveTo(px - gx * off, py - gy * off, pz - gz * off);
        return true;
      }
      chance = paneChance();
      // What the eye itself sees mirrored in a pane is faint but often bright (a flame): it is followed more often.
      if (spread < EYE_SPREAD) chance = max<f32>(chance, EYE_MIRROR);
      const k = <f32>1 / (pick < chance ? chance : <f32>1 - chance);
      scaleThroughput((pick < chance ? mirrorR : passR) * k, (pick < chance ? mirrorG : passG) * k,
        (pick < chance ? mirrorB : passB) * k);
    }
    if (pick < chance) {
      tellMirror(false, true);
      return leaveSurface(-lx, -ly, lz, off);
    }
    // Straight on, as if it had not been there: what has been told of the direction stays true.
    moveTo(px - gx * off, py - gy * off, pz - gz * off);
    return true;
  }
  let mx: f32 = 0;
  let my: f32 = 0;
  let mz: f32 = 1;
  if (!smooth) {
    drawPair(pair + 4);
    visibleNormal(lx, ly, lz, roughness * roughness, randX, randY);
    mx = newX;
    my = newY;
    mz = newZ;
    spreadBy(roughness * roughness);
  }
  takeGlass(record);
  const index = glassIndex;
  const ratio: f32 = fromBehind ? index : <f32>1 / index;
  const vh = max<f32>(<f32>1e-5, lx * mx + ly * my + lz * mz);
  const F = fresnel(vh, ratio);
  let chance: f32 = F < 1 && spread < EYE_SPREAD ? max<f32>(F, EYE_MIRROR) : F;
  const forks = smooth && F < 1 && spread < EYE_SPREAD && mayFork();
  if (forks) {
    holdWay();
    scaleThroughput(F, F, F);
    if (leaveSurface(<f32>2 * vh * mx - lx, <f32>2 * vh * my - ly, max<f32>(<f32>1e-4, abs<f32>(<f32>2 * vh * mz - lz)),
      off)) addFork();
    takeHeld();
    chance = 0;
  }
  const mirrors = !forks && pick < chance;
  const k: f32 = mirrors ? F / chance : (<f32>1 - F) / (<f32>1 - chance);
  scaleThroughput(k, k, k);
  if (smooth) tellMirror(!mirrors, false);
  else tell(ALL, ALL, ALL);
  // Directions that the face's own roughness hides come out on its other side.
  if (mirrors) return leaveSurface(<f32>2 * vh * mx - lx, <f32>2 * vh * my - ly,
    max<f32>(<f32>1e-4, abs<f32>(<f32>2 * vh * mz - lz)), off);
  const q = ratio * vh - Mathf.sqrt(max<f32>(0, <f32>1 - ratio * ratio * (<f32>1 - vh * vh)));
  setInGlass(fromBehind ? 0 : record);
  return leaveSurface(q * mx - ratio * lx, q * my - ratio * ly, -max<f32>(<f32>1e-4, abs<f32>(q * mz - ratio * lz)),
    off);
}

/**
 * After a smooth mirror or refraction, which joins nothing: what the path finds next counts whole, but for lamps
 * that were
 * joined straight through a body of glass, or by their image in a pane.
 */
function tellMirror(through: bool, pane: bool): void {
  const counted = through ? pdfForLamps != ALL : pane && imaged && pdfForLamps >= 0;
  tell(ALL, pdfForSun == ALL ? ALL : NONE, counted ? NONE : ALL);
}
