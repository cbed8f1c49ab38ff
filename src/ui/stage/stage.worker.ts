/**
 * The stage: compiles the shot, keeps its scene in shared memory, and refines the proof with the tracing threads. A newer
 * document stops whatever is under way.
 */
import { strToU8, zipSync } from "fflate";
import { readSkyTable } from "../../core/air/skyPicture.ts";
import { withDifference } from "../../core/doc/difference.ts";
import type { ShotDocument } from "../../core/doc/schema.ts";
import { readLandPicture } from "../../core/formats/landPicture.ts";
import { heldField } from "../../core/ground/field.ts";
import { coarseGround, landNeeds, landReads, watersOf } from "../../core/ground/height.ts";
import { heldPicture, keyOfRead } from "../../core/ground/pictures.ts";
import { keptView, straightPlace } from "../../core/lens/camera.ts";
import { characterOf } from "../../core/lens/character.ts";
import { sceneGlb } from "../../core/out/sceneGlb.ts";
import { sceneObj } from "../../core/out/sceneObj.ts";
import { compileSteps } from "../../core/scene/compile.ts";
import { type Blobs, heldMaker, loadBlobs, type Makers, NO_BLOBS, type SheetWork } from "../../core/scene/inputs.ts";
import { PartCache } from "../../core/scene/partCache.ts";
import type { Picture, TileSums } from "../../core/scene/picture.ts";
import type { Scene } from "../../core/scene/scene.ts";
import { probePlaces } from "../../core/study/moveTable.ts";
import { type Leeway, roomsByWay } from "../../core/study/roomToMove.ts";
import { placesOverFrame, sharesOf } from "../../core/study/shares.ts";
import { smallSign, tracedFrom } from "../../core/study/smallFrame.ts";
import { type Sheet, unpackSheet } from "../../core/surface/sheet.ts";
import { sheetName } from "../../core/surface/sheetName.ts";
import { slugOf } from "../../core/surface/surfaces.ts";
import { documentOf } from "../../core/time/documentAt.ts";
import { type Moment, momentOfFrame, STILL } from "../../core/time/frames.ts";
import { pageSheets } from "../../makers/sheets/page.ts";
import { pageSolids } from "../../makers/solids/page.ts";
import { pageLand } from "../../makers/wear/page.ts";
import { Cleaner, type CleanJob, exposureOf, sentWith } from "../../tracer/clean.ts";
import { type Planes, PROOF_REACH } from "../../tracer/denoise.ts";
import { meet } from "../../tracer/meet.ts";
import { type Kernel, MemoryFull, makeKernel, TracerMemory } from "../../tracer/memory.ts";
import { type Desk, reserveDesk } from "../../tracer/renderTile.ts";
import { SceneStore } from "../../tracer/sceneStore.ts";
import { type ErrorBody, landPictureAddress } from "../../wire/contracts.ts";
import type { FromStage, ProofState, SetFile, ToStage } from "./messages.ts";
import { AIM, Refiner } from "./refiner.ts";
import { SmallFrames } from "./smallFrames.ts";
import type { CleanOrder, TileOrder } from "./tile.worker.ts";

const SLICE_MS = 12;
const PROOF_SEED = 1;
/** Samples with which a proof can be read. */
const READ_SAMPLES = 4;
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
let cleaner: Cleaner;
/** Of the scene that was loaded last. */
let exposure = 1;
let hands: Hand[] = [];
/** The document as it was last told. */
let standing: ShotDocument | null = null;
let standingAt: Moment = STILL;
interface Job {
	number: number;
	document: ShotDocument;
	moment: Moment;
	at: number;
	resting: boolean;
}

let wanted: Job | null = null;
let proof = { on: false, width: 0, height: 0 };
/** The scene of the newest document, and the one that lies in the tracer's memory. */
let scene: Scene | null = null;
let loaded: Scene | null = null;
/** Loaded, and not yet counted in. */
let toStudy: Scene | null = null;
/** Signature of the scene whose proof is under way or done. */
let traced: string | null = null;
let working = false;
/** When the document came that the proof is of. */
let since = 0;

const post = (message: FromStage, transfer: Transferable[] = []) =>
	(self as unknown as Worker).postMessage(message, transfer);

const breathe = (() => {
	const channel = new MessageChannel();
	const waiting: (() => void)[] = [];
	channel.port1.onmessage = () => waiting.shift()?.();
	return () =>
		new Promise<void>((r) => {
			waiting.push(r);
			channel.port2.postMessage(0);
		});
})();

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

