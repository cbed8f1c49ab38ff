/** Unit primitives: footprint of one metre about the origin, standing on y = 0, one metre high. */
import type { PieceKind } from "../doc/schema.ts";
import { cos, sin, TAU } from "../maths/functions.ts";
import type { Mesh } from "../maths/mesh.ts";

class Builder {
	positions: number[] = [];
	normals: number[] = [];
	indices: number[] = [];
	vertex(p: readonly number[], n: readonly number[]): number {
		this.positions.push(p[0], p[1], p[2]);
		const l = Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]) || 1;
		this.normals.push(n[0] / l, n[1] / l, n[2] / l);
		return this.positions.length / 3 - 1;
	}
	/** A flat polygon, corners counter-clockwise seen from outside. */
	face(...corners: readonly (readonly number[])[]): void {
		const [a, b, c] = corners;
		const u = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
		const v = [c[0] - a[0], c[1] - a[1], c[2] - a[2]];
		const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
		const first = corners.map((p) => this.vertex(p, n))[0];
		for (let i = 1; i + 1 < corners.length; i++) this.indices.push(first, first + i, first + i + 1);
	}
	mesh(): Mesh {
		return {
			positions: new Float32Array(this.positions),
			normals: new Float32Array(this.normals),
			indices: new Uint32Array(this.indices),
		};
	}
}

function box(): Mesh {
	const b = new Builder();
	const [l, r, d, u, n, f] = [-0.5, 0.5, 0, 1, 0.5, -0.5];
	b.face([l, d, n], [r, d, n], [r, u, n], [l, u, n]);
	b.face([r, d, f], [l, d, f], [l, u, f], [r, u, f]);
	b.face([r, d, n], [r, d, f], [r, u, f], [r, u, n]);
	b.face([l, d, f], [l, d, n], [l, u, n], [l, u, f]);
	b.face([l, u, n], [r, u, n], [r, u, f], [l, u, f]);
	b.face([l, d, f], [r, d, f], [r, d, n], [l, d, n]);
	return b.mesh();
}

/** A ramp that rises from its near edge to its far edge. */
function wedge(): Mesh {
	const b = new Builder();
	const [l, r, n, f] = [-0.5, 0.5, 0.5, -0.5];
	b.face([l, 0, n], [r, 0, n], [r, 1, f], [l, 1, f]);
	b.face([r, 0, f], [l, 0, f], [l, 1, f], [r, 1, f]);
	b.face([r, 0, n], [r, 0, f], [r, 1, f]);
	b.face([l, 0, f], [l, 0, n], [l, 1, f]);
	b.face([l, 0, f], [r, 0, f], [r, 0, n], [l, 0, n]);
	return b.mesh();
}

/** A round body of `sides` whose radius goes from `low` to `high` (0.5 and 0.5 for a cylinder, 0.5 and 0 for a cone). */
function round(low: number, high: number, sides: number): Mesh {
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
			b.indices.push(a, f, e, a, g, f);
			b.face([0, 1, 0], [c1 * high, 1, s1 * high], [c0 * high, 1, s0 * high]);
		} else {
			b.indices.push(a, b.vertex([0, 1, 0], [cm, slope, sm]), e);
		}
		b.face([0, 0, 0], [c0 * low, 0, s0 * low], [c1 * low, 0, s1 * low]);
	}
	return b.mesh();
}

function sphere(across: number, up: number): Mesh {
	const b = new Builder();
	for (let j = 0; j <= up; j++) {
		const polar = (j / up) * Math.PI;
		for (let i = 0; i <= across; i++) {
			const a = (i / across) * TAU;
			const n = [sin(polar) * cos(a), cos(polar), sin(polar) * sin(a)];
			b.vertex([0.5 * n[0], 0.5 + 0.5 * n[1], 0.5 * n[2]], n);
		}
	}
	const row = across + 1;
	for (let j = 0; j < up; j++)
		for (let i = 0; i < across; i++) {
			const a = j * row + i;
			if (j > 0) b.indices.push(a, a + 1, a + row);
			if (j + 1 < up) b.indices.push(a + 1, a + row + 1, a + row);
		}
	return b.mesh();
}

/** Whether a body has a curved face, and so more faces the larger it is seen. */
export const isRound = (kind: PieceKind): boolean => kind === "cylinder" || kind === "cone" || kind === "sphere";

/** Sides of round bodies, for what is traced and for copies that are small in the frame. */
const FINE = { sides: 48, across: 64, up: 32 };
const COARSE = { sides: 14, across: 16, up: 9 };

/** The unit mesh of a primitive, outward faces counter-clockwise; `coarse` for those drawn small. */
export function primitiveMesh(kind: PieceKind, coarse = false): Mesh {
	const { sides, across, up } = coarse ? COARSE : FINE;
	switch (kind) {
		case "box":
			return box();
		case "wedge":
			return wedge();
		case "cylinder":
			return round(0.5, 0.5, sides);
		case "cone":
			return round(0.5, 0, sides);
		case "sphere":
			return sphere(across, up);
	}
}
