/**
 * Palette and value structure of a picture, and how far two of them lie apart.
 *
 * Colours are clustered in OKLab (Ottosson 2020), in which equal distances look about equal. Pixels are first gathered in
 * cells of 1/40 of its range, so that cost hardly grows with the picture and a scaled copy gives nearly the same; then
 * k-means (Lloyd 1982) from seeds that are chosen without chance: the heaviest cell, then always the cell of the largest
 * weight times squared distance from the seeds so far (k-means++ of Arthur and Vassilvitskii 2007, by maximum instead of
 * lots). The number of colours is the smallest that leaves less than a given spread. Values are cut by exact
 * one-dimensional k-means over the histogram of L* (Wang and Song 2011). Distances are those of moving earth (Rubner
 * 1998): the least mean distance over which one picture's shares have to be carried to become the other's.
 */
import { LINEAR_OF_BYTE as LINEAR, luminanceOf } from "../colour/linear.ts";
export interface ColourShare {
	/** Linear sRGB. */
	colour: [number, number, number];
	share: number;
}

export interface ValueStep {
	/** L* of CIE 1976. */
	lightness: number;
	share: number;
}

const CELLS = 40;

export function toOklab(r: number, g: number, b: number): [number, number, number] {
	const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
	const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
	const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
	return [
		0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
		1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
		0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
	];
}

export function fromOklab(L: number, a: number, b: number): [number, number, number] {
	const l = (L + 0.3963377774 * a + 0.2158037573 * b) ** 3;
	const m = (L - 0.1055613458 * a - 0.0638541728 * b) ** 3;
	const s = (L - 0.0894841775 * a - 1.291485548 * b) ** 3;
	const unit = (v: number) => Math.min(1, Math.max(0, v));
	return [
		unit(4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s),
		unit(-1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s),
		unit(-0.0041960863 * l - 0.7034186147 * m + 1.707614701 * s),
	];
}

/** L* of a luminance between 0 and 1. */
const lightnessOf = (y: number): number => (y > 216 / 24389 ? 116 * Math.cbrt(y) - 16 : (y * 24389) / 27);

interface Cell {
	lab: [number, number, number];
	weight: number;
}

