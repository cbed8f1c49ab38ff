import type { Shape } from "../../doc/schema/piece.ts";
import type { Vec3 } from "../../maths/vec.ts";
import type { ShapeMaker } from "../geometry.ts";
import { lathe, ringHulls, straight } from "../lathe.ts";
import { fromMetres } from "../metric.ts";
import { COARSE_SIDES, FINE_SIDES } from "../round.ts";

/** Part of its least radius that a wall may take: something stays open. */
const MOST_WALL = 0.98;

function made(size: Vec3, wall: number, sides: number) {
	const [, h] = size;
	const [out, inner] = [
		{ part: 1, inM: 0 },
		{ part: 1, inM: wall },
	];
	return lathe(
		[
			straight("side", { ...out, y: 0 }, { ...out, y: h }),
			straight("top", { ...out, y: h }, { ...inner, y: h }),
			straight("inside", { ...inner, y: h }, { ...inner, y: 0 }),
			straight("foot", { ...inner, y: 0 }, { ...out, y: 0 }),
		],
		size,
		sides,
	);
}

/** An upright pipe with a wall, open at both ends. */
export const tube: ShapeMaker<Extract<Shape, { kind: "tube" }>> = {
	sized: () => true,
	evaluate: ({ wallM }, size) => {
		const [w, , d] = size;
		const wall = Math.min(wallM, (MOST_WALL * Math.min(w, d)) / 2);
		return fromMetres(made(size, wall, FINE_SIDES), size, {
			coarse: made(size, wall, COARSE_SIDES),
			hulls: ringHulls(size, [w / 2 - wall, d / 2 - wall], 12, 4),
		});
	},
};
