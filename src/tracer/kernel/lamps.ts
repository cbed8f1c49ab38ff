/**
 * Lamps and glowing bodies: one of them is chosen by the tree of `core/light/lightTree.ts`, then a point of it. A
 * choice is made for a place, with or without a surface's normal, or for a stretch of a ray through fog, where what
 * counts is how near the ray comes to a lamp. The chance of a node is its strength over the square of its distance,
 * less what its directions rule out; a node is given no chance only where none of its lights can shine.
 */
import * as L from "./layout";
import { bx, by, bz, frameAbout, PI, sq, tx, ty, tz, u } from "./scene";

/** The chosen light and the chance of having chosen it. */
export let light: usize = 0;
export let lightChance: f32 = 0;

/**
 * A point of it: direction and distance to it, its normal, density per steradian (0 for a point without size), and
 * light: radiance, or illuminance of one without size.
 */
export let toX: f32 = 0;
export let toY: f32 = 0;
export let toZ: f32 = 0;
export let toFar: f32 = 0;
export let toPdf: f32 = 0;
export let atNx: f32 = 0;
export let atNy: f32 = 0;
export let atNz: f32 = 0;
export let lampR: f32 = 0;
export let lampG: f32 = 0;
export let lampB: f32 = 0;

// What a choice is made for: a place, or a ray of a length from there; and a normal, all zero when there is none.
let rx: f32 = 0;
let ry: f32 = 0;
let rz: f32 = 0;
let wx: f32 = 0;
let wy: f32 = 0;
let wz: f32 = 0;
let stretch: f32 = 0;
let nx: f32 = 0;
let ny: f32 = 0;
let nz: f32 = 0;
let bare: bool = true;

/** The same, kept while a direction chosen there is under way. */
let keptX: f32 = 0;
let keptY: f32 = 0;
let keptZ: f32 = 0;
let keptA: f32 = 0;
let keptB: f32 = 0;
let keptC: f32 = 0;
let keptStretch: f32 = 0;

export function chooseFromPlace(x: f32, y: f32, z: f32, ax: f32, ay: f32, az: f32): void {
  rx = x;
  ry = y;
  rz = z;
  nx = ax;
  ny = ay;
  nz = az;
  bare = ax == 0 && ay == 0 && az == 0;
  stretch = 0;
}

export function chooseFromRay(x: f32, y: f32, z: f32, dx: f32, dy: f32, dz: f32, length: f32): void {
  rx = x;
  ry = y;
  rz = z;
  wx = dx;
  wy = dy;
  wz = dz;
  stretch = length;
  nx = ny = nz = 0;
  bare = true;
}

export function keepChoice(): void {
  keptX = rx;
  keptY = ry;
  keptZ = rz;
  keptA = stretch > 0 ? wx : nx;
  keptB = stretch > 0 ? wy : ny;
  keptC = stretch > 0 ? wz : nz;
  keptStretch = stretch;
}

/** Cosine of a − b for 0 ≤ a, b ≤ π, 1 when a < b. */
// @ts-ignore: decorator
@inline
function cosLess(sinA: f32, cosA: f32, sinB: f32, cosB: f32): f32 {
  return cosA > cosB ? <f32>1 : cosA * cosB + sinA * sinB;
}

// @ts-ignore: decorator
@inline
function sinOf(c: f32): f32 {
  return Mathf.sqrt(max<f32>(0, <f32>1 - c * c));
}

function importance(node: usize): f32 {
  let x = load<f32>(node) - rx;
  let y = load<f32>(node, 4) - ry;
  let z = load<f32>(node, 8) - rz;
  const radius = load<f32>(node, L.N_RADIUS);
  if (stretch > 0) {
    const t = min<f32>(stretch, max<f32>(0, x * wx + y * wy + z * wz));
    x -= wx * t;
    y -= wy * t;
    z -= wz * t;
  }
  const d2 = x * x + y * y + z * z;
  const strength = load<f32>(node, L.N_STRENGTH) / max<f32>(d2, max<f32>(radius * radius, <f32>1e-6));
  if (stretch > 0 || d2 <= radius * radius) return strength;
  const k = <f32>1 / Mathf.sqrt(d2);
  x *= k;
  y *= k;
  z *= k;
  // Half angle under which the node's sphere is seen.
  const sinS = min<f32>(1, radius * k);
  const cosS = sinOf(sinS);
  const cosW = -(x * load<f32>(node, L.N_AXIS) + y * load<f32>(node, L.N_AXIS + 4) + z * load<f32>(node, L.N_AXIS + 8));
  const cosSpread = load<f32>(node, L.N_COS_SPREAD);
  const sinSpread = load<f32>(node, L.N_SIN_SPREAD);
  const cosOut = cosLess(sinOf(cosW), cosW, sinSpread, cosSpread);
  const cosOff = cosLess(sinOf(cosOut), cosOut, sinS, cosS);
  const least = load<f32>(node, L.N_COS_EMISSION) - <f32>1e-3;
  if (cosOff < least) return 0;
  // A narrow beam is as bright at its edge as on its axis, as far as a bound knows.
  let share: f32 = least > <f32>0.1 ? 1 : max<f32>(<f32>0.02, cosOff);
  if (!bare) {
    const c = abs<f32>(x * nx + y * ny + z * nz);
    share *= max<f32>(<f32>0.02, cosLess(sinOf(c), c, sinS, cosS));
  }
  return strength * share;
}

