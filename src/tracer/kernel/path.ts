/**
 * One path from the lens: traversal, fog, surfaces, glass, water, and the light that reaches them.
 *
 * Sun, sky and one lamp are chosen at each vertex and also found by the scattered ray; the power heuristic (Veach 1997)
 * weighs the two. `pdfForSky`, `pdfForSun` and `pdfForLamps` say how the last direction was chosen: a density, ALL when
 * nothing else could have found that light, NONE when another choice has counted it already:
 * - Under water the sun is joined through a flat interface, so a path that leaves the water does not count its disc.
 * - From rough surfaces and fog the sun's glint in the water is chosen by itself (a reflected visible normal of the
 *   ripples' statistics), so the water that such a path meets does not join the sun again. This takes the caustics of
 *   the mirrored sun out of the noise without a clamp.
 * - Smooth panes are looked through when lights are joined, so a path goes on through them as if nothing had been
 * there.
 *   Bodies of glass let sun and lamps through unbent when they are joined, so a path that has come through one counts
 *   neither; the sun's mirror image in glass is seen, but does not light other things.
 * There is no cap on bounces; Russian roulette by throughput ends a path.
 */
import { FOAM_WHITE, foamAt } from "./foam";
import { fogDepth, fogReach } from "./fog";
import { gx, gy, gz, hitCosine, offsetAt, px, py, pz, readHit, sx, sy, sz } from "./hit";
import { blocked, hitInstance, hitT, keepHit, nearest, takeHitBack } from "./intersect";
import { addLampMet, addOutside, takeTransmittance } from "./join";
import * as L from "./layout";
import { aheadX, aheadY, aheadZ, eyeDx, eyeDy, eyeDz, eyeRay, eyeX, eyeY, eyeZ } from "./lens";
import { lightSeenFog, meetFog } from "./meetFog";
import { EYE_SPREAD, meetGlass, meetSurface } from "./meetSurface";
import { foamIsMet, meetWater, ripplesSeen, waterX, waterY, waterZ } from "./meetWater";
import { seaAhead, seaAt } from "./planet";
import { drawPair, randX, randY } from "./random";
import { baseB, baseG, baseR, glass } from "./sample";
import { bx, by, bz, f, flag, frameAbout, PI, tx, ty, tz, u } from "./scene";
import { lookThrough, seenB, seenG, seenR, seenWay } from "./seen";
import { hazeIn, leftB, leftG, leftR, skyB, skyG, skyIn, skyR } from "./sky";
import { fresnel, WATER_INDEX } from "./water";
import {
  atVertex, throughputB, throughputG, throughputR, addRadiance, scaleThroughput, dx, dy, dz, forkCount, growOver,
  inGlass, intoLayer, inWater, LAMPS, layers, moveTo, ox, oy, oz, pair, setByFog, setInWater, setMoment, SHUTTER,
  spread, startFork, startPath, turnTo,
} from "./state";

/**
 * How much more often than it turns a path joins the light of the fog; measured on the demo: variance 1.08 at 1,
 * 0.82 at 8, 0.79 at 20 and 40.
 */
const FOG_JOINS: f64 = 20;
/** Paths leave a surface of water by this, one that lies in the land also by a share of how far they came to it. */
const OFF: f32 = 1e-4;
const OFF_SHARE: f32 = 1e-6;
/** Vertices of a path beyond which no surface of water is passed unmet. */
const MOST_VERTICES: u32 = 60;
/** Reach of openness as a share of the distance. */
const OPEN_REACH: f32 = 0.06;
/** Bounces after which chance ends what the eye sees by way of mirrors. */
const EYE_BOUNCES: u32 = 10;
/**
 * Bounces after which chance ends any other path, and what the root of its throughput is multiplied by to tell how likely it goes on. Measured
 * at equal time (inverse of error times time, of the throughput itself from the second bounce on as 1; salt works, lantern, room, yard): .92,
 * .98, .90, .81 from the first bounce on, 1.04, .95, 1.03, .97 from the third; by the root 1.04, 1.07, 1.18, 1.05 from the second, so 1.09,
 * 1.10, 1.18, 1.05; by the fourth root from the first 1.05, 1.15, 1.13, 1.05.
 */
