/**
 * Takes the noise out of a picture on several threads: first each half of the samples is averaged by weights from the other
 * (`denoise.ts`), then the learned filter puts the picture together from that and from weights of its own (`learned.ts`). The same code runs
 * in the page and on the server, and gives the same bytes for any number of threads and for a picture that comes in strips.
 */
import type { Camera } from "../core/doc/schema.ts";
import { pow } from "../core/maths/functions.ts";
import type { Picture } from "../core/scene/picture.ts";
import {
	type Averages,
	type Band,
	bandsOf,
	cutBand,
	denoiseBand,
	type Planes,
	type Room,
	releaseRoom,
	reserveRoom,
	settle,
	TRUST_ROWS,
} from "./denoise.ts";
import { N_GRID, N_HALO } from "./kernel/layout.ts";
import {
	cutPart,
	type LearnedPart,
	type LearnedRoom,
	layersOf,
	layWeights,
	learnPart,
	partsOf,
	releaseLearned,
	reserveLearned,
} from "./learned.ts";
import { type Kernel, MemoryFull, type TracerMemory } from "./memory.ts";
import { spreadSpecks } from "./specks.ts";

/** Threads that answer parts at once at most: each takes some 80 MiB meanwhile. */
const MOST_ROOMS = 8;

/** What a thread is asked to do, as it is sent to it. */
export type CleanJob = { band: Band; room: Room } | { part: LearnedPart; room: LearnedRoom };

/** Does a job on this thread: the planes that were asked for, or null when it was aborted. */
export const doCleanJob = (kernel: Kernel, buffer: ArrayBufferLike, job: CleanJob): Float32Array[] | null =>
	"band" in job ? denoiseBand(kernel, buffer, job.room, job.band) : learnPart(kernel, buffer, job.room, job.part);

/** What is sent with a job instead of being copied. */
export const sentWith = (job: CleanJob): ArrayBuffer[] =>
	"part" in job ? job.part.layers.map((layer) => layer.buffer as ArrayBuffer) : [];

/** A picture without its noise, and its layers of light where it has them: fog as the last, and all lights add up to it. */
export interface Cleaned {
	rgb: Planes;
	layers: Planes[];
}

/** Has a thread, by its number, do a job. */
export type AskToClean = (thread: number, job: CleanJob) => Promise<Float32Array[] | null>;

/** What brings cd/m² to what is shown. */
export const exposureOf = ({ ev100 }: Pick<Camera, "ev100">): number => pow(2, -ev100);

export interface Cleaning {
	/** See {@link exposureOf}. */
	exposure: number;
	/** Pixels that averages reach each way. */
	reach: number;
	/** Rows that are wanted; all when none are told. */
	rows?: { y: number; rows: number };
	/** Stops early, with what there is, when it is no longer. */
	wanted?: () => boolean;
}

interface Rows {
	y: number;
	rows: number;
}

export class Cleaner {
	private readonly kernel: Kernel;
	private readonly memory: TracerMemory;
	private readonly ask: AskToClean;
	/** Address of the weights; 0 without a learned filter. */
	private readonly weights: number;

	/** `weights`: the file of the learned filter, null without it. Throws when it is not one. */
	constructor(kernel: Kernel, memory: TracerMemory, weights: ArrayBuffer | null, ask: AskToClean) {
		this.kernel = kernel;
		this.memory = memory;
		this.ask = ask;
		this.weights = weights ? memory.put(layWeights(weights)) : 0;
	}

	/** The light of a picture without its noise, on so many threads. Throws MemoryFull. */
	async clean(threads: number, picture: Picture, how: Cleaning): Promise<Cleaned> {
		const { y, rows } = how.rows ?? { y: 0, rows: picture.height };
		const calm = spreadSpecks(picture);
		if (!this.weights) return { rgb: await this.average(threads, calm, how, { y, rows }), layers: [] };
		const first = Math.max(0, Math.floor((y - N_HALO) / N_GRID) * N_GRID);
		const end = Math.min(picture.height, Math.ceil((y + rows + N_HALO) / N_GRID) * N_GRID);
		const averaged = await this.average(threads, calm, how, { y: first, rows: end - first });
		return this.learn(threads, calm, averaged, first, how, { y, rows });
	}

