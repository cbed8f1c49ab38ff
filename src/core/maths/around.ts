/** Sums and means over the pixels about each of a plane. */

/** Sums over a square of so many pixels each way, fewer at the edges: across, then down. */
export function sumsAround<T extends Float32Array | Float64Array>(plane: T, width: number, reach: number): T {
	const height = plane.length / width;
	const along = (from: T, to: T, step: number, count: (i: number) => number, most: number): T => {
		for (let i = 0; i < from.length; i++) {
			const at = count(i);
			let sum = 0;
			for (let k = Math.max(-reach, -at); k <= Math.min(reach, most - 1 - at); k++) sum += from[i + k * step];
			to[i] = sum;
		}
		return to;
	};
	const across = along(plane, plane.slice() as T, 1, (i) => i % width, width);
	return along(across, plane.slice() as T, width, (i) => Math.floor(i / width), height);
}

/** Means over a square of so many pixels each way, of those that there are. */
export function meansAround<T extends Float32Array | Float64Array>(plane: T, width: number, reach: number): T {
	const height = plane.length / width;
	const there = (at: number, most: number) => Math.min(at, reach) + 1 + Math.min(most - 1 - at, reach);
	const sums = sumsAround(plane, width, reach);
	for (let i = 0; i < sums.length; i++) sums[i] /= there(i % width, width) * there(Math.floor(i / width), height);
	return sums;
}