const FREE_BOUNCES: u32 = 1;
const STAY: f32 = 1.5;

// What the eye's own ray meets.
export let firstDepth: f32 = 0;
/** Depth of what is seen through glass, by the way that light takes; else that of the first surface. */
export let seenDepth: f32 = 0;
export let firstId: u32 = 0;
export let albedoR: f32 = 0;
export let albedoG: f32 = 0;
export let albedoB: f32 = 0;
export let normalX: f32 = 0;
export let normalY: f32 = 0;
export let normalZ: f32 = 0;
/** 1 when the first surface was found open, 0 when something stood near it. */
export let openness: f32 = 1;

/** The most that light of the sky counts as a colour. */
const MOST_WHITE: f32 = 4;

/** Notes a share of the sky's light in a direction as a colour: as bright as a white ground under the same sky it is white. */
function noteSky(x: f32, y: f32, z: f32, share: f32): void {
  skyIn(x, y, z);
  const k = share * f(L.H_WHITE);
  albedoR = min<f32>(MOST_WHITE, albedoR + skyR * k);
  albedoG = min<f32>(MOST_WHITE, albedoG + skyG * k);
  albedoB = min<f32>(MOST_WHITE, albedoB + skyB * k);
}

/** Notes what the eye's own ray meets at a distance, whatever the path does on its way there. */
function noteFirst(far: f32, onWater: bool, onPlane: bool): void {
  if (far == Infinity) {
    noteSky(dx, dy, dz, 1);
    return;
  }
  const ahead = dx * aheadX + dy * aheadY + dz * aheadZ;
  firstDepth = seenDepth = far * ahead;
  if (onWater) {
    firstId = L.ID_WATER;
    if (!onPlane) readHit(ox, oy, oz, dx, dy, dz);
    ripplesSeen(ox + dx * far, oz + dz * far, spread * far, onPlane);
    normalX = waterX;
    normalY = waterY;
    normalZ = waterZ;
    if (!inWater) {
      const white: f32 = u(L.H_FOAM) != 0 ? foamAt(ox + dx * far, oz + dz * far, spread * far) : 0;
      albedoR = albedoG = albedoB = FOAM_WHITE * white;
      const cosine = -(dx * waterX + dy * waterY + dz * waterZ);
      const mirrored = (<f32>1 - white) * fresnel(cosine, <f32>1 / WATER_INDEX);
      noteSky(dx + 2 * cosine * waterX, max<f32>(<f32>0.001, dy + 2 * cosine * waterY), dz + 2 * cosine * waterZ, mirrored);
    }
    return;
  }
  readHit(ox, oy, oz, dx, dy, dz);
  firstId = load<u32>(hitInstance, L.I_ID);
  albedoR = baseR;
  albedoG = baseG;
  albedoB = baseB;
  normalX = sx;
  normalY = sy;
  normalZ = sz;
  if (layers != 0) {
    keepHit();
    openness = isOpen(far) ? 1 : 0;
    takeHitBack();
  }
  if (glass == 0) return;
  keepHit();
  lookThrough(ox, oy, oz, dx, dy, dz);
  takeHitBack();
  albedoR = seenR;
  albedoG = seenG;
  albedoB = seenB;
  seenDepth = min<f32>(<f32>1e10, seenWay * ahead);
}

/**
 * Whether nothing stands within a reach of the surface in a direction chosen by its cosine. The reach is a share of
 * the way, so that it is as large everywhere in the frame.
 */
