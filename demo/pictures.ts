/** Renders the check scenes for the documents: `npm run pictures [-- lantern|pan]`. */
import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { compile } from "../src/core/scene/compile.ts";
import { pngFile } from "../src/store/printFiles.ts";
import { TracePool, tracePicture } from "../src/tracer/node/pool.ts";
import { lanternDocument, panDocument } from "./checks.ts";

const folder = join(process.cwd(), "docs/pictures");
mkdirSync(folder, { recursive: true });
const scenes = { lantern: lanternDocument, pan: panDocument };
const wanted = process.argv[2];
const pool = new TracePool(new URL(`file://${join(process.cwd(), "build")}/`), 2);
for (const [name, make] of Object.entries(scenes)) {
	if (wanted && wanted !== name) continue;
	const doc = make();
	const width = doc.print.widthPx;
	const height = Math.round(width / doc.camera.ratio);
	const started = Date.now();
	const { picture } = await tracePicture(pool, compile(doc), { width, height, seed: doc.print.seed }, doc.print.samples);
	const traced = Date.now();
	const clean = await pool.denoise(picture);
	writeFileSync(join(folder, `${name}.png`), await pngFile(clean, width, height, doc.camera.ev100, doc.finish));
	process.stdout.write(
		`${name}: ${width} × ${height}, ${doc.print.samples} samples in ${Math.round((traced - started) / 1000)} s, cleaned in ${((Date.now() - traced) / 1000).toFixed(1)} s\n`,
	);
}
process.exit(0);
