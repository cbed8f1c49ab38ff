/** The table of a scene's layers, as tracer and working view both read it: one record each, of the tracer's layout. */

import { MOST_LAID_WHERES } from "../doc/schema.ts";
import { cos, sin } from "../maths/functions.ts";
import { sub, type Vec3 } from "../maths/vec.ts";
import {
	GRAIN_BLOCKS,
	GRAIN_ONCE,
	GRAIN_SHIFTS,
	GRAIN_TURNS,
	ONCE_CUT,
	ONCE_PICTURE,
	ONCE_RELIEF,
} from "../surface/reading.ts";
import { meanOf } from "../surface/sheet.ts";
import { type Band, type Box, QUANTITIES } from "../surface/where/where.ts";
import { BRICK_CELLS } from "../volume/volume.ts";
import type { Material, SceneLayer, ScenePart } from "./scene.ts";

/** Numbers of a record: how it lies, then those of its bands. */
const LIES_NUMBERS = 32;
const BAND_NUMBERS = 12;
export const LAYER_NUMBERS = LIES_NUMBERS + BAND_NUMBERS * MOST_LAID_WHERES;

const GRAINS = { turns: GRAIN_TURNS, shifts: GRAIN_SHIFTS, blocks: GRAIN_BLOCKS, once: GRAIN_ONCE } as const;

/** What stands once, as layers are numbered by it. */
const ONCE = { picture: ONCE_PICTURE, relief: ONCE_RELIEF, cut: ONCE_CUT } as const;

/** Least that a mean colour is told to be, so that a tint can be told by what it is more. */
const DARKEST = 0.004;

/** The layers of materials, in their order. */
export const layersOf = (materials: readonly Material[]): SceneLayer[] =>
	materials.flatMap(({ layers }) => layers ?? []);

/** A material as it is from afar, for what knows no sheets: the mean of the first that lies on it. */
export function fromAfar(material: Material, parts: ReadonlyMap<string, ScenePart>): Material {
	const [layer] = material.layers ?? [];
	if (!layer || layer.bare) return material;
	const mean = meanOf((parts.get(layer.sheet) as Extract<ScenePart, { kind: "sheet" }>).sheet);
	const { shade = [1, 1, 1], rougher = 0 } = layer;
	const colour = mean.colour.map((v, c) => Math.min(1, shade[c] * (v + layer.tint * (material.colour[c] - v))));
	const roughness = Math.min(1, Math.max(0.02, mean.roughness + rougher));
	return { ...material, colour: colour as unknown as Vec3, roughness, metal: mean.metal };
}

/** Metres, or sheets where these are larger, after which what lies by the world may count anew: a lens that goes over the edge sees it. */
const WORLD_M = 4096;

const wrapped = (x: number, period: number): number => x - Math.round(x / period) * period;

/** The scene's origin, from where what lies by the world counts. */
function wrappedOrigin([x, y, z]: Vec3, acrossM: number): Vec3 {
	const period = WORLD_M * Math.max(1, acrossM);
	return [wrapped(x, period), y, wrapped(z, period)];
}

/** Metres from the world's own middle to where what lies by the world counts from, in a scene of that origin. */
export const worldOffset = (origin: Vec3, acrossM: number): Vec3 => sub(wrappedOrigin(origin, acrossM), origin);

/** Least share over which a box fades at its sides. */
const LEAST_SOFT = 1e-4;

/** Its middle from where places count, right over half its width, up over half its height, one over half its depth, softness, below 0 for both sides. */
function boxNumbers({ at, right, up, half: [wide, high, deep], soft, both }: Box, from: Vec3): number[] {
	const fades = Math.max(LEAST_SOFT, soft) * (both ? -1 : 1);
	return [...sub(at as Vec3, from), ...right.map((v) => v / wide), ...up.map((v) => v / high), 1 / deep, fades];
}