	/** A whole picture's averages alone, on which the learned filter builds. */
	averaged(threads: number, picture: Picture, reach: number): Promise<Planes> {
		return this.average(threads, spreadSpecks(picture), { exposure: 1, reach }, { y: 0, rows: picture.height });
	}

	/** Works through a list on all threads. */
	private async share<T>(
		threads: number,
		all: readonly T[],
		wanted: (() => boolean) | undefined,
		work: (thread: number, one: T) => Promise<void>,
	) {
		let next = 0;
		await Promise.all(
			Array.from({ length: threads }, async (_, thread) => {
				while ((wanted?.() ?? true) && next < all.length) await work(thread, all[next++]);
			}),
		);
	}

	private async average(
		threads: number,
		calm: Picture,
		{ reach, wanted }: Cleaning,
		{ y, rows }: Rows,
	): Promise<Planes> {
		const first = Math.max(0, y - TRUST_ROWS);
		const high = Math.min(calm.height, y + rows + TRUST_ROWS) - first;
		const averages: Averages = Array.from({ length: 6 }, () => new Float32Array(calm.width * high));
		const rooms: Room[] = [];
		try {
			for (let i = 0; i < threads; i++) rooms.push(reserveRoom(this.memory, calm.width));
			await this.share(threads, bandsOf(calm.width, high, threads), wanted, async (thread, band) => {
				const { [thread]: room } = rooms;
				const cut = cutBand(calm, { ...band, y: first + band.y }, reach, this.memory.memory.buffer, room);
				put(await this.ask(thread, { band: cut, room }), averages, calm.width, band);
			});
		} finally {
			for (const room of rooms) releaseRoom(this.memory, room);
		}
		return settle(calm, averages, first, y, rows);
	}

	/** Rooms for so many threads, or for as many as there is memory for. Throws MemoryFull when there is none for one. */
	private roomsFor(threads: number, size: { width: number; height: number }): LearnedRoom[] {
		const rooms: LearnedRoom[] = [];
		try {
			while (rooms.length < Math.min(threads, MOST_ROOMS))
				rooms.push(reserveLearned(this.kernel, this.memory, this.weights, size));
		} catch (error) {
			if (rooms.length === 0 || !(error instanceof MemoryFull)) throw error;
		}
		return rooms;
	}

	private async learn(
		threads: number,
		calm: Picture,
		averaged: Planes,
		first: number,
		{ exposure, wanted }: Cleaning,
		{ y, rows }: Rows,
	): Promise<Cleaned> {
		const layers = layersOf(calm).length;
		const out = Array.from({ length: 3 * (1 + layers) }, () => new Float32Array(calm.width * rows));
		const parts = partsOf(calm.width, { y, rows }, threads);
		const rooms = this.roomsFor(Math.min(threads, parts.length), { width: calm.width, height: rows });
		try {
			await this.share(rooms.length, parts, wanted, async (thread, tile) => {
				const { [thread]: room } = rooms;
				const part = cutPart(calm, averaged, first, tile, exposure, this.memory.memory.buffer, room);
				const planes = await this.ask(thread, { part, room });
				for (const plane of planes ?? []) for (let i = 0; i < plane.length; i++) plane[i] /= exposure;
				put(planes, out, calm.width, { ...tile, y: tile.y - y });
			});
		} finally {
			for (const room of rooms) releaseLearned(this.memory, room);
		}
		const planes = (k: number) => out.slice(3 * k, 3 * k + 3) as Planes;
		return { rgb: planes(0), layers: Array.from({ length: layers }, (_, k) => planes(k + 1)) };
	}
}

/** Writes planes of a rectangle into planes of rows of a width; nothing of a job that was aborted. */
function put(
	planes: readonly Float32Array[] | null,
	to: readonly Float32Array[],
	width: number,
	at: { x: number; y: number; width: number; height: number },
): void {
	planes?.forEach((plane, c) => {
		for (let r = 0; r < at.height; r++)
			to[c].set(plane.subarray(r * at.width, (r + 1) * at.width), (at.y + r) * width + at.x);
	});
}

/** A whole picture without its noise, on this thread alone. */
export const cleanHere = (
	kernel: Kernel,
	memory: TracerMemory,
	picture: Picture,
	how: Cleaning,
	weights: ArrayBuffer | null = null,
): Promise<Cleaned> =>
	new Cleaner(kernel, memory, weights, async (_, job) => doCleanJob(kernel, memory.memory.buffer, job)).clean(
		1,
		picture,
		how,
	);
