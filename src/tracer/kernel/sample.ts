/**
 * The surface at a hit: the one place where records of materials are read. A hit fills the sample; all else in the
 * kernel
 * knows of surfaces what stands here. Where a sheet lies on the surface, `sheets.ts` changes the sample by it.
 */
import { hitInstance } from "./intersect";
import * as L from "./layout";
import { sq, u } from "./scene";

/** Record of the surface that the sample was filled from: by it a body of glass is known again. */
export let record: usize = 0;
/** Base colour, linear. */
export let baseR: f32 = 0;
export let baseG: f32 = 0;
export let baseB: f32 = 0;
/** Wetness, 0 to 1. */
export let wet: f32 = 0;
export let roughness: f32 = 0;
export let metal: f32 = 0;
export let translucency: f32 = 0;
/** Share and roughness of a clear coat. */
export let coat: f32 = 0;
export let coatRoughness: f32 = 0;
/** Record of the sheet that lies on it, 0 for none. */
export let layer: usize = 0;
/** 0 none, GLASS_BODY, GLASS_PANE, GLASS_WATER. */
export let glass: f32 = 0;

/** Glass that is looked at by its record alone, without a sample of its own: what `takeGlass` has read. */
export let glassKind: f32 = 0;
export let glassRoughness: f32 = 0;
export let glassIndex: f32 = 1;
/** What one passage of a pane leaves, or extinction per metre in a body. */
export let glassR: f32 = 0;
export let glassG: f32 = 0;
export let glassB: f32 = 0;

/** Roughness of what is wet: water fills what is rough. */
const WET_ROUGHNESS: f32 = 0.22;

// @ts-ignore: decorator
@inline
function byteSquare(b: u32): f32 {
  return sq(<f32>b * <f32>0.00392156862745098);
}

/** Record of a material by its number. */
// @ts-ignore: decorator
@inline
export function recordOf(material: u32): usize {
  return <usize>u(L.H_MATERIALS) + <usize>material * L.MAT_SIZE;
}

/** Record of the surface of the present hit. */
// @ts-ignore: decorator
@inline
export function recordOfHit(): usize {
  return recordOf(load<u32>(hitInstance, L.I_MATERIAL));
}

/** Fills the sample at the present hit: corners of the triangle in a mesh's lists, and the place between them. */
export function sampleSurface(mesh: usize, i0: u32, i1: u32, i2: u32, w0: f32, w1: f32, w2: f32): void {
  record = recordOfHit();
  baseR = load<f32>(record);
  baseG = load<f32>(record, 4);
  baseB = load<f32>(record, 8);
  roughness = load<f32>(record, L.MAT_ROUGHNESS);
  metal = load<f32>(record, L.MAT_METAL);
  translucency = load<f32>(record, L.MAT_TRANSLUCENCY);
  coat = load<f32>(record, L.MAT_COAT);
  coatRoughness = load<f32>(record, L.MAT_COAT_ROUGHNESS);
  glass = load<f32>(record, L.MAT_GLASS);
  layer = <usize>load<u32>(record, L.MAT_LAYERS);
  wet = 0;
  const colours = <usize>load<u32>(mesh, L.M_COLOURS);
  if (colours != 0) {
    const c0 = load<u32>(colours + i0 * 4);
    const c1 = load<u32>(colours + i1 * 4);
    const c2 = load<u32>(colours + i2 * 4);
    baseR *= byteSquare(c0 & 255) * w0 + byteSquare(c1 & 255) * w1 + byteSquare(c2 & 255) * w2;
    baseG *= byteSquare((c0 >> 8) & 255) * w0 + byteSquare((c1 >> 8) & 255) * w1 + byteSquare((c2 >> 8) & 255) * w2;
    baseB *= byteSquare((c0 >> 16) & 255) * w0 + byteSquare((c1 >> 16) & 255) * w1 + byteSquare((c2 >> 16) & 255) * w2;
    wet = (<f32>(c0 >> 24) * w0 + <f32>(c1 >> 24) * w1 + <f32>(c2 >> 24) * w2) * <f32>0.00392156862745098;
  }
  const tint = load<u32>(hitInstance, L.I_TINT);
  if (tint >> 24 != 0) {
    baseR *= byteSquare(tint & 255);
    baseG *= byteSquare((tint >> 8) & 255);
    baseB *= byteSquare((tint >> 16) & 255);
  }
}

/** Fills the sample with a rough white of so much, as foam is. */
export function sampleWhite(white: f32): void {
  record = 0;
  baseR = baseG = baseB = white;
  roughness = 1;
  metal = translucency = coat = coatRoughness = glass = wet = 0;
  layer = 0;
}

// @ts-ignore: decorator
@inline
export function setLayer(at: usize): void {
  layer = at;
}

/** Changes the sample by what lies on the surface. */
// @ts-ignore: decorator
@inline
export function setSample(r: f32, g: f32, b: f32, rough: f32, metallic: f32): void {
  baseR = r;
  baseG = g;
  baseB = b;
  roughness = rough;
  metal = metallic;
}

/** Roughness of the sample as its wetness leaves it. */
// @ts-ignore: decorator
@inline
export function wetRoughness(): f32 {
  return roughness + (WET_ROUGHNESS - roughness) * wet * (roughness > WET_ROUGHNESS ? <f32>1 : <f32>0);
}

/** Reads the glass of a record; the sample stays. */
export function takeGlass(from: usize): void {
  glassKind = load<f32>(from, L.MAT_GLASS);
  glassRoughness = load<f32>(from, L.MAT_ROUGHNESS);
  glassIndex = load<f32>(from, L.MAT_INDEX);
  glassR = load<f32>(from, L.MAT_TINT);
  glassG = load<f32>(from, L.MAT_TINT + 4);
  glassB = load<f32>(from, L.MAT_TINT + 8);
}

/** Address of the extinction per metre in a body of glass, f32×3. */
// @ts-ignore: decorator
@inline
export function extinctionIn(body: usize): usize {
  return body + L.MAT_TINT;
}
