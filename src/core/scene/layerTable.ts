/** The table of a scene's layers, as tracer and working view both read it: one record each, of the tracer's layout. */

import { MOST_LAID_WHERES } from "../doc/schema.ts";
import { cos, sin } from "../maths/functions.ts";
import type { Vec3 } from "../maths/vec.ts";
import { meanOf } from "../surface/sheet.ts";
import { type Band, QUANTITIES } from "../surface/where/where.ts";
import type { Material, SceneLayer, ScenePart } from "./scene.ts";

/** Numbers of a record: how it lies, then those of its bands. */
const LIES_NUMBERS = 24;
const BAND_NUMBERS = 8;
export const LAYER_NUMBERS = LIES_NUMBERS + BAND_NUMBERS * MOST_LAID_WHERES;

const GRAINS = { turns: 0, shifts: 1, blocks: 2 } as const;

/** Least that a mean colour is told to be, so that a tint can be told by what it is more. */
const DARKEST = 0.004;

/** The layers of materials, in their order. */
export const layersOf = (materials: readonly Material[]): SceneLayer[] =>
	materials.flatMap(({ layers }) => layers ?? []);

/** A material as it is from afar, for what knows no sheets: the mean of the first that lies on it. */
export function fromAfar(material: Material, parts: ReadonlyMap<string, ScenePart>): Material {
	const [layer] = material.layers ?? [];
	if (!layer) return material;
	const mean = meanOf((parts.get(layer.sheet) as Extract<ScenePart, { kind: "sheet" }>).sheet);
	const colour = mean.colour.map((v, c) => v + layer.tint * (material.colour[c] - v)) as unknown as Vec3;
	return { ...material, colour, roughness: mean.roughness, metal: mean.metal };
}

const left = (x: number, period: number): number => x - Math.floor(x / period) * period;

/** Sheets after which what lies by the world's metres may count anew: cells of its lattice go on over the edge within this. */
const WORLD_SHEETS = 4096;

function bandNumbers(band: Band | undefined): number[] {
	if (!band) return new Array(BAND_NUMBERS).fill(0);
	return [QUANTITIES[band.of], ...band.rises, ...band.falls, band.sizeM ?? 1, band.seed ?? 0, 0];
}

/**
 * A layer's record: its sheet as `place` names it, texels of a side, sheets a metre, grain, blocks, seed, turn (cosine and sine), how much
 * steeper than baked, tint, wetness, whether it lies by the world; metres from where it counts to the scene's origin (3); mean colour and
 * roughness, mean height, nothing, share, number of bands;
 * then of each band what it is of, where it rises and falls (4), the size of its clouds and their seed.
 */
export function layerRecord(
	layer: SceneLayer,
	parts: ReadonlyMap<string, ScenePart>,
	origin: Vec3,
	place: number,
): number[] {
	const { sheet } = parts.get(layer.sheet) as Extract<ScenePart, { kind: "sheet" }>;
	const { grain, acrossM, turn, depthM, world } = layer;
	const mean = meanOf(sheet);
	const rangeM = (sheet.mostMm - sheet.leastMm) / 1000 || 1;
	const slope = (depthM / rangeM) * (sheet.sideM / acrossM);
	const [kind, blocks] = typeof grain === "string" ? [GRAINS[grain], 0] : [GRAINS.blocks, grain.blocks];
	const offset = world ? origin.map((v) => left(v, WORLD_SHEETS * acrossM)) : [0, 0, 0];
	const high = (mean.heightMm - sheet.leastMm) / (1000 * rangeM);
	return [
		...[place, sheet.size, 1 / acrossM, kind, blocks, layer.seed, cos(turn), sin(turn)],
		...[slope, layer.tint, layer.wet, world ? 1 : 0, ...offset, 0],
		...[...mean.colour.map((v) => Math.max(DARKEST, v)), mean.roughness, high, 0, layer.share, layer.where.length],
		...Array.from({ length: MOST_LAID_WHERES }, (_, i) => bandNumbers(layer.where[i])).flat(),
	];
}
