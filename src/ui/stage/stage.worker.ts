/**
 * The stage: compiles the shot, keeps its scene in shared memory, and refines the proof with the tracing threads. A newer
 * document stops whatever is under way.
 */
import { readSkyTable } from "../../core/air/skyPicture.ts";
import { withDifference } from "../../core/doc/difference.ts";
import type { FramePart, ShotDocument } from "../../core/doc/schema.ts";
import { stableJson } from "../../core/maths/hash.ts";
import { compileSteps } from "../../core/scene/compile.ts";
import { type Blobs, heldMaker, loadBlobs, type Makers, NO_BLOBS, STILL } from "../../core/scene/inputs.ts";
import { PartCache } from "../../core/scene/partCache.ts";
import {
	emptyPicture,
	type Picture,
	placeTile,
	type Tile,
	type TileSums,
	tileNoise,
	tilesOf,
} from "../../core/scene/picture.ts";
import type { Scene } from "../../core/scene/scene.ts";
import { denoiseOn, type Planes, PROOF_REACH } from "../../tracer/denoise.ts";
import { meet } from "../../tracer/meet.ts";
import { type Kernel, MemoryFull, makeKernel, TracerMemory } from "../../tracer/memory.ts";
import { type Desk, reserveDesk } from "../../tracer/renderTile.ts";
import { SceneStore } from "../../tracer/sceneStore.ts";
import type { ErrorBody } from "../../wire/contracts.ts";
import type { FromStage, ProofState, ToStage } from "./messages.ts";
import type { BandOrder, TileOrder } from "./tile.worker.ts";

const SLICE_MS = 12;
const COARSE_WIDTH = 144;
const COARSE_SAMPLES = 1;
const AIM = 0.04;
const MOST_SAMPLES = 1024;
const POST_MS = 250;
const PROOF_SEED = 1;
/** Pause before a file is asked for again. */
const AGAIN_MS = 1500;
/** Sky pictures whose tables are held. */
const SKIES = 2;

interface Hand {
	port: MessagePort;
	desk: Desk;
}

const memory = new TracerMemory();
const cache = new PartCache();
const sent = new Set<string>();
let kernel: Kernel;
let store: SceneStore;
let hands: Hand[] = [];
/** The document as it was last told. */
let standing: ShotDocument | null = null;
let wanted: { number: number; document: ShotDocument; at: number; resting: boolean } | null = null;
let proof = { on: false, width: 0, height: 0 };
/** Whether the proof is shown without its noise. */
let clean = true;
let scene: Scene | null = null;
/** Signature of the scene whose proof is under way or done. */
let traced: string | null = null;
let turn = 0;
let working = false;
/** The proof under way is to be shown the other way, cleaned or as traced, before it goes on. */
let otherwise = false;
let idle: Promise<void> = Promise.resolve();
/** Shows a finished proof again, with or without its noise. */
let redo: (() => Promise<boolean>) | null = null;

const post = (message: FromStage, transfer: Transferable[] = []) =>
	(self as unknown as Worker).postMessage(message, transfer);

const breathe = (() => {
	const channel = new MessageChannel();
	let resolve = () => {};
	channel.port1.onmessage = () => resolve();
	return () =>
		new Promise<void>((r) => {
			resolve = r;
			channel.port2.postMessage(0);
		});
})();

function stopTracing(): void {
	turn++;
	redo = null;
	otherwise = false;
	for (const h of hands) Atomics.store(new Int32Array(memory.memory.buffer), h.desk.abort >> 2, 1);
}

/** Bytes from the server; while it is away it is asked again, until something newer is wanted. */
async function fetched(address: string, what: string): Promise<Uint8Array> {
	for (;;) {
		const response = await fetch(address).catch(() => null);
		if (response?.ok) return new Uint8Array(await response.arrayBuffer());
		if (response && response.status !== 503) throw new Error(((await response.json()) as ErrorBody).error.message);
		post({ type: "trouble", message: `The ${what} waits for the server, which is away.` });
		await new Promise((r) => setTimeout(r, AGAIN_MS));
		if (wanted) throw new Superseded();
	}
}

/** Something newer is wanted than what was waited for. */
class Superseded extends Error {}

let blobs: Blobs = NO_BLOBS;

const makers: Makers = {
	sky: heldMaker(async (file) => readSkyTable(await fetched(`/api/skies/${file}`, "sky picture")), SKIES),
};

