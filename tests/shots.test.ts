import { randomUUID } from "node:crypto";
import type pg from "pg";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../src/core/doc/defaults.ts";
import type { Edit } from "../src/core/doc/edits.ts";
import { openPool } from "../src/store/database.ts";
import {
	commitEdit,
	createShot,
	listCheckpoints,
	makeCheckpoint,
	moveHead,
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
		state = await moveHead(pool, state.id, { open: first }, randomUUID(), state.sequence);
		expect(state.document.idea).toBe("first");
		state = await moveHead(pool, state.id, { open: first + 1 }, randomUUID(), state.sequence);
		expect(state.document.idea).toBe("second");
		expect(await listCheckpoints(pool, state.id)).toHaveLength(1);
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
