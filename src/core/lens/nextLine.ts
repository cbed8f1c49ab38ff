/** What to draw next: the line that would tell most of the lens, by the information that it would add. */
import { inverseOf, jacobian, normalMatrix } from "../maths/leastSquares.ts";
import {
	type Axis,
	CENTRE_X,
	CENTRE_Y,
	type Drawn,
	eyeOf,
	HEADING,
	LOG_EYE,
	LOG_F,
	meetingPoint,
	PITCH,
	ROLL,
} from "./drawn.ts";
import { problemOf } from "./fitCamera.ts";

export const AXIS_NAME: Record<Axis, string> = { z: "along", x: "across", y: "upright" };

/** What is known of any camera before a line is drawn, one standard deviation. */
const BEFORE: Record<number, number> = {
	[LOG_F]: 0.7,
	[PITCH]: 15,
	[ROLL]: 4,
	[HEADING]: 60,
	[CENTRE_X]: 300,
	[CENTRE_Y]: 300,
	[LOG_EYE]: 1,
};

const WORDS_X = ["far to the left", "in the middle", "far to the right"];
const WORDS_Y = ["low", "at half height", "high up"];

/** A sentence that names direction and place of the most telling line, and what it would do to the lens. */
export function nextLine(
	drawn: Drawn,
	at: Float64Array,
	free: readonly number[],
	size: { width: number; height: number },
	noise: number,
): string {
	const { width, height } = size;
	const eye = eyeOf(at);
	const known = normalMatrix(jacobian(problemOf(drawn, width), at, free));
	free.forEach((k, i) => {
		known[i][i] += noise / BEFORE[k] ** 2;
	});
	const covariance = inverseOf(known);
	const f = free.indexOf(LOG_F);
	if (!covariance || f < 0) return "";
	let best: { gain: number; axis: Axis; i: number; j: number } | null = null;
	const length = width * 0.25;
	for (const axis of ["x", "z", "y"] as const)
		for (let i = 0; i < 3; i++)
			for (let j = 0; j < 3; j++) {
				const x = (i - 1) * width * 0.36;
				const y = (j - 1) * height * 0.36;
				const m = meetingPoint(axis, eye);
				const dx = m[0] - (x - eye.cx) * m[2];
				const dy = m[1] - (y - eye.cy) * m[2];
				const l = Math.sqrt(dx * dx + dy * dy);
				// A line needs room: not within its own length of the point where its direction meets.
				if (l < length * Math.abs(m[2])) continue;
				const [hx, hy] = [((dx / l) * length) / 2, ((dy / l) * length) / 2];
				const ends = [x - hx, y - hy, x + hx, y + hy] as const;
				if (
					Math.max(Math.abs(ends[0]), Math.abs(ends[2])) > width / 2 ||
					Math.max(Math.abs(ends[1]), Math.abs(ends[3])) > height / 2
				)
					continue;
				const one: Drawn = { lines: [{ axis, ends }], ellipses: [], horizon: null, heights: [], lengths: [] };
				const g = jacobian(problemOf(one, width), at, free).map((column) => column[0]);
				const Cg = covariance.map((row) => row.reduce((s, v, k) => s + v * g[k], 0));
				const gain = (Cg[f] * Cg[f]) / (1 + g.reduce((s, v, k) => s + v * Cg[k], 0));
				if (!best || gain > best.gain) best = { gain, axis, i, j };
			}
	if (!best || best.gain < 0.1 * covariance[f][f]) return "";
	const left = Math.sqrt(Math.max(0, covariance[f][f] - best.gain) * noise);
	const first = !drawn.lines.some((l) => l.axis === best.axis);
	return `${first ? "An" : "Another"} edge ${best.axis === "y" ? "that stands upright" : AXIS_NAME[best.axis]}, ${WORDS_X[best.i]} and ${WORDS_Y[best.j]}, ${left < 0.1 ? "would settle the lens" : "would tell most of the lens"}.`;
}