/** The scene of a document; null when something newer is wanted before it is made. */
async function compiled(document: ShotDocument): Promise<Scene | null> {
	blobs = await loadBlobs(document, ({ blob, what }) => fetched(`/api/blobs/${blob}`, what), blobs);
	const steps = compileSteps(document, STILL, blobs, makers, cache);
	let until = performance.now() + SLICE_MS;
	let outcome: unknown;
	for (;;) {
		const step = steps.next(outcome);
		if (step.done) return step.value;
		outcome = await step.value;
		if (!step.value && performance.now() < until) continue;
		if (!step.value) await breathe();
		if (wanted) return null;
		until = performance.now() + SLICE_MS;
	}
}

async function work(): Promise<void> {
	if (working) return;
	working = true;
	try {
		while (wanted) {
			const job = wanted;
			wanted = null;
			const started = performance.now();
			const made = await compiled(job.document).catch((error) => {
				if (error instanceof Superseded) return null;
				throw error;
			});
			if (!made) continue;
			scene = made;
			for (const key of sent) if (!made.parts.has(key)) sent.delete(key);
			const fresh = [...made.parts.values()].filter((p) => !sent.has(p.key));
			for (const p of fresh) sent.add(p.key);
			const sign = signature(made);
			const sameLight = sign === traced;
			if (!sameLight) stopTracing();
			post({
				type: "scene",
				number: job.number,
				sameLight,
				root: made.root,
				fresh,
				keys: [...made.parts.keys()],
				compileMs: performance.now() - started,
			});
			await breathe();
			if (sameLight) continue;
			traced = null;
			if (!wanted && job.resting) await startProof(sign, job.at);
		}
	} catch (error) {
		post({
			type: "trouble",
			message:
				error instanceof MemoryFull ? error.message : `The shot could not be compiled: ${(error as Error).message}`,
		});
	} finally {
		working = false;
	}
}

/** What a traced picture depends on: all of the scene but its finish, its exposure and the lock. */
function signature(s: Scene): string {
	const { finish: _, camera, ...rest } = s.root;
	return stableJson({ ...rest, camera: { ...camera, ev100: 0, locked: true } });
}

async function startProof(sign: string, at: number): Promise<void> {
	stopTracing();
	const mine = turn;
	await idle;
	if (mine !== turn || !scene) return;
	for (const h of hands) Atomics.store(new Int32Array(memory.memory.buffer), h.desk.abort >> 2, 0);
	if (!proof.on || proof.width < 16) {
		loadFor({ width: 64, height: 64 });
		return;
	}
	traced = sign;
	idle = refine(at, mine).catch((error) => post({ type: "trouble", message: `The proof stopped: ${error.message}` }));
}

function loadFor(size: { width: number; height: number }): void {
	if (scene) store.load(scene, { ...size, seed: PROOF_SEED });
}

function ask(hand: Hand, order: TileOrder): Promise<TileSums | null>;
function ask(hand: Hand, order: BandOrder): Promise<Planes | null>;
function ask(hand: Hand, order: TileOrder | BandOrder): Promise<TileSums | Planes | null> {
	return new Promise((resolve) => {
		hand.port.onmessage = (e: MessageEvent) => resolve(e.data);
		hand.port.postMessage(order, "band" in order ? [order.band.planes.buffer] : []);
	});
}

/** The proof without its noise, made on all threads; null when something newer is wanted. */
async function cleaned(p: Picture, mine: number): Promise<Planes | null> {
	const out = await denoiseOn(
		hands.length,
		memory,
		p,
		PROOF_REACH,
		(thread, band, room) => ask(hands[thread], { band, room }),
		() => mine === turn,
	);
	return mine === turn ? out : null;
}

/** Part of the frame that is looked at enlarged, as shares of it; its tiles come first and go ahead of the others. */
let looked: FramePart | null = null;
const AHEAD = 4;

function isLookedAt(tile: Tile, { width, height }: { width: number; height: number }): boolean {
	if (!looked) return true;
	const [x0, y0] = [looked.x * width, looked.y * height];
	return (
		tile.x < x0 + looked.width * width &&
		tile.x + tile.width > x0 &&
		tile.y < y0 + looked.height * height &&
		tile.y + tile.height > y0
	);
}

