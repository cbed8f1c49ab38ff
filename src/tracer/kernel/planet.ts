/**
 * The planet that land and water lie on: heights over its sea, and the sea itself. In float64, because the radius is
 * large. Where the world is flat, heights are those over the origin.
 */
import { H_PLANET, H_PLANET_X, H_PLANET_Y, H_PLANET_Z, H_WATER_LEVEL } from "./layout";
import { f, scene } from "./scene";

/** Height of level zero over the origin. */
// @ts-ignore: decorator
@inline
export function worldBelow(): f64 {
  return load<f64>(scene + H_PLANET_Y);
}

/** Height of a place, as the origin counts where the planet is level. */
export function heightAt(x: f32, y: f32, z: f32): f64 {
  const radius = load<f64>(scene + H_PLANET);
  if (radius == 0) return <f64>y;
  const ax = <f64>x - load<f64>(scene + H_PLANET_X);
  const az = <f64>z - load<f64>(scene + H_PLANET_Z);
  const up = radius + <f64>y - worldBelow();
  const away = ax * ax + az * az;
  // (up² + away²)^½ − up, without loss.
  return <f64>y + away / (Math.sqrt(up * up + away) + up);
}

/** Rise of a direction over its length at a place. */
export function riseAt(x: f32, y: f32, z: f32, dx: f32, dy: f32, dz: f32): f64 {
  const radius = load<f64>(scene + H_PLANET);
  if (radius == 0) return <f64>dy;
  const ax = <f64>x - load<f64>(scene + H_PLANET_X);
  const az = <f64>z - load<f64>(scene + H_PLANET_Z);
  const up = radius + <f64>y - worldBelow();
  return (ax * <f64>dx + up * <f64>dy + az * <f64>dz) / Math.sqrt(ax * ax + up * up + az * az);
}

/** Height of the sea's surface under a place, over the origin. */
export function seaAt(x: f32, z: f32): f32 {
  const radius = load<f64>(scene + H_PLANET);
  const level = f(H_WATER_LEVEL);
  if (radius == 0) return level;
  const ax = <f64>x - load<f64>(scene + H_PLANET_X);
  const az = <f64>z - load<f64>(scene + H_PLANET_Z);
  const r = radius + <f64>level - worldBelow();
  const away = ax * ax + az * az;
  return <f32>(<f64>level - away / (r + Math.sqrt(max<f64>(0, r * r - away))));
}

/** Its slopes there: what a level surface rises along x and z. */
export let leanX: f32 = 0;
export let leanZ: f32 = 0;

export function leanAt(x: f32, z: f32): void {
  const radius = load<f64>(scene + H_PLANET);
  leanX = leanZ = 0;
  if (radius == 0) return;
  const ax = <f64>x - load<f64>(scene + H_PLANET_X);
  const az = <f64>z - load<f64>(scene + H_PLANET_Z);
  const up = Math.sqrt(max<f64>(1, radius * radius - ax * ax - az * az));
  leanX = <f32>(-ax / up);
  leanZ = <f32>(-az / up);
}

/** Distance along a ray to the sea's surface, from over it or from in it; Infinity where it is not met. */
export function seaAhead(x: f32, y: f32, z: f32, dx: f32, dy: f32, dz: f32): f32 {
  const radius = load<f64>(scene + H_PLANET);
  const level = f(H_WATER_LEVEL);
  if (radius == 0) {
    const t = (level - y) / dy;
    return t > 0 ? t : Infinity;
  }
  const ax = <f64>x - load<f64>(scene + H_PLANET_X);
  const az = <f64>z - load<f64>(scene + H_PLANET_Z);
  const h = <f64>y - <f64>level;
  const r = radius + <f64>level - worldBelow();
  const b = ax * <f64>dx + az * <f64>dz + (r + h) * <f64>dy;
  const c = ax * ax + az * az + h * (2 * r + h);
  const d = b * b - c;
  if (d < 0 || (c > 0 && b >= 0)) return Infinity;
  const root = Math.sqrt(d);
  const t = c > 0 ? c / (root - b) : b > 0 ? -c / (b + root) : root - b;
  return t > 0 ? <f32>t : Infinity;
}
