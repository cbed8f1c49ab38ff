import { renameSync, rmSync, writeFileSync } from "node:fs";
import { statfs } from "node:fs/promises";
import { availableParallelism } from "node:os";
import { dirname } from "node:path";
import type pg from "pg";
import { z } from "zod";
import { FramePart, type Move, PrintSettings, type ShotDocument, type Spread } from "../../core/doc/schema.ts";
import { frameHeight, usedFilm } from "../../core/lens/camera.ts";
import { tracedArea } from "../../core/lens/character.ts";
import { lightLayers } from "../../core/light/layers.ts";
import { partInPixels } from "../../core/scene/part.ts";
import { printBytes, type Tile } from "../../core/scene/picture.ts";
import { documentOf } from "../../core/time/documentAt.ts";
import {
	framesPerSecond,
	type Moment,
	momentAt,
	momentOfFrame,
	parseFrames,
	STILL,
	seedOfFrame,
	stepOf,
} from "../../core/time/frames.ts";
import { Compiler } from "../../store/inputs.ts";
import { finishedPixels, printPng, withPrintAt } from "../../store/printFiles.ts";
import { PrintWriter } from "../../store/printWriter.ts";
import { findShot } from "../../store/shots.ts";
import { isPadded, isVideoKind, VideoWriter } from "../../store/videoWriter.ts";
import { exposureOf } from "../../tracer/clean.ts";
import { TracePool, traceStrips } from "../../tracer/node/pool.ts";
import { cleanStrips } from "../../tracer/strips.ts";
import { BUILD, type Command, checked, type Flags, Refusal } from "../command.ts";

const PrintFlags = z.object({
	width: z.coerce.number().int().min(16).max(16_384).optional(),
	height: z.coerce.number().int().min(16).max(16_384).optional(),
	samples: z.coerce.number().pipe(PrintSettings.shape.samples).optional(),
	seed: z.coerce.number().pipe(PrintSettings.shape.seed).optional(),
	noise: z.coerce.number().min(0.1).max(50).optional(),
	spread: PrintSettings.shape.spread,
	layers: z.boolean().optional(),
	/** Share of the frame that is kept beyond it on each side. */
	overscan: z.coerce.number().pipe(PrintSettings.shape.overscan.unwrap()).optional(),
	/** Four shares of the frame: left, top, width, height. */
	part: z
		.string()
		.transform((s) => {
			const [x, y, width, height] = s.split(",").map(Number);
			return { x, y, width, height };
		})
		.pipe(FramePart)
		.optional(),
	workers: z.coerce.number().int().min(1).max(64).optional(),
	time: z.coerce.number().min(0).max(3600).optional(),
	frames: z.string().optional(),
	"steady-noise": z.boolean().optional(),
	out: z.string(),
	png: z.string().optional(),
	video: z.string().optional(),
});
type PrintFlags = z.infer<typeof PrintFlags>;

/** Size of a print: what is asked, the other side by the frame's ratio. */
export function printSize(
	doc: ShotDocument,
	asked: { width?: number; height?: number },
): { width: number; height: number } {
	const { widthMm, heightMm } = usedFilm(doc.camera.film, doc.camera.ratio);
	const width = asked.width ?? (asked.height ? Math.round((asked.height * widthMm) / heightMm) : doc.print.widthPx);
	return { width, height: asked.height ?? frameHeight(doc.camera, width) };
}

function moveOf({ move, title }: ShotDocument, flag: string): Move {
	if (!move) throw new Refusal("no-move", `"${title}" has no move, so ${flag} has nothing to show.`);
	return move;
}

/** The frames that are asked for; throws in words where the move has them not. */
function framesAsked(asked: string, move: Move): { frames: number[]; step: number } {
	try {
		const frames = parseFrames(asked, move.frames);
		return { frames, step: stepOf(frames) };
	} catch (error) {
		throw new Refusal("bad-range", (error as Error).message);
	}
}

