import type { Shape } from "../../doc/schema/piece.ts";
import { cos, sin } from "../../maths/functions.ts";
import type { Vec3 } from "../../maths/vec.ts";
import type { ShapeMaker } from "../geometry.ts";
import { type LatheRun, lathe, straight } from "../lathe.ts";
import { fromMetres, isLength } from "../metric.ts";
import { COARSE_SIDES, FINE_SIDES } from "../round.ts";

const MOST_WALL = 0.98;

/** A quarter of an ellipse from the rim up to the crown, or down again inside, as far within as the wall is thick. */
function vault(face: string, h: number, wall: number, bands: number, down: boolean): LatheRun {
	const way = down ? -1 : 1;
	const stops = Array.from({ length: bands + 1 }, (_, i) => {
		const a = (i / bands) * (Math.PI / 2);
		const crown = i === bands;
		const [c, s] = crown ? [0, 1] : [cos(a), sin(a)];
		return {
			part: c,
			inM: wall * c,
			y: (h - wall) * s,
			along: { part: -s * way, inM: -wall * s * way, y: (h - wall) * c * way },
		};
	});
	return { face, stops: down ? stops.reverse() : stops };
}

function made(size: Vec3, wall: number, sides: number, bands: number) {
	const [, h] = size;
	const rim = { part: 1, inM: 0, y: 0 };
	return lathe(
		wall > 0
			? [
					vault("vault", h, 0, bands, false),
					vault("inside", h, wall, bands, true),
					straight("foot", { part: 1, inM: wall, y: 0 }, rim),
				]
			: [vault("vault", h, 0, bands, false), straight("foot", { part: 0, inM: 0, y: 0 }, rim)],
		size,
		sides,
	);
}

export const dome: ShapeMaker<Extract<Shape, { kind: "dome" }>> = {
	usual: { tall: 0.5 },
	sized: ({ wallM }) => isLength(wallM),
	evaluate: ({ wallM }, size) => {
		const own: Vec3 = isLength(wallM) ? size : [1, 1, 1];
		const wall = Math.min(isLength(wallM) ? wallM : 0, MOST_WALL * Math.min(own[0] / 2, own[1], own[2] / 2));
		return fromMetres(made(own, wall, FINE_SIDES, 16), own, { coarse: made(own, wall, COARSE_SIDES, 5) });
	},
};
