import type { Shape } from "../../doc/schema/piece.ts";
import { cos, sin } from "../../maths/functions.ts";
import type { Vec3 } from "../../maths/vec.ts";
import type { ShapeMaker } from "../geometry.ts";
import { type LatheStop, lathe, straight } from "../lathe.ts";
import { fromMetres, isLength } from "../metric.ts";
import { COARSE_SIDES, FINE_SIDES, roundBody } from "../round.ts";

const MOST_ROUND = 0.98;

function rounded(size: Vec3, radius: number, sides: number, bands: number) {
	const [, h] = size;
	const quarter = (middle: number, from: number): LatheStop[] =>
		Array.from({ length: bands + 1 }, (_, i) => {
			const a = from + (i / bands) * (Math.PI / 2);
			return {
				part: 1,
				inM: radius - radius * cos(a),
				y: middle + radius * sin(a),
				along: { part: 0, inM: radius * sin(a), y: radius * cos(a) },
			};
		});
	const side = [...quarter(radius, -Math.PI / 2), ...quarter(h - radius, 0)];
	const rim = { part: 1, inM: radius };
	return lathe(
		[
			straight("foot", { part: 0, inM: 0, y: 0 }, { ...rim, y: 0 }),
			{ face: "side", stops: side },
			straight("top", { ...rim, y: h }, { part: 0, inM: 0, y: h }),
		],
		size,
		sides,
	);
}

export const cylinder: ShapeMaker<Extract<Shape, { kind: "cylinder" }>> = {
	sized: ({ roundM }) => isLength(roundM),
	evaluate: ({ roundM }, size) => {
		if (!isLength(roundM)) return roundBody(0.5, 0.5);
		const radius = Math.min(roundM, (MOST_ROUND * Math.min(...size)) / 2);
		return fromMetres(rounded(size, radius, FINE_SIDES, 5), size, {
			coarse: rounded(size, radius, COARSE_SIDES, 2),
		});
	},
};
