/**
 * The learned filter over a picture: cuts it into parts, and has each answered by the kernel (`kernel/learned.ts`). A part is seen with what
 * lies about it as far as anything there counts, and parts lie on a grid of the picture, so that any cutting gives the same picture, bit by bit.
 */
import { fromHalf } from "../core/formats/exr.ts";
import type { Picture, Tile } from "../core/scene/picture.ts";
import { cutOut } from "./cutOut.ts";
import type { Planes } from "./denoise.ts";
import * as L from "./kernel/layout.ts";
import type { Kernel, TracerMemory } from "./memory.ts";

/** Sides of a part, pixels: a multiple of the grid. */
export const PART_SIDE = 384;
/** Side of a part that is made smaller so that no thread is without one: about each lies as much again that is worked on, too. */
const LEAST_SIDE = 64;

interface Layer {
	/** Its name in `train/learn.py`. */
	name: string;
	from: number;
	to: number;
	/** 9, or 1 of single pixels. */
	taps: number;
	/** Steps to one of what goes in, and of what comes out: none where that is told. */
	seen: number;
	steps: number | null;
}

/**
 * Convolutions in the order in which their weights lie in the file; see `train/learn.py`. Steps are such that the largest value that training
 * has met is less than {@link L.N_MOST} of them; what is added together has the same.
 */
export const LAYERS: readonly Layer[] = [
	{ name: "full1", from: L.N_PLANES, to: L.N_FULL, taps: 9, seen: L.N_SEEN_STEPS, steps: 256 },
	{ name: "full2", from: L.N_FULL, to: L.N_FULL, taps: 9, seen: 256, steps: 128 },
	{ name: "half1", from: L.N_FULL, to: L.N_HALF, taps: 9, seen: 128, steps: 128 },
	{ name: "half2", from: L.N_HALF, to: L.N_HALF, taps: 9, seen: 128, steps: 64 },
	{ name: "quarter1", from: L.N_HALF, to: L.N_QUARTER, taps: 9, seen: 64, steps: 128 },
	{ name: "quarter2", from: L.N_QUARTER, to: L.N_QUARTER, taps: 9, seen: 128, steps: 128 },
	{ name: "quarter3", from: L.N_QUARTER, to: L.N_QUARTER, taps: 9, seen: 128, steps: 128 },
	{ name: "toHalf", from: L.N_QUARTER, to: L.N_HALF, taps: 1, seen: 128, steps: 64 },
	{ name: "half3", from: L.N_HALF, to: L.N_HALF, taps: 9, seen: 64, steps: 64 },
	{ name: "toFull", from: L.N_HALF, to: L.N_FULL, taps: 1, seen: 64, steps: 128 },
	{ name: "full3", from: L.N_FULL, to: L.N_FULL, taps: 9, seen: 128, steps: 64 },
	{ name: "told4", from: L.N_QUARTER, to: L.N_TAPS, taps: 1, seen: 128, steps: null },
	{ name: "told2", from: L.N_HALF, to: L.N_TAPS, taps: 1, seen: 64, steps: null },
	{ name: "told1", from: L.N_FULL, to: L.N_TAPS + L.N_CANDIDATES, taps: 1, seen: 64, steps: null },
];
const GROUP = 4;
/** What weights are rounded to: 16 bits, and no sum of a channel goes beyond 32. */
const MOST_WEIGHT = 32767;
const MOST_SUM = 2 ** 31 - 2 ** 24;

/**
 * Weights as the kernel reads them, from the file's half floats: of each layer, for each four channels, by what their sums are multiplied and
 * what is added then, in steps (f32), then by pair of channels and place four pairs of whole numbers of 16 bits. Channels that make four full
 * have none. Throws when the file is not of this network.
 */
