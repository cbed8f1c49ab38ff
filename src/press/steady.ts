/** Takes the neighbours of a frame of a move in: reads the files that are done, has the tracing threads lay them over it, keeps what comes of it. */
import { rm } from "node:fs/promises";
import { join } from "node:path";
import type pg from "pg";
import { frameOfView } from "../core/lens/camera.ts";
import { documentOf } from "../core/time/documentAt.ts";
import { type Beside, meanLight, nearestDepth } from "../core/time/steady.ts";
import { putBlobFile } from "../store/blobs.ts";
import { inTransaction } from "../store/database.ts";
import { momentOf, type PrintWork, readWork } from "../store/prints.ts";
import { ExrFileWriter, type Rgb } from "../store/printWriter.ts";
import { finishSteady, openFrameFile, type SteadyWork } from "../store/steady.ts";
import { temporaryFolder } from "../store/temporary.ts";
import type { TracePool } from "../tracer/node/pool.ts";

/** Pixels of a frame beyond which its nearest neighbours alone are taken in, and beyond which none: their planes are all in memory. */
const FEW_PIXELS = 4_000_000;
const MOST_PIXELS = 20_000_000;

interface ReadFrame {
	traced: Rgb;
	clean: Rgb;
	/** Nearest depths. */
	depth: Float32Array;
	width: number;
	height: number;
	window: { x: number; y: number; width: number; height: number };
}

/** A plane that threads see without copying. */
const shared = (length: number): Float32Array => new Float32Array(new SharedArrayBuffer(4 * length));

const COLOURS = ["R", "G", "B"];

export class SteadyFrames {
	private readonly pool: pg.Pool;
	private readonly tracer: TracePool;
	/** The frames that were read last, by their files: the next one has most of them beside it, too. */
	private readonly read = new Map<string, ReadFrame>();

	constructor(pool: pg.Pool, tracer: TracePool) {
		this.pool = pool;
		this.tracer = tracer;
	}

	/** Makes one; false when it has gone to another, or is too large. */
	async make(work: SteadyWork): Promise<boolean> {
		const print = await readWork(this.pool, work.id);
		if (!print) return false;
		const pixels = print.area.width * print.area.height;
		if (pixels > MOST_PIXELS) return false;
		const reach = pixels > FEW_PIXELS ? 1 : Number.POSITIVE_INFINITY;
		const near = work.beside.filter((b) => b.away <= reach);
		const own = await this.frame(work.exr);
		const beside: Beside[] = [];
		for (const { exr, frame, away } of near) {
			const { clean, depth } = await this.frame(exr);
			beside.push({ view: viewOf(print, frame), clean, depth, away });
		}
		this.forget([work.exr, ...near.map((b) => b.exr)]);
		const { width, height, window } = own;
		const light = await this.tracer.steady(
			{ ...own, view: viewOf(print, work.frame), light: meanLight(own.clean) },
			beside,
			{ x: window.x, y: window.y, width, height, frame: { width: window.width, height: window.height } },
		);
		return this.keep(work, light, own);
	}

	private async frame(exr: string): Promise<ReadFrame> {
		const known = this.read.get(exr);
		if (known) return known;
		const file = await openFrameFile(this.pool, exr, null);
		const { width, height, window } = file;
		const names = [...COLOURS, ...COLOURS.map((c) => `clean.${c}`), "Z"];
		const planes = names.map(() => shared(width * height));
		for await (const { y, planes: lines } of file.lines(names))
			names.forEach((name, k) => {
				const from = lines.get(name);
				if (!from) throw new Error(`the file of a frame has no ${name}`);
				planes[k].set(from, y * width);
			});
		const depth = shared(width * height);
		depth.set(nearestDepth(planes[6], width, height));
		const of = (k: number): Rgb => [planes[k], planes[k + 1], planes[k + 2]];
		const frame = { traced: of(0), clean: of(3), depth, width, height, window };
		this.read.set(exr, frame);
		return frame;
	}

	/** Lets go of all frames but these: they take much memory. */
	forget(but: readonly string[] = []): void {
		for (const exr of [...this.read.keys()]) if (!but.includes(exr)) this.read.delete(exr);
	}

	private async keep(work: SteadyWork, light: Rgb, { width, height, window }: ReadFrame): Promise<boolean> {
		const folder = await temporaryFolder();
		let writer: ExrFileWriter | null = null;
		try {
			const path = join(folder, "steady.exr");
			const channels = COLOURS.map((c, k) => ({ name: `steady.${c}`, data: light[k], half: true }));
			const text = { frame: String(work.frame), beside: work.beside.map((b) => b.frame).join(" ") };
			writer = await ExrFileWriter.create(path, channels, width, height, text, window);
			await writer.lines(channels, height);
			await writer.end();
			const blob = await inTransaction(this.pool, (client) => putBlobFile(client, path, "image/x-exr"));
			return await finishSteady(this.pool, work, blob);
		} finally {
			await writer?.close();
			await rm(folder, { recursive: true, force: true });
		}
	}
}

const viewOf = (print: PrintWork, frame: number) =>
	frameOfView(documentOf(print.document, momentOf(print, frame)).camera);
