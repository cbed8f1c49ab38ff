/**
 * How near a print of 32 samples without its noise comes to the truth, beside 256 samples as they were traced: relative
 * mean squared error and FLIP against a print of 4,096 samples with another seed, on the demo shot and the check scenes.
 */

import { lanternDocument, panDocument } from "../demo/checks.ts";
import { saltWorksDocument } from "../demo/saltWorks.ts";
import type { ShotDocument } from "../src/core/doc/schema.ts";
import { finishPicture } from "../src/core/finish/finish.ts";
import { meanFlip } from "../src/core/finish/flip.ts";
import { exposureOf } from "../src/tracer/clean.ts";
import type { Planes } from "../src/tracer/denoise.ts";
import { TracePool, tracePicture } from "../src/tracer/node/pool.ts";
import { errorsOf } from "../train/errors.ts";
import { compiled } from "./compiled.ts";

type Say = (name: string, value: number, unit: string, reference?: number) => void;

const WIDTH = 480;
const [FEW, MANY] = [32, 256];
async function measureShot(
	pool: TracePool,
	name: string,
	doc: ShotDocument,
	truthSamples: number,
	say: Say,
): Promise<void> {
	const scene = compiled(doc);
	const height = Math.round(WIDTH / doc.camera.ratio);
	const trace = async (samples: number, seed: number) =>
		(await tracePicture(pool, scene, { width: WIDTH, height, seed }, samples)).picture;
	const truth = (await trace(truthSamples, 7)).rgb;
	const many = (await trace(MANY, 1)).rgb;
	const few = await trace(FEW, 1);
	const clean = (await pool.clean(few, exposureOf(doc.camera))).rgb;
	const shown = (rgb: Planes) => ({
		width: WIDTH,
		height,
		data: finishPicture(rgb, WIDTH, height, doc.camera, doc.finish),
	});
	const seen = shown(truth);
	for (const [what, of] of [
		["relative mean squared error", (p: Planes) => errorsOf(truth, p).all],
		["FLIP", (p: Planes) => meanFlip(seen, shown(p))],
	] as const) {
		say(`${name}, ${what} of ${FEW} samples without their noise, beside ${MANY} as traced`, of(clean), "", of(many));
		say(`${name}, ${what} of ${FEW} samples as traced`, of(few.rgb), "");
	}
}

/** `truthSamples` 4,096 takes some ten minutes a shot on two threads. */
export async function denoising(build: URL, say: Say, truthSamples = 4096): Promise<void> {
	const pool = new TracePool(build, 2);
	await measureShot(pool, "Salt works", saltWorksDocument(), truthSamples, say);
	await measureShot(pool, "lantern", lanternDocument(), truthSamples, say);
	await measureShot(pool, "pan", panDocument(), truthSamples, say);
	await pool.close();
}
