/**
 * Averages a picture whose samples were kept in two halves; see `kernel/denoise.ts` for the method. Works in bands, so that a print of any
 * size needs little memory and several threads may share the work (`clean.ts`).
 */
import { LUMA } from "../core/colour/linear.ts";
import type { Picture, Tile } from "../core/scene/picture.ts";
import { cutOut } from "./cutOut.ts";
import * as L from "./kernel/layout.ts";
import type { Kernel, TracerMemory } from "./memory.ts";
import { scratchOf, wideScratchOf } from "./scratch.ts";

export type Planes = [Float32Array, Float32Array, Float32Array];

/** Averages of either half of the samples, each by weights from the other: RGB of the even ones, then of the odd ones. */
export type Averages = Float32Array[];

/** Rows, and most columns, that are averaged at once. */
export const BAND_ROWS = 64;
export const BAND_COLUMNS = 2048;
const SMOOTHED = 3;
/** Share of a pixel's variance that is taken from around it. */
const MIX = 0.1;
/**
 * Pixels that are searched each way: for a print, and for a proof that must not wait. 4 in place of 6 would save a fifth of a cleaning, and cost
 * 1.5 % (FLIP, salt works and lantern at 2 to 8 samples).
 */
export const PRINT_REACH = 10;
export const PROOF_REACH = 6;

/** A band whose planes lie in a {@link Room}. */
export interface Band {
	x: number;
	y: number;
	rows: number;
	width: number;
	stride: number;
	reach: number;
}

/** Where a band is worked on in the kernel's memory. */
export interface Room {
	planes: number;
	work: number;
	abort: number;
}

/** Where the bands of a picture lie: of as many rows as make every thread's share alike, but not so few that most of the work is about them. */
export function bandsOf(width: number, height: number, threads = 1): Tile[] {
	const high = Math.max(L.D_ROWS, Math.ceil(height / (threads * Math.ceil(height / (threads * BAND_ROWS)))));
	const out: Tile[] = [];
	for (let y = 0; y < height; y += high)
		for (let x = 0; x < width; x += BAND_COLUMNS)
			out.push({ x, y, width: Math.min(BAND_COLUMNS, width - x), height: Math.min(high, height - y) });
	return out;
}

// Scratch planes, by number: 0 to 2 are light, spread and half, three more at SMOOTH and after it are smoothed.
const RELATIVE = 3;
const ACROSS = 4;
const SMOOTH = 5;
/** Three planes of how wrong averages are, and how noisy their pixels. */
const SETTLED = 9;
/** Three planes each: what was traced, and its halves. */
const MEANS = 12;
const HALVES = 15;

/** Mean over a square of 2r + 1 pixels, of a padded plane, into another; nothing where the square reaches beyond it. */
function boxed(plane: Float32Array, stride: number, rows: number, r: number, out: Float32Array): Float32Array {
	const across = scratchOf(ACROSS, plane.length);
	for (let y = 0; y < rows; y++) {
		const [begin, end] = [y * stride, (y + 1) * stride];
		across.fill(0, begin, begin + r);
		across.fill(0, end - r, end);
		for (let i = begin + r; i < end - r; i++) {
			let s = 0;
			for (let k = i - r; k <= i + r; k++) s += plane[k];
			across[i] = s;
		}
	}
	const sums = new Float64Array(stride);
	const k = 1 / (2 * r + 1) ** 2;
	out.fill(0, 0, r * stride);
	out.fill(0, (rows - r) * stride);
	for (let y = r; y < rows - r; y++) {
		sums.fill(0);
		for (let j = y - r; j <= y + r; j++) for (let x = 0; x < stride; x++) sums[x] += across[j * stride + x];
		for (let x = 0; x < stride; x++) out[y * stride + x] = sums[x] * k;
	}
	return out;
}

/** A colour by which surfaces are told apart: of what is brighter than white, as skies are, differences count less. */
const dimmed = (colour: number): number => (colour <= 1 ? colour : 2 - 1 / colour);

