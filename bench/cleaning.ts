/**
 * How near few samples come to the truth, as traced, with their noise averaged out, and as the learned filter leaves them, on the shots that are
 * held out (`train/heldOut.ts`): relative squared error, the same without the worst thousandth of the pixels, FLIP, the mean, fine detail; how
 * many samples as traced it takes to come as near, and how many times as long. Shots whose truth has not been made (`npm run train -- truths`) are
 * left out, and named.
 */

import type { ShotDocument } from "../src/core/doc/schema.ts";
import { finishPicture } from "../src/core/finish/finish.ts";
import { meanFlip } from "../src/core/finish/flip.ts";
import { emptyPicture, type Picture } from "../src/core/scene/picture.ts";
import type { Scene } from "../src/core/scene/scene.ts";
import { lookAt } from "../src/core/scene/spread.ts";
import { exposureOf } from "../src/tracer/clean.ts";
import type { Planes } from "../src/tracer/denoise.ts";
import { TracePool, tracePicture, traceStrips } from "../src/tracer/node/pool.ts";
import { lookedAt } from "../src/tracer/strips.ts";
import { detailOf, errorsOf, type Off, samplesFor } from "../train/errors.ts";
import { HELD_OUT } from "../train/heldOut.ts";
import { exposed, sceneOf, type Truth, truthOf } from "../train/truths.ts";

type Say = (name: string, value: number, unit: string, reference?: number) => void;

const SAMPLES = [4, 8, 16, 32, 64] as const;
/** As traced alone, so that more samples are known to compare with. */
const MANY = [256] as const;
const SEED = 5;

/** Copies the planes that are looked at when noise is taken out. */
function copyRows(strip: Picture, to: Picture, y: number): void {
	const planes = lookedAt(to);
	lookedAt(strip).forEach((plane, k) => {
		planes[k].set(plane, y * to.width);
	});
}

/** A shot, and what pictures of it are held against. */
class Judged {
	readonly doc: ShotDocument;
	readonly truth: Truth;
	private readonly seen: ReturnType<Judged["shown"]>;

	constructor(doc: ShotDocument, truth: Truth) {
		this.doc = doc;
		this.truth = truth;
		this.seen = this.shown(truth.rgb);
	}

	private shown(of: Planes) {
		const { width, height } = this.truth;
		return { width, height, data: finishPicture(of, width, height, { ...this.doc.camera, ev100: 0 }, this.doc.finish) };
	}

	errors(rgb: Planes) {
		const of = exposed(rgb, this.doc);
		const { rgb: truth, width } = this.truth;
		return { ...errorsOf(truth, of), flip: meanFlip(this.seen, this.shown(of)), ...detailOf(truth, of, width) };
	}
}

/** Samples given out by the noise that the first of them show, cleaned. */
async function whereNoiseIs(pool: TracePool, scene: Scene, { doc, truth }: Judged, count: number): Promise<Planes> {
	const { width, height } = truth;
	const given = emptyPicture(width, height);
	const { strips } = traceStrips(
		pool,
		scene,
		{ width, height, seed: SEED },
		count,
		undefined,
		null,
		[],
		undefined,
		"noise",
	);
	let y = 0;
	for await (const strip of strips) {
		copyRows(strip, given, y);
		y += strip.height;
	}
	return (await pool.clean(given, exposureOf(doc.camera))).rgb;
}

async function measureShot(pool: TracePool, name: string, judged: Judged, say: Say) {
	const { doc, truth } = judged;
	const { width, height } = truth;
	const scene = await sceneOf(doc);
	say(`${name}, relative squared error of the truth itself`, truth.error, "");
	const timed = async <T>(does: Promise<T>): Promise<[T, number]> => {
		const started = performance.now();
		return [await does, performance.now() - started];
	};
	const trace = async (count: number) => {
		const [{ picture }, ms] = await timed(tracePicture(pool, scene, { width, height, seed: SEED }, count));
		return { picture, ms, off: judged.errors(picture.rgb) };
	};
	// The first time programs are cold.
	await trace(1);
	const all = new Map<number, Awaited<ReturnType<typeof trace>>>();
	for (const count of [...SAMPLES, ...MANY]) all.set(count, await trace(count));
	const curve = (of: "flip" | "most"): Off[] => [...all].map(([n, { off }]) => ({ samples: n, off: off[of] }));
	for (const count of SAMPLES) {
		const traced = all.get(count);
		if (!traced) continue;
		const { picture, ms, off: noisy } = traced;
		const averaged = judged.errors(await pool.averaged(picture));
		const [{ rgb }, cleanMs] = await timed(pool.clean(picture, exposureOf(doc.camera)));
		const clean = judged.errors(rgb);
		for (const [how, found] of [
			["cleaned", clean],
			["averaged", averaged],
		] as const) {
			const what = `${name}, ${count} samples ${how}, beside as traced`;
			say(`${what}: relative squared error`, found.all, "", noisy.all);
			say(`${what}: the same without the worst thousandth`, found.most, "", noisy.most);
			say(`${what}: FLIP`, found.flip, "", noisy.flip);
			say(`${what}: mean over the truth's`, found.mean, "", noisy.mean);
			say(`${what}: contrast of true detail that is kept`, found.kept, "", noisy.kept);
			say(`${what}: detail where there is none`, found.made, "stops", noisy.made);
		}
		const equal = samplesFor(curve("most"), clean.most);
		if (equal)
			say(`${name}, samples as traced of the error that ${count} have cleaned, over these`, equal / count, "×");
		const alike = samplesFor(curve("flip"), clean.flip);
		if (alike)
			say(
				`${name}, time to FLIP as traced, over that of ${count} samples cleaned`,
				((alike / count) * ms) / (ms + cleanMs),
				"×",
			);
		if (lookAt(count) === null) continue;
		const spread = judged.errors(await whereNoiseIs(pool, scene, judged, count));
		const where = `${name}, ${count} samples where noise is, cleaned, beside everywhere alike`;
		say(`${where}: relative squared error without the worst thousandth`, spread.most, "", clean.most);
		say(`${where}: FLIP`, spread.flip, "", clean.flip);
		say(`${where}: mean over the truth's`, spread.mean, "", clean.mean);
	}
}

/** Of all shots, or of some. */
export async function cleaning(build: URL, say: Say, shots: readonly string[] = Object.keys(HELD_OUT)): Promise<void> {
	const pool = new TracePool(build, 2);
	for (const name of shots) {
		const { [name]: make } = HELD_OUT;
		if (!make) throw new Error(`${name} is none of ${Object.keys(HELD_OUT).join(", ")}.`);
		const truth = truthOf("train/truths", name);
		if (truth) await measureShot(pool, name, new Judged(make(), truth), say);
		else process.stderr.write(`${name}: its truth has not been made\n`);
	}
	await pool.close();
}