/** A sheet that the server keeps; while it is away, and where it has another version, the page bakes by itself. */
async function keptSheet(work: SheetWork): Promise<Sheet | null> {
	const response = await fetch(`/api/sheets/${slugOf(work.of)}/${work.seed}/${sheetName(work)}`).catch(() => null);
	return response?.ok ? unpackSheet(new Uint8Array(await response.arrayBuffer())) : null;
}

/** Between two strips of work: what is newer is let in. */
const between = async (): Promise<void> => {
	await breathe();
	if (wanted) throw new Superseded();
};

const makers: Makers = {
	sky: heldMaker(async (file) => readSkyTable(await fetched(`/api/skies/${file}`, "sky picture")), SKIES),
	solids: pageSolids(),
	land: pageLand({
		between,
		tell: (share) => post({ type: "wearing", share }),
	}),
	...pageSheets({ between, kept: keptSheet }),
	picture: async (read) => readLandPicture(await fetched(landPictureAddress(read), `land picture "${read.name}"`)),
};

/** Fields and pictures of the land that the page has been told. */
const toldFields = new Set<string>();
const toldPictures = new Set<string>();

/** The page asks for heights by itself: it is told of what has worn the land and of its pictures, as soon as they are there. */
function tellFields({ ground }: ShotDocument): void {
	const needs = [...new Set([coarseGround(ground), ground])].flatMap(landNeeds);
	// What comes back later, after an undo, is told again: the page may not have it any more.
	for (const key of toldFields) if (!needs.some((need) => need.key === key)) toldFields.delete(key);
	for (const { key, id } of needs) {
		const field = heldField(key);
		if (!field || toldFields.has(key)) continue;
		toldFields.add(key);
		post({ type: "field", key, id, field });
	}
	const reads = new Map(landReads(ground).map((read) => [keyOfRead(read), read]));
	for (const key of toldPictures) if (!reads.has(key)) toldPictures.delete(key);
	for (const [key, read] of reads) {
		const picture = heldPicture(read);
		if (!picture || toldPictures.has(key)) continue;
		toldPictures.add(key);
		post({ type: "landPicture", read, picture });
	}
}

/** The scene of a document at a moment; null when something newer is wanted before it is made. */
async function compiled(document: ShotDocument, moment: Moment, inHand = false, draft = false): Promise<Scene | null> {
	try {
		return await compiledAtOnce(document, moment, inHand, draft);
	} catch (error) {
		if (error instanceof Superseded) return null;
		throw error;
	}
}

async function compiledAtOnce(
	document: ShotDocument,
	moment: Moment,
	inHand: boolean,
	draft: boolean,
): Promise<Scene | null> {
	blobs = await loadBlobs(document, ({ blob, what }) => fetched(`/api/blobs/${blob}`, what), blobs);
	const steps = compileSteps(document, moment, blobs, makers, cache, inHand, draft);
	let until = performance.now() + SLICE_MS;
	let outcome: unknown;
	for (;;) {
		const step = steps.next(outcome);
		if (step.done) {
			tellFields(document);
			// Of a draft that is followed by all of it, that tells it.
			if (!inHand && !document.ground.out && !(draft && step.value.root.level))
				post({ type: "waters", told: [...watersOf(document.ground)].map(([id, { told }]) => [id, told]) });
			return step.value;
		}
		outcome = await step.value;
		if (!step.value && performance.now() < until) continue;
		if (!step.value) await breathe();
		if (wanted) return null;
		until = performance.now() + SLICE_MS;
	}
}

/** Hands a scene to the page; what it is traced from, null where that is what is traced already. */
function show(made: Scene, number: number, started: number): string | null {
	scene = made;
	for (const key of sent) if (!made.parts.has(key)) sent.delete(key);
	const fresh = [...made.parts.values()].filter((p) => !sent.has(p.key));
	for (const p of fresh) sent.add(p.key);
	const sign = tracedFrom(made);
	const sameLight = sign === traced;
	if (!sameLight) refiner.stop();
	const keys = [...made.parts.keys()];
	post({ type: "scene", number, sameLight, root: made.root, fresh, keys, compileMs: performance.now() - started });
	return sameLight ? null : sign;
}

