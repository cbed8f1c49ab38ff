/** Threads that trace one scene in Node: one copy of it in shared memory, tiles handed out as threads come free. */
import { readFileSync } from "node:fs";
import { Worker } from "node:worker_threads";
import type { Spread } from "../../core/doc/schema.ts";
import {
	emptyPicture,
	isClean,
	type NoiseAim,
	nextLook,
	type Picture,
	placeTile,
	TILE,
	type Tile,
	type TileSums,
	tileNoise,
	tilesOfPart,
} from "../../core/scene/picture.ts";
import { fallOf, PILOT_SAMPLES, type Pilot, pilotTiles, WARM_SAMPLES } from "../../core/scene/pilot.ts";
import type { Scene } from "../../core/scene/scene.ts";
import { lookAt, mostOf, noiseOf, type SampleLimits, SeenNoise, samplesBetween } from "../../core/scene/spread.ts";
import type { Beside, FrameToSteady, PlanesIn } from "../../core/time/steady.ts";
import { type Cleaned, Cleaner, type Cleaning, type CleanJob, exposureOf, sentWith } from "../clean.ts";
import { type Planes, PRINT_REACH } from "../denoise.ts";
import type { PictureSize } from "../headerStore.ts";
import { makeKernel, TracerMemory } from "../memory.ts";
import { type Desk, reserveDesk } from "../renderTile.ts";
import { SceneStore } from "../sceneStore.ts";
import { SumsFile } from "./sumsFile.ts";
import type { BuildRequest, CleanReply, CleanRequest, SteadyRequest, TileReply, TileRequest } from "./tileWorker.ts";

const SMALL_TILE = 32;
/** Rows of a frame that a thread makes steady at once. */
const STEADY_ROWS = 64;

interface Hand {
	worker: Worker;
	desk: Desk;
	busy: boolean;
}

export class TracePool {
	private memory = new TracerMemory();
	private store: SceneStore;
	private cleaner: Cleaner;
	private hands: Hand[] = [];
	private waiting = new Map<number, { resolve: (r: TileReply & CleanReply) => void; reject: (e: Error) => void }>();
	private next = 1;

	/** `folder` holds `kernel.wasm`, the learned filter's `clean.bin` and the bundled `tileWorker.mjs`. */
	constructor(folder: URL, threads: number) {
		const module = new WebAssembly.Module(readFileSync(new URL("kernel.wasm", folder)));
		const wake = (table: number) => {
			for (const { worker } of this.hands) worker.postMessage({ table } satisfies BuildRequest);
		};
		const kernel = makeKernel(module, this.memory.memory);
		// This thread builds along.
		this.store = new SceneStore(this.memory, kernel, { threads: threads - 1, wake });
		const weights = Uint8Array.from(readFileSync(new URL("clean.bin", folder))).buffer;
		const ask = async (_thread: number, job: CleanJob) => (await this.ask({ id: this.next++, job })).planes;
		this.cleaner = new Cleaner(kernel, this.memory, weights, ask);
		for (let i = 0; i < threads; i++) {
			const desk = reserveDesk(this.memory);
			const worker = new Worker(new URL("tileWorker.mjs", folder), {
				workerData: { module, memory: this.memory.memory, desk },
			});
			worker.on("message", (reply: TileReply & CleanReply) => {
				this.waiting.get(reply.id)?.resolve(reply);
				this.waiting.delete(reply.id);
			});
			worker.on("error", (error) => {
				for (const w of this.waiting.values()) w.reject(error);
				this.waiting.clear();
			});
			worker.unref();
			this.hands.push({ worker, desk, busy: false });
		}
	}

	get threads(): number {
		return this.hands.length;
	}

	/** Takes a scene; no tile may be under way. */
	load(scene: Scene, size: PictureSize): void {
		if (this.hands.some((h) => h.busy)) throw new Error("a scene cannot change while it is traced");
		this.store.load(scene, size);
		for (const h of this.hands) this.memory.u32[h.desk.abort >> 2] = 0;
	}

	private async ask(request: TileRequest | CleanRequest | SteadyRequest): Promise<TileReply & CleanReply> {
		const hand = this.hands.find((h) => !h.busy);
		if (!hand) throw new Error("all tracing threads are busy");
		hand.busy = true;
		try {
			hand.worker.ref();
			return await new Promise((resolve, reject) => {
				this.waiting.set(request.id, { resolve, reject });
				hand.worker.postMessage(request, "job" in request ? sentWith(request.job) : []);
			});
		} finally {
			hand.busy = false;
			hand.worker.unref();
		}
	}

