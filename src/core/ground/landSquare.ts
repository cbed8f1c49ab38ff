/**
 * A square of the land as other programs take it: heights at pixel centres, top row towards −z, left column −x, and masks that
 * tell more of it.
 */
import type { Ground, Water } from "../doc/schema.ts";
import { atan, clamp, DEG, log, pow } from "../maths/functions.ts";
import { groundHeight, onPaths, wornAt } from "./height.ts";
import { groundTint } from "./tint.ts";

export interface SquareOf {
	/** Its middle: right and towards, metres. */
	x: number;
	z: number;
	/** Its side, metres and pixels. */
	metres: number;
	size: number;
}

export interface LandSquare extends SquareOf {
	/** Metres over level zero. */
	heights: Float32Array;
	leastM: number;
	mostM: number;
	metresPerPixel: number;
}

/** Place of the middle of a pixel, right and towards, metres. */
function placeOf({ x, z, metres, size }: SquareOf, i: number, j: number): [number, number] {
	const step = metres / size;
	return [x + (i + 0.5) * step - metres / 2, z + (j + 0.5) * step - metres / 2];
}

/** Rows between two tellings. */
const ROWS = 16;

/** Tells now and then which share of the square's heights is there. */
export function* landSteps(ground: Ground, of: SquareOf): Generator<number, LandSquare> {
	const { metres, size } = of;
	const heights = new Float32Array(size * size);
	let [leastM, mostM] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
	for (let j = 0; j < size; j++) {
		if (j % ROWS === 0) yield j / size;
		for (let i = 0; i < size; i++) {
			const at = j * size + i;
			heights[at] = groundHeight(ground, ...placeOf(of, i, j));
			leastM = Math.min(leastM, heights[at]);
			mostM = Math.max(mostM, heights[at]);
		}
	}
	return { ...of, heights, leastM, mostM, metresPerPixel: metres / size };
}

export function landSquare(ground: Ground, of: SquareOf): LandSquare {
	const steps = landSteps(ground, of);
	for (;;) {
		const step = steps.next();
		if (step.done) return step.value;
	}
}

/** Rise over run along x and along z by central differences (Horn 1981 weighs rows; here one row tells it), one-sided at the edge. */
function gradient({ heights, size, metresPerPixel }: LandSquare, i: number, j: number): [number, number] {
	const at = (a: number, b: number) => heights[clamp(b, 0, size - 1) * size + clamp(a, 0, size - 1)];
	const [left, right] = [Math.max(0, i - 1), Math.min(size - 1, i + 1)];
	const [up, down] = [Math.max(0, j - 1), Math.min(size - 1, j + 1)];
	return [
		(at(right, j) - at(left, j)) / Math.max(1, right - left) / metresPerPixel,
		(at(i, down) - at(i, up)) / Math.max(1, down - up) / metresPerPixel,
	];
}

const each = (square: LandSquare, value: (i: number, j: number) => number): Float32Array =>
	Float32Array.from({ length: square.size ** 2 }, (_, at) => value(at % square.size, Math.floor(at / square.size)));

/** Pixels about a place by whose mean it is told how far it lies in a hollow, and the depth, in pixels, that is all of it. */
const HOLLOW_PX = 4;
const HOLLOW_FULL = 0.5;

/** How strongly water prefers the steeper of two ways down (Freeman 1991). */
const STEEPER = 1.1;

/**
 * The area from which water comes by each place, pixels, itself included: from the highest to the lowest each place gives what it
 * has to all lower neighbours, by their slopes (multiple flow directions, Freeman 1991). What reaches a pit stays there.
 */
export function flowOf({ heights, size }: Pick<LandSquare, "heights" | "size">): Float64Array {
	const order = Uint32Array.from(heights.keys()).sort((a, b) => heights[b] - heights[a] || a - b);
	const area = new Float64Array(size * size).fill(1);
	const [to, weights] = [new Int32Array(8), new Float64Array(8)];
	for (const at of order) {
		const [i, j] = [at % size, Math.floor(at / size)];
		let [count, sum] = [0, 0];
		for (let n = 0; n < 9; n++) {
			const [di, dj] = [(n % 3) - 1, Math.floor(n / 3) - 1];
			const [a, b] = [i + di, j + dj];
			if ((di === 0 && dj === 0) || a < 0 || b < 0 || a >= size || b >= size) continue;
			const down = heights[at] - heights[b * size + a];
			if (down <= 0) continue;
			// Straight ways have a longer edge to the neighbour than askew ones.
			const askew = di !== 0 && dj !== 0;
			const weight = pow(askew ? down / Math.SQRT2 : down, STEEPER) * (askew ? 0.354 : 0.5);
			[to[count], weights[count]] = [b * size + a, weight];
			sum += weight;
			count++;
		}
		for (let k = 0; k < count; k++) area[to[k]] += (area[at] * weights[k]) / sum;
	}
	return area;
}

