/** The command line. One JSON document on standard output, also for errors; everything else on standard error. */
import { readFileSync, renameSync, writeFileSync } from "node:fs";
import { availableParallelism } from "node:os";
import { fileURLToPath } from "node:url";
import { parseArgs } from "node:util";
import type pg from "pg";
import { z } from "zod";
import { filesOf } from "../core/doc/files.ts";
import { type StoredDocument, upgrade } from "../core/doc/migrations.ts";
import { FramePart, Id, PrintSettings, ShotDocument } from "../core/doc/schema.ts";
import { usedFilm } from "../core/lens/camera.ts";
import { solvePerspective } from "../core/lens/solvePerspective.ts";
import { lightLayers } from "../core/light/layers.ts";
import { partInPixels } from "../core/scene/part.ts";
import { collectBlobs, getBlob, putBlob, sha256 } from "../store/blobs.ts";
import { inTransaction, migrate, openPool } from "../store/database.ts";
import { Compiler } from "../store/inputs.ts";
import { printPng, withPrintAt } from "../store/printFiles.ts";
import { PrintWriter } from "../store/printWriter.ts";
import { createShot, findShot, listShots } from "../store/shots.ts";
import { TracePool, traceStrips } from "../tracer/node/pool.ts";
import { cleanStrips } from "../tracer/strips.ts";
import { keepDemo } from "./demo.ts";

/** An error for the person at the command line. */
class Refusal extends Error {
	readonly code: string;
	constructor(code: string, message: string) {
		super(message);
		this.code = code;
	}
}

const number = z.number().refine(Number.isFinite);
const pixel = z.tuple([number, number]);
const MatchFile = z.object({
	image: z.object({ width: number, height: number }),
	film: z.object({ widthMm: number }),
	focalMm: number.optional(),
	eyeHeightM: number.optional(),
	directions: z.array(
		z.object({ axis: z.enum(["x", "y", "z"]), segments: z.array(z.tuple([number, number, number, number])) }),
	),
	principal: z.enum(["centre", "solve"]).optional(),
	heights: z.array(z.object({ base: pixel, top: pixel, heightM: number })).optional(),
	lengths: z.array(z.object({ from: pixel, to: pixel, lengthM: number })).optional(),
	ellipses: z
		.array(z.object({ centre: pixel, axes: pixel, angleDeg: number, plane: z.enum(["ground", "x", "z"]) }))
		.optional(),
	horizon: z.object({ yLeft: number, yRight: number }).optional(),
	curves: z.array(z.array(pixel).min(3)).optional(),
	robust: z.boolean().optional(),
});

function readJson(path: string): unknown {
	let text: string;
	try {
		text = readFileSync(path, "utf8");
	} catch {
		throw new Refusal("no-file", `The file ${path} cannot be read.`);
	}
	try {
		return JSON.parse(text);
	} catch (error) {
		throw new Refusal("bad-json", `The file ${path} is not JSON: ${(error as Error).message}`);
	}
}

function checked<T extends z.ZodType>(schema: T, value: unknown, what: string): z.infer<T> {
	const r = schema.safeParse(value);
	if (r.success) return r.data;
	const issue = r.error.issues[0];
	throw new Refusal("bad-input", `${what}: ${issue.path.join(".") || "value"}: ${issue.message}`);
}

function match(path: string) {
	const input = checked(MatchFile, readJson(path), path);
	const { meeting: _, ...answer } = solvePerspective(input);
	return input.eyeHeightM === undefined ? answer : { eyeHeightM: input.eyeHeightM, eyeHeightMSd: 0, ...answer };
}

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