/** Chooses a light by a random number. False when none can shine here. */
export function chooseLight(r: f32): bool {
  const nodes = <usize>u(L.H_LIGHT_NODES);
  let node = nodes;
  let chance: f32 = 1;
  while (load<u32>(node, L.N_LIGHT) == L.N_NONE) {
    const left = nodes + <usize>load<u32>(node, L.N_LEFT) * L.N_SIZE;
    const right = nodes + <usize>load<u32>(node, L.N_RIGHT) * L.N_SIZE;
    const a = importance(left);
    const b = importance(right);
    const sum = a + b;
    if (!(sum > 0)) return false;
    const share = a / sum;
    if (r < share) {
      node = left;
      chance *= share;
      r = min<f32>(<f32>0.99999994, r / share);
    } else {
      node = right;
      chance *= <f32>1 - share;
      r = min<f32>(<f32>0.99999994, (r - share) / max<f32>(<f32>1e-12, <f32>1 - share));
    }
  }
  light = <usize>u(L.H_LIGHTS) + <usize>load<u32>(node, L.N_LIGHT) * L.LI_SIZE;
  lightChance = chance;
  return chance > 0;
}

/** Chance by which the kept choice would have chosen a light. */
function keptChance(lamp: usize): f32 {
  if (keptStretch > 0) chooseFromRay(keptX, keptY, keptZ, keptA, keptB, keptC, keptStretch);
  else chooseFromPlace(keptX, keptY, keptZ, keptA, keptB, keptC);
  const nodes = <usize>u(L.H_LIGHT_NODES);
  let node = nodes + <usize>load<u32>(lamp, L.LI_NODE) * L.N_SIZE;
  let chance: f32 = 1;
  while (load<u32>(node, L.N_PARENT) != L.N_NONE) {
    const parent = nodes + <usize>load<u32>(node, L.N_PARENT) * L.N_SIZE;
    const left = nodes + <usize>load<u32>(parent, L.N_LEFT) * L.N_SIZE;
    const right = nodes + <usize>load<u32>(parent, L.N_RIGHT) * L.N_SIZE;
    const a = importance(left);
    const b = importance(right);
    const own = node == left ? a : b;
    if (!(own > 0)) return 0;
    chance *= own / (a + b);
    node = parent;
  }
  return chance;
}

function towards(qx: f32, qy: f32, qz: f32, x: f32, y: f32, z: f32): f32 {
  toX = qx - x;
  toY = qy - y;
  toZ = qz - z;
  const d2 = max<f32>(<f32>1e-12, toX * toX + toY * toY + toZ * toZ);
  toFar = Mathf.sqrt(d2);
  const k = <f32>1 / toFar;
  toX *= k;
  toY *= k;
  toZ *= k;
  return d2;
}

function takeColour(k: f32): void {
  lampR = load<f32>(light, L.LI_RGB) * k;
  lampG = load<f32>(light, L.LI_RGB + 4) * k;
  lampB = load<f32>(light, L.LI_RGB + 8) * k;
}

/** Takes a point of the light's face as chosen by area. False when it looks away. */
function takeFace(qx: f32, qy: f32, qz: f32, x: f32, y: f32, z: f32): bool {
  const d2 = towards(qx, qy, qz, x, y, z);
  const c = -(toX * atNx + toY * atNy + toZ * atNz);
  if (c <= <f32>1e-5) return false;
  toPdf = d2 / (c * load<f32>(light, L.LI_AREA));
  takeColour(1);
  toFar *= <f32>0.9998;
  return true;
}

/** How much a spot lets out towards a cosine from its axis. */
// @ts-ignore: decorator
@inline
function fade(c: f32): f32 {
  const a = load<f32>(light, L.LI_COS_OUTER);
  const t = min<f32>(1, max<f32>(0, (c - a) / (load<f32>(light, L.LI_COS_INNER) - a)));
  return t * t * (<f32>3 - <f32>2 * t);
}

