/**
 * Sheets on surfaces: read at a place in the piece's own metres (on the ground in those of the world), from the sides that its normal
 * looks to, so that nothing stretches on any face; repeats are broken up by cells of a triangular lattice that each shift and turn the
 * sheet, blended so that contrast is kept (Heitz and Neyret 2018; weights sharpened as Mikkelsen 2022). The level is that of the view's
 * width (ray cones, Akenine-Möller and others 2021), between two by chance; slopes that it has lost make it rougher (Toksvig 2005), as
 * variance of the microfacets' own. What the eye sees is read whole; later hits choose one side and one cell by their weights.
 *
 * A layer over others is as much as its bands leave; where it is little, it covers what lies lowest first. Each lies by the piece's metres
 * or by the world's; the first of a material may lie over its own colour.
 *
 * What stands once fills a box through which it is looked at, and lies as much as its cut-out tells.
 *
 * What is worn is cut off at a level from the top, what is dirty filled from the bottom. What is wet is darker by what its film throws back inside (Lekner and Dorf 1988), smoother, and where water fills its hollows, flat.
 * `ui/view/sheetShaders.ts` draws the same.
 */
import { bandsLeave, boxRx, boxRy, boxRz, boxS, boxT, boxUx, boxUy, boxUz } from "./bands";
import * as L from "./layout";
import {
  ax, ay, az, bx, by, byWorld, bz, chance, cx, cy, cz, placeX, placeY, placeZ, sideX, sideY, sideZ, takeHit, takePlace,
} from "./place";
import { drawPair, mix32, randX } from "./random";
import { baseB, baseG, baseR, layer, metal, record, roughness, setLayer, setSample } from "./sample";
import { pair, SHEETS, spread } from "./state";

/** The shading normal as relief bends it. */
export let bentX: f32 = 0;
export let bentY: f32 = 0;
export let bentZ: f32 = 0;

/** Spread up to which a path is what the eye sees. */
const EYE_SPREAD: f32 = 0.05;
const LEAST: f32 = <f32>L.SHEET_LEAST;
const CELLS: f32 = <f32>L.SHEET_CELLS;
const INSIDE: f32 = <f32>L.FILM_INSIDE;
const WATER_ROUGHNESS: f32 = <f32>L.WATER_ROUGHNESS;
const EDGE: f32 = <f32>L.WATER_EDGE;
const WORN_EDGE: f32 = <f32>L.WORN_EDGE;
const OVER_EDGE: f32 = <f32>L.OVER_EDGE;

// What has been read: red, green, blue, roughness; slopes across and along, height (0 to 1), lost variance; metal.
let paint: v128 = f32x4.splat(0);
let shape: v128 = f32x4.splat(0);
let metallic: f32 = 0;

// What cells add up to, in the same order.
let cellPaint: v128 = f32x4.splat(0);
let cellShape: v128 = f32x4.splat(0);
let cellMetal: f32 = 0;

let level: u32 = 0;

/** Reads a level of the sheet between four texels at a place in sheets, into paint, shape and metallic. */
function read(s: f32, t: f32): void {
  let at = <usize>load<u32>(layer, L.LY_SHEET);
  let size = <u32>load<f32>(layer, L.LY_SIZE);
  for (let l: u32 = 0; l < level; l++) {
    at += <usize>(size * size) * L.TEXEL_BYTES;
    size >>= 1;
  }
  const x = (s - Mathf.floor(s)) * <f32>size - <f32>0.5;
  const y = (t - Mathf.floor(t)) * <f32>size - <f32>0.5;
  const x0 = Mathf.floor(x);
  const y0 = Mathf.floor(y);
  const fx = x - x0;
  const fy = y - y0;
  const mask = size - 1;
  const i0 = <u32><i32>x0 & mask;
  const i1 = (i0 + 1) & mask;
  const j0 = (<u32><i32>y0 & mask) * size;
  const j1 = (<u32>(<i32>y0 + 1) & mask) * size;
  paint = shape = f32x4.splat(0);
  metallic = 0;
  addTexel(at + <usize>(j0 + i0) * L.TEXEL_BYTES, (<f32>1 - fx) * (<f32>1 - fy));
  addTexel(at + <usize>(j0 + i1) * L.TEXEL_BYTES, fx * (<f32>1 - fy));
  addTexel(at + <usize>(j1 + i0) * L.TEXEL_BYTES, (<f32>1 - fx) * fy);
  addTexel(at + <usize>(j1 + i1) * L.TEXEL_BYTES, fx * fy);
}

