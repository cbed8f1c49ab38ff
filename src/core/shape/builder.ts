/** Puts a body together from flat and smooth faces, each under a name that lasts. */
import type { Mesh } from "../maths/mesh.ts";
import type { Face } from "./geometry.ts";

type Corner = readonly number[];

export class Builder {
	private positions: number[] = [];
	private normals: number[] = [];
	private indices: number[] = [];
	readonly faces: Face[] = [];

	/** A vertex; the normal need not have a length of one. @returns Its number. */
	vertex(p: Corner, n: Corner): number {
		this.positions.push(p[0], p[1], p[2]);
		const l = Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]) || 1;
		this.normals.push(n[0] / l, n[1] / l, n[2] / l);
		return this.positions.length / 3 - 1;
	}

	triangle(a: number, b: number, c: number): void {
		this.indices.push(a, b, c);
	}

	/** A flat polygon, corners counter-clockwise seen from outside. */
	flat(...corners: readonly Corner[]): void {
		const [a, b, c] = corners;
		const u = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
		const v = [c[0] - a[0], c[1] - a[1], c[2] - a[2]];
		const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
		const first = corners.map((p) => this.vertex(p, n))[0];
		for (let i = 1; i + 1 < corners.length; i++) this.indices.push(first, first + i, first + i + 1);
	}

	/** Names the triangles added since the last name: a face of the body. */
	face(name: string, slot = 0): void {
		const begun = this.faces.length ? this.faces[this.faces.length - 1].end : 0;
		this.faces.push({ name, slot, begin: begun, end: this.indices.length / 3 });
	}

	mesh(): Mesh {
		return {
			positions: new Float32Array(this.positions),
			normals: new Float32Array(this.normals),
			indices: new Uint32Array(this.indices),
		};
	}
}

/** Faces that are added to in any order, each of one of the piece's surfaces. */
export class FaceGroups {
	private groups = new Map<string, { slot: number; makes: ((b: Builder) => void)[] }>();

	add(face: string, make: (b: Builder) => void, slot = 0): void {
		const held = this.groups.get(face);
		if (held) held.makes.push(make);
		else this.groups.set(face, { slot, makes: [make] });
	}

	built(): Builder {
		const b = new Builder();
		for (const [face, { slot, makes }] of this.groups) {
			for (const make of makes) make(b);
			b.face(face, slot);
		}
		return b;
	}
}