/** Heights as shares between the least and the most. */
export function shareOfHeight({ heights, leastM, mostM }: LandSquare): Float64Array {
	const range = mostM - leastM || 1;
	return Float64Array.from(heights, (h) => (h - leastM) / range);
}

function worn(square: LandSquare, ground: Ground, which: "takenM" | "laidM"): Mask {
	const at = wornAt(ground);
	const all = each(square, (i, j) => at(...placeOf(square, i, j))[which]);
	const most = all.reduce((m, v) => Math.max(m, v), 0) || 1;
	return all.map((v) => v / most);
}

/** Shares of 0 to 1, one a pixel. */
export type Mask = Float32Array | Float64Array;

export const MASKS: Record<string, (square: LandSquare, ground: Ground, water: Water) => Mask> = {
	/** From the lowest to the highest of the square. */
	height: shareOfHeight,
	/** Level is 0, upright 1. */
	slope: (square) =>
		each(square, (i, j) => {
			const [dx, dz] = gradient(square, i, j);
			return atan(Math.sqrt(dx * dx + dz * dz)) / (90 * DEG);
		}),
	/** How far it lies below its surroundings. */
	hollow: (square) =>
		each(square, (i, j) => {
			let [sum, count] = [0, 0];
			for (let n = 0; n < 8; n++) {
				// The eight about it; the fifth of nine is its own.
				const m = n < 4 ? n : n + 1;
				const [a, b] = [i + HOLLOW_PX * ((m % 3) - 1), j + HOLLOW_PX * (Math.floor(m / 3) - 1)];
				if (a < 0 || b < 0 || a >= square.size || b >= square.size) continue;
				sum += square.heights[b * square.size + a];
				count++;
			}
			const under = sum / Math.max(1, count) - square.heights[j * square.size + i];
			return clamp(under / (HOLLOW_FULL * HOLLOW_PX * square.metresPerPixel), 0, 1);
		}),
	/** Water that comes by: its own pixel alone is 0, all of the square 1, by the logarithm between. */
	flow: (square) => {
		const most = log(square.size ** 2);
		return Float32Array.from(flowOf(square), (a) => clamp(log(a) / most, 0, 1));
	},
	/** How much has been worn away, and how much of it was laid, as shares of the most of the square. */
	wear: (square, ground) => worn(square, ground, "takenM"),
	laid: (square, ground) => worn(square, ground, "laidM"),
	/** On a path. */
	path: (square, ground) => {
		const on = onPaths(ground);
		return each(square, (i, j) => on?.(...placeOf(square, i, j)) ?? 0);
	},
	/** Under still water, and by its shore. */
	wet: (square, ground, water) =>
		each(square, (i, j) => {
			const [x, z] = placeOf(square, i, j);
			return groundTint(ground, water, x, square.heights[j * square.size + i], z, 0).wet;
		}),
};

/** Words of what a square may be taken as; its heights in metres and its triangles before its masks. */
export const MASK_WORDS: Record<string, string> = Object.fromEntries(
	Object.keys(MASKS).map((mask) => [mask, mask === "height" ? "heights as grey" : mask]),
);
export const LAND_WORDS = ["heights", "triangles", ...Object.values(MASK_WORDS)];

/** The square as triangles, one vertex a pixel, in metres, as text of an OBJ file, some lines at a time. */
export function* squareObj(square: LandSquare): Generator<string> {
	const { size, heights } = square;
	yield "# Land. Metres; right is x, up is y, towards is z.\no land\n";
	for (let j = 0; j < size; j++) {
		let lines = "";
		for (let i = 0; i < size; i++) {
			const [x, z] = placeOf(square, i, j);
			lines += `v ${x.toFixed(4)} ${heights[j * size + i].toFixed(4)} ${z.toFixed(4)}\n`;
		}
		yield lines;
	}
	for (let j = 0; j + 1 < size; j++) {
		let lines = "";
		for (let i = 0; i + 1 < size; i++) {
			const a = j * size + i + 1;
			lines += `f ${a} ${a + size} ${a + 1}\nf ${a + 1} ${a + size} ${a + size + 1}\n`;
		}
		yield lines;
	}
}