function bandNumbers(
	band: Band | undefined,
	parts: ReadonlyMap<string, ScenePart>,
	origin: Vec3,
	volumes: VolumePlaces,
	world: boolean,
): number[] {
	if (!band) return new Array(BAND_NUMBERS).fill(0);
	const { of, rises, falls, sizeM = 1, seed = 0, upright = 1, volume, box } = band;
	if (box) return [QUANTITIES.box, ...boxNumbers(box, world ? origin : [0, 0, 0])];
	const edges = [QUANTITIES[of], ...rises, ...falls];
	if (of !== "volume" || !volume) return [...edges, sizeM, seed, upright, 0, 0, 0, 0];
	const { cellM, anchor } = (parts.get(volume.part) as Extract<ScenePart, { kind: "volume" }>).volume;
	const offset = anchor.map((v, c) => (volume.world ? origin[c] - v : -v));
	const scale = 1 / (cellM * BRICK_CELLS);
	return [...edges, scale, volume.missing, volumes(volume.part), ...offset, volume.world ? 1 : 0];
}

/** Where a volume's words begin for whoever reads the record. */
export type VolumePlaces = (part: string) => number;

/** Keys of the volumes that bands of these layers ask. */
export const volumesOf = (layers: readonly SceneLayer[]): Set<string> =>
	new Set(layers.flatMap(({ where }) => where.flatMap(({ volume }) => volume?.part ?? [])));

/**
 * A layer's record: its sheet as `place` names it, texels of a side, sheets a metre, grain, blocks (or `along` of what stands once), seed, turn (cosine and sine), how much
 * steeper than baked, tint, wetness, whether it lies by the world; metres from where it counts to the scene's origin (3), what it is of those that stand once; mean colour and
 * roughness, mean height, whether it lies over what is bare, share, number of bands; times its colour (3), by how much it is rougher; how far it is worn, how dirty, two that are free; then of each band what it is of, where it rises and
 * falls (4), the size of its clouds, their seed and how they change upright, or of a volume bricks a metre, what it is where nothing is known, where its words
 * begin, metres from its anchor to where places count from (3) and whether it lies by the world; or all that {@link boxNumbers} tells of a box.
 */
export function layerRecord(
	layer: SceneLayer,
	parts: ReadonlyMap<string, ScenePart>,
	origin: Vec3,
	place: number,
	volumes: VolumePlaces,
): number[] {
	const { sheet } = parts.get(layer.sheet) as Extract<ScenePart, { kind: "sheet" }>;
	const { grain, acrossM, turn, depthM, world, once } = layer;
	const mean = meanOf(sheet);
	const rangeM = (sheet.mostMm - sheet.leastMm) / 1000 || 1;
	const slope = (depthM / rangeM) * (sheet.sideM / acrossM);
	const [kind, blocks] = once
		? [GRAINS.once, once.along]
		: typeof grain === "string"
			? [GRAINS[grain], 0]
			: [GRAINS.blocks, grain.blocks];
	const offset = world ? wrappedOrigin(origin, acrossM) : [0, 0, 0];
	const high = (mean.heightMm - sheet.leastMm) / (1000 * rangeM);
	return [
		...[place, sheet.size, 1 / acrossM, kind, blocks, layer.seed, cos(turn), sin(turn)],
		...[slope, layer.tint, layer.wet, world ? 1 : 0, ...offset, once ? ONCE[once.as] : 0],
		...[...mean.colour.map((v) => Math.max(DARKEST, v)), mean.roughness, high],
		...[layer.bare ? 1 : 0, layer.share, layer.where.length],
		...(layer.shade ?? [1, 1, 1]),
		layer.rougher ?? 0,
		...[layer.worn ?? 0, layer.dirt ?? 0, 0, 0],
		...Array.from({ length: MOST_LAID_WHERES }, (_, i) =>
			bandNumbers(layer.where[i], parts, origin, volumes, world),
		).flat(),
	];
}
