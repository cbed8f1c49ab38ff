/** Bodies of one depth: a front of convex parts, and the edge about it. */
import type { Vec3 } from "../maths/vec.ts";
import type { Builder } from "./builder.ts";

/** A place of a front: right and up. */
export type Spot = readonly [number, number];

/** A stretch of the edge, the body to its left; smooth where each of its places has a normal of its own. */
export interface EdgeRun {
	face: string;
	spots: readonly Spot[];
	normals?: readonly Spot[];
}

/** Which way a front looks: where its right, its up and its depth lie. */
export type Lay = (x: number, y: number, out: number) => Vec3;

/**
 * Adds a body between its front and its back, half a depth from the middle each. The parts are convex, counter-clockwise
 * seen from the front; where parts meet, all corners of each are corners of the other.
 */
export function addSlab(
	b: Builder,
	parts: readonly (readonly Spot[])[],
	edge: readonly EdgeRun[],
	halfDepth: number,
	lay: Lay,
	[front, back]: readonly [string, string],
): void {
	for (const [name, out] of [
		[front, halfDepth],
		[back, -halfDepth],
	] as const) {
		for (const part of parts) {
			const corners = part.map(([x, y]) => lay(x, y, out));
			b.flat(...(out > 0 ? corners : corners.reverse()));
		}
		b.face(name);
	}
	const middle = lay(0, 0, 0);
	for (const { face, spots, normals } of edge) {
		for (let i = 0; i + 1 < spots.length; i++) {
			const [p, q] = [spots[i], spots[i + 1]];
			const across: Spot = [q[1] - p[1], p[0] - q[0]];
			const [a, c, e, g] = [
				[p, halfDepth, normals?.[i]],
				[p, -halfDepth, normals?.[i]],
				[q, -halfDepth, normals?.[i + 1]],
				[q, halfDepth, normals?.[i + 1]],
			].map(([at, out, n]) => {
				const [nx, ny] = (n as Spot | undefined) ?? across;
				const normal = lay(nx, ny, 0).map((v, k) => v - middle[k]);
				const [x, y] = at as Spot;
				return b.vertex(lay(x, y, out as number), normal);
			});
			b.triangle(a, c, e);
			b.triangle(a, e, g);
		}
		b.face(face);
	}
}

/** The convex parts of such a body. */
export const slabHulls = (parts: readonly (readonly Spot[])[], halfDepth: number, lay: Lay): Vec3[][] =>
	parts.map((part) => part.flatMap(([x, y]) => [lay(x, y, halfDepth), lay(x, y, -halfDepth)]));
