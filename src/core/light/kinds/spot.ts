import { coneCosines, coneSteradians } from "../cone.ts";
import type { LampMaker } from "../lamp.ts";

export const spot: LampMaker = {
	shape: "spot",
	aims: true,
	cone: true,
	measures: 0,
	areaM2: () => 0,
	strength: {
		lumen: (value, lamp) => {
			const { cosInner, cosOuter } = coneCosines(lamp);
			return value / coneSteradians(cosInner, cosOuter);
		},
		candela: (value) => value,
		lux: (value, { strength: { atM } }) => value * atM * atM,
	},
	body: null,
	usual: { pitchDeg: -90, sizeM: [0.12, 0.12] },
	hangsM: 3,
};
