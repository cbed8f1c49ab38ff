/**
 * What the hand sees while it waits: the proof of the demo shot at the size of its frame on the screen, a second, three and ten after an edit, on
 * two threads, beside its truth (`train/truths.ts`): FLIP of what is shown, made as small as the truth. What is traced by then is told beside it.
 */
import { saltWorksDocument } from "../demo/saltWorks.ts";
import { finishPicture } from "../src/core/finish/finish.ts";
import { meanFlip } from "../src/core/finish/flip.ts";
import { exposureOf } from "../src/tracer/clean.ts";
import { type Planes, PROOF_REACH } from "../src/tracer/denoise.ts";
import { TracePool } from "../src/tracer/node/pool.ts";
import { Refiner, type Told } from "../src/ui/stage/refiner.ts";
import { exposed, sceneOf, truthOf } from "../train/truths.ts";

type Say = (name: string, value: number, unit: string, reference?: number) => void;

const FRAME = { width: 944, height: 510 };
const WARM_S = 5;
const LOOKS_S = [1, 3, 10] as const;

/** A picture of the proof, RGBA, as planes of another size, as the screen shows it: between its pixels, or the mean of those that one covers. */
function resized({ width, height, pixels }: Told, to: { width: number; height: number }): Planes {
	const at = (x: number, y: number, c: number) =>
		pixels?.[(Math.min(height - 1, Math.max(0, y)) * width + Math.min(width - 1, Math.max(0, x))) * 4 + c] ?? 0;
	const looks = Math.max(1, Math.round((2 * width) / to.width));
	const share = (k: number) => (k + 0.5) / looks;
	return [0, 1, 2].map((c) =>
		Float32Array.from({ length: to.width * to.height }, (_, i) => {
			let sum = 0;
			for (let k = 0; k < looks * looks; k++) {
				const x = (((i % to.width) + share(k % looks)) * width) / to.width - 0.5;
				const y = ((Math.floor(i / to.width) + share(Math.floor(k / looks))) * height) / to.height - 0.5;
				const [x0, y0] = [Math.floor(x), Math.floor(y)];
				const [u, v] = [x - x0, y - y0];
				sum +=
					(at(x0, y0, c) * (1 - u) + at(x0 + 1, y0, c) * u) * (1 - v) +
					(at(x0, y0 + 1, c) * (1 - u) + at(x0 + 1, y0 + 1, c) * u) * v;
			}
			return sum / (looks * looks);
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
				const { rgb } = await pool.clean(picture, exposureOf(doc.camera), undefined, PROOF_REACH);
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
	// A hand edits what has been proved before: programs are warm, and how fast the shot is traced is known.
	const before = refiner.start(FRAME, 64);
	await new Promise((r) => setTimeout(r, 1000 * WARM_S));
	refiner.stop();
	await before.catch(() => {});
	told = null;
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
