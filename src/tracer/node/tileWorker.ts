/** A tracing thread in Node: its own kernel instance over the shared memory of the scene. */
import { parentPort, workerData } from "node:worker_threads";
import type { Tile, TileSums } from "../../core/scene/picture.ts";
import { helpBuild } from "../buildHelp.ts";
import { type CleanJob, doCleanJob } from "../clean.ts";
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

/** A picture's noise is to be taken out, in jobs. */
export interface CleanRequest {
	id: number;
	job: CleanJob;
}

/** A table of ranges of a mesh that are to be built; nothing is answered. */
export interface BuildRequest {
	table: number;
}

export interface CleanReply {
	id: number;
	planes: Float32Array[] | null;
}

export interface TileReply {
	id: number;
	sums: TileSums | null;
	rays: number;
	ms: number;
}

const { module, memory, desk } = workerData as { module: WebAssembly.Module; memory: WebAssembly.Memory; desk: Desk };
const kernel = makeKernel(module, memory);

parentPort?.on("message", (r: TileRequest | CleanRequest | BuildRequest) => {
	if ("table" in r) {
		helpBuild(kernel, memory.buffer, r.table);
		return;
	}
	if ("job" in r) {
		const planes = doCleanJob(kernel, memory.buffer, r.job);
		parentPort?.postMessage(
			{ id: r.id, planes } satisfies CleanReply,
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
