/** Heights out of pictures set right: holes filled, steps of few bits made into slopes. */

/** A picture of half the sides, each value the mean of those under it that count. */
interface Level {
	width: number;
	height: number;
	values: Float32Array;
	/** How much of each pixel counts. */
	weights: Float32Array;
}

function coarser({ width, height, values, weights }: Level): Level {
	const [w, h] = [(width + 1) >> 1, (height + 1) >> 1];
	const out = { width: w, height: h, values: new Float32Array(w * h), weights: new Float32Array(w * h) };
	for (let j = 0; j < h; j++)
		for (let i = 0; i < w; i++) {
			let [sum, weight] = [0, 0];
			for (let n = 0; n < 4; n++) {
				const [a, b] = [2 * i + (n & 1), 2 * j + (n >> 1)];
				if (a >= width || b >= height) continue;
				const at = b * width + a;
				sum += weights[at] * values[at];
				weight += weights[at];
			}
			out.values[j * w + i] = weight > 0 ? sum / weight : 0;
			out.weights[j * w + i] = Math.min(1, weight);
		}
	return out;
}

/** Value of a level between its pixels, at the middle of a pixel of the level twice as fine. */
function between({ width, height, values }: Level, i: number, j: number): number {
	const [a, b] = [(i >> 1) + ((i & 1) === 1 ? 1 : -1), (j >> 1) + ((j & 1) === 1 ? 1 : -1)];
	const [x, y] = [Math.min(width - 1, Math.max(0, a)), Math.min(height - 1, Math.max(0, b))];
	const [p, q] = [(j >> 1) * width, y * width];
	return (9 * values[p + (i >> 1)] + 3 * (values[p + x] + values[q + (i >> 1)]) + values[q + x]) / 16;
}

/**
 * Fills values that are no numbers, or infinite, from those about them: means of ever coarser pictures come back into the holes of
 * the finer ones (pull and push, Gortler and others 1996).
 * @returns How many there were; with all of them nothing is filled.
 */
export function filled(values: Float32Array, width: number, height: number): number {
	let holes = 0;
	for (const v of values) if (!Number.isFinite(v)) holes++;
	if (holes === 0 || holes === values.length) return holes;
	const weights = Float32Array.from(values, (v) => (Number.isFinite(v) ? 1 : 0));
	for (let i = 0; i < values.length; i++) if (weights[i] === 0) values[i] = 0;
	const levels: Level[] = [{ width, height, values, weights }];
	for (let l = levels[0]; l.width > 1 || l.height > 1; l = levels[levels.length - 1]) levels.push(coarser(l));
	for (let n = levels.length - 2; n >= 0; n--) {
		const { width: w, height: h, values: own, weights: counts } = levels[n];
		for (let j = 0; j < h; j++)
			for (let i = 0; i < w; i++) {
				const at = j * w + i;
				if (counts[at] < 1) own[at] = counts[at] * own[at] + (1 - counts[at]) * between(levels[n + 1], i, j);
			}
	}
	return holes;
}

/** Rounds of evening at each size. */
const ROUNDS = 24;

/**
 * Makes slopes of steps: of all pictures that lie within half a `step` of the values, one that is even. It is evened from the coarsest
 * size to the finest, so that treads of any width become slopes, and held to the half step after each round (projected relaxation).
 */
export function slopesOfSteps(values: Float32Array, width: number, height: number, step: number): void {
	const levels: Level[] = [{ width, height, values: values.slice(), weights: new Float32Array(values.length).fill(1) }];
	for (let l = levels[0]; Math.min(l.width, l.height) > 4; l = levels[levels.length - 1]) levels.push(coarser(l));
	let even: Level | null = null;
	for (let n = levels.length - 1; n >= 0; n--) {
		const { width: w, height: h, values: told } = levels[n];
		const own: Float32Array = told.slice();
		const coarse: Level | null = even;
		const held = (at: number, v: number) => Math.min(told[at] + step / 2, Math.max(told[at] - step / 2, v));
		if (coarse) for (let at = 0; at < own.length; at++) own[at] = held(at, between(coarse, at % w, Math.floor(at / w)));
		for (let round = 0; round < ROUNDS; round++) {
			// Two colours of a board in turn, so that each round sees the one before.
			for (let at = 0, j = 0; j < h; j++)
				for (let i = 0; i < w; i++, at++) {
					if (((i + j + round) & 1) === 1) continue;
					const left = own[i > 0 ? at - 1 : at];
					const right = own[i + 1 < w ? at + 1 : at];
					const up = own[j > 0 ? at - w : at];
					const down = own[j + 1 < h ? at + w : at];
					own[at] = held(at, 0.25 * (left + right + up + down));
				}
		}
		even = { width: w, height: h, values: own, weights: levels[n].weights };
	}
	if (even) values.set(even.values);
}
