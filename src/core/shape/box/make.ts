import { Builder } from "../builder.ts";
import { geometryFrom, type ShapeMaker } from "../geometry.ts";

export const box: ShapeMaker = {
	evaluate: () => {
		const b = new Builder();
		const [l, r, d, u, n, f] = [-0.5, 0.5, 0, 1, 0.5, -0.5];
		b.flat([l, d, n], [r, d, n], [r, u, n], [l, u, n]);
		b.face("near");
		b.flat([r, d, f], [l, d, f], [l, u, f], [r, u, f]);
		b.face("away");
		b.flat([r, d, n], [r, d, f], [r, u, f], [r, u, n]);
		b.face("right");
		b.flat([l, d, f], [l, d, n], [l, u, n], [l, u, f]);
		b.face("left");
		b.flat([l, u, n], [r, u, n], [r, u, f], [l, u, f]);
		b.face("top");
		b.flat([l, d, f], [r, d, f], [r, d, n], [l, d, n]);
		b.face("foot");
		return geometryFrom(b.mesh(), b.faces);
	},
};
