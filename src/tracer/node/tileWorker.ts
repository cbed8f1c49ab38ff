/** A tracing thread in Node: its own kernel instance over the shared memory of the scene. */
import { parentPort, workerData } from "node:worker_threads";
import type { Tile, TileSums } from "../../core/scene/picture.ts";
import { type Beside, type FrameToSteady, type PlanesIn, steadyRows } from "../../core/time/steady.ts";
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

/** Rows of a frame are to have its neighbours taken in; planes lie in shared memory. */
export interface SteadyRequest {
	id: number;
	steady: { own: FrameToSteady; beside: Beside[]; planes: PlanesIn; y: number; rows: number };
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

function answer(id: number, planes: Float32Array[] | null): void {
	parentPort?.postMessage(
		{ id, planes } satisfies CleanReply,
		planes ? planes.map((p) => p.buffer as ArrayBuffer) : [],
	);
}

parentPort?.on("message", (r: TileRequest | CleanRequest | SteadyRequest | BuildRequest) => {
	if ("table" in r) {
		helpBuild(kernel, memory.buffer, r.table);
		return;
	}
	if ("job" in r) {
		answer(r.id, doCleanJob(kernel, memory.buffer, r.job));
		return;
	}
	if ("steady" in r) {
		const { own, beside, planes, y, rows } = r.steady;
		answer(r.id, steadyRows(own, beside, planes, y, rows));
		return;
	}
	const started = performance.now();
	const before = kernel.rays();
	const sums = renderTile(kernel, memory.buffer, r.header, desk, r.tile, r.begin, r.end, r.before);
	const reply: TileReply = { id: r.id, sums, rays: kernel.rays() - before, ms: performance.now() - started };
	parentPort?.postMessage(reply, sums ? [sums.sums.buffer as ArrayBuffer, sums.firsts] : []);
});
