/** Pictures as float32 planes, made from the sums of tiles. */
import { luminanceOf } from "../colour/linear.ts";
import type { Area } from "../maths/area.ts";

/**
 * Planes of sums of a tile: R G B, luminance², albedo RGB, normal XYZ, R G B of the odd samples alone, 1 / depth. The
 * kernel's layout says the same.
 */
export const CHANNELS = 14;

/** More planes when lights are summed by themselves: RGB of each, RGB of what fog and air send, openness. */
export const extraChannels = (lights: number): number => (lights > 0 ? 3 * lights + 4 : 0);

type Rgb = [Float32Array, Float32Array, Float32Array];

/** Pixels of a picture that are traced at once. */
export type Tile = Area;

/** How many pieces of a pixel are told with their coverage. */
export const MASKS = 4;
/** Planes of first values: depth (f32) and id of the first sample, then pairs of a number counted from 1 and its samples. */
const FIRSTS = 2 + 2 * MASKS;

/** Sums of one tile: CHANNELS planes of float64, more with layers of light, and FIRSTS planes of 4 bytes. */
export interface TileSums {
	sums: Float64Array;
	/** The block of samples under way, when none ends with `samples`. */
	partial?: Float64Array;
	firsts: ArrayBuffer;
	samples: number;
	/** How many samples each pixel takes in all, at ends of blocks; as many as there are when nothing says so. */
	limits?: Uint32Array;
}

/** Finished and unfinished blocks together. */
export function totals(t: TileSums): Float64Array {
	const { partial } = t;
	return partial ? t.sums.map((v, i) => v + partial[i]) : t.sums;
}

/** A linear picture. Planes are top row first. */
export interface Picture {
	width: number;
	height: number;
	samples: number;
	/** cd/m², scene-linear Rec.709. */
	rgb: [Float32Array, Float32Array, Float32Array];
	/** Planar depth in metres, 1e10 for the sky. */
	depth: Float32Array;
	normal: [Float32Array, Float32Array, Float32Array];
	albedo: [Float32Array, Float32Array, Float32Array];
	id: Uint32Array;
	/** Standard error of the luminance of a pixel, cd/m². */
	error: Float32Array;
	/** Mean of the odd samples less that of the even ones, halved: its square is the variance of the mean, once. */
	halves: [Float32Array, Float32Array, Float32Array];
	/** Samples that each pixel has taken. */
	counts: Uint32Array;
	/** Mean of 1 / planar depth, 1/m; next to nothing for the sky. */
	nearness: Float32Array;
	/** Numbers that the pixel's samples have met first, the most frequent ones first, and the share of samples of each. */
	masks: { id: Uint32Array; cover: Float32Array }[];
	/** Layers of light, when they were asked for; those of all lights sum to the picture. */
	light: LightPlanes | null;
}

export interface LightPlanes {
	lights: { name: string; rgb: Rgb }[];
	/** What fog and air send into the eye's own ray. */
	fog: Rgb;
	/** Share of directions in which nothing stands near. */
	openness: Float32Array;
}

export const TILE = 128;

/** Tiles of a picture, row by row. */
export const tilesOf = (width: number, height: number, size = TILE): Tile[] =>
	tilesOfPart({ x: 0, y: 0, width, height }, size);

/** Tiles of a part of a picture, row by row. */
export function tilesOfPart(part: Tile, size = TILE): Tile[] {
	const out: Tile[] = [];
	for (let y = 0; y < part.height; y += size)
		for (let x = 0; x < part.width; x += size)
			out.push({
				x: part.x + x,
				y: part.y + y,
				width: Math.min(size, part.width - x),
				height: Math.min(size, part.height - y),
			});
	return out;
}

export const sumsBytes = (tile: Tile, extra = 0): number => tile.width * tile.height * (CHANNELS + extra) * 8;
export const firstsBytes = (tile: Tile): number => tile.width * tile.height * FIRSTS * 4;

/** Bytes that a pixel takes in a print's file, about, twice: where it is written and where it is kept. */
const FILE_BYTES = 2 * 70;

