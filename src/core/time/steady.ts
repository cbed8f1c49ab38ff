/**
 * A frame of a move with its neighbours taken in, so that what noise is left does not flicker: each neighbour without its noise is laid over
 * the frame by depth and camera, and counts where it agrees with what was traced for this frame as well as the frame's own does. What goes by
 * itself (water, keyed pieces), mirror images and what was hidden do not agree, and stay the frame's own.
 *
 * Measured on frame 23 of the demo's move, 320 px, 8 samples, against 512: FLIP .0571 of the frame without its noise, .0443 so; relative squared
 * error × 1000 without the worst thousandth 8.98 and 5.45; what neighbouring frames differ by, laid over each other, 10.3 % and 5.0 %. Where a
 * neighbour is believed less (half as much surplus) .0472 and 6.5 %; nine times as much .0427 and 3.8 %, but then shadows that go by trail.
 *
 * Reprojection with a test by the frame's own samples is ours; the nearest depth about a pixel is taken, so that outlines go with what stands in
 * front (as temporal antialiasing does: Yang, Liu and Salvi 2020), and places between pixels by cubic weights (Catmull and Rom 1974) held between
 * the four pixels about them, so that it stays sharp and nothing rings.
 */
import type { FrameOfView } from "../lens/camera.ts";
import { sumsAround } from "../maths/around.ts";
import { dot, sub, type Vec3 } from "../maths/vec.ts";

type Rgb = readonly [Float32Array, Float32Array, Float32Array];

/** A neighbour: its view, its light without noise, and its {@link nearestDepth}. */
export interface Beside {
	view: FrameOfView;
	clean: Rgb;
	depth: Float32Array;
	/** Frames between it and the frame that is made. */
	away: number;
}

export interface FrameToSteady {
	view: FrameOfView;
	/** As it was traced, and without its noise. */
	traced: Rgb;
	clean: Rgb;
	/** Its {@link nearestDepth}. */
	depth: Float32Array;
	/** Its {@link meanLight}. */
	light: number;
}

/** Where the planes lie in the frame of a view, and how large they are. All frames of a move have the same. */
export interface PlanesIn {
	x: number;
	y: number;
	width: number;
	height: number;
	frame: { width: number; height: number };
}

/** Neighbours each way that are taken in. */
export const STEADY_REACH = 2;
/** What a neighbour counts, by how far away it is. */
const COUNTS = [1, 1, 0.7];
/** Depths that differ by more are another thing. */
const SAME_DEPTH = 0.03;
/** Pixels each way over which it is told whether a neighbour agrees. */
const TOLD = 3;
/** Surplus of its squared distance from the samples, as a share of that of the frame's own, up to which a neighbour counts whole, and from which not. */
const AGREES = 0.5;
const DIFFERS = 2;
/** Squared distances count up to so many times the light: one bright sample is not to tell. */
const MOST = 1;
const MOST_LIGHT = 65_504;
/** Light of a neighbour is held to what lies about the pixel, and so many times beyond that: a sun, or a speck, is not to be laid beside itself. */
const BEYOND = 1.25;
/** A neighbour that is so many times brighter or darker is not the same: the rim of the sun, a glint. */
const APART = 3;
/** Distances are held against the light and this share of the frame's mean. */
const FLOOR = 0.02;
/** Rows beside those that are made, that are looked at. */
const MARGIN = TOLD;

/** The nearest planar depth (metres, 1e10 for the sky) within a pixel of each. */
export function nearestDepth(depth: Float32Array, width: number, height: number): Float32Array {
	const across = new Float32Array(depth.length);
	for (let y = 0; y < height; y++)
		for (let x = 0; x < width; x++) {
			const i = y * width + x;
			across[i] = Math.min(depth[x > 0 ? i - 1 : i], depth[i], depth[x + 1 < width ? i + 1 : i]);
		}
	const out = new Float32Array(depth.length);
	for (let y = 0; y < height; y++)
		for (let x = 0; x < width; x++) {
			const i = y * width + x;
			out[i] = Math.min(across[y > 0 ? i - width : i], across[i], across[y + 1 < height ? i + width : i]);
		}
	return out;
}

