/**
 * Takes the noise out of a picture whose samples were kept in two halves; see `kernel/denoise.ts` for the method. Works
 * in bands, so that a print of any size needs little memory and several threads may share the work. The same code runs
 * in the page and on the server.
 */
import { LUMA } from "../core/colour/linear.ts";
import type { Picture, Tile } from "../core/scene/picture.ts";
import * as L from "./kernel/layout.ts";
import type { Kernel, TracerMemory } from "./memory.ts";
import { spreadSpecks } from "./specks.ts";

export type Planes = [Float32Array, Float32Array, Float32Array];

/** Rows, and most columns, that are averaged at once. */
export const BAND_ROWS = 64;
export const BAND_COLUMNS = 2048;
const SMOOTHED = 3;
/** Share of a pixel's variance that is taken from around it. */
const MIX = 0.1;
/** Pixels that are searched each way: for a print, and for a proof that must not wait. */
export const PRINT_REACH = 10;
export const PROOF_REACH = 6;

/** Everything that one band needs, as plain arrays that can be sent to a thread. */
export interface Band {
	x: number;
	y: number;
	rows: number;
	width: number;
	stride: number;
	reach: number;
	planes: Float32Array;
}

/** Where a band is worked on in the kernel's memory. */
export interface Room {
	planes: number;
	work: number;
	abort: number;
}

/** Where the bands of a picture lie. */
export function bandsOf(width: number, height: number): Tile[] {
	const out: Tile[] = [];
	for (let y = 0; y < height; y += BAND_ROWS)
		for (let x = 0; x < width; x += BAND_COLUMNS)
			out.push({ x, y, width: Math.min(BAND_COLUMNS, width - x), height: Math.min(BAND_ROWS, height - y) });
	return out;
}

/** Mean over a square of 2r + 1 pixels, of a padded plane; borders are left alone. */
function boxed(plane: Float32Array, stride: number, rows: number, r: number): Float32Array {
	const across = new Float32Array(plane.length);
	for (let y = 0; y < rows; y++) {
		for (let x = r; x < stride - r; x++) {
			let s = 0;
			for (let k = -r; k <= r; k++) s += plane[y * stride + x + k];
			across[y * stride + x] = s;
		}
	}
	const out = new Float32Array(plane.length);
	const k = 1 / (2 * r + 1) ** 2;
	for (let y = r; y < rows - r; y++) {
		for (let x = 0; x < stride; x++) {
			let s = 0;
			for (let j = -r; j <= r; j++) s += across[(y + j) * stride + x];
			out[y * stride + x] = s * k;
		}
	}
	return out;
}

/** Cuts the planes of a band out of a picture, with the borders of the picture repeated from its edges. */
export function cutBand(p: Picture, { x: left, y, width, height: rows }: Tile, reach: number): Band {
	const B = L.D_BORDER;
	const stride = strideOf(width);
	const high = rows + 2 * B;
	const size = stride * high;
	const planes = new Float32Array(size * L.D_PLANES);
	const at = (k: number) => planes.subarray(k * size, (k + 1) * size);
	const each = (to: Float32Array, value: (i: number) => number) => {
		for (let r = 0; r < high; r++) {
			const from = Math.min(p.height - 1, Math.max(0, y + r - B)) * p.width;
			for (let x = 0; x < stride; x++)
				to[r * stride + x] = value(from + Math.min(p.width - 1, Math.max(0, left + x - B)));
		}
	};
	for (let c = 0; c < 3; c++) {
		const [mean, half] = [p.rgb[c], p.halves[c]];
		each(at(c), (i) => mean[i] - half[i]);
		each(at(3 + c), (i) => mean[i] + half[i]);
		each(at(L.D_SURFACE + c), (i) => p.albedo[c][i]);
		each(at(L.D_SURFACE + 3 + c), (i) => p.normal[c][i]);
	}
	// The halves tell the noise without bias but from two numbers; the samples' own spread tells where it lies. The
	// spread, scaled so that it agrees with the halves nearby, is the variance of each colour of a half. Both are taken
	// over the square of the light about them, so that a flame's noise is not ascribed to the dark beside it.
	const light = new Float32Array(size);
	each(light, (i) => LUMA[0] * p.rgb[0][i] + LUMA[1] * p.rgb[1][i] + LUMA[2] * p.rgb[2][i]);
	const smoothLight = boxed(light, stride, high, 1);
	const spread = new Float32Array(size);
	each(spread, (i) => p.error[i] * p.error[i]);
	const half = new Float32Array(size);
	each(half, (i) => (LUMA[0] * p.halves[0][i] + LUMA[1] * p.halves[1][i] + LUMA[2] * p.halves[2][i]) ** 2);
	const squareOf = (i: number) => smoothLight[i] * smoothLight[i];
	const relative = (plane: Float32Array) => plane.map((v, i) => (smoothLight[i] > 0 ? v / squareOf(i) : 0));
	const smoothSpread = boxed(relative(spread), stride, high, SMOOTHED);
	const smoothHalf = boxed(relative(half), stride, high, SMOOTHED);
	for (let c = 0; c < 3; c++) {
		const to = at(L.D_VARIANCE + c);
		const own = new Float32Array(size);
		each(own, (i) => p.rgb[c][i]);
		const smoothOwn = boxed(own, stride, high, 1);
		for (let i = 0; i < size; i++) {
			const gain = smoothSpread[i] > 0 ? Math.min(4, smoothHalf[i] / smoothSpread[i]) : 0;
			const share = smoothLight[i] > 0 ? smoothOwn[i] / smoothLight[i] : 1;
			to[i] = 2 * ((1 - MIX) * spread[i] + MIX * smoothSpread[i] * squareOf(i)) * gain * share * share;
		}
	}
	const loose = at(L.D_NORMAL_VARIANCE);
	each(loose, (i) => {
		const n = p.normal[0][i] ** 2 + p.normal[1][i] ** 2 + p.normal[2][i] ** 2;
		return n > 1e-6 ? Math.max(0, 1 - n) / Math.max(1, p.counts[i]) : 0;
	});
	each(at(L.D_NEARNESS), (i) => p.nearness[i]);
	return { x: left, y, rows, width, stride, reach, planes };
}

