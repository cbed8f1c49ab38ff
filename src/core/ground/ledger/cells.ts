/** Cells about scattered points: the plane cut into uneven pieces (Worley 1996), seeded. */
import { hash01 } from "../../maths/hash.ts";

/** A point of a cell near a place: how far it is, in cells, and its own number. */
export interface CellPoint {
	x: number;
	z: number;
	far: number;
	/** 0 to 1, the same for the same cell. */
	lot: number;
}

const number = (ix: number, iz: number, seed: number): number =>
	Math.imul(ix, 0x9e3779b1) ^ Math.imul(iz, 0x85ebca6b) ^ Math.imul(seed, 0xc2b2ae35);

/** The points of the nine cells about a place that is given in cells. */
export function pointsAbout(x: number, z: number, seed: number, out: CellPoint[]): CellPoint[] {
	const [x0, z0] = [Math.floor(x), Math.floor(z)];
	for (let i = 0; i < 9; i++) {
		const [ix, iz] = [x0 + (i % 3) - 1, z0 + Math.floor(i / 3) - 1];
		const n = number(ix, iz, seed);
		out[i] ??= { x: 0, z: 0, far: 0, lot: 0 };
		const p = out[i];
		p.x = ix + 0.15 + 0.7 * hash01(n, 1);
		p.z = iz + 0.15 + 0.7 * hash01(n, 2);
		p.lot = hash01(n, 3);
		p.far = Math.sqrt((p.x - x) * (p.x - x) + (p.z - z) * (p.z - z));
	}
	return out;
}
