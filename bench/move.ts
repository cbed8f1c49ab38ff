/**
 * A move: what blur costs a sample, what frames cost in a sequence beside the same frames alone, what a second press worker
 * gains, how far the press's memory grows over many frames, how fast a video is made again, and whether its frames flicker.
 */

import { type ChildProcess, spawn } from "node:child_process";
import { readFileSync, rmSync } from "node:fs";
import { Worker } from "node:worker_threads";
import { saltWorksDocument } from "../demo/saltWorks.ts";
import type { ShotDocument } from "../src/core/doc/schema.ts";
import { PartCache } from "../src/core/scene/partCache.ts";
import { framesOf, momentOfFrame } from "../src/core/time/frames.ts";
import { getBlob } from "../src/store/blobs.ts";
import { migrate, openPool } from "../src/store/database.ts";
import { listFrames } from "../src/store/frames.ts";
import { finishedPixels, openPrintBytes } from "../src/store/printFiles.ts";
import { orderPrint, readPrint } from "../src/store/prints.ts";
import { createShot } from "../src/store/shots.ts";
import { VideoWriter } from "../src/store/videoWriter.ts";
import { exposureOf } from "../src/tracer/clean.ts";
import { TracePool, traceStrips } from "../src/tracer/node/pool.ts";
import { cleanStrips } from "../src/tracer/strips.ts";
import { compiled } from "./compiled.ts";
import { flicker } from "./flicker.ts";
import { median } from "./median.ts";

type Say = (name: string, value: number, unit: string, reference?: number) => void;
type Moving = ShotDocument & { move: NonNullable<ShotDocument["move"]> };

const SIZE = { width: 480, height: 259 };

/** Milliseconds of a sample of a tile of a frame, blurred or not, by turns. */
async function blur(pool: TracePool, doc: Moving, say: Say): Promise<void> {
	const cache = new PartCache();
	const middle = { x: 128, y: 64, width: 128, height: 128 };
	const times: { open: number[]; shut: number[] } = { open: [], shut: [] };
	for (let round = 0; round < 7; round++)
		for (const kind of ["open", "shut"] as const) {
			const moment = { ...momentOfFrame(48, doc.move), ...(kind === "shut" && { shutterS: 0 }) };
			pool.load(compiled(doc, moment, cache), { ...SIZE, seed: 1 });
			const { ms } = await pool.trace(middle, 0, 16);
			times[kind].push(ms);
		}
	say("a sample with an open shutter, of one without (goal 1.3)", median(times.open), "ms", median(times.shut));
}

/** Seconds of frames one after the other, and of each of them alone with what it was compiled from at hand. */
async function sequence(pool: TracePool, doc: Moving, say: Say): Promise<void> {
	const cache = new PartCache();
	const frames = framesOf({ from: 30, to: 33 });
	const traced = async (scene: ReturnType<typeof compiled>) => {
		const strips = traceStrips(pool, scene, { ...SIZE, seed: 1 }, 8).strips;
		for await (const _ of cleanStrips(strips, (view, rows) => pool.clean(view, exposureOf(scene.root.camera), rows)));
	};
	const sceneOf = (frame: number) => compiled(doc, momentOfFrame(frame, doc.move), cache);
	await traced(sceneOf(29));
	const [inTurn, alone]: [number[], number[]] = [[], []];
	for (let round = 0; round < 3; round++) {
		let at = performance.now();
		for (const frame of frames) await traced(sceneOf(frame));
		inTurn.push((performance.now() - at) / frames.length);
		const scenes = frames.map(sceneOf);
		let sum = 0;
		for (const scene of scenes) {
			// It lies in the tracer's memory as it would when it is traced again and again.
			pool.load(scene, { ...SIZE, seed: 1 });
			at = performance.now();
			await traced(scene);
			sum += performance.now() - at;
		}
		alone.push(sum / frames.length);
	}
	say("a frame in a sequence, of the same alone (goal 1.02)", median(inTurn), "ms", median(alone));
}

/** How much faster two spin loops are done by two threads than by one. */
async function spinGain(): Promise<number> {
	const spin = () =>
		new Promise<number>((resolve) => {
			const code =
				"const t=performance.now();let x=0;for(let i=0;i<6e8;i++)x+=i&3;require('worker_threads').parentPort.postMessage(performance.now()-t+x*0)";
			new Worker(code, { eval: true }).once("message", resolve);
		});
	const one = await spin();
	const at = performance.now();
	await Promise.all([spin(), spin()]);
	return (2 * one) / (performance.now() - at);
}

async function press(build: URL, doc: Moving, say: Say): Promise<void> {
	const pool = openPool(process.env.DATABASE_URL ?? "", 4);
	await migrate(pool, new URL("../src/store/migrations", build).pathname);
	const shot = await createShot(pool, doc);
	const workers: ChildProcess[] = [];
	const start = () => {
		const p = spawn(process.execPath, [new URL("press.mjs", build).pathname], {
			env: { ...process.env, INQUADRA_THREADS: "1" },
			stdio: ["ignore", "ignore", "inherit"],
		});
		workers.push(p);
		return p;
	};
	const memoryMib = (p: ChildProcess) =>
		Number(/VmRSS:\s*(\d+)/.exec(readFileSync(`/proc/${p.pid}/status`, "utf8"))?.[1] ?? 0) / 1024;
	const printed = async (frames: number, width: number, each?: () => void) => {
		const id = await orderPrint(pool, shot.id, shot.revision, doc, {
			width,
			height: Math.round(width / doc.camera.ratio),
			samples: 8,
			seed: 1,
			noisePercent: null,
			frames: framesOf({ from: 0, to: frames - 1 }),
		});
		const at = performance.now();
		for (let done = -1; ; await new Promise((r) => setTimeout(r, 50))) {
			const line = await readPrint(pool, id);
			if (line?.state === "failed") throw new Error(line.message ?? "failed");
			if (line?.sequence && line.sequence.done !== done) {
				done = line.sequence.done;
				each?.();
			}
			if (line?.state === "done") return { id, seconds: (performance.now() - at) / 1000 };
		}
	};
	const first = start();
	await printed(2, 96);
	const one = (await printed(24, 256)).seconds;
	start();
	await printed(4, 96);
	const two = (await printed(24, 256)).seconds;
	say(
		"24 frames with one press worker, of the same with two (goal 1.85, or 0.97 of two spin loops)",
		one / two,
		"×",
		await spinGain(),
	);
	const held: number[] = [];
	const { id } = await printed(96, 96, () => held.push(memoryMib(first)));
	say("memory of a press worker after 96 frames, of that after 12", held[held.length - 1], "MiB", held[12]);
	for (const p of workers) p.kill();
	const at = performance.now();
	const path = new URL("bench-move.mp4", build).pathname;
	const height = Math.round(96 / doc.camera.ratio);
	const video = VideoWriter.start(path, { width: 96, height, rate: "24", kind: "mp4" });
	for (const { exr } of await listFrames(pool, id)) {
		const file = (await getBlob(pool, exr as string)) as Buffer;
		await video.frame(await finishedPixels(await openPrintBytes(file), true, doc.camera, doc.finish));
	}
	await video.end();
	rmSync(path);
	say("video of 96 frames of 96 px finished again from their EXR", (performance.now() - at) / 1000, "s");
	await pool.end();
}

export async function move(build: URL, say: Say): Promise<void> {
	const doc = saltWorksDocument() as Moving;
	const pool = new TracePool(build, 2);
	await blur(pool, doc, say);
	await sequence(pool, doc, say);
	await flicker(pool, doc, say);
	await pool.close();
	await press(build, doc, say);
}
