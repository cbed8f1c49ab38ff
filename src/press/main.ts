/**
 * A press worker: a process that claims units of prints, traces them on all cores and puts finished prints together. Any
 * number of them may run, here or elsewhere, on one connection string; each may be killed at any time.
 */

import { rm } from "node:fs/promises";
import { availableParallelism } from "node:os";
import { join } from "node:path";
import { tracedArea } from "../core/lens/character.ts";
import { lightLayers } from "../core/light/layers.ts";
import {
	blockEndFrom,
	emptyPicture,
	isClean,
	nextLook,
	type Picture,
	placeTile,
	TILE,
	type Tile,
	type TileSums,
} from "../core/scene/picture.ts";
import { noiseOf, samplesBetween } from "../core/scene/spread.ts";
import { documentOf } from "../core/time/documentAt.ts";
import { stepOf } from "../core/time/frames.ts";
import { collectBlobs, putBlob, putBlobFile } from "../store/blobs.ts";
import { inTransaction, isAway, listen, openPool, withPatience } from "../store/database.ts";
import {
	type Assembly,
	claimAssembly,
	doneFrames,
	failAssembly,
	finishAssembly,
	nextUnit,
	pauseAssembly,
	renewAssembly,
} from "../store/frames.ts";
import { Compiler } from "../store/inputs.ts";
import { answerPilot, claimPilot, type PilotOrder } from "../store/pilots.ts";
import { finishedPixels } from "../store/printFiles.ts";
import {
	failPrint,
	foldProgress,
	isFull,
	momentOf,
	type PrintWork,
	pauseFull,
	readWork,
	seedOf,
	stateOfPrint,
} from "../store/prints.ts";
import { PrintWriter } from "../store/printWriter.ts";
import { decideFrame, type Undecided, undecidedFrame } from "../store/spread.ts";
import { claimSteady, failSteady, openFrameFile, type SteadyWork, steadyWaits } from "../store/steady.ts";
import { clearTemporary, temporaryFolder } from "../store/temporary.ts";
import { type Claim, claimUnit, dropUnit, numbersOf, RENEW_MS, renewLeases, returnUnit } from "../store/units.ts";
import { claimVideo, failVideo, finishVideo, tellVideo, type VideoWork } from "../store/videos.ts";
import { VIDEO_FILES, VideoError, VideoWriter } from "../store/videoWriter.ts";
import { exposureOf } from "../tracer/clean.ts";
import { TracePool, tracePilot } from "../tracer/node/pool.ts";
import { cleanStrips, STRIP } from "../tracer/strips.ts";
import { SteadyFrames } from "./steady.ts";

const UNIT_MS = 2000;
/** How often files that nothing refers to and folders of killed workers are cleared. */
const CLEAR_MS = 10 * 60_000;

const url = process.env.DATABASE_URL ?? "";
const threads = Number(process.env.INQUADRA_THREADS) || availableParallelism();
const pool = openPool(url, threads + 4);
const tracer = new TracePool(new URL("./", import.meta.url), threads);
const compiler = new Compiler(pool);
const held = new Map<string, Claim>();
const ending = new AbortController();

let current: { id: string; sampleMs: number; noisePercent: number | null } | null = null;
/** The print that is being put together here. */
let assembling: Assembly | null = null;
/** Milliseconds of a sample of a whole tile in the frame before. */
let lastSampleMs = 0;
let wake = () => {};
const waitForWork = () =>
	new Promise<void>((resolve) => {
		const timer = setTimeout(resolve, 1500);
		wake = () => {
			clearTimeout(timer);
			resolve();
		};
	});

const log = (text: string) => process.stderr.write(`press: ${text}\n`);

/** Names of the layers of light that a print shall have. */
const layersOf = (work: PrintWork): string[] => (work.layers ? lightLayers(work.document).names : []);

/** Stops tracing when the print in hand was cancelled or deleted. */
async function checkCurrent(): Promise<void> {
	const id = current?.id;
	if (!id) return;
	const state = await stateOfPrint(pool, id).catch(() => undefined);
	// Another print may be in hand by now: it is not to be stopped for this one.
	if (state === undefined || current?.id !== id) return;
	if (state === null || state === "cancelled" || state === "failed" || state === "paused") tracer.abort();
}

