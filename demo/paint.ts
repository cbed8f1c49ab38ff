/** A painterly filter: of the four squares that meet at a pixel, the calmest gives its mean (Kuwahara et al. 1976). */

/** Paints over 8-bit RGBA rows with strokes of about `radius` pixels. */
export function paint(pixels: Uint8ClampedArray, width: number, height: number, radius = 4): Uint8ClampedArray {
	const out = new Uint8ClampedArray(pixels.length);
	const sums = [0, 1, 2, 3].map(() => new Float64Array((width + 1) * (height + 1)));
	for (let y = 0; y < height; y++) {
		const row = [0, 0, 0, 0];
		for (let x = 0; x < width; x++) {
			const i = (y * width + x) * 4;
			const l = 0.3 * pixels[i] + 0.59 * pixels[i + 1] + 0.11 * pixels[i + 2];
			const values = [pixels[i], pixels[i + 1], pixels[i + 2], l * l];
			for (let c = 0; c < 4; c++) {
				row[c] += values[c];
				sums[c][(y + 1) * (width + 1) + x + 1] = sums[c][y * (width + 1) + x + 1] + row[c];
			}
		}
	}
	const box = (c: number, x0: number, y0: number, x1: number, y1: number) =>
		sums[c][y1 * (width + 1) + x1] -
		sums[c][y0 * (width + 1) + x1] -
		sums[c][y1 * (width + 1) + x0] +
		sums[c][y0 * (width + 1) + x0];
	for (let y = 0; y < height; y++) {
		for (let x = 0; x < width; x++) {
			let least = Infinity;
			const i = (y * width + x) * 4;
			for (const [dx, dy] of [
				[-radius, -radius],
				[0, -radius],
				[-radius, 0],
				[0, 0],
			]) {
				const x0 = Math.max(0, x + dx);
				const y0 = Math.max(0, y + dy);
				const x1 = Math.min(width, x + dx + radius + 1);
				const y1 = Math.min(height, y + dy + radius + 1);
				const n = (x1 - x0) * (y1 - y0);
				const [r, g, b, ll] = [0, 1, 2, 3].map((c) => box(c, x0, y0, x1, y1) / n);
				const l = 0.3 * r + 0.59 * g + 0.11 * b;
				const variance = ll - l * l;
				if (variance >= least) continue;
				least = variance;
				out[i] = r;
				out[i + 1] = g;
				out[i + 2] = b;
			}
			out[i + 3] = 255;
		}
	}
	return out;
}
