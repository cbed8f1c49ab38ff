/**
 * Ground that rises to meet what stands on it, as a skirt of its own over the land: nothing of the land's mesh has to be made anew while a
 * piece is dragged. It is highest at the body, falls off ever more gently to its width, and goes on under the body; at its rim it dips
 * under the land, which is of the same surface there.
 */
import type { Bank } from "../doc/schema.ts";
import { type Mesh, tintByte } from "../maths/mesh.ts";
import { noise2 } from "../maths/noise.ts";
import { BRICK_CELLS, brickKey, brickOf, bricksIn, type Volume, volumeAt } from "../volume/volume.ts";
import { accumulateNormals } from "./meshForLens.ts";

export interface BankedLand {
	heightAt: (x: number, z: number) => number;
	/** Colour (linear) and wetness of the land. */
	tintAt: (
		x: number,
		y: number,
		z: number,
		steep: number,
	) => { colour: readonly [number, number, number]; wet: number };
}

/** Corners in a cell of the volume of distances. */
const FINER = 2;
/** Metres by which the rim lies under the land. */
const DIPS_M = 0.004;
/** Share by which it is higher here and lower there, and how far it is from one to the other, in widths. */
const UNEVEN = 0.35;
const SWELLS = 1.7;

/**
 * The skirt about a body, its corners counted from `foot` in plan. `distances` tells in shares of `reachM` how far the body is, on the land.
 */
export function bankMesh(
	{ riseM, widthM }: Bank,
	distances: Volume,
	reachM: number,
	land: BankedLand,
	foot: readonly [number, number],
): Mesh {
	const { cellM, anchor } = distances;
	const step = cellM / FINER;
	const columns = new Set(bricksIn(distances).map(([i, , k]) => brickKey(i, 0, k)));
	const heights = new Map<number, number>();
	const heightAt = (i: number, k: number): number => {
		const key = brickKey(i, 0, k);
		const known = heights.get(key);
		if (known !== undefined) return known;
		const h = land.heightAt(anchor[0] + i * step, anchor[2] + k * step);
		heights.set(key, h);
		return h;
	};
	const shares = new Map<number, number>();
	/** How far a corner is from the body, in widths. */
	const shareAt = (i: number, k: number): number => {
		const key = brickKey(i, 0, k);
		const known = shares.get(key);
		if (known !== undefined) return known;
		const [x, z] = [anchor[0] + i * step, anchor[2] + k * step];
		const share = (reachM * volumeAt(distances, [x, heightAt(i, k), z], 1)) / widthM;
		shares.set(key, share);
		return share;
	};
	const places = new Map<number, number>();
	const corners: number[] = [];
	const tints: number[] = [];
	const corner = (i: number, k: number): number => {
		const key = brickKey(i, 0, k);
		const known = places.get(key);
		if (known !== undefined) return known;
		const [x, z] = [anchor[0] + i * step, anchor[2] + k * step];
		const [h, share] = [heightAt(i, k), shareAt(i, k)];
		const left = Math.max(0, 1 - share);
		const swell = 1 + UNEVEN * noise2(x / (SWELLS * widthM), z / (SWELLS * widthM), 17);
		const slope = Math.hypot(heightAt(i + 1, k) - h, heightAt(i, k + 1) - h) / step;
		const { colour, wet } = land.tintAt(x, h, z, slope / Math.hypot(1, slope));
		const y = h + riseM * swell * left * left - DIPS_M * Math.min(1, share);
		const n = corners.push(x - foot[0], y, z - foot[1]) / 3 - 1;
		tints.push(...colour.map(tintByte), Math.round(wet * 255));
		places.set(key, n);
		return n;
	};
	const triangles: number[] = [];
	const wide = BRICK_CELLS * FINER;
	for (const key of columns) {
		const [bi, , bk] = brickOf(key);
		for (let k = bk * wide; k < (bk + 1) * wide; k++)
			for (let i = bi * wide; i < (bi + 1) * wide; i++) {
				if (Math.min(shareAt(i, k), shareAt(i + 1, k), shareAt(i, k + 1), shareAt(i + 1, k + 1)) >= 1) continue;
				const [a, b, c, d] = [corner(i, k), corner(i + 1, k), corner(i, k + 1), corner(i + 1, k + 1)];
				triangles.push(a, c, b, b, c, d);
			}
	}
	const indices = Uint32Array.from(triangles);
	const positions = Float32Array.from(corners);
	const colours = Uint8Array.from(tints);
	const normals = new Float32Array(positions.length);
	accumulateNormals(positions, indices, normals);
	return { positions, normals, indices, colours };
}
