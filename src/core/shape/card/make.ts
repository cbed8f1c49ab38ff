import type { Shape } from "../../doc/schema/piece.ts";
import { Builder } from "../builder.ts";
import { geometryFrom, type ShapeMaker } from "../geometry.ts";

/** A sheet without thickness that stands upright; its depth stands for nothing. */
export const card: ShapeMaker<Extract<Shape, { kind: "card" }>> = {
	front: true,
	toLens: ({ turns }) => turns === "turns to the lens",
	evaluate: () => {
		const b = new Builder();
		b.flat([-0.5, 0, 0], [0.5, 0, 0], [0.5, 1, 0], [-0.5, 1, 0]);
		b.face("front");
		return geometryFrom(b.mesh(), b.faces, { closed: false });
	},
};
