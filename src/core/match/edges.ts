/**
 * Straight edges of a picture: found by themselves, or a drawn line fitted to the edge that it lies on.
 *
 * Finding: pixels are joined while the direction of their gradient agrees within 22.5°, from the strongest on, and each
 * region becomes the rectangle about its weighted axis (the line segment detector of Grompone von Gioi, Jakubowicz, Morel
 * and Randall 2010, without its count of false alarms: short and thin regions are dropped by size instead). Large pictures
 * are looked at in a copy of at most 1,600 pixels, which hides the grain and keeps the time below a second.
 * Fitting: across the line, at places along it, the steepest change of brightness of the line's own sign is found to
 * a fraction of a pixel (parabola through the peak), and the straight line of least squares laid through them, in which
 * places that are far off count little (Tukey's weights).
 */

export interface GreyPicture {
	width: number;
	height: number;
	/** Brightness, 0 to 255. */
	grey: Uint8Array | Float32Array;
}

export type EdgeSegment = readonly [number, number, number, number];

export interface FoundEdge {
	segment: EdgeSegment;
	/** Mean change of brightness across it, per pixel of the copy that was looked at. */
	strength: number;
}

/** Brightness of pixels of four bytes. */
export function greyOf(pixels: Uint8ClampedArray | Uint8Array, width: number, height: number): GreyPicture {
	const grey = new Uint8Array(width * height);
	for (let i = 0, k = 0; i < grey.length; i++, k += 4)
		grey[i] = (pixels[k] * 54 + pixels[k + 1] * 183 + pixels[k + 2] * 19) >> 8;
	return { width, height, grey };
}

/** A copy whose pixels are the means of those that they cover, by a whole divisor. */
export function halvedBy(picture: GreyPicture, by: number): GreyPicture {
	if (by <= 1) return picture;
	const width = Math.floor(picture.width / by);
	const height = Math.floor(picture.height / by);
	const grey = new Float32Array(width * height);
	for (let y = 0; y < height; y++)
		for (let x = 0; x < width; x++) {
			let sum = 0;
			for (let v = 0; v < by; v++) {
				const row = (y * by + v) * picture.width + x * by;
				for (let u = 0; u < by; u++) sum += picture.grey[row + u];
			}
			grey[y * width + x] = sum / (by * by);
		}
	return { width, height, grey };
}

/** Smooths by the binomial of five (standard deviation 1), along and across. */
function smoothed({ width, height, grey }: GreyPicture): Float32Array {
	const across = new Float32Array(width * height);
	const out = new Float32Array(width * height);
	for (let y = 0; y < height; y++) {
		const row = y * width;
		const last = width - 1;
		for (let x = 0; x < width; x++) {
			const [a, b, d, e] =
				x < 2 || x > last - 2
					? [Math.max(0, x - 2), Math.max(0, x - 1), Math.min(last, x + 1), Math.min(last, x + 2)]
					: [x - 2, x - 1, x + 1, x + 2];
			across[row + x] = (grey[row + a] + grey[row + e] + 4 * (grey[row + b] + grey[row + d]) + 6 * grey[row + x]) / 16;
		}
	}
	for (let y = 0; y < height; y++) {
		const at = (v: number) => Math.min(height - 1, Math.max(0, v)) * width;
		const [a, b, c, d, e] = [at(y - 2), at(y - 1), at(y), at(y + 1), at(y + 2)];
		for (let x = 0; x < width; x++)
			out[c + x] = (across[a + x] + across[e + x] + 4 * (across[b + x] + across[d + x]) + 6 * across[c + x]) / 16;
	}
	return out;
}

const LONGEST_SIDE = 1600;
const TOLERANCE = Math.PI / 8;
/** Least gradient: below it grain that is left after smoothing (about 0.8) turns its direction by the tolerance. */
const LEAST_GRADIENT = 0.8 / Math.sin(TOLERANCE);
/** Least length of an edge as a share of the picture's diagonal. */
const LEAST_LENGTH = 0.025;
const LEAST_SLENDER = 5;