// @ts-ignore: decorator
@inline
function addTexel(at: usize, share: f32): void {
  const k = f32x4.splat(share);
  const bytes = i32x4.splat(load<u32>(at));
  const four = i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(bytes));
  const v = f32x4.mul(f32x4.convert_i32x4_s(four), f32x4.splat(<f32>0.00392156862745098));
  // Roots of a colour; the roughness is as it is.
  const again = f32x4.replace_lane(v, 3, 1);
  paint = f32x4.add(paint, f32x4.mul(f32x4.mul(v, again), k));
  let n = i32x4.splat(<i32>load<i16>(at, 4));
  n = i32x4.replace_lane(n, 1, <i32>load<i16>(at, 6));
  n = i32x4.replace_lane(n, 2, <i32>load<u16>(at, 8));
  n = i32x4.replace_lane(n, 3, <i32>load<u8>(at, 10));
  shape = f32x4.add(shape, f32x4.mul(f32x4.convert_i32x4_s(n), k));
  metallic += <f32>load<u8>(at, 11) * share;
}

/** Reads the sheet as a cell of the lattice lays it, and adds it by a weight. */
function addCell(i: i32, j: i32, s: f32, t: f32, weight: f32): void {
  const h = mix32(<u32>i * 0x9e3779b1 ^ (<u32>j * 0x85ebca77 + <u32>load<f32>(layer, L.LY_SEED)));
  const grain = load<f32>(layer, L.LY_GRAIN);
  const a = <f32>(h & 0xffff) * <f32>0.0000152587890625;
  const b = <f32>(h >> 16) * <f32>0.0000152587890625;
  if (grain == <f32>L.GRAIN_BLOCKS) {
    const blocks = load<f32>(layer, L.LY_BLOCKS);
    read(s + Mathf.floor(a * blocks) / blocks, t);
  } else if (grain == <f32>L.GRAIN_SHIFTS) read(s + a, t + b);
  else {
    const g = mix32(h ^ 0x68bc21eb);
    const x = <f32>(g & 0xffff) - <f32>32767.5;
    const y = <f32>(g >> 16) - <f32>32767.5;
    const k = <f32>1 / Mathf.sqrt(x * x + y * y);
    const c = x * k, d = y * k;
    read(c * s - d * t + a, d * s + c * t + b);
    // Slopes are turned back.
    const across = f32x4.extract_lane(shape, 0), along = f32x4.extract_lane(shape, 1);
    shape = f32x4.replace_lane(shape, 0, c * across + d * along);
    shape = f32x4.replace_lane(shape, 1, c * along - d * across);
  }
  const k = f32x4.splat(weight);
  cellPaint = f32x4.add(cellPaint, f32x4.mul(paint, k));
  cellShape = f32x4.add(cellShape, f32x4.mul(shape, k));
  cellMetal += metallic * weight;
}