	/** Traces blocks of a tile on a free thread. The sums are null when it was aborted. */
	trace(tile: Tile, begin: number, end: number, before?: TileSums): Promise<TileReply> {
		return this.ask({ id: this.next++, tile, header: this.store.header, begin, end, before });
	}

	/** Takes the noise out of a picture, or of some of its rows, on all threads. */
	clean(picture: Picture, exposure: number, rows?: Cleaning["rows"], reach = PRINT_REACH): Promise<Cleaned> {
		return this.cleaner.clean(this.hands.length, picture, { exposure, reach, rows });
	}

	/** A picture as the learned filter is given it: its noise is taken out by averages alone. */
	averaged(picture: Picture): Promise<Planes> {
		return this.cleaner.averaged(this.hands.length, picture, PRINT_REACH);
	}

	/** A frame of a move with its neighbours taken in, on all threads. Planes in shared memory are not copied. */
	async steady(own: FrameToSteady, beside: Beside[], planes: PlanesIn): Promise<Planes> {
		const { width, height } = planes;
		const out: Planes = [0, 1, 2].map(() => new Float32Array(width * height)) as Planes;
		let next = 0;
		await Promise.all(
			this.hands.map(async () => {
				while (next < height) {
					const y = next;
					next += STEADY_ROWS;
					const rows = Math.min(STEADY_ROWS, height - y);
					const made = (await this.ask({ id: this.next++, steady: { own, beside, planes, y, rows } })).planes;
					made?.forEach((plane, c) => {
						out[c].set(plane, y * width);
					});
				}
			}),
		);
		return out;
	}

	/** Makes all tiles under way end at their next row of pixels. */
	abort(): void {
		for (const h of this.hands) Atomics.store(new Int32Array(this.memory.memory.buffer), h.desk.abort >> 2, 1);
	}

	async close(): Promise<void> {
		await Promise.all(this.hands.map((h) => h.worker.terminate()));
	}
}

/** Works through tiles on all threads. */
async function eachTile(pool: TracePool, tiles: readonly Tile[], work: (tile: Tile, i: number) => Promise<void>) {
	let next = 0;
	await Promise.all(
		Array.from({ length: pool.threads }, async () => {
			while (next < tiles.length) {
				const i = next++;
				await work(tiles[i], i);
			}
		}),
	);
}

/** Traces the tiles of a pilot. Its time is that of the processor, so that other programs do not count. Null when it was aborted. */
export async function tracePilot(pool: TracePool, scene: Scene, size: PictureSize, part: Tile): Promise<Pilot | null> {
	pool.load(scene, size);
	const tiles = pilotTiles(part);
	/** All tiles with so many samples; null when it was aborted. */
	const pass = async (samples: number): Promise<TileSums[] | null> => {
		const done: TileSums[] = [];
		await eachTile(pool, tiles, async (tile, i) => {
			const { sums } = await pool.trace(tile, 0, samples);
			if (sums) done[i] = sums;
		});
		return tiles.every((_, i) => done[i]) ? done : null;
	};
	const warm = await pass(WARM_SAMPLES);
	if (!warm) return null;
	const before = process.cpuUsage();
	const done = await pass(PILOT_SAMPLES);
	const { user, system } = process.cpuUsage(before);
	const samples = tiles.reduce((n, t) => n + t.width * t.height * PILOT_SAMPLES, 0);
	const noisesOf = (all: TileSums[]) => all.map((sums, i) => tileNoise(tiles[i], sums));
	if (!done) return null;
	const noises = noisesOf(done);
	return {
		msPerSample: (user + system) / 1000 / samples,
		threads: pool.threads,
		noises,
		fall: fallOf(noisesOf(warm), WARM_SAMPLES, noises, PILOT_SAMPLES),
	};
}

/** How many samples are taken: all, or by tile until its noise (percent) is low enough, or where {@link spreadOver} has found it. */
interface Aim {
	samples: number;
	noise: NoiseAim;
	/** What was traced to find it, and goes on from there. */
	begun?: Begun;
}

/** Tiles of an area that have been begun, and how many samples their pixels take in all. */
interface Begun {
	shelf: SumsFile;
	limits: SampleLimits;
}

type OnTile = (samples: number, rays: number) => void;

