/**
 * Specks: pixels that one rare path has made far brighter than all around them, in one half of their samples alone. Before
 * the noise is taken out their surplus is spread over the like surfaces about them, so that no light is lost (but what
 * would be a glow of its own) and nothing is left for the averages to smear into squares. What shines in both halves (a
 * lamp, a glint) is no speck and stays, and so does what has bright neighbours (the edge of a lamp, which few samples have
 * met in one half alone).
 */
import { luminanceOf } from "../core/colour/linear.ts";
import type { Picture } from "../core/scene/picture.ts";
import { N_SKY } from "./kernel/layout.ts";

/** How much brighter a half is than the other half, and than its surroundings, to be a speck. */
const OVER_HALF = 2.5;
const OVER_AROUND = 3;
/** What a speck keeps, as a multiple of its surroundings. */
const KEEPS = 1.5;
/** Albedos that lie apart by more than this are those of different things. */
const UNLIKE = 2.5;
/** Of the values of both halves in 5 × 5 pixels the brightest are left out of the mean. */
const LEFT_OUT = 10;
/**
 * A pixel with company of this brightness, as a share of its own, belongs to something bright: a lamp's edge, a glint, a mirror
 * image that few samples have met. Those beside it count more.
 */
const COMPANY = 0.05;
const BESIDE = 1.5;
const COMPANIONS = 3;
/**
 * How far a speck is spread: so far that its middle gains no more than RISE of what lies about it, within these bounds.
 * Standard deviation in pixels; beyond REACH of them nothing is given. What would raise even the widest surroundings by
 * more is left out, and stays in what was traced alone: one path in a million that has met the sun itself by way of rough
 * glass, as bright as a hundred thousand of its neighbours, would be a glow as large as a hand.
 *
 * Measured at 320 px, cleaned, FLIP with all of it given and with what is more left out: lantern at 4 samples .136 and
 * .111, at 32 .0816 and .0748; bottles at 32 (one such path) .0660 and .0180. The mean of the lantern at 32 is .985 of
 * the truth's, .975 as traced. With RISE given whatever the speck has, and with that times the share which it is of
 * all (as now): lantern at 8 .0941 and .0918, at 32 .0759 and .0742 (mean .993 and .992), bottles at 8 .0285 and .0265, at
 * 32 .0192 and .0164 (as traced .0170).
 */
const RISE = 0.04;
const NARROWEST = 9;
const WIDEST = 25;
const REACH = 2.2;
/** Pixels at most that a speck is spread over, each way. */
export const SPECK_REACH = Math.round(WIDEST * REACH);

/** Mean of both halves about a pixel, itself and the brightest left out. */
function around(a: Float32Array, b: Float32Array, width: number, height: number, x: number, y: number): number {
	const top = new Array<number>(LEFT_OUT).fill(0);
	let sum = 0;
	let count = 0;
	for (let j = Math.max(0, y - 2); j <= Math.min(height - 1, y + 2); j++) {
		for (let i = Math.max(0, x - 2); i <= Math.min(width - 1, x + 2); i++) {
			if (i === x && j === y) continue;
			for (const v of [a[j * width + i], b[j * width + i]]) {
				sum += v;
				count++;
				if (v <= top[0]) continue;
				let k = 0;
				while (k + 1 < LEFT_OUT && top[k + 1] < v) {
					top[k] = top[k + 1];
					k++;
				}
				top[k] = v;
			}
		}
	}
	for (const v of top) sum -= v;
	return sum / Math.max(1, count - LEFT_OUT);
}

/** Whether two of the eight neighbours of a pixel, or more of those around them, are as bright as a level in one of their halves. */
function hasCompany(
	a: Float32Array,
	b: Float32Array,
	width: number,
	height: number,
	x: number,
	y: number,
	level: number,
): boolean {
	let count = 0;
	for (let j = Math.max(0, y - 2); j <= Math.min(height - 1, y + 2); j++) {
		for (let i = Math.max(0, x - 2); i <= Math.min(width - 1, x + 2); i++) {
			const near = Math.abs(i - x) < 2 && Math.abs(j - y) < 2;
			if ((i === x && j === y) || !(Math.max(a[j * width + i], b[j * width + i]) >= level)) continue;
			count += near ? BESIDE : 1;
			if (count >= COMPANIONS) return true;
		}
	}
	return false;
}

