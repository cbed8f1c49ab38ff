import type { Shape } from "../../doc/schema/piece.ts";
import { sin } from "../../maths/functions.ts";
import type { Vec3 } from "../../maths/vec.ts";
import { Builder } from "../builder.ts";
import { geometryFrom, type ShapeMaker } from "../geometry.ts";
import { fromMetres, isLength } from "../metric.ts";

function sharp() {
	const b = new Builder();
	const [l, r, d, u, n, f] = [-0.5, 0.5, 0, 1, 0.5, -0.5];
	b.flat([l, d, n], [r, d, n], [r, u, n], [l, u, n]);
	b.face("near");
	b.flat([r, d, f], [l, d, f], [l, u, f], [r, u, f]);
	b.face("away");
	b.flat([r, d, n], [r, d, f], [r, u, f], [r, u, n]);
	b.face("right");
	b.flat([l, d, f], [l, d, n], [l, u, n], [l, u, f]);
	b.face("left");
	b.flat([l, u, n], [r, u, n], [r, u, f], [l, u, f]);
	b.face("top");
	b.flat([l, d, f], [r, d, f], [r, d, n], [l, d, n]);
	b.face("foot");
	return geometryFrom(b.mesh(), b.faces);
}

/** A face of the box: the ways of its right, its up and its outside, as axes and their signs. */
const FACES: readonly [name: string, right: Vec3, up: Vec3, out: Vec3][] = [
	["near", [1, 0, 0], [0, 1, 0], [0, 0, 1]],
	["away", [-1, 0, 0], [0, 1, 0], [0, 0, -1]],
	["right", [0, 0, -1], [0, 1, 0], [1, 0, 0]],
	["left", [0, 0, 1], [0, 1, 0], [-1, 0, 0]],
	["top", [1, 0, 0], [0, 0, -1], [0, 1, 0]],
	["foot", [1, 0, 0], [0, 0, 1], [0, -1, 0]],
];

/** Bands of a quarter of a round edge that belong to one face. */
const FINE = 4;
const COARSE = 1;

/**
 * Each face is a grid whose outer lines run over half of the round: a place of it is the nearest of the box within, and
 * the radius from there towards a cube about that.
 */
function round([w, h, d]: Vec3, radius: number, bands: number): Builder {
	const b = new Builder();
	const half = [w / 2, h / 2, d / 2];
	const lines = [...Array(bands + 1).keys()].map((i) => {
		const a = (i / bands) * (Math.PI / 4);
		return i === bands ? 1 : sin(a) / sin(Math.PI / 2 - a);
	});
	/** Lines across a face: which end of the box within, and how far beyond it, in radii. */
	const stops = [...[...lines].reverse().map((t) => [-1, -t]), ...lines.map((t) => [1, t])];
	for (const [name, right, up, out] of FACES) {
		const corner = stops.map(([su, u]) =>
			stops.map(([sv, v]) => {
				const n = [0, 1, 2].map((c) => right[c] * u + up[c] * v + out[c]);
				const long = Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]);
				const p = [0, 1, 2].map((c) => {
					const side = right[c] * su + up[c] * sv + out[c];
					return side * (half[c] - radius) + (radius * n[c]) / long + (c === 1 ? half[1] : 0);
				});
				return b.vertex(p, n);
			}),
		);
		for (let i = 0; i + 1 < stops.length; i++)
			for (let j = 0; j + 1 < stops.length; j++) {
				b.triangle(corner[i][j], corner[i + 1][j], corner[i + 1][j + 1]);
				b.triangle(corner[i][j], corner[i + 1][j + 1], corner[i][j + 1]);
			}
		b.face(name);
	}
	return b;
}

/** Part of its least half that a round may take: what is flat keeps a width. */
const MOST_ROUND = 0.98;

export const box: ShapeMaker<Extract<Shape, { kind: "box" }>> = {
	sized: ({ roundM }) => isLength(roundM),
	evaluate: ({ roundM }, size) => {
		if (!isLength(roundM)) return sharp();
		const radius = Math.min(roundM, (MOST_ROUND * Math.min(...size)) / 2);
		return fromMetres(round(size, radius, FINE), size, { coarse: round(size, radius, COARSE) });
	},
};
