/** Bodies that are put together of boxes and prisms, each closed by itself, under names and on surfaces of their own. */
import type { Vec3 } from "../maths/vec.ts";
import { FaceGroups } from "./builder.ts";

type Spot = readonly [number, number];

export class Assembly extends FaceGroups {
	/** A box between two corners. */
	box(face: string, slot: number, [x0, y0, z0]: Vec3, [x1, y1, z1]: Vec3): void {
		if (!(x1 > x0 && y1 > y0 && z1 > z0)) return;
		this.add(
			face,
			(b) => {
				b.flat([x0, y0, z1], [x1, y0, z1], [x1, y1, z1], [x0, y1, z1]);
				b.flat([x1, y0, z0], [x0, y0, z0], [x0, y1, z0], [x1, y1, z0]);
				b.flat([x1, y0, z1], [x1, y0, z0], [x1, y1, z0], [x1, y1, z1]);
				b.flat([x0, y0, z0], [x0, y0, z1], [x0, y1, z1], [x0, y1, z0]);
				b.flat([x0, y1, z1], [x1, y1, z1], [x1, y1, z0], [x0, y1, z0]);
				b.flat([x0, y0, z0], [x1, y0, z0], [x1, y0, z1], [x0, y0, z1]);
			},
			slot,
		);
	}

	/** A convex profile, counter-clockwise as seen by who looks against the way it is led: across and up, led along x or z. */
	prism(face: string, slot: number, profile: readonly Spot[], along: "x" | "z", from: number, to: number): void {
		if (!(to > from)) return;
		const lay = ([a, y]: Spot, at: number): Vec3 => (along === "z" ? [a, y, at] : [at, y, -a]);
		this.add(
			face,
			(b) => {
				b.flat(...profile.map((p) => lay(p, to)));
				b.flat(...profile.map((p) => lay(p, from)).reverse());
				for (const [i, p] of profile.entries()) {
					const q = profile[(i + 1) % profile.length];
					b.flat(lay(p, to), lay(p, from), lay(q, from), lay(q, to));
				}
			},
			slot,
		);
	}

	/** A body of flat faces, each counter-clockwise seen from outside. */
	faces(face: string, slot: number, list: readonly (readonly Vec3[])[]): void {
		this.add(
			face,
			(b) => {
				for (const corners of list) b.flat(...corners);
			},
			slot,
		);
	}
}
