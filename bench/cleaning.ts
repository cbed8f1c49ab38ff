/**
 * How near few samples come to the truth, as traced and with their noise taken out, on the shots that are held out (`train/heldOut.ts`):
 * relative squared error, the same without the worst thousandth of the pixels, FLIP, and the mean. Shots whose truth has not been made
 * (`npm run train -- truths`) are left out, and named.
 */

import { finishPicture } from "../src/core/finish/finish.ts";
import { meanFlip } from "../src/core/finish/flip.ts";
import { emptyPicture, type Picture } from "../src/core/scene/picture.ts";
import { lookAt } from "../src/core/scene/spread.ts";
import { exposureOf } from "../src/tracer/clean.ts";
import type { Planes } from "../src/tracer/denoise.ts";
import { TracePool, tracePicture, traceStrips } from "../src/tracer/node/pool.ts";
import { lookedAt } from "../src/tracer/strips.ts";
import { detailOf, errorsOf } from "../train/errors.ts";
import { HELD_OUT } from "../train/heldOut.ts";
import { exposed, sceneOf, truthOf } from "../train/truths.ts";

type Say = (name: string, value: number, unit: string, reference?: number) => void;

const SAMPLES = [4, 8, 16, 32, 64] as const;
const SEED = 5;

/** Copies the planes that are looked at when noise is taken out. */
function copyRows(strip: Picture, to: Picture, y: number): void {
	const planes = lookedAt(to);
	lookedAt(strip).forEach((plane, k) => {
		planes[k].set(plane, y * to.width);
	});
}

export async function cleaning(build: URL, say: Say, samples: readonly number[] = SAMPLES): Promise<void> {
	const pool = new TracePool(build, 2);
	for (const [name, make] of Object.entries(HELD_OUT)) {
		const truth = truthOf("train/truths", name);
		if (!truth) {
			process.stderr.write(`${name}: its truth has not been made\n`);
			continue;
		}
		const doc = make();
		const { width, height, rgb } = truth;
		const scene = await sceneOf(doc);
		const { finish } = doc;
		const camera = { ...doc.camera, ev100: 0 };
		const shown = (of: Planes) => ({ width, height, data: finishPicture(of, width, height, camera, finish) });
		const seen = shown(rgb);
		say(`${name}, relative squared error of the truth itself`, truth.error, "");
		for (const count of samples) {
			const { picture } = await tracePicture(pool, scene, { width, height, seed: SEED }, count);
			const [clean, noisy] = [(await pool.clean(picture, exposureOf(doc.camera))).rgb, picture.rgb].map((planes) =>
				exposed(planes, doc),
			);
			const [cleaned, traced] = [errorsOf(rgb, clean), errorsOf(rgb, noisy)];
			const what = `${name}, ${count} samples cleaned, beside as traced`;
			say(`${what}: relative squared error`, cleaned.all, "", traced.all);
			say(`${what}: the same without the worst thousandth`, cleaned.most, "", traced.most);
			say(`${what}: FLIP`, meanFlip(seen, shown(clean)), "", meanFlip(seen, shown(noisy)));
			say(`${what}: mean over the truth's`, cleaned.mean, "", traced.mean);
			const [kept, noisyKept] = [clean, noisy].map((of) => detailOf(rgb, of, width));
			say(`${what}: contrast of true detail that is kept`, kept.kept, "", noisyKept.kept);
			say(`${what}: detail where there is none`, kept.made, "stops", noisyKept.made);
			if (lookAt(count) === null) continue;
			const given = emptyPicture(width, height);
			const size = { width, height, seed: SEED };
			let y = 0;
			for await (const strip of traceStrips(pool, scene, size, count, undefined, null, [], undefined, "noise").strips) {
				copyRows(strip, given, y);
				y += strip.height;
			}
			const spread = exposed((await pool.clean(given, exposureOf(doc.camera))).rgb, doc);
			const where = `${name}, ${count} samples where noise is, cleaned, beside everywhere alike`;
			const found = errorsOf(rgb, spread);
			say(`${where}: relative squared error without the worst thousandth`, found.most, "", cleaned.most);
			say(`${where}: FLIP`, meanFlip(seen, shown(spread)), "", meanFlip(seen, shown(clean)));
			say(`${where}: mean over the truth's`, found.mean, "", cleaned.mean);
		}
	}
	await pool.close();
}
