/**
 * Made-up drawings of known cameras, by which the solver is judged.
 *
 * Cameras: 18 to 70 mm on 36 mm, pitch within 8°, roll within 2°, heading 12 to 78° from the edges, eye 1.2 to 4 m.
 * Pictures: 1920 × 1080. Lines: through a random place of the picture, 120 to 900 px long, both ends inside, each
 * coordinate off by a normal error. A wrong line is turned by 8 to 40° about its middle. Ellipses: circles of a level or
 * upright plane wholly in the picture, their contour sampled, each sample off by the error and the ellipse fitted to them.
 */

import { cameraAxes } from "../maths/axes.ts";
import { randomStream } from "../maths/hash.ts";
import { type Axis, type CirclePlane, type Eye, meetingPoint, type Pixel, type Segment } from "./drawn.ts";

export const MADE_UP_IMAGE = { width: 1920, height: 1080 };
export const MADE_UP_FILM = { widthMm: 36 };

const MOST_TRIES = 400;

export interface TrueCamera {
	focalMm: number;
	pitchDeg: number;
	rollDeg: number;
	headingDeg: number;
	eyeHeightM: number;
	/** Where the lens's axis meets the picture, pixels to the right of and above its centre. */
	centre: Pixel;
}

export class MadeUp {
	private readonly random: () => number;
	constructor(seed: number) {
		this.random = randomStream(seed);
	}

	between = (a: number, b: number): number => a + (b - a) * this.random();
	normal = (): number => Math.sqrt(-2 * Math.log(1 - this.random())) * Math.cos(2 * Math.PI * this.random());

	camera(crop = 0): TrueCamera {
		const { between } = this;
		return {
			focalMm: between(18, 70),
			pitchDeg: between(-8, 8),
			rollDeg: between(-2, 2),
			headingDeg: between(12, 78),
			eyeHeightM: between(1.2, 4),
			centre: [between(-crop, crop) * MADE_UP_IMAGE.width, between(-crop, crop) * MADE_UP_IMAGE.height],
		};
	}

	segment(axis: Axis, t: TrueCamera, noise: number): Segment {
		const { width, height } = MADE_UP_IMAGE;
		const eye = trueEye(t);
		const V = meetingPoint(axis, eye);
		for (;;) {
			const x = this.between(-0.5, 0.5) * width;
			const y = this.between(-0.5, 0.5) * height;
			const dx = V[0] - V[2] * (x - eye.cx);
			const dy = V[1] - V[2] * (y - eye.cy);
			const half = this.between(60, 450) / Math.hypot(dx, dy);
			const ends = [x - dx * half, y - dy * half, x + dx * half, y + dy * half];
			if (
				Math.max(Math.abs(ends[0]), Math.abs(ends[2])) > width / 2 ||
				Math.max(Math.abs(ends[1]), Math.abs(ends[3])) > height / 2
			)
				continue;
			const n = () => noise * this.normal();
			return [
				width / 2 + ends[0] + n(),
				height / 2 - ends[1] + n(),
				width / 2 + ends[2] + n(),
				height / 2 - ends[3] + n(),
			];
		}
	}

	directions(
		axes: readonly Axis[],
		t: TrueCamera,
		noise: number,
		count: number,
	): { axis: Axis; segments: Segment[] }[] {
		return axes.map((axis) => ({ axis, segments: Array.from({ length: count }, () => this.segment(axis, t, noise)) }));
	}

	/** The segment turned about its middle by 8 to 40°. */
	wrong([x1, y1, x2, y2]: Segment): Segment {
		const turn = ((this.random() < 0.5 ? -1 : 1) * this.between(8, 40) * Math.PI) / 180;
		const [mx, my] = [(x1 + x2) / 2, (y1 + y2) / 2];
		const [hx, hy] = [(x2 - x1) / 2, (y2 - y1) / 2];
		const [c, s] = [Math.cos(turn), Math.sin(turn)];
		const [rx, ry] = [c * hx - s * hy, s * hx + c * hy];
		return [mx - rx, my - ry, mx + rx, my + ry];
	}

	/** A thing of known height on level ground, its foot and its top; null when the camera hardly sees ground. */
	height(t: TrueCamera, noise: number): { base: Pixel; top: Pixel; heightM: number } | null {
		const { width, height } = MADE_UP_IMAGE;
		for (let tries = 0; tries < MOST_TRIES; tries++) {
			const far = this.between(4, 40);
			const aside = this.between(-0.6, 0.6) * far;
			const heightM = this.between(0.8, 5);
			const [sh, ch] = [Math.sin((t.headingDeg * Math.PI) / 180), Math.cos((t.headingDeg * Math.PI) / 180)];
			const ground = [far * sh + aside * ch, -t.eyeHeightM, -far * ch + aside * sh];
			const base = seen(t, ground);
			const top = seen(t, [ground[0], ground[1] + heightM, ground[2]]);
			if (![base, top].every(([x, y]) => x > 0 && x < width && y > 0 && y < height)) continue;
			const n = () => noise * this.normal();
			return { base: [base[0] + n(), base[1] + n()], top: [top[0] + n(), top[1] + n()], heightM };
		}
		return null;
	}