/** Traces the next blocks of a unit. False when it was told to stop; the unit is then given back as it was. */
async function traceUnit(claim: Claim): Promise<boolean> {
	held.set(claim.token, claim);
	try {
		const tile: Tile = { x: claim.x, y: claim.y, width: claim.width, height: claim.height };
		const pixels = tile.width * tile.height;
		const limits = numbersOf(claim.limits);
		/** Samples of a whole tile that this one takes from some on. */
		const share = (from: number, to: number) => samplesBetween(pixels, from, to, limits) / (TILE * TILE);
		const each = (current?.sampleMs || UNIT_MS / 16) * share(claim.done, claim.done + 1);
		const before: TileSums | undefined =
			claim.sums && claim.firsts
				? {
						sums: new Float64Array(new Uint8Array(claim.sums).buffer),
						firsts: new Uint8Array(claim.firsts).buffer,
						samples: claim.done,
						limits,
					}
				: undefined;
		// With a noise to stop at, no unit runs past the place where it is looked at.
		const noisePercent = current?.noisePercent ?? null;
		const most = noisePercent === null ? claim.samples : Math.min(claim.samples, nextLook(claim.done));
		const end = Math.min(most, blockEndFrom(claim.done + Math.max(1, Math.floor(UNIT_MS / each))));
		const reply = await tracer.trace(tile, claim.done, end, before);
		if (!reply.sums) {
			await withPatience(() => dropUnit(pool, claim));
			return false;
		}
		if (current) current.sampleMs = reply.ms / share(claim.done, end);
		const { sums, firsts } = reply.sums;
		const noise = end === claim.look ? noiseOf(tile, reply.sums) : null;
		const last = isClean(tile, reply.sums, noisePercent);
		const { rays, ms } = reply;
		await withPatience(() =>
			returnUnit(pool, claim, {
				done: end,
				sums: new Uint8Array(sums.buffer as ArrayBuffer),
				firsts: new Uint8Array(firsts),
				noise: noise && new Uint8Array(noise.buffer as ArrayBuffer),
				last,
				rays,
				ms,
			}),
		);
		return true;
	} finally {
		held.delete(claim.token);
	}
}

/** The print that was read last: its frames come one after the other. */
let known: PrintWork | null = null;

/** Traces a frame of a print until it has no unit left for this process. */
async function workOn(claim: Claim): Promise<void> {
	const work = known?.id === claim.printId ? known : await withPatience(() => readWork(pool, claim.printId));
	if (!work) return;
	// What its units have taken so far tells how long the next ones may be.
	const sampleMs = known?.id === work.id ? lastSampleMs : 0;
	known = work;
	const { frame } = claim;
	current = { id: work.id, sampleMs, noisePercent: work.noisePercent };
	try {
		const scene = await withPatience(() => compiler.compile(work.document, momentOf(work, frame)));
		tracer.load(scene, {
			width: work.width,
			height: work.height,
			seed: seedOf(work, frame),
			layers: layersOf(work).length,
		});
	} catch (error) {
		log(`print ${work.id} cannot be traced: ${(error as Error).message}`);
		current = null;
		await withPatience(() => failPrint(pool, work.id, (error as Error).message));
		return;
	}
	// It may have been cancelled while it was compiled, before anyone listened for it.
	void checkCurrent();
	let first: Claim | null = claim;
	const id = work.id;
	// All threads end before the next print is loaded, whatever happens to one of them.
	const ends = await Promise.allSettled(
		Array.from({ length: threads }, async () => {
			for (;;) {
				const unit: Claim | null = first ?? (await withPatience(() => claimUnit(pool, { print: id, frame })));
				first = null;
				if (!unit) return;
				if (ending.signal.aborted) return void (await dropUnit(pool, unit));
				// Threads that were told to stop stay stopped until a scene is loaded again.
				if (!(await traceUnit(unit))) return;
				if ((await withPatience(() => stateOfPrint(pool, id))) !== "tracing") return;
			}
		}),
	);
	lastSampleMs = current?.sampleMs ?? 0;
	current = null;
	for (const end of ends) {
		if (end.status !== "rejected") continue;
		if (!isFull(end.reason)) throw end.reason;
		await withPatience(() => pauseFull(pool, id));
	}
}

/** Decides where the samples of a frame go whose noise has been seen. */
async function decide(undecided: Undecided): Promise<void> {
	const work = await readWork(pool, undecided.id);
	if (!work) return;
	const { camera } = documentOf(work.document, momentOf(work, undecided.frame));
	await withPatience(() => decideFrame(pool, undecided, work, exposureOf(camera)));
}

