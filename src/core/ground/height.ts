/** Height of the ground at a place, metres, as a pure function of preset, seed and height. */
import type { Ground } from "../doc/schema.ts";
import { clamp, smoothstep } from "../maths/functions.ts";
import { fractal2, noise2, ridged2 } from "../maths/noise.ts";

/** Where the tablelands of the salt flat begin and where they stand in full, metres from the middle of the place. */
const TABLELAND = [3800, 6200] as const;

function saltFlat(x: number, z: number, seed: number, heightM: number): number {
	let y = 0.035 * fractal2(x / 19, z / 19, seed, 3) + 0.012 * noise2(x / 1.7, z / 1.7, seed + 3) - 0.02;
	const r = Math.sqrt(x * x + z * z);
	if (heightM > 0 && r > TABLELAND[0]) {
		const rise = smoothstep(TABLELAND[0], TABLELAND[1], r);
		const broad = 0.5 + 0.5 * fractal2(x / 4200, z / 4200, seed + 11, 4, 0.5);
		const table = smoothstep(0.46, 0.53, broad) * 0.62 + smoothstep(0.57, 0.62, broad) * 0.38;
		const apron = smoothstep(0.3, 0.52, broad) * 0.16;
		const cut = 0.06 * fractal2(x / 520, z / 520, seed + 23, 4) + 0.02 * noise2(x / 130, z / 130, seed + 29);
		y += heightM * rise * Math.max(0, table + apron + cut * (0.25 + table));
	}
	return y;
}

function plain(x: number, z: number, seed: number, heightM: number): number {
	return (
		heightM * fractal2(x / 140, z / 140, seed, 4, 0.45) +
		0.02 * Math.min(1, heightM) * noise2(x / 2.3, z / 2.3, seed + 5)
	);
}

function ridges(x: number, z: number, seed: number, heightM: number): number {
	const r = Math.sqrt(x * x + z * z);
	const away = smoothstep(30, 700, r);
	const crest = ridged2(x / 900, z / 900, seed, 7, 0.48);
	const swell = fractal2(x / 160, z / 160, seed + 31, 4, 0.5);
	return heightM * (away * clamp(crest * 1.25 - 0.35, 0, 1) + 0.02 * swell * (1 - 0.6 * away));
}

/**
 * Height of the ground at (x, z), metres. Deterministic on every engine.
 * Presets: *salt flat*, level with tablelands `heightM` tall far off; *plain*, swells of `heightM`; *ridges*, crests of
 * `heightM` that keep clear of the middle.
 */
export function groundHeight(ground: Ground, x: number, z: number): number {
	if (ground.preset === "salt flat") return saltFlat(x, z, ground.seed, ground.heightM);
	if (ground.preset === "plain") return ground.heightM === 0 ? 0 : plain(x, z, ground.seed, ground.heightM);
	return ground.heightM === 0 ? 0 : ridges(x, z, ground.seed, ground.heightM);
}

/** Slope of the ground in degrees over a reach of half a metre. */
export function groundSlope(ground: Ground, x: number, z: number): { dx: number; dz: number } {
	const e = 0.25;
	return {
		dx: (groundHeight(ground, x + e, z) - groundHeight(ground, x - e, z)) / (2 * e),
		dz: (groundHeight(ground, x, z + e) - groundHeight(ground, x, z - e)) / (2 * e),
	};
}
