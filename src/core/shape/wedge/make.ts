import { Builder } from "../builder.ts";
import { geometryFrom, type ShapeMaker } from "../geometry.ts";

/** A ramp that rises from its near edge to its far edge. */
export const wedge: ShapeMaker = {
	evaluate: () => {
		const b = new Builder();
		const [l, r, n, f] = [-0.5, 0.5, 0.5, -0.5];
		b.flat([l, 0, n], [r, 0, n], [r, 1, f], [l, 1, f]);
		b.face("ramp");
		b.flat([r, 0, f], [l, 0, f], [l, 1, f], [r, 1, f]);
		b.face("away");
		b.flat([r, 0, n], [r, 0, f], [r, 1, f]);
		b.face("right");
		b.flat([l, 0, f], [l, 0, n], [l, 1, f]);
		b.face("left");
		b.flat([l, 0, f], [r, 0, f], [r, 0, n], [l, 0, n]);
		b.face("foot");
		return geometryFrom(b.mesh(), b.faces);
	},
};
