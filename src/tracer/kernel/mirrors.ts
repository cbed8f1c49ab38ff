/**
 * Lamps mirrored in smooth panes. A flame behind glass lights what is around it by its mirror images, too, and a
 * path would
 * find such an image by rare chance only. The images are therefore joined: a pane's face is chosen by the solid
 * angle under
 * which it is seen, a lamp as seen from the mirrored place, and the way is unfolded about the face.
 */
import { lookAtPane, mirrorB, mirrorG, mirrorR, passB, passG, passR, throughGlass } from "./glass";
import { blocked } from "./intersect";
import {
  chooseFromPlace, chooseLight, choosePoint, lampB, lampG, lampR, lightChance, toFar, toPdf, toX, toY, toZ,
} from "./lamps";
import * as L from "./layout";
import { seaAt } from "./planet";
import { drawPair, randX, randY } from "./random";
import { recordOf } from "./sample";
import { f, flag, u } from "./scene";
import { open, openB, openG, openR } from "./shadow";

/** Direction from the place to the image, and light by way of it over the chance of having chosen it. */
export let imageX: f32 = 0;
export let imageY: f32 = 0;
export let imageZ: f32 = 0;
export let imageR: f32 = 0;
export let imageG: f32 = 0;
export let imageB: f32 = 0;

/** The way to the chosen image. */
let image: usize = 0;
let imageChance: f32 = 0;
let beforeX: f32 = 0;
let beforeY: f32 = 0;
let beforeZ: f32 = 0;
let toFace: f32 = 0;

// @ts-ignore: decorator
@inline
export function anyMirrors(): bool {
  return u(L.H_MIRROR_COUNT) != 0;
}

// @ts-ignore: decorator
@inline
function along(at: usize, x: f32, y: f32, z: f32): f32 {
  return load<f32>(at) * x + load<f32>(at, 4) * y + load<f32>(at, 8) * z;
}

/**
 * Chooses a face in one pass over them: each takes the place of the one before with the share of its weight in the
 * sum.
 */
function chooseFace(x: f32, y: f32, z: f32, r: f32): bool {
  let sum: f32 = 0;
  let own: f32 = 0;
  image = 0;
  const end = <usize>u(L.H_MIRRORS) + <usize>u(L.H_MIRROR_COUNT) * L.MI_SIZE;
  for (let at = <usize>u(L.H_MIRRORS); at < end; at += L.MI_SIZE) {
    const cx = x - load<f32>(at);
    const cy = y - load<f32>(at, 4);
    const cz = z - load<f32>(at, 8);
    const side = along(at + L.MI_NORMAL, cx, cy, cz);
    if (side <= <f32>1e-6) continue;
    const area = load<f32>(at, L.MI_AREA);
    const d2 = cx * cx + cy * cy + cz * cz + <f32>0.1 * area;
    const weight = (area * side) / (d2 * Mathf.sqrt(d2));
    sum += weight;
    const share = weight / sum;
    if (r < share) {
      image = at;
      own = weight;
      r /= share;
    } else {
      r = (r - share) / (<f32>1 - share);
    }
    r = min<f32>(<f32>0.99999994, r);
  }
  imageChance = own / sum;
  return image != 0;
}

/** Chooses the image of a lamp in a pane as seen from a place. False when there is none. */
export function chooseImage(x: f32, y: f32, z: f32, pair: u32): bool {
  drawPair(pair);
  const pick = randY;
  if (!chooseFace(x, y, z, randX)) return false;
  const n = image + L.MI_NORMAL;
  const side = along(n, x - load<f32>(image), y - load<f32>(image, 4), z - load<f32>(image, 8));
  beforeX = x - <f32>2 * side * load<f32>(n);
  beforeY = y - <f32>2 * side * load<f32>(n, 4);
  beforeZ = z - <f32>2 * side * load<f32>(n, 8);
  chooseFromPlace(beforeX, beforeY, beforeZ, 0, 0, 0);
  if (!chooseLight(pick)) return false;
  drawPair(pair + 1);
  if (!choosePoint(beforeX, beforeY, beforeZ, randX, randY)) return false;
  const rise = along(n, toX, toY, toZ);
  if (rise <= <f32>1e-5) return false;
  toFace = side / rise;
  if (toFace >= toFar) return false;
  const hx = beforeX + toX * toFace - load<f32>(image);
  const hy = beforeY + toY * toFace - load<f32>(image, 4);
  const hz = beforeZ + toZ * toFace - load<f32>(image, 8);
  if (abs<f32>(along(image + L.MI_U, hx, hy, hz)) > 1 || abs<f32>(along(image + L.MI_V, hx, hy, hz)) > 1) return false;
  // Light does not go straight through the surface of water.
  if (flag(L.FLAG_WATER) &&
    min<f32>(hy + load<f32>(image, 4), beforeY + toY * toFar) < seaAt(x, z)) return false;
  imageX = toX - <f32>2 * rise * load<f32>(n);
  imageY = toY - <f32>2 * rise * load<f32>(n, 4);
  imageZ = toZ - <f32>2 * rise * load<f32>(n, 8);
  return true;
}

/**
 * Looks along the way to the chosen image from a place just off the one that it was chosen for. False when nothing
 * comes.
 */
export function openImage(x: f32, y: f32, z: f32): bool {
  const n = image + L.MI_NORMAL;
  const rise = along(n, toX, toY, toZ);
  const dx = toX, dy = toY, dz = toZ;
  const k = <f32>1 / (lightChance * imageChance * (toPdf > 0 ? toPdf : <f32>1));
  const near = toFace * <f32>0.9995 - <f32>4e-5;
  if (near > 0) {
    if (blocked(u(L.H_TOP_OPAQUE), x, y, z, imageX, imageY, imageZ, near)) return false;
    if (!throughGlass(x, y, z, imageX, imageY, imageZ, near, true)) return false;
  } else {
    return false;
  }
  imageR = lampR * k * passR;
  imageG = lampG * k * passG;
  imageB = lampB * k * passB;
  lookAtPane(recordOf(load<u32>(image, L.MI_MATERIAL)), rise);
  imageR *= mirrorR;
  imageG *= mirrorG;
  imageB *= mirrorB;
  const off = <f32>4e-5 + <f32>0.0005 * toFace;
  const hx = beforeX + dx * toFace + load<f32>(n) * off;
  const hy = beforeY + dy * toFace + load<f32>(n, 4) * off;
  const hz = beforeZ + dz * toFace + load<f32>(n, 8) * off;
  if (!open(hx, hy, hz, dx, dy, dz, toFar - toFace, true)) return false;
  imageR *= openR;
  imageG *= openG;
  imageB *= openB;
  return true;
}
