/**
 * The colour of what is seen through glass: what stands behind panes and within bodies, so that the noise of a pane is
 * not taken out across the edges of what lies behind it. Rays are not left to chance: panes are passed straight,
 * bodies by
 * their refraction, or mirrored inside where nothing leaves.
 */
import { lookAtPane, mirrorB, mirrorG, mirrorR, passB, passG, passR } from "./glass";
import { fromBehind, gx, gy, gz, offsetAt, px, py, pz, readHit, sx, sy, sz } from "./hit";
import { hitT, nearest } from "./intersect";
import * as L from "./layout";
import { baseB, baseG, baseR, glass, glassB, glassG, glassIndex, glassR, record, takeGlass } from "./sample";
import { u } from "./scene";

export let seenR: f32 = 0;
export let seenG: f32 = 0;
export let seenB: f32 = 0;
/** Metres to what is seen; infinite for the sky. */
export let seenWay: f32 = 0;

const MOST_FACES = 12;
/** Panes of which the mirror images are looked at, too: the near and the far pane of a window or a lantern. */
const MOST_MIRRORS: i32 = 2;

let mirrors: i32 = 0;

/**
 * Takes the colour and the distance of what is seen from a place along a direction; black when it is the sky. What
 * the first panes mirror is added by the share that they mirror.
 */
export function lookThrough(x: f32, y: f32, z: f32, dx: f32, dy: f32, dz: f32): void {
  seenR = seenG = seenB = 0;
  mirrors = 0;
  seenWay = look(x, y, z, dx, dy, dz, 1, 1, 1, true);
}

/** Adds what is seen by shares of each colour, and what is mirrored on the way; returns the metres to it. */
function look(
  x: f32, y: f32, z: f32, dx: f32, dy: f32, dz: f32, r: f32, g: f32, b: f32, both: bool,
): f32 {
  let total: f32 = 0;
  for (let i = 0; i < MOST_FACES; i++) {
    if (!nearest(u(L.H_TOP), x, y, z, dx, dy, dz, Infinity)) return Infinity;
    const way = hitT;
    total += way;
    readHit(x, y, z, dx, dy, dz);
    if (glass == 0) {
      seenR += r * baseR;
      seenG += g * baseG;
      seenB += b * baseB;
      return total;
    }
    // Water mirrors by its ripples: it tells nothing of what is under it.
    if (glass == <f32>L.GLASS_WATER) return total;
    const c = max<f32>(0, -(dx * sx + dy * sy + dz * sz));
    const off = offsetAt();
    if (glass == <f32>L.GLASS_PANE) {
      x = px - gx * off;
      y = py - gy * off;
      z = pz - gz * off;
      if (fromBehind) continue;
      lookAtPane(record, max<f32>(<f32>1e-4, c));
      const mr = r * mirrorR;
      const mg = g * mirrorG;
      const mb = b * mirrorB;
      r *= passR;
      g *= passG;
      b *= passB;
      if (!both || mirrors == MOST_MIRRORS) continue;
      mirrors++;
      const k = <f32>2 * c;
      look(
        px + gx * off, py + gy * off, pz + gz * off, dx + k * sx, dy + k * sy, dz + k * sz, mr, mg, mb, false,
      );
      continue;
    }
    takeGlass(record);
    const index = glassIndex;
    const ratio: f32 = fromBehind ? index : <f32>1 / index;
    if (fromBehind) {
      r *= Mathf.exp(-glassR * way);
      g *= Mathf.exp(-glassG * way);
      b *= Mathf.exp(-glassB * way);
    }
    const k = <f32>1 - ratio * ratio * (<f32>1 - c * c);
    const side: f32 = k < 0 ? 1 : -1;
    const along: f32 = k < 0 ? <f32>2 * c : ratio * c - Mathf.sqrt(k);
    const keep: f32 = k < 0 ? <f32>1 : ratio;
    dx = keep * dx + along * sx;
    dy = keep * dy + along * sy;
    dz = keep * dz + along * sz;
    x = px + gx * side * off;
    y = py + gy * side * off;
    z = pz + gz * side * off;
  }
  return Infinity;
}
