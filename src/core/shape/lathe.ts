/** Bodies turned about the upright: a line from foot to crown and back, led round an ellipse. */
import { cos, sin, TAU } from "../maths/functions.ts";
import type { Vec3 } from "../maths/vec.ts";
import { Builder } from "./builder.ts";

/**
 * A place of the line, in metres: half of the size times `part`, less `inM`, away from the axis, and `y` up. What follows
 * is the way that the line goes there.
 */
export interface LatheStop {
	part: number;
	inM: number;
	y: number;
	along: { part: number; inM: number; y: number };
}

/** A smooth stretch of the line, which becomes a face of its own name. It goes up outside, in over the crown, down inside. */
export interface LatheRun {
	face: string;
	stops: readonly LatheStop[];
}

/** A straight stretch from one place to another. */
export function straight(
	face: string,
	from: Pick<LatheStop, "part" | "inM" | "y">,
	to: Pick<LatheStop, "part" | "inM" | "y">,
): LatheRun {
	const along = { part: to.part - from.part, inM: to.inM - from.inM, y: to.y - from.y };
	return {
		face,
		stops: [
			{ ...from, along },
			{ ...to, along },
		],
	};
}

/** Turns a closed line, or one that begins and ends on the axis, about the axis of a body of a width and a depth in metres. */
export function lathe(runs: readonly LatheRun[], [w, , d]: Vec3, sides: number): Builder {
	const b = new Builder();
	const radii = (s: Pick<LatheStop, "part" | "inM">): [number, number] => [
		(w / 2) * s.part - s.inM,
		(d / 2) * s.part - s.inM,
	];
	const angle = (k: number) => ((k % sides) / sides) * TAU;
	for (const { face, stops } of runs) {
		const rows = stops.map((stop) => {
			const [rx, rz] = radii(stop);
			const [ax, az] = radii(stop.along);
			// On the axis each side has a corner of its own, which looks out of its middle.
			const onAxis = stop.part === 0 && stop.inM === 0;
			return Array.from({ length: sides + 1 }, (_, k) => {
				const [c, s] = [cos(angle(k)), sin(angle(k))];
				const turn = onAxis ? angle(k) + (0.5 / sides) * TAU : angle(k);
				const [cn, sn] = [cos(turn), sin(turn)];
				// Along the line, and round.
				const [px, py, pz] = [ax * cn, stop.along.y, az * sn];
				const [qx, qz] = onAxis ? [-sn, cn] : [-rx * s, rz * c];
				return b.vertex(onAxis ? [0, stop.y, 0] : [rx * c, stop.y, rz * s], [py * qz, pz * qx - px * qz, -py * qx]);
			});
		});
		for (let j = 0; j + 1 < rows.length; j++) {
			const [low, high] = [rows[j], rows[j + 1]];
			const [lowOnAxis, highOnAxis] = [stops[j], stops[j + 1]].map((s) => s.part === 0 && s.inM === 0);
			for (let k = 0; k < sides; k++) {
				if (!lowOnAxis) b.triangle(low[k], high[k], low[k + 1]);
				if (!highOnAxis) b.triangle(low[k + 1], high[k], high[k + 1]);
			}
		}
		b.face(face);
	}
	return b;
}

/** Convex parts of a ring that is turned about the upright, in so many pieces: of its places outside, inside, below, above. */
export function ringHulls(
	[w, h, d]: Vec3,
	inside: readonly [number, number],
	pieces: number,
	each: number,
): readonly (readonly Vec3[])[] {
	return Array.from({ length: pieces }, (_, p) =>
		Array.from({ length: each + 1 }, (_, i) => ((p * each + i) / (pieces * each)) * TAU).flatMap((a): Vec3[] =>
			[0, h].flatMap((y): Vec3[] => [
				[(w / 2) * cos(a), y, (d / 2) * sin(a)],
				[inside[0] * cos(a), y, inside[1] * sin(a)],
			]),
		),
	);
}