async function work(): Promise<void> {
	if (working) return;
	working = true;
	try {
		while (wanted) {
			const job = wanted;
			wanted = null;
			const started = performance.now();
			const draft = await compiled(job.document, job.moment, !job.resting, true);
			if (!draft) continue;
			const sign = show(draft, job.number, started);
			await breathe();
			if (!sign) continue;
			traced = null;
			if (wanted || !job.resting) continue;
			// What is seen at once has its surfaces level; how they stand out follows, and is what is traced.
			const whole = draft.root.level ? await compiled(job.document, job.moment) : draft;
			if (!whole) continue;
			const shaped = draft === whole ? sign : show(whole, job.number, started);
			await breathe();
			if (!wanted && shaped) void startProof(shaped, job.at).catch(stumbled);
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

async function startProof(sign: string, at: number): Promise<void> {
	if (!scene) return;
	if (!proof.on || proof.width < 16) {
		// What lies under the pointer is asked of the scene all the same.
		if (!(await refiner.rest())) return;
		load({ width: 64, height: 64 });
		studyLoaded();
		return;
	}
	traced = sign;
	since = at;
	if (small.frames.length > 0 && standing?.move) {
		// The frame in hand comes first, far enough to be read; then the small ones; then it goes on.
		await refiner.start(framed(scene), READ_SAMPLES);
		if (traced !== sign || wanted) return;
		if (!(await refiner.aside((going) => small.trace(going))) || traced !== sign) return;
	}
	await refiner.start(framed(scene));
}

/** The proof's size, with the room that the lens of a scene needs. */
const framed = ({ root: { room } }: Scene) => ({ width: proof.width, height: proof.height, room });

function load(size: { width: number; height: number }): void {
	if (!scene) return;
	store.load(scene, { ...size, seed: PROOF_SEED });
	exposure = exposureOf(scene.root.camera);
	if (loaded === scene) return;
	loaded = scene;
	for (const one of asked.splice(0)) pick(...one);
	toStudy = scene;
}

/** Counts what the scene that has been loaded shows, once its first picture is told: until then the machine is left to that. */
function studyLoaded(): void {
	const of = toStudy;
	toStudy = null;
	if (of) void study(of).catch(stumbled);
}

/** Rays across the frame by which what it shows is counted, and rays between two looks at what is wanted. */
const STUDY_ACROSS = 448;
const STUDY_AT_ONCE = 4096;

/** Counts what the frame shows of each thing, a little at a time, until something newer is wanted. */
async function study(of: Scene): Promise<void> {
	const places = placesOverFrame({ camera: of.root.camera }, STUDY_ACROSS);
	const ids = new Uint32Array(places.length / 2);
	const distancesM = new Float64Array(places.length / 2);
	for (let at = 0; at < ids.length; at += STUDY_AT_ONCE) {
		await breathe();
		if (loaded !== of || wanted) return;
		const met = meet({ kernel, memory, store }, of, places.subarray(2 * at, 2 * (at + STUDY_AT_ONCE)));
		ids.set(met.ids, at);
		distancesM.set(met.distancesM, at);
	}
	post({ type: "shares", shares: sharesOf(of.root.ids, ids, distancesM) });
	await tellRooms(of);
}

let roomsWanted = false;
/** The scene whose room to move has been told, or is being counted. */
let roomsOf: Scene | null = null;

/** Counts the room to move, one way after the other, until something newer is wanted. */
async function tellRooms(of: Scene): Promise<void> {
	if (!roomsWanted || !standing || roomsOf === of) return;
	roomsOf = of;
	const rooms: Leeway[] = [];
	for (const room of roomsByWay(documentOf(standing, standingAt))) {
		if (room) rooms.push(room);
		await breathe();
		if (loaded === of && !wanted) continue;
		if (roomsOf === of) roomsOf = null;
		return;
	}
	post({ type: "rooms", rooms });
}

/** A trouble of the proof is told; a scene that does not fit in its own words. */
const stumbled = (error: Error): void =>
	post({
		type: "trouble",
		message: error instanceof MemoryFull ? error.message : `The proof stopped: ${error.message}`,
	});

function ask(hand: Hand, order: TileOrder): Promise<TileSums | null>;
function ask(hand: Hand, order: CleanOrder): Promise<Float32Array[] | null>;
function ask(hand: Hand, order: TileOrder | CleanOrder): Promise<TileSums | Float32Array[] | null> {
	return new Promise((resolve) => {
		hand.port.onmessage = (e: MessageEvent) => resolve(e.data);
		hand.port.postMessage(order, "job" in order ? sentWith(order.job) : []);
	});
}

const signal = (value: 0 | 1): void => {
	for (const h of hands) Atomics.store(new Int32Array(memory.memory.buffer), h.desk.abort >> 2, value);
};

/** A picture of the scene that was loaded last, without its noise. */
const cleaned = async (picture: Picture, wanted: () => boolean): Promise<Planes> =>
	(await cleaner.clean(hands.length, picture, { exposure, reach: PROOF_REACH, wanted })).rgb;

const refiner = new Refiner(
	{
		get threads() {
			return hands.length;
		},
		load,
		trace: (thread, order) => ask(hands[thread], { ...order, header: store.header }),
		clean: async (picture, wanted) => {
			const out = await cleaned(picture, wanted);
			return wanted() ? out : null;
		},
		stop: () => signal(1),
		ready: () => signal(0),
	},
	(told) => {
		const state: ProofState = { ...told, aim: AIM, sinceEditMs: performance.now() - since };
		post({ type: "proof", state }, told.pixels ? [told.pixels.buffer] : []);
		studyLoaded();
	},
);

const small = new SmallFrames({
	compiled: async (frame) => {
		const of = standing;
		if (!of?.move) return null;
		const scene = await compiled(of, momentOfFrame(frame, of.move));
		return scene && { scene, sign: smallSign(scene) };
	},
	load: (of, size) => {
		store.load(of, size);
		exposure = exposureOf(of.root.camera);
		// The frame in hand is to be loaded again.
		loaded = null;
	},
	probe: (of, frame) => {
		const { places, ...grid } = probePlaces(of.root.camera.ratio);
		return { frame, ...grid, ...meet({ kernel, memory, store }, of, places) };
	},
	tracers: {
		get threads() {
			return hands.length;
		},
		trace: (thread, order) => ask(hands[thread], { ...order, header: store.header }),
		clean: cleaned,
	},
	tell: (told) =>
		post(
			{ type: "small", small: told },
			told.rgb.map((plane) => plane.buffer),
		),
});

/** Places that were pointed at before anything was loaded. */
const asked: Parameters<typeof pick>[] = [];

/** What lies under a place of the frame, by one ray on this thread; told as soon as there is something to meet. */
function pick(id: number, x: number, y: number): void {
	if (!loaded) {
		asked.push([id, x, y]);
		return;
	}
	const { camera, finish } = loaded.root;
	const at = straightPlace({ ...keptView(camera), bend: characterOf(finish).bend }, x, y);
	const { ids, distancesM } = meet({ kernel, memory, store }, loaded, [at.x, at.y]);
	post({ type: "picked", id, thing: loaded.root.ids[ids[0]]?.id ?? null, distanceM: distancesM[0] });
}

const SET_FILES: Record<SetFile, (of: Scene, title: string) => Uint8Array> = {
	glb: (of, title) => sceneGlb(of, { title }),
	instanced: (of, title) => sceneGlb(of, { title }, { instanced: true }),
	obj: (of) => {
		const { obj, mtl } = sceneObj(of, "set.mtl");
		return zipSync({ "set.obj": strToU8(obj.join("")), "set.mtl": strToU8(mtl) });
	},
};

/** The set as it was last compiled, for other programs. */
function handOut(id: number, as: SetFile): void {
	try {
		if (!scene || !standing) throw new Error("The shot is not compiled yet.");
		const bytes = SET_FILES[as](scene, standing.title) as Uint8Array<ArrayBuffer>;
		post({ type: "set", id, bytes, message: "" }, [bytes.buffer]);
	} catch (error) {
		post({ type: "set", id, bytes: null, message: (error as Error).message });
	}
}

self.onmessage = (event: MessageEvent<ToStage>) => {
	const m = event.data;
	if (m.type === "start") {
		kernel = makeKernel(m.kernel, memory.memory);
		cleaner = new Cleaner(kernel, memory, m.weights, (thread: number, job: CleanJob) => ask(hands[thread], { job }));
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
		standingAt = m.moment;
		wanted = { number: m.number, document: standing, moment: m.moment, at: performance.now(), resting: m.resting };
		if (hands.length) void work();
	} else if (m.type === "hold") {
		if (traced) refiner.stop();
		traced = null;
	} else if (m.type === "rest") {
		refiner.rests(m.resting);
	} else if (m.type === "small") {
		small.want(m.frames, m.known);
		if (scene && !working && !wanted && traced) void startProof(tracedFrom(scene), performance.now()).catch(stumbled);
	} else if (m.type === "rooms") {
		roomsWanted = m.wanted;
		if (loaded) void tellRooms(loaded).catch(stumbled);
	} else if (m.type === "look") {
		refiner.looked = m.part;
	} else if (m.type === "proof") {
		const changed = m.on !== proof.on || m.width !== proof.width || m.height !== proof.height;
		proof = { on: m.on, width: m.width, height: m.height };
		void refiner.showClean(m.clean).catch(stumbled);
		if (changed && scene && !working) void startProof(tracedFrom(scene), performance.now()).catch(stumbled);
	} else if (m.type === "set") {
		handOut(m.id, m.as);
	} else {
		pick(m.id, m.x, m.y);
	}
};
