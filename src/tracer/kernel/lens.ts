/** The eye's ray through a point of the film and a point of the lens, at the sample's moment. */
import * as L from "./layout";
import { f, flag, PI, sq, u } from "./scene";
import { moment } from "./state";

export let eyeX: f32 = 0;
export let eyeY: f32 = 0;
export let eyeZ: f32 = 0;
export let eyeDx: f32 = 0;
export let eyeDy: f32 = 0;
export let eyeDz: f32 = 0;
/** The camera's axis. */
export let aheadX: f32 = 0;
export let aheadY: f32 = 0;
export let aheadZ: f32 = 0;

let vx: f32 = 0;
let vy: f32 = 0;
let vz: f32 = 0;

/** Takes a vector of the header as it is turned by the moment (Rodrigues' formula). */
function turned(at: usize, s: f32, c: f32): void {
  const x = f(at), y = f(at + 4), z = f(at + 8);
  if (s == 0) {
    vx = x;
    vy = y;
    vz = z;
    return;
  }
  const ax = f(L.H_TURN_AXIS), ay = f(L.H_TURN_AXIS + 4), az = f(L.H_TURN_AXIS + 8);
  const k = (ax * x + ay * y + az * z) * (<f32>1 - c);
  vx = x * c + (ay * z - az * y) * s + ax * k;
  vy = y * c + (az * x - ax * z) * s + ay * k;
  vz = z * c + (ax * y - ay * x) * s + az * k;
}

/** Film in pixels from the top-left corner; a and b in [0, 1) choose the point of the lens. */
export function eyeRay(filmX: f32, filmY: f32, lensA: f32, lensB: f32): void {
  const t: f32 = flag(L.FLAG_MOVING) ? moment : 0;
  const angle = t * f(L.H_TURN);
  const sine: f32 = angle == 0 ? 0 : Mathf.sin(angle);
  const cosine: f32 = angle == 0 ? 1 : Mathf.cos(angle);
  const widens = <f32>1 + t * f(L.H_WIDENS);
  turned(L.H_FORWARD, sine, cosine);
  aheadX = vx;
  aheadY = vy;
  aheadZ = vz;
  turned(L.H_RIGHT, sine, cosine);
  const rx = vx * widens, ry = vy * widens, rz = vz * widens;
  turned(L.H_UP, sine, cosine);
  const ux = vx * widens, uy = vy * widens, uz = vz * widens;
  turned(L.H_MIDDLE, sine, cosine);
  const a = (<f32>2 * filmX) / <f32>u(L.H_WIDTH) - <f32>1;
  const b = <f32>1 - (<f32>2 * filmY) / <f32>u(L.H_HEIGHT);
  let dx = vx + a * rx + b * ux;
  let dy = vy + a * ry + b * uy;
  let dz = vz + a * rz + b * uz;
  const mx = f(L.H_EYE) + t * f(L.H_EYE_WAY);
  const my = f(L.H_EYE + 4) + t * f(L.H_EYE_WAY + 4);
  const mz = f(L.H_EYE + 8) + t * f(L.H_EYE_WAY + 8);
  eyeX = mx;
  eyeY = my;
  eyeZ = mz;
  const radius = f(L.H_LENS_RADIUS);
  if (radius > 0) {
    const focus = f(L.H_FOCUS);
    const r = radius * Mathf.sqrt(lensA);
    const turn = <f32>2 * PI * lensB;
    const lr = r * Mathf.cos(turn) / Mathf.sqrt(sq(rx) + sq(ry) + sq(rz));
    const lu = r * Mathf.sin(turn) / Mathf.sqrt(sq(ux) + sq(uy) + sq(uz));
    const ex = lr * rx + lu * ux;
    const ey = lr * ry + lu * uy;
    const ez = lr * rz + lu * uz;
    eyeX = mx + ex;
    eyeY = my + ey;
    eyeZ = mz + ez;
    dx = dx * focus - ex;
    dy = dy * focus - ey;
    dz = dz * focus - ez;
  }
  const k = <f32>1 / Mathf.sqrt(dx * dx + dy * dy + dz * dz);
  eyeDx = dx * k;
  eyeDy = dy * k;
  eyeDz = dz * k;
}
