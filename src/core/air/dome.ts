/**
 * The sky as everything reads it: table of the clear sky about the sun, tile of the cloud, sun's disc, and the grid by
 * which directions towards the sky are chosen. The same formulas stand in the tracer's kernel (`sky.ts`) and in the
 * working view's shader; tests hold them together.
 */
import { luminance } from "../colour/linear.ts";
import type { Air } from "../doc/schema.ts";
import { asin, atan2, cos, DEG, pow, sin } from "../maths/functions.ts";
import type { Vec3 } from "../maths/vec.ts";
import { dot } from "../maths/vec.ts";
import type { AtmosphereTables } from "./atmosphere.ts";
import { airExtinction, SUN_LUX, skyTable, sunTransmittance } from "./atmosphere.ts";
import { CLOUD_HEIGHT_KM, cloudDepth, cloudOpacity, cloudPhase } from "./cloud.ts";

export const SKY_WIDTH = 64;
export const SKY_HEIGHT = 96;
export const GRID_WIDTH = 128;
export const GRID_HEIGHT = 48;
/** Angular radius of the sun's disc, radians. */
export const SUN_RADIUS = 0.2665 * DEG;

export interface Dome {
	/** Where the disc stands. */
	sunDirection: Vec3;
	/** Where the light comes from that the sky's table is made for. */
	skyDirection: Vec3;
	/** Illuminance of the disc (the sun, or the moon by night) on a surface that faces it, lux as RGB. */
	sunLux: Vec3;
	/** Light of the sun at the cloud layer, lux as RGB, and the layer's own ambient luminance. */
	cloudSun: Vec3;
	cloudAmbient: Vec3;
	airPerM: Vec3;
	sky: Float32Array;
	cloud: Float32Array;
}

export function sunDirection(sun: Air["sun"]): Vec3 {
	const e = sun.elevationDeg * DEG;
	const h = sun.headingDeg * DEG;
	return [sin(h) * cos(e), sin(e), -cos(h) * cos(e)];
}

/** Illuminance of a full moon outside the air, lux, and the colour of its light. */
const MOON_LUX = 0.32;
const MOON_COLOUR: Vec3 = [1.06, 1, 0.88];
/** Heights of the sun in degrees below which the moon is the disc, and below which the sky is lit by it alone. */
const MOON_SHOWS = -1;
const MOON_SKY = -11;

export interface OutsideLight {
	/** What lights the sky, and its light as a share of the sun's. */
	sky: Air["sun"];
	share: number;
	/** What stands in it as a disc, and its illuminance outside the air. */
	disc: Air["sun"];
	lux: Vec3;
}

/**
 * Where light from outside comes from: the sun; by night the moon. In dusk the moon is the disc in a sky that the sun still
 * lights. A moon that is lit in part gives less than that part (about as its third power: half a moon a tenth).
 */
export function outsideLight({ sun, moon }: Pick<Air, "sun" | "moon">): OutsideLight {
	if (!moon?.on || sun.elevationDeg > MOON_SHOWS)
		return { sky: sun, share: 1, disc: sun, lux: [SUN_LUX, SUN_LUX, SUN_LUX] };
	const k = MOON_LUX * pow(moon.lit, 3.2);
	const disc = { headingDeg: moon.headingDeg, elevationDeg: moon.elevationDeg };
	const lux: Vec3 = [k * MOON_COLOUR[0], k * MOON_COLOUR[1], k * MOON_COLOUR[2]];
	return sun.elevationDeg > MOON_SKY ? { sky: sun, share: 1, disc, lux } : { sky: disc, share: k / SUN_LUX, disc, lux };
}

/** Direct parts of the dome. `sky` and `cloud` are the tables for this sun's elevation, haze and cloud. */
export function makeDome(air: Air, tables: AtmosphereTables, sky: Float32Array, cloud: Float32Array): Dome {
	const outside = outsideLight(air);
	const direction = sunDirection(outside.disc);
	const elevation = outside.disc.elevationDeg * DEG;
	const t = sunTransmittance(tables, elevation);
	const behind = 1 - cloudOpacity(cloudDepth(cloud, direction[0], Math.max(direction[1], 0.006), direction[2]));
	const high = sunTransmittance(tables, outside.sky.elevationDeg * DEG, CLOUD_HEIGHT_KM);
	const mean = meanSky(sky);
	const lux = (v: readonly number[], k: number): Vec3 => [v[0] * k, v[1] * k, v[2] * k];
	return {
		skyDirection: sunDirection(outside.sky),
		sunDirection: direction,
		sunLux: [t[0] * outside.lux[0] * behind, t[1] * outside.lux[1] * behind, t[2] * outside.lux[2] * behind],
		cloudSun: lux(high, SUN_LUX * outside.share),
		cloudAmbient: lux(mean, 0.75),
		airPerM: airExtinction(air.haze),
		sky,
		cloud,
	};
}

export function skyFor(tables: AtmosphereTables, elevationDeg: number, share = 1): Float32Array {
	const table = skyTable(tables, elevationDeg * DEG, SKY_WIDTH, SKY_HEIGHT);
	return share === 1 ? table : table.map((v) => v * share);
}

