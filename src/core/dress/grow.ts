/** Grown plants of one metre height, standing on y = 0. Vertex colours shade from root to tip; alpha is unused. */
import type { Species } from "../doc/schema.ts";
import { cos, sin, TAU } from "../maths/functions.ts";
import { randomStream } from "../maths/hash.ts";
import { type Mesh, tintByte } from "../maths/mesh.ts";
import type { Vec3 } from "../maths/vec.ts";
import { add, cross, normalize, scale } from "../maths/vec.ts";

export const VARIANTS = 6;

class Plant {
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

function tussock(seed: number): Mesh {
	const random = randomStream(seed * 131 + 5);
	const plant = new Plant();
	const blades = 46;
	for (let i = 0; i < blades; i++) {
		const a = random() * TAU;
		const out = Math.sqrt(random());
		const lean = 0.12 + 0.75 * out * (0.6 + 0.4 * random());
		const root: Vec3 = [cos(a) * out * 0.13, -0.03, sin(a) * out * 0.13];
		const spin = a + (random() - 0.5) * 1.2;
		const direction: Vec3 = [cos(spin) * lean, 1, sin(spin) * lean];
		const bend: Vec3 = [
			cos(spin) * (0.5 + random() * 1.1) * out,
			-0.6 * out * random() - 0.1,
			sin(spin) * (0.5 + random() * 1.1) * out,
		];
		const length = (1.08 - 0.42 * out) * (0.6 + 0.42 * random());
		plant.strip(root, direction, bend, length, 0.022 + 0.016 * random(), 4, [0.35, 1.05], 0.85 + 0.4 * random());
	}
	return plant.mesh();
}

function shrub(seed: number): Mesh {
	const random = randomStream(seed * 173 + 11);
	const plant = new Plant();
	const stems = 9 + Math.floor(random() * 3);
	for (let i = 0; i < stems; i++) {
		const a = ((i + random() * 0.8) / stems) * TAU;
		const lean = 0.25 + 0.9 * random();
		const direction: Vec3 = [cos(a) * lean, 1, sin(a) * lean];
		const length = 0.62 + 0.38 * random();
		const bend: Vec3 = [(random() - 0.5) * 0.6, 0.35, (random() - 0.5) * 0.6];
		const root: Vec3 = [cos(a) * 0.04, -0.04, sin(a) * 0.04];
		plant.strip(root, direction, bend, length, 0.03, 4, [0.35, 0.45], 1.25);
		const d = normalize(add(normalize(direction), scale(bend, 0.5)));
		const twigs = 8;
		for (let k = 0; k < twigs; k++) {
			const t = 0.3 + (0.7 * (k + random())) / twigs;
			const at = add(root, scale(d, length * t * 0.97));
			const ta = random() * TAU;
			const twig: Vec3 = normalize([d[0] + cos(ta) * 0.9, d[1] + 0.25, d[2] + sin(ta) * 0.9]);
			const reach = 0.16 + 0.12 * random();
			for (let m = 0; m < 4; m++) {
				const spot = add(at, scale(twig, (reach * (m + 0.6)) / 4));
				const la = random() * TAU;
				const leafWay: Vec3 = [twig[0] + cos(la) * 0.8, twig[1] + 0.5 * random(), twig[2] + sin(la) * 0.8];
				plant.leaf(
					spot,
					leafWay,
					[0.1, 1, 0.05],
					0.085 + 0.045 * random(),
					0.034,
					0.55 + 0.55 * random(),
					0.8 + 0.45 * random(),
				);
			}
		}
	}
	return plant.mesh();
}

/** One of the individuals of a species, one metre high. */
export function grow(species: Species, variant: number): Mesh {
	return species === "tussock" ? tussock(variant + 1) : shrub(variant + 1);
}

/** Greatest number of a species that can stand on a square metre: the scale of its ranks. */
export const speciesLimit = (species: Species): number => (species === "tussock" ? 60 : 24);
