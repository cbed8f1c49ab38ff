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
import type { Camera, Cover, Ground, Rule, Water } from "../doc/schema.ts";
import { groundHeight, groundSlope } from "../ground/height.ts";
import { frameOfView, project } from "../lens/camera.ts";
import { atan, cos, DEG, sin, smoothstep, TAU } from "../maths/functions.ts";
import { hash01, hash32, keyOf } from "../maths/hash.ts";
import { fractal2 } from "../maths/noise.ts";
import { distanceTo, type Footprint } from "./footprints.ts";
import { speciesLimit, VARIANTS } from "./grow.ts";

export const CELL_M = 16;
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
	cellX: number;
	cellZ: number;
	/** Rules that do anything in this cell. */
	rules: Rule[];
	near: Footprint[];
}

interface Surroundings {
	cover: Cover;
	camera: Camera;
	ground: Ground;
	water: Water;
	footprints: readonly Footprint[];
}

type Reach = "all" | "none" | "some";

/** Cells that may hold plants of a cover, with what reaches into each and a key of exactly that. */
export function coverCells({ cover, camera, ground, water, footprints }: Surroundings): CellJob[] {
	const rules = cover.rules.filter((r) => !r.out);
	const lens = rules.filter((r) => r.kind === "near the lens");
	const far = Math.min(FARTHEST_M * 8, ...(lens.length ? lens.map((r) => r.distanceM + r.featherM) : [FARTHEST_M]));
	const [lx, , lz] = camera.position;
	const jobs: CellJob[] = [];
	const c0x = Math.floor((lx - far) / CELL_M);
	const c1x = Math.floor((lx + far) / CELL_M);
	const c0z = Math.floor((lz - far) / CELL_M);
	const c1z = Math.floor((lz + far) / CELL_M);
	const { densityPerM2, sizeM, seed, colour, species } = cover;
	for (let cz = c0z; cz <= c1z; cz++) {
		for (let cx = c0x; cx <= c1x; cx++) {
			const nearest = Math.hypot(gap(lx, cx * CELL_M), gap(lz, cz * CELL_M));
			if (nearest > far) continue;
			const active: Rule[] = [];
			const made: unknown[] = [];
			let empty = false;
			let reaching: Footprint[] = [];
			for (const rule of rules) {
				const reach = reachOf(rule, camera, ground, cx, cz);
				if (reach === "none") empty = true;
				if (reach !== "some") continue;
				if (rule.kind === "away from pieces") {
					const near = footprints.filter(
						(f) => Math.hypot(gap(f.x, cx * CELL_M), gap(f.z, cz * CELL_M)) <= f.reach + rule.widthM + rule.featherM,
					);
					if (near.length === 0) continue;
					reaching = near.length > reaching.length ? near : reaching;
				}
				active.push(rule);
				made.push(rule);
				if (rule.kind === "in view")
					made.push(
						camera.position,
						camera.headingDeg,
						camera.pitchDeg,
						camera.rollDeg,
						camera.film,
						camera.ratio,
						camera.focalMm,
					);
				if (rule.kind === "near the lens") made.push(lx, lz);
				if (rule.kind === "above water") made.push(water.on, water.levelM);
			}
			if (empty) continue;
			jobs.push({
				key: keyOf("plants", species, densityPerM2, sizeM, seed, colour, ground, cx, cz, made, reaching),
				cellX: cx,
				cellZ: cz,
				rules: active,
				near: reaching,
			});
		}
	}
	return jobs;
}

/** Distance on one axis from a value to the cell that starts at `start`, 0 inside. */
const gap = (v: number, start: number): number => Math.max(start - v, v - start - CELL_M, 0);

function reachOf(rule: Rule, camera: Camera, ground: Ground, cx: number, cz: number): Reach {
	if (rule.kind === "near the lens") {
		const [lx, , lz] = camera.position;
		const fx = Math.max(Math.abs(lx - cx * CELL_M), Math.abs(lx - (cx + 1) * CELL_M));
		const fz = Math.max(Math.abs(lz - cz * CELL_M), Math.abs(lz - (cz + 1) * CELL_M));
		return Math.hypot(fx, fz) <= rule.distanceM - rule.featherM ? "all" : "some";
	}
	if (rule.kind === "in view") return cellInView(rule.marginPercent, camera, ground, cx, cz);
	return "some";
}

