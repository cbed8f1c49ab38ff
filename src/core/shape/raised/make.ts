import type { Shape } from "../../doc/schema/piece.ts";
import { placesAlong } from "../../maths/curve.ts";
import { convexParts, trianglesOf } from "../../maths/polygon.ts";
import { Builder } from "../builder.ts";
import { boxOf, counterClockwise, edgeOf, inPlan, planDrawn, ringOf } from "../drawn.ts";
import type { ShapeMaker } from "../geometry.ts";
import { fromMetres } from "../metric.ts";
import { addSlab, type Lay, type Spot, slabHulls } from "../profile.ts";

type Raised = Extract<Shape, { kind: "raised" }>;

const boxFrom = ({ points }: Raised) => boxOf(placesAlong(points, true).map(inPlan));

export const raised: ShapeMaker<Raised> = {
	drawn: planDrawn(boxFrom),
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
