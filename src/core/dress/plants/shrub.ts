import { cos, sin, TAU } from "../../maths/functions.ts";
import { randomStream } from "../../maths/hash.ts";
import type { Mesh } from "../../maths/mesh.ts";
import { add, normalize, scale, type Vec3 } from "../../maths/vec.ts";
import type { Plant } from "../plant.ts";
import { Shoots } from "./shoots.ts";

function grow(seed: number): Mesh {
	const random = randomStream(seed * 173 + 11);
	const plant = new Shoots();
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

export const shrub: Plant = {
	name: "Low shrubs",
	act: "Add low shrubs",
	usual: { densityPerM2: 0.2, sizeM: [0.4, 0.9], colour: [0.13, 0.15, 0.075] },
	limitPerM2: 24,
	roughness: 0.7,
	translucency: 0.3,
	grow: (variant) => grow(variant + 1),
};