function isOpen(far: f32): bool {
  drawPair(pair + 2 * LAMPS);
  frameAbout(sx, sy, sz);
  const r = Mathf.sqrt(randX);
  const a = <f32>2 * PI * randY;
  const x = r * Mathf.cos(a), y = r * Mathf.sin(a), z = Mathf.sqrt(max<f32>(0, <f32>1 - randX));
  const cx = tx * x + bx * y + sx * z;
  const cy = ty * x + by * y + sy * z;
  const cz = tz * x + bz * y + sz * z;
  if (cx * gx + cy * gy + cz * gz <= 0) return false;
  const off = offsetAt();
  return !blocked(u(L.H_TOP_OPAQUE), px + gx * off, py + gy * off, pz + gz * off, cx, cy, cz, OPEN_REACH * far);
}


/** Vertices by which the random pairs of branches lie apart. */
const FORK_APART: u32 = 64;

/**
 * Traces one path through a point of the film, in pixels from the top-left corner, with its branches. Random pairs
 * 0 and 1 are taken.
 */
export function tracePath(filmX: f32, filmY: f32, lensA: f32, lensB: f32): void {
  if (flag(L.FLAG_MOVING)) {
    drawPair(SHUTTER);
    setMoment(randX);
  }
  eyeRay(filmX, filmY, lensA, lensB);
  startPath(f(L.H_PIXEL_ANGLE));
  moveTo(eyeX, eyeY, eyeZ);
  turnTo(eyeDx, eyeDy, eyeDz);
  firstDepth = seenDepth = <f32>1e10;
  firstId = L.ID_SKY;
  albedoR = albedoG = albedoB = 0;
  normalX = normalY = normalZ = 0;
  openness = 1;
  const level = seaAt(ox, oz);
  setInWater(flag(L.FLAG_WATER) && oy < level, level);
  follow(0, 0);
  const count = forkCount;
  for (let n = 0; n < count; n++) follow(startFork(n), <u32>(n + 1) * FORK_APART);
}