/** A file's name by a pattern with the frame's number: %d, or %04d for four digits. */
function namedBy(pattern: string, frame: number, many: boolean): string {
	if (!/%0?\d*d/.test(pattern)) {
		if (many)
			throw new Refusal("bad-input", `--out ${pattern}: several frames need a number in it, as in FRAME_%04d.exr.`);
		return pattern;
	}
	return pattern.replace(/%(0?)(\d*)d/, (_, zero, digits) => String(frame).padStart(Number(digits || 0), zero || " "));
}

/** What all frames of a print have in common. */
interface Job {
	doc: ShotDocument;
	compiler: Compiler;
	tracer: TracePool;
	size: { width: number; height: number };
	part: Tile | null;
	/** Pixels that are traced. */
	area: Tile;
	samples: number;
	noise: number | null;
	spread: Spread;
	lights: string[];
}

interface Traced {
	pixelsSha256: string;
	rays: number;
}

/** Traces one picture into a file; one that is there already stays until the new one is whole. */
async function traceInto(
	{ doc, compiler, tracer, size, part, area, samples, noise, spread, lights }: Job,
	{ moment, seed, out, text }: { moment: Moment; seed: number; out: string; text: Record<string, string> },
	tell: (done: number) => void,
): Promise<Traced> {
	const scene = await compiler.compile(doc, moment);
	const unfinished = `${out}.part`;
	const writer = await PrintWriter.create(unfinished, {
		frame: size,
		area,
		part,
		text: {
			title: doc.title,
			samples: String(samples),
			...(spread === "noise" && { spread }),
			seed: String(seed),
			...text,
		},
		lights,
		camera: scene.root.camera,
		finish: scene.root.finish,
	});
	try {
		const traced = traceStrips(tracer, scene, { ...size, seed }, samples, tell, noise, lights, area, spread);
		for await (const { y, strip, clean } of cleanStrips(traced.strips, (view, rows) =>
			tracer.clean(view, exposureOf(scene.root.camera), rows),
		))
			await writer.strip(y, strip, clean);
		const { pixelsSha256 } = await writer.end();
		renameSync(unfinished, out);
		return { pixelsSha256, rays: traced.rays() };
	} catch (error) {
		await writer.close();
		rmSync(unfinished, { force: true });
		throw error;
	}
}

/** Tells each tenth that is done. */
function tenths(label = ""): (done: number) => void {
	let shown = 0;
	return (done) => {
		const percent = Math.floor(done * 100);
		if (percent < shown + 10) return;
		shown = percent;
		process.stderr.write(`${label}${percent} %\n`);
	};
}

/** Refuses frames for which the disk has no room. */
async function needRoom(out: string, pixels: number, frames: number): Promise<void> {
	const disk = await statfs(dirname(out) || ".").catch(() => null);
	if (!disk) throw new Refusal("no-folder", `The folder of ${out} is not there.`);
	const takes = (printBytes(pixels) / 2 / 1e9) * frames;
	const free = (disk.bavail * disk.bsize) / 1e9;
	if (takes > free)
		throw new Refusal(
			"disk-full",
			`${frames.toLocaleString("en")} frames take some ${Math.ceil(takes).toLocaleString("en")} GB, of which ${Math.floor(free)} GB are free. Print fewer of them, or smaller ones.`,
		);
}

