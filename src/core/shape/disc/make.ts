import type { Shape } from "../../doc/schema/piece.ts";
import { geometryFrom, type ShapeMaker } from "../geometry.ts";
import { lathe, straight } from "../lathe.ts";
import { COARSE_SIDES, FINE_SIDES } from "../round.ts";

const made = (hole: number, sides: number) =>
	lathe([straight("top", { part: 1, inM: 0, y: 0 }, { part: hole, inM: 0, y: 0 })], [1, 1, 1], sides);

/** A round sheet without thickness that lies flat, with or without a hole. */
export const disc: ShapeMaker<Extract<Shape, { kind: "disc" }>> = {
	flat: true,
	evaluate: ({ hole }) => {
		const b = made(hole, FINE_SIDES);
		return geometryFrom(b.mesh(), b.faces, { coarse: made(hole, COARSE_SIDES).mesh(), closed: false });
	},
};
