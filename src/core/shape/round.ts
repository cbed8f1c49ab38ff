/** Round bodies about the vertical whose sides are straight: cylinders and cones. */
import { cos, sin, TAU } from "../maths/functions.ts";
import { Builder } from "./builder.ts";
import { type Geometry, geometryFrom } from "./geometry.ts";

/** Sides, for what is traced and for copies that are small in the frame. */
export const FINE_SIDES = 48;
export const COARSE_SIDES = 14;

function made(low: number, high: number, sides: number): Builder {
	const b = new Builder();
	const slope = low - high;
	const turn = (k: number) => [cos((k / sides) * TAU), sin((k / sides) * TAU)];
	for (let k = 0; k < sides; k++) {
		const [c0, s0] = turn(k);
		const [c1, s1] = turn(k + 1);
		const [cm, sm] = turn(k + 0.5);
		const a = b.vertex([c0 * low, 0, s0 * low], [c0, slope, s0]);
		const e = b.vertex([c1 * low, 0, s1 * low], [c1, slope, s1]);
		if (high > 0) {
			const f = b.vertex([c1 * high, 1, s1 * high], [c1, slope, s1]);
			const g = b.vertex([c0 * high, 1, s0 * high], [c0, slope, s0]);
			b.triangle(a, f, e);
			b.triangle(a, g, f);
		} else {
			b.triangle(a, b.vertex([0, 1, 0], [cm, slope, sm]), e);
		}
	}
	b.face("side");
	for (let k = 0; high > 0 && k < sides; k++) {
		const [[c0, s0], [c1, s1]] = [turn(k), turn(k + 1)];
		b.flat([0, 1, 0], [c1 * high, 1, s1 * high], [c0 * high, 1, s0 * high]);
	}
	if (high > 0) b.face("top");
	for (let k = 0; k < sides; k++) {
		const [[c0, s0], [c1, s1]] = [turn(k), turn(k + 1)];
		b.flat([0, 0, 0], [c0 * low, 0, s0 * low], [c1 * low, 0, s1 * low]);
	}
	b.face("foot");
	return b;
}

/** A body whose radius goes from `low` at its foot to `high` at its top (0.5 and 0.5 a cylinder, 0.5 and 0 a cone). */
export function roundBody(low: number, high: number): Geometry {
	const b = made(low, high, FINE_SIDES);
	return geometryFrom(b.mesh(), b.faces, { coarse: made(low, high, COARSE_SIDES).mesh() });
}
