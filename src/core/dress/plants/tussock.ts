import { cos, sin, TAU } from "../../maths/functions.ts";
import { randomStream } from "../../maths/hash.ts";
import type { Mesh } from "../../maths/mesh.ts";
import type { Vec3 } from "../../maths/vec.ts";
import type { Plant } from "../plant.ts";
import { Shoots } from "./shoots.ts";

function grow(seed: number): Mesh {
	const random = randomStream(seed * 131 + 5);
	const plant = new Shoots();
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

export const tussock: Plant = {
	name: "Tussocks",
	act: "Add tussocks",
	usual: { densityPerM2: 1.5, sizeM: [0.25, 0.5], colour: [0.23, 0.21, 0.09] },
	limitPerM2: 60,
	roughness: 0.7,
	translucency: 0.35,
	grow: (variant) => grow(variant + 1),
};