	/** A circle seen as an ellipse; null when the camera hardly sees one. */
	ellipse(
		plane: CirclePlane,
		t: TrueCamera,
		noise: number,
	): { centre: Pixel; axes: Pixel; angleDeg: number; plane: CirclePlane } | null {
		const { width, height } = MADE_UP_IMAGE;
		const [k, m] = plane === "ground" ? [0, 2] : plane === "x" ? [1, 2] : [0, 1];
		for (let tries = 0; tries < MOST_TRIES; tries++) {
			const far = this.between(3, 12);
			const aside = this.between(-0.5, 0.5) * far;
			const [sh, ch] = [Math.sin((t.headingDeg * Math.PI) / 180), Math.cos((t.headingDeg * Math.PI) / 180)];
			const middle = [
				far * sh + aside * ch,
				plane === "ground" ? -t.eyeHeightM : this.between(-1, 1),
				-far * ch + aside * sh,
			];
			const radius = this.between(0.15, 0.5) * far * 0.6;
			const contour = Array.from({ length: 24 }, (_, i) => {
				const p = middle.slice();
				p[k] += radius * Math.cos((i * Math.PI) / 12);
				p[m] += radius * Math.sin((i * Math.PI) / 12);
				return seen(t, p);
			});
			if (!contour.every(([x, y]) => x > 0 && x < width && y > 0 && y < height)) continue;
			const e = ellipseThrough(
				contour.map(([x, y]) => [x + noise * this.normal(), y + noise * this.normal()] as const),
			);
			// Nearly a line: nobody would draw an ellipse over it.
			if (!e || Math.min(...e.axes) < 12) continue;
			return { ...e, plane };
		}
		return null;
	}
}

const trueEye = (t: TrueCamera): Eye => ({
	f: (t.focalMm / MADE_UP_FILM.widthMm) * MADE_UP_IMAGE.width,
	cx: t.centre[0],
	cy: t.centre[1],
	axes: cameraAxes(t.headingDeg, t.pitchDeg, t.rollDeg),
});

/** Pixel of a place that is given relative to the lens; far outside when it lies behind. */
function seen(t: TrueCamera, p: readonly number[]): Pixel {
	const { axes, f, cx, cy } = trueEye(t);
	const along = (v: readonly number[]) => p[0] * v[0] + p[1] * v[1] + p[2] * v[2];
	const depth = along(axes.forward);
	if (depth < 0.2) return [-1e5, -1e5];
	return [
		MADE_UP_IMAGE.width / 2 + cx + (f * along(axes.right)) / depth,
		MADE_UP_IMAGE.height / 2 - cy - (f * along(axes.up)) / depth,
	];
}

/** The ellipse nearest to places by algebraic distance, scaled for conditioning; null when the conic is no ellipse. */
export function ellipseThrough(points: readonly Pixel[]): { centre: Pixel; axes: Pixel; angleDeg: number } | null {
	const n = points.length;
	const mx = points.reduce((s, p) => s + p[0], 0) / n;
	const my = points.reduce((s, p) => s + p[1], 0) / n;
	const size = Math.sqrt(points.reduce((s, p) => s + (p[0] - mx) ** 2 + (p[1] - my) ** 2, 0) / n) || 1;
	// a·x² + b·xy + c·y² + d·x + e·y = 1, by normal equations.
	const A = Array.from({ length: 5 }, () => new Array<number>(6).fill(0));
	for (const [px, py] of points) {
		const x = (px - mx) / size;
		const y = (py - my) / size;
		const row = [x * x, x * y, y * y, x, y, 1];
		for (let i = 0; i < 5; i++) for (let j = 0; j < 6; j++) A[i][j] += row[i] * row[j];
	}
	for (let c = 0; c < 5; c++) {
		let p = c;
		for (let r = c + 1; r < 5; r++) if (Math.abs(A[r][c]) > Math.abs(A[p][c])) p = r;
		if (Math.abs(A[p][c]) < 1e-12) return null;
		[A[c], A[p]] = [A[p], A[c]];
		for (let r = 0; r < 5; r++) {
			if (r === c) continue;
			const m = A[r][c] / A[c][c];
			for (let j = c; j < 6; j++) A[r][j] -= m * A[c][j];
		}
	}
	const [a, b, c, d, e] = A.map((row, i) => row[5] / row[i]);
	const det = 4 * a * c - b * b;
	if (!(det > 0)) return null;
	const x0 = (b * e - 2 * c * d) / det;
	const y0 = (b * d - 2 * a * e) / det;
	const k = 1 + a * x0 * x0 + b * x0 * y0 + c * y0 * y0;
	const mean = (a + c) / 2;
	const spread = Math.hypot((a - c) / 2, b / 2);
	const [small, large] = [mean - spread, mean + spread];
	if (!(k / small > 0 && k / large > 0)) return null;
	// The longer axis lies along the smaller eigenvalue.
	const angle = Math.atan2(b, a - c) / 2 + Math.PI / 2;
	return {
		centre: [mx + x0 * size, my + y0 * size],
		axes: [size * Math.sqrt(k / small), size * Math.sqrt(k / large)],
		angleDeg: (angle * 180) / Math.PI,
	};
}