/** Traces tiles to a number of samples, in order, on all threads; what is looked at enlarged before the rest, and farther. */
async function pass(
	tiles: Tile[],
	size: { width: number; height: number },
	sums: (TileSums | undefined)[],
	to: number,
	mine: number,
	onTile: (i: number, fresh: number) => void,
): Promise<boolean> {
	const busy = new Set<number>();
	const has = (i: number) => sums[i]?.samples ?? 0;
	const take = (): { i: number; end: number } | null => {
		if (looked) {
			const end = Math.min(MOST_SAMPLES, to * AHEAD);
			const i = tiles.findIndex((t, k) => !busy.has(k) && has(k) < end && isLookedAt(t, size));
			if (i >= 0) return { i, end: Math.min(end, Math.max(to, 2 * has(i))) };
		}
		const i = tiles.findIndex((_, k) => !busy.has(k) && has(k) < to);
		return i < 0 ? null : { i, end: to };
	};
	await Promise.all(
		hands.map(async (hand) => {
			while (mine === turn && !otherwise) {
				const next = take();
				if (!next) return;
				const { i, end } = next;
				busy.add(i);
				const before = sums[i];
				const reply = await ask(hand, {
					tile: tiles[i],
					header: store.header,
					begin: before?.samples ?? 0,
					end,
					before,
				});
				busy.delete(i);
				if (!reply || mine !== turn) return;
				sums[i] = reply;
				onTile(i, reply.samples - (before?.samples ?? 0));
			}
		}),
	);
	return mine === turn;
}

function rgba(rgb: Planes): Float32Array {
	const n = rgb[0].length;
	const out = new Float32Array(n * 4);
	for (let i = 0; i < n; i++) {
		out[i * 4] = rgb[0][i];
		out[i * 4 + 1] = rgb[1][i];
		out[i * 4 + 2] = rgb[2][i];
		out[i * 4 + 3] = 1;
	}
	return out;
}

async function refine(at: number, mine: number): Promise<void> {
	const { width, height } = proof;
	const small = { width: COARSE_WIDTH, height: Math.max(1, Math.round((COARSE_WIDTH * height) / width)) };
	loadFor(small);
	const coarse = emptyPicture(small.width, small.height);
	const coarseTiles = tilesOf(small.width, small.height, 24);
	const coarseSums: TileSums[] = [];
	if (
		!(await pass(coarseTiles, small, coarseSums, COARSE_SAMPLES, mine, (i) =>
			placeTile(coarse, coarseTiles[i], coarseSums[i]),
		))
	)
		return;
	const tell = (
		size: { width: number; height: number },
		rgb: Planes | null,
		state: Omit<ProofState, "width" | "height" | "pixels" | "clean" | "aim" | "sinceEditMs">,
		isClean = false,
	) => {
		const pixels = rgb && rgba(rgb);
		const { width, height } = size;
		post(
			{
				type: "proof",
				state: { width, height, pixels, clean: isClean, aim: AIM, sinceEditMs: performance.now() - at, ...state },
			},
			pixels ? [pixels.buffer] : [],
		);
	};
	tell(coarse, coarse.rgb, {
		coarse: true,
		samples: COARSE_SAMPLES,
		noise: null,
		secondsLeft: null,
		samplesPerSecond: null,
		done: false,
	});
	loadFor({ width, height });
	const picture = emptyPicture(width, height);
	enlarge(coarse, picture);
	const tiles = middleOut(tilesOf(width, height), width, height);
	const sums: (TileSums | undefined)[] = [];
	const noises = new Float64Array(tiles.length);
	let posted = performance.now();
	let msPerSample = 0;
	const rate = () => (msPerSample ? (width * height * 1000) / msPerSample : null);
	// Once a clean proof is shown, only the next clean one takes its place.
	let shownClean = false;
	/** Mean noise of all tiles, or of those that are looked at, once each has samples enough to tell it. */
	const noiseOf = (all: boolean): number | null => {
		let sum = 0;
		let n = 0;
		for (let i = 0; i < tiles.length; i++) {
			if (!all && !isLookedAt(tiles[i], { width, height })) continue;
			if ((sums[i]?.samples ?? 0) < 4) return null;
			sum += noises[i];
			n++;
		}
		return n ? sum / n : null;
	};
	const told = (samples: number) => {
		const noise = noiseOf(false);
		const more = noise ? Math.min(MOST_SAMPLES - samples, Math.max(0, samples * ((noise / AIM) ** 2 - 1))) : null;
		return {
			coarse: false,
			samples,
			noise,
			secondsLeft: more === null || !msPerSample ? null : (more * msPerSample) / 1000,
			samplesPerSecond: rate(),
			done: false,
		};
	};
	/** Shows the proof as it stands, cleaned or as it was traced. False when something newer is wanted. */
	const show = async (state: ReturnType<typeof told>): Promise<boolean> => {
		const without = clean && state.samples >= 4 ? await cleaned(picture, mine) : null;
		if (mine !== turn) return false;
		shownClean = without !== null;
		posted = performance.now();
		tell(picture, without ?? picture.rgb, state, shownClean);
		return true;
	};
	for (let to = 1; to <= MOST_SAMPLES; to = to < 16 ? to * 2 : to < 64 ? to + 16 : to + 64) {
		let started = performance.now();
		const from = Math.min(...tiles.map((_, i) => sums[i]?.samples ?? 0));
		let traced = 0;
		while (tiles.some((_, i) => (sums[i]?.samples ?? 0) < to)) {
			const going = await pass(tiles, { width, height }, sums, to, mine, (i, fresh) => {
				const s = sums[i] as TileSums;
				traced += (fresh * tiles[i].width * tiles[i].height) / (width * height);
				placeTile(picture, tiles[i], s);
				noises[i] = s.samples >= 4 ? tileNoise(tiles[i], s) : 0;
				if (performance.now() - posted > POST_MS) {
					posted = performance.now();
					tell(picture, shownClean ? null : picture.rgb, told(from), shownClean);
				}
			});
			if (!going) return;
			if (!otherwise) continue;
			// The person wants to see it the other way: between two tiles, not after all of them.
			otherwise = false;
			const paused = performance.now();
			if (!(await show(told(from)))) return;
			started += performance.now() - paused;
		}
		if (traced > 0) msPerSample = (performance.now() - started) / traced;
		const state = told(to);
		state.done = (noiseOf(true) ?? 1) <= AIM || to >= MOST_SAMPLES;
		if (!(await show(state))) return;
		if (state.done) {
			redo = () => show(state);
			return;
		}
	}
}

