/**
 * `npm run bench`: figures as ratios against a reference run beside each, since machines are noisy. `-- --json` writes
 * one JSON object, figure name to { value, unit, reference?, ratio? }.
 */

import { readFileSync } from "node:fs";
import { Worker } from "node:worker_threads";
import { lanternDocument } from "../demo/checks.ts";
import { saltWorksDocument } from "../demo/saltWorks.ts";
import { coverCells, placeCell, surroundingsOf } from "../src/core/dress/placeCover.ts";
import { newCover } from "../src/core/dress/plant.ts";
import { tilesOf } from "../src/core/scene/picture.ts";
import { foretell, PILOT_SAMPLES, type Pilot, rateOf } from "../src/core/scene/pilot.ts";
import { exposureOf } from "../src/tracer/clean.ts";
import { makeKernel, TracerMemory } from "../src/tracer/memory.ts";
import { TracePool, tracePicture, tracePilot } from "../src/tracer/node/pool.ts";
import { renderTile, reserveDesk } from "../src/tracer/renderTile.ts";
import { SceneStore } from "../src/tracer/sceneStore.ts";
import { cleaning } from "./cleaning.ts";
import { compiled, MAKERS } from "./compiled.ts";
import { lamps } from "./lamps.ts";
import { land } from "./land.ts";
import { large } from "./large.ts";
import { masses } from "./masses.ts";
import { matching } from "./matching.ts";
import { move } from "./move.ts";
import { compileMoved } from "./moved.ts";
import { page } from "./page.ts";
import { paths } from "./paths.ts";
import { proof } from "./proof.ts";
import { rays } from "./rays.ts";
import { scale } from "./scale.ts";
import { surfaces } from "./surfaces.ts";
import { wear } from "./wear.ts";

interface Figure {
	value: number;
	unit: string;
	reference?: number;
	ratio?: number;
}

const figures: Record<string, Figure> = {};
const say = (name: string, value: number, unit: string, reference?: number) => {
	const round = (v: number) => Number(v.toPrecision(4));
	figures[name] = {
		value: round(value),
		unit,
		...(reference === undefined ? {} : { reference: round(reference), ratio: round(value / reference) }),
	};
	process.stderr.write(
		`${name}: ${round(value)} ${unit}${reference === undefined ? "" : ` (reference ${round(reference)}, ratio ${round(value / reference)})`}\n`,
	);
};
const time = (work: () => void): number => {
	const at = performance.now();
	work();
	return performance.now() - at;
};
const least = (rounds: number, work: () => void): number =>
	Math.min(...Array.from({ length: rounds }, () => time(work)));

const build = new URL("../build/", import.meta.url);
const module = () => new WebAssembly.Module(readFileSync(new URL("kernel.wasm", build)));

function compiling(): void {
	const { whole, moved } = compileMoved(MAKERS);
	say("compile after one piece has moved", moved, "ms, all of it beside it", whole);
	const cover = newCover("bench", "tussock", {
		densityPerM2: 12,
		rules: [
			{ kind: "near the lens", out: false, distanceM: 72, featherM: 0 },
			{ kind: "away from pieces", out: false, widthM: 0.3, featherM: 0.5 },
		],
	});
	const around = surroundingsOf(saltWorksDocument(), cover);
	let plants = 0;
	const placing = time(() => {
		for (const job of coverCells(around)) plants += placeCell(job, around).count;
	});
	say("placing 200,000 plants", (placing * 200_000) / plants, "ms");
}