export function layWeights(file: ArrayBuffer): Uint8Array {
	const count = LAYERS.reduce((n, l) => n + l.to * (l.from * l.taps + 1), 0);
	if (file.byteLength !== 2 * count)
		throw new Error(`The filter's weights take ${file.byteLength} bytes where ${2 * count} are read.`);
	const weights = Float32Array.from(new Uint16Array(file), fromHalf);
	const parts: Uint8Array[] = [];
	let at = 0;
	for (const { from, to, taps, seen, steps } of LAYERS) {
		const each = from * taps;
		for (let o = 0; o < to; o += GROUP) {
			const factors = new Float32Array(2 * GROUP);
			const pairs = new Int16Array(Math.ceil(from / 2) * taps * GROUP * 2);
			for (let j = 0; j < GROUP && o + j < to; j++) {
				const own = weights.subarray(at + (o + j) * each, at + (o + j + 1) * each);
				const [sum, most] = own.reduce(([s, m], w) => [s + Math.abs(w), Math.max(m, Math.abs(w))], [0, 0]);
				// Rounding may add half a step to each.
				const whole = Math.min(MOST_WEIGHT / most, (MOST_SUM / L.N_MOST - each / 2) / sum);
				factors[j] = (steps ?? 1) / (seen * whole);
				factors[GROUP + j] = (steps ?? 1) * weights[at + to * each + o + j];
				own.forEach((w, i) => {
					const [channel, place] = [Math.floor(i / taps), i % taps];
					pairs[(((channel >> 1) * taps + place) * GROUP + j) * 2 + (channel & 1)] = Math.round(w * whole);
				});
			}
			parts.push(new Uint8Array(factors.buffer), new Uint8Array(pairs.buffer));
		}
		at += to * (each + 1);
	}
	const out = new Uint8Array(parts.reduce((n, p) => n + p.length, 0));
	let end = 0;
	for (const part of parts) {
		out.set(part, end);
		end += part.length;
	}
	return out;
}

/** A part as it is sent to a thread: what is asked for; the planes of that and of what lies about it are in a {@link LearnedRoom}. */
export interface LearnedPart {
	tile: Tile;
	/** Where the planes begin, and their size. */
	x: number;
	y: number;
	width: number;
	height: number;
	/** Three planes of each layer of light, of fog last; none where the picture has no layers. */
	layers: Float32Array[];
}

/** Where a thread works on parts in the kernel's memory. */
export interface LearnedRoom {
	planes: number;
	layer: number;
	work: number;
	abort: number;
	weights: number;
}

const downTo = (v: number): number => Math.floor(v / L.N_GRID) * L.N_GRID;
const upTo = (v: number): number => Math.ceil(v / L.N_GRID) * L.N_GRID;
const most = (side: number): number => upTo(side) + 2 * (L.N_HALO + L.N_GRID);

/** Reserves what one thread needs for parts of pictures of a size. Throws MemoryFull. */
export function reserveLearned(
	kernel: Kernel,
	memory: TracerMemory,
	weights: number,
	size: { width: number; height: number },
): LearnedRoom {
	const [w, h] = [most(Math.min(PART_SIDE, size.width)), most(Math.min(PART_SIDE, size.height))];
	const planes = memory.allocate(w * h * L.N_PLANES * 4);
	const layer = memory.allocate(w * h * 12);
	const work = memory.allocate(kernel.learnedRoom(w, h));
	const abort = memory.allocate(64);
	memory.u32[abort >> 2] = 0;
	return { planes, layer, work, abort, weights };
}

export function releaseLearned(memory: TracerMemory, room: LearnedRoom): void {
	for (const at of [room.planes, room.layer, room.work, room.abort]) memory.release(at);
}

/**
 * Parts of rows [y, y + rows) of a picture: so many at least, if they are not too small for what lies about them. The longer side is cut,
 * since less lies about a part that is nearly square.
 */
export function partsOf(width: number, { y, rows }: { y: number; rows: number }, atLeast = 1): Tile[] {
	let wide = Math.min(PART_SIDE, width);
	let high = Math.min(PART_SIDE, rows);
	const halved = (side: number) => upTo(Math.ceil(side / 2));
	while (Math.ceil(width / wide) * Math.ceil(rows / high) < atLeast && halved(Math.max(wide, high)) >= LEAST_SIDE) {
		if (wide >= high) wide = halved(wide);
		else high = halved(high);
	}
	const out: Tile[] = [];
	for (let top = y; top < y + rows; top += high)
		for (let x = 0; x < width; x += wide)
			out.push({ x, y: top, width: Math.min(wide, width - x), height: Math.min(high, y + rows - top) });
	return out;
}

/**
 * Puts what a part is answered by into a room of a memory. `filtered` is the other filter's picture from row `first` on; `exposure` brings cd/m²
 * to what is shown.
 */