/** The picture with its specks spread; the same one when it has none. Planes other than light and its noise are shared. */
export function spreadSpecks(p: Picture): Picture {
	const { width, height, rgb, halves } = p;
	const n = width * height;
	const even = new Float32Array(n);
	const odd = new Float32Array(n);
	for (let i = 0; i < n; i++) {
		const mean = luminanceOf(rgb[0][i], rgb[1][i], rgb[2][i]);
		const half = luminanceOf(halves[0][i], halves[1][i], halves[2][i]);
		even[i] = mean - half;
		odd[i] = mean + half;
	}
	let out: Picture | null = null;
	for (let i = 0; i < n; i++) {
		const high = Math.max(even[i], odd[i]);
		if (!(high > OVER_HALF * Math.min(even[i], odd[i]))) continue;
		const x = i % width;
		const y = (i - x) / width;
		if (hasCompany(even, odd, width, height, x, y, COMPANY * high)) continue;
		const base = around(even, odd, width, height, x, y);
		if (high <= OVER_AROUND * base || base <= 0) continue;
		out ??= {
			...p,
			rgb: rgb.map((c) => c.slice()) as Picture["rgb"],
			halves: halves.map((c) => c.slice()) as Picture["halves"],
			error: p.error.slice(),
		};
		spread(p, out, x, y, odd[i] > even[i] ? 1 : -1, 1 - (KEEPS * base) / high, base);
	}
	return out ?? p;
}

/** Weights of one speck's surroundings. */
const weights = new Float32Array((2 * SPECK_REACH + 1) ** 2);
const fall = new Float32Array(2 * SPECK_REACH + 1);

/** Spreads a share of one half of a pixel (1 odd, −1 even) over its surroundings. */
function spread(from: Picture, to: Picture, x: number, y: number, half: 1 | -1, share: number, base: number): void {
	const { width, height, normal, nearness, albedo } = from;
	const own = y * width + x;
	const lit = (c: number) => from.rgb[c][own] + half * from.halves[c][own];
	const high = luminanceOf(lit(0), lit(1), lit(2));
	// A half's light is half of the mean's.
	const sigma = Math.min(WIDEST, Math.max(NARROWEST, Math.sqrt((share * high) / 2 / (2 * Math.PI * RISE * base))));
	const reach = Math.min(SPECK_REACH, Math.ceil(REACH * sigma));
	for (let k = 0; k <= 2 * reach; k++) fall[k] = Math.exp(-((k - reach) ** 2) / (2 * sigma * sigma));
	const pale = (i: number) => albedo[0][i] + albedo[1][i] + albedo[2][i] + 0.02;
	const weigh = (i: number, k: number): number => {
		const facing = normal[0][i] * normal[0][own] + normal[1][i] * normal[1][own] + normal[2][i] * normal[2][own];
		const level = Math.abs(nearness[i] - nearness[own]) <= 0.15 * nearness[own] + 1e-9 ? 1 : 0.02;
		// Light that falls on a paler neighbour is sent back more; one that is far paler or darker is another thing (behind the same pane).
		const ratio = pale(i) / pale(own);
		const alike = ratio > 1 / UNLIKE && ratio < UNLIKE ? 1 : 0.02;
		return k * level * alike * (facing > 0.8 || nearness[own] < N_SKY ? 1 : 0.02) * Math.min(2, ratio);
	};
	const [x0, x1, y0, y1] = [
		Math.max(0, x - reach),
		Math.min(width - 1, x + reach),
		Math.max(0, y - reach),
		Math.min(height - 1, y + reach),
	];
	let all = 0;
	let n = 0;
	for (let j = y0; j <= y1; j++) {
		for (let i = x0; i <= x1; i++) {
			weights[n] = weigh(j * width + i, fall[i - x + reach] * fall[j - y + reach]);
			all += weights[n++];
		}
	}
	const surplus = [0, 1, 2].map((c) => (share * (from.rgb[c][own] + half * from.halves[c][own])) / 2);
	// The rarer the path, the less it tells of what lies about it: of what is far too much, next to nothing is given.
	const room = Math.min(1, (2 * RISE * Math.PI * sigma * sigma * base) / ((share * high) / 2));
	const given = room * room;
	for (let c = 0; c < 3; c++) {
		const mean = to.rgb[c];
		const difference = to.halves[c];
		mean[own] -= surplus[c];
		difference[own] -= half * surplus[c];
		const k = (given * surplus[c]) / all;
		n = 0;
		for (let j = y0; j <= y1; j++) {
			for (let at = j * width + x0; at <= j * width + x1; at++) {
				const part = k * weights[n++];
				mean[at] += part;
				difference[at] += half * part;
			}
		}
	}
	to.error[own] = Math.min(to.error[own], base);
}