/** Straight edges in pixels from the top-left corner, the longest first. */
export function findEdges(picture: GreyPicture): FoundEdge[] {
	const by = Math.max(1, Math.ceil(Math.max(picture.width, picture.height) / LONGEST_SIDE));
	const reduced = halvedBy(picture, by);
	const { width, height } = reduced;
	if (width < 8 || height < 8) return [];
	const grey = smoothed(reduced);
	const n = width * height;
	const angle = new Float32Array(n);
	const strength = new Float32Array(n);
	let most = 0;
	for (let y = 0; y < height - 1; y++)
		for (let x = 0; x < width - 1; x++) {
			const i = y * width + x;
			const [a, b, c, d] = [grey[i], grey[i + 1], grey[i + width], grey[i + width + 1]];
			const gx = (b + d - a - c) / 2;
			const gy = (c + d - a - b) / 2;
			const g = Math.sqrt(gx * gx + gy * gy);
			if (g < LEAST_GRADIENT) continue;
			strength[i] = g;
			angle[i] = Math.atan2(gx, -gy);
			if (g > most) most = g;
		}
	if (most === 0) return [];
	// Strongest first, by counting into 1,024 bins.
	const BINS = 1024;
	const bin = (i: number) => Math.min(BINS - 1, Math.floor((strength[i] / most) * BINS));
	const heads = new Int32Array(BINS + 1);
	for (let i = 0; i < n; i++) if (strength[i] > 0) heads[BINS - 1 - bin(i) + 1]++;
	for (let b = 0; b < BINS; b++) heads[b + 1] += heads[b];
	const order = new Int32Array(heads[BINS]);
	const fill = heads.slice();
	for (let i = 0; i < n; i++) if (strength[i] > 0) order[fill[BINS - 1 - bin(i)]++] = i;

	const used = new Uint8Array(n);
	const region = new Int32Array(n);
	const least = LEAST_LENGTH * Math.hypot(width, height);
	const found: FoundEdge[] = [];
	for (const seed of order) {
		if (used[seed]) continue;
		let size = 1;
		region[0] = seed;
		used[seed] = 1;
		let sumCos = Math.cos(angle[seed]);
		let sumSin = Math.sin(angle[seed]);
		let mean = angle[seed];
		for (let k = 0; k < size; k++) {
			const i = region[k];
			const x = i % width;
			const y = (i - x) / width;
			for (let v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1); v++)
				for (let u = Math.max(0, x - 1); u <= Math.min(width - 1, x + 1); u++) {
					const j = v * width + u;
					if (used[j] || strength[j] === 0) continue;
					let turn = Math.abs(angle[j] - mean);
					if (turn > Math.PI) turn = 2 * Math.PI - turn;
					if (turn > TOLERANCE) continue;
					used[j] = 1;
					region[size++] = j;
					sumCos += Math.cos(angle[j]);
					sumSin += Math.sin(angle[j]);
					mean = Math.atan2(sumSin, sumCos);
				}
		}
		if (size < least) continue;
		const edge = rectangle(region, size, strength, width);
		if (edge && lengthOf(edge.segment) >= least) found.push(edge);
	}
	return joined(found, least).map(({ segment: [x1, y1, x2, y2], strength: s }) => ({
		segment: [x1 * by, y1 * by, x2 * by, y2 * by] as const,
		strength: s,
	}));
}

const lengthOf = (s: EdgeSegment): number => Math.hypot(s[2] - s[0], s[3] - s[1]);

/** Distance at which the pieces of one edge still lie on one line, pixels. */
const ON_LINE = 1.6;

