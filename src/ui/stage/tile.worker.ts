/** A tracing thread of the page: its own kernel instance over the shared memory of the scene. */

import type { Tile, TileSums } from "../../core/scene/picture.ts";
import { helpBuild } from "../../tracer/buildHelp.ts";
import { type CleanJob, doCleanJob } from "../../tracer/clean.ts";
import { type Kernel, makeKernel } from "../../tracer/memory.ts";
import { type Desk, renderTile } from "../../tracer/renderTile.ts";

/** The noise of the proof is to be taken out, in jobs. */
export interface CleanOrder {
	job: CleanJob;
}

export interface TileOrder {
	tile: Tile;
	header: number;
	begin: number;
	end: number;
	before?: TileSums;
}

let kernel: Kernel;
let memory: WebAssembly.Memory;
let desk: Desk;

self.onmessage = (event: MessageEvent) => {
	const port: MessagePort = event.ports[0];
	port.onmessage = ({ data }: MessageEvent) => {
		if (data.module) {
			memory = data.memory;
			desk = data.desk;
			kernel = makeKernel(data.module, memory);
			return;
		}
		if (data.table) {
			helpBuild(kernel, memory.buffer, data.table);
			return;
		}
		if (data.job) {
			const planes = doCleanJob(kernel, memory.buffer, (data as CleanOrder).job);
			port.postMessage(planes, planes ? planes.map((p) => p.buffer) : []);
			return;
		}
		const o = data as TileOrder;
		const sums = renderTile(kernel, memory.buffer, o.header, desk, o.tile, o.begin, o.end, o.before);
		port.postMessage(sums, sums ? [sums.sums.buffer, sums.firsts, ...(sums.partial ? [sums.partial.buffer] : [])] : []);
	};
};
