/** Renders the check scenes for the documents, and the print that ships with the demo: `npm run pictures [-- lantern|pan|saltworks]`. */
import { mkdirSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { ShotDocument } from "../src/core/doc/schema.ts";
import { tracedArea } from "../src/core/lens/character.ts";
import { compile } from "../src/core/scene/compile.ts";
import { exrForOthers, printPng, withPrintAt } from "../src/store/printFiles.ts";
import { PrintWriter } from "../src/store/printWriter.ts";
import { TracePool, tracePicture } from "../src/tracer/node/pool.ts";
import { lanternDocument, panDocument } from "./checks.ts";
import { saltWorksDocument } from "./saltWorks.ts";

const folder = join(process.cwd(), "docs/pictures");
mkdirSync(folder, { recursive: true });
const scenes: Record<string, () => ShotDocument> = {
	lantern: lanternDocument,
	pan: panDocument,
	saltworks: saltWorksDocument,
};
/** Width and samples of the demo's print, kept as half floats so that the file stays small. */
const DEMO = { widthPx: 640, samples: Number(process.env.INQUADRA_SAMPLES) || 256 };
const wanted = process.argv[2];
const pool = new TracePool(new URL(`file://${join(process.cwd(), "build")}/`), 2);
for (const [name, make] of Object.entries(scenes)) {
	if (wanted && wanted !== name) continue;
	const doc = make();
	const { widthPx: width, samples } = name === "saltworks" ? DEMO : doc.print;
	const { seed } = doc.print;
	const height = Math.round(width / doc.camera.ratio);
	const started = Date.now();
	const { picture } = await tracePicture(pool, compile(doc), { width, height, seed }, samples);
	const traced = Date.now();
	const clean = await pool.denoise(picture);
	const text = { title: doc.title, samples: String(samples), seed: String(seed) };
	const path = join(tmpdir(), `inquadra-${name}.exr`);
	const writer = await PrintWriter.create(path, {
		frame: { width, height },
		area: tracedArea(null, { width, height }, doc.finish, doc.print.overscan),
		text,
		lights: [],
		camera: doc.camera,
		finish: doc.finish,
	});
	await writer.strip(0, picture, clean);
	await writer.end();
	await withPrintAt(path, async (file) => {
		if (name === "saltworks")
			await exrForOthers(join(process.cwd(), "demo/assets/print.exr"), file, doc.camera, { half: true, places: false });
		else writeFileSync(join(folder, `${name}.png`), await printPng(file, true, doc.camera, doc.finish));
	});
	rmSync(path);
	process.stdout.write(
		`${name}: ${width} × ${height}, ${samples} samples in ${Math.round((traced - started) / 1000)} s, cleaned in ${((Date.now() - traced) / 1000).toFixed(1)} s\n`,
	);
}
process.exit(0);
