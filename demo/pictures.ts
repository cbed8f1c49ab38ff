/** Renders the check scenes for the documents, the print and the small frames that ship with the demo: `npm run pictures [-- lantern|pan|saltworks|drydock|slate|slateclay|move|slabs|surfaces]`. */

import { mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { type DecodedPng, decode, encode } from "fast-png";
import type { ShotDocument } from "../src/core/doc/schema.ts";
import { tracedArea } from "../src/core/lens/character.ts";
import type { Vec3 } from "../src/core/maths/vec.ts";
import { compileWhenMade } from "../src/core/scene/compile.ts";
import { ID_GROUND } from "../src/core/scene/ids.ts";
import { NO_BLOBS, NO_MAKERS } from "../src/core/scene/inputs.ts";
import { PartCache } from "../src/core/scene/partCache.ts";
import type { Scene } from "../src/core/scene/scene.ts";
import { probePlaces } from "../src/core/study/moveTable.ts";
import { joined, packSmall, smallSign } from "../src/core/study/smallFrame.ts";
import { looksOfSheet } from "../src/core/surface/likeness.ts";
import type { Sheet } from "../src/core/surface/sheet.ts";
import { SURFACE_KINDS, slugOf } from "../src/core/surface/surfaces.ts";
import { framesOf, momentOfFrame, STILL } from "../src/core/time/frames.ts";
import { sheetsAtOnce } from "../src/makers/sheets/atOnce.ts";
import { nodeSheets } from "../src/makers/sheets/node.ts";
import { exrForOthers, type PrintFile, printPng, withPrintAt } from "../src/store/printFiles.ts";
import { PrintWriter } from "../src/store/printWriter.ts";
import { exposureOf } from "../src/tracer/clean.ts";
import { meet } from "../src/tracer/meet.ts";
import { makeKernel, TracerMemory } from "../src/tracer/memory.ts";
import { TracePool, tracePicture } from "../src/tracer/node/pool.ts";
import { SceneStore } from "../src/tracer/sceneStore.ts";
import { SmallFrames } from "../src/ui/stage/smallFrames.ts";
import { lanternDocument, panDocument } from "./checks.ts";
import { dryDockDocument } from "./dryDock.ts";
import { saltWorksDocument } from "./saltWorks.ts";
import { slabDocument, slabWalls } from "./slabs.ts";
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
/** The walls of all surfaces. */
const WALLS = { widthPx: 1400, samples: Number(process.env.INQUADRA_SAMPLES) || 48 };
/** A slip's slab. */
const SLAB = { widthPx: 112, samples: 96 };
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
const MAKERS = { ...NO_MAKERS, ...nodeSheets() };
const compiled = (doc: ShotDocument) => compileWhenMade(doc, STILL, NO_BLOBS, MAKERS, new PartCache());

const pool = new TracePool(new URL(`file://${join(process.cwd(), "build")}/`), 2);
/** Traces a shot, cleans it, and hands on the print that it makes. */
async function printed(
	doc: ShotDocument,
	{ widthPx: width, samples }: typeof DEMO,
	use: (file: PrintFile) => Promise<void>,
	{ clay = false, tell = (_: string) => {} } = {},
): Promise<void> {
	const { seed } = doc.print;
	const height = Math.round(width / doc.camera.ratio);
	const started = Date.now();
	const area = tracedArea(null, { width, height }, doc.finish, doc.print.overscan);
	const scene = await compiled(doc);
	const size = { width, height, seed };
	const { picture } = await tracePicture(pool, clay ? inClay(scene) : scene, size, samples, undefined, null, [], area);
	const traced = Date.now();
	const clean = await pool.clean(picture, exposureOf(doc.camera));
	const text = { title: doc.title, samples: String(samples), seed: String(seed) };
	const path = join(tmpdir(), `inquadra-picture-${process.pid}.exr`);
	const frame = { width, height };
	const { camera, finish } = doc;
	const writer = await PrintWriter.create(path, { frame, area, text, lights: [], camera, finish, level: 9 });
	await writer.strip(0, picture, clean);
	await writer.end();
	await withPrintAt(path, use);
	rmSync(path);
	const [tracing, cleaning] = [(traced - started) / 1000, (Date.now() - traced) / 1000];
	tell(`${width} × ${height}, ${samples} samples in ${Math.round(tracing)} s, cleaned in ${cleaning.toFixed(1)} s`);
}

for (const [name, make] of Object.entries(scenes)) {
	if (wanted && wanted !== name) continue;
	const doc = make();
	const { camera, finish } = doc;
	const keep = async (file: PrintFile) => {
		if (name === "saltworks")
			await exrForOthers(join(process.cwd(), "demo/assets/print.exr"), file, camera, { half: true, places: false });
		else writeFileSync(join(folder, `${name}.png`), await printPng(file, true, camera, finish));
	};
	const tell = (words: string) => void process.stdout.write(`${name}: ${words}\n`);
	await printed(doc, SIZES[name] ?? doc.print, keep, { clay: name.endsWith("clay"), tell });
}
if (!wanted || wanted === "move") await smallFrames(saltWorksDocument());
if (!wanted || wanted === "slabs") await slabs();
if (!wanted || wanted === "surfaces") await walls();
process.exit(0);

/** A small picture of each surface, for its slip, and what all look like. */
async function slabs(): Promise<void> {
	const sheet = sheetsAtOnce(512);
	const rounded = (v: number) => Number(v.toFixed(4));
	const looks = SURFACE_KINDS.map((kind) => {
		const { colour, coarse, fine } = looksOfSheet(sheet(kind, { of: kind, seed: 1, texels: 512 }) as Sheet);
		return [kind, { colour: colour.map(rounded), coarse: rounded(coarse), fine: rounded(fine) }];
	});
	writeFileSync(
		join(process.cwd(), "src/core/surface/looks.json"),
		`${JSON.stringify(Object.fromEntries(looks), null, "\t")}\n`,
	);
	const into = join(process.cwd(), "public/slabs");
	mkdirSync(into, { recursive: true });
	const only = process.argv.slice(3);
	for (const kind of SURFACE_KINDS) {
		if (only.length > 0 && !only.includes(kind)) continue;
		const doc = slabDocument(kind);
		const path = join(into, `${slugOf(kind)}.png`);
		await printed(doc, SLAB, async (file) => {
			writeFileSync(path, await printPng(file, true, doc.camera, doc.finish));
		});
		process.stdout.write(`slab: ${kind}\n`);
	}
}

/** All surfaces as one picture: two walls, one under the other. */
async function walls(): Promise<void> {
	const parts: DecodedPng[] = [];
	for (const doc of slabWalls())
		await printed(
			doc,
			WALLS,
			async (file) => void parts.push(decode(await printPng(file, true, doc.camera, doc.finish))),
			{ tell: (words) => void process.stdout.write(`surfaces: ${words}\n`) },
		);
	const [{ width, channels, depth }] = parts;
	const height = parts.reduce((sum, part) => sum + part.height, 0);
	const all = Buffer.concat(parts.map(({ data }) => new Uint8Array(data.buffer, data.byteOffset, data.byteLength)));
	const data = depth === 16 ? new Uint16Array(new Uint8Array(all).buffer) : new Uint8Array(all);
	writeFileSync(join(folder, "surfaces.png"), encode({ width, height, channels, depth, data }));
}

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
			const scene = await compileWhenMade(doc, momentOfFrame(frame, move), NO_BLOBS, MAKERS, cache);
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
			clean: async (picture) => (await pool.clean(picture, exposureOf(doc.camera))).rgb,
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
