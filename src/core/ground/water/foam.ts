/**
 * Foam on the sea: where its waves break at the shore, about what stands in it, and on the crests that a wind breaks. Told over a fan of
 * places before a lens, as the share of the surface that is white; what it looks like in that share is the picture's.
 */
import type { Ground } from "../../doc/schema.ts";
import { cos, DEG, exp, log, sin, smoothstep } from "../../maths/functions.ts";
import { landHeld } from "../field.ts";
import { groundHeight } from "../height.ts";
import type { Wave } from "../ripples.ts";
import type { LensFootprint } from "../sight.ts";
import { heightOfWaves } from "../waves.ts";

/** Places across the fan and along it. */
const COLUMNS = 384;
const ROWS = 224;
/** Where the fan begins and ends, metres; beyond, foam is too small to be told. */
const FIRST_M = 0.8;
const LAST_M = 1500;
/** Sea lower than this breaks nowhere, metres from trough to crest. */
export const CALM_M = 0.03;
/** Waves break where they are as high as this share of the depth (McCowan 1894). */
const BREAKS = 0.78;
/** Waves that are longer are shapes. */
const SHAPE_M = 0.25;

/** A fan of places: numbers of its columns and rows, its foot, first heading and step (radians), first distance and growth (its logarithm). */
export interface Fan {
	columns: number;
	rows: number;
	x: number;
	z: number;
	firstRad: number;
	stepRad: number;
	firstM: number;
	growth: number;
}

/** What stands in the sea: how far a place lies from it, metres, 0 in it; `most` where it is farther. */
export interface InSea {
	x: number;
	z: number;
	reachM: number;
	farM: (x: number, z: number, most: number) => number;
}

/** Share of the open sea that is white by the speed of the wind at 10 m (Monahan and O'Muircheartaigh 1980). */
export const whitecaps = (windMs: number): number => Math.min(1, 3.84e-6 * exp(3.41 * log(Math.max(1e-3, windMs))));

/** How many standard deviations a normal value is over its mean in a share of cases (Abramowitz and Stegun 1964, 26.2.22). */
export function above(share: number): number {
	const t = Math.sqrt(-2 * log(Math.min(0.5, Math.max(1e-9, share))));
	return t - (2.30753 + 0.27061 * t) / (1 + 0.99229 * t + 0.04481 * t * t);
}

/** Heights of the land under the fan of the last lens: they stay while waves go. */
let known: { ground: Ground; held: number; key: string; heights: Float32Array } | null = null;

function landUnder(ground: Ground, foam: Fan, place: (column: number, row: number) => [number, number]): Float32Array {
	const key = JSON.stringify([foam.x, foam.z, foam.firstRad, foam.stepRad]);
	if (known?.ground === ground && known.held === landHeld() && known.key === key) return known.heights;
	const heights = new Float32Array(foam.columns * foam.rows);
	for (let row = 0; row < foam.rows; row++)
		for (let column = 0; column < foam.columns; column++)
			heights[row * foam.columns + column] = groundHeight(ground, ...place(column, row));
	known = { ground, held: landHeld(), key, heights };
	return heights;
}

/** The fan before a lens. */
export function fanBefore({ x, z, headingDeg, halfFieldDeg }: LensFootprint): Fan {
	const half = Math.min(180, halfFieldDeg) * DEG;
	return {
		columns: COLUMNS,
		rows: ROWS,
		x,
		z,
		firstRad: headingDeg * DEG - half,
		stepRad: (2 * half) / (COLUMNS - 1),
		firstM: FIRST_M,
		growth: log(LAST_M / FIRST_M) / (ROWS - 1),
	};
}

/**
 * Share of the sea that is white at the places of a fan at a moment, 0 to 1, row by row from near to far. `ground` is null where there is
 * none under it.
 * @param sea Its level, the wind (m/s at 10 m), the height of its waves from trough to crest and the waves themselves.
 */
export function foamOf(
	ground: Ground | null,
	sea: { levelM: number; windMs: number; heightM: number; waves: readonly Wave[] },
	standing: readonly InSea[],
	fan: Fan,
): Float32Array {
	const shares = new Float32Array(COLUMNS * ROWS);
	const { x, z } = fan;
	const radii = Array.from({ length: ROWS }, (_, row) => FIRST_M * exp(row * fan.growth));
	const ways = Array.from({ length: COLUMNS }, (_, column) => {
		const heading = fan.firstRad + column * fan.stepRad;
		return [sin(heading), -cos(heading)] as const;
	});
	const place = (column: number, row: number): [number, number] => [
		x + ways[column][0] * radii[row],
		z + ways[column][1] * radii[row],
	];
	const land = ground && landUnder(ground, fan, place);
	const shapes = sea.waves.filter((w) => w.lengthM > SHAPE_M);
	const deviation = sea.heightM / 4;
	const crest = above(whitecaps(sea.windMs));
	const depthM = sea.heightM / BREAKS;
	const around = 0.1 + 0.5 * sea.heightM;
	for (let row = 0; row < ROWS; row++)
		for (let column = 0; column < COLUMNS; column++) {
			const [px, pz] = place(column, row);
			const rises = heightOfWaves(shapes, px, pz);
			const depth = land ? sea.levelM + rises - land[row * COLUMNS + column] : Number.POSITIVE_INFINITY;
			if (depth <= 0) continue;
			const shore = 0.95 * (1 - smoothstep(0.1 * depthM, depthM, depth));
			// Waves that a wind breaks are white at their crests, and a little behind them.
			const over = rises / deviation - crest;
			shares[row * COLUMNS + column] = Math.max(shore, 0.9 * smoothstep(-0.15, 0.5, over));
		}
	for (const thing of standing) whiteAbout(shares, fan, place, thing, around);
	return shares;
}

/** Makes the sea white about what stands in it. */
function whiteAbout(
	shares: Float32Array,
	fan: Fan,
	place: (column: number, row: number) => [number, number],
	{ x, z, reachM, farM }: InSea,
	around: number,
): void {
	const away = Math.sqrt((x - fan.x) * (x - fan.x) + (z - fan.z) * (z - fan.z));
	const reach = reachM + around;
	const rowAt = (far: number) => log(Math.max(fan.firstM, far) / fan.firstM) / fan.growth;
	const last = Math.min(fan.rows - 1, Math.ceil(rowAt(away + reach)));
	for (let row = Math.floor(rowAt(away - reach)); row <= last; row++)
		for (let column = 0; column < fan.columns; column++) {
			const [px, pz] = place(column, row);
			if ((px - x) * (px - x) + (pz - z) * (pz - z) > reach * reach) continue;
			const at = row * fan.columns + column;
			shares[at] = Math.max(shares[at], 0.9 * (1 - smoothstep(0, around, farM(px, pz, around))));
		}
}
