/** The eye's ray through a point of the film and a point of the lens. */
import * as L from "./layout";
import { f, PI, sq, u } from "./scene";

export let eyeX: f32 = 0;
export let eyeY: f32 = 0;
export let eyeZ: f32 = 0;
export let eyeDx: f32 = 0;
export let eyeDy: f32 = 0;
export let eyeDz: f32 = 0;

/** Film in pixels from the top-left corner; a and b in [0, 1) choose the point of the lens. */
export function eyeRay(filmX: f32, filmY: f32, lensA: f32, lensB: f32): void {
  const a = (<f32>2 * filmX) / <f32>u(L.H_WIDTH) - <f32>1;
  const b = <f32>1 - (<f32>2 * filmY) / <f32>u(L.H_HEIGHT);
  let dx = f(L.H_MIDDLE) + a * f(L.H_RIGHT) + b * f(L.H_UP);
  let dy = f(L.H_MIDDLE + 4) + a * f(L.H_RIGHT + 4) + b * f(L.H_UP + 4);
  let dz = f(L.H_MIDDLE + 8) + a * f(L.H_RIGHT + 8) + b * f(L.H_UP + 8);
  eyeX = eyeY = eyeZ = 0;
  const radius = f(L.H_LENS_RADIUS);
  if (radius > 0) {
    const focus = f(L.H_FOCUS);
    const r = radius * Mathf.sqrt(lensA);
    const t = <f32>2 * PI * lensB;
    const lr = r * Mathf.cos(t) / Mathf.sqrt(sq(f(L.H_RIGHT)) + sq(f(L.H_RIGHT + 4)) + sq(f(L.H_RIGHT + 8)));
    const lu = r * Mathf.sin(t) / Mathf.sqrt(sq(f(L.H_UP)) + sq(f(L.H_UP + 4)) + sq(f(L.H_UP + 8)));
    eyeX = lr * f(L.H_RIGHT) + lu * f(L.H_UP);
    eyeY = lr * f(L.H_RIGHT + 4) + lu * f(L.H_UP + 4);
    eyeZ = lr * f(L.H_RIGHT + 8) + lu * f(L.H_UP + 8);
    dx = dx * focus - eyeX;
    dy = dy * focus - eyeY;
    dz = dz * focus - eyeZ;
  }
  const k = <f32>1 / Mathf.sqrt(dx * dx + dy * dy + dz * dz);
  eyeDx = dx * k;
  eyeDy = dy * k;
  eyeDz = dz * k;
}
