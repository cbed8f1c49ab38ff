/**
 * Planes that are worked on and forgotten, kept for the next time: of a proof that is cleaned every second, fresh memory for each of them takes
 * longer than the work on it. Large ones are not kept.
 */
const KEPT_PIXELS = 1 << 20;

/** Makes planes by number, each of a size; what is in them is what was left there. */
function kept<T extends Float32Array | Float64Array>(make: (size: number) => T): (k: number, size: number) => T {
	const planes: T[] = [];
	return (k, size) => {
		if (size > KEPT_PIXELS) return make(size);
		if (!planes[k] || planes[k].length < size) planes[k] = make(size);
		return planes[k].subarray(0, size) as T;
	};
}

/** A thread works on one band or picture at a time: nothing that waits for another may use these, and each number has one use. */
export const scratchOf = kept((size) => new Float32Array(size));
export const wideScratchOf = kept((size) => new Float64Array(size));