function meanSky(sky: Float32Array): Vec3 {
	const sum = [0, 0, 0];
	let weight = 0;
	for (let j = 0; j < SKY_HEIGHT; j++) {
		const v = j / (SKY_HEIGHT - 1);
		const w = v * cos(v * v * 0.5 * Math.PI);
		for (let i = 0; i < SKY_WIDTH; i++) for (let c = 0; c < 3; c++) sum[c] += w * sky[(j * SKY_WIDTH + i) * 3 + c];
		weight += w * SKY_WIDTH;
	}
	return [sum[0] / weight, sum[1] / weight, sum[2] / weight];
}

/** Luminance of the clear sky and cloud in a direction, without the sun's disc, cd/m² as RGB. Below the horizon it is the horizon's. */
export function skyLuminance(dome: Dome, d: Vec3): [number, number, number] {
	const s = dome.skyDirection;
	const v = Math.sqrt(Math.max(0, asin(d[1]) / (0.5 * Math.PI))) * (SKY_HEIGHT - 1);
	const turn = Math.abs(atan2(d[0] * s[2] - d[2] * s[0], d[0] * s[0] + d[2] * s[2]));
	const u = (turn / Math.PI) * (SKY_WIDTH - 1);
	const x0 = Math.min(SKY_WIDTH - 2, Math.floor(u));
	const y0 = Math.min(SKY_HEIGHT - 2, Math.floor(v));
	const fx = u - x0;
	const fy = v - y0;
	const at = (y0 * SKY_WIDTH + x0) * 3;
	const row = SKY_WIDTH * 3;
	const depth = cloudDepth(dome.cloud, d[0], d[1], d[2]);
	const opacity = cloudOpacity(depth);
	const phase = opacity > 0 ? cloudPhase(dot(d, s)) : 0;
	const out: [number, number, number] = [0, 0, 0];
	for (let c = 0; c < 3; c++) {
		const top = dome.sky[at + c] * (1 - fx) + dome.sky[at + 3 + c] * fx;
		const low = dome.sky[at + row + c] * (1 - fx) + dome.sky[at + row + 3 + c] * fx;
		const clear = top * (1 - fy) + low * fy;
		out[c] = clear * (1 - opacity) + opacity * (dome.cloudSun[c] * phase + dome.cloudAmbient[c]);
	}
	return out;
}

/** Illuminance of level ground, lux: that of the sun, and of a sky by its luminance (cd/m²) in some directions, so many high and around. */
export function levelLuxBy(
	sunLux: Vec3,
	sunDirection: Vec3,
	[rows, columns]: readonly [number, number],
	luminanceIn: (d: Vec3) => number,
): number {
	let sum = luminance(sunLux) * Math.max(0, sunDirection[1]);
	for (let j = 0; j < rows; j++) {
		const y = (j + 0.5) / rows;
		const level = Math.sqrt(1 - y * y);
		for (let i = 0; i < columns; i++) {
			const a = ((i + 0.5) / columns) * 2 * Math.PI;
			sum += (luminanceIn([level * sin(a), y, -level * cos(a)]) * y * 2 * Math.PI) / (rows * columns);
		}
	}
	return sum;
}

/** Illuminance of level ground by sun and sky, lux. */
export const levelLux = (dome: Dome): number =>
	levelLuxBy(dome.sunLux, dome.sunDirection, [24, 48], (d) => luminance(skyLuminance(dome, d)));

/**
 * Grid by which directions towards the sky are chosen: luminance times solid angle in GRID_HEIGHT rows (by the square
 * root of elevation) and GRID_WIDTH columns (by azimuth), as running sums: first one per row, then one row after the
 * other. Returned as float32, `GRID_HEIGHT + GRID_HEIGHT·GRID_WIDTH` values, each sum normalised to end at 1.
 */
export function skyGrid(radiance: (d: Vec3) => readonly number[]): Float32Array {
	const out = new Float32Array(GRID_HEIGHT + GRID_HEIGHT * GRID_WIDTH);
	const rows = new Float64Array(GRID_HEIGHT);
	const cells = new Float64Array(GRID_HEIGHT * GRID_WIDTH);
	for (let j = 0; j < GRID_HEIGHT; j++) {
		const v = (j + 0.5) / GRID_HEIGHT;
		const e = v * v * 0.5 * Math.PI;
		for (let i = 0; i < GRID_WIDTH; i++) {
			const a = ((i + 0.5) / GRID_WIDTH) * 2 * Math.PI - Math.PI;
			const L = radiance([sin(a) * cos(e), sin(e), -cos(a) * cos(e)]);
			const weight = (luminance(L) + 1e-9) * cos(e) * v;
			rows[j] += weight;
			cells[j * GRID_WIDTH + i] = weight;
		}
	}
	let total = 0;
	for (let j = 0; j < GRID_HEIGHT; j++) total += rows[j];
	let run = 0;
	for (let j = 0; j < GRID_HEIGHT; j++) {
		run += rows[j];
		out[j] = j === GRID_HEIGHT - 1 ? 1 : run / total;
		let inRow = 0;
		for (let i = 0; i < GRID_WIDTH; i++) {
			inRow += cells[j * GRID_WIDTH + i];
			out[GRID_HEIGHT + j * GRID_WIDTH + i] = i === GRID_WIDTH - 1 ? 1 : inRow / rows[j];
		}
	}
	return out;
}
