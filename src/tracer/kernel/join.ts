/**
 * Light joined to the path: sun, sky and one lamp, each weighed by the power heuristic (Veach 1997) against the chance
 * that the path finds it by itself.
 */
import { lookAtPane, mirrorB, mirrorG, mirrorR, paneChance, passB, passG, passR } from "./glass";
import { fromBehind, gx, gy, gz, px, py, pz, sx, sy, sz, takeFrame, ux, uy, uz, vx, vy, vz } from "./hit";
import {
  anyLamps, chooseFromPlace, chooseLight, choosePoint, keepChoice, keptDensity, lampB, lampG, lampR, light,
  lightChance, toFar, toPdf as lampPdf,
  toX as lampX, toY as lampY, toZ as lampZ,
} from "./lamps";
import * as L from "./layout";
import { anyMirrors, chooseImage, imageB, imageG, imageR, imageX, imageY, imageZ, openImage } from "./mirrors";
import { seaAt } from "./planet";
import { drawPair, randX, randY } from "./random";
import { baseB, baseG, baseR, extinctionIn, metal, translucency } from "./sample";
import { f, flag, scene } from "./scene";
import { open, openB, openG, openR } from "./shadow";
import {
  chooseSky, chooseSun, leftB, leftG, leftR, onSun, skyB, skyG, skyIn, skyPdf, skyR, sunPdf, sunRadiance, toPdf,
  toX, toY, toZ, transmittanceAlong,
} from "./sky";
import {
  ALL, addRadiance, comeFrom, dx, dy, dz, fromX, fromY, fromZ, inGlass, intoLayer, inWater, LAMPS, pdfForLamps,
  moveTo, NONE, pair, pdfForSky, pdfForSun, tell, turnTo, setImaged,
} from "./state";
import { evaluate, evaluateMirror, halfCosine, setSurface, bsdfB, bsdfG, bsdfPdf, bsdfR } from "./surface";
import { gainB, gainG, gainR } from "./waterLight";

// @ts-ignore: decorator
@inline
export function power(a: f32, b: f32): f32 {
  const a2 = a * a;
  return a2 / (a2 + b * b);
}

// @ts-ignore: decorator
@inline
export function addSun(k: f32, vr: f32, vg: f32, vb: f32): void {
  intoLayer(L.LAYER_SUN);
  addRadiance(vr * k * sunRadiance(0), vg * k * sunRadiance(4), vb * k * sunRadiance(8));
}

// @ts-ignore: decorator
@inline
export function addSky(k: f32, vr: f32, vg: f32, vb: f32): void {
  intoLayer(L.LAYER_SKY);
  addRadiance(vr * k * skyR, vg * k * skyG, vb * k * skyB);
}

/** Light of a layer that has come by way of the water. */
// @ts-ignore: decorator
@inline
export function addGain(k: f32, layer: u32): void {
  intoLayer(layer);
  addRadiance(gainR * k, gainG * k, gainB * k);
}

/** Sky and sun that the path itself has found, by a share. */
export function addOutside(share: f32): void {
  let weight: f32 = pdfForSky == ALL ? <f32>1 : pdfForSky == NONE ? <f32>0 : power(pdfForSky, skyPdf(dx, dy, dz));
  if (weight > 0) {
    skyIn(dx, dy, dz);
    addSky(weight * share, 1, 1, 1);
  }
  if (pdfForSun != NONE && onSun(dx, dy, dz)) {
    weight = pdfForSun == ALL ? <f32>1 : power(pdfForSun, sunPdf());
    addSun(weight * share, 1, 1, 1);
  }
}

