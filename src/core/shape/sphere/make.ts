import { cos, sin, TAU } from "../../maths/functions.ts";
import { Builder } from "../builder.ts";
import { geometryFrom, type ShapeMaker } from "../geometry.ts";

/** Meridians and parallels, for what is traced and for copies that are small in the frame. */
const FINE = { across: 64, up: 32 };
const COARSE = { across: 16, up: 9 };

function made({ across, up }: typeof FINE): Builder {
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
			if (j > 0) b.triangle(a, a + 1, a + row);
			if (j + 1 < up) b.triangle(a + 1, a + row + 1, a + row);
		}
	b.face("skin");
	return b;
}

export const sphere: ShapeMaker = {
	even: true,
	evaluate: () => {
		const b = made(FINE);
		return geometryFrom(b.mesh(), b.faces, { coarse: made(COARSE).mesh() });
	},
};
