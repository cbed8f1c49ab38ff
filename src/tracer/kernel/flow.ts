/**
 * The surface of running water: streaks of unevenness, long with the stream and short across it, that go along with it. The slope
 * of the surface tells where it runs and, with the depth, how fast (Manning 1891). Each patch is carried along and begins anew, one of two
 * fading in while the other fades out, so that no stream tears it (flow mapping after Vlachos 2010).
 */
import { H_WATER_TIME, H_WORLD } from "./layout";
import { f } from "./scene";
import { valueNoise } from "./water";

export let flowX: f32 = 0;
export let flowZ: f32 = 0;

/** Across a streak, and how far apart along the stream its unevenness is taken, metres. */
const ACROSS_M: f32 = 0.24;
const ALONG_M: f32 = 0.24;
const TAKEN: i32 = 2; // five places
/** Slope of the surface for a metre a second, and the most. */
const STEEP: f32 = 0.07;
const STEEPEST: f32 = 0.26;
/** The fastest that is told, m/s, and how long a patch is carried, seconds. */
const FASTEST: f32 = 7;
const CARRIED_S: f32 = 2.4;
/** The way over which a slope of the streaks is taken; they are lost where the view is from so wide on to so wide, metres. */
const OVER_M: f32 = 0.03;
const CLEAR_M: f32 = 0.06;
const LOST_M: f32 = 0.35;
/** A slope of no more than this is level. */
const LEVEL: f32 = 3e-5;

function streaks(x: f32, z: f32, dx: f32, dz: f32): f32 {
  let sum: f32 = 0;
  for (let k = -TAKEN; k <= TAKEN; k++) {
    const by = <f32>k * ALONG_M;
    sum += valueNoise((x + by * dx) / ACROSS_M, (z + by * dz) / ACROSS_M);
  }
  return sum * <f32>0.2;
}

/**
 * Slopes of running water at a place (relative to the origin), where its surface rises by `rx` and `rz` along x and z over the
 * level; `runs` times the root of its slope is its speed. For a view of a width in metres.
 */
export function flowAt(x: f32, z: f32, rx: f32, rz: f32, runs: f32, width: f32): void {
  flowX = flowZ = 0;
  const slope = Mathf.sqrt(rx * rx + rz * rz);
  const seen = min<f32>(1, max<f32>(0, (LOST_M - width) / (LOST_M - CLEAR_M)));
  if (slope < LEVEL || seen <= 0) return;
  const speed = min<f32>(FASTEST, runs * Mathf.sqrt(slope));
  // Downhill.
  const dx = -rx / slope, dz = -rz / slope;
  const wx = x + f(H_WORLD), wz = z + f(H_WORLD + 4);
  const turns = f(H_WATER_TIME) / CARRIED_S;
  const k = seen * min<f32>(STEEPEST, STEEP * speed) * (<f32>1.7 * ACROSS_M / OVER_M);
  for (let i = 0; i < 2; i++) {
    let phase = turns + <f32>0.5 * <f32>(i + 1);
    phase -= Mathf.floor(phase);
    const weight = <f32>1 - abs<f32>(<f32>2 * phase - <f32>1);
    if (weight <= 0) continue;
    const gone = speed * CARRIED_S * (phase - <f32>0.5) - <f32>i * <f32>37;
    const px = wx - gone * dx, pz = wz - gone * dz;
    const here = streaks(px, pz, dx, dz);
    flowX += weight * k * (streaks(px + OVER_M, pz, dx, dz) - here);
    flowZ += weight * k * (streaks(px, pz + OVER_M, dx, dz) - here);
  }
}
