import type { Shape } from "../../doc/schema/piece.ts";
import { cos, sin, TAU } from "../../maths/functions.ts";
import { hash01 } from "../../maths/hash.ts";
import { add, dot, scale, sub, type Vec3 } from "../../maths/vec.ts";
import { Builder } from "../builder.ts";
import { geometryFrom, type ShapeMaker } from "../geometry.ts";

type Blob = Extract<Shape, { kind: "blob" }>;

const FINE = { across: 64, up: 32 };
const COARSE = { across: 16, up: 9 };
/** Waves in all directions that are put together. */
const WAVES = 12;

interface Wave {
	along: Vec3;
	phase: number;
	strength: number;
}

function wavesOf({ uneven, swells, seed }: Blob): Wave[] {
	return Array.from({ length: WAVES }, (_, i) => {
		const chance = (k: number) => hash01(i, k, seed);
		const y = 2 * chance(1) - 1;
		const level = Math.sqrt(1 - y * y);
		const turn = TAU * chance(2);
		// From half to one and a half times as fine, the finer the fainter.
		const fine = swells * (0.5 + i / (WAVES - 1));
		return {
			along: scale([level * cos(turn), y, level * sin(turn)], fine),
			phase: TAU * chance(3),
			strength: (uneven * 1.6) / (WAVES * (0.5 + i / (WAVES - 1))),
		};
	});
}

/** Its radius in a direction, and how that grows over the ball. */
function radius(waves: readonly Wave[], n: Vec3): { r: number; slope: Vec3 } {
	let r = 1;
	let slope: Vec3 = [0, 0, 0];
	for (const { along, phase, strength } of waves) {
		const at = dot(along, n) + phase;
		r += strength * cos(at);
		slope = add(slope, scale(along, -strength * sin(at)));
	}
	return { r: Math.max(0.1, r), slope };
}

function made(spec: Blob, { across, up }: typeof FINE): { positions: Vec3[]; normals: Vec3[] } {
	const waves = wavesOf(spec);
	const positions: Vec3[] = [];
	const normals: Vec3[] = [];
	for (let j = 0; j <= up; j++) {
		const polar = (j / up) * Math.PI;
		for (let i = 0; i <= across; i++) {
			const a = ((i % across) / across) * TAU;
			const ring = j === 0 || j === up ? 0 : sin(polar);
			const n: Vec3 = [ring * cos(a), j === up ? -1 : cos(polar), ring * sin(a)];
			const { r, slope } = radius(waves, n);
			positions.push(scale(n, r));
			normals.push(sub(scale(n, r), sub(slope, scale(n, dot(slope, n)))));
		}
	}
	return { positions, normals };
}

/** Into a box of a metre that stands on its foot, by the bounds of the fine one. */
function fitted(spec: Blob, fine: readonly Vec3[], how: typeof FINE): Builder {
	const ends = [0, 1, 2].map((c) => {
		let [low, high] = [Infinity, -Infinity];
		for (const p of fine) [low, high] = [Math.min(low, p[c]), Math.max(high, p[c])];
		return { low, wide: high - low };
	});
	const { positions, normals } = made(spec, how);
	const b = new Builder();
	for (const [i, p] of positions.entries())
		b.vertex(
			p.map((v, c) => (v - ends[c].low) / ends[c].wide - (c === 1 ? 0 : 0.5)),
			normals[i].map((v, c) => v * ends[c].wide),
		);
	const row = how.across + 1;
	for (let j = 0; j < how.up; j++)
		for (let i = 0; i < how.across; i++) {
			const a = j * row + i;
			if (j > 0) b.triangle(a, a + 1, a + row);
			if (j + 1 < how.up) b.triangle(a + 1, a + row + 1, a + row);
		}
	b.face("skin");
	return b;
}

export const blob: ShapeMaker<Blob> = {
	usual: { tall: 0.8 },
	evaluate: (spec) => {
		const { positions } = made(spec, FINE);
		const b = fitted(spec, positions, FINE);
		return geometryFrom(b.mesh(), b.faces, { coarse: fitted(spec, positions, COARSE).mesh() });
	},
};
