/**
 * How much of the frame is empty: where the eye may rest. The frame is cut into cells of 1/48 of its width; a cell is
 * empty when the lightness in it hardly varies (a standard deviation below 1.6 L*, about what a soft sky or still water
 * has). Thirds are counted from left to right; the focal point's surroundings are a disc of a sixth of the width.
 */
import { LINEAR_OF_BYTE as LINEAR, luminanceOf } from "../colour/linear.ts";
export interface Emptiness {
	/** Empty share of the left, middle and right third, 0 to 1. */
	thirds: [number, number, number];
	/** Empty share around the focal point, null when none is marked. */
	focal: number | null;
}

const CELLS = 48;
const STILL = 1.6;

/** `pixels` are four sRGB bytes each. The focal point is given in shares of the frame. */
export function emptinessOf(
	pixels: Uint8ClampedArray,
	width: number,
	height: number,
	focal: readonly [number, number] | null,
): Emptiness {
	const size = width / CELLS;
	const rows = Math.max(1, Math.round(height / size));
	const n = new Float64Array(CELLS * rows);
	const sum = new Float64Array(CELLS * rows);
	const squares = new Float64Array(CELLS * rows);
	for (let y = 0; y < height; y++)
		for (let x = 0; x < width; x++) {
			const i = 4 * (y * width + x);
			const Y = luminanceOf(LINEAR[pixels[i]], LINEAR[pixels[i + 1]], LINEAR[pixels[i + 2]]);
			const L = Y > 0.008856 ? 116 * Math.cbrt(Y) - 16 : 903.3 * Y;
			const cell =
				Math.min(rows - 1, Math.floor((y / height) * rows)) * CELLS +
				Math.min(CELLS - 1, Math.floor((x / width) * CELLS));
			n[cell]++;
			sum[cell] += L;
			squares[cell] += L * L;
		}
	const counts = [0, 0, 0];
	const empty = [0, 0, 0];
	let around = 0;
	let emptyAround = 0;
	for (let row = 0; row < rows; row++)
		for (let column = 0; column < CELLS; column++) {
			const cell = row * CELLS + column;
			if (n[cell] === 0) continue;
			const mean = sum[cell] / n[cell];
			const still = Math.max(0, squares[cell] / n[cell] - mean * mean) < STILL * STILL ? 1 : 0;
			const third = Math.min(2, Math.floor((3 * column) / CELLS));
			counts[third]++;
			empty[third] += still;
			if (focal) {
				const dx = (column + 0.5) / CELLS - focal[0];
				const dy = (((row + 0.5) / rows - focal[1]) * height) / width;
				if (Math.hypot(dx, dy) < 1 / 6) {
					around++;
					emptyAround += still;
				}
			}
		}
	return {
		thirds: counts.map((c, i) => (c ? empty[i] / c : 0)) as [number, number, number],
		focal: focal && around ? emptyAround / around : null,
	};
}
