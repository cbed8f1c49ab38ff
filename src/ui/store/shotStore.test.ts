import { beforeEach, describe, expect, it, vi } from "vitest";
import { blankShot } from "../../core/doc/defaults.ts";
import { applyEdit, type Edit } from "../../core/doc/edits.ts";
import type { ShotState } from "../../core/doc/records.ts";
import { keptPending } from "./saving.ts";
import { shownDocument, useShot } from "./shotStore.ts";

/** A server of one shot, with switches for being away and for being ahead. */
class FakeServer {
	state: ShotState = {
		id: "s",
		title: "Untitled shot",
		document: blankShot(),
		revision: 0,
		standsFor: 0,
		sequence: 0,
		canUndo: false,
		canRedo: false,
	};
	away = false;
	received: string[] = [];
	/** Paths that were asked for. */
	asked: string[] = [];
	private before: ShotState["document"][] = [];
	edit(e: Edit): void {
		this.before.push(this.state.document);
		this.state = {
			...this.state,
			document: applyEdit(this.state.document, e).document,
			revision: this.state.revision + 1,
			sequence: this.state.sequence + 1,
			canUndo: true,
		};
	}
	handle = async (path: string, init?: RequestInit): Promise<Response> => {
		if (this.away) throw new TypeError("failed to fetch");
		if (!init?.body) {
			this.asked.push(path);
			const { document: _, ...standing } = this.state;
			if (path.endsWith("/log")) return Response.json({ standing, checkpoints: [], history: [], left: [] });
			if (path.endsWith("/prints")) return Response.json({ prints: [{ id: "p" }], busy: true });
			return Response.json({ state: this.state, checkpoints: [], prints: [], busy: false, history: [], left: [] });
		}
		const body = JSON.parse(init.body as string);
		if (body.sequence !== this.state.sequence)
			return Response.json({ error: { code: "stale", message: "changed", state: this.state } }, { status: 409 });
		this.received.push(path.endsWith("/edits") ? body.edit.name : "head");
		if (body.edit?.idea === "refuse me")
			return Response.json({ error: { code: "bad-edit", message: "This cannot be." } }, { status: 400 });
		if (body.edit) this.edit(body.edit);
		if (body.move === "undo") {
			const document = this.before.pop() as ShotState["document"];
			this.state = {
				...this.state,
				document,
				revision: this.state.revision - 1,
				sequence: this.state.sequence + 1,
				canRedo: true,
			};
			return Response.json(this.state);
		}
		const { document: _, ...rest } = this.state;
		return Response.json(rest);
	};
}

let server: FakeServer;
const settled = async () => {
	await vi.waitFor(() => expect(useShot.getState().pending).toEqual([]), { timeout: 5000, interval: 5 });
};

beforeEach(() => {
	server = new FakeServer();
	const kept = new Map<string, string>();
	vi.stubGlobal("fetch", server.handle);
	vi.stubGlobal("localStorage", {
		getItem: (k: string) => kept.get(k) ?? null,
		setItem: (k: string, v: string) => kept.set(k, v),
		removeItem: (k: string) => kept.delete(k),
	});
	useShot.setState({ pending: [], preview: null, notice: null, online: true });
	useShot.getState().open({ state: server.state, checkpoints: [], prints: [], busy: false, history: [], left: [] });
});

describe("the shot on the page", () => {
	it("stands at once and is sent in order", async () => {
		const { commit } = useShot.getState();
		commit({ name: "shot.setIdea", idea: "one" });
		commit({ name: "ground.set", seed: 7 });
		expect(useShot.getState().document.ground.seed).toBe(7);
		await settled();
		expect(server.received).toEqual(["shot.setIdea", "ground.set"]);
		expect(useShot.getState().sequence).toBe(2);
	});

	it("takes every undo of a quick hand, and the edit that follows them", async () => {
		const { commit, moveHead } = useShot.getState();
		for (const idea of ["one", "two", "three"]) commit({ name: "shot.setIdea", idea });
		await settled();
		moveHead("undo");
		moveHead("undo");
		commit({ name: "ground.set", seed: 5 });
		await settled();
		expect(server.received.slice(3)).toEqual(["head", "head", "ground.set"]);
		expect(useShot.getState().document).toMatchObject({ idea: "one", ground: { seed: 5 } });
		expect(useShot.getState().document).toEqual(server.state.document);
	});

	it("asks for no document after a burst of edits, nor for a print's progress", async () => {
		for (let i = 0; i < 5; i++) useShot.getState().commit({ name: "ground.set", seed: i });
		await settled();
		await useShot.getState().refresh();
		await useShot.getState().refreshPrints();
		expect(new Set(server.asked)).toEqual(new Set(["/api/shots/s/log", "/api/shots/s/prints"]));
		expect(useShot.getState().prints).toEqual([{ id: "p" }]);
		server.edit({ name: "ground.set", seed: 77 });
		await useShot.getState().refresh();
		expect(server.asked[server.asked.length - 1]).toBe("/api/shots/s");
		expect(useShot.getState().document.ground.seed).toBe(77);
	});

	it("previews a gesture on a copy that leaves nothing behind", () => {
		useShot.getState().show({ name: "ground.set", seed: 99 });
		expect(shownDocument().ground.seed).toBe(99);
		expect(useShot.getState().document.ground.seed).toBe(1);
		useShot.getState().show(null);
		expect(shownDocument().ground.seed).toBe(1);
		expect(useShot.getState().pending).toEqual([]);
	});

	it("keeps edits while the server is away, also for a reload, and sends them when it is back", async () => {
		server.away = true;
		useShot.getState().commit({ name: "shot.setIdea", idea: "offline" });
		await vi.waitFor(() => expect(useShot.getState().online).toBe(false));
		expect(keptPending("s")).toHaveLength(1);
		server.away = false;
		await settled();
		expect(server.state.document.idea).toBe("offline");
		expect(useShot.getState().online).toBe(true);
		expect(keptPending("s")).toHaveLength(0);
	});

	it("takes in newer edits from elsewhere and puts its own on top", async () => {
		server.edit({ name: "ground.set", seed: 42 });
		useShot.getState().commit({ name: "shot.setIdea", idea: "mine" });
		await settled();
		expect(useShot.getState().document).toMatchObject({ idea: "mine", ground: { seed: 42 } });
		expect(server.state.document.idea).toBe("mine");
		expect(useShot.getState().notice).toMatch(/another tab/);
	});

	it("drops an edit that no longer fits what came from elsewhere, and says so", async () => {
		server.edit({ name: "piece.remove", ids: ["stake-5"] });
		useShot.getState().commit({ name: "piece.move", pieces: [{ id: "stake-5", position: [1, 0, 1] }] });
		await settled();
		expect(useShot.getState().notice).toMatch(/no longer fit/);
		expect(useShot.getState().document).toEqual(server.state.document);
	});

	it("goes back to what the server has when an edit is refused", async () => {
		useShot.getState().commit({ name: "shot.setIdea", idea: "refuse me" });
		await settled();
		expect(useShot.getState().notice).toBe("This cannot be.");
	});

	it("refuses a bad edit before it is sent and says why", () => {
		expect(useShot.getState().commit({ name: "air.setSun", elevationDeg: 500 })).toBe(false);
		expect(useShot.getState().notice).toMatch(/elevationDeg/);
		expect(useShot.getState().pending).toEqual([]);
	});
});
