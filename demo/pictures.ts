/** Renders the check scenes for the documents, the print and the small frames that ship with the demo: `npm run pictures [-- lantern|pan|saltworks|move]`. */
import { mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { ShotDocument } from "../src/core/doc/schema.ts";
import { areaWithRoom, sharesOf, tracedArea } from "../src/core/lens/character.ts";
import { compile } from "../src/core/scene/compile.ts";
import { NO_BLOBS, NO_MAKERS } from "../src/core/scene/inputs.ts";
import { PartCache } from "../src/core/scene/partCache.ts";
import { probePlaces } from "../src/core/study/moveTable.ts";
import { joined, packSmall, SMALL, type SmallFrame, smallSign, smallSize } from "../src/core/study/smallFrame.ts";
import { framesOf, momentOfFrame, seedOfFrame } from "../src/core/time/frames.ts";
import { exrForOthers, printPng, withPrintAt } from "../src/store/printFiles.ts";
import { PrintWriter } from "../src/store/printWriter.ts";
import { meet } from "../src/tracer/meet.ts";
import { makeKernel, TracerMemory } from "../src/tracer/memory.ts";
import { TracePool, tracePicture } from "../src/tracer/node/pool.ts";
import { SceneStore } from "../src/tracer/sceneStore.ts";
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
	const area = tracedArea(null, { width, height }, doc.finish, doc.print.overscan);
	const { picture } = await tracePicture(
		pool,
		compile(doc),
		{ width, height, seed },
		samples,
		undefined,
		null,
		[],
		area,
	);
	const traced = Date.now();
	const clean = await pool.denoise(picture);
	const text = { title: doc.title, samples: String(samples), seed: String(seed) };
	const path = join(tmpdir(), `inquadra-${name}.exr`);
	const writer = await PrintWriter.create(path, {
		frame: { width, height },
		area,
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
if (!wanted || wanted === "move") await smallFrames(saltWorksDocument());
process.exit(0);

/** The small frames of the demo's move, with which it plays as soon as it is opened. */
async function smallFrames(doc: ShotDocument): Promise<void> {
	if (!doc.move) return;
	const memory = new TracerMemory();
	const kernel = makeKernel(
		new WebAssembly.Module(readFileSync(join(process.cwd(), "build/kernel.wasm"))),
		memory.memory,
	);
	const store = new SceneStore(memory, kernel);
	const cache = new PartCache();
	const packed: Uint8Array[] = [];
	for (const frame of framesOf({ from: 0, to: doc.move.frames - 1 })) {
		const scene = compile(doc, momentOfFrame(frame, doc.move), NO_BLOBS, NO_MAKERS, cache);
		const size = { ...smallSize(scene), seed: seedOfFrame(SMALL.seed, frame, false) };
		const area = areaWithRoom(size, scene.root.room);
		const { picture } = await tracePicture(pool, scene, size, SMALL.samples, undefined, null, [], area);
		const rgb = (await pool.denoise(picture)) as unknown as SmallFrame["rgb"];
		store.load(scene, size);
		const { places, ...grid } = probePlaces(scene.root.camera.ratio);
		const probe = { frame, ...grid, ...meet({ kernel, memory, store }, scene, places) };
		const { width, height } = area;
		const { ev100 } = scene.root.camera;
		packed.push(
			packSmall({ frame, sign: smallSign(scene), width, height, part: sharesOf(area, size), rgb, ev100, probe }),
		);
		process.stdout.write(`move: frame ${frame}\n`);
	}
	writeFileSync(join(process.cwd(), "demo/assets/move.frames"), joined(packed));
}
