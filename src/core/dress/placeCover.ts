/**
 * Places the plants of a cover, cell by cell.
 *
 * A cell of the ground has an endless, seeded, ordered stream of candidates, each with a rank u. A candidate stands if
 * and only if u < density · weight / limit, where the limit belongs to the species and the weight is the product of the
 * where rules. Size, turn and variant come from hashes of seed, cell and index. So fewer plants are always a subset of
 * more, and no survivor ever moves.
 *
 * Ranks rise with the index, so a sparse cover looks at few candidates (2 of 60 per m²: one in thirty).
 */
import type { Cover, Rule, ShotDocument } from "../doc/schema.ts";
import { groundHeight } from "../ground/height.ts";
import { frameOfView } from "../lens/camera.ts";
import { cos, sin, TAU } from "../maths/functions.ts";
import { hash01, hash32, keyOf } from "../maths/hash.ts";
import { footprints } from "./footprints.ts";
import { PLANTS, VARIANTS } from "./plant.ts";
import { CELL_M, type Cell, gapTo, type Surroundings } from "./rules/rule.ts";
import { ruleOf } from "./rules/rules.ts";

/** Without a rule about the lens's distance a cover ends here. */
export const FARTHEST_M = 400;

export interface CellPlants {
	/** World place that the transforms are relative to. */
	origin: [number, number, number];
	count: number;
	/** Rows of 3×4 matrices, plant to cell, by rising rank. */
	transforms: Float32Array;
	variants: Uint8Array;
	/** Square roots of linear colour in bytes, alpha 255. */
	tints: Uint8Array;
	/** Index of each plant in the cell's stream: its name. */
	names: Uint32Array;
}

export interface CellJob {
	key: string;
	cell: Cell;
	/** Weights, 0 to 1 at a place, of the rules that do anything in this cell. */
	weights: ((x: number, z: number) => number)[];
}

/** What a cover's rules may ask about in a shot. */
export const surroundingsOf = (
	{ camera, ground, water, pieces }: Pick<ShotDocument, "camera" | "ground" | "water" | "pieces">,
	cover: Cover,
): Surroundings => ({ cover, camera, view: frameOfView(camera), ground, water, footprints: footprints(pieces) });

/** Distance from the lens beyond which no plant of a cover stands. */
export function reachOfCover({ rules }: Pick<Cover, "rules">): number {
	const limits = rules.filter((r) => !r.out).flatMap((r) => ruleOf(r).farthestM?.(r) ?? []);
	return Math.min(FARTHEST_M * 8, ...(limits.length ? limits : [FARTHEST_M]));
}

/** Cells that may hold plants of a cover, with what weighs in each and a key of exactly that. */
export function coverCells(around: Surroundings): CellJob[] {
	const { cover, camera, ground } = around;
	const rules = cover.rules.filter((r) => !r.out);
	const far = reachOfCover(cover);
	const [lx, , lz] = camera.position;
	const jobs: CellJob[] = [];
	const { densityPerM2, sizeM, seed, colour, species } = cover;
	const own = keyOf("cover", species, densityPerM2, sizeM, seed, colour, ground);
	const first = (v: number) => Math.floor((v - far) / CELL_M);
	const last = (v: number) => Math.floor((v + far) / CELL_M);
	for (let z = first(lz); z <= last(lz); z++) {
		for (let x = first(lx); x <= last(lx); x++) {
			if (Math.hypot(gapTo(lx, x), gapTo(lz, z)) > far) continue;
			const cell = { x, z };
			const weighing = weighingIn(cell, rules, around);
			if (!weighing) continue;
			const { weights, madeOf } = weighing;
			jobs.push({ key: keyOf("plants", own, x, z, madeOf), cell, weights });
		}
	}
	return jobs;
}

/** What the rules do in a cell; null when nothing stands there. */
function weighingIn(
	cell: Cell,
	rules: readonly Rule[],
	around: Surroundings,
): { weights: CellJob["weights"]; madeOf: unknown[] } | null {
	const weights: CellJob["weights"] = [];
	const madeOf: unknown[] = [];
	for (const rule of rules) {
		const weighing = ruleOf(rule).inCell(rule, around, cell);
		if (weighing === "none") return null;
		if (weighing === "all") continue;
		weights.push(weighing.weight);
		madeOf.push(rule, weighing.madeOf);
	}
	return { weights, madeOf };
}

/** The plants that stand in a cell. */
export function placeCell(
	{ cell, weights }: CellJob,
	{ cover, ground }: Pick<Surroundings, "cover" | "ground">,
): CellPlants {
	const limit = PLANTS[cover.species].limitPerM2;
	const most = limit * CELL_M * CELL_M;
	const share = Math.min(1, cover.densityPerM2 / limit);
	const count = Math.ceil(most * share);
	const originX = cell.x * CELL_M;
	const originZ = cell.z * CELL_M;
	const originY = groundHeight(ground, originX + CELL_M / 2, originZ + CELL_M / 2);
	const salt = hash32(cover.seed ^ hash32(cell.x ^ hash32(cell.z)));
	const matrices: number[] = [];
	const variants: number[] = [];
	const tints: number[] = [];
	const names: number[] = [];
	for (let i = 0; i < count; i++) {
		const u = (i + hash01(i, salt, 1)) / most;
		if (u >= share) continue;
		const x = originX + hash01(i, salt, 2) * CELL_M;
		const z = originZ + hash01(i, salt, 3) * CELL_M;
		let weight = 1;
		for (const weigh of weights) {
			weight *= weigh(x, z);
			if (u >= share * weight) break;
		}
		if (u >= share * weight) continue;
		const y = groundHeight(ground, x, z);
		const size = cover.sizeM[0] + (cover.sizeM[1] - cover.sizeM[0]) * hash01(i, salt, 4);
		const turn = hash01(i, salt, 5) * TAU;
		const leanX = (hash01(i, salt, 6) - 0.5) * 0.24;
		const leanZ = (hash01(i, salt, 7) - 0.5) * 0.24;
		const girth = size * (0.85 + 0.3 * hash01(i, salt, 8));
		const c = cos(turn) * girth;
		const s = sin(turn) * girth;
		matrices.push(c, leanX * size, s, x - originX, 0, size, 0, y - originY, -s, leanZ * size, c, z - originZ);
		variants.push(Math.floor(hash01(i, salt, 9) * VARIANTS));
		const tone = 0.72 + 0.56 * hash01(i, salt, 10);
		const warm = (hash01(i, salt, 11) - 0.5) * 0.3;
		for (const v of [cover.colour[0] * tone * (1 + warm), cover.colour[1] * tone, cover.colour[2] * tone * (1 - warm)])
			tints.push(Math.round(Math.sqrt(Math.min(1, v)) * 255));
		tints.push(255);
		names.push(i);
	}
	return {
		origin: [originX, originY, originZ],
		count: names.length,
		transforms: new Float32Array(matrices),
		variants: new Uint8Array(variants),
		tints: new Uint8Array(tints),
		names: new Uint32Array(names),
	};
}