/** Reads the sheet at a place in metres, by the cells about it. */
function readCells(s: f32, t: f32, whole: bool): void {
  const perM = load<f32>(layer, L.LY_PER_M);
  const c = load<f32>(layer, L.LY_COS), d = load<f32>(layer, L.LY_SIN);
  const x = (c * s + d * t) * perM;
  const y = (c * t - d * s) * perM;
  // The lattice of equilateral triangles, skewed to squares.
  const u = (x - <f32>0.57735026919 * y) * CELLS;
  const v = <f32>1.15470053838 * y * CELLS;
  const iu = Mathf.floor(u), iv = Mathf.floor(v);
  const fu = u - iu, fv = v - iv;
  const upper = fu + fv > 1;
  const i = <i32>iu, j = <i32>iv;
  // Weights of the corners: the one alone on its side of the diagonal, then the two on it.
  let w0: f32 = upper ? fu + fv - <f32>1 : <f32>1 - fu - fv;
  let w1: f32 = upper ? <f32>1 - fv : fu;
  let w2: f32 = upper ? <f32>1 - fu : fv;
  w0 *= w0;
  w1 *= w1;
  w2 *= w2;
  w0 *= w0 * w0;
  w1 *= w1 * w1;
  w2 *= w2 * w2;
  const k = <f32>1 / (w0 + w1 + w2);
  w0 *= k;
  w1 *= k;
  w2 *= k;
  cellPaint = cellShape = f32x4.splat(0);
  cellMetal = 0;
  const corner = upper ? 1 : 0;
  if (!whole) {
    if (chance < w0) addCell(i + corner, j + corner, x, y, 1);
    else if (chance < w0 + w1) addCell(i + 1, j, x, y, 1);
    else addCell(i, j + 1, x, y, 1);
    return;
  }
  if (w0 > <f32>1 - LEAST) {
    addCell(i + corner, j + corner, x, y, 1);
    return;
  }
  if (w1 > <f32>1 - LEAST) {
    addCell(i + 1, j, x, y, 1);
    return;
  }
  if (w2 > <f32>1 - LEAST) {
    addCell(i, j + 1, x, y, 1);
    return;
  }
  addCell(i + corner, j + corner, x, y, w0);
  addCell(i + 1, j, x, y, w1);
  addCell(i, j + 1, x, y, w2);
  // The spread about the mean is that of one cell alone.
  const wide = <f32>1 / Mathf.sqrt(w0 * w0 + w1 * w1 + w2 * w2);
  const n = f32x4.splat(wide);
  const mean = v128.load(layer + L.LY_MEAN);
  const zero = f32x4.splat(0);
  cellPaint = f32x4.min(f32x4.max(f32x4.add(mean, f32x4.mul(f32x4.sub(cellPaint, mean), n)), zero), f32x4.splat(1));
  const high = load<f32>(layer, L.LY_MEAN_HEIGHT) * <f32>65535;
  const height = high + (f32x4.extract_lane(cellShape, 2) - high) * wide;
  const lost = f32x4.extract_lane(cellShape, 3);
  cellShape = f32x4.mul(cellShape, n);
  cellShape = f32x4.replace_lane(cellShape, 2, min<f32>(65535, max<f32>(0, height)));
  cellShape = f32x4.replace_lane(cellShape, 3, lost);
}

/** Takes the level of a view so wide: between two levels by chance. */
function takeLevel(footprint: f32): void {
  const size = load<f32>(layer, L.LY_SIZE);
  const texels = footprint * load<f32>(layer, L.LY_PER_M) * size;
  level = 0;
  if (!(texels > 1)) return;
  const bits = reinterpret<u32>(texels);
  const exponent = (bits >> 23) - 127;
  const rest = <f32>(bits & 0x7fffff) * <f32>1.1920928955078125e-7;
  const most = (reinterpret<u32>(size) >> 23) - 127;
  level = min<u32>(most, exponent + (randX < rest ? 1 : 0));
}

/** How much of what stands once is there. */
let layerThere: f32 = 1;

/** What one layer comes to, its water over it, and then what all so far do. */
let layerR: f32 = 0;
let layerG: f32 = 0;
let layerB: f32 = 0;
let layerRough: f32 = 0;
let layerMetal: f32 = 0;
let layerHeight: f32 = 0;
let layerVariance: f32 = 0;
let layerX: f32 = 0;
let layerY: f32 = 0;
let layerZ: f32 = 0;