/** Cuts the planes of a band out of a picture into a room of a memory, with the borders of the picture repeated from its edges. */
export function cutBand(
	p: Picture,
	{ x: left, y, width, height: rows }: Tile,
	reach: number,
	buffer: ArrayBufferLike,
	room: Room,
): Band {
	const B = L.D_BORDER;
	const stride = strideOf(width);
	const high = rows + 2 * B;
	const size = stride * high;
	const at = (k: number) => new Float32Array(buffer, room.planes + k * size * 4, size);
	const taken = (from: Float32Array | Uint32Array, to: Float32Array) =>
		cutOut(from, p.width, { x: left - B, y: y - B, width: stride, height: high }, to);
	const means = p.rgb.map((mean, c) => taken(mean, scratchOf(MEANS + c, size)));
	const halves = p.halves.map((half, c) => taken(half, scratchOf(HALVES + c, size)));
	const normal = p.normal.map((n, c) => taken(n, at(L.D_SURFACE + 3 + c)));
	for (let c = 0; c < 3; c++) {
		const { [c]: mean } = means;
		const { [c]: half } = halves;
		const [even, odd] = [at(c), at(3 + c)];
		for (let i = 0; i < size; i++) {
			even[i] = mean[i] - half[i];
			odd[i] = mean[i] + half[i];
		}
		const surface = taken(p.albedo[c], at(L.D_SURFACE + c));
		for (let i = 0; i < size; i++) surface[i] = dimmed(surface[i]);
	}
	// The halves tell the noise without bias but from two numbers; the samples' own spread tells where it lies. The
	// spread, scaled so that it agrees with the halves nearby, is the variance of each colour of a half. Both are taken
	// over the square of the light about them, so that a flame's noise is not ascribed to the dark beside it.
	const [light, spread, half] = [0, 1, 2].map((k) => scratchOf(k, size));
	taken(p.error, spread);
	const [r, g, b] = means;
	const [halfR, halfG, halfB] = halves;
	for (let i = 0; i < size; i++) {
		light[i] = LUMA[0] * r[i] + LUMA[1] * g[i] + LUMA[2] * b[i];
		spread[i] *= spread[i];
		const off = LUMA[0] * halfR[i] + LUMA[1] * halfG[i] + LUMA[2] * halfB[i];
		half[i] = off * off;
	}
	const smoothLight = boxed(light, stride, high, 1, scratchOf(SMOOTH, size));
	const relative = (plane: Float32Array) => {
		const out = scratchOf(RELATIVE, size);
		for (let i = 0; i < size; i++) out[i] = smoothLight[i] > 0 ? plane[i] / (smoothLight[i] * smoothLight[i]) : 0;
		return out;
	};
	const smoothSpread = boxed(relative(spread), stride, high, SMOOTHED, scratchOf(SMOOTH + 1, size));
	const smoothHalf = boxed(relative(half), stride, high, SMOOTHED, scratchOf(SMOOTH + 2, size));
	for (let c = 0; c < 3; c++) {
		const to = at(L.D_VARIANCE + c);
		const smoothOwn = boxed(means[c], stride, high, 1, scratchOf(SMOOTH + 3, size));
		for (let i = 0; i < size; i++) {
			const square = smoothLight[i] * smoothLight[i];
			const gain = smoothSpread[i] > 0 ? Math.min(4, smoothHalf[i] / smoothSpread[i]) : 0;
			const share = smoothLight[i] > 0 ? smoothOwn[i] / smoothLight[i] : 1;
			to[i] = 2 * ((1 - MIX) * spread[i] + MIX * smoothSpread[i] * square) * gain * share * share;
		}
	}
	const loose = taken(p.counts, at(L.D_NORMAL_VARIANCE));
	const [nx, ny, nz] = normal;
	for (let i = 0; i < size; i++) {
		const n = nx[i] * nx[i] + ny[i] * ny[i] + nz[i] * nz[i];
		loose[i] = n > 1e-6 ? Math.max(0, 1 - n) / Math.max(1, loose[i]) : 0;
	}
	taken(p.nearness, at(L.D_NEARNESS));
	return { x: left, y, rows, width, stride, reach };
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

/** Planes of a band's rows, both halves averaged, or null when it was aborted. */
export function denoiseBand(kernel: Kernel, buffer: ArrayBufferLike, room: Room, band: Band): Averages | null {
	if (!kernel.denoiseBand(room.planes, band.stride, band.rows, band.reach, room.work, room.abort)) return null;
	const size = band.stride * (band.rows + 2 * L.D_BORDER);
	return [0, 1, 2, 3, 4, 5].map((c) => {
		const from = new Float32Array(buffer, room.planes + (L.D_OUT + c) * size * 4, size);
		const out = new Float32Array(band.width * band.rows);
		for (let r = 0; r < band.rows; r++) {
			const row = (r + L.D_BORDER) * band.stride + L.D_BORDER;
			out.set(from.subarray(row, row + band.width), r * band.width);
		}
		return out;
	});
}

/** Rows beside a row by which it is told how far its averages can be trusted. */
export const TRUST_ROWS = 1;
/** Share of the halves' own light in what errors are held against: a pixel that is dark by one half alone is not all error. */
const OWN_LIGHT = 0.5;
/** An error counts from so many times the noise: nine pixels tell it to two thirds of the noise by chance. */
const DOUBT = 3;
/** Errors above this many times the light count as so many: one speck tells nothing of its neighbours. */
const MOST_ERROR = 9;

/**
 * Puts rows [y, y + rows) together from the averages of both halves and what was traced. How wrong an average is tells the
 * other half, which it does not know: its square distance from that, less the half's own noise. Where that is more than the
 * noise that was to be taken out (mirror images in panes, the far ends of shadows, thin things), the picture stays nearer to
 * what was traced: by the share of the error in both, squared, over 3 × 3 pixels. `first` is the first row of the averages.
 */
export function settle(p: Picture, averages: Averages, first: number, y: number, rows: number): Planes {
	const { width } = p;
	const size = averages[0].length;
	const high = size / width;
	// Sums over the three colours.
	const [offs, owns, lights] = [0, 1, 2].map((k) => wideScratchOf(k, size).fill(0));
	const skipped = first * width;
	for (let c = 0; c < 3; c++) {
		const [even, odd] = [averages[c], averages[3 + c]];
		const { [c]: means } = p.rgb;
		const { [c]: halves } = p.halves;
		for (let i = 0; i < size; i++) {
			const [mean, half] = [means[skipped + i], halves[skipped + i]];
			const [e, o, a, b] = [mean - half, mean + half, even[i], odd[i]];
			const [ao, be, eo, ab] = [a - o, b - e, e - o, (a + b) / 2];
			offs[i] += (ao * ao + be * be - eo * eo) / 2;
			owns[i] += (eo * eo) / 4;
			lights[i] += ab * ab + (OWN_LIGHT * (e * e + o * o)) / 2;
		}
	}
	const [wrong, noise, spread] = [0, 1, 2].map((k) => scratchOf(SETTLED + k, size));
	for (let i = 0; i < size; i++) {
		const k = 1 / (3 * lights[i] + 1e-12);
		const { [skipped + i]: error } = p.error;
		wrong[i] = Math.max(-MOST_ERROR, Math.min(MOST_ERROR, offs[i] * k));
		noise[i] = Math.min(MOST_ERROR, owns[i] * k);
		spread[i] = Math.min(MOST_ERROR, 3 * error * error * k);
	}
	const out = [0, 1, 2].map(() => new Float32Array(width * rows)) as Planes;
	for (let r = 0; r < rows; r++) {
		const row = y - first + r;
		const [top, low] = [Math.max(0, row - TRUST_ROWS), Math.min(high - 1, row + TRUST_ROWS)];
		for (let x = 0; x < width; x++) {
			const [left, right] = [Math.max(0, x - 1), Math.min(width - 1, x + 1)];
			let [error, halves, samples] = [0, 0, 0];
			for (let j = top; j <= low; j++)
				for (let i = left; i <= right; i++) {
					error += wrong[j * width + i];
					halves += noise[j * width + i];
					samples += spread[j * width + i];
				}
			// Nine pixels' halves alone would tell too little of the noise by chance.
			const own = Math.max(halves, samples);
			const told = Math.max(0, error - DOUBT * own);
			const part = told / (told + own + 1e-12);
			const share = part * part;
			const [at, to, from] = [row * width + x, r * width + x, (y + r) * width + x];
			for (let c = 0; c < 3; c++) {
				const mean = (averages[c][at] + averages[3 + c][at]) / 2;
				out[c][to] = mean + share * (p.rgb[c][from] - mean);
			}
		}
	}
	return out;
}
