/**
 * How much a picture repeats itself: the highest peak of its normalised autocorrelation (Lewis 1995, "Fast normalized cross-correlation")
 * away from no shift at all, after what changes slowly over it has been taken away. 1 is a picture that comes again exactly, noise of
 * its own is near 0.
 */

export interface Repeats {
	/** −1 to 1. */
	share: number;
	/** By how much it has to be shifted for that, pixels. */
	right: number;
	down: number;
}

/** What is looked at is reduced to so many pixels across. */
const ACROSS = 96;
/** Shifts by less than this share of the width are the picture's own grain; by more than half of it too little is left. */
const LEAST = 0.06;
const MOST = 0.5;
/** Width of what changes slowly, as a share. */
const SLOW = 0.25;

function reduced(light: ArrayLike<number>, width: number, height: number, step: number): Float64Array {
	const [w, h] = [Math.floor(width / step), Math.floor(height / step)];
	const out = new Float64Array(w * h);
	for (let y = 0; y < h * step; y++)
		for (let x = 0; x < w * step; x++)
			out[Math.floor(y / step) * w + Math.floor(x / step)] += light[y * width + x] / (step * step);
	return out;
}

/** Less its mean about each place. */
function withoutSlow(light: Float64Array, w: number, h: number): Float64Array {
	const r = Math.max(2, Math.round((SLOW * w) / 2));
	const sums = new Float64Array((w + 1) * (h + 1));
	for (let y = 0; y < h; y++)
		for (let x = 0; x < w; x++)
			sums[(y + 1) * (w + 1) + x + 1] =
				light[y * w + x] + sums[y * (w + 1) + x + 1] + sums[(y + 1) * (w + 1) + x] - sums[y * (w + 1) + x];
	return light.map((v, i) => {
		const [x, y] = [i % w, Math.floor(i / w)];
		const [x0, x1, y0, y1] = [Math.max(0, x - r), Math.min(w, x + r + 1), Math.max(0, y - r), Math.min(h, y + r + 1)];
		const at = (a: number, b: number) => sums[b * (w + 1) + a];
		return v - (at(x1, y1) - at(x0, y1) - at(x1, y0) + at(x0, y0)) / ((x1 - x0) * (y1 - y0));
	});
}

/** The shift by which a picture of one number a pixel is most like itself. */
export function repeatsOf(light: ArrayLike<number>, width: number, height: number): Repeats {
	const step = Math.max(1, Math.round(width / ACROSS));
	const [w, h] = [Math.floor(width / step), Math.floor(height / step)];
	const plain = withoutSlow(reduced(light, width, height, step), w, h);
	const [least, most] = [LEAST * w, MOST * w];
	let best: Repeats = { share: -1, right: 0, down: 0 };
	for (let dy = 0; dy <= Math.min(most, h / 2); dy++)
		for (let dx = -Math.floor(most); dx <= most; dx++) {
			const far = dx * dx + dy * dy;
			if (far < least * least || (dy === 0 && dx < 0)) continue;
			let [both, here, there] = [0, 0, 0];
			for (let y = 0; y + dy < h; y++)
				for (let x = Math.max(0, -dx); x < Math.min(w, w - dx); x++) {
					const [a, b] = [plain[y * w + x], plain[(y + dy) * w + x + dx]];
					both += a * b;
					here += a * a;
					there += b * b;
				}
			const share = both / Math.sqrt(here * there || 1);
			if (share > best.share) best = { share, right: dx * step, down: dy * step };
		}
	return best;
}
