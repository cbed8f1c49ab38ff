/** How much light comes straight along a line: what stands in it, glass and fog. */
import { fogDepth } from "./fog";
import { passB, passG, passR, throughGlass } from "./glass";
import { blocked } from "./intersect";
import * as L from "./layout";
import { flag, u } from "./scene";

export let openR: f32 = 1;
export let openG: f32 = 1;
export let openB: f32 = 1;

/**
 * Looks from a place above water along a direction, as far as `far` (Infinity: to the light from outside); what is left
 * of light from there goes into openR, openG, openB. Bodies of glass let it through unbent when `bodies` is true.
 */
export function open(x: f32, y: f32, z: f32, dx: f32, dy: f32, dz: f32, far: f32, bodies: bool): bool {
  if (blocked(u(L.H_TOP_OPAQUE), x, y, z, dx, dy, dz, far)) return false;
  openR = openG = openB = 1;
  if (u(L.H_TOP_CLEAR) != 0) {
    if (!throughGlass(x, y, z, dx, dy, dz, far, bodies)) return false;
    openR = passR;
    openG = passG;
    openB = passB;
  }
  if (flag(L.FLAG_FOG) && !(far == Infinity && flag(L.FLAG_SKY_CLEAR))) {
    const k = <f32>Math.exp(-fogDepth(x, y, z, dx, dy, dz, far));
    openR *= k;
    openG *= k;
    openB *= k;
    return k > 0;
  }
  return true;
}