/** Whether a cell lies inside, outside or across the frame, by the corners of a box about its ground. */
function cellInView(marginPercent: number, camera: Camera, ground: Ground, cx: number, cz: number): Reach {
	const view = frameOfView(camera);
	const m = marginPercent / 100;
	let low = Infinity;
	let high = -Infinity;
	for (let j = 0; j <= 2; j++)
		for (let i = 0; i <= 2; i++) {
			const y = groundHeight(ground, (cx + i / 2) * CELL_M, (cz + j / 2) * CELL_M);
			low = Math.min(low, y);
			high = Math.max(high, y);
		}
	let inside = 0;
	const out = [0, 0, 0, 0, 0];
	for (let k = 0; k < 8; k++) {
		const p = project(view, [(cx + (k & 1)) * CELL_M, k & 4 ? high + 2 : low - 2, (cz + ((k >> 1) & 1)) * CELL_M]);
		if (p.depthM <= 0.01) {
			out[4]++;
			continue;
		}
		if (p.x < -m) out[0]++;
		else if (p.x > 1 + m) out[1]++;
		if (p.y < -m) out[2]++;
		else if (p.y > 1 + m) out[3]++;
		if (p.x >= -m && p.x <= 1 + m && p.y >= -m && p.y <= 1 + m) inside++;
	}
	if (inside === 8) return "all";
	return out.some((n) => n === 8) ? "none" : "some";
}

/** The plants that stand in a cell. */
export function placeCell(job: CellJob, { cover, camera, ground, water }: Surroundings): CellPlants {
	const limit = speciesLimit(cover.species);
	const most = limit * CELL_M * CELL_M;
	const share = Math.min(1, cover.densityPerM2 / limit);
	const count = Math.ceil(most * share);
	const view = frameOfView(camera);
	const originX = job.cellX * CELL_M;
	const originZ = job.cellZ * CELL_M;
	const originY = groundHeight(ground, originX + CELL_M / 2, originZ + CELL_M / 2);
	const salt = hash32(cover.seed ^ hash32(job.cellX ^ hash32(job.cellZ)));
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
		for (const rule of job.rules) {
			weight *= ruleWeight(rule, x, z, { view, camera, ground, water, near: job.near, seed: cover.seed });
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

interface Place {
	view: ReturnType<typeof frameOfView>;
	camera: Camera;
	ground: Ground;
	water: Water;
	near: readonly Footprint[];
	seed: number;
}

/** Weight of one rule at a place, 0 to 1. */
function ruleWeight(rule: Rule, x: number, z: number, at: Place): number {
	switch (rule.kind) {
		case "near the lens": {
			const d = Math.hypot(x - at.camera.position[0], z - at.camera.position[2]);
			return 1 - smoothstep(rule.distanceM - rule.featherM, rule.distanceM + rule.featherM, d);
		}
		case "in view": {
			const m = rule.marginPercent / 100;
			const y = groundHeight(at.ground, x, z);
			const foot = project(at.view, [x, y, z]);
			const head = project(at.view, [x, y + 0.5, z]);
			if (foot.depthM <= 0.05) return 0;
			return foot.x >= -m && foot.x <= 1 + m && head.y <= 1 + m && foot.y >= -m ? 1 : 0;
		}
		case "away from pieces": {
			let nearest = Infinity;
			for (const f of at.near) nearest = Math.min(nearest, distanceTo(f, x, z));
			return rule.featherM > 0
				? smoothstep(rule.widthM, rule.widthM + rule.featherM, nearest)
				: nearest > rule.widthM
					? 1
					: 0;
		}
		case "slope": {
			const s = groundSlope(at.ground, x, z);
			const slopeDeg = atan(Math.hypot(s.dx, s.dz)) / DEG;
			return 1 - smoothstep(rule.maxDeg, rule.maxDeg + Math.max(0.01, rule.featherDeg), slopeDeg);
		}
		case "above water": {
			if (!at.water.on) return 1;
			const over = groundHeight(at.ground, x, z) - at.water.levelM;
			return smoothstep(rule.marginM, rule.marginM + Math.max(1e-4, rule.featherM), over);
		}
		case "patches": {
			const n = 0.5 + 0.5 * fractal2(x / rule.sizeM, z / rule.sizeM, at.seed + 400, 3);
			const edge = 1 - rule.share;
			const soft = 0.02 + 0.3 * rule.featherM;
			return smoothstep(edge - soft, edge + soft, 0.5 + (n - 0.5) * 2.2);
		}
	}
}