// What the sides of a layer add up to: the paint, height, lost variance, metal, and how the height grows across and along each.
let sumPaint: v128 = f32x4.splat(0);
let sumHeight: f32 = 0;
let sumLost: f32 = 0;
let sumMetal: f32 = 0;
let sumWeight: f32 = 0;
let sideAcross: f32 = 0;
let sideAlong: f32 = 0;

/** Reads one side by its weight at a place in metres. */
function addSide(weight: f32, s: f32, t: f32, whole: bool): void {
  readCells(s, t, whole);
  sumPaint = f32x4.add(sumPaint, f32x4.mul(cellPaint, f32x4.splat(weight)));
  sumHeight += weight * f32x4.extract_lane(cellShape, 2);
  sumLost += weight * f32x4.extract_lane(cellShape, 3);
  sumMetal += weight * cellMetal;
  sumWeight += weight;
  // Turned back from how the sheet lies.
  const c = load<f32>(layer, L.LY_COS), d = load<f32>(layer, L.LY_SIN);
  const across = f32x4.extract_lane(cellShape, 0), along = f32x4.extract_lane(cellShape, 1);
  sideAcross = weight * (c * across - d * along);
  sideAlong = weight * (d * across + c * along);
}

/** Reads what stands once where its box is looked through. */
function readOnce(): void {
  const half = <f32>0.5 / <f32>max<u32>(1, <u32>load<f32>(layer, L.LY_SIZE) >> level);
  read(min<f32>(<f32>1 - half, max<f32>(half, boxS)), min<f32>(<f32>1 - half, max<f32>(half, boxT)));
  sumPaint = paint;
  sumHeight = f32x4.extract_lane(shape, 2);
  sumLost = f32x4.extract_lane(shape, 3);
  sumMetal = 0;
  sumWeight = 1;
  layerThere = metallic * <f32>0.00392156862745098;
}

