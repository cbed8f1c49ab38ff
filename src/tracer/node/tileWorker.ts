/** A tracing thread in Node: its own kernel instance over the shared memory of the scene. */
import { parentPort, workerData } from "node:worker_threads";
import type { Tile, TileSums } from "../../core/scene/picture.ts";
import { helpBuild } from "../buildHelp.ts";
import { type Averages, type Band, denoiseBand, type Room } from "../denoise.ts";
import { makeKernel } from "../memory.ts";
import { type Desk, renderTile } from "../renderTile.ts";

export interface TileRequest {
	id: number;
	tile: Tile;
	header: number;
	begin: number;
	end: number;
	before?: TileSums;
}

/** A band of a picture whose noise is to be taken out. */
export interface BandRequest {
	id: number;
	band: Band;
	room: Room;
}

/** A table of ranges of a mesh that are to be built; nothing is answered. */
export interface BuildRequest {
	table: number;
}

export interface BandReply {
	id: number;
	planes: Averages | null;
}

export interface TileReply {
	id: number;
	sums: TileSums | null;
	rays: number;
	ms: number;
}

const { module, memory, desk } = workerData as { module: WebAssembly.Module; memory: WebAssembly.Memory; desk: Desk };
const kernel = makeKernel(module, memory);

parentPort?.on("message", (r: TileRequest | BandRequest | BuildRequest) => {
	if ("table" in r) {
		helpBuild(kernel, memory.buffer, r.table);
		return;
	}
	if ("band" in r) {
		const planes = denoiseBand(kernel, memory.buffer, r.room, r.band);
		parentPort?.postMessage(
			{ id: r.id, planes } satisfies BandReply,
			planes ? planes.map((p) => p.buffer as ArrayBuffer) : [],
		);
		return;
	}
	const started = performance.now();
	const before = kernel.rays();
	const sums = renderTile(kernel, memory.buffer, r.header, desk, r.tile, r.begin, r.end, r.before);
	const reply: TileReply = { id: r.id, sums, rays: kernel.rays() - before, ms: performance.now() - started };
	parentPort?.postMessage(reply, sums ? [sums.sums.buffer as ArrayBuffer, sums.firsts] : []);
});
