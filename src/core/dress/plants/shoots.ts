/** What plants are put together from: blades, stems and leaves. Vertex colours shade from root to tip; alpha is unused. */
import { type Mesh, tintByte } from "../../maths/mesh.ts";
import { add, cross, normalize, scale, type Vec3 } from "../../maths/vec.ts";

export class Shoots {
	positions: number[] = [];
	normals: number[] = [];
	colours: number[] = [];
	indices: number[] = [];
	vertex(p: Vec3, n: Vec3, shade: number, warm = 1): number {
		this.positions.push(...p);
		this.normals.push(...normalize(n));
		this.colours.push(tintByte(shade * warm), tintByte(shade), tintByte(shade * (1.5 - 0.5 * warm)), 0);
		return this.positions.length / 3 - 1;
	}
	/** A blade or stem: a strip of `steps` pieces that narrows to a point along a bent line. */
	strip(
		root: Vec3,
		direction: Vec3,
		bend: Vec3,
		length: number,
		width: number,
		steps: number,
		shade: [number, number],
		warm: number,
	): Vec3 {
		let at = root;
		let along = normalize(direction);
		const side = normalize(cross(along, [0.13, 1, 0.21]));
		let left = -1;
		let right = -1;
		for (let i = 0; i <= steps; i++) {
			const t = i / steps;
			const w = width * (1 - t * t) * 0.5;
			const tone = shade[0] + (shade[1] - shade[0]) * t;
			const n = cross(side, along);
			const l = this.vertex(add(at, scale(side, -w)), n, tone, warm);
			const r = i === steps ? l : this.vertex(add(at, scale(side, w)), n, tone, warm);
			if (i > 0) {
				this.indices.push(left, right, l);
				if (i < steps) this.indices.push(right, r, l);
			}
			left = l;
			right = r;
			along = normalize(add(along, scale(bend, 1 / steps)));
			at = add(at, scale(along, length / steps));
		}
		return at;
	}
	leaf(at: Vec3, direction: Vec3, up: Vec3, length: number, width: number, shade: number, warm: number): void {
		const d = normalize(direction);
		const s = normalize(cross(d, up));
		const n = cross(s, d);
		const a = this.vertex(at, n, shade * 0.8, warm);
		const b = this.vertex(add(at, add(scale(d, length * 0.5), scale(s, width * 0.5))), n, shade, warm);
		const c = this.vertex(add(at, scale(d, length)), n, shade * 1.1, warm);
		const e = this.vertex(add(at, add(scale(d, length * 0.5), scale(s, -width * 0.5))), n, shade, warm);
		this.indices.push(a, b, c, a, c, e);
	}
	mesh(): Mesh {
		return {
			positions: new Float32Array(this.positions),
			normals: new Float32Array(this.normals),
			indices: new Uint32Array(this.indices),
			colours: new Uint8Array(this.colours),
		};
	}
}