/** Traces the tiles of a part with the scene that a pool holds. */
async function traceTiles(
	pool: TracePool,
	{ samples, noise, begun }: Aim,
	lights: string[],
	part: Tile,
	onTile: OnTile,
): Promise<Picture> {
	const picture = emptyPicture(part.width, part.height, lights);
	// Small tiles leave no thread without work at the end; where noise decides, tiles are those of the press.
	const tiles = tilesOfPart(part, noise === null ? SMALL_TILE : TILE);
	await eachTile(pool, tiles, async (tile) => {
		const limits = begun?.limits.of(tile);
		const most = limits ? mostOf(limits) : samples;
		let sums: TileSums | undefined = begun && { ...begun.shelf.take(tile), limits };
		do {
			const from = sums?.samples ?? 0;
			const to = noise === null ? most : Math.min(most, nextLook(from));
			if (to === from) break;
			const reply = await pool.trace(tile, from, to, sums);
			if (!reply.sums) return;
			sums = reply.sums;
			onTile(samplesBetween(tile.width * tile.height, from, to, limits), reply.rays);
		} while (sums.samples < most && !isClean(tile, sums, noise));
		// What a calm tile does without is done, too.
		if (sums && noise !== null) onTile(samplesBetween(tile.width * tile.height, sums.samples, samples), 0);
		if (sums) placeTile(picture, { ...tile, x: tile.x - part.x, y: tile.y - part.y }, sums);
	});
	return picture;
}

/** Traces an area until it shows where its noise is, and decides where the other samples go. Null when they are too few for that. */
async function spreadOver(
	pool: TracePool,
	samples: number,
	exposure: number,
	area: Tile,
	onTile: OnTile,
): Promise<Begun | null> {
	const look = lookAt(samples);
	if (look === null) return null;
	const tiles = stripsOf(area).flatMap((strip) => tilesOfPart(strip, SMALL_TILE));
	const shelf = new SumsFile();
	try {
		const seen = new SeenNoise(area);
		await eachTile(pool, tiles, async (tile) => {
			const { sums, rays } = await pool.trace(tile, 0, look);
			if (!sums) return;
			seen.take(tile, noiseOf(tile, sums));
			shelf.put(tile, sums);
			onTile(samplesBetween(tile.width * tile.height, 0, look), rays);
		});
		return { shelf, limits: seen.spread(samples, exposure) };
	} catch (error) {
		shelf.close();
		throw error;
	}
}

/** Strips of rows of an area, from the top. */
function stripsOf(area: Tile): Tile[] {
	const out: Tile[] = [];
	for (let y = 0; y < area.height; y += TILE)
		out.push({ x: area.x, y: area.y + y, width: area.width, height: Math.min(TILE, area.height - y) });
	return out;
}

const wholeOf = ({ width, height }: PictureSize): Tile => ({ x: 0, y: 0, width, height });

/** Counts rays and tells how far so many samples of a part are. */
function tally(part: Tile, samples: number, onProgress?: (done: number) => void) {
	let taken = 0;
	const count = {
		rays: 0,
		tile: (n: number, rays: number) => {
			count.rays += rays;
			taken += n;
			onProgress?.(Math.min(1, taken / (part.width * part.height * samples)));
		},
	};
	return count;
}

/** Traces a whole picture with a pool. `lights` names the layers of light that are wanted, `part` the pixels; the picture is as large as they. */
export async function tracePicture(
	pool: TracePool,
	scene: Scene,
	size: PictureSize,
	samples: number,
	onProgress?: (done: number) => void,
	noise: NoiseAim = null,
	lights: string[] = [],
	part: Tile = wholeOf(size),
): Promise<{ picture: Picture; rays: number }> {
	pool.load(scene, { ...size, layers: lights.length });
	const count = tally(part, samples, onProgress);
	const picture = await traceTiles(pool, { samples, noise }, lights, part, count.tile);
	return { picture, rays: count.rays };
}

/**
 * Traces a picture as {@link tracePicture} does, in strips of rows from the top, for a large one does not fit in memory. Its samples may be
 * given out by the noise that is seen after the first of them; what was begun lies in a file meanwhile.
 */
export function traceStrips(
	pool: TracePool,
	scene: Scene,
	size: PictureSize,
	samples: number,
	onProgress?: (done: number) => void,
	noise: NoiseAim = null,
	lights: string[] = [],
	part: Tile = wholeOf(size),
	spread: Spread = "even",
): { strips: AsyncGenerator<Picture>; rays: () => number } {
	const count = tally(part, samples, onProgress);
	async function* strips(): AsyncGenerator<Picture> {
		pool.load(scene, { ...size, layers: lights.length });
		const begun =
			spread === "noise" && noise === null
				? await spreadOver(pool, samples, exposureOf(scene.root.camera), part, count.tile)
				: null;
		try {
			for (const strip of stripsOf(part))
				yield await traceTiles(pool, { samples, noise, ...(begun && { begun }) }, lights, strip, count.tile);
		} finally {
			begun?.shelf.close();
		}
	}
	return { strips: strips(), rays: () => count.rays };
}