const strideOf = (width: number): number => Math.ceil((width + 2 * L.D_BORDER + 8) / 4) * 4;

/** Reserves what one thread needs for bands of pictures of a width. Throws MemoryFull. */
export function reserveRoom(memory: TracerMemory, width: number): Room {
	const stride = strideOf(Math.min(BAND_COLUMNS, width));
	const room = {
		planes: memory.allocate(stride * (BAND_ROWS + 2 * L.D_BORDER) * L.D_PLANES * 4),
		work: memory.allocate(stride * 4 * L.D_WORK_ROWS),
		abort: memory.allocate(64),
	};
	memory.u32[room.abort >> 2] = 0;
	return room;
}

export function releaseRoom(memory: TracerMemory, room: Room): void {
	for (const at of Object.values(room)) memory.release(at);
}

/** Three planes of a band's rows without their noise, or null when it was aborted. */
export function denoiseBand(kernel: Kernel, buffer: ArrayBufferLike, room: Room, band: Band): Planes | null {
	new Float32Array(buffer, room.planes, band.planes.length).set(band.planes);
	if (!kernel.denoiseBand(room.planes, band.stride, band.rows, band.reach, room.work, room.abort)) return null;
	const size = band.planes.length / L.D_PLANES;
	return [0, 1, 2].map((c) => {
		const from = new Float32Array(buffer, room.planes + (L.D_OUT + c) * size * 4, size);
		const out = new Float32Array(band.width * band.rows);
		for (let r = 0; r < band.rows; r++) {
			const row = (r + L.D_BORDER) * band.stride + L.D_BORDER;
			out.set(from.subarray(row, row + band.width), r * band.width);
		}
		return out;
	}) as Planes;
}

/**
 * Takes the noise out of rows of a picture (all when none are told) on several threads: `ask` has a thread, by its number,
 * work on a band. Stops early, with what it has, when it is no longer `wanted`. Throws MemoryFull.
 */
export async function denoiseOn(
	threads: number,
	memory: TracerMemory,
	picture: Picture,
	reach: number,
	ask: (thread: number, band: Band, room: Room) => Promise<Planes | null>,
	wanted = () => true,
	part = { y: 0, rows: picture.height },
): Promise<Planes> {
	const out = [0, 1, 2].map(() => new Float32Array(picture.width * part.rows)) as Planes;
	const calm = spreadSpecks(picture);
	const bands = bandsOf(picture.width, part.rows);
	const rooms: Room[] = [];
	let next = 0;
	try {
		for (let i = 0; i < threads; i++) rooms.push(reserveRoom(memory, picture.width));
		await Promise.all(
			rooms.map(async (room, thread) => {
				while (wanted() && next < bands.length) {
					const band = bands[next++];
					const planes = await ask(thread, cutBand(calm, { ...band, y: part.y + band.y }, reach), room);
					planes?.forEach((plane, c) => {
						for (let r = 0; r < band.height; r++)
							out[c].set(plane.subarray(r * band.width, (r + 1) * band.width), (band.y + r) * picture.width + band.x);
					});
				}
			}),
		);
	} finally {
		for (const room of rooms) releaseRoom(memory, room);
	}
	return out;
}

/** A whole picture on this thread. */
export const denoise = (kernel: Kernel, memory: TracerMemory, picture: Picture, reach = PRINT_REACH): Promise<Planes> =>
	denoiseOn(1, memory, picture, reach, async (_thread, band, room) =>
		denoiseBand(kernel, memory.memory.buffer, room, band),
	);