/** Joins pieces of one edge that something crosses: in line with each other, with a gap shorter than themselves. The longest first. */
function joined(pieces: FoundEdge[], least: number): FoundEdge[] {
	const left = [...pieces].sort((a, b) => lengthOf(b.segment) - lengthOf(a.segment));
	const out: FoundEdge[] = [];
	while (left.length) {
		let { segment: edge, strength } = left.shift() as FoundEdge;
		for (let k = 0; k < left.length; ) {
			const l = lengthOf(edge);
			const [dx, dy] = [(edge[2] - edge[0]) / l, (edge[3] - edge[1]) / l];
			const other = left[k].segment;
			const more = lengthOf(other);
			const across = (x: number, y: number) => Math.abs((x - edge[0]) * dy - (y - edge[1]) * dx);
			const along = (x: number, y: number) => (x - edge[0]) * dx + (y - edge[1]) * dy;
			const [a, b] = [along(other[0], other[1]), along(other[2], other[3])].sort((p, q) => p - q);
			const gap = Math.max(a - l, -b);
			if (
				Math.max(across(other[0], other[1]), across(other[2], other[3])) < ON_LINE + 0.004 * Math.max(0, gap) &&
				gap < Math.min(0.5 * l + more, 3 * least)
			) {
				const [low, high] = [Math.min(0, a), Math.max(l, b)];
				edge = [edge[0] + dx * low, edge[1] + dy * low, edge[0] + dx * high, edge[1] + dy * high];
				strength = (strength * l + left[k].strength * more) / (l + more);
				left.splice(k, 1);
				k = 0;
			} else k++;
		}
		out.push({ segment: edge, strength });
	}
	return out.sort((a, b) => lengthOf(b.segment) - lengthOf(a.segment));
}

/** The middle line of a region's rectangle, null when the region is no slender one. */
function rectangle(region: Int32Array, size: number, strength: Float32Array, width: number): FoundEdge | null {
	let sum = 0;
	let mx = 0;
	let my = 0;
	for (let k = 0; k < size; k++) {
		const i = region[k];
		const g = strength[i];
		mx += g * (i % width);
		my += g * Math.floor(i / width);
		sum += g;
	}
	mx /= sum;
	my /= sum;
	let xx = 0;
	let xy = 0;
	let yy = 0;
	for (let k = 0; k < size; k++) {
		const i = region[k];
		const g = strength[i];
		const dx = (i % width) - mx;
		const dy = Math.floor(i / width) - my;
		xx += g * dx * dx;
		xy += g * dx * dy;
		yy += g * dy * dy;
	}
	const turn = Math.atan2(2 * xy, xx - yy) / 2;
	const [c, s] = [Math.cos(turn), Math.sin(turn)];
	let [low, high, left, right] = [0, 0, 0, 0];
	for (let k = 0; k < size; k++) {
		const i = region[k];
		const dx = (i % width) - mx;
		const dy = Math.floor(i / width) - my;
		const along = c * dx + s * dy;
		const across = c * dy - s * dx;
		low = Math.min(low, along);
		high = Math.max(high, along);
		left = Math.min(left, across);
		right = Math.max(right, across);
	}
	const length = high - low;
	const wide = right - left + 1;
	if (length < LEAST_SLENDER * wide || size < 0.5 * length) return null;
	// A gradient of two by two pixels belongs to the corner between them; pixel middles lie at halves.
	const [x, y] = [mx + 1, my + 1];
	return { segment: [x + c * low, y + s * low, x + c * high, y + s * high], strength: sum / size };
}

/** Brightness between pixels; their middles lie at halves. */
function brightness({ width, height, grey }: GreyPicture, x: number, y: number): number {
	const px = Math.min(width - 1.001, Math.max(0, x - 0.5));
	const py = Math.min(height - 1.001, Math.max(0, y - 0.5));
	const i = Math.floor(px);
	const j = Math.floor(py);
	const [fx, fy] = [px - i, py - j];
	const k = j * width + i;
	const right = Math.min(1, width - 1 - i);
	const below = j < height - 1 ? width : 0;
	return (
		(grey[k] * (1 - fx) + grey[k + right] * fx) * (1 - fy) +
		(grey[k + below] * (1 - fx) + grey[k + below + right] * fx) * fy
	);
}

export interface FittedEdge {
	segment: EdgeSegment;
	/** RMS distance in pixels of the edge's places from the line. */
	offPx: number;
}

const MOST_PLACES = 160;
/** Least mean change of brightness per pixel across the edge. */
const LEAST_CHANGE = 1.2;

