/** Bodies as they lie in the tracer's memory: from the scene's origin, cut where they are long and askew, with the boxes of their parts. */
import { boundsOf, type Mat34, type Vec3 } from "../core/maths/vec.ts";
import type { Draw } from "../core/scene/scene.ts";

export interface PlacedBody {
	origin: Vec3;
	/** The placement from the scene's origin; the parts of the body, and their boxes there. */
	placed: number[];
	parts: number[][];
	boxes: number[][];
}

/** Bodies, by their bounds and places, as they lay when they were last put into memory: most stay where they are from edit to edit. */
const bodies = new WeakMap<readonly number[], WeakMap<Mat34, PlacedBody>>();

export function placedBody({ transform }: Draw, bounds: readonly number[], origin: Vec3): PlacedBody {
	const here = bodies.get(bounds) ?? new WeakMap<Mat34, PlacedBody>();
	bodies.set(bounds, here);
	const known = here.get(transform);
	if (known?.origin.every((v, c) => v === origin[c])) return known;
	const placed = fromOrigin(transform, origin);
	const parts = sliced(placed, bounds);
	const body = { origin, placed, parts, boxes: parts.map((part) => boundsOf(placed, part)) };
	here.set(transform, body);
	return body;
}

/** A placement relative to the scene's origin. */
export function fromOrigin(transform: Mat34, origin: Vec3): number[] {
	const t = transform.slice();
	for (let k = 0; k < 3; k++) t[k * 4 + 3] -= origin[k];
	return t;
}

/** More slices than this cost more in the tree than they save. */
const MOST_SLICES = 64;

/**
 * Parts of a body whose boxes together hold it where it is placed. A long body that lies askew (a rail, a dyke) fills little of its box, and every
 * ray would enter it; cut across its length it fills several small ones. On the salt works this makes rays 3 times as fast.
 */
export function sliced(m: ArrayLike<number>, bounds: readonly number[]): number[][] {
	const size = [0, 1, 2].map((c) => (bounds[c + 3] - bounds[c]) * Math.hypot(m[c], m[4 + c], m[8 + c]));
	const axis = size.indexOf(Math.max(...size));
	const second = Math.max(...size.filter((_, i) => i !== axis));
	const column = [m[axis], m[4 + axis], m[8 + axis]].map(Math.abs).sort((a, b) => b - a);
	const askew = column[1] > 0.02 * column[0];
	const n = askew ? Math.min(MOST_SLICES, Math.ceil(size[axis] / (1.5 * second + 0.25))) : 1;
	return Array.from({ length: n }, (_, i) => {
		const part = bounds.slice();
		const span = bounds[axis + 3] - bounds[axis];
		part[axis] = bounds[axis] + (span * i) / n;
		part[axis + 3] = bounds[axis] + (span * (i + 1)) / n;
		return part;
	});
}
