/**
 * Surfaces: a diffuse body (with thin translucency for leaves) under a GGX interface, or metal. Visible normals (Heitz
 * 2018), height-correlated Smith masking, Schlick's Fresnel. What single scattering loses comes back by Turquin's
 * factor (2019); the body gets what the interface leaves, coupled reciprocally (Kelemen and Szirmay-Kalos 2001). A
 * clear
 * coat of index 1.5 lies over all of it and leaves to it what it does not mirror towards the viewer.
 * Directions are in the frame of the shading normal, z up, `o` towards the viewer.
 */
import { ALBEDO_N, H_ALBEDO } from "./layout";
import { INV_PI, luminance, PI, sq, u } from "./scene";

let cr: f32 = 0;
let cg: f32 = 0;
let cb: f32 = 0;
let alpha: f32 = 0;
let metal: f32 = 0;
let thin: f32 = 0;
let ox: f32 = 0;
let oy: f32 = 0;
let oz: f32 = 0;
let bodyOut: f32 = 0; // share that the interface leaves to the body, seen from o
let bodyMean: f32 = 1;
let gainPlain: f32 = 1;
let gainR: f32 = 1;
let gainG: f32 = 1;
let gainB: f32 = 1;
let mirrorShare: f32 = 0;
let coat: f32 = 0;
let coatAlpha: f32 = 1;
let coatGain: f32 = 1;
/** What the coat leaves to the surface under it, and the chance that a direction is chosen by the coat. */
let underCoat: f32 = 1;
let coatShare: f32 = 0;

export let bsdfR: f32 = 0;
export let bsdfG: f32 = 0;
export let bsdfB: f32 = 0;
export let bsdfPdf: f32 = 0;
export let newX: f32 = 0;
export let newY: f32 = 0;
export let newZ: f32 = 0;
let tableA: f32 = 0;
let tableB: f32 = 0;

const F0: f32 = 0.04;

/** Split directional albedo E = F0·A + B of a bare interface for a cosine and an alpha. */
function look(cosine: f32, alpha: f32): void {
  const table = <usize>u(H_ALBEDO);
  const n = <f32>(ALBEDO_N - 1);
  const x = Mathf.sqrt(max<f32>(0, min<f32>(1, cosine))) * n;
  const y = Mathf.sqrt(max<f32>(0, min<f32>(1, alpha))) * n;
  const i = min<i32>(ALBEDO_N - 2, <i32>x);
  const j = min<i32>(ALBEDO_N - 2, <i32>y);
  const fx = x - <f32>i;
  const fy = y - <f32>j;
  const at = table + (j * ALBEDO_N + i) * 8;
  const row: usize = ALBEDO_N * 8;
  const a = (<f32>1 - fx) * (<f32>1 - fy);
  const b = fx * (<f32>1 - fy);
  const c = (<f32>1 - fx) * fy;
  const d = fx * fy;
  tableA = load<f32>(at) * a + load<f32>(at, 8) * b + load<f32>(at + row) * c + load<f32>(at + row, 8) * d;
  tableB = load<f32>(at, 4) * a + load<f32>(at, 12) * b + load<f32>(at + row, 4) * c + load<f32>(at + row, 12) * d;
}

// @ts-ignore: decorator
@inline
function plainAlbedo(): f32 {
  return (F0 * tableA + tableB) * gainPlain;
}

/** Takes a surface and the direction towards the viewer. */
export function setSurface(r: f32, g: f32, b: f32, roughness: f32, metalness: f32, translucency: f32, x: f32, y: f32,
  z: f32): void {
  cr = r;
  cg = g;
  cb = b;
  alpha = max<f32>(<f32>1e-3, roughness * roughness);
  metal = metalness;
  thin = translucency;
  ox = x;
  oy = y;
  oz = max<f32>(<f32>1e-4, z);
  look(oz, alpha);
  const e1 = max<f32>(<f32>1e-3, tableA + tableB);
  const lost = (<f32>1 - e1) / e1;
  gainPlain = <f32>1 + F0 * lost;
  gainR = <f32>1 + cr * lost;
  gainG = <f32>1 + cg * lost;
  gainB = <f32>1 + cb * lost;
  const plain = plainAlbedo();
  bodyOut = <f32>1 - plain;
  // mean over all directions, kept behind the table
  const n = <f32>(ALBEDO_N - 1);
  const q = Mathf.sqrt(min<f32>(1, alpha)) * n;
  const j = min<i32>(ALBEDO_N - 2, <i32>q);
  const at = <usize>u(H_ALBEDO) + ALBEDO_N * ALBEDO_N * 8 + j * 4;
  bodyMean = <f32>1 - (load<f32>(at) * (<f32>1 - (q - <f32>j)) + load<f32>(at, 4) * (q - <f32>j));
  const shine = (<f32>1 - metal) * plain + metal * luminance(cr, cg, cb);
  const body = (<f32>1 - metal) * bodyOut * luminance(cr, cg, cb);
  mirrorShare = shine / max<f32>(<f32>1e-6, shine + body);
  if (metal < 1) mirrorShare = min<f32>(<f32>0.9, max<f32>(<f32>0.1, mirrorShare));
  else mirrorShare = 1;
  coat = coatShare = 0;
  underCoat = 1;
}