async function print(pool: pg.Pool, name: string, flags: Record<string, unknown>) {
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
	const tracer = new TracePool(new URL("./", import.meta.url), f.workers ?? availableParallelism());
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

/** A document of an earlier version as it is now; anything else as it came, for the schema to refuse in words. */
function upgradedIfKnown(doc: unknown): unknown {
	try {
		return upgrade(doc as StoredDocument);
	} catch {
		return doc;
	}
}

const Export = z.object({
	inquadra: z.literal(1),
	shot: z.object({
		id: Id,
		/** Of this version of the schema or one before. */
		document: z.preprocess((doc) => upgradedIfKnown(doc), ShotDocument),
	}),
	blobs: z.record(z.string(), z.object({ mediaType: z.string().max(100), base64: z.string() })),
});

async function exportShot(pool: pg.Pool, name: string, path: string) {
	const shot = await findShot(pool, name);
	const blobs: Record<string, { mediaType: string; base64: string }> = {};
	for (const { blob } of filesOf(shot.document)) {
		const data = await getBlob(pool, blob);
		const info = await pool.query<{ media_type: string }>("select media_type from blobs where hash = $1", [blob]);
		if (data) blobs[blob] = { mediaType: info.rows[0].media_type, base64: data.toString("base64") };
	}
	writeFileSync(path, JSON.stringify({ inquadra: 1, shot: { id: shot.id, document: shot.document }, blobs }));
	return {
		exported: shot.id,
		title: shot.title,
		revision: shot.revision,
		blobs: Object.keys(blobs).length,
		file: path,
	};
}

async function importShot(pool: pg.Pool, path: string) {
	const file = checked(Export, readJson(path), path);
	const { document } = file.shot;
	await inTransaction(pool, async (client) => {
		for (const { blob: hash, what } of filesOf(document)) {
			const blob = file.blobs[hash];
			const data = blob ? Buffer.from(blob.base64, "base64") : null;
			if (!blob || !data || sha256(data) !== hash)
				throw new Refusal("bad-blob", `${path}: the ${what} is missing or damaged.`);
			await putBlob(client, data, blob.mediaType);
		}
	});
	const taken = await pool.query("select 1 from shots where id = $1", [file.shot.id]);
	const shot = await createShot(pool, document, taken.rowCount ? undefined : file.shot.id);
	return { imported: shot.id, title: shot.title, revision: shot.revision };
}

const USAGE =
	"match FILE · print SHOT --out FILE.exr [--png FILE.png] [--width N] [--height N] [--samples N] [--seed N] [--noise PERCENT] [--layers] [--part LEFT,TOP,WIDTH,HEIGHT] [--workers N] · shots · export SHOT FILE.json · import FILE.json";

async function run(): Promise<unknown> {
	let parsed: { values: Record<string, string | boolean | undefined>; positionals: string[] };
	const text = { type: "string" } as const;
	try {
		parsed = parseArgs({
			allowPositionals: true,
			options: {
				out: text,
				png: text,
				width: text,
				height: text,
				samples: text,
				seed: text,
				noise: text,
				workers: text,
				layers: { type: "boolean" },
				part: text,
			},
		});
	} catch (error) {
		throw new Refusal("bad-usage", `${(error as Error).message} Usage: ${USAGE}`);
	}
	const [command, ...args] = parsed.positionals;
	const wants: Record<string, number> = { match: 1, print: 1, shots: 0, export: 2, import: 1, migrate: 0, demo: 0 };
	if (!command || wants[command] !== args.length) throw new Refusal("bad-usage", `Usage: ${USAGE}`);
	if (command === "match") return match(args[0]);
	const pool = openPool(process.env.DATABASE_URL ?? "", 4);
	try {
		await migrate(pool, fileURLToPath(new URL("../src/store/migrations", import.meta.url)));
		if (command === "print") return await print(pool, args[0], parsed.values);
		if (command === "export") return await exportShot(pool, args[0], args[1]);
		if (command === "import") return await importShot(pool, args[0]);
		// The start command calls one of these two, so the start is when files that nothing refers to are dropped.
		if (command === "demo" || command === "migrate") await collectBlobs(pool);
		if (command === "demo") return await keepDemo(pool);
		if (command === "migrate") return { migrated: true };
		return { shots: (await listShots(pool)).map(({ id, title, revision }) => ({ id, title, revision })) };
	} finally {
		await pool.end();
	}
}

run().then(
	(answer) => process.stdout.write(`${JSON.stringify(answer)}\n`),
	(error: Error & { code?: string }) => {
		if (!error.code || !/^[a-z-]+$/.test(error.code)) process.stderr.write(`${error.stack}\n`);
		const code = error.code && /^[a-z-]+$/.test(error.code) ? error.code : "failed";
		process.stdout.write(`${JSON.stringify({ error: { code, message: error.message } })}\n`, () => process.exit(1));
	},
);
