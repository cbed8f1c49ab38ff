import type { LandEntry } from "../../../doc/schema.ts";
import { atan, clamp, DEG, smoothstep, tan } from "../../../maths/functions.ts";
import { hash01 } from "../../../maths/hash.ts";
import { fractal2, noise2 } from "../../../maths/noise.ts";
import type { LandMaker } from "../entry.ts";
import { risesOver } from "../lattice.ts";

/** Degrees in which land goes over from a slope into a wall. */
const FEATHER_DEG = 12;
/** The part of a ledge, from its foot up, in which it goes over from the one below: what hangs over is its underside. */
const UNDERSIDE = 0.3;
/** Lengths along a wall, in ledges: on which ledges rise and fall, and on which their edges stray. */
const UNEVEN = 5;
const STRAYS = 2.2;
/** The look by which a wall is told, as a part of what it is pushed, and the least. */
const NEAR = 8;
const NEAREST_M = 0.15;
/** Edges of a mesh for a ledge. */
const EDGES = 7;

/**
 * Walls whose hard ledges stand out over the soft ones below them. A field of heights cannot hang over: what is steep is pushed
 * aside, away from the wall, by height and place.
 */
export const overhang: LandMaker<Extract<LandEntry, { kind: "overhang" }>> = {
	usual: () => ({ kind: "overhang", seed: 1, outM: 2.5, everyM: 4, fromDeg: 50, ragged: 0.5 }),
	act: "Hang over",
	by: "rock",
	sentence: ({ outM, fromDeg }) => `walls steeper than ${fromDeg.toFixed(0)}° hang over by up to ${outM.toFixed(1)} m`,
	fields: [
		{
			label: "Stands out",
			value: "outM",
			unit: "m",
			min: 0.05,
			max: 40,
			step: 0.1,
			digits: 1,
			ruled: true,
			logarithmic: true,
		},
		{
			label: "Ledges of",
			value: "everyM",
			unit: "m",
			min: 0.1,
			max: 50,
			step: 0.1,
			digits: 1,
			ruled: true,
			logarithmic: true,
		},
		{ label: "Ragged", value: "ragged", unit: "%", min: 0, max: 100, step: 5, digits: 0, times: 100, ruled: true },
		{ label: "Walls from", value: "fromDeg", unit: "°", min: 15, max: 85, step: 1, digits: 0 },
		{ label: "Seed", value: "seed", unit: "", min: 0, max: 99999, step: 1, digits: 0, whole: true },
	],
	made: () => (before) => before,
	pushes: ({ seed, outM, everyM, fromDeg, ragged }, land, weight) => {
		// Where it is a wall is told from near by, where the wall faces from as far as it is pushed.
		const near = clamp(outM / NEAR, NEAREST_M, 1);
		const rises = risesOver(land, outM);
		const least = tan((fromDeg - FEATHER_DEG) * DEG);
		const hard = (k: number, x: number, z: number) => {
			// Nearly in steps: rock breaks along joints.
			const strays = clamp(4 * fractal2(x / (STRAYS * everyM) + 7.3 * k, z / (STRAYS * everyM), seed + 760, 4), -1, 1);
			return clamp(hash01(k ^ (seed * 7919), 11) + 0.5 * ragged * strays, 0, 1);
		};
		return {
			least,
			at: (x, y, z) => {
				const { dx, dz } = rises(x, z);
				const fall = Math.sqrt(dx * dx + dz * dz);
				if (fall === 0) return null;
				const [toX, toZ] = [-dx / fall, -dz / fall];
				// By how it falls before it: the floor before a wall stays.
				const steep = (y - land(x + toX * near, z + toZ * near)) / near;
				if (steep <= least) return null;
				const wall = smoothstep(fromDeg - FEATHER_DEG, fromDeg, atan(steep) / DEG) * (weight?.(x, z) ?? 1);
				if (wall === 0) return null;
				const across = UNEVEN * everyM;
				const thick = y / everyM + 0.8 * fractal2(x / across, z / across, seed + 750, 3);
				const v = thick + 0.45 * noise2(0.8 * thick, 0.5, seed + 770);
				const ledge = Math.floor(v);
				const up = smoothstep(0, UNDERSIDE, v - ledge);
				const out = outM * wall * (hard(ledge - 1, x, z) * (1 - up) + hard(ledge, x, z) * up);
				return { x: toX * out, z: toZ * out };
			},
			grain: (x, z) => (weight?.(x, z) === 0 ? Number.POSITIVE_INFINITY : everyM / EDGES),
		};
	},
};
