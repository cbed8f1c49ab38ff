import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { blankShot } from "../../core/doc/defaults.ts";
import { withDifference } from "../../core/doc/difference.ts";
import { applyEdit } from "../../core/doc/edits.ts";
import type { ShotDocument } from "../../core/doc/schema.ts";
import { compile } from "../../core/scene/compile.ts";
import type { FromStage, ToStage } from "./messages.ts";
import { StageClient, type StageListener } from "./stageClient.ts";

/** A worker that keeps what it is sent and answers when told to. */
class SilentWorker {
	static all: SilentWorker[] = [];
	sent: ToStage[] = [];
	ended = false;
	onmessage: ((e: { data: FromStage }) => void) | null = null;
	onerror: (() => void) | null = null;
	constructor() {
		SilentWorker.all.push(this);
	}
	postMessage(message: ToStage) {
		this.sent.push(structuredClone(message));
	}
	answer(data: FromStage) {
		this.onmessage?.({ data });
	}
	terminate() {
		this.ended = true;
	}
}

const listener = () =>
	({
		scene: vi.fn(),
		proof: vi.fn(),
		shares: vi.fn(),
		rooms: vi.fn(),
		small: vi.fn(),
		wearing: vi.fn(),
		field: vi.fn(),
		landPicture: vi.fn(),
		waters: vi.fn(),
		trouble: vi.fn(),
	}) satisfies StageListener;

beforeEach(() => {
	SilentWorker.all = [];
	vi.stubGlobal("Worker", SilentWorker);
	vi.stubGlobal("crossOriginIsolated", false);
});
afterEach(() => vi.unstubAllGlobals());

const documentOf = (messages: ToStage[]): ShotDocument | null =>
	messages.reduce((doc: ShotDocument | null, m) => (m.type === "document" ? withDifference(doc, m.change) : doc), null);

describe("the page's side of the stage", () => {
	it("says that nothing can be traced where the page is not isolated", () => {
		const told = listener();
		new StageClient(told);
		expect(told.trouble).toHaveBeenCalledWith(expect.stringMatching(/not isolated/));
	});

	it("tells the whole document once, and then what changed of it; the worker ends up with the same", () => {
		const client = new StageClient(listener());
		const [worker] = SilentWorker.all;
		const first = blankShot();
		const second = applyEdit(first, {
			name: "piece.move",
			pieces: [{ id: first.pieces[0].id, position: [9, 0, -3] }],
		}).document;
		const third = applyEdit(second, { name: "air.setHaze", haze: 0.4 }).document;
		expect([first, second, third].map((d) => client.show(d, true))).toEqual([1, 2, 3]);
		const changes = worker.sent.filter((m) => m.type === "document").map((m) => m.change);
		expect(Object.keys(changes[0].fields).length).toBeGreaterThan(8);
		expect(changes[1].fields).toEqual({});
		expect(changes[1].pieces).toHaveLength(1);
		expect(Object.keys(changes[2].fields)).toEqual(["air"]);
		expect(documentOf(worker.sent)).toEqual(third);
	});

	it("keeps parts of scenes by key, and drops those that a later scene does without", () => {
		const told = listener();
		new StageClient(told);
		const [worker] = SilentWorker.all;
		const { root, parts } = compile(blankShot());
		const all = [...parts.values()];
		const scene = (fresh: typeof all, keys: string[], number: number): FromStage => ({
			type: "scene",
			number,
			sameLight: false,
			root,
			fresh,
			keys,
			compileMs: 3,
		});
		worker.answer(scene(all, [...parts.keys()], 1));
		const held = told.scene.mock.calls[0][1] as Map<string, unknown>;
		expect([...held.keys()].sort()).toEqual([...parts.keys()].sort());
		const [gone, ...left] = [...parts.keys()];
		worker.answer(scene([], left, 2));
		expect(held.has(gone)).toBe(false);
		expect(held.size).toBe(left.length);
		expect(told.scene.mock.calls[1][2]).toMatchObject({ number: 2, sameLight: false });
	});

	it("gives each question of what lies under a place its own answer, in any order", async () => {
		const client = new StageClient(listener());
		const [worker] = SilentWorker.all;
		const one = client.pick(0.1, 0.2);
		const two = client.pick(0.8, 0.9);
		const asked = worker.sent.filter((m) => m.type === "pick");
		expect(asked.map(({ x, y }) => [x, y])).toEqual([
			[0.1, 0.2],
			[0.8, 0.9],
		]);
		worker.answer({ type: "picked", id: asked[1].id, thing: "shed", distanceM: 4 });
		worker.answer({ type: "picked", id: asked[0].id, thing: null, distanceM: Number.POSITIVE_INFINITY });
		expect(await two).toMatchObject({ thing: "shed", distanceM: 4 });
		expect(await one).toMatchObject({ thing: null });
	});

	it("passes on holds, looks and proofs, what troubles the worker, and its end", () => {
		const told = listener();
		const client = new StageClient(told);
		const [worker] = SilentWorker.all;
		client.hold();
		client.look({ x: 0, y: 0, width: 0.5, height: 0.5 });
		client.setProof(true, 640, 360, true);
		expect(worker.sent.map((m) => m.type)).toEqual(["hold", "look", "proof"]);
		worker.answer({ type: "trouble", message: "The shot could not be compiled: too many lights" });
		expect(told.trouble).toHaveBeenLastCalledWith("The shot could not be compiled: too many lights");
		worker.onerror?.();
		expect(told.trouble).toHaveBeenLastCalledWith(expect.stringMatching(/nothing is lost/));
		client.close();
		expect(worker.ended).toBe(true);
	});
});