/** Bytes of disk that a print of so many pixels takes until it is done. */
export const printBytes = (pixels: number, lights = 0): number =>
	sumsBytes({ x: 0, y: 0, width: pixels, height: 1 }, extraChannels(lights)) +
	firstsBytes({ x: 0, y: 0, width: pixels, height: 1 }) +
	pixels * FILE_BYTES;

/** Bytes that a pixel of a frame with few channels takes where it is kept, about: measured on the demo's move. */
const LEAN_BYTES = 18;

/** Bytes of disk that frames of so many pixels take: what is kept of all, and what is in hand of a few. */
export const framesBytes = (pixels: number, frames: number, lights = 0): number =>
	Math.min(frames, FRAMES_IN_HAND) * printBytes(pixels, lights) +
	frames * pixels * (lights > 0 ? FILE_BYTES / 2 : LEAN_BYTES);
const FRAMES_IN_HAND = 3;

/** A picture of nothing yet; `lights` names the lights that have layers of their own. */
export function emptyPicture(width: number, height: number, lights: string[] = []): Picture {
	const plane = () => new Float32Array(width * height);
	const rgb = (): Rgb => [plane(), plane(), plane()];
	return {
		width,
		height,
		samples: 0,
		rgb: [plane(), plane(), plane()],
		depth: plane(),
		normal: [plane(), plane(), plane()],
		albedo: [plane(), plane(), plane()],
		id: new Uint32Array(width * height),
		error: plane(),
		halves: [plane(), plane(), plane()],
		counts: new Uint32Array(width * height),
		nearness: plane(),
		masks: Array.from({ length: MASKS }, () => ({ id: new Uint32Array(width * height), cover: plane() })),
		light:
			lights.length > 0
				? { lights: lights.map((name) => ({ name, rgb: rgb() })), fog: rgb(), openness: plane() }
				: null,
	};
}

/** Writes a tile's means into a picture. */
export function placeTile(picture: Picture, tile: Tile, t: TileSums): void {
	const n = tile.width * tile.height;
	const depth = new Float32Array(t.firsts, 0, n);
	const id = new Uint32Array(t.firsts, n * 4, n);
	// Tiles of a print that was begun before masks were counted have none.
	const counted = t.firsts.byteLength >= firstsBytes(tile) ? new Uint32Array(t.firsts, n * 8, n * 2 * MASKS) : null;
	const sums = totals(t);
	const planes = [...picture.rgb, null, ...picture.albedo, ...picture.normal, null, null, null, picture.nearness];
	const { light } = picture;
	const extra =
		light && sums.length > n * CHANNELS ? [...light.lights.flatMap((l) => l.rgb), ...light.fog, light.openness] : [];
	for (let y = 0; y < tile.height; y++) {
		for (let x = 0; x < tile.width; x++) {
			const from = y * tile.width + x;
			const to = (tile.y + y) * picture.width + tile.x + x;
			const samples = t.limits ? Math.min(t.samples, t.limits[from]) : t.samples;
			const k = 1 / samples;
			const odd = samples > 1 ? 1 / Math.floor(samples / 2) : 0;
			const even = samples > 1 ? 1 / Math.ceil(samples / 2) : 0;
			for (let c = 0; c < planes.length; c++) {
				const plane = planes[c];
				if (plane) plane[to] = sums[c * n + from] * k;
			}
			for (let c = 0; c < extra.length; c++) extra[c][to] = sums[(CHANNELS + c) * n + from] * k;
			for (let c = 0; c < 3; c++) {
				const ofOdd = sums[(10 + c) * n + from];
				picture.halves[c][to] = 0.5 * (ofOdd * odd - (sums[c * n + from] - ofOdd) * even);
			}
			const mean = luminanceOf(picture.rgb[0][to], picture.rgb[1][to], picture.rgb[2][to]);
			picture.error[to] = Math.sqrt(Math.max(0, sums[3 * n + from] * k - mean * mean) / Math.max(1, samples - 1));
			picture.depth[to] = depth[from];
			picture.id[to] = id[from];
			picture.counts[to] = samples;
			if (counted) placeMasks(picture, to, counted, from, n, k);
		}
	}
	picture.samples = Math.max(picture.samples, t.samples);
}