/** Chooses a point of the chosen light as seen from a place. False when its light does not come here. */
export function choosePoint(x: f32, y: f32, z: f32, r: f32, s: f32): bool {
  const shape = load<u32>(light, L.LI_SHAPE);
  const cx = load<f32>(light, L.LI_POSITION);
  const cy = load<f32>(light, L.LI_POSITION + 4);
  const cz = load<f32>(light, L.LI_POSITION + 8);
  if (shape <= <u32>L.SHAPE_SPOT) {
    const d2 = towards(cx, cy, cz, x, y, z);
    let k = <f32>1 / d2;
    if (shape == L.SHAPE_SPOT) {
      k *= fade(-(toX * load<f32>(light, L.LI_AXIS) + toY * load<f32>(light, L.LI_AXIS + 4) +
        toZ * load<f32>(light, L.LI_AXIS + 8)));
      if (k <= 0) return false;
    }
    toPdf = 0;
    takeColour(k);
    return true;
  }
  if (shape == L.SHAPE_SPHERE) {
    const d2 = towards(cx, cy, cz, x, y, z);
    const radius = load<f32>(light, L.LI_RADIUS);
    const s2 = (radius * radius) / d2;
    if (s2 >= 1) return false;
    const d = toFar;
    const cap = s2 / (<f32>1 + Mathf.sqrt(<f32>1 - s2));
    const q = r * cap;
    const sin2 = q * (<f32>2 - q);
    const sin = Mathf.sqrt(sin2);
    const c = <f32>1 - q;
    const phi = <f32>2 * PI * s;
    frameAbout(toX, toY, toZ);
    const a = sin * Mathf.cos(phi);
    const b = sin * Mathf.sin(phi);
    toX = tx * a + bx * b + toX * c;
    toY = ty * a + by * b + toY * c;
    toZ = tz * a + bz * b + toZ * c;
    const t = d * c - Mathf.sqrt(max<f32>(0, radius * radius - d2 * sin2));
    const k = <f32>1 / radius;
    atNx = (x + toX * t - cx) * k;
    atNy = (y + toY * t - cy) * k;
    atNz = (z + toZ * t - cz) * k;
    toFar = t * <f32>0.9998 - <f32>0.005 * radius;
    toPdf = <f32>1 / (<f32>2 * PI * cap);
    takeColour(1);
    return true;
  }
  if (shape == L.SHAPE_BODY) return chooseOnBody(x, y, z, r, s);
  atNx = load<f32>(light, L.LI_AXIS);
  atNy = load<f32>(light, L.LI_AXIS + 4);
  atNz = load<f32>(light, L.LI_AXIS + 8);
  let a = <f32>2 * r - <f32>1;
  let b = <f32>2 * s - <f32>1;
  if (shape == L.SHAPE_DISC) {
    const rad = Mathf.sqrt(r);
    a = rad * Mathf.cos(<f32>2 * PI * s);
    b = rad * Mathf.sin(<f32>2 * PI * s);
  }
  return takeFace(
    cx + load<f32>(light, L.LI_RIGHT) * a + load<f32>(light, L.LI_UP) * b,
    cy + load<f32>(light, L.LI_RIGHT + 4) * a + load<f32>(light, L.LI_UP + 4) * b,
    cz + load<f32>(light, L.LI_RIGHT + 8) * a + load<f32>(light, L.LI_UP + 8) * b,
    x, y, z,
  );
}

let qx: f32 = 0;
let qy: f32 = 0;
let qz: f32 = 0;

/** A corner of the body's mesh, placed. */
function corner(index: u32): void {
  const at = <usize>load<u32>(light, L.LI_CORNERS) + <usize>index * 12;
  const x = load<f32>(at);
  const y = load<f32>(at, 4);
  const z = load<f32>(at, 8);
  const m = light + L.LI_MATRIX;
  qx = load<f32>(m) * x + load<f32>(m, 4) * y + load<f32>(m, 8) * z + load<f32>(m, 12);
  qy = load<f32>(m, 16) * x + load<f32>(m, 20) * y + load<f32>(m, 24) * z + load<f32>(m, 28);
  qz = load<f32>(m, 32) * x + load<f32>(m, 36) * y + load<f32>(m, 40) * z + load<f32>(m, 44);
}

