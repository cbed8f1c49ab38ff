/**
 * The colour of what is seen through glass: what stands behind panes and within bodies, so that the noise of a pane is
 * not taken out across the edges of what lies behind it. Rays are not left to chance: panes are passed straight,
 * bodies by
 * their refraction, or mirrored inside where nothing leaves.
 */
import { lookAtPane, passB, passG, passR } from "./glass";
import { fromBehind, gx, gy, gz, offsetAt, px, py, pz, readHit, sx, sy, sz } from "./hit";
import { hitT, nearest } from "./intersect";
import * as L from "./layout";
import { baseB, baseG, baseR, glass, glassB, glassG, glassIndex, glassR, record, takeGlass } from "./sample";
import { u } from "./scene";

export let seenR: f32 = 0;
export let seenG: f32 = 0;
export let seenB: f32 = 0;

const MOST_FACES = 12;

/** Takes the colour seen from a place along a direction; black when it is the sky. */
export function lookThrough(x: f32, y: f32, z: f32, dx: f32, dy: f32, dz: f32): void {
  let r: f32 = 1;
  let g: f32 = 1;
  let b: f32 = 1;
  seenR = seenG = seenB = 0;
  for (let i = 0; i < MOST_FACES; i++) {
    if (!nearest(u(L.H_TOP), x, y, z, dx, dy, dz, Infinity)) return;
    const way = hitT;
    readHit(x, y, z, dx, dy, dz);
    if (glass == 0) {
      seenR = r * baseR;
      seenG = g * baseG;
      seenB = b * baseB;
      return;
    }
    let side: f32 = -1;
    const c = max<f32>(0, -(dx * sx + dy * sy + dz * sz));
    if (glass == <f32>L.GLASS_PANE) {
      if (!fromBehind) {
        lookAtPane(record, max<f32>(<f32>1e-4, c));
        r *= passR;
        g *= passG;
        b *= passB;
      }
    } else {
      takeGlass(record);
      const index = glassIndex;
      const ratio: f32 = fromBehind ? index : <f32>1 / index;
      if (fromBehind) {
        r *= Mathf.exp(-glassR * way);
        g *= Mathf.exp(-glassG * way);
        b *= Mathf.exp(-glassB * way);
      }
      const k = <f32>1 - ratio * ratio * (<f32>1 - c * c);
      if (k < 0) side = 1;
      const along: f32 = k < 0 ? <f32>2 * c : ratio * c - Mathf.sqrt(k);
      const keep: f32 = k < 0 ? <f32>1 : ratio;
      dx = keep * dx + along * sx;
      dy = keep * dy + along * sy;
      dz = keep * dz + along * sz;
    }
    const off = side * offsetAt();
    x = px + gx * off;
    y = py + gy * off;
    z = pz + gz * off;
  }
}
