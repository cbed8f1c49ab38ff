/** Renders the check scenes for the documents, the print and the small frames that ship with the demo: `npm run pictures [-- lantern|pan|saltworks|drydock|slate|slateclay|move]`. */
import { mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { ShotDocument } from "../src/core/doc/schema.ts";
import { tracedArea } from "../src/core/lens/character.ts";
import type { Vec3 } from "../src/core/maths/vec.ts";
import { compile } from "../src/core/scene/compile.ts";
import { ID_GROUND } from "../src/core/scene/ids.ts";
import { NO_BLOBS, NO_MAKERS } from "../src/core/scene/inputs.ts";
import { PartCache } from "../src/core/scene/partCache.ts";
import type { Scene } from "../src/core/scene/scene.ts";
import { probePlaces } from "../src/core/study/moveTable.ts";
import { joined, packSmall, smallSign } from "../src/core/study/smallFrame.ts";
import { framesOf, momentOfFrame } from "../src/core/time/frames.ts";
import { exrForOthers, printPng, withPrintAt } from "../src/store/printFiles.ts";
import { PrintWriter } from "../src/store/printWriter.ts";
import { meet } from "../src/tracer/meet.ts";
import { makeKernel, TracerMemory } from "../src/tracer/memory.ts";
import { TracePool, tracePicture } from "../src/tracer/node/pool.ts";
import { SceneStore } from "../src/tracer/sceneStore.ts";
import { SmallFrames } from "../src/ui/stage/smallFrames.ts";
import { lanternDocument, panDocument } from "./checks.ts";
import { dryDockDocument } from "./dryDock.ts";
import { saltWorksDocument } from "./saltWorks.ts";
import { slateInclineDocument } from "./slateIncline.ts";

const folder = join(process.cwd(), "docs/pictures");
mkdirSync(folder, { recursive: true });
const scenes: Record<string, () => ShotDocument> = {
	lantern: lanternDocument,
	pan: panDocument,
	saltworks: saltWorksDocument,
	drydock: dryDockDocument,
	slate: slateInclineDocument,
	slateclay: slateInclineDocument,
};
/** Width and samples of the demo's print, kept as half floats so that the file stays small. */
const GREY: Vec3 = [0.22, 0.22, 0.22];
const DEMO = { widthPx: 640, samples: Number(process.env.INQUADRA_SAMPLES) || 256 };
/** The prints of others than the demo's, where they are not as large as their shots say. */
const SIZES: Record<string, typeof DEMO> = {
	saltworks: DEMO,
	slate: { widthPx: 960, samples: Number(process.env.INQUADRA_SAMPLES) || 64 },
	slateclay: { widthPx: 480, samples: Number(process.env.INQUADRA_SAMPLES) || 64 },
};
const wanted = process.argv[2];

/** All that is in a scene in one grey, its plants left out: masses and light alone. */
function inClay(scene: Scene): Scene {
	const parts = new Map(scene.parts);
	for (const part of scene.parts.values()) {
		if (part.kind !== "mesh" || !part.mesh.colours) continue;
		// Squares of these bytes are the grey.
		const colours = part.mesh.colours.map((_, i) => (i % 4 === 3 ? 0 : 120));
		parts.set(part.key, { ...part, mesh: { ...part.mesh, colours } });
	}
	const materials = scene.root.materials.map((m) => (m.glass ? m : { ...m, colour: GREY, roughness: 0.9, metal: 0 }));
	const ground = scene.root.draws.find((draw) => draw.id === ID_GROUND)?.material;
	if (ground !== undefined) materials[ground] = scene.root.materials[ground];
	return { parts, root: { ...scene.root, covers: [], materials } };
}
const pool = new TracePool(new URL(`file://${join(process.cwd(), "build")}/`), 2);
for (const [name, make] of Object.entries(scenes)) {
	if (wanted && wanted !== name) continue;
	const doc = make();
	const { widthPx: width, samples } = SIZES[name] ?? doc.print;
	const { seed } = doc.print;
	const height = Math.round(width / doc.camera.ratio);
	const started = Date.now();
	const area = tracedArea(null, { width, height }, doc.finish, doc.print.overscan);
	const { picture } = await tracePicture(
		pool,
		name.endsWith("clay") ? inClay(compile(doc)) : compile(doc),
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
	const { move } = doc;
	if (!move) return;
	const memory = new TracerMemory();
	const kernel = makeKernel(
		new WebAssembly.Module(readFileSync(join(process.cwd(), "build/kernel.wasm"))),
		memory.memory,
	);
	const store = new SceneStore(memory, kernel);
	const cache = new PartCache();
	const packed: Uint8Array[] = [];
	let size = { width: 0, height: 0, seed: 0 };
	const small = new SmallFrames({
		compiled: async (frame) => {
			const scene = compile(doc, momentOfFrame(frame, move), NO_BLOBS, NO_MAKERS, cache);
			return { scene, sign: smallSign(scene) };
		},
		load: (scene, of) => {
			size = of;
			pool.load(scene, size);
		},
		probe: (scene, frame) => {
			store.load(scene, size);
			const { places, ...grid } = probePlaces(scene.root.camera.ratio);
			return { frame, ...grid, ...meet({ kernel, memory, store }, scene, places) };
		},
		tracers: {
			threads: pool.threads,
			trace: async (_, { tile, begin, end }) => (await pool.trace(tile, begin, end)).sums,
			clean: (picture) => pool.denoise(picture),
		},
		tell: (frame) => {
			packed.push(packSmall(frame));
			process.stdout.write(`move: frame ${frame.frame}\n`);
		},
	});
	small.want(framesOf({ from: 0, to: move.frames - 1 }));
	await small.trace(() => true);
	writeFileSync(join(process.cwd(), "demo/assets/move.frames"), joined(packed));
}
