/**
 * What the hand sees while it waits: the proof of the demo shot at the size of its frame on the screen, a second, three and ten after an edit, on
 * two threads, beside its truth (`train/truths.ts`): FLIP of what is shown, made as small as the truth. What is traced by then is told beside it.
 */
import { saltWorksDocument } from "../demo/saltWorks.ts";
import { finishPicture } from "../src/core/finish/finish.ts";
import { meanFlip } from "../src/core/finish/flip.ts";
import { exposureOf } from "../src/tracer/clean.ts";
import type { Planes } from "../src/tracer/denoise.ts";
import { TracePool } from "../src/tracer/node/pool.ts";
import { Refiner, type Told } from "../src/ui/stage/refiner.ts";
import { exposed, sceneOf, truthOf } from "../train/truths.ts";

type Say = (name: string, value: number, unit: string, reference?: number) => void;

const FRAME = { width: 944, height: 510 };
const LOOKS_S = [1, 3, 10] as const;

/** A picture of the proof, RGBA, as planes of another size: the mean of what each pixel covers, or what lies next to it. */
function resized({ width, height, pixels }: Told, to: { width: number; height: number }): Planes {
	return [0, 1, 2].map((c) =>
		Float32Array.from({ length: to.width * to.height }, (_, i) => {
			const [x, y] = [i % to.width, Math.floor(i / to.width)];
			const [x0, y0] = [Math.floor((x * width) / to.width), Math.floor((y * height) / to.height)];
			const x1 = Math.max(x0 + 1, Math.floor(((x + 1) * width) / to.width));
			const y1 = Math.max(y0 + 1, Math.floor(((y + 1) * height) / to.height));
			let sum = 0;
			for (let v = y0; v < y1; v++) for (let u = x0; u < x1; u++) sum += pixels?.[(v * width + u) * 4 + c] ?? 0;
			return sum / ((x1 - x0) * (y1 - y0));
		}),
	) as Planes;
}

export async function proof(build: URL, say: Say): Promise<void> {
	const doc = saltWorksDocument();
	const truth = truthOf("train/truths", "saltworks");
	if (!truth) throw new Error("The truth of the salt works has not been made.");
	const scene = await sceneOf(doc);
	const pool = new TracePool(build, 2);
	let told: Told | null = null;
	const refiner = new Refiner(
		{
			threads: pool.threads,
			load: (size) => pool.load(scene, { width: size.width, height: size.height, seed: 1 }),
			trace: async (_, { tile, begin, end, before }) => (await pool.trace(tile, begin, end, before)).sums,
			clean: async (picture, wanted) => {
				const { rgb } = await pool.clean(picture, exposureOf(doc.camera));
				return wanted() ? rgb : null;
			},
			stop: () => pool.abort(),
			ready: () => {},
		},
		(now) => {
			if (now.pixels) told = now;
		},
	);
	const { width, height } = truth;
	const shown = (of: Planes) => ({
		width,
		height,
		data: finishPicture(of, width, height, { ...doc.camera, ev100: 0 }, doc.finish),
	});
	const seen = shown(truth.rgb);
	const started = performance.now();
	const refined = refiner.start(FRAME, 64);
	for (const after of LOOKS_S) {
		await new Promise((r) => setTimeout(r, Math.max(0, 1000 * after - (performance.now() - started))));
		const now = told as Told | null;
		if (!now) continue;
		const what = `the demo's proof after ${after} s (${now.width} pixels across, ${now.samples} samples${now.clean ? ", cleaned" : ""})`;
		say(`${what}: FLIP (goal 0.06 after 3 s)`, meanFlip(seen, shown(exposed(resized(now, truth), doc))), "");
	}
	refiner.stop();
	await refined.catch(() => {});
	await pool.close();
}
