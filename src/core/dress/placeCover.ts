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
import type { Camera, Cover, Rule, ShotDocument } from "../doc/schema.ts";
import { groundHeight, onPaths } from "../ground/height.ts";
import { type FrameOfView, keptView } from "../lens/camera.ts";
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

type Weight = (x: number, z: number) => number;

/** A cell that may hold plants: what weighs in it, and keys of exactly that. */
export interface CellJob {
	key: string;
	cell: Cell;
	/** Weights, 0 to 1 at a place, of the rules that do not speak of pieces; and a key of what they leave. */
	steady: { key: string; weights: Weight[] };
	/** Weights of those that do. */
	ofPieces: Weight[];
}

/** What a cover's rules may ask about in a shot; `way` are the cameras that see it, when there are more than its own. */
export const surroundingsOf = (
	{ camera, ground, water, pieces }: Pick<ShotDocument, "camera" | "ground" | "water" | "pieces">,
	cover: Cover,
	way: readonly Camera[] = [camera],
): Surroundings => ({ cover, camera, views: viewsOf(way), ground, water, footprints: footprints(pieces) });

const viewsByWay = new WeakMap<readonly Camera[], readonly FrameOfView[]>();

/** Views of cameras, the same ones for the same list. */
function viewsOf(way: readonly Camera[]): readonly FrameOfView[] {
	const known = way.length === 1 ? undefined : viewsByWay.get(way);
	const all = known ?? way.map(keptView);
	if (way.length > 1) viewsByWay.set(way, all);
	return all;
}

/** Distance from the lens beyond which no plant of a cover stands. */
export function reachOfCover({ rules }: Pick<Cover, "rules">): number {
	const limits = rules.filter((r) => !r.out).flatMap((r) => ruleOf(r).farthestM?.(r) ?? []);
	return Math.min(FARTHEST_M * 8, ...(limits.length ? limits : [FARTHEST_M]));
}

type SteadyCell = Pick<CellJob, "cell" | "steady">;

/** Cells by what does not depend on pieces, kept while all that it does depend on is the same. */
const steadyCells = new WeakMap<Cover, { around: Surroundings; cells: SteadyCell[] }>();

function cellsWithoutPieces(around: Surroundings): SteadyCell[] {
	const { cover, camera, views, ground, water } = around;
	const held = steadyCells.get(cover);
	const was = held?.around;
	const seen = was && was.views.length === views.length && was.views.every((v, i) => v === views[i]);
	if (held && seen && was.camera === camera && was.ground === ground && was.water === water) return held.cells;
	const rules = cover.rules.filter((r) => !r.out && !ruleOf(r).ofPieces);
	const far = reachOfCover(cover);
	const [lx, , lz] = camera.position;
	const { densityPerM2, sizeM, seed, colour, species } = cover;
	const own = keyOf("cover", species, densityPerM2, sizeM, seed, colour, ground);
	const first = (v: number) => Math.floor((v - far) / CELL_M);
	const last = (v: number) => Math.floor((v + far) / CELL_M);
	const cells: SteadyCell[] = [];
	for (let z = first(lz); z <= last(lz); z++) {
		for (let x = first(lx); x <= last(lx); x++) {
			if (Math.hypot(gapTo(lx, x), gapTo(lz, z)) > far) continue;
			const weighing = weighingIn({ x, z }, rules, around);
			if (!weighing) continue;
			const { weights, madeOf } = weighing;
			cells.push({ cell: { x, z }, steady: { key: keyOf("candidates", own, x, z, madeOf), weights } });
		}
	}
	steadyCells.set(cover, { around, cells });
	return cells;
}

/** Cells that may hold plants of a cover, with what weighs in each and a key of exactly that. */
export function coverCells(around: Surroundings): CellJob[] {
	const rules = around.cover.rules.filter((r) => !r.out && ruleOf(r).ofPieces);
	return cellsWithoutPieces(around).flatMap(({ cell, steady }) => {
		const weighing = weighingIn(cell, rules, around);
		if (!weighing) return [];
		const { weights: ofPieces, madeOf } = weighing;
		return { key: keyOf("plants", steady.key, madeOf), cell, steady, ofPieces };
	});
}

/** What rules do in a cell; null when nothing stands there. */
function weighingIn(
	cell: Cell,
	rules: readonly Rule[],
	around: Surroundings,
): { weights: Weight[]; madeOf: unknown[] } | null {
	const weights: Weight[] = [];
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

/** Candidates that all rules but those about pieces leave in a cell: index, rank, place, height of the ground, weight. */
export interface Candidates {
	index: Uint32Array;
	/** Rank, x, z, y and weight of each, one after the other. */
	numbers: Float64Array;
}

const NUMBERS = 5;

/** Salt of the hashes of a cell. */
const saltOf = (cover: Cover, { x, z }: Cell): number => hash32(cover.seed ^ hash32(x ^ hash32(z)));

/** The scale of a cover's ranks: candidates of a cell at most, and the share of them that its density lets stand. */
function ranksOf({ species, densityPerM2 }: Cover): { most: number; share: number } {
	const limit = PLANTS[species].limitPerM2;
	return { most: limit * CELL_M * CELL_M, share: Math.min(1, densityPerM2 / limit) };
}

/** The candidates of a cell. */
export function candidatesOf(
	{ cell, steady }: Pick<CellJob, "cell" | "steady">,
	{ cover, ground }: Pick<Surroundings, "cover" | "ground">,
): Candidates {
	const { most, share } = ranksOf(cover);
	const salt = saltOf(cover, cell);
	const trodden = onPaths(ground);
	const index: number[] = [];
	const numbers: number[] = [];
	const count = Math.ceil(most * share);
	for (let i = 0; i < count; i++) {
		const u = (i + hash01(i, salt, 1)) / most;
		if (u >= share) continue;
		const x = cell.x * CELL_M + hash01(i, salt, 2) * CELL_M;
		const z = cell.z * CELL_M + hash01(i, salt, 3) * CELL_M;
		let weight = 1;
		for (const weigh of steady.weights) {
			weight *= weigh(x, z);
			if (u >= share * weight) break;
		}
		if (trodden) weight *= 1 - trodden(x, z);
		if (u >= share * weight) continue;
		index.push(i);
		numbers.push(u, x, z, groundHeight(ground, x, z), weight);
	}
	return { index: new Uint32Array(index), numbers: new Float64Array(numbers) };
}

/** The plants that stand in a cell. */
export function placeCell(
	job: CellJob,
	around: Pick<Surroundings, "cover" | "ground">,
	{ index, numbers: from }: Candidates = candidatesOf(job, around),
): CellPlants {
	const { cover, ground } = around;
	const { share } = ranksOf(cover);
	const { cell } = job;
	const salt = saltOf(cover, cell);
	const originX = cell.x * CELL_M;
	const originZ = cell.z * CELL_M;
	const originY = groundHeight(ground, originX + CELL_M / 2, originZ + CELL_M / 2);
	const matrices: number[] = [];
	const variants: number[] = [];
	const tints: number[] = [];
	const names: number[] = [];
	for (let k = 0; k < index.length; k++) {
		const i = index[k];
		const [u, x, z, y] = [from[NUMBERS * k], from[NUMBERS * k + 1], from[NUMBERS * k + 2], from[NUMBERS * k + 3]];
		let weight = from[NUMBERS * k + 4];
		for (const weigh of job.ofPieces) {
			weight *= weigh(x, z);
			if (u >= share * weight) break;
		}
		if (u >= share * weight) continue;
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