/** Fills a picture with a smaller one, so that tiles replace it in place. */
function enlarge(from: Picture, to: Picture): void {
	for (let y = 0; y < to.height; y++) {
		const sy = Math.max(0, Math.min(from.height - 1.001, ((y + 0.5) * from.height) / to.height - 0.5));
		const y0 = Math.floor(sy);
		for (let x = 0; x < to.width; x++) {
			const sx = Math.max(0, Math.min(from.width - 1.001, ((x + 0.5) * from.width) / to.width - 0.5));
			const x0 = Math.floor(sx);
			const i = y0 * from.width + x0;
			const a = sx - x0;
			const b = sy - y0;
			for (let c = 0; c < 3; c++) {
				const p = from.rgb[c];
				to.rgb[c][y * to.width + x] =
					(p[i] * (1 - a) + p[i + 1] * a) * (1 - b) +
					((p[i + from.width] ?? p[i]) * (1 - a) + (p[i + from.width + 1] ?? p[i + 1]) * a) * b;
			}
		}
	}
}

function middleOut(tiles: Tile[], width: number, height: number): Tile[] {
	const far = (t: Tile) => Math.hypot(t.x + t.width / 2 - width / 2, t.y + t.height / 2 - height / 2);
	return tiles.sort((a, b) => far(a) - far(b));
}

/** What lies under a place of the frame, by one ray on this thread. */
function pick(id: number, x: number, y: number): void {
	if (!scene || !store) {
		post({ type: "picked", id, thing: null, distanceM: Number.POSITIVE_INFINITY });
		return;
	}
	const { ids, distancesM } = meet({ kernel, memory, store }, scene, [x, y]);
	const thing = scene.root.ids[ids[0]]?.id ?? null;
	post({ type: "picked", id, thing, distanceM: distancesM[0] });
}

self.onmessage = (event: MessageEvent<ToStage>) => {
	const m = event.data;
	if (m.type === "start") {
		kernel = makeKernel(m.kernel, memory.memory);
		const wake = (table: number) => {
			for (const { port } of hands) port.postMessage({ table });
		};
		// This thread builds along.
		store = new SceneStore(memory, kernel, { threads: m.ports.length - 1, wake });
		hands = m.ports.map((port) => {
			const desk = reserveDesk(memory);
			port.postMessage({ module: m.kernel, memory: memory.memory, desk });
			return { port, desk };
		});
		void work();
	} else if (m.type === "document") {
		standing = withDifference(standing, m.change);
		wanted = { number: m.number, document: standing, at: performance.now(), resting: m.resting };
		if (hands.length) void work();
	} else if (m.type === "hold") {
		if (traced) stopTracing();
		traced = null;
	} else if (m.type === "look") {
		looked = m.part;
	} else if (m.type === "proof") {
		const changed = m.on !== proof.on || m.width !== proof.width || m.height !== proof.height;
		proof = { on: m.on, width: m.width, height: m.height };
		const other = m.clean !== clean;
		clean = m.clean;
		if (changed && scene && !working) void startProof(signature(scene), performance.now());
		else if (other && redo) {
			const again = redo;
			idle = idle
				.then(async () => void (await again()))
				.catch((error) => post({ type: "trouble", message: `The proof could not be shown: ${error.message}` }));
		} else if (other && traced) otherwise = true;
	} else {
		pick(m.id, m.x, m.y);
	}
};