export function cutPart(
	p: Picture,
	filtered: Planes,
	first: number,
	tile: Tile,
	exposure: number,
	buffer: ArrayBufferLike,
	room: LearnedRoom,
): LearnedPart {
	const [x, y] = [Math.max(0, downTo(tile.x - L.N_HALO)), Math.max(0, downTo(tile.y - L.N_HALO))];
	const width = Math.min(upTo(p.width), upTo(tile.x + tile.width + L.N_HALO)) - x;
	const height = Math.min(upTo(p.height), upTo(tile.y + tile.height + L.N_HALO)) - y;
	const size = width * height;
	const planes = new Float32Array(buffer, room.planes, size * L.N_PLANES);
	const plane = (k: number) => planes.subarray(k * size, (k + 1) * size);
	/** A plane of the picture, of rows from `before` on, times a factor. */
	const take = (to: Float32Array, from: Float32Array | Uint32Array, factor = 1, before = 0) => {
		cutOut(from, p.width, { x, y: y - before, width, height }, to);
		if (factor !== 1) for (let i = 0; i < size; i++) to[i] *= factor;
		return to;
	};
	for (let c = 0; c < 3; c++) {
		const [even, odd] = [take(plane(c), p.rgb[c]), take(plane(3 + c), p.halves[c])];
		for (let i = 0; i < size; i++) {
			const [mean, half] = [even[i], odd[i]];
			even[i] = (mean - half) * exposure;
			odd[i] = (mean + half) * exposure;
		}
		take(plane(L.N_FILTERED + c), filtered[c], exposure, first);
		take(plane(L.N_ALBEDO + c), p.albedo[c]);
		take(plane(L.N_NORMAL + c), p.normal[c]);
	}
	take(plane(L.N_ERROR), p.error, exposure);
	take(plane(L.N_NEARNESS), p.nearness);
	take(plane(L.N_COVER), p.masks[0].cover);
	const counts = take(plane(L.N_COUNT), p.counts);
	for (let i = 0; i < size; i++) counts[i] = Math.max(1, counts[i]);
	const layers = layersOf(p).map((rgb) => {
		const layer = new Float32Array(size * 3);
		for (const [c, light] of rgb.entries()) take(layer.subarray(c * size, (c + 1) * size), light, exposure);
		return layer;
	});
	return { tile, x, y, width, height, layers };
}

/** Layers of light of a picture, fog as the last. */
export const layersOf = ({ light }: Pick<Picture, "light">): Planes[] =>
	light ? [...light.lights.map((l) => l.rgb), light.fog] : [];

/**
 * The filtered light of a part, exposed as it was, and after it that of its layers, three planes each; null when it was aborted. Layers are
 * filtered by the picture's weights, and what they are together is brought to what the picture is: they add up.
 */
export function learnPart(
	kernel: Kernel,
	buffer: ArrayBufferLike,
	room: LearnedRoom,
	part: LearnedPart,
): Float32Array[] | null {
	const { tile, x, y, width, height, layers } = part;
	const size = width * height;
	if (!kernel.learned(room.planes, width, height, room.weights, room.work, room.abort)) return null;
	const cut = (at: number): Float32Array[] =>
		[0, 1, 2].map((c) => {
			const from = new Float32Array(buffer, at + c * size * 4, size);
			const out = new Float32Array(tile.width * tile.height);
			for (let r = 0; r < tile.height; r++) {
				const row = (tile.y - y + r) * width + tile.x - x;
				out.set(from.subarray(row, row + tile.width), r * tile.width);
			}
			return out;
		});
	const picture = cut(room.planes);
	const filtered = layers.map((layer) => {
		new Float32Array(buffer, room.layer, layer.length).set(layer);
		kernel.learnedAlso(room.layer, room.planes + size * 4 * L.N_ALBEDO, width, height, room.work);
		return cut(room.layer);
	});
	if (filtered.length > 0) addUp(picture, filtered.slice(0, -1), filtered[filtered.length - 1]);
	return [...picture, ...filtered.flat()];
}

/** Brings lights to what the picture is, and fog, which is a part of it, along with them. */
function addUp(
	picture: readonly Float32Array[],
	lights: readonly Float32Array[][],
	fog: readonly Float32Array[],
): void {
	for (let c = 0; c < 3; c++)
		for (let i = 0; i < picture[c].length; i++) {
			const sum = lights.reduce((s, light) => s + light[c][i], 0);
			const to = picture[c][i];
			if (sum > 0) for (const light of lights) light[c][i] *= to / sum;
			// Light that no layer has here: it is the other filter's alone.
			else for (const light of lights) light[c][i] = to / lights.length;
			fog[c][i] = sum > 0 ? Math.min(to, fog[c][i] * (to / sum)) : 0;
		}
}