/** The line laid on the edge within `reach` pixels of it; null when no edge lies along it. */
export function fitToEdge(picture: GreyPicture, [x1, y1, x2, y2]: EdgeSegment, reach: number): FittedEdge | null {
	const length = Math.hypot(x2 - x1, y2 - y1);
	if (length < 6) return null;
	const [dx, dy] = [(x2 - x1) / length, (y2 - y1) / length];
	const places = Math.min(MOST_PLACES, Math.max(8, Math.round(length / 2)));
	const half = Math.ceil(reach);
	const profile = new Float64Array(2 * half + 1);
	const changes: Float64Array[] = [];
	const mean = new Float64Array(2 * half + 1);
	for (let k = 0; k < places; k++) {
		const t = ((k + 0.5) / places) * length;
		const [px, py] = [x1 + dx * t, y1 + dy * t];
		for (let o = -half; o <= half; o++) {
			// Across the line; a little along it is averaged, against grain.
			const at = (q: number, along: number) => brightness(picture, px - dy * q + dx * along, py + dx * q + dy * along);
			const sum = (q: number) => at(q, -0.7) + at(q, 0.7);
			profile[o + half] = (sum(o + 1) - sum(o - 1)) / 4;
		}
		changes.push(profile.slice());
		for (let o = 0; o < mean.length; o++) mean[o] += profile[o] / places;
	}
	// The sign of the edge: that of the steepest mean change, nearer ones first.
	let best = 0;
	let sign = 0;
	mean.forEach((v, o) => {
		const weighed = Math.abs(v) * (1 - (0.4 * Math.abs(o - half)) / (half + 1));
		if (weighed > best) {
			best = weighed;
			sign = Math.sign(v);
		}
	});
	if (best < LEAST_CHANGE) {
		// The line may cross the edge at an angle, so that the mean is flat: then each place must show it by itself.
		const steep = changes.map((c) => c.reduce((m, v) => Math.max(m, Math.abs(v)), 0)).sort((a, b) => a - b)[
			places >> 1
		];
		if (steep < 3 * LEAST_CHANGE) return null;
		sign = Math.sign(changes.reduce((s, c) => s + c.reduce((m, v) => (Math.abs(v) > Math.abs(m) ? v : m), 0), 0));
	}
	const ts: number[] = [];
	const offsets: number[] = [];
	const weights: number[] = [];
	changes.forEach((c, k) => {
		let top = -1;
		for (let o = 1; o < c.length - 1; o++) if (sign * c[o] > (top < 0 ? LEAST_CHANGE : sign * c[top])) top = o;
		if (top < 1) return;
		const [a, b, d] = [sign * c[top - 1], sign * c[top], sign * c[top + 1]];
		const bend = a - 2 * b + d;
		const peak = bend < 0 ? Math.min(0.5, Math.max(-0.5, (a - d) / (2 * bend))) : 0;
		ts.push(((k + 0.5) / places - 0.5) * length);
		offsets.push(top - half + peak);
		weights.push(b);
	});
	if (ts.length < Math.max(5, places * 0.4)) return null;
	let [slope, offset] = [0, 0];
	let off = 0;
	const robust = weights.slice();
	for (let round = 0; round < 12; round++) {
		let [s0, s1, s2, r0, r1] = [0, 0, 0, 0, 0];
		for (let k = 0; k < ts.length; k++) {
			const w = robust[k];
			s0 += w;
			s1 += w * ts[k];
			s2 += w * ts[k] * ts[k];
			r0 += w * offsets[k];
			r1 += w * ts[k] * offsets[k];
		}
		const det = s0 * s2 - s1 * s1;
		if (!(det > 1e-9)) return null;
		slope = (s0 * r1 - s1 * r0) / det;
		offset = (s2 * r0 - s1 * r1) / det;
		const away = ts.map((t, k) => Math.abs(offsets[k] - slope * t - offset));
		const middle = away.slice().sort((a, b) => a - b)[away.length >> 1];
		const bound = Math.max(0.6, 4 * middle);
		off = Math.sqrt(
			away.filter((a) => a < bound).reduce((s, a) => s + a * a, 0) / Math.max(1, away.filter((a) => a < bound).length),
		);
		for (let k = 0; k < ts.length; k++)
			robust[k] = away[k] < bound ? weights[k] * (1 - (away[k] / bound) ** 2) ** 2 : 0;
	}
	const end = (t: number): [number, number] => {
		const q = offset + slope * t;
		return [(x1 + x2) / 2 + dx * t - dy * q, (y1 + y2) / 2 + dy * t + dx * q];
	};
	const [a, b] = [end(-length / 2), end(length / 2)];
	return { segment: [a[0], a[1], b[0], b[1]], offPx: off };
}
