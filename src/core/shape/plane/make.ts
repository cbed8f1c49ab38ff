import { Builder } from "../builder.ts";
import { geometryFrom, type ShapeMaker } from "../geometry.ts";

/** A sheet without thickness that lies flat; its height stands for nothing. */
export const plane: ShapeMaker = {
	flat: true,
	evaluate: () => {
		const b = new Builder();
		b.flat([-0.5, 0, 0.5], [0.5, 0, 0.5], [0.5, 0, -0.5], [-0.5, 0, -0.5]);
		b.face("top");
		return geometryFrom(b.mesh(), b.faces, { closed: false });
	},
};