/** Writes the pieces of a pixel, those with the largest coverage first; equal ones by their number. */
function placeMasks(picture: Picture, to: number, counted: Uint32Array, from: number, n: number, k: number): void {
	const found: [number, number][] = [];
	for (let m = 0; m < MASKS; m++) {
		const number = counted[2 * m * n + from];
		if (number > 0) found.push([number - 1, counted[(2 * m + 1) * n + from]]);
	}
	if (found.length > 1) found.sort((a, b) => b[1] - a[1] || a[0] - b[0]);
	found.forEach(([number, count], m) => {
		picture.masks[m].id[to] = number;
		picture.masks[m].cover[to] = count * k;
	});
}

/** Noise of a tile: mean standard error of its pixels over its mean luminance, as a share. */
export function tileNoise(tile: Tile, t: TileSums): number {
	const n = tile.width * tile.height;
	const k = 1 / t.samples;
	const sums = totals(t);
	let error = 0;
	let mean = 0;
	for (let i = 0; i < n; i++) {
		const l = luminanceOf(sums[i], sums[n + i], sums[2 * n + i]) * k;
		error += Math.sqrt(Math.max(0, sums[3 * n + i] * k - l * l) / Math.max(1, t.samples - 1));
		mean += l;
	}
	return mean > 0 ? error / mean : 0;
}

/** Relative noise, in percent, at which a tile takes no more samples; null takes all of them. */
export type NoiseAim = number | null;

/** Samples after which a tile's noise is looked at: few places, so that chance does not pick a lucky one. */
const LOOKS = [32, 64, 128, 256, 512];

/** Number of samples at which the noise is looked at next, after `done`: 32, 64, 128, 256, 512, then every 512. */
export const nextLook = (done: number): number => LOOKS.find((n) => n > done) ?? (Math.floor(done / 512) + 1) * 512;

/** Whether a tile may end here, by its noise. Only at the agreed places, so that any slicing of the work ends alike. */
export const isClean = (tile: Tile, t: TileSums, aim: NoiseAim): boolean =>
	aim !== null && t.samples > 0 && nextLook(t.samples - 1) === t.samples && tileNoise(tile, t) * 100 <= aim;

/** Blocks of samples end at 4, 8, 16 and then each 16; the kernel sums by them. */
export const endsBlock = (samples: number): boolean => samples % 16 === 0 || samples === 4 || samples === 8;

/** The least end of a block that is not before so many samples. */
export const blockEndFrom = (samples: number): number =>
	samples <= 0 ? 0 : samples <= 4 ? 4 : samples <= 8 ? 8 : Math.ceil(samples / 16) * 16;

/** Planes of a picture by the names that a print's file gives them. */
export function namedPlanes(p: Picture): { name: string; data: Float32Array | Uint32Array }[] {
	const colours = (name: string, rgb: Rgb) => rgb.map((data, c) => ({ name: `${name}.${"RGB"[c]}`, data }));
	const { light } = p;
	return [
		...(light
			? [
					...light.lights.flatMap((l) => colours(`light.${l.name}`, l.rgb)),
					...colours("fog", light.fog),
					{ name: "openness", data: light.openness },
				]
			: []),
		{ name: "R", data: p.rgb[0] },
		{ name: "G", data: p.rgb[1] },
		{ name: "B", data: p.rgb[2] },
		{ name: "Z", data: p.depth },
		{ name: "N.X", data: p.normal[0] },
		{ name: "N.Y", data: p.normal[1] },
		{ name: "N.Z", data: p.normal[2] },
		{ name: "albedo.R", data: p.albedo[0] },
		{ name: "albedo.G", data: p.albedo[1] },
		{ name: "albedo.B", data: p.albedo[2] },
		{ name: "id", data: p.id },
	].sort((a, b) => (a.name < b.name ? -1 : 1));
}