/** The strips of a frame from its units, which are read a row of tiles at a time. */
async function* stripsOf({ id, frame }: Assembly, area: Tile, lights: string[]): AsyncGenerator<Picture> {
	for (let y = 0; y < area.height; y += STRIP) {
		const strip = emptyPicture(area.width, Math.min(STRIP, area.height - y), lights);
		const tiles = await pool.query<{ tile: number }>(
			"select tile from units where print_id = $1 and frame = $2 and y = $3 order by tile",
			[id, frame, area.y + y],
		);
		if (tiles.rows.length === 0) throw new Error("its tiles are gone");
		for (const { tile } of tiles.rows) {
			const r = await pool.query(
				"select x, y, width, height, samples, sums, firsts, limits from units where print_id = $1 and frame = $2 and tile = $3",
				[id, frame, tile],
			);
			const u = r.rows[0];
			if (!u?.sums) throw new Error(`tile ${tile} is not there`);
			placeTile(
				strip,
				{ ...u, x: u.x - area.x, y: 0 },
				{
					sums: new Float64Array(new Uint8Array(u.sums).buffer),
					firsts: new Uint8Array(u.firsts).buffer,
					samples: u.samples,
					limits: numbersOf(u.limits),
				},
			);
		}
		yield strip;
	}
}

async function assemble(assembly: Assembly): Promise<void> {
	const { id, frame } = assembly;
	const work = await readWork(pool, id);
	if (!work) return;
	const name = work.sequence ? `frame ${frame} of print ${id}` : `print ${id}`;
	const { move } = work.document;
	const shown = documentOf(work.document, momentOf(work, frame));
	const { area } = work;
	const lights = layersOf(work);
	const folder = await temporaryFolder();
	let writer: PrintWriter | null = null;
	try {
		const path = join(folder, "print.exr");
		writer = await PrintWriter.create(path, {
			frame: { width: work.width, height: work.height },
			area,
			part: work.part,
			text: {
				title: work.title,
				samples: String(work.samples),
				...(work.spread === "noise" && { spread: work.spread }),
				seed: String(seedOf(work, frame)),
				...(work.sequence && move ? { frame: String(frame), rate: move.rate } : {}),
			},
			lights,
			camera: shown.camera,
			finish: shown.finish,
			// Of a move only what an editor and a painter need, for there are many.
			lean: work.sequence && !work.layers,
		});
		for await (const { y, strip, clean } of cleanStrips(stripsOf(assembly, area, lights), (view, rows) =>
			tracer.clean(view, exposureOf(shown.camera), rows),
		))
			await writer.strip(y, strip, clean);
		const { pixelsSha256, thumbnail } = await writer.end();
		const files = await inTransaction(pool, async (client) => ({
			exr: await putBlobFile(client, path, "image/x-exr"),
			thumbnail: await putBlob(client, thumbnail, "image/png"),
		}));
		if (await finishAssembly(pool, assembly, { ...files, pixelsSha256 })) log(`${name} is done`);
		else log(`${name} has gone to another worker`);
	} finally {
		await writer?.close();
		await rm(folder, { recursive: true, force: true });
	}
}

/** Makes a video of a print's frames. Tracing goes on beside it. */
async function film(work: VideoWork): Promise<void> {
	const folder = await temporaryFolder();
	let video: VideoWriter | null = null;
	let done = 0;
	// The end of a long video takes longer than its claim lasts.
	const telling = setInterval(() => void tellVideo(pool, work, done).catch(() => {}), RENEW_MS);
	try {
		const print = await readWork(pool, work.printId);
		const move = print?.document.move;
		// A frame without its neighbours among others that have theirs would be seen.
		while (work.steady && (await steadyWaits(pool, work.printId)) > 0) {
			await new Promise((r) => setTimeout(r, 500));
			if (ending.signal.aborted || !(await tellVideo(pool, work, 0))) return;
		}
		const frames = await doneFrames(pool, work.printId);
		if (!print || !move || frames.length === 0)
			throw new VideoError("no-frames", "No frame of this print is done yet.");
		const step = stepOf(frames.map((f) => f.frame));
		const steadied = work.steady && frames.every((f) => f.steady);
		const path = join(folder, `video.${work.kind}`);
		const { width, height } = print.part ?? print;
		video = VideoWriter.start(path, { width, height, rate: move.rate, kind: work.kind, step });
		for (const { frame, exr, steady } of frames) {
			const { camera, finish } = documentOf(work.document, momentOf(print, frame));
			const file = await openFrameFile(pool, exr, steadied ? steady : null);
			await video.frame(await finishedPixels(file, work.clean, camera, finish));
			if (!(await tellVideo(pool, work, ++done))) return;
		}
		await video.end();
		const blob = await inTransaction(pool, (client) => putBlobFile(client, path, VIDEO_FILES[work.kind].mediaType));
		await finishVideo(pool, work, blob);
		log(`video of print ${work.printId} is done`);
	} catch (error) {
		if (isAway(error)) throw error;
		const full = isFull(error) ? "The disk is full: the video could not be kept. Make room, then make it again." : null;
		await withPatience(() => failVideo(pool, work, full ?? (error as Error).message));
	} finally {
		clearInterval(telling);
		video?.stop();
		await rm(folder, { recursive: true, force: true });
	}
}

