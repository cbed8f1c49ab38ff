/** Ponds: hollows of the land about a place, with water in them. */
import type { Land, Step } from "../ledger/entry.ts";
import { surfaceMesh, type WaterBody } from "./body.ts";
import { hollowsOf } from "./hollows.ts";

export interface PondsOf {
	x: number;
	z: number;
	radiusM: number;
	/** Cells of a side of the square about it. */
	cells: number;
	/** Shallower hollows stay dry. */
	leastM: number;
	/** How far each is filled: 1 is to its rim. */
	share: number;
}

/** Ponds at most; smaller ones than these stay dry. */
const MOST = 200;
/** Cells beyond the shore in which its level is known all the same. */
const BEYOND = 3;

/** @param weight How far they hold at a place. */
export function pondsIn(
	{ x: ox, z: oz, radiusM, cells: side, leastM, share }: PondsOf,
	land: Land,
	weight: Step | null,
): WaterBody {
	const step = (2 * radiusM) / (side - 1);
	const place = (cell: number): [number, number] => [
		ox - radiusM + (cell % side) * step,
		oz - radiusM + Math.floor(cell / side) * step,
	];
	const heights = new Float32Array(side * side);
	for (let cell = 0; cell < heights.length; cell++) heights[cell] = land(...place(cell));
	const ponds = hollowsOf(heights, side, leastM)
		.filter(({ deepest }) => {
			const [x, z] = place(deepest);
			if ((x - ox) ** 2 + (z - oz) ** 2 > radiusM * radiusM) return false;
			return !weight || weight(heights[deepest], x, z) >= 0.5;
		})
		.slice(0, MOST);
	// The level of each cell under water, and of those about it.
	const levels = new Float32Array(side * side).fill(Number.NaN);
	const positions: number[] = [];
	const indices: number[] = [];
	let [largest, deepest] = [0, 0];
	for (const { cells, rimM, deepM } of ponds) {
		const level = rimM - (1 - share) * deepM;
		const wet = cells.filter((cell) => heights[cell] < level);
		if (wet.length > largest) [largest, deepest] = [wet.length, level - (rimM - deepM)];
		for (const cell of wet) levels[cell] = level;
		addSurface(wet, level);
	}
	spreadLevels(levels, side, BEYOND);
	const across = Math.round(2 * Math.sqrt((largest * step * step) / Math.PI));
	const many = ponds.length === 1 ? "One pond" : `${ponds.length} ponds`;
	return {
		mesh: surfaceMesh(positions, indices),
		x: ox,
		z: oz,
		levelAt: (x, z) => {
			const [u, v] = [(x - ox + radiusM) / step, (z - oz + radiusM) / step];
			const [i, j] = [Math.round(u), Math.round(v)];
			if (!(i >= 0 && j >= 0 && i < side && j < side)) return null;
			const level = levels[j * side + i];
			return Number.isNaN(level) ? null : level;
		},
		told:
			ponds.length === 0
				? `No hollow here is ${leastM.toFixed(2)} m deep: dig one, or lower the land by hand.`
				: `${many}, ${ponds.length === 1 ? "" : "the largest "}about ${across} m across and ${deepest.toFixed(1)} m deep.`,
	};

	/**
	 * Squares one of whose corners is under water, and those about them whose corners all lie above its level: its edge is in the land
	 * on all sides, also between the places that were looked at.
	 */
	function addSurface(wet: Int32Array, level: number): void {
		const corner = new Map<number, number>();
		const squares = new Set<number>();
		const near = (cell: number, reach: number): number[] => {
			const [i, j] = [cell % side, Math.floor(cell / side)];
			const found: number[] = [];
			for (let b = Math.max(0, j - reach); b <= Math.min(side - 2, j + reach - 1); b++)
				for (let a = Math.max(0, i - reach); a <= Math.min(side - 2, i + reach - 1); a++) found.push(b * side + a);
			return found;
		};
		const corners = (square: number) => [square, square + 1, square + side + 1, square + side];
		for (const cell of wet) for (const square of near(cell, 1)) squares.add(square);
		const inner = [...squares];
		for (const square of inner)
			for (const cell of corners(square))
				for (const beside of near(cell, 1))
					if (!squares.has(beside) && corners(beside).every((c) => heights[c] >= level)) squares.add(beside);
		const at = (cell: number): number => {
			const known = corner.get(cell);
			if (known !== undefined) return known;
			const [x, z] = place(cell);
			corner.set(cell, positions.length / 3);
			positions.push(x - ox, level, z - oz);
			return positions.length / 3 - 1;
		};
		for (const square of squares) {
			const [a, b, c, d] = corners(square).map(at);
			indices.push(a, d, b, b, d, c);
		}
	}
}

/** Takes known levels over to cells about them. */
function spreadLevels(levels: Float32Array, side: number, rounds: number): void {
	let edge: number[] = [];
	for (let cell = 0; cell < levels.length; cell++) if (!Number.isNaN(levels[cell])) edge.push(cell);
	for (let round = 0; round < rounds; round++) {
		const next: number[] = [];
		for (const cell of edge) {
			const [i, j] = [cell % side, Math.floor(cell / side)];
			for (const [a, b] of [
				[i - 1, j],
				[i + 1, j],
				[i, j - 1],
				[i, j + 1],
			]) {
				if (a < 0 || b < 0 || a >= side || b >= side || !Number.isNaN(levels[b * side + a])) continue;
				levels[b * side + a] = levels[cell];
				next.push(b * side + a);
			}
		}
		edge = next;
	}
}