/** Reads the layer at the present place into what one layer comes to. */
function readLayer(whole: bool): void {
  const qx = placeX + load<f32>(layer, L.LY_OFFSET);
  const qy = placeY + load<f32>(layer, L.LY_OFFSET + 4);
  const qz = placeZ + load<f32>(layer, L.LY_OFFSET + 8);
  sumPaint = f32x4.splat(0);
  sumHeight = sumLost = sumMetal = sumWeight = 0;
  // How the height grows along the directions that it lies by.
  let hx: f32 = 0, hy: f32 = 0, hz: f32 = 0;
  const once = load<f32>(layer, L.LY_GRAIN) == <f32>L.GRAIN_ONCE;
  if (once) {
    readOnce();
    const across = f32x4.extract_lane(shape, 0);
    const down = -f32x4.extract_lane(shape, 1) * load<f32>(layer, L.LY_BLOCKS);
    hx = across * boxRx + down * boxUx;
    hy = across * boxRy + down * boxUy;
    hz = across * boxRz + down * boxUz;
  } else if (sideY > LEAST) {
    addSide(sideY, qx, qz, whole);
    hx += sideAcross;
    hz += sideAlong;
  }
  if (!once && sideX > LEAST) {
    addSide(sideX, qz, -qy, whole);
    hz += sideAcross;
    hy -= sideAlong;
  }
  if (!once && sideZ > LEAST) {
    addSide(sideZ, qx, -qy, whole);
    hx += sideAcross;
    hy -= sideAlong;
  }
  const all = <f32>1 / sumWeight;
  let height = sumHeight * all * <f32>0.0000152590218967;
  const tint = load<f32>(layer, L.LY_TINT);
  let r = f32x4.extract_lane(sumPaint, 0) * all;
  let g = f32x4.extract_lane(sumPaint, 1) * all;
  let b = f32x4.extract_lane(sumPaint, 2) * all;
  let rough = f32x4.extract_lane(sumPaint, 3) * all + load<f32>(layer, L.LY_ROUGHER);
  rough = min<f32>(1, max<f32>(<f32>0.02, rough));
  r = min<f32>(1, r * load<f32>(layer, L.LY_SHADE) * (<f32>1 + tint * (baseR / load<f32>(layer, L.LY_MEAN) - <f32>1)));
  g = min<f32>(1, g * load<f32>(layer, L.LY_SHADE + 4) * (<f32>1 + tint * (baseG / load<f32>(layer, L.LY_MEAN + 4) - <f32>1)));
  b = min<f32>(1, b * load<f32>(layer, L.LY_SHADE + 8) * (<f32>1 + tint * (baseB / load<f32>(layer, L.LY_MEAN + 8) - <f32>1)));
  let relief = load<f32>(layer, L.LY_SLOPE) * all * <f32>0.000244140625;
  const own = sumLost * all * <f32>0.0078431372549 * load<f32>(layer, L.LY_SLOPE);
  let variance = own * own;
  const worn = load<f32>(layer, L.LY_WORN);
  if (worn > 0) {
    // From the top down to a level: flat there, paler and smoother.
    const to = <f32>1 - worn * (<f32>1 + WORN_EDGE);
    const flat = min<f32>(1, max<f32>(0, (height - to) / WORN_EDGE));
    r *= <f32>1 + <f32>L.WORN_PALER * flat * (<f32>1 - r);
    g *= <f32>1 + <f32>L.WORN_PALER * flat * (<f32>1 - g);
    b *= <f32>1 + <f32>L.WORN_PALER * flat * (<f32>1 - b);
    rough *= <f32>1 - flat * (<f32>1 - <f32>L.WORN_ROUGHNESS);
    relief *= <f32>1 - flat;
    variance *= (<f32>1 - flat) * (<f32>1 - flat);
    height = min<f32>(height, max<f32>(0, to));
  }
  let clean: f32 = 1;
  const dirt = load<f32>(layer, L.LY_DIRT);
  if (dirt > 0) {
    // A film on all of it, and what fills it from the bottom.
    const fills = min<f32>(1, max<f32>(0, (dirt * (<f32>1 + WORN_EDGE) - height) / WORN_EDGE));
    const lies = max<f32>(<f32>L.DIRT_FILM * dirt, fills);
    r += lies * (<f32>L.DIRT_RED - r);
    g += lies * (<f32>L.DIRT_GREEN - g);
    b += lies * (<f32>L.DIRT_BLUE - b);
    rough += lies * (<f32>L.DIRT_ROUGHNESS - rough);
    relief *= <f32>1 - <f32>L.DIRT_HIDES * fills;
    variance *= <f32>1 - <f32>L.DIRT_HIDES * fills;
    clean = <f32>1 - lies;
  }
  const wetness = load<f32>(layer, L.LY_WET);
  if (wetness > 0) {
    // First all grows damp; then water fills what lies lowest.
    const damp = min<f32>(1, <f32>2 * wetness);
    const fill = <f32>2 * wetness - <f32>1;
    const under = min<f32>(1, max<f32>(0, (fill * (<f32>1 + EDGE) - height) / EDGE)) * (fill > 0 ? <f32>1 : <f32>0);
    const film = max<f32>(damp, under);
    r += film * (r * (<f32>1 - INSIDE) / (<f32>1 - INSIDE * r) - r);
    g += film * (g * (<f32>1 - INSIDE) / (<f32>1 - INSIDE * g) - g);
    b += film * (b * (<f32>1 - INSIDE) / (<f32>1 - INSIDE * b) - b);
    rough += damp * (min<f32>(rough, <f32>L.DAMP_ROUGHNESS) - rough);
    rough += under * (WATER_ROUGHNESS - rough);
    relief *= <f32>1 - under;
    variance *= (<f32>1 - under) * (<f32>1 - under);
  }
  layerR = r;
  layerG = g;
  layerB = b;
  layerRough = rough;
  layerMetal = sumMetal * all * clean * <f32>0.00392156862745098;
  layerHeight = height;
  layerVariance = variance;
  hx *= relief;
  hy *= relief;
  hz *= relief;
  layerX = byWorld ? hx : hx * ax + hy * bx + hz * cx;
  layerY = byWorld ? hy : hx * ay + hy * by + hz * cy;
  layerZ = byWorld ? hz : hx * az + hy * bz + hz * cz;
}

