import type { Shape } from "../../doc/schema/piece.ts";
import { placesAlong, stretches } from "../../maths/curve.ts";
import { cos, sin, TAU } from "../../maths/functions.ts";
import { signedArea } from "../../maths/polygon.ts";
import type { Vec3 } from "../../maths/vec.ts";
import { backwards, boxOf } from "../drawn.ts";
import type { ShapeMaker } from "../geometry.ts";
import { type LatheRun, lathe, straight } from "../lathe.ts";
import { fromMetres } from "../metric.ts";
import { COARSE_SIDES, FINE_SIDES } from "../round.ts";

type Turned = Extract<Shape, { kind: "turned" }>;

const place = ([out, up]: readonly number[]): Vec3 => [out, up, 0];

/** Greatest distance from the axis, lowest and highest. */
function reach({ points }: Turned): { out: number; low: number; high: number } {
	const { low, high } = boxOf(placesAlong(points, false).map(place));
	return { out: high[0], low: low[1], high: high[1] };
}

/** Convex parts of such a body at most. */
const MOST_PARTS = 16;

export const turned: ShapeMaker<Turned> = {
	drawn: {
		closed: () => false,
		least: 2,
		upright: true,
		place,
		at: ([x, y]) => [Math.max(0, x), y],
		fit: (shape, [w, h]) => {
			const { out, low, high } = reach(shape);
			const by: Vec3 = [w / (2 * out), h / (high - low), 1];
			return { by, low: [-w / 2, low * by[1], -w / 2], high: [w / 2, high * by[1], w / 2] };
		},
		own: (shape) => {
			const { out, low, high } = reach(shape);
			return [2 * out, high - low, 2 * out];
		},
	},
	evaluate: (shape) => {
		const { out, low, high } = reach(shape);
		const drawn = stretches(shape.points, false);
		const places = placesAlong(shape.points, false);
		const [first, last] = [places[0], places[places.length - 1]];
		// The axis closes it: what goes up outside has the axis to its left.
		const up = signedArea([[0, first[1]], ...places, [0, last[1]]]) > 0;
		const line = up ? drawn : backwards(drawn);
		const stop = ([x, y]: readonly number[]) => ({ part: x / out, inM: 0, y: y - low });
		const ends = up ? [first, last] : [last, first];
		const runs: LatheRun[] = line.map(({ n, spots, ways }) => ({
			face: `side ${n}`,
			stops: spots.map((p, i) => ({ ...stop(p), along: { part: ways[i][0] / out, inM: 0, y: ways[i][1] } })),
		}));
		const cap = (face: string, of: readonly number[], out: boolean): LatheRun[] => {
			const [edge, axis] = [stop(of), { ...stop(of), part: 0 }];
			return of[0] > 0 ? [out ? straight(face, axis, edge) : straight(face, edge, axis)] : [];
		};
		const all = [...cap("foot", ends[0], true), ...runs, ...cap("top", ends[1], false)];
		const size: Vec3 = [2 * out, high - low, 2 * out];
		// Bands from the foot upwards, each convex but for bows that turn in.
		const each = Math.max(1, Math.ceil((places.length - 1) / MOST_PARTS));
		const hulls = [];
		for (let i = 0; i < places.length - 1; i += each)
			hulls.push(
				places.slice(i, i + each + 1).flatMap(([r, y]) =>
					Array.from({ length: FINE_SIDES }, (_, k): Vec3 => {
						const a = (k / FINE_SIDES) * TAU;
						return [r * cos(a), y - low, r * sin(a)];
					}),
				),
			);
		return fromMetres(lathe(all, size, FINE_SIDES), size, { coarse: lathe(all, size, COARSE_SIDES), hulls });
	},
};
