import { atan } from "../../maths/functions.ts";
import type { LampMaker } from "../lamp.ts";
import { rectangleMesh } from "../lampMeshes.ts";

const areaM2 = ([w, h]: [number, number]) => w * h;

/** Illuminance, for luminance 1, at a distance before the middle of a rectangle of half sides a and b (Lambert 1760). */
function facing(a: number, b: number, distance: number): number {
	const x = a / distance;
	const y = b / distance;
	const p = Math.sqrt(1 + x * x);
	const q = Math.sqrt(1 + y * y);
	return 2 * ((x / p) * atan(y / p) + (y / q) * atan(x / q));
}

export const rectangle: LampMaker = {
	shape: "rectangle",
	aims: true,
	cone: false,
	measures: 2,
	areaM2,
	strength: {
		lumen: (value, { sizeM }) => value / (Math.PI * areaM2(sizeM)),
		candela: (value, { sizeM }) => value / areaM2(sizeM),
		lux: (value, { sizeM, strength: { atM } }) => value / facing(sizeM[0] / 2, sizeM[1] / 2, atM),
	},
	body: rectangleMesh,
	usual: { pitchDeg: 0, sizeM: [1, 0.6] },
	hangsM: 3,
};