/** Lays a clear coat over the surface that has been set. */
export function setCoat(share: f32, roughness: f32): void {
  coat = share;
  coatAlpha = max<f32>(<f32>1e-3, roughness * roughness);
  look(oz, coatAlpha);
  const e1 = max<f32>(<f32>1e-3, tableA + tableB);
  coatGain = <f32>1 + (F0 * (<f32>1 - e1)) / e1;
  const mirrored = coat * (F0 * tableA + tableB) * coatGain;
  underCoat = <f32>1 - mirrored;
  coatShare = min<f32>(<f32>0.9,
    max<f32>(<f32>0.1, mirrored / max<f32>(<f32>1e-3, mirrored + underCoat * luminance(cr, cg, cb))));
}

/** Alpha of the interface now set; the path widens its view of ripples by it. */
export function surfaceAlpha(): f32 {
  return coat > 0 ? min<f32>(alpha, coatAlpha) : alpha;
}

export function isMostlyMirror(): bool {
  return mirrorShare > <f32>0.5 && alpha < <f32>0.3;
}

// @ts-ignore: decorator
@inline
function lambda(z: f32, alpha: f32): f32 {
  const z2 = z * z;
  return <f32>0.5 * (Mathf.sqrt(<f32>1 + (alpha * alpha * (<f32>1 - z2)) / max<f32>(<f32>1e-9, z2)) - <f32>1);
}

let lobeValue: f32 = 0;
let lobePdf: f32 = 0;
let lobeFresnel: f32 = 0;
let lobeHalf: f32 = 0;

/**
 * A GGX lobe of an alpha: value of a perfect mirror times cosine, density, and Schlick's weight at its half
 * direction.
 */
// @ts-ignore: decorator
@inline
function lobe(ix: f32, iy: f32, iz: f32, alpha: f32): void {
  let hx = ox + ix;
  let hy = oy + iy;
  let hz = oz + iz;
  const l = <f32>1 / Mathf.sqrt(max<f32>(<f32>1e-20, hx * hx + hy * hy + hz * hz));
  hx *= l;
  hy *= l;
  hz *= l;
  const a2 = alpha * alpha;
  const d = a2 / (PI * sq(sq(hz) * (a2 - <f32>1) + <f32>1));
  const lo = lambda(oz, alpha);
  const li = lambda(iz, alpha);
  lobeHalf = max<f32>(0, ox * hx + oy * hy + oz * hz);
  const m = <f32>1 - lobeHalf;
  const m2 = m * m;
  lobeFresnel = m2 * m2 * m;
  lobeValue = d / ((<f32>1 + lo + li) * <f32>4 * oz); // times iz / iz
  lobePdf = d / ((<f32>1 + lo) * <f32>4 * oz);
}

/** Value times cosine, and density, for a direction towards a light. */
export function evaluate(ix: f32, iy: f32, iz: f32): void {
  bsdfR = 0;
  bsdfG = 0;
  bsdfB = 0;
  bsdfPdf = 0;
  const cosine = abs<f32>(iz);
  if (cosine < <f32>1e-6) return;
  // body
  const bodyChance = <f32>1 - mirrorShare;
  if (metal < 1) {
    look(cosine, alpha);
    const e1 = max<f32>(<f32>1e-3, tableA + tableB);
    const inward = <f32>1 - (F0 * tableA + tableB) * (<f32>1 + (F0 * (<f32>1 - e1)) / e1);
    const side = iz > 0 ? <f32>1 - thin : thin;
    const k = ((<f32>1 - metal) * bodyOut * inward * side * INV_PI * cosine) / max<f32>(<f32>1e-4, bodyMean);
    bsdfR = k * cr;
    bsdfG = k * cg;
    bsdfB = k * cb;
    bsdfPdf = bodyChance * side * cosine * INV_PI;
  }
  if (iz > 0) {
    // interface
    lobe(ix, iy, iz, alpha);
    const plain = (<f32>1 - metal) * (F0 + (<f32>1 - F0) * lobeFresnel) * gainPlain;
    bsdfR += lobeValue * (plain + metal * (cr + (<f32>1 - cr) * lobeFresnel) * gainR);
    bsdfG += lobeValue * (plain + metal * (cg + (<f32>1 - cg) * lobeFresnel) * gainG);
    bsdfB += lobeValue * (plain + metal * (cb + (<f32>1 - cb) * lobeFresnel) * gainB);
    bsdfPdf += mirrorShare * lobePdf;
  }
  if (coat == 0) return;
  bsdfR *= underCoat;
  bsdfG *= underCoat;
  bsdfB *= underCoat;
  bsdfPdf *= <f32>1 - coatShare;
  if (iz <= 0) return;
  lobe(ix, iy, iz, coatAlpha);
  const k = lobeValue * coat * (F0 + (<f32>1 - F0) * lobeFresnel) * coatGain;
  bsdfR += k;
  bsdfG += k;
  bsdfB += k;
  bsdfPdf += coatShare * lobePdf;
}

