import type { LampMaker } from "../lamp.ts";

export const point: LampMaker = {
	shape: "point",
	aims: false,
	cone: false,
	measures: 0,
	areaM2: () => 0,
	strength: {
		lumen: (value) => value / (4 * Math.PI),
		candela: (value) => value,
		lux: (value, { strength: { atM } }) => value * atM * atM,
	},
	body: null,
	usual: { pitchDeg: 0, sizeM: [0.12, 0.12] },
	hangsM: 2,
};