/** Light of a lamp whose body the path has met at a distance, by a share; the surface there has been read. */
export function addLampMet(lamp: usize, far: f32, share: f32): void {
  if (pdfForLamps == NONE || fromBehind) return;
  let weight: f32 = 1;
  if (pdfForLamps != ALL) {
    const x = px - fromX, y = py - fromY, z = pz - fromZ;
    const cosine = -(dx * gx + dy * gy + dz * gz);
    weight = power(pdfForLamps, keptDensity(lamp, fromX, fromY, fromZ, Mathf.sqrt(x * x + y * y + z * z), cosine));
  }
  takeTransmittance(far);
  intoLayer(load<u32>(lamp, L.LI_LAYER));
  addRadiance(
    leftR * weight * share * load<f32>(lamp, L.LI_RGB),
    leftG * weight * share * load<f32>(lamp, L.LI_RGB + 4),
    leftB * weight * share * load<f32>(lamp, L.LI_RGB + 8),
  );
}

/** Takes the transmittance of glass, water or air along a distance. */
export function takeTransmittance(far: f32): void {
  transmittanceAlong(inGlass != 0 ? extinctionIn(inGlass) : scene + (inWater ? L.H_WATER_ABSORB : L.H_AIR), far);
}

/** Chooses a lamp and a point of it for a place, with a normal or none. False when none shines here. */
export function chooseLamp(x: f32, y: f32, z: f32, ax: f32, ay: f32, az: f32): bool {
  chooseFromPlace(x, y, z, ax, ay, az);
  drawPair(pair + LAMPS + 3);
  if (!chooseLight(randX)) return false;
  drawPair(pair + LAMPS + 4);
  return choosePoint(x, y, z, randX, randY) && isAbove(x, y, z);
}

/** Whether the chosen point lies above water as well: light does not go straight through its surface. */
export function isAbove(x: f32, y: f32, z: f32): bool {
  return !flag(L.FLAG_WATER) || lampY * toFar + y >= seaAt(x + lampX * toFar, z + lampZ * toFar);
}

/**
 * Joins the chosen point of the chosen lamp by the value of a place; `found` is the density by which the path finds
 * it there.
 */
export function addLamp(x: f32, y: f32, z: f32, vr: f32, vg: f32, vb: f32, found: f32): void {
  if (vr + vg + vb <= 0) return;
  const r = lampR, g = lampG, b = lampB, far = toFar;
  let k = <f32>1 / lightChance;
  if (lampPdf > 0) {
    const pdf = lampPdf * lightChance;
    k = <f32>1 / pdf;
    if (load<u32>(light, L.LI_MET) != 0 && !flag(L.FLAG_NO_SURFACE_LIGHT)) k *= power(pdf, found);
  }
  if (!open(x, y, z, lampX, lampY, lampZ, far, true)) return;
  transmittanceAlong(scene + L.H_AIR, far);
  intoLayer(load<u32>(light, L.LI_LAYER));
  addRadiance(vr * k * r * openR * leftR, vg * k * g * openG * leftG, vb * k * b * openB * leftB);
}

/** Takes the frame of the present hit, and its surface as seen along the path. */
export function takeSurface(rough: f32): void {
  takeFrame(sx, sy, sz);
  setSurface(
    baseR, baseG, baseB, rough, metal, translucency,
    -(dx * ux + dy * uy + dz * uz), -(dx * vx + dy * vy + dz * vz), -(dx * sx + dy * sy + dz * sz),
  );
}

/** Leaves the surface along a direction in its frame. False when shading and true normals disagree about the side. */
export function leaveSurface(ix: f32, iy: f32, iz: f32, off: f32): bool {
  turnTo(ux * ix + vx * iy + sx * iz, uy * ix + vy * iy + sy * iz, uz * ix + vz * iy + sz * iz);
  const side = dx * gx + dy * gy + dz * gz;
  if (side * iz <= 0) return false;
  const o: f32 = side > 0 ? off : -off;
  moveTo(px + gx * o, py + gy * o, pz + gz * o);
  return true;
}

/** Notes by which density the direction was chosen at the present hit, and whether lights have been joined there. */
export function tellChoice(joined: bool, pdf: f32): void {
  const told: f32 = flag(L.FLAG_NO_SURFACE_LIGHT) ? NONE : joined ? pdf : ALL;
  tell(told, told, told);
  comeFrom(px, py, pz);
  setImaged(joined && anyLamps() && anyMirrors());
  if (anyLamps() && joined) {
    chooseFromPlace(px, py, pz, sx, sy, sz);
    keepChoice();
  }
}

