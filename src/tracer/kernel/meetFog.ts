/** The path in fog: the light that it sees there, and how it turns. */
import { fogDepth, fogReach, fogThick, fogX, fogY, fogZ, phase, scatterDirection } from "./fog";
import { addGain, addLamp, addSky, addSun, isAbove, power } from "./join";
import {
  anyLamps, chooseAlong, chooseFromRay, chooseLight, choosePoint, densityAlong, keepChoice, toX as lampX, toY as
  lampY, toZ as lampZ,
} from "./lamps";
import * as L from "./layout";
import { drawPair, randX, randY } from "./random";
import { f, flag, scene } from "./scene";
import { open, openB, openG, openR } from "./shadow";
import {
  chooseSky, chooseSun, leftB, leftG, leftR, skyB, skyG, skyIn, skyR, toPdf, toX, toY, toZ, transmittanceAlong,
} from "./sky";
import {
  ALL, throughputB, throughputG, throughputR, comeFrom, scaleThroughput, dx, dy, dz, LAMPS, moveTo, ox, oy, oz,
  pair, setThroughput, setGlintDone, setImaged, spreadBy, tell, turnTo,
} from "./state";
import { glint } from "./waterLight";

/** Share of directions in fog that are chosen about the sun. */
const SUNWARD: f32 = 0.4;
/** Longest stretch of a ray that is looked at for lamps, metres. */
const LAMPLIT: f32 = 20_000;

/** Density by which a path through fog turns into a direction: partly about itself, partly about the sun. */
function turnDensity(own: f32, x: f32, y: f32, z: f32): f32 {
  if (!flag(L.FLAG_SUN) || flag(L.FLAG_NO_LIGHT_SAMPLING)) return own;
  return own * (<f32>1 - SUNWARD) +
    phase(x * f(L.H_SUN_DIRECTION) + y * f(L.H_SUN_DIRECTION + 4) + z * f(L.H_SUN_DIRECTION + 8)) * SUNWARD;
}

/** Sun and sky, chosen and joined at a point of the fog, for a path that has come along (dx, dy, dz). */
function lightFog(x: f32, y: f32, z: f32): void {
  if (flag(L.FLAG_SUN)) {
    drawPair(pair + 1);
    chooseSun(randX, randY);
    const p = phase(toX * dx + toY * dy + toZ * dz);
    const k = power(toPdf, turnDensity(p, toX, toY, toZ)) / toPdf;
    if (open(x, y, z, toX, toY, toZ, Infinity, true)) addSun(k * p, openR, openG, openB);
    if (flag(L.FLAG_WATER)) {
      drawPair(pair + 6);
      if (randY < <f32>0.25 && glint(x, y, z, dx, dy, dz, false, 0, pair + 5)) addGain(4, L.LAYER_SUN);
    }
  }
  drawPair(pair + 2);
  chooseSky(randX, randY);
  const cx = toX, cy = toY, cz = toZ;
  const p = phase(cx * dx + cy * dy + cz * dz);
  const k = (power(toPdf, turnDensity(p, cx, cy, cz)) / toPdf) * p;
  if (open(x, y, z, cx, cy, cz, Infinity, false)) {
    skyIn(cx, cy, cz);
    addSky(k, openR, openG, openB);
  }
}

/** Takes what a share of the fog scatters at a distance along the ray into the throughput. */
function scatterAt(t: f32, share: f32): void {
  transmittanceAlong(scene + L.H_AIR, t);
  scaleThroughput(
    f(L.H_FOG_ALBEDO) * share * leftR,
    f(L.H_FOG_ALBEDO + 4) * share * leftG,
    f(L.H_FOG_ALBEDO + 8) * share * leftB,
  );
}

/**
 * Joins the light of the fog along the ray without turning the path: sun and sky at a distance t chosen by what
 * scatters,
 * by a share; and a lamp at a distance chosen half by what scatters and half by the angle at the lamp.
 */
export function lightSeenFog(t: f32, far: f32, share: f64, joins: f64): void {
  const keepR = throughputR, keepG = throughputG, keepB = throughputB;
  scatterAt(t, <f32>(share / joins));
  lightFog(ox + dx * t, oy + dy * t, oz + dz * t);
  setThroughput(keepR, keepG, keepB);
  if (!anyLamps()) return;
  const length = min<f32>(far, LAMPLIT);
  chooseFromRay(ox, oy, oz, dx, dy, dz, length);
  drawPair(pair + LAMPS);
  const pick = randY;
  if (!chooseLight(randX)) return;
  drawPair(pair + LAMPS + 1);
  const part = 1 - Math.exp(-fogDepth(ox, oy, oz, dx, dy, dz, length));
  let at = chooseAlong(ox, oy, oz, dx, dy, dz, length, randX);
  if (pick < <f32>0.5) at = min<f32>(fogReach(ox, oy, oz, dx, dy, dz, -Math.log(1 - <f64>randX * part)), length);
  const x = ox + dx * at, y = oy + dy * at, z = oz + dz * at;
  drawPair(pair + LAMPS + 2);
  if (!choosePoint(x, y, z, randX, randY) || !isAbove(x, y, z)) return;
  const scattered = fogThick(x, y, z) * Math.exp(-fogDepth(ox, oy, oz, dx, dy, dz, at));
  const density = 0.5 * <f64>densityAlong(at) + 0.5 * (scattered / part);
  const p = phase(lampX * dx + lampY * dy + lampZ * dz);
  scatterAt(at, <f32>(scattered / (density * joins)));
  addLamp(x, y, z, p, p, p, turnDensity(p, lampX, lampY, lampZ));
  setThroughput(keepR, keepG, keepB);
}

/**
 * A point in the fog at distance t of a ray that goes on to `far`: the path turns there. What lights it has been
 * joined.
 */
export function meetFog(t: f32, far: f32): void {
  const choosing = !flag(L.FLAG_NO_LIGHT_SAMPLING);
  if (anyLamps()) {
    chooseFromRay(ox, oy, oz, dx, dy, dz, min<f32>(far, LAMPLIT));
    keepChoice();
  }
  moveTo(ox + dx * t, oy + dy * t, oz + dz * t);
  comeFrom(ox, oy, oz);
  scaleThroughput(f(L.H_FOG_ALBEDO), f(L.H_FOG_ALBEDO + 4), f(L.H_FOG_ALBEDO + 8));
  setGlintDone(choosing && flag(L.FLAG_SUN) && flag(L.FLAG_WATER));
  // The next point of the fog on this path is lit by the same narrow lobe, towards the sun. Directions are therefore
  // chosen partly about the path and partly about the sun, and weighed by the mixture of both.
  drawPair(pair + 3);
  const about = choosing && flag(L.FLAG_SUN) && randX < SUNWARD;
  drawPair(pair + 4);
  scatterDirection(
    about ? f(L.H_SUN_DIRECTION) : dx, about ? f(L.H_SUN_DIRECTION + 4) : dy, about ? f(L.H_SUN_DIRECTION + 8) : dz,
      randX, randY,
  );
  const own = phase(fogX * dx + fogY * dy + fogZ * dz);
  const p = turnDensity(own, fogX, fogY, fogZ);
  const k = own / p;
  scaleThroughput(k, k, k);
  turnTo(fogX, fogY, fogZ);
  const told: f32 = choosing ? p : ALL;
  tell(told, told, told);
  setImaged(false);
  spreadBy(1);
}