async function tracing(): Promise<void> {
	const doc = saltWorksDocument();
	const scene = compiled(doc);
	const memory = new TracerMemory();
	const kernel = makeKernel(module(), memory.memory);
	const store = new SceneStore(memory, kernel);
	const desk = reserveDesk(memory);
	const size = { width: 480, height: 259, seed: 1 };
	store.load(scene, size);
	const small = { width: 144, height: 78, seed: 1 };
	const load = least(3, () => store.load(scene, small));
	const coarse = least(3, () => {
		for (const t of tilesOf(small.width, small.height, 48))
			renderTile(kernel, memory.memory.buffer, store.header, desk, t, 0, 1);
	});
	say("edit to first proof picture, less compile, one thread", load + coarse, "ms");
	store.load(scene, size);
	const raysBefore = kernel.rays();
	const ms = time(() => {
		for (const t of tilesOf(size.width, size.height))
			renderTile(kernel, memory.memory.buffer, store.header, desk, t, 0, 16);
	});
	say("whole paths at 480 × 259, one thread", (size.width * size.height * 16) / ms / 1000, "Msamples/s");
	say("rays of whole paths, one thread", (kernel.rays() - raysBefore) / ms / 1000, "Mray/s");
	const seconds = async (threads: number) => {
		const pool = new TracePool(build, threads);
		const at = performance.now();
		await tracePicture(pool, scene, size, 64);
		const s = (performance.now() - at) / 1000;
		await pool.close();
		return s;
	};
	const spin = (threads: number) =>
		Promise.all(
			Array.from(
				{ length: threads },
				() =>
					new Promise<number>((r) =>
						new Worker(
							"const t=performance.now();let x=0;for(let i=0;i<4e9;i++)x=(x+i)|0;require('worker_threads').parentPort.postMessage(performance.now()-t+x*0)",
							{
								eval: true,
							},
						).on("message", r),
					),
			),
		).then((t) => Math.max(...t));
	const oneSpin = await spin(1);
	const twoSpin = await spin(2);
	const one = await seconds(1);
	const two = await seconds(2);
	say("print at 480 × 259, 64 samples, 1 worker", one, "s");
	say("print at 480 × 259, 64 samples, 2 workers", two, "s");
	say("gain by a second worker", one / two, "×, of a pure spin loop beside it", (2 * oneSpin) / twoSpin);
}

/** A print's time as a pilot foretells it, beside what it takes: one shot, to all samples and to a noise. */
async function foretelling(): Promise<void> {
	const pool = new TracePool(build, 2);
	for (const [name, doc] of [
		["Salt works", saltWorksDocument()],
		["lantern", lanternDocument()],
	] as const) {
		const scene = compiled(doc);
		const width = 480;
		const height = Math.round(width / doc.camera.ratio);
		const pilot = (await tracePilot(pool, scene, { width, height, seed: 1 }, { x: 0, y: 0, width, height })) as Pilot;
		for (const noisePercent of [null, 12]) {
			const told = foretell({ samples: 128, noisePercent }, width * height, rateOf(pilot), {
				samples: PILOT_SAMPLES,
				noises: pilot.noises,
				fall: pilot.fall,
			}).likely;
			const at = performance.now();
			const { picture } = await tracePicture(pool, scene, { width, height, seed: 1 }, 128, undefined, noisePercent);
			await pool.clean(picture, exposureOf(scene.root.camera));
			say(
				`${name}, ${noisePercent === null ? "128 samples" : `to ${noisePercent} % noise`}: time that a pilot foretold, of the time it took`,
				told / ((performance.now() - at) / 1000),
				"×",
			);
		}
	}
	await pool.close();
}

if (process.argv.includes("--scale")) {
	scale();
	process.exit(0);
}
/** What comes after a word, if it has been said. */
function after(word: string): string | undefined {
	const at = process.argv.indexOf(word);
	return at < 0 ? undefined : process.argv[at + 1];
}
/** `--only NAME` runs one part, `--shots NAME,NAME` those held-out shots of it. */
const only = after("--only");
const parts: Record<string, () => void | Promise<void>> = {
	matching: () => matching(say),
	compiling,
	land: () => land(say),
	wear: () => wear(say),
	masses: () => masses(say),
	surfaces: () => surfaces(say),
	rays: () => rays(say),
	tracing,
	foretelling,
	lamps: () => lamps(say, module()),
	cleaning: () => cleaning(build, say, after("--shots")?.split(",")),
	proof: () => proof(build, say),
	paths: () => paths(build, say),
	large: () => large(build, say),
	move: () => move(build, say),
	page: () => page(say),
};
for (const [name, run] of Object.entries(parts)) if (!only || only === name) await run();
if (process.argv.includes("--json")) process.stdout.write(`${JSON.stringify(figures)}\n`);
process.exit(0);