/** Light of planes at a place between pixels, three colours into `out`; at least two pixels from all edges. */
function lightAt(planes: Rgb, width: number, x: number, y: number, out: Float32Array, to: number): void {
	const x0 = Math.floor(x);
	const y0 = Math.floor(y);
	const [s, t] = [x - x0, y - y0];
	const [s2, t2] = [s * s, t * t];
	const [s3, t3] = [s2 * s, t2 * t];
	const a0 = -0.5 * s + s2 - 0.5 * s3;
	const a1 = 1 - 2.5 * s2 + 1.5 * s3;
	const a2 = 0.5 * s + 2 * s2 - 1.5 * s3;
	const a3 = -0.5 * s2 + 0.5 * s3;
	const d0 = -0.5 * t + t2 - 0.5 * t3;
	const d1 = 1 - 2.5 * t2 + 1.5 * t3;
	const d2 = 0.5 * t + 2 * t2 - 1.5 * t3;
	const d3 = -0.5 * t2 + 0.5 * t3;
	const at = y0 * width + x0;
	for (let c = 0; c < 3; c++) {
		const p = planes[c];
		const across = (i: number) => a0 * p[i - 1] + a1 * p[i] + a2 * p[i + 1] + a3 * p[i + 2];
		const sum = d0 * across(at - width) + d1 * across(at) + d2 * across(at + width) + d3 * across(at + 2 * width);
		const [e, f, g, h] = [p[at], p[at + 1], p[at + width], p[at + width + 1]];
		out[to + c] = Math.min(Math.max(e, f, g, h), Math.max(Math.min(e, f, g, h), sum));
	}
}

/** The least and the most within a pixel of each, of some rows of a plane. */
function rangeAbout(plane: Float32Array, width: number, height: number, first: number, high: number) {
	const least = new Float32Array(width * high);
	const most = new Float32Array(width * high);
	for (let j = 0; j < high; j++)
		for (let x = 0; x < width; x++) {
			let [low, top] = [Number.POSITIVE_INFINITY, 0];
			for (let y = Math.max(0, first + j - 1); y <= Math.min(height - 1, first + j + 1); y++)
				for (let i = y * width + Math.max(0, x - 1); i <= y * width + Math.min(width - 1, x + 1); i++) {
					if (plane[i] < low) low = plane[i];
					if (plane[i] > top) top = plane[i];
				}
			least[j * width + x] = low;
			most[j * width + x] = top;
		}
	return { least, most };
}

/** Mean light of planes, against which what is dark is held. */
export function meanLight(planes: Rgb): number {
	let sum = 0;
	for (const plane of planes) for (let i = 0; i < plane.length; i++) sum += Math.min(plane[i], MOST_LIGHT);
	return sum / (3 * Math.max(1, planes[0].length));
}