/**
 * Takes the value of the present surface, or of the rough pane of a record, towards a direction; the offset to
 * leave it by, 0 when nothing comes.
 */
function bsdfTowards(cx: f32, cy: f32, cz: f32, off: f32, pane: usize): f32 {
  const side = cx * gx + cy * gy + cz * gz;
  const iz = cx * sx + cy * sy + cz * sz;
  if (side * iz <= 0) return 0;
  const ix = cx * ux + cy * uy + cz * uz;
  const iy = cx * vx + cy * vy + cz * vz;
  if (pane != 0) evaluatePane(pane, ix, iy, iz);
  else evaluate(ix, iy, iz);
  if (bsdfR + bsdfG + bsdfB <= 0) return 0;
  return side > 0 ? off : -off;
}

/**
 * Chooses sun, sky and a lamp and joins them at the present surface, or at the rough pane of a record. Either sun or sky by chance from the
 * second vertex on is no better: inverse of error times time 1.02 on the salt works, 1.00 on yard and dry dock.
 */
export function joinLights(off: f32, pane: usize): void {
  if (flag(L.FLAG_SUN)) {
    drawPair(pair + 1);
    chooseSun(randX, randY);
    joinChosen(toX, toY, toZ, toPdf, true, off, pane);
  }
  drawPair(pair + 2);
  chooseSky(randX, randY);
  joinChosen(toX, toY, toZ, toPdf, false, off, pane);
  if (anyLamps() && chooseLamp(px, py, pz, sx, sy, sz)) {
    const o = bsdfTowards(lampX, lampY, lampZ, off, pane);
    if (o != 0) addLamp(px + gx * o, py + gy * o, pz + gz * o, bsdfR, bsdfG, bsdfB, bsdfPdf);
  }
  if (anyLamps() && anyMirrors() && chooseImage(px, py, pz, pair + LAMPS + 5)) {
    const o = bsdfTowards(imageX, imageY, imageZ, off, pane);
    const vr = bsdfR, vg = bsdfG, vb = bsdfB;
    if (o != 0 && openImage(px + gx * o, py + gy * o, pz + gz * o)) {
      intoLayer(load<u32>(light, L.LI_LAYER));
      addRadiance(vr * imageR, vg * imageG, vb * imageB);
    }
  }
}

function joinChosen(cx: f32, cy: f32, cz: f32, pdf: f32, sun: bool, off: f32, pane: usize): void {
  const o = bsdfTowards(cx, cy, cz, off, pane);
  if (o == 0) return;
  const vr = bsdfR, vg = bsdfG, vb = bsdfB;
  const weight = flag(L.FLAG_NO_SURFACE_LIGHT) ? <f32>1 : power(pdf, bsdfPdf);
  if (!open(px + gx * o, py + gy * o, pz + gz * o, cx, cy, cz, Infinity, sun)) return;
  const k = weight / pdf;
  if (sun) {
    addSun(k, vr * openR, vg * openG, vb * openB);
  } else {
    skyIn(cx, cy, cz);
    addSky(k, vr * openR, vg * openG, vb * openB);
  }
}

/** Value of a rough pane: mirrored light on one side, light that has come through on the other. */
export function evaluatePane(record: usize, ix: f32, iy: f32, iz: f32): void {
  evaluateMirror(ix, iy, abs<f32>(iz));
  lookAtPane(record, halfCosine());
  const chance = paneChance();
  const mirrors = iz > 0;
  bsdfR *= mirrors ? mirrorR : passR;
  bsdfG *= mirrors ? mirrorG : passG;
  bsdfB *= mirrors ? mirrorB : passB;
  bsdfPdf *= mirrors ? chance : <f32>1 - chance;
}
