/**
 * Land worn over a square of its own: coarse first, each finer square beginning from what the one before it has changed, so that
 * few rounds reach from the ridge to the plain. The same bytes on every engine: all numbers are the kernel's.
 *
 * Measured (`npm run bench -- --only wear`, two slow cores, one of them used): by water 0.14 to 0.17 s for 128 cells a side, 1.1 to
 * 1.3 s for 512, 11 s for 2,048 (goal 4 s); by slope 0.02, 0.6 and 4 s. A flood with its waters takes 0.2 of what plain TypeScript
 * with a heap does. Rivers go where memory is cold: all that water knows of a cell side by side (32 bytes) in place of arrays of
 * their own took a round of 512 cells from 850 to 570 ns a cell; cells in an order that follows water instead of heights took one
 * of 2,048 from 1,500 to 730, more than half of which is the flood itself (76 to arrange, 50 to gather, 57 to open, 99 to cut, 62
 * to lay).
 */
import type { LandField, LandWork } from "../../core/ground/field.ts";
import { cos, DEG, sin } from "../../core/maths/functions.ts";

/** The kernel's functions; see `kernel/index.ts` for what they do. */
export interface WearKernel {
	memory: WebAssembly.Memory;
	free(): number;
	drain(n: number, h: number, cells: number, order: number, buckets: number, seed: number): void;
	arrange(n: number, cells: number, order: number, stack: number): void;
	gather(n: number, cells: number, order: number): number;
	open(n: number, cells: number, order: number, deepest: number): void;
	carve(n: number, cells: number, order: number, power: number): void;
	lay(n: number, h: number, cells: number, order: number, laying: number): number;
	spread(n: number, h: number, cells: number, share: number): void;
	settle(n: number, h: number, steepest: number, creep: number, way: number): number;
	halve(n: number, from: number, to: number): void;
	addDoubled(m: number, from: number, to: number): void;
	even(n: number, h: number, work: number): void;
	subtract(count: number, from: number, by: number): void;
}

/** How a host goes along: it may breathe between rounds, throw when something newer is wanted, and tell how far it is (0 to 1). */
export interface Along {
	between?: () => Promise<void>;
	tell?: (share: number) => void;
}

/** What has been moved, m³, and water, cells. */
export interface Account {
	/** What left over the border. */
	carriedOffM3: number;
	/** Rain of the last round on all cells, and what left of it. */
	rain: number;
	ranOff: number;
}

/** Cells of a side at the coarsest. */
const COARSEST = 64;
/** What water knows of a cell, and the buckets of its flood, bytes; see the kernel. */
const CELL = 32;
const BUCKETS = 16384 * 8;
/** k dt of a land that is worn to its end, over all rounds. */
const POWER = 2.2;
/** Share that creeps from cell to cell in a round. */
const CREEP = 0.004;

/** Cells of a side from which on an order that follows water pays: smaller squares lie in near memory anyway. */
const ARRANGED = 1024;

/** Share that goes from cell to cell under standing water, and how often in a round: what is laid there is no ridge along its way. */
const SPREAD = 0.25;
const SPREADS = 16;

/** Hollows that are opened, as shares of a cell. */
const OPENED = 0.3;

/** Rounds of water over a square of so many cells a side: fewer where there are more, for coarser ones have gone before. */
const roundsOf = (n: number): number => Math.min(16, Math.max(n < 1024 ? 3 : 2, Math.round(1200 / n)));
/** Sweeps of slopes at most. */
const sweepsOf = (n: number): number => Math.min(600, Math.max(60, Math.round(150_000 / n)));
/** How much steeper than its angle a slope may be left, and is left on all squares but the finest. */
const COARSER = 1.12;
const STEEPER = 1.003;

