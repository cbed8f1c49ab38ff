/** Pictures without the bend of their lens. */
import { bent } from "../maths/division.ts";

export interface Pixels {
	/** Rows from the top, `channels` bytes a pixel. */
	data: Uint8Array | Uint8ClampedArray;
	width: number;
	height: number;
	channels: number;
}

/**
 * Fills rows of the straight picture from the bent one, between the four nearest pixels. Where it reaches beyond the bent
 * picture it is seen through, so a picture bent like a cushion (k above 0) needs a channel for that.
 */
export function straightenRows(
	from: Pixels,
	k: number,
	out: Uint8Array | Uint8ClampedArray,
	firstRow: number,
	endRow: number,
): void {
	const { data, width, height, channels } = from;
	const radius = Math.sqrt(width * width + height * height) / 2;
	const [cx, cy] = [width / 2, height / 2];
	for (let y = firstRow; y < endRow; y++)
		for (let x = 0; x < width; x++) {
			const [u, v] = bent([x + 0.5 - cx, y + 0.5 - cy], k, radius);
			const sx = u + cx - 0.5;
			const sy = v + cy - 0.5;
			const to = (y * width + x) * channels;
			if (sx < -0.5 || sy < -0.5 || sx > width - 0.5 || sy > height - 0.5) {
				for (let c = 0; c < channels; c++) out[to + c] = 0;
				continue;
			}
			const x0 = Math.min(width - 1, Math.max(0, Math.floor(sx)));
			const y0 = Math.min(height - 1, Math.max(0, Math.floor(sy)));
			const x1 = Math.min(width - 1, x0 + 1);
			const y1 = Math.min(height - 1, y0 + 1);
			const a = Math.min(1, Math.max(0, sx - x0));
			const b = Math.min(1, Math.max(0, sy - y0));
			const [p, q, r, s] = [
				(y0 * width + x0) * channels,
				(y0 * width + x1) * channels,
				(y1 * width + x0) * channels,
				(y1 * width + x1) * channels,
			];
			for (let c = 0; c < channels; c++)
				out[to + c] =
					(data[p + c] * (1 - a) + data[q + c] * a) * (1 - b) + (data[r + c] * (1 - a) + data[s + c] * a) * b + 0.5;
		}
}