function chooseOnBody(x: f32, y: f32, z: f32, r: f32, s: f32): bool {
  const areas = <usize>load<u32>(light, L.LI_AREAS);
  let low: u32 = 0;
  let high = load<u32>(light, L.LI_TRIANGLES) - 1;
  while (low < high) {
    const m = (low + high) >> 1;
    if (load<f32>(areas + (<usize>m << 2)) > r) high = m;
    else low = m + 1;
  }
  const before: f32 = low > 0 ? load<f32>(areas + (<usize>(low - 1) << 2)) : 0;
  const own = load<f32>(areas + (<usize>low << 2)) - before;
  r = min<f32>(<f32>0.9999999, max<f32>(0, (r - before) / max<f32>(<f32>1e-12, own)));
  const triangle = <usize>load<u32>(light, L.LI_INDICES) + <usize>low * 12;
  corner(load<u32>(triangle));
  const ax = qx, ay = qy, az = qz;
  corner(load<u32>(triangle, 4));
  const ux = qx - ax, uy = qy - ay, uz = qz - az;
  corner(load<u32>(triangle, 8));
  const vx = qx - ax, vy = qy - ay, vz = qz - az;
  atNx = uy * vz - uz * vy;
  atNy = uz * vx - ux * vz;
  atNz = ux * vy - uy * vx;
  const l = <f32>1 / Mathf.sqrt(max<f32>(<f32>1e-30, atNx * atNx + atNy * atNy + atNz * atNz));
  atNx *= l;
  atNy *= l;
  atNz *= l;
  const root = Mathf.sqrt(r);
  const a = root * (<f32>1 - s);
  const b = root * s;
  return takeFace(ax + ux * a + vx * b, ay + uy * a + vy * b, az + uz * a + vz * b, x, y, z);
}

/**
 * Density per steradian by which the kept choice, made from a place, would have taken a point of a light that a ray
 * from
 * there has met, at a distance and under a cosine. 0 for light that is never chosen there.
 */
export function keptDensity(lamp: usize, x: f32, y: f32, z: f32, distance: f32, cosine: f32): f32 {
  const chance = keptChance(lamp);
  if (load<u32>(lamp, L.LI_SHAPE) != L.SHAPE_SPHERE) return (chance * distance * distance) /
    (max<f32>(<f32>1e-5, cosine) * load<f32>(lamp, L.LI_AREA));
  const d2 = sq(load<f32>(lamp, L.LI_POSITION) - x) + sq(load<f32>(lamp, L.LI_POSITION + 4) - y) +
    sq(load<f32>(lamp, L.LI_POSITION + 8) - z);
  const s2 = min<f32>(1, sq(load<f32>(lamp, L.LI_RADIUS)) / d2);
  const cap = s2 / (<f32>1 + Mathf.sqrt(<f32>1 - s2));
  return s2 >= 1 ? 0 : chance / (<f32>2 * PI * cap);
}

/** Whether there are lamps at all. */
// @ts-ignore: decorator
@inline
export function anyLamps(): bool {
  return u(L.H_LIGHT_COUNT) != 0;
}

/** Distance along a ray near the chosen light: its angle at the light is uniform (Kulla and Fajardo 2012). */
export function chooseAlong(ox: f32, oy: f32, oz: f32, dx: f32, dy: f32, dz: f32, far: f32, r: f32): f32 {
  takeApproach(ox, oy, oz, dx, dy, dz, far);
  const t = nearestAt + approach * Mathf.tan(angleA + (angleB - angleA) * r);
  return min<f32>(far, max<f32>(0, t));
}

/** Density by which `chooseAlong` takes a distance. */
export function densityAlong(t: f32): f32 {
  return approach / (max<f32>(<f32>1e-9, angleB - angleA) * (approach * approach + sq(t - nearestAt)));
}

let nearestAt: f32 = 0;
let approach: f32 = 0;
let angleA: f32 = 0;
let angleB: f32 = 0;

function takeApproach(ox: f32, oy: f32, oz: f32, dx: f32, dy: f32, dz: f32, far: f32): void {
  const x = load<f32>(light, L.LI_POSITION) - ox;
  const y = load<f32>(light, L.LI_POSITION + 4) - oy;
  const z = load<f32>(light, L.LI_POSITION + 8) - oz;
  nearestAt = x * dx + y * dy + z * dz;
  const d2 = max<f32>(0, x * x + y * y + z * z - nearestAt * nearestAt);
  approach = max<f32>(Mathf.sqrt(d2), max<f32>(<f32>1e-3, <f32>0.5 * load<f32>(light, L.LI_RADIUS)));
  angleA = Mathf.atan(-nearestAt / approach);
  angleB = Mathf.atan((far - nearestAt) / approach);
}