/**
 * Lays the sheets on the sample of the present hit, at a place of a normal by which they lie, seen so wide; what they bend is the normal of
 * what is there, `s`, which is another where it has been shaped. The normal bent by them is left.
 */
export function laySheets(
  px: f32, py: f32, pz: f32, nx: f32, ny: f32, nz: f32, sx: f32, sy: f32, sz: f32, footprint: f32,
): void {
  drawPair(pair + SHEETS);
  const whole = spread < EYE_SPREAD;
  takeHit(px, py, pz, nx, ny, nz);
  takePlace(whole);
  const count = <u32>load<f32>(record, L.MAT_LAYER_COUNT);
  const first = layer;
  let r = baseR, g = baseG, b = baseB, rough = roughness, shine = metal, height: f32 = 0.5;
  let variance: f32 = 0, hx: f32 = 0, hy: f32 = 0, hz: f32 = 0;
  for (let n: u32 = 0; n < count; n++) {
    setLayer(first + <usize>n * L.LY_SIZE_BYTES);
    const under = n == 0 && load<f32>(layer, L.LY_OVER) == 0;
    if (byWorld != (load<f32>(layer, L.LY_WORLD) != 0)) takePlace(whole);
    const left: f32 = under ? 1 : bandsLeave(<f32>1 - ny);
    if (left < <f32>L.LAYER_LEAST) continue;
    takeLevel(footprint);
    readLayer(whole);
    if (load<f32>(layer, L.LY_GRAIN) == <f32>L.GRAIN_ONCE) {
      // It takes the relief of what it lies on, and adds its own.
      const as = load<f32>(layer, L.LY_ONCE);
      const much = as == <f32>L.ONCE_CUT ? left : left * layerThere;
      hx += much * layerX;
      hy += much * layerY;
      hz += much * layerZ;
      if (as == <f32>L.ONCE_RELIEF) continue;
      r += much * (layerR - r);
      g += much * (layerG - g);
      b += much * (layerB - b);
      rough += much * (layerRough - rough);
      shine -= much * shine;
      continue;
    }
    // What lies lowest is covered first.
    const t: f32 = under ? 1 : min<f32>(1, max<f32>(0, (left * (<f32>1 + OVER_EDGE) - height) / OVER_EDGE));
    r += t * (layerR - r);
    g += t * (layerG - g);
    b += t * (layerB - b);
    rough += t * (layerRough - rough);
    shine += t * (layerMetal - shine);
    height += t * (layerHeight - height);
    variance += t * (layerVariance - variance);
    hx += t * (layerX - hx);
    hy += t * (layerY - hy);
    hz += t * (layerZ - hz);
  }
  setLayer(first);
  rough = min<f32>(1, max<f32>(<f32>0.02, rough));
  const r2 = rough * rough;
  // The lost slopes of both ways together are twice those of one, and a microfacet's width is the root of twice those of one.
  rough = min<f32>(1, Mathf.sqrt(Mathf.sqrt(r2 * r2 + variance)));
  setSample(r, g, b, rough, min<f32>(1, max<f32>(0, shine)));
  // The surface's gradient, without what lies along its normal.
  const along = hx * sx + hy * sy + hz * sz;
  const dx = sx - hx + along * sx;
  const dy = sy - hy + along * sy;
  const dz = sz - hz + along * sz;
  const l = <f32>1 / Mathf.sqrt(dx * dx + dy * dy + dz * dz);
  bentX = dx * l;
  bentY = dy * l;
  bentZ = dz * l;
}
