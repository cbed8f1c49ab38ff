import { randomUUID } from "node:crypto";
import type pg from "pg";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../src/core/doc/defaults.ts";
import type { Edit } from "../src/core/doc/edits.ts";
import type { ShotState } from "../src/core/doc/records.ts";
import { blobInfo, collectBlobs, putBlob } from "../src/store/blobs.ts";
import { inTransaction, openPool } from "../src/store/database.ts";
import {
	commitEdit,
	createShot,
	listCheckpoints,
	listLeftBehind,
	makeCheckpoint,
	moveHead,
	picturedBefore,
	readHistory,
	readShot,
	StaleError,
} from "../src/store/shots.ts";
import { freshDatabase } from "./support.ts";

let pool: pg.Pool;
let url: string;
beforeAll(async () => {
	({ pool, url } = await freshDatabase("test_shots"));
});
afterAll(() => pool.end());

const edit = (shotId: string, e: Edit, sequence: number) => commitEdit(pool, shotId, e, randomUUID(), sequence);

describe("the log of a shot", () => {
	it("undoes 500 edits and redoes them all, over a restart", async () => {
		let state = await createShot(pool, blankShot());
		const start = state.document;
		const ids: string[] = [];
		for (let i = 0; i < 500; i++) {
			const id = `p${i}`;
			const e: Edit =
				i % 3 === 0
					? { name: "piece.add", pieces: [newPiece(id, "box")] }
					: i % 3 === 1
						? { name: "piece.move", pieces: [{ id: ids[ids.length - 1], position: [i, 0, -i] }] }
						: { name: "air.setSun", headingDeg: i % 360, elevationDeg: (i % 60) + 1 };
			if (i % 3 === 0) ids.push(id);
			state = await edit(state.id, e, state.sequence);
		}
		const end = state.document;
		const other = openPool(url, 2);
		for (let i = 0; i < 500; i++) state = await moveHead(other, state.id, "undo", randomUUID(), state.sequence);
		expect(state.document).toEqual(start);
		expect(state.canUndo).toBe(false);
		await expect(moveHead(other, state.id, "undo", randomUUID(), state.sequence)).rejects.toThrow(/beginning/);
		for (let i = 0; i < 500; i++) state = await moveHead(other, state.id, "redo", randomUUID(), state.sequence);
		expect(state.document).toEqual(end);
		expect(state.canRedo).toBe(false);
		await other.end();
	});

	it("branches after an undo and reaches every branch again", async () => {
		let state = await createShot(pool, blankShot());
		state = await edit(state.id, { name: "shot.setIdea", idea: "first" }, state.sequence);
		const first = state.revision;
		await makeCheckpoint(pool, state.id, "First", null);
		state = await moveHead(pool, state.id, "undo", randomUUID(), state.sequence);
		state = await edit(state.id, { name: "shot.setIdea", idea: "second" }, state.sequence);
		expect(await listLeftBehind(pool, state.id)).toEqual([
			{ revision: first, label: 'idea: "first"', at: expect.any(String), thumbnail: null },
		]);
		state = await back(state, first);
		expect(state.document.idea).toBe("first");
		state = await back(state, first + 1);
		expect(state.document.idea).toBe("second");
		expect(await listCheckpoints(pool, state.id)).toHaveLength(1);
	});

	const back = (state: ShotState, open: number) => moveHead(pool, state.id, { open }, randomUUID(), state.sequence);
	const say = (state: ShotState, idea: string) => edit(state.id, { name: "shot.setIdea", idea }, state.sequence);
	const step = (state: ShotState, move: "undo" | "redo") =>
		moveHead(pool, state.id, move, randomUUID(), state.sequence);

	it("takes a return back by one undo, and keeps what came before the return", async () => {
		let state = await say(await createShot(pool, blankShot()), "kept");
		await makeCheckpoint(pool, state.id, "Kept", null);
		const kept = state.revision;
		state = await edit(state.id, { name: "camera.setLens", focalMm: 50 }, state.sequence);
		state = await say(state, "later");
		const later = state.document;
		state = await back(state, kept);
		expect(state).toMatchObject({ standsFor: kept, document: { idea: "kept", camera: { focalMm: 32 } } });
		expect((await readHistory(pool, state.id))[0].label).toBe("return to Kept");
		state = await step(state, "undo");
		expect(state.document).toEqual(later);
		state = await step(state, "redo");
		state = await say(state, "after the return");
		// What was done before the return lies in the log below it.
		for (const want of ["kept", "later"]) {
			state = await step(state, "undo");
			expect(state.document.idea).toBe(want);
		}
		expect(state.document).toEqual(later);
	});

	it("returns to a return as to what that led to, and to the beginning", async () => {
		let state = await say(await createShot(pool, blankShot()), "one");
		const one = state.revision;
		state = await back(await say(state, "two"), one);
		const again = state.revision;
		state = await back(await say(state, "three"), again);
		expect(state).toMatchObject({ standsFor: one, document: { idea: "one" } });
		state = await back(state, 0);
		expect(state.document).toEqual(blankShot());
		expect((await readHistory(pool, state.id))[0].label).toBe("return to the beginning");
		await expect(back(state, 999)).rejects.toThrow(/no revision 999/);
	});

	it("lists a branch that was left with its picture, and neither what redo leads to nor a return that was taken back", async () => {
		let state = await say(await say(await createShot(pool, blankShot()), "one"), "two");
		const two = state.revision;
		const picture = await inTransaction(pool, (c) => putBlob(c, new Uint8Array([1, 2, 3]), "image/png"));
		await picturedBefore(pool, state.id, two, picture);
		state = await step(state, "undo");
		expect(await listLeftBehind(pool, state.id)).toEqual([]);
		state = await say(state, "another two");
		expect(await listLeftBehind(pool, state.id)).toMatchObject([{ revision: two, thumbnail: picture }]);
		await collectBlobs(pool, "0 seconds");
		expect(await blobInfo(pool, picture)).not.toBeNull();
		state = await step(await back(state, two), "undo");
		state = await say(state, "on");
		// What came before a return that was taken back is not lost with it.
		const on = state.revision;
		state = await step(await step(await back(state, 0), "undo"), "undo");
		expect((await listLeftBehind(pool, state.id)).map((l) => l.revision)).toEqual([two]);
		state = await say(state, "elsewhere");
		expect((await listLeftBehind(pool, state.id)).map((l) => l.revision)).toEqual([on, two]);
		state = await back(state, on);
		await collectBlobs(pool, "0 seconds");
		expect((await listLeftBehind(pool, state.id)).map((l) => l.revision)).toEqual([on, two]);
		state = await back(state, two);
		expect(state.document.idea).toBe("two");
	});

	it("keeps the files that an undo brings back", async () => {
		const file = await inTransaction(pool, (c) => putBlob(c, new Uint8Array([9, 9, 9]), "image/png"));
		const reference = { id: "r", name: "quay", blob: file, widthPx: 1, heightPx: 1 };
		let state = await createShot(pool, { ...blankShot(), references: [reference] });
		state = await edit(state.id, { name: "reference.remove", id: "r" }, state.sequence);
		await collectBlobs(pool, "0 seconds");
		state = await step(state, "undo");
		expect(state.document.references).toEqual([reference]);
		expect(await blobInfo(pool, file)).not.toBeNull();
	});

	it("takes a resent edit once, and refuses one against an old state with the newer one", async () => {
		const state = await createShot(pool, blankShot());
		const clientId = randomUUID();
		const e: Edit = { name: "shot.setIdea", idea: "once" };
		const one = await commitEdit(pool, state.id, e, clientId, state.sequence);
		const two = await commitEdit(pool, state.id, e, clientId, state.sequence);
		expect(two.revision).toBe(one.revision);
		const stale = edit(state.id, { name: "shot.setIdea", idea: "late" }, state.sequence);
		await expect(stale).rejects.toBeInstanceOf(StaleError);
		expect((await readShot(pool, state.id)).document.idea).toBe("once");
	});

	it("refuses a reference whose picture is not kept", async () => {
		const state = await createShot(pool, blankShot());
		const reference = { id: "r", name: "none", blob: "0".repeat(64), widthPx: 10, heightPx: 10 };
		await expect(edit(state.id, { name: "reference.add", reference }, state.sequence)).rejects.toThrow(/not been kept/);
	});
});
