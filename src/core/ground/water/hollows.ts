/**
 * Hollows of a square of land and the water that fills them. A flood comes in from the edges and rises no more than it must to reach each
 * cell (priority flood with a plain queue for what it has overrun, Barnes, Lehman and Mulla 2014): what it stands over is a hollow,
 * filled to its rim.
 */

/** Cells in order of a height, the lowest first. */
class Heap {
	private cells: Int32Array;
	private heights: Float32Array;
	size = 0;

	constructor(most: number, heights: Float32Array) {
		this.cells = new Int32Array(most);
		this.heights = heights;
	}

	push(cell: number): void {
		const { cells, heights } = this;
		let at = this.size++;
		const height = heights[cell];
		while (at > 0) {
			const above = (at - 1) >> 1;
			if (heights[cells[above]] <= height) break;
			cells[at] = cells[above];
			at = above;
		}
		cells[at] = cell;
	}

	pop(): number {
		const { cells, heights } = this;
		const first = cells[0];
		const moved = cells[--this.size];
		const height = heights[moved];
		let at = 0;
		for (;;) {
			let below = 2 * at + 1;
			if (below >= this.size) break;
			if (below + 1 < this.size && heights[cells[below + 1]] < heights[cells[below]]) below++;
			if (heights[cells[below]] >= height) break;
			cells[at] = cells[below];
			at = below;
		}
		cells[at] = moved;
		return first;
	}
}

/** Heights of a square of `side` cells with all hollows filled to their rims; its edge lets water out. */
export function filledToRims(heights: Float32Array, side: number): Float32Array {
	const filled = heights.slice();
	const met = new Uint8Array(heights.length);
	const heap = new Heap(heights.length, filled);
	const overrun = new Int32Array(heights.length);
	let [first, last] = [0, 0];
	for (let k = 0; k < side; k++)
		for (const cell of [k, (side - 1) * side + k, k * side, k * side + side - 1]) {
			if (met[cell]) continue;
			met[cell] = 1;
			heap.push(cell);
		}
	while (first < last || heap.size > 0) {
		const cell = first < last ? overrun[first++] : heap.pop();
		const [i, j] = [cell % side, Math.floor(cell / side)];
		const level = filled[cell];
		for (let b = Math.max(0, j - 1); b <= Math.min(side - 1, j + 1); b++)
			for (let a = Math.max(0, i - 1); a <= Math.min(side - 1, i + 1); a++) {
				const next = b * side + a;
				if (met[next]) continue;
				met[next] = 1;
				if (filled[next] <= level) {
					filled[next] = level;
					overrun[last++] = next;
				} else heap.push(next);
			}
	}
	return filled;
}

/** A hollow: its cells, the deepest of them, and the height of its rim. */
export interface Hollow {
	cells: number[];
	deepest: number;
	rimM: number;
	deepM: number;
}

/** Hollows of a square that are at least so deep, the largest first. */
export function hollowsOf(heights: Float32Array, side: number, leastM: number): Hollow[] {
	const filled = filledToRims(heights, side);
	const met = new Uint8Array(heights.length);
	const hollows: Hollow[] = [];
	for (let start = 0; start < heights.length; start++) {
		if (met[start] || filled[start] <= heights[start]) continue;
		const cells = [start];
		met[start] = 1;
		let deepest = start;
		for (const cell of cells) {
			if (heights[cell] < heights[deepest]) deepest = cell;
			const [i, j] = [cell % side, Math.floor(cell / side)];
			for (let b = Math.max(0, j - 1); b <= Math.min(side - 1, j + 1); b++)
				for (let a = Math.max(0, i - 1); a <= Math.min(side - 1, i + 1); a++) {
					const next = b * side + a;
					if (met[next] || filled[next] <= heights[next]) continue;
					met[next] = 1;
					cells.push(next);
				}
		}
		const deepM = filled[start] - heights[deepest];
		if (deepM >= leastM) hollows.push({ cells, deepest, rimM: filled[start], deepM });
	}
	return hollows.sort((a, b) => b.cells.length - a.cells.length);
}
