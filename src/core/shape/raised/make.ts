import type { Shape } from "../../doc/schema/piece.ts";
import { placesAlong } from "../../maths/curve.ts";
import { convexParts, trianglesOf } from "../../maths/polygon.ts";
import type { Vec3 } from "../../maths/vec.ts";
import { Builder } from "../builder.ts";
import { boxOf, counterClockwise, edgeOf, ringOf } from "../drawn.ts";
import type { ShapeMaker } from "../geometry.ts";
import { fromMetres } from "../metric.ts";
import { addSlab, type Lay, type Spot, slabHulls } from "../profile.ts";

type Raised = Extract<Shape, { kind: "raised" }>;

const place = ([right, away]: readonly number[]): Vec3 => [right, 0, -away];

const boxFrom = ({ points }: Raised) => boxOf(placesAlong(points, true).map(place));

export const raised: ShapeMaker<Raised> = {
	drawn: {
		closed: () => true,
		least: 3,
		place,
		at: ([x, , z]) => [x, -z],
		fit: (shape, [w, h, d]) => {
			const { low, high } = boxFrom(shape);
			const by: Vec3 = [w / (high[0] - low[0]), 1, d / (high[2] - low[2])];
			return {
				by,
				low: [low[0] * by[0], 0, low[2] * by[2]],
				high: [high[0] * by[0], h, high[2] * by[2]],
			};
		},
		own: (shape, heightM) => {
			const { low, high } = boxFrom(shape);
			return [high[0] - low[0], heightM, high[2] - low[2]];
		},
	},
	evaluate: (shape) => {
		const { low, high } = boxFrom(shape);
		const middle = [(low[0] + high[0]) / 2, (low[2] + high[2]) / 2];
		const all = counterClockwise(shape.points);
		const ring = ringOf(all);
		const corner = (i: number): Spot => ring[i];
		const b = new Builder();
		// Seen from above: right is right, away is up on the sheet.
		const lay: Lay = (x, y, out) => [x - middle[0], out + 0.5, -y - middle[1]];
		addSlab(
			b,
			trianglesOf(ring).map((t) => t.map(corner)),
			edgeOf(all, (n) => `side ${n}`),
			0.5,
			lay,
			["top", "foot"],
		);
		return fromMetres(b, [high[0] - low[0], 1, high[2] - low[2]], {
			hulls: slabHulls(
				convexParts(ring).map((p) => p.map(corner)),
				0.5,
				lay,
			),
		});
	},
};
