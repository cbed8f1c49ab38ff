import { randomUUID } from "node:crypto";
import { readFileSync } from "node:fs";
import pg from "pg";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { newPiece } from "../src/core/doc/defaults.ts";
import { type StoredDocument, upgrade } from "../src/core/doc/migrations.ts";
import { DOCUMENT_VERSION, ShotDocument } from "../src/core/doc/schema.ts";
import { migrate, openPool } from "../src/store/database.ts";
import { nextUnit } from "../src/store/frames.ts";
import { readWork } from "../src/store/prints.ts";
import { commitEdit, moveHead, readShot } from "../src/store/shots.ts";
import { emptyDatabase, migrations } from "./support.ts";

/** A database as version 1 of the document left it: a shot of many pieces, one of every kind of edit with branches, a print. */
const DUMP = new URL("dumps/version-1.sql", import.meta.url);

let pool: pg.Pool;
let stored: Map<string, StoredDocument>;

beforeAll(async () => {
	const url = await emptyDatabase("test_versions");
	const client = new pg.Client({ connectionString: url });
	await client.connect();
	await client.query(readFileSync(DUMP, "utf8"));
	await client.end();
	pool = openPool(url, 4);
	const r = await pool.query<{ id: string; document: StoredDocument }>("select id, document from shots");
	stored = new Map(r.rows.map((s) => [s.id, s.document]));
	await migrate(pool, migrations);
});
afterAll(() => pool.end());

const revisions = async (id: string): Promise<number[]> => {
	const r = await pool.query<{ revision: string }>("select revision from edits where shot_id = $1 order by revision", [
		id,
	]);
	return r.rows.map((e) => Number(e.revision));
};
const move = async (id: string, to: Parameters<typeof moveHead>[2]) =>
	moveHead(pool, id, to, randomUUID(), (await readShot(pool, id)).sequence);

describe("a database of an earlier version", () => {
	it("opens as the present schema has it, with the same picture", async () => {
		expect([...stored.keys()].sort()).toEqual(["every", "flat", "lantern"]);
		for (const [id, old] of stored) {
			expect(old.version).toBe(1);
			const { document } = await readShot(pool, id);
			expect(ShotDocument.parse(document)).toEqual(document);
			expect(document).toEqual(upgrade(old));
			const leaning = (old.pieces as { leanDeg: number }[]).map((p) => 0 - p.leanDeg);
			expect(document.pieces.map((p) => p.pitchDeg)).toEqual(leaning);
		}
	});

	it("has all of its edits undone to the beginning and redone", async () => {
		for (const id of stored.keys()) {
			const end = await readShot(pool, id);
			let state = end;
			let steps = 0;
			for (; state.canUndo; steps++) state = await move(id, "undo");
			expect(state.revision).toBe(0);
			expect(ShotDocument.parse(state.document)).toEqual(state.document);
			// Of several branches redo takes the newest; the way back to where it was is opened by its number.
			for (let n = 0; n < steps && state.canRedo; n++) {
				state = await move(id, "redo");
				expect(ShotDocument.parse(state.document)).toEqual(state.document);
			}
			state = await move(id, { open: end.revision });
			expect(state.document).toEqual(end.document);
		}
	});

	it("opens every revision of every branch, by any way", async () => {
		const all = await revisions("every");
		const seen = new Map<number, ShotDocument>();
		for (const n of [...all, 0, ...[...all].reverse()]) {
			const { document } = await move("every", { open: n });
			expect(ShotDocument.parse(document)).toEqual(document);
			if (seen.has(n)) expect(document).toEqual(seen.get(n));
			seen.set(n, document);
		}
		const leaning = [...seen.values()].flatMap((d) => d.pieces.map((p) => p.pitchDeg));
		expect(new Set(leaning)).toEqual(new Set([0, -12, -4, 30, -90]));
	});

	it("goes on under the present schema, on the newest branch and on old ones, and finds back", async () => {
		const [first, , third] = await revisions("every");
		const edit = async (e: object) =>
			commitEdit(pool, "every", e, randomUUID(), (await readShot(pool, "every")).sequence);
		const old = (await move("every", { open: third })).document;
		const rolled = await edit({ name: "piece.add", pieces: [newPiece("new", "sphere", { rollDeg: 33 })] });
		const versions = await pool.query(
			"select distinct schema_version as v from edits where shot_id = 'every' order by v",
		);
		expect(versions.rows.map((r) => r.v)).toEqual([1, DOCUMENT_VERSION]);
		expect((await move("every", "undo")).document).toEqual(old);
		const early = (await move("every", { open: first })).document;
		const titled = await edit({ name: "shot.setTitle", title: "Another way" });
		expect((await move("every", { open: rolled.revision })).document).toEqual(rolled.document);
		expect((await move("every", { open: titled.revision })).document).toEqual(titled.document);
		expect((await move("every", { open: first })).document).toEqual(early);
	});

	it("keeps the head of a shot as it stood, once", async () => {
		const r = await pool.query("select shot_id, schema_version, revision, document from snapshots order by shot_id");
		expect(r.rows.map((s) => [s.shot_id, s.schema_version])).toEqual([
			["every", 1],
			["flat", 1],
			["lantern", 1],
		]);
		for (const s of r.rows) expect(s.document).toEqual(stored.get(s.shot_id));
	});

	it("prints what was ordered before", async () => {
		const claim = await nextUnit(pool);
		const work = await readWork(pool, claim?.printId ?? "");
		expect(ShotDocument.parse(work?.document)).toEqual(work?.document);
	});
});
