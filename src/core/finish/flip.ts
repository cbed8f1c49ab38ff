/**
 * How different two pictures look when one is flipped for the other: FLIP (Andersson, Nilsson, Akenine-Möller, Oskarsson,
 * Åström and Fairchild 2020), for pictures of display values. What the eye does not resolve is blurred away by contrast
 * sensitivity, colours are compared by HyAB in a Hunt-adjusted CIELAB, and differences of edges and points raise the rest.
 */

import { type Lab, labOf } from "../colour/difference.ts";
import { decodeSrgb } from "../colour/linear.ts";
import { exp, pow } from "../maths/functions.ts";

export interface Display {
	width: number;
	height: number;
	/** sRGB values of 0 to 255, four a pixel, rows from the top. */
	data: Uint8ClampedArray | Uint8Array;
}

/** Pixels of a degree of sight: 0.7 m before a display 0.7 m wide with 3840 pixels. */
const PIXELS_PER_DEGREE = 67.02;
const WHITE = [0.950428545, 1, 1.088900371] as const;
/** Contrast sensitivity: amplitudes and widths of the sums of Gaussians, of lightness, red against green, blue against yellow. */
const SENSITIVITY = [
	[[1, 0.0047]],
	[[1, 0.0053]],
	[
		[34.1, 0.04],
		[13.5, 0.025],
	],
] as const;
const FEATURE_DEG = 0.082;
const [Q_COLOUR, P_COLOUR, P_TO, Q_FEATURE] = [0.7, 0.4, 0.95, 0.5];

type Plane = Float64Array;
type Triple = [Plane, Plane, Plane];

const toXyz = (r: number, g: number, b: number): [number, number, number] => [
	0.4123907992659595 * r + 0.357584339383878 * g + 0.1804807884018343 * b,
	0.21263900587151036 * r + 0.715168678767756 * g + 0.07219231536073371 * b,
	0.01933081871559185 * r + 0.11919477979462599 * g + 0.9505321522496607 * b,
];

const toLinear = (x: number, y: number, z: number): [number, number, number] => [
	3.240969941904521 * x - 1.537383177570093 * y - 0.498610760293 * z,
	-0.96924363628087 * x + 1.87596750150772 * y + 0.041555057407175 * z,
	0.055630079696993 * x - 0.20397695888897 * y + 1.056971514242878 * z,
];

/** CIELAB with a and b scaled by lightness (the Hunt effect), from linear sRGB. */
function huntLab(r: number, g: number, b: number): Lab {
	const [L, along, across] = labOf(r, g, b);
	return [L, 0.01 * L * along, 0.01 * L * across];
}

const hyab = (a: readonly number[], b: readonly number[]): number =>
	Math.abs(a[0] - b[0]) + Math.hypot(a[1] - b[1], a[2] - b[2]);

/** Lightness and two opponent colours, linear in light (YCxCz). */
function opponents({ data, width, height }: Display): Triple {
	const out: Triple = [
		new Float64Array(width * height),
		new Float64Array(width * height),
		new Float64Array(width * height),
	];
	for (let i = 0; i < width * height; i++) {
		const [x, y, z] = toXyz(
			decodeSrgb(data[4 * i] / 255),
			decodeSrgb(data[4 * i + 1] / 255),
			decodeSrgb(data[4 * i + 2] / 255),
		).map((v, c) => v / WHITE[c]);
		out[0][i] = 116 * y - 16;
		out[1][i] = 500 * (x - y);
		out[2][i] = 200 * (y - z);
	}
	return out;
}

/** A plane under one kernel across and another down; beyond its edges it goes on as at the edge. */
function filtered(
	plane: Plane,
	width: number,
	height: number,
	across: readonly number[],
	down: readonly number[],
): Plane {
	const half = (across.length - 1) / 2;
	const rows = new Float64Array(plane.length);
	for (let y = 0; y < height; y++)
		for (let x = 0; x < width; x++) {
			let s = 0;
			for (let k = -half; k <= half; k++)
				s += across[k + half] * plane[y * width + Math.min(width - 1, Math.max(0, x + k))];
			rows[y * width + x] = s;
		}
	const out = new Float64Array(plane.length);
	for (let y = 0; y < height; y++)
		for (let k = -half; k <= half; k++) {
			const from = Math.min(height - 1, Math.max(0, y + k)) * width;
			const w = down[k + half];
			for (let x = 0; x < width; x++) out[y * width + x] += w * rows[from + x];
		}
	return out;
}

