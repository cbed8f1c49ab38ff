/** Numbers that are known of places of the land, whatever their height: how far a path is, how much rain comes by. */
import { log } from "../maths/functions.ts";
import type { Vec3 } from "../maths/vec.ts";
import { BRICK_BYTES, BRICK_CELLS, BRICK_SAMPLES, type Brick, packVolume, type Volume } from "./volume.ts";

/** A square of the land, metres. */
export interface Over {
	x: number;
	z: number;
	withinM: number;
}

export interface Columns {
	/** What is known of a place, 0 to 1. */
	valueAt: (x: number, z: number) => number;
	heightAt: (x: number, z: number) => number;
	/** Whether something is to be known within a radius about a place. */
	within: (x: number, z: number, radiusM: number) => boolean;
	over: Over;
	cellM: number;
}

/** Bricks reach so far over the land and below it, metres: what stands on it has some of it on its foot. */
const OVER_M = 1.5;
const BELOW_M = 0.5;
const MOST_BRICKS = 20_000;

/** The most square metres that rain is told from. */
const MOST_M2 = 1e7;
/** Square metres from which water comes, as a share of the most in logarithms: 0 at one. */
export const rainShare = (squareM: number): number => Math.min(1, Math.max(0, log(squareM) / log(MOST_M2)));

/** Columns of bricks that touch the land; coarser where there would be too many. */
export function columnsVolume(columns: Columns, anchor: Vec3): Volume {
	const { valueAt, heightAt, within, over, cellM } = columns;
	const side = cellM * BRICK_CELLS;
	const [ax, ay, az] = anchor;
	const first = [over.x - ax, over.z - az].map((v) => Math.floor((v - over.withinM) / side));
	const last = [over.x - ax, over.z - az].map((v) => Math.floor((v + over.withinM) / side));
	const bricks: Brick[] = [];
	const values = new Uint8Array(BRICK_SAMPLES ** 2);
	for (let k = first[1]; k <= last[1]; k++)
		for (let i = first[0]; i <= last[0]; i++) {
			const [x0, z0] = [ax + i * side, az + k * side];
			if (!within(x0 + side / 2, z0 + side / 2, side * Math.SQRT1_2)) continue;
			let [low, high] = [Infinity, -Infinity];
			for (let c = 0; c < BRICK_SAMPLES; c++)
				for (let a = 0; a < BRICK_SAMPLES; a++) {
					const [x, z] = [x0 + a * cellM, z0 + c * cellM];
					values[c * BRICK_SAMPLES + a] = Math.round(255 * Math.min(1, Math.max(0, valueAt(x, z))));
					const height = heightAt(x, z);
					low = Math.min(low, height);
					high = Math.max(high, height);
				}
			const samples = new Uint8Array(BRICK_BYTES);
			for (let c = 0; c < BRICK_SAMPLES; c++)
				for (let b = 0; b < BRICK_SAMPLES; b++)
					samples.set(
						values.subarray(c * BRICK_SAMPLES, (c + 1) * BRICK_SAMPLES),
						(c * BRICK_SAMPLES + b) * BRICK_SAMPLES,
					);
			const [from, to] = [low - BELOW_M, high + OVER_M].map((y) => Math.floor((y - ay) / side));
			for (let j = from; j <= to; j++) bricks.push({ at: [i, j, k], samples });
			if (bricks.length > MOST_BRICKS) return columnsVolume({ ...columns, cellM: 2 * cellM }, anchor);
		}
	return packVolume(cellM, anchor, bricks);
}

/** Cells in the size of a hollow that land is looked at for, and from how many sizes about its middle a square tells them. */
const CELLS_IN_SIZE = 4;
export const HOLLOWS_REACH = 50;
/** Cells about a place by whose mean heights it is told: two rings, as far as half the size. */
const AROUND = [
	[1, 0],
	[-1, 0],
	[0, 1],
	[0, -1],
	[2, 0],
	[-2, 0],
	[0, 2],
	[0, -2],
	[1, 1],
	[1, -1],
	[-1, 1],
	[-1, -1],
] as const;

/**
 * How full a ball of a size about a place of the land is: half of it where that is level or slopes evenly, more in a hollow, as bodies have it
 * (`hollow.ts`). What lies over a place by h in the mean of a ball of radius r fills ¾ h / r more of it. Heights are asked once a cell.
 */
export function hollowsOfLand(
	heightAt: Columns["heightAt"],
	{ x, z, withinM }: Over,
	sizeM: number,
	anchor: Vec3,
): Pick<Columns, "valueAt" | "cellM"> {
	const cellM = sizeM / CELLS_IN_SIZE;
	// A brick more on every side, and the rings about it.
	const pad = BRICK_CELLS + 3;
	const from = [x - withinM - anchor[0], z - withinM - anchor[2]].map((v) => Math.floor(v / cellM) - pad);
	const side = Math.ceil((2 * withinM) / cellM) + 2 * pad + 1;
	const heights = new Float32Array(side * side);
	for (let k = 0; k < side; k++)
		for (let i = 0; i < side; i++)
			heights[k * side + i] = heightAt(anchor[0] + (from[0] + i) * cellM, anchor[2] + (from[1] + k) * cellM);
	const valueAt = (px: number, pz: number) => {
		const i = Math.round((px - anchor[0]) / cellM) - from[0];
		const k = Math.round((pz - anchor[2]) / cellM) - from[1];
		if (i < 2 || k < 2 || i >= side - 2 || k >= side - 2) return 0.5;
		let sum = 0;
		for (const [di, dk] of AROUND) sum += heights[(k + dk) * side + i + di];
		return 0.5 + (0.75 * (sum / AROUND.length - heights[k * side + i])) / (sizeM / 2);
	};
	return { valueAt, cellM };
}
