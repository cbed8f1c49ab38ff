/**
 * A surface brought to a colour that is seen elsewhere. What is seen of it is its own colour times the light that falls there, so that a
 * factor to the one is a factor to the other; the factor is found for which the finished picture comes nearest, by least squares on CIE Lab,
 * and no surface is made to throw back more light than it gets.
 */
import { ciede2000, type Lab, labOf } from "../colour/difference.ts";
import type { Finish } from "../doc/schema.ts";
import { leastSquares, type Problem } from "../maths/leastSquares.ts";
import type { Vec3 } from "../maths/vec.ts";
import { finishColour } from "./finish.ts";

/** What of a colour is taken over. */
export interface Taken {
	brightness: boolean;
	saturation: boolean;
	warmth: boolean;
}

export interface ColourMatch {
	/** To the surface's own colour. */
	factor: Vec3;
	/** What is seen now, what is aimed at, of what is taken over, and what is reached. */
	from: Lab;
	aim: Lab;
	reached: Lab;
	/** CIEDE2000 between the two: before and after. */
	before: number;
	left: number;
	/** A surface would have to be brighter than white. */
	tooDark: boolean;
}

const factorOf = (logs: ArrayLike<number>): number[] => Array.from(logs, (v) => Math.exp(v));

/** Share of light that a surface throws back at most. */
const MOST = 0.95;
const LEAST = 0.002;
const STEP = 1e-3;

/** Of a colour, what is taken over of another: lightness, chroma and hue of CIE LCh. */
export function takenOver(own: Lab, of: Lab, { brightness, saturation, warmth }: Taken): Lab {
	const chroma = Math.hypot((saturation ? of : own)[1], (saturation ? of : own)[2]);
	const [, a, b] = warmth ? of : own;
	const all = Math.hypot(a, b);
	// What is grey has no hue to give.
	const [ca, cb] = all > 1e-6 ? [a / all, b / all] : [0, 0];
	return [(brightness ? of : own)[0], chroma * ca, chroma * cb];
}

/**
 * @param light What is seen of the surface, cd/m², linear.
 * @param own Its own mean colour.
 * @param of What is aimed at, as the eye is given it: linear Rec.709.
 */
export function matchColour(
	light: Vec3,
	own: Vec3,
	of: Vec3,
	taken: Taken,
	ev100: number,
	finish: Finish,
): ColourMatch {
	const seen = (f: readonly number[]): Lab =>
		labOf(
			...finishColour(
				light.map((v, c) => v * f[c]),
				ev100,
				finish,
			),
		);
	const most = own.map((v) => Math.log(Math.max(1, MOST / Math.max(LEAST, v))));
	const least = own.map((v) => Math.min(0, Math.log(LEAST / Math.max(LEAST, v))));
	const before = seen([1, 1, 1]);
	const aim = takenOver(before, labOf(...(of as [number, number, number])), taken);
	const problem: Problem = {
		count: 3,
		residuals: (logs, out) => {
			out.set(seen(factorOf(logs)).map((v, c) => v - aim[c]));
			return out.reduce((sum, v) => sum + v * v, 0);
		},
		steps: [STEP, STEP, STEP],
		limit: (logs) => logs.set(logs.map((v, c) => Math.min(most[c], Math.max(least[c], v)))),
	};
	const logs = [...leastSquares(problem, new Float64Array(3), [0, 1, 2]).at];
	const factor = factorOf(logs) as unknown as Vec3;
	const reached = seen(factor);
	const left = ciede2000(reached, aim);
	return {
		factor,
		from: before,
		aim,
		reached,
		before: ciede2000(before, aim),
		left,
		tooDark: left > 1 && logs.some((v, c) => v > 0 && v >= most[c] - 1e-6),
	};
}