const steadyFrames = new SteadyFrames(pool, tracer);

/** Takes the neighbours of a frame in. */
async function steady(work: SteadyWork): Promise<void> {
	try {
		if (!(await steadyFrames.make(work))) await failSteady(pool, work);
	} catch (error) {
		if (isAway(error)) throw error;
		log(`frame ${work.frame} of print ${work.id} stays without its neighbours: ${(error as Error).message}`);
		await withPatience(() => failSteady(pool, work));
	}
}

let filming = false;

/** Makes what videos are wanted, one after the other. */
async function filmAll(): Promise<void> {
	if (filming) return;
	filming = true;
	try {
		for (let work = await claimVideo(pool); work && !ending.signal.aborted; work = await claimVideo(pool))
			await film(work);
	} catch (error) {
		if (!isAway(error)) log((error as Error).stack ?? String(error));
	} finally {
		filming = false;
	}
}

/** Clears what nothing refers to any more, here and in the database. */
const clear = () =>
	Promise.all([clearTemporary(), collectBlobs(pool)]).catch((error) => {
		if (!isAway(error)) log(`could not clear what is not needed: ${error.message}`);
	});

/** Traces a pilot for the one who waits for it. */
async function fly(order: PilotOrder & { id: string }): Promise<void> {
	const { document, width, height } = order;
	const part = tracedArea(order.part, order, document.finish, document.print.overscan);
	const result = await compiler
		.compile(document)
		.then((scene) => tracePilot(tracer, scene, { width, height, seed: document.print.seed }, part))
		.catch((error) => {
			log(`a pilot could not be traced: ${error.message}`);
			return null;
		});
	await answerPilot(pool, order.id, result);
}

async function run(): Promise<void> {
	setInterval(() => {
		if (assembling) renewAssembly(pool, assembling).catch(() => {});
		if (held.size === 0) return;
		renewLeases(pool, [...held.keys()]).catch(() => {});
		if (current) foldProgress(pool, current.id).catch(() => {});
		void checkCurrent();
	}, RENEW_MS);
	void listen(
		url,
		(event) => {
			wake();
			if (!event || event.id === current?.id) void checkCurrent();
		},
		ending.signal,
	);
	void clear();
	setInterval(() => void clear(), CLEAR_MS);
	log(`ready with ${threads} threads`);
	while (!ending.signal.aborted) {
		try {
			void filmAll();
			const ready = await claimAssembly(pool);
			if (ready) {
				assembling = ready;
				await assemble(ready)
					.catch(async (error) => {
						if (isAway(error)) throw error;
						const ended = isFull(error)
							? () => pauseAssembly(pool, ready)
							: () => failAssembly(pool, ready, `The print could not be put together: ${error.message}`);
						await withPatience(ended);
					})
					.finally(() => {
						assembling = null;
					});
				continue;
			}
			const alone = await claimSteady(pool);
			if (alone) {
				await steady(alone);
				continue;
			}
			steadyFrames.forget();
			const undecided = await undecidedFrame(pool);
			if (undecided) {
				await decide(undecided);
				continue;
			}
			const claim = await nextUnit(pool);
			const pilot = claim ? null : await claimPilot(pool);
			if (claim) await workOn(claim);
			else if (pilot) await fly(pilot);
			else await waitForWork();
		} catch (error) {
			if (!isAway(error)) log((error as Error).stack ?? String(error));
			await new Promise((r) => setTimeout(r, 500));
		}
	}
}

for (const signal of ["SIGINT", "SIGTERM"] as const) {
	process.on(signal, async () => {
		ending.abort();
		tracer.abort();
		await Promise.all([...held.values()].map((c) => dropUnit(pool, c).catch(() => {})));
		process.exit(0);
	});
}

void run();
