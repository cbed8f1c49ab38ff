/**
 * The truths of the shots that are held out: two pictures of 1,024 samples with seeds of their own, in one EXR of half floats, so that what
 * they have left of noise can be told. Light is as it is exposed ({@link exposed}): of cd/m² the sun and its glints would be beyond what half
 * floats hold. `npm run train -- truths [NAME …]` makes those that are missing, each in ten minutes to an hour on two threads, and goes on where
 * it was stopped: each picture is the mean of parts with seeds of their own, kept beside until all are there. They are made once: a truth that
 * is made again is a truth by other code.
 */
import { existsSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from "node:fs";
import type { ShotDocument } from "../src/core/doc/schema.ts";
import { readExr } from "../src/core/formats/exr.ts";
import { MOST_HALF, writeExr } from "../src/core/formats/exrWrite.ts";
import { compileWhenMade } from "../src/core/scene/compile.ts";
import { type Makers, NO_BLOBS, NO_MAKERS } from "../src/core/scene/inputs.ts";
import { PartCache } from "../src/core/scene/partCache.ts";
import type { Scene } from "../src/core/scene/scene.ts";
import { STILL } from "../src/core/time/frames.ts";
import { nodeSheets } from "../src/makers/sheets/node.ts";
import type { Planes } from "../src/tracer/denoise.ts";
import { type TracePool, tracePicture } from "../src/tracer/node/pool.ts";
import { errorsOf } from "./errors.ts";
import { HELD_OUT, TRUTH_WIDTH } from "./heldOut.ts";

export const TRUTH_SAMPLES = 1024;
/** Far from those that pictures are judged with. */
const SEEDS = [90_001, 90_002] as const;
const CHANNELS = ["R", "G", "B"] as const;
const PARTS = 8;
const MAKERS: Makers = { ...NO_MAKERS, ...nodeSheets() };

export interface Truth {
	width: number;
	height: number;
	/** The mean of both, exposed. */
	rgb: Planes;
	/** Relative squared error that it has itself. */
	error: number;
}

/** Light of a picture as it is judged: exposed, and no brighter than a half float holds, so that a sun's disc is the same in all of them. */
export const exposed = (rgb: Planes, doc: ShotDocument): Planes => {
	const k = 2 ** -doc.camera.ev100;
	return rgb.map((plane) => plane.map((v) => Math.min(MOST_HALF, v * k))) as Planes;
};

const fileOf = (folder: string, name: string): string => `${folder}/${name}.exr`;

export const truthSize = (doc: ShotDocument): { width: number; height: number } => ({
	width: TRUTH_WIDTH,
	height: Math.round(TRUTH_WIDTH / doc.camera.ratio),
});

export const sceneOf = (doc: ShotDocument): Promise<Scene> =>
	compileWhenMade(doc, STILL, NO_BLOBS, MAKERS, new PartCache());

/** The truth of a shot; null where it has not been made. */
export function truthOf(folder: string, name: string): Truth | null {
	const file = fileOf(folder, name);
	if (!existsSync(file)) return null;
	const { width, height, channels } = readExr(readFileSync(file));
	const planes = (of: string): Planes =>
		CHANNELS.map((c) => {
			const found = channels.find((channel) => channel.name === `${of}.${c}`);
			if (!found) throw new Error(`${file} has no channel ${of}.${c}.`);
			return Float32Array.from(found.data);
		}) as Planes;
	const [a, b] = [planes("first"), planes("second")];
	const rgb = a.map((plane, c) => plane.map((v, i) => (v + b[c][i]) / 2)) as Planes;
	// Two of equal noise are each as far from their mean as that is from the truth.
	return { width, height, rgb, error: errorsOf(rgb, a).all };
}

/** The light of a part of a truth's picture, from its file where that is there. */
export async function partOf(file: string, make: () => Promise<Planes>): Promise<Planes> {
	if (!existsSync(file)) {
		const planes = await make();
		// What is half written is not there.
		writeFileSync(`${file}.new`, Buffer.concat(planes.map((p) => Buffer.from(p.buffer, p.byteOffset, p.byteLength))));
		renameSync(`${file}.new`, file);
	}
	const all = new Float32Array(Uint8Array.from(readFileSync(file)).buffer);
	const size = all.length / CHANNELS.length;
	return CHANNELS.map((_, c) => all.subarray(c * size, (c + 1) * size)) as Planes;
}

/** Makes the truths that are missing, of the named shots or of all. */
export async function makeTruths(pool: TracePool, folder: string, names: readonly string[], samples = TRUTH_SAMPLES) {
	mkdirSync(folder, { recursive: true });
	for (const name of names.length ? names : Object.keys(HELD_OUT)) {
		if (existsSync(fileOf(folder, name))) continue;
		const doc = HELD_OUT[name]();
		const scene = await sceneOf(doc);
		const size = truthSize(doc);
		const channels = [];
		const parts: string[] = [];
		for (const [k, seed] of SEEDS.entries()) {
			const rgb = CHANNELS.map(() => new Float32Array(size.width * size.height)) as Planes;
			for (let part = 0; part < PARTS; part++) {
				const file = `${folder}/${name}.${seed}.${part}.part`;
				const planes = await partOf(file, async () => {
					const { picture } = await tracePicture(pool, scene, { ...size, seed: seed + 100 * part }, samples / PARTS);
					return picture.rgb;
				});
				for (const [c, plane] of rgb.entries()) for (let i = 0; i < plane.length; i++) plane[i] += planes[c][i] / PARTS;
				parts.push(file);
			}
			for (const [c, data] of exposed(rgb, doc).entries())
				channels.push({ name: `${k === 0 ? "first" : "second"}.${CHANNELS[c]}`, data, half: true });
		}
		writeFileSync(fileOf(folder, name), writeExr({ ...size, channels, text: { samples: `2 × ${samples}` } }));
		for (const file of parts) rmSync(file);
		process.stderr.write(`${name}: relative squared error of its own ${truthOf(folder, name)?.error.toPrecision(3)}\n`);
	}
}