/** Value of a rough mirror that loses nothing, times cosine, and its density. Of a pane's light on either side. */
export function evaluateMirror(ix: f32, iy: f32, iz: f32): void {
  lobe(ix, iy, iz, alpha);
  look(oz, alpha);
  bsdfR = bsdfG = bsdfB = lobeValue / max<f32>(<f32>1e-3, tableA + tableB);
  bsdfPdf = lobePdf;
}

/** Cosine between the viewer and the half direction last evaluated. */
export function halfCosine(): f32 {
  return lobeHalf;
}

/** A direction mirrored at a visible normal of an alpha. False when it is lost. */
export function chooseMirror(a: f32, r: f32, s: f32): bool {
  visibleNormal(ox, oy, oz, a, r, s);
  const d = <f32>2 * (ox * newX + oy * newY + oz * newZ);
  newX = d * newX - ox;
  newY = d * newY - oy;
  newZ = d * newZ - oz;
  return newZ > 0;
}

/** A visible normal of roughness a for the direction (x, y, z); into newX, newY, newZ. */
export function visibleNormal(x: f32, y: f32, z: f32, a: f32, r: f32, s: f32): void {
  const l = <f32>1 / Mathf.sqrt(a * x * (a * x) + a * y * (a * y) + z * z);
  const vx = a * x * l;
  const vy = a * y * l;
  const vz = z * l;
  const len = vx * vx + vy * vy;
  const il = len > <f32>1e-14 ? <f32>1 / Mathf.sqrt(len) : 0;
  const t1x: f32 = len > <f32>1e-14 ? -vy * il : 1;
  const t1y: f32 = vx * il;
  const t2x = -vz * t1y;
  const t2y = vz * t1x;
  const t2z = vx * t1y - vy * t1x;
  const rad = Mathf.sqrt(r);
  const phi = <f32>2 * PI * s;
  const p1 = rad * Mathf.cos(phi);
  let p2 = rad * Mathf.sin(phi);
  const q = <f32>0.5 * (<f32>1 + vz);
  p2 = (<f32>1 - q) * Mathf.sqrt(max<f32>(0, <f32>1 - p1 * p1)) + q * p2;
  const p3 = Mathf.sqrt(max<f32>(0, <f32>1 - p1 * p1 - p2 * p2));
  const nx = a * (p1 * t1x + p2 * t2x + p3 * vx);
  const ny = a * (p1 * t1y + p2 * t2y + p3 * vy);
  const nz = max<f32>(<f32>1e-6, p2 * t2z + p3 * vz);
  const k = <f32>1 / Mathf.sqrt(nx * nx + ny * ny + nz * nz);
  newX = nx * k;
  newY = ny * k;
  newZ = nz * k;
}

/** Chooses a direction; into newX, newY, newZ. Call `evaluate` for its value and density. False when it is lost. */
export function choose(pick: f32, r: f32, s: f32): bool {
  if (coat > 0) {
    if (pick < coatShare) return chooseMirror(coatAlpha, r, s);
    pick = (pick - coatShare) / (<f32>1 - coatShare);
  }
  if (pick < mirrorShare) return chooseMirror(alpha, r, s);
  const through = (pick - mirrorShare) / max<f32>(<f32>1e-6, <f32>1 - mirrorShare) < thin;
  const rad = Mathf.sqrt(r);
  const phi = <f32>2 * PI * s;
  newX = rad * Mathf.cos(phi);
  newY = rad * Mathf.sin(phi);
  newZ = Mathf.sqrt(max<f32>(<f32>1e-8, <f32>1 - r));
  if (through) newZ = -newZ;
  return true;
}