const distance2 = (a: readonly number[], b: readonly number[]): number =>
	(a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2 + (a[2] - b[2]) ** 2;

/** Of a large picture every so many-th pixel is looked at: more than these tell nothing more of shares. */
const ENOUGH_PIXELS = 1_500_000;
const stride = (pixels: { length: number }): number => 4 * Math.max(1, Math.ceil(pixels.length / 4 / ENOUGH_PIXELS));

/** Gathers pixels of four sRGB bytes; those that are seen through count by their opacity. */
function gather(pixels: Uint8ClampedArray | Uint8Array): Cell[] {
	const sums = new Float64Array(CELLS ** 3 * 4);
	const at = (v: number, low: number, high: number) =>
		Math.min(CELLS - 1, Math.max(0, Math.floor(((v - low) / (high - low)) * CELLS)));
	for (let i = 0, step = stride(pixels); i < pixels.length; i += step) {
		const weight = pixels[i + 3] / 255;
		if (weight === 0) continue;
		const [L, a, b] = toOklab(LINEAR[pixels[i]], LINEAR[pixels[i + 1]], LINEAR[pixels[i + 2]]);
		const k = 4 * ((at(L, 0, 1) * CELLS + at(a, -0.4, 0.4)) * CELLS + at(b, -0.4, 0.4));
		sums[k] += weight * L;
		sums[k + 1] += weight * a;
		sums[k + 2] += weight * b;
		sums[k + 3] += weight;
	}
	const cells: Cell[] = [];
	let all = 0;
	for (let k = 0; k < sums.length; k += 4) all += sums[k + 3];
	for (let k = 0; k < sums.length; k += 4) {
		const w = sums[k + 3];
		if (w > 0) cells.push({ lab: [sums[k] / w, sums[k + 1] / w, sums[k + 2] / w], weight: w / all });
	}
	return cells;
}

interface Clusters {
	middles: [number, number, number][];
	shares: number[];
	/** Mean squared distance of the cells from their middle. */
	spread: number;
}

function cluster(cells: readonly Cell[], count: number): Clusters {
	const middles: [number, number, number][] = [];
	const near = new Float64Array(cells.length).fill(Number.POSITIVE_INFINITY);
	let next = cells.reduce((best, c, i) => (c.weight > cells[best].weight ? i : best), 0);
	while (middles.length < Math.min(count, cells.length)) {
		middles.push([...cells[next].lab]);
		let most = -1;
		cells.forEach((c, i) => {
			near[i] = Math.min(near[i], distance2(c.lab, middles[middles.length - 1]));
			const pull = c.weight * near[i];
			if (pull > most) {
				most = pull;
				next = i;
			}
		});
		if (most <= 0) break;
	}
	const shares = new Array<number>(middles.length).fill(0);
	let spread = 0;
	for (let round = 0; round < 40; round++) {
		const sums = middles.map(() => [0, 0, 0, 0]);
		spread = 0;
		for (const { lab, weight } of cells) {
			let best = 0;
			let least = Number.POSITIVE_INFINITY;
			for (let k = 0; k < middles.length; k++) {
				const d = distance2(lab, middles[k]);
				if (d < least) {
					least = d;
					best = k;
				}
			}
			spread += weight * least;
			for (let j = 0; j < 3; j++) sums[best][j] += weight * lab[j];
			sums[best][3] += weight;
		}
		let moved = 0;
		sums.forEach((s, k) => {
			shares[k] = s[3];
			if (s[3] === 0) return;
			const to: [number, number, number] = [s[0] / s[3], s[1] / s[3], s[2] / s[3]];
			moved = Math.max(moved, distance2(to, middles[k]));
			middles[k] = to;
		});
		if (moved < 1e-10) break;
	}
	return { middles, shares, spread };
}

const FEWEST = 5;
const MOST = 8;
/** Mean distance in OKLab that a palette may leave: about two just noticeable differences. */
const FAIR_SPREAD = 0.035;

/** Five to eight colours with their shares, the largest first. Pixels are four sRGB bytes each. */
export function paletteOf(pixels: Uint8ClampedArray | Uint8Array): ColourShare[] {
	const cells = gather(pixels);
	if (cells.length === 0) return [];
	let found = cluster(cells, FEWEST);
	for (let n = FEWEST + 1; n <= MOST && found.spread > FAIR_SPREAD ** 2; n++) found = cluster(cells, n);
	return found.middles
		.map((m, k) => ({ colour: fromOklab(...m), share: found.shares[k] }))
		.filter((c) => c.share > 0)
		.sort((a, b) => b.share - a.share);
}

/** Shares of the 256 steps of L* from 0 to 100. */
export function lightnessShares(pixels: Uint8ClampedArray | Uint8Array): Float64Array {
	const shares = new Float64Array(256);
	let all = 0;
	for (let i = 0, step = stride(pixels); i < pixels.length; i += step) {
		const weight = pixels[i + 3] / 255;
		const y = luminanceOf(LINEAR[pixels[i]], LINEAR[pixels[i + 1]], LINEAR[pixels[i + 2]]);
		shares[Math.min(255, Math.round(2.55 * lightnessOf(y)))] += weight;
		all += weight;
	}
	if (all > 0) for (let i = 0; i < 256; i++) shares[i] /= all;
	return shares;
}

/** The picture's values in 3, 5 or 7 steps from dark to light, cut where they lie least far from their steps. */
export function valueSteps(pixels: Uint8ClampedArray | Uint8Array, steps: 3 | 5 | 7): ValueStep[] {
	const shares = lightnessShares(pixels);
	const n = 256;
	const w = new Float64Array(n + 1);
	const m = new Float64Array(n + 1);
	const q = new Float64Array(n + 1);
	for (let i = 0; i < n; i++) {
		w[i + 1] = w[i] + shares[i];
		m[i + 1] = m[i] + shares[i] * i;
		q[i + 1] = q[i] + shares[i] * i * i;
	}
	/** Spread of the steps from i up to j (without j) about their mean. */
	const cost = (i: number, j: number): number => {
		const weight = w[j] - w[i];
		return weight <= 1e-12 ? 0 : Math.max(0, q[j] - q[i] - (m[j] - m[i]) ** 2 / weight);
	};
	let best = Float64Array.from({ length: n + 1 }, (_, j) => cost(0, j));
	const cuts: Int16Array[] = [];
	for (let k = 1; k < steps; k++) {
		const now = new Float64Array(n + 1);
		const from = new Int16Array(n + 1);
		for (let j = 1; j <= n; j++) {
			now[j] = best[j];
			from[j] = j;
			for (let i = 1; i < j; i++) {
				const c = best[i] + cost(i, j);
				if (c < now[j] - 1e-15) {
					now[j] = c;
					from[j] = i;
				}
			}
		}
		best = now;
		cuts.push(from);
	}
	const found: ValueStep[] = [];
	let end = n;
	for (let k = steps - 1; k >= 0 && end > 0; k--) {
		const start = k === 0 ? 0 : cuts[k - 1][end];
		const share = w[end] - w[start];
		if (share > 1e-9) found.unshift({ lightness: (m[end] - m[start]) / share / 2.55, share });
		end = start;
	}
	return found;
}

/** Mean distance over which the values of one picture have to be carried to become the other's, in L*. */
export function valueDistance(a: readonly ValueStep[], b: readonly ValueStep[]): number {
	const events = [
		...a.map((v) => ({ at: v.lightness, by: v.share })),
		...b.map((v) => ({ at: v.lightness, by: -v.share })),
	].sort((p, q) => p.at - q.at);
	let sum = 0;
	let held = 0;
	events.forEach((e, i) => {
		if (i > 0) sum += Math.abs(held) * (e.at - events[i - 1].at);
		held += e.by;
	});
	return sum;
}

/**
 * Mean distance over which the colours of one palette have to be carried to become the other's, in hundredths of OKLab's
 * lightness (2 is just noticed side by side). Exact: shortest augmenting paths on the small flow between the two.
 */
export function paletteDistance(a: readonly ColourShare[], b: readonly ColourShare[]): number {
	const total = (p: readonly ColourShare[]) => p.reduce((s, c) => s + c.share, 0);
	const supply = a.map((c) => c.share / total(a));
	const need = b.map((c) => c.share / total(b));
	const la = a.map((c) => toOklab(...c.colour));
	const lb = b.map((c) => toOklab(...c.colour));
	const cost = la.map((p) => lb.map((q) => 100 * Math.sqrt(distance2(p, q))));
	const flow = a.map(() => b.map(() => 0));
	let sum = 0;
	for (let round = 0; round < 500; round++) {
		// Bellman and Ford from all colours that have something left, over the flow that can still be added or taken back.
		const from = [
			...supply.map((s) => (s > 1e-12 ? 0 : Number.POSITIVE_INFINITY)),
			...need.map(() => Number.POSITIVE_INFINITY),
		];
		const before = from.map(() => -1);
		const n = a.length;
		for (let pass = 0, moved = true; moved && pass < from.length; pass++) {
			moved = false;
			for (let i = 0; i < n; i++)
				for (let j = 0; j < b.length; j++) {
					if (from[i] + cost[i][j] < from[n + j] - 1e-12) {
						from[n + j] = from[i] + cost[i][j];
						before[n + j] = i;
						moved = true;
					}
					if (flow[i][j] > 1e-12 && from[n + j] - cost[i][j] < from[i] - 1e-12) {
						from[i] = from[n + j] - cost[i][j];
						before[i] = n + j;
						moved = true;
					}
				}
		}
		let end = -1;
		need.forEach((v, j) => {
			if (v > 1e-12 && (end < 0 || from[n + j] < from[n + end])) end = j;
		});
		if (end < 0 || !Number.isFinite(from[n + end])) break;
		const path: number[] = [n + end];
		while (before[path[0]] >= 0) path.unshift(before[path[0]]);
		let most = Math.min(supply[path[0]], need[end]);
		for (let k = 1; k < path.length; k++) if (path[k] < n) most = Math.min(most, flow[path[k]][path[k - 1] - n]);
		for (let k = 1; k < path.length; k++) {
			const [p, q] = [path[k - 1], path[k]];
			if (p < n) flow[p][q - n] += most;
			else flow[q][p - n] -= most;
		}
		supply[path[0]] -= most;
		need[end] -= most;
		sum += most * from[n + end];
	}
	return sum;
}
