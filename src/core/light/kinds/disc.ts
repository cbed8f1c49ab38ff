import type { LampMaker } from "../lamp.ts";
import { discMesh } from "../lampMeshes.ts";

const areaM2 = ([w]: [number, number]) => (Math.PI * w * w) / 4;
const radius2 = ([w]: [number, number]) => (w * w) / 4;

export const disc: LampMaker = {
	shape: "disc",
	aims: true,
	cone: false,
	measures: 1,
	areaM2,
	strength: {
		lumen: (value, { sizeM }) => value / (Math.PI * areaM2(sizeM)),
		candela: (value, { sizeM }) => value / areaM2(sizeM),
		// Form factor of a disc that faces the place.
		lux: (value, { sizeM, strength: { atM } }) => (value * (atM * atM + radius2(sizeM))) / (Math.PI * radius2(sizeM)),
	},
	body: discMesh,
	usual: { pitchDeg: -90, sizeM: [0.12, 0.12] },
	hangsM: 3,
};
