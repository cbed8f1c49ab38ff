/**
 * Ranges of a mesh built by several threads. The owner of the memory writes a batch of ranges into a table in shared
 * memory, wakes its helpers by a message and works along; a range goes to whoever counts it first. A helper that comes late
 * finds nothing to count. Each range is built by itself, so that the tree is the same whoever built it.
 */
import type { Kernel } from "./memory.ts";

/** Words of the table: next range, finished ranges, number of ranges, positions, indices, first free byte; then {@link RANGE_WORDS} each. */
const [NEXT, DONE, COUNT, POSITIONS, INDICES, FREE, FIRST] = [0, 1, 2, 3, 4, 5, 8];
/** Begin and end of its references, room, work; root. */
const RANGE_WORDS = 5;
/** Ranges of a batch at most. */
export const MOST_RANGES = 64;
export const TABLE_BYTES = 4 * (FIRST + RANGE_WORDS * MOST_RANGES);
/** A number of ranges that no batch has: nothing is left to count. */
const NOTHING = 1 << 30;

export interface Range {
	begin: number;
	end: number;
	room: number;
	work: number;
}

/** Builds ranges of the batch in the table until none is left. */
export function helpBuild(kernel: Kernel, buffer: ArrayBufferLike, table: number): void {
	const t = new Int32Array(buffer, table, TABLE_BYTES / 4);
	for (;;) {
		const n = Atomics.add(t, NEXT, 1);
		if (n >= NOTHING || n >= t[COUNT]) return;
		const at = FIRST + n * RANGE_WORDS;
		t[at + 4] = kernel.buildRange(
			t[POSITIONS] >>> 0,
			t[INDICES] >>> 0,
			t[at] >>> 0,
			t[at + 1] >>> 0,
			t[at + 2] >>> 0,
			t[at + 3] >>> 0,
			0,
			table + FREE * 4,
		);
		Atomics.add(t, DONE, 1);
		Atomics.notify(t, DONE);
	}
}

/** Makes a new table say that there is nothing to do. */
export function emptyTable(buffer: ArrayBufferLike, table: number): void {
	Atomics.store(new Int32Array(buffer, table, TABLE_BYTES / 4), NEXT, NOTHING);
}

/** Bytes that trees of so many triangles in so many ranges may take. */
export const mostTreeBytes = (triangles: number, ranges: number): number => triangles * 200 + ranges * 32_768;

/** Builds one range at an address, on this thread. */
export function buildAlone(
	kernel: Kernel,
	{ positions, indices }: { positions: number; indices: number },
	tree: number,
	{ begin, end, room, work }: Range,
): { roots: number[]; end: number } {
	const root = kernel.buildRange(positions, indices, begin, end, room, work, tree, 0);
	return { roots: [root], end: kernel.builtEnd() };
}

/**
 * Has a batch built into one block by all helpers and this thread, which may wait (a worker, or Node). Returns the roots and
 * where the block's trees end.
 */
export function buildTogether(
	kernel: Kernel,
	buffer: ArrayBufferLike,
	table: number,
	wake: () => void,
	mesh: { positions: number; indices: number },
	tree: number,
	ranges: Range[],
): { roots: number[]; end: number } {
	const t = new Int32Array(buffer, table, TABLE_BYTES / 4);
	t[COUNT] = ranges.length;
	t[POSITIONS] = mesh.positions;
	t[INDICES] = mesh.indices;
	t[FREE] = tree;
	ranges.forEach(({ begin, end, room, work }, i) => {
		t.set([begin, end, room, work], FIRST + i * RANGE_WORDS);
	});
	Atomics.store(t, DONE, 0);
	Atomics.store(t, NEXT, 0);
	wake();
	helpBuild(kernel, buffer, table);
	for (let done = Atomics.load(t, DONE); done < ranges.length; done = Atomics.load(t, DONE))
		Atomics.wait(t, DONE, done);
	Atomics.store(t, NEXT, NOTHING);
	return { roots: ranges.map((_, i) => t[FIRST + i * RANGE_WORDS + 4] >>> 0), end: t[FREE] >>> 0 };
}
