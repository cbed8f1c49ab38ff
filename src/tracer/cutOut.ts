/** What lies in a rectangle of a picture, row by row: rows are copied, which is several times as fast as pixel by pixel. */

/** A rectangle, whose rows and columns may lie beyond the picture. */
export interface Cut {
	x: number;
	y: number;
	width: number;
	height: number;
}

/** Copies a plane of so many columns into one of the rectangle's size. Beyond the edges of the plane its last pixels come again. */
export function cutOut(
	from: Float32Array | Uint32Array,
	columns: number,
	{ x, y, width, height }: Cut,
	to: Float32Array,
): Float32Array {
	const last = from.length / columns - 1;
	const [left, right] = [0, columns].map((edge) => Math.min(width, Math.max(0, edge - x)));
	for (let r = 0; r < height; r++) {
		const row = Math.min(last, Math.max(0, y + r)) * columns;
		const at = r * width;
		to.set(from.subarray(row + x + left, row + x + right), at + left);
		to.fill(from[row], at, at + left);
		to.fill(from[row + columns - 1], at + right, at + width);
	}
	return to;
}