/** Addresses of the arrays, all of so many cells as the finest square has, but the heights before of each level. */
function layOut(kernel: WearKernel, levels: readonly number[]) {
	const n = levels[levels.length - 1];
	let at = kernel.free();
	const room = (bytes: number) => {
		const here = at;
		at = (at + bytes + 15) & ~15;
		return here;
	};
	const before = levels.map((m) => room(4 * m * m));
	const places = {
		before,
		h: room(4 * n * n),
		change: room(4 * n * n),
		order: room(4 * n * n),
		cells: room(CELL * n * n),
		buckets: room(BUCKETS),
	};
	const missing = at - kernel.memory.buffer.byteLength;
	if (missing > 0) kernel.memory.grow(Math.ceil(missing / 65536));
	return places;
}

/** Wears a square of land. A fresh kernel is asked for: its memory is as large as the square needs. */
export async function wearLand(
	kernel: WearKernel,
	{ heightsM, wear, ...square }: LandWork,
	{ between, tell }: Along = {},
): Promise<{ field: LandField; account: Account }> {
	const { cells, stepM } = square;
	const side = cells * stepM;
	const levels: number[] = [];
	for (let n = cells; n >= COARSEST || levels.length === 0; n /= 2) levels.unshift(n);
	const at = layOut(kernel, levels);
	const floats = (address: number, n: number) => new Float32Array(kernel.memory.buffer, address, n * n);
	floats(at.before[levels.length - 1], cells).set(heightsM);
	for (let l = levels.length - 1; l > 0; l--) kernel.halve(levels[l], at.before[l], at.before[l - 1]);
	const account: Account = { carriedOffM3: 0, rain: 0, ranOff: 0 };
	const steepest = (n: number) => ((sin(wear.restDeg * DEG) / cos(wear.restDeg * DEG)) * side) / n;
	const work = (n: number) => n * n * (wear.by === "water" ? roundsOf(n) : sweepsOf(n));
	const all = levels.reduce((sum, n) => sum + work(n), 0);
	let done = 0;
	const rounds = async (n: number, count: number, round: (k: number) => boolean) => {
		for (let k = 0; k < count; k++) {
			const more = round(k);
			tell?.((done + (work(n) * (k + 1)) / count) / all);
			await between?.();
			if (!more) break;
		}
		done += work(n);
	};
	for (const [l, n] of levels.entries()) {
		floats(at.h, n).set(floats(at.before[l], n));
		if (l > 0) kernel.addDoubled(n / 2, at.change, at.h);
		const cellM2 = (side / n) ** 2;
		if (wear.by === "water") {
			const power = (wear.power * POWER) / levels.length / roundsOf(n);
			await rounds(n, roundsOf(n), (k) => {
				const { h, cells, order, buckets } = at;
				kernel.drain(n, h, cells, order, buckets, wear.seed + l);
				// What the square before has changed is in the heights by now: its room is free.
				if (n >= ARRANGED) kernel.arrange(n, cells, order, at.change);
				account.rain = n * n;
				account.ranOff = kernel.gather(n, cells, order);
				kernel.open(n, cells, order, (OPENED * side) / n);
				kernel.carve(n, cells, order, power);
				account.carriedOffM3 += kernel.lay(n, h, cells, order, wear.laying) * cellM2;
				for (let s = 0; s < SPREADS; s++) kernel.spread(n, h, cells, SPREAD);
				for (let s = 0; s < 2; s++) kernel.settle(n, at.h, steepest(n), CREEP * wear.power, (2 * k + s) & 3);
				return true;
			});
		} else {
			const round = CREEP * 10 * wear.rounded;
			// What a coarse square spreads too far no finer one brings back: it stays somewhat steeper.
			const limit = steepest(n) * (n === cells ? 1 : COARSER);
			const moves = (k: number) => kernel.settle(n, at.h, limit, k < 4 ? round : 0, k & 3) > limit * STEEPER;
			await rounds(n, sweepsOf(n), moves);
		}
		floats(at.change, n).set(floats(at.h, n));
		kernel.subtract(n * n, at.change, at.before[l]);
		if (wear.by === "water") kernel.even(n, at.change, at.order);
	}
	return { field: { ...square, changeM: floats(at.change, cells).slice() }, account };
}
