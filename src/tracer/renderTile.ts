/** One worker's hands: scratch and sums in shared memory, and the call into the kernel. */

import {
	endsBlock,
	extraChannels,
	firstsBytes,
	sumsBytes,
	TILE,
	type Tile,
	type TileSums,
} from "../core/scene/picture.ts";
import { CHANNELS, FIRSTS, H_LAYERS, MOST_EXTRA } from "./kernel/layout.ts";
import { type Kernel, SCRATCH, type TracerMemory } from "./memory.ts";

/** Addresses that a worker keeps for itself. */
export interface Desk {
	scratch: number;
	sums: number;
	partial: number;
	firsts: number;
	limits: number;
	abort: number;
}

/** Reserves a worker's addresses for tiles up to a size. Done by the owner of the memory, before workers start. */
export function reserveDesk(memory: TracerMemory, side = TILE): Desk {
	const tile = { x: 0, y: 0, width: side, height: side };
	const desk = {
		scratch: memory.allocate(SCRATCH),
		sums: memory.allocate(sumsBytes(tile, MOST_EXTRA)),
		partial: memory.allocate(sumsBytes(tile, MOST_EXTRA)),
		firsts: memory.allocate(firstsBytes(tile)),
		limits: memory.allocate(4 * side * side),
		abort: memory.allocate(64),
	};
	memory.u32[desk.abort >> 2] = 0;
	return desk;
}

/**
 * Adds samples [begin, end) to the sums of a tile, starting from `before` (none: from nothing). A block that is
 * under way is kept apart, so that any slicing adds in the same order. Returns null when it was aborted.
 */
export function renderTile(
	kernel: Kernel,
	buffer: ArrayBufferLike,
	header: number,
	desk: Desk,
	tile: Tile,
	begin: number,
	end: number,
	before?: TileSums,
): TileSums | null {
	const n = tile.width * tile.height;
	const [lights] = new Uint32Array(buffer, header + H_LAYERS, 1);
	const channels = CHANNELS + extraChannels(lights);
	const sums = new Float64Array(buffer, desk.sums, n * channels);
	const partial = new Float64Array(buffer, desk.partial, n * channels);
	const firsts = new Uint8Array(buffer, desk.firsts, n * FIRSTS * 4);
	firsts.fill(0);
	if (before) {
		sums.set(before.sums);
		firsts.set(new Uint8Array(before.firsts));
		if (before.partial) partial.set(before.partial);
	} else {
		sums.fill(0);
	}
	const limits = before?.limits;
	if (limits) new Uint32Array(buffer, desk.limits, n).set(limits);
	kernel.takeScene(header, desk.scratch);
	if (
		!kernel.renderTile(
			tile.x,
			tile.y,
			tile.width,
			tile.height,
			begin,
			end,
			desk.sums,
			desk.partial,
			desk.firsts,
			limits ? desk.limits : 0,
			desk.abort,
		)
	)
		return null;
	return {
		sums: sums.slice(),
		firsts: firsts.slice().buffer as ArrayBuffer,
		samples: end,
		...(limits ? { limits } : {}),
		...(endsBlock(end) ? {} : { partial: partial.slice() }),
	};
}
