import type { LampMaker } from "../lamp.ts";
import { ballMesh } from "../lampMeshes.ts";

const areaM2 = ([w]: [number, number]) => Math.PI * w * w;
const radius2 = ([w]: [number, number]) => (w * w) / 4;

export const sphere: LampMaker = {
	shape: "sphere",
	aims: false,
	cone: false,
	measures: 1,
	areaM2,
	strength: {
		lumen: (value, { sizeM }) => value / (Math.PI * areaM2(sizeM)),
		candela: (value, { sizeM }) => value / (Math.PI * radius2(sizeM)),
		// Form factor of a sphere.
		lux: (value, { sizeM, strength: { atM } }) =>
			(value * Math.max(atM * atM, radius2(sizeM))) / (Math.PI * radius2(sizeM)),
	},
	body: ballMesh,
	usual: { pitchDeg: 0, sizeM: [0.12, 0.12] },
	hangsM: 2,
};