/** What the eye resolves of a picture, as Hunt-adjusted CIELAB. */
function seen(yxz: Triple, width: number, height: number): Triple {
	const widest = Math.max(...SENSITIVITY.flatMap((sum) => sum.map(([, b]) => b)));
	const radius = Math.ceil(3 * Math.sqrt(widest / (2 * Math.PI * Math.PI)) * PIXELS_PER_DEGREE);
	const soft = SENSITIVITY.map((sum, c) => {
		const terms = sum.map(([a, b]) => {
			const line = Array.from({ length: 2 * radius + 1 }, (_, k) =>
				exp((-Math.PI * Math.PI * ((k - radius) / PIXELS_PER_DEGREE) ** 2) / b),
			);
			const total = line.reduce((s, v) => s + v, 0);
			return { weight: a * Math.sqrt(Math.PI / b) * total * total, line: line.map((v) => v / total) };
		});
		const all = terms.reduce((s, t) => s + t.weight, 0);
		const out = new Float64Array(width * height);
		for (const { weight, line } of terms) {
			const one = filtered(yxz[c], width, height, line, line);
			for (let i = 0; i < out.length; i++) out[i] += (one[i] * weight) / all;
		}
		return out;
	});
	const lab: Triple = [
		new Float64Array(width * height),
		new Float64Array(width * height),
		new Float64Array(width * height),
	];
	for (let i = 0; i < width * height; i++) {
		const y = (soft[0][i] + 16) / 116;
		const rgb = toLinear((y + soft[1][i] / 500) * WHITE[0], y * WHITE[1], (y - soft[2][i] / 200) * WHITE[2]).map((v) =>
			Math.min(1, Math.max(0, v)),
		);
		const [L, a, b] = huntLab(rgb[0], rgb[1], rgb[2]);
		lab[0][i] = L;
		lab[1][i] = a;
		lab[2][i] = b;
	}
	return lab;
}

/** Strength of edges and of points: first and second derivatives of a Gaussian over lightness. */
function features(lightness: Plane, width: number, height: number): { edges: Plane; points: Plane } {
	const deviation = 0.5 * FEATURE_DEG * PIXELS_PER_DEGREE;
	const radius = Math.ceil(3 * deviation);
	const at = Array.from({ length: 2 * radius + 1 }, (_, k) => k - radius);
	const bell = at.map((x) => exp((-x * x) / (2 * deviation * deviation)));
	const bellSum = bell.reduce((s, v) => s + v, 0);
	const smooth = bell.map((v) => v / bellSum);
	const balanced = (kernel: number[]) => {
		const up = kernel.reduce((s, v) => s + Math.max(0, v), 0);
		const down = kernel.reduce((s, v) => s + Math.max(0, -v), 0);
		return kernel.map((v) => (v > 0 ? v / up : v / down));
	};
	const first = balanced(at.map((x, i) => -x * bell[i]));
	const second = balanced(at.map((x, i) => ((x * x) / (deviation * deviation) - 1) * bell[i]));
	const Y = lightness.map((v) => (v + 16) / 116);
	const length = (across: Plane, down: Plane) => across.map((v, i) => Math.hypot(v, down[i]));
	const by = (kernel: readonly number[]) =>
		length(filtered(Y, width, height, kernel, smooth), filtered(Y, width, height, smooth, kernel));
	return { edges: by(first), points: by(second) };
}

/**
 * The difference at each pixel, 0 (none is seen) to 1. Both pictures must be of one size.
 * Throws an Error when they are not.
 */
export function flip(truth: Display, other: Display): Float64Array {
	const { width, height } = truth;
	if (other.width !== width || other.height !== height)
		throw new Error(`The pictures differ in size: ${width} × ${height} and ${other.width} × ${other.height}.`);
	const [a, b] = [opponents(truth), opponents(other)];
	const [labA, labB] = [seen(a, width, height), seen(b, width, height)];
	const [featuresA, featuresB] = [features(a[0], width, height), features(b[0], width, height)];
	const most = pow(hyab(huntLab(0, 1, 0), huntLab(0, 0, 1)), Q_COLOUR);
	return Float64Array.from({ length: width * height }, (_, i) => {
		const d = pow(hyab([labA[0][i], labA[1][i], labA[2][i]], [labB[0][i], labB[1][i], labB[2][i]]), Q_COLOUR);
		const knee = P_COLOUR * most;
		const colour = Math.min(1, d < knee ? (P_TO / knee) * d : P_TO + ((d - knee) / (most - knee)) * (1 - P_TO));
		const edge = Math.abs(featuresA.edges[i] - featuresB.edges[i]);
		const point = Math.abs(featuresA.points[i] - featuresB.points[i]);
		const feature = pow(Math.min(1, Math.max(edge, point) / Math.SQRT2), Q_FEATURE);
		return colour > 0 ? pow(colour, 1 - feature) : 0;
	});
}

/** Mean of {@link flip} over the picture. */
export function meanFlip(truth: Display, other: Display): number {
	const map = flip(truth, other);
	return map.reduce((s, v) => s + v, 0) / map.length;
}
