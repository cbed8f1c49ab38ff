/**
 * The colour of what is seen through glass: what stands behind panes and within bodies, so that the noise of a pane is
 * not taken out across the edges of what lies behind it. Rays are not left to chance: panes are passed straight, bodies by
 * their refraction, or mirrored inside where nothing leaves.
 */
import { lookAtPane, passB, passG, passR } from "./glass";
import { colB, colG, colR, fromBehind, gx, gy, gz, offsetAt, px, py, pz, readHit, sx, sy, sz } from "./hit";
import { hitInstance, hitT, nearest } from "./intersect";
import * as L from "./layout";
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
    const material = <usize>u(L.H_MATERIALS) + <usize>load<u32>(hitInstance, L.I_MATERIAL) * L.MAT_SIZE;
    const kind = load<f32>(material, L.MAT_GLASS);
    if (kind == 0) {
      seenR = r * colR;
      seenG = g * colG;
      seenB = b * colB;
      return;
    }
    let side: f32 = -1;
    const c = max<f32>(0, -(dx * sx + dy * sy + dz * sz));
    if (kind == <f32>L.GLASS_PANE) {
      if (!fromBehind) {
        lookAtPane(material, max<f32>(<f32>1e-4, c));
        r *= passR;
        g *= passG;
        b *= passB;
      }
    } else {
      const index = load<f32>(material, L.MAT_INDEX);
      const ratio: f32 = fromBehind ? index : <f32>1 / index;
      if (fromBehind) {
        r *= Mathf.exp(-load<f32>(material, L.MAT_TINT) * way);
        g *= Mathf.exp(-load<f32>(material, L.MAT_TINT + 4) * way);
        b *= Mathf.exp(-load<f32>(material, L.MAT_TINT + 8) * way);
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