/** Follows the path from a vertex to its end. */
function follow(first: u32, apart: u32): void {
  const water = flag(L.FLAG_WATER);
  const fog = flag(L.FLAG_FOG);
  const foam = u(L.H_FOAM) != 0;
  const planeFrom: f32 = flag(L.FLAG_WATER_MESHED) ? <f32>L.WAVES_M : 0;
  const top = u(L.H_TOP);
  for (let bounce = first; true; bounce++) {
    atVertex(bounce + apart);
    nearest(top, ox, oy, oz, dx, dy, dz, Infinity);
    let far = hitT;
    let onWater = far < Infinity && load<u32>(hitInstance, L.I_ID) == L.ID_WATER;
    let onPlane = false;
    let surface = oy + dy * far;
    let leave = OFF + OFF_SHARE * far;
    // Where two surfaces lie over each other, a path that is in the one is not let into the other.
    if (onWater && inWater == hitCosine(dx, dy, dz) < 0) {
      if (bounce > MOST_VERTICES) return;
      // Far from the origin a small step would lead nowhere.
      const past = far + leave + OFF_SHARE * max<f32>(abs<f32>(ox), max<f32>(abs<f32>(oy), abs<f32>(oz)));
      if (inWater) {
        takeTransmittance(past);
        scaleThroughput(leftR, leftG, leftB);
      }
      moveTo(ox + dx * past, oy + dy * past, oz + dz * past);
      continue;
    }
    if (water) {
      const t = seaAhead(ox, oy, oz, dx, dy, dz);
      if (t > planeFrom && t < far) {
        far = t;
        onWater = onPlane = true;
        surface = seaAt(ox + dx * t, oz + dz * t);
        leave = OFF;
      }
    }
    const missed = far == Infinity;
    if (bounce == 0) noteFirst(far, onWater, onPlane);
    let lamp: usize = 0;
    if (!missed && !onWater) {
      const n = load<u32>(hitInstance, L.I_LIGHT);
      if (n != 0) lamp = <usize>u(L.H_LIGHTS) + <usize>(n - 1) * L.LI_SIZE;
    }
    let inFog = false;
    let lampSeen = false;
    const way = far;
    if (fog && !inWater && inGlass == 0 && !(missed && flag(L.FLAG_SKY_CLEAR))) {
      // Light that the fog sends along this ray is joined at one point by the share of the ray that scatters, and only
      // what comes next is left to chance. The eye's own ray and its mirror images do so on every sample; others with a
      // chance of {@link FOG_JOINS} times that share, since a rare full scattering towards the sun is what specks are.
      drawPair(pair);
      const share = 1 - Math.exp(-fogDepth(ox, oy, oz, dx, dy, dz, far));
      if (flag(L.FLAG_NO_LIGHT_SAMPLING)) {
        const t = fogReach(ox, oy, oz, dx, dy, dz, -Math.log(1 - <f64>randX));
        if (t < far && t < Infinity) {
          far = t;
          inFog = true;
        }
      } else if (share > 1e-7) {
        // Rounding may push the reach of a nearly full depth to infinity.
        const turn = <f64>randY < share;
        const t = min<f32>(fogReach(ox, oy, oz, dx, dy, dz, -Math.log(1 - <f64>randX * share)), min<f32>(far, <f32>1e7));
        let joins: f64 = 1;
        if (spread >= EYE_SPREAD) {
          joins = min<f64>(1, FOG_JOINS * share);
          drawPair(pair + 6);
        }
        if (joins == 1 || <f64>randX < joins) {
          keepHit();
          if (bounce == 0) setByFog(true);
          lightSeenFog(t, way, share, joins);
          if (bounce == 0) setByFog(false);
          takeHitBack();
        }
        // What lies behind costs no ray: it is added by the share that is left, whether the path turns or not.
        if (missed) {
          addOutside(<f32>1 - <f32>share);
          if (!turn) return;
        } else if (lamp != 0) {
          readHit(ox, oy, oz, dx, dy, dz);
          addLampMet(lamp, way, <f32>1 - <f32>share);
          lampSeen = true;
        }
        if (turn) {
          far = t;
          inFog = true;
        }
      }
    }
    if (missed && !inFog) {
      addOutside(1);
      return;
    }
    if (!inFog && !onWater) {
      readHit(ox, oy, oz, dx, dy, dz);
      if (lamp != 0 && !lampSeen) addLampMet(lamp, far, 1);
    }
    if (inWater || inGlass != 0 || f(L.H_AIR + 8) * far > <f32>1e-3) {
      takeTransmittance(far);
      const ar = leftR, ag = leftG, ab = leftB;
      if (!inWater && inGlass == 0) {
        hazeIn(dx, dy, dz);
        intoLayer(L.LAYER_SKY);
        if (bounce == 0) setByFog(true);
        addRadiance((<f32>1 - ar) * skyR, (<f32>1 - ag) * skyG, (<f32>1 - ab) * skyB);
        if (bounce == 0) setByFog(false);
      }
      scaleThroughput(ar, ag, ab);
    }
    growOver(far);
    if (inFog) {
      if (bounce == 0) setByFog(true);
      meetFog(far, way);
    }
    else if (onWater) {
      if (!onPlane) readHit(ox, oy, oz, dx, dy, dz);
      if (foam && !inWater && foamIsMet(far, surface, onPlane)) {
        if (!meetSurface()) return;
      } else if (!meetWater(far, surface, leave, onPlane)) return;
    } else {
      if (lamp != 0 && load<u32>(lamp, L.LI_SHAPE) != L.SHAPE_BODY) return;
      if (!(glass > 0 ? meetGlass() : meetSurface())) return;
    }
    const most = max<f32>(throughputR, max<f32>(throughputG, throughputB));
    if (!(most > <f32>1e-12)) return;
    // What the eye sees by way of mirrors is not left to chance as soon: it has faint and bright parts side by side.
    if (bounce >= (spread < EYE_SPREAD ? EYE_BOUNCES : FREE_BOUNCES)) {
      const stay = min<f32>(<f32>0.98, STAY * Mathf.sqrt(most));
      drawPair(pair + 7);
      if (randX >= stay && most < 1) return;
      if (most < 1) {
        const r = <f32>1 / stay;
        scaleThroughput(r, r, r);
      }
    }
  }
}