async function printFrames(job: Job, move: Move, f: PrintFlags, seed: number) {
	const { frames, step } = framesAsked(f.frames as string, move);
	const names = frames.map((frame) => namedBy(f.out, frame, frames.length > 1));
	await needRoom(names[0], job.area.width * job.area.height, frames.length);
	const kind = f.video?.split(".").pop()?.toLowerCase() ?? "";
	if (f.video && !isVideoKind(kind))
		throw new Refusal("bad-input", `--video ${f.video}: videos end with .mp4 or .webm.`);
	const { width, height } = job.part ?? job.size;
	const video =
		f.video && isVideoKind(kind)
			? VideoWriter.start(`${f.video}.part`, { width, height, rate: move.rate, kind, step })
			: null;
	if (video && isPadded({ width, height }))
		process.stderr.write("The video has one pixel more where a side is odd, for video wants even ones.\n");
	const done: { frame: number; out: string; pixelsSha256: string }[] = [];
	let rays = 0;
	try {
		for (const [i, frame] of frames.entries()) {
			const own = seedOfFrame(seed, frame, f["steady-noise"] ?? false);
			const moment = momentOfFrame(frame, move);
			const text = { frame: String(frame), rate: move.rate };
			const traced = await traceInto(job, { moment, seed: own, out: names[i], text }, () => {});
			rays += traced.rays;
			done.push({ frame, out: names[i], pixelsSha256: traced.pixelsSha256 });
			if (video) {
				const { camera, finish } = documentOf(job.doc, moment);
				await video.frame(await withPrintAt(names[i], (file) => finishedPixels(file, true, camera, finish)));
			}
			process.stderr.write(`frame ${frame}, ${i + 1} of ${frames.length}\n`);
		}
		await video?.end();
	} catch (error) {
		video?.stop();
		if (f.video) rmSync(`${f.video}.part`, { force: true });
		throw error;
	}
	if (f.video) renameSync(`${f.video}.part`, f.video);
	return {
		rays,
		frames: done,
		video: f.video ? { file: f.video, frames: done.length, fps: framesPerSecond(move.rate) / step } : null,
	};
}

async function printStill(job: Job, f: PrintFlags, seed: number) {
	const { doc } = job;
	const moment = f.time === undefined ? STILL : momentAt(f.time, moveOf(doc, "--time"));
	const traced = await traceInto(job, { moment, seed, out: f.out, text: {} }, tenths());
	const { camera, finish } = documentOf(doc, moment);
	if (f.png) writeFileSync(f.png, await withPrintAt(f.out, (file) => printPng(file, true, camera, finish)));
	return { ...traced, out: f.out, ...(f.png ? { png: f.png } : {}) };
}

async function printShot(pool: pg.Pool, name: string, flags: Flags) {
	if (typeof flags.out !== "string") throw new Refusal("bad-input", "print needs --out FILE.exr");
	const f = checked(PrintFlags, flags, "print");
	if (f.frames && f.time !== undefined) throw new Refusal("bad-input", "Give --frames or --time, not both.");
	if (f.video && !f.frames) throw new Refusal("bad-input", "--video needs --frames.");
	const shot = await findShot(pool, name);
	const doc = shot.document;
	const size = printSize(doc, f);
	if (f.width && f.height) doc.camera.ratio = f.width / f.height;
	if (f.overscan !== undefined) doc.print.overscan = f.overscan;
	const part = partInPixels(f.part ?? null, size.width, size.height);
	const seed = f.seed ?? doc.print.seed;
	const samples = f.samples ?? doc.print.samples;
	const move = f.frames ? moveOf(doc, "--frames") : null;
	const started = performance.now();
	const tracer = new TracePool(BUILD, f.workers ?? availableParallelism());
	const job: Job = {
		doc,
		compiler: new Compiler(pool),
		tracer,
		size,
		part,
		area: tracedArea(part, size, doc.finish, doc.print.overscan),
		samples,
		noise: f.noise ?? null,
		// Where a noise says when tiles end, it alone does.
		spread: f.noise === undefined ? (f.spread ?? "even") : "even",
		lights: f.layers ? lightLayers(doc).names : [],
	};
	try {
		const printed = move ? await printFrames(job, move, f, seed) : await printStill(job, f, seed);
		const seconds = (performance.now() - started) / 1000;
		return { shot: shot.id, ...size, samples, seed, seconds: Math.round(seconds * 100) / 100, ...printed };
	} finally {
		await tracer.close();
	}
}

/** Traces a shot, or frames of its move, into files, without the queue. */
export const print: Command = {
	args: ["SHOT"],
	flags:
		"--out FILE.exr [--png FILE.png] [--time SECONDS] [--frames FROM-TO[:STEP] --out PATTERN_%04d.exr [--video FILE.mp4]] [--width N] [--height N] [--samples N] [--seed N] [--noise PERCENT] [--spread even|noise] [--layers] [--overscan SHARE] [--part LEFT,TOP,WIDTH,HEIGHT] [--steady-noise] [--workers N]",
	run: ({ args: [name], flags, pool }) => printShot(pool, name, flags),
};