/** Rows [y, y + rows) of a frame with its neighbours taken in. */
export function steadyRows(
	own: FrameToSteady,
	beside: readonly Beside[],
	planes: PlanesIn,
	y: number,
	rows: number,
): [Float32Array, Float32Array, Float32Array] {
	const { width, height } = planes;
	const first = Math.max(0, y - MARGIN);
	const high = Math.min(height, y + rows + MARGIN) - first;
	const count = width * high;
	const { traced, clean } = own;
	const floor = FLOOR * own.light + 1e-9;
	const from = first * width;
	const over = new Float32Array(count);
	const light = (r: number, g: number, b: number) => (r + g + b) / 3 + floor;
	for (let i = 0; i < count; i++)
		over[i] = 1 / (3 * light(clean[0][from + i], clean[1][from + i], clean[2][from + i]) ** 2);
	/** Squared distance of light from what was traced, over the light there. */
	const off = (i: number, r: number, g: number, b: number): number => {
		const dr = traced[0][from + i] - r;
		const dg = traced[1][from + i] - g;
		const db = traced[2][from + i] - b;
		return Math.min(MOST, (dr * dr + dg * dg + db * db) * over[i]);
	};
	const ours = new Float32Array(count);
	for (let i = 0; i < count; i++) ours[i] = off(i, clean[0][from + i], clean[1][from + i], clean[2][from + i]);
	const ranges = clean.map((plane) => rangeAbout(plane, width, height, first, high));
	const sums = new Float32Array(3 * count);
	const weights = new Float32Array(count).fill(1);
	for (let i = 0; i < count; i++) for (let c = 0; c < 3; c++) sums[3 * i + c] = clean[c][from + i];
	for (const b of beside) {
		const { laid, there } = lay(own, b, planes, first, high);
		const theirs = new Float32Array(count);
		const same = new Float32Array(count);
		for (let i = 0; i < count; i++) {
			if (!there[i]) continue;
			const mine = light(clean[0][from + i], clean[1][from + i], clean[2][from + i]);
			const other = light(laid[3 * i], laid[3 * i + 1], laid[3 * i + 2]);
			if (other > APART * mine || mine > APART * other) {
				there[i] = 0;
				continue;
			}
			theirs[i] = off(i, laid[3 * i], laid[3 * i + 1], laid[3 * i + 2]);
			same[i] = ours[i];
			for (let c = 0; c < 3; c++) {
				const { least, most } = ranges[c];
				laid[3 * i + c] = Math.min(most[i] * BEYOND, Math.max(least[i] / BEYOND, laid[3 * i + c]));
			}
		}
		const [told, should] = [sumsAround(theirs, width, TOLD), sumsAround(same, width, TOLD)];
		for (let i = 0; i < count; i++) {
			if (!there[i]) continue;
			const surplus = should[i] > 0 ? told[i] / should[i] - 1 : told[i] > 0 ? DIFFERS : 0;
			const share = Math.min(1, Math.max(0, (DIFFERS - surplus) / (DIFFERS - AGREES))) * (COUNTS[b.away] ?? 0);
			weights[i] += share;
			for (let c = 0; c < 3; c++) sums[3 * i + c] += share * laid[3 * i + c];
		}
	}
	const skipped = (y - first) * width;
	const out = [0, 1, 2].map(() => new Float32Array(width * rows)) as [Float32Array, Float32Array, Float32Array];
	for (let i = 0; i < width * rows; i++)
		for (let c = 0; c < 3; c++) out[c][i] = sums[3 * (skipped + i) + c] / weights[skipped + i];
	return out;
}

/** A neighbour laid over rows of a frame, three colours a pixel, and where it shows the same. */
function lay(
	own: FrameToSteady,
	b: Beside,
	{ x: left, y: top, width, height, frame }: PlanesIn,
	first: number,
	high: number,
): { laid: Float32Array; there: Uint8Array } {
	const { right, up, middle, tanX, tanY, position } = own.view;
	const to = b.view;
	const moved = sub(position, to.position);
	/** Of a direction of the frame's view, what goes along an axis of the neighbour's. */
	const along = (axis: Vec3) => ({
		here: dot(moved, axis),
		middle: dot(middle, axis),
		right: dot(right, axis) * tanX,
		up: dot(up, axis) * tanY,
	});
	const [rights, ups, aheads] = [along(to.right), along(to.up), along(to.forward)];
	const laid = new Float32Array(3 * width * high);
	const there = new Uint8Array(width * high);
	for (let j = 0; j < high; j++) {
		const v = 1 - (2 * (top + first + j + 0.5)) / frame.height;
		for (let x = 0; x < width; x++) {
			const i = j * width + x;
			const u = (2 * (left + x + 0.5)) / frame.width - 1;
			const z = own.depth[first * width + i];
			const ahead = aheads.here + z * (aheads.middle + u * aheads.right + v * aheads.up);
			if (!(ahead > 0)) continue;
			const across = rights.here + z * (rights.middle + u * rights.right + v * rights.up);
			const above = ups.here + z * (ups.middle + u * ups.right + v * ups.up);
			const bx = (0.5 + (across / ahead - to.shiftX) / (2 * to.tanX)) * frame.width - left - 0.5;
			const by = (0.5 - (above / ahead - to.shiftY) / (2 * to.tanY)) * frame.height - top - 0.5;
			if (!(bx >= 1 && by >= 1 && bx < width - 2 && by < height - 2)) continue;
			const near = b.depth[Math.round(by) * width + Math.round(bx)];
			if (Math.abs(near / ahead - 1) > SAME_DEPTH) continue;
			there[i] = 1;
			lightAt(b.clean, width, bx, by, laid, 3 * i);
		}
	}
	return { laid, there };
}
