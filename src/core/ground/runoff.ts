/** Where rain runs together on the land about a place, for rules that ask place by place. */
import type { Ground } from "../doc/schema.ts";
import { clamp, log } from "../maths/functions.ts";
import { landHeld } from "./field.ts";
import { flowOf, landSquare } from "./landSquare.ts";

/** A square of the land: its middle, right and towards, and how far it reaches to each side, metres. */
export interface RunoffOver {
	x: number;
	z: number;
	withinM: number;
}

const CELLS = 256;

interface Runoff extends RunoffOver {
	held: number;
	/** Logarithm of the square metres from which water comes by the middle of each cell. */
	area: Float64Array;
}

/** Of lands that are never changed in place; the newest squares of each. */
const known = new WeakMap<Ground, Runoff[]>();
const MOST = 4;

/**
 * Logarithm of the square metres of land from which water comes by a place, its own included, by flow to all lower neighbours
 * ({@link flowOf}) over the square alone; the least where the square does not reach.
 */
export function runoffOf(ground: Ground, { x, z, withinM }: RunoffOver): (x: number, z: number) => number {
	const all = known.get(ground) ?? [];
	let own = all.find((r) => r.x === x && r.z === z && r.withinM === withinM && r.held === landHeld());
	const step = (2 * withinM) / CELLS;
	if (!own) {
		const square = landSquare(ground, { x, z, metres: 2 * withinM, size: CELLS });
		const area = flowOf(square).map((cells) => log(cells * step * step));
		own = { x, z, withinM, held: landHeld(), area };
		known.set(ground, [own, ...all.slice(0, MOST - 1)]);
	}
	const { area } = own;
	return (px, pz) => {
		const [u, v] = [(px - x + withinM) / step - 0.5, (pz - z + withinM) / step - 0.5];
		if (u < -0.5 || v < -0.5 || u > CELLS - 0.5 || v > CELLS - 0.5) return log(step * step);
		const [i, j] = [clamp(Math.floor(u), 0, CELLS - 2), clamp(Math.floor(v), 0, CELLS - 2)];
		const [a, b] = [clamp(u - i, 0, 1), clamp(v - j, 0, 1)];
		const at = j * CELLS + i;
		return (
			(area[at] * (1 - a) + area[at + 1] * a) * (1 - b) + (area[at + CELLS] * (1 - a) + area[at + CELLS + 1] * a) * b
		);
	};
}
