/**
 * Glass. A pane is thin: light goes straight through, mirrored back and forth between its faces; it is met at the face
 * that looks at the ray, and left freely at the other. A body bends light at both of its faces and takes colour on the
 * way between. Rough faces choose a visible normal (Heitz 2018); a body's give every chosen direction the whole of its
 * Fresnel share, so that light is kept at any roughness.
 */
import { hitCosine } from "./hit";
import { hitT, nearest } from "./intersect";
import * as L from "./layout";
import { glassB, glassG, glassIndex, glassKind, glassR, glassRoughness, recordOfHit, takeGlass } from "./sample";
import { luminance, sq, u } from "./scene";
import { fresnel } from "./water";

/** What a pane mirrors and what it lets through, by colour. */
export let mirrorR: f32 = 0;
export let mirrorG: f32 = 0;
export let mirrorB: f32 = 0;
export let passR: f32 = 1;
export let passG: f32 = 1;
export let passB: f32 = 1;

let oneMirror: f32 = 0;
let onePass: f32 = 0;

/** One colour of a pane: all the mirrorings between its two faces summed. `t` is what one passage leaves. */
// @ts-ignore: decorator
@inline
function pane(F: f32, t: f32): void {
  const k = sq(<f32>1 - F) / (<f32>1 - F * F * t * t);
  onePass = k * t;
  oneMirror = F + k * F * t * t;
}

/** Shares of the pane of a record met under a cosine. */
export function lookAtPane(record: usize, cosine: f32): void {
  takeGlass(record);
  const index = glassIndex;
  const F = fresnel(cosine, <f32>1 / index);
  // The way inside is longer the flatter the ray.
  const way = <f32>1 / Mathf.sqrt(<f32>1 - (<f32>1 - cosine * cosine) / (index * index));
  pane(F, Mathf.pow(glassR, way));
  mirrorR = oneMirror;
  passR = onePass;
  pane(F, Mathf.pow(glassG, way));
  mirrorG = oneMirror;
  passG = onePass;
  pane(F, Mathf.pow(glassB, way));
  mirrorB = oneMirror;
  passB = onePass;
}

/** Chance of following the mirrored ray at the pane just looked at. */
export function paneChance(): f32 {
  const m = luminance(mirrorR, mirrorG, mirrorB);
  return m / max<f32>(<f32>1e-6, m + luminance(passR, passG, passB));
}

const MOST_FACES = 64;

/**
 * What smooth glass leaves of light that goes straight from a place along a direction: into passR, passG, passB. Bodies
 * are crossed unbent when `bodies` is true, else they block. False when nothing is left.
 */
export function throughGlass(x: f32, y: f32, z: f32, dx: f32, dy: f32, dz: f32, far: f32, bodies: bool): bool {
  let r: f32 = 1;
  let g: f32 = 1;
  let b: f32 = 1;
  const top = u(L.H_TOP_CLEAR);
  for (let i = 0; i < MOST_FACES; i++) {
    if (!nearest(top, x, y, z, dx, dy, dz, far)) {
      passR = r;
      passG = g;
      passB = b;
      return r + g + b > <f32>1e-7;
    }
    const record = recordOfHit();
    takeGlass(record);
    const c = hitCosine(dx, dy, dz);
    const front = c < 0;
    if (glassKind == <f32>L.GLASS_PANE) {
      if (front) {
        if (glassRoughness >= <f32>L.GLASS_SMOOTH) return false;
        lookAtPane(record, -c);
        r *= passR;
        g *= passG;
        b *= passB;
      }
    } else {
      if (!bodies) return false;
      const k = <f32>1 - fresnel(abs<f32>(c), <f32>1 / glassIndex);
      r *= k;
      g *= k;
      b *= k;
      if (!front) {
        r *= Mathf.exp(-glassR * hitT);
        g *= Mathf.exp(-glassG * hitT);
        b *= Mathf.exp(-glassB * hitT);
      }
    }
    const step = hitT + <f32>2e-5 +
      <f32>3e-6 * max<f32>(hitT, max<f32>(abs<f32>(x), max<f32>(abs<f32>(y), abs<f32>(z))));
    x += dx * step;
    y += dy * step;
    z += dz * step;
    far -= step;
    if (far <= 0) {
      passR = r;
      passG = g;
      passB = b;
      return true;
    }
  }
  return false;
}
