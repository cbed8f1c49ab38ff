import { renameSync, writeFileSync } from "node:fs";
import { availableParallelism } from "node:os";
import type pg from "pg";
import { z } from "zod";
import { FramePart, PrintSettings, type ShotDocument } from "../../core/doc/schema.ts";
import { usedFilm } from "../../core/lens/camera.ts";
import { lightLayers } from "../../core/light/layers.ts";
import { partInPixels } from "../../core/scene/part.ts";
import { Compiler } from "../../store/inputs.ts";
import { printPng, withPrintAt } from "../../store/printFiles.ts";
import { PrintWriter } from "../../store/printWriter.ts";
import { findShot } from "../../store/shots.ts";
import { TracePool, traceStrips } from "../../tracer/node/pool.ts";
import { cleanStrips } from "../../tracer/strips.ts";
import { BUILD, type Command, checked, type Flags, Refusal } from "../command.ts";

const PrintFlags = z.object({
	width: z.coerce.number().int().min(16).max(16_384).optional(),
	height: z.coerce.number().int().min(16).max(16_384).optional(),
	samples: z.coerce.number().pipe(PrintSettings.shape.samples).optional(),
	seed: z.coerce.number().pipe(PrintSettings.shape.seed).optional(),
	noise: z.coerce.number().min(0.1).max(50).optional(),
	layers: z.boolean().optional(),
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
	out: z.string(),
	png: z.string().optional(),
});

/** Size of a print: what is asked, the other side by the frame's ratio. */
export function printSize(
	doc: ShotDocument,
	asked: { width?: number; height?: number },
): { width: number; height: number } {
	const film = usedFilm(doc.camera.film, doc.camera.ratio);
	const ratio = film.widthMm / film.heightMm;
	const width = asked.width ?? (asked.height ? Math.round(asked.height * ratio) : doc.print.widthPx);
	return { width, height: asked.height ?? Math.max(1, Math.round(width / ratio)) };
}

async function printShot(pool: pg.Pool, name: string, flags: Flags) {
	if (typeof flags.out !== "string") throw new Refusal("bad-input", "print needs --out FILE.exr");
	const f = checked(PrintFlags, flags, "print");
	const shot = await findShot(pool, name);
	const doc = shot.document;
	const size = printSize(doc, f);
	if (f.width && f.height) doc.camera.ratio = f.width / f.height;
	const seed = f.seed ?? doc.print.seed;
	const samples = f.samples ?? doc.print.samples;
	const part = partInPixels(f.part ?? null, size.width, size.height) ?? { x: 0, y: 0, ...size };
	const window = { x: part.x, y: part.y, ...size };
	const scene = await new Compiler(pool).compile(doc);
	const started = performance.now();
	const tracer = new TracePool(BUILD, f.workers ?? availableParallelism());
	const lights = f.layers ? lightLayers(doc).names : [];
	// A file that is there already stays until the new one is whole.
	const unfinished = `${f.out}.part`;
	const writer = await PrintWriter.create(unfinished, {
		width: part.width,
		height: part.height,
		window,
		text: { title: doc.title, samples: String(samples), seed: String(seed) },
		lights,
		ev100: doc.camera.ev100,
		finish: doc.finish,
	});
	let shown = 0;
	const tell = (done: number) => {
		const percent = Math.floor(done * 100);
		if (percent < shown + 10) return;
		shown = percent;
		process.stderr.write(`${percent} %\n`);
	};
	const traced = traceStrips(tracer, scene, { ...size, seed }, samples, tell, f.noise ?? null, lights, part);
	for await (const { y, strip, clean } of cleanStrips(traced.strips, (view, rows) => tracer.denoise(view, rows)))
		await writer.strip(y, strip, clean);
	const { pixelsSha256 } = await writer.end();
	renameSync(unfinished, f.out);
	await tracer.close();
	const seconds = (performance.now() - started) / 1000;
	if (f.png)
		writeFileSync(f.png, await withPrintAt(f.out, (file) => printPng(file, true, doc.camera.ev100, doc.finish)));
	return {
		shot: shot.id,
		...size,
		samples,
		seed,
		seconds: Math.round(seconds * 100) / 100,
		rays: traced.rays(),
		pixelsSha256,
		out: f.out,
		...(f.png ? { png: f.png } : {}),
	};
}

/** Traces a shot into files, without the queue. */
export const print: Command = {
	args: ["SHOT"],
	flags:
		"--out FILE.exr [--png FILE.png] [--width N] [--height N] [--samples N] [--seed N] [--noise PERCENT] [--layers] [--part LEFT,TOP,WIDTH,HEIGHT] [--workers N]",
	run: ({ args: [name], flags, pool }) => printShot(pool, name, flags),
};
