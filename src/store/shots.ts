/** Shots and the log of their edits. */
import { randomUUID } from "node:crypto";
import type pg from "pg";
import { applyEdit, applyPatches, type Edit, EditError, editLabel, type Patch, parseEdit } from "../core/doc/edits.ts";
import { upgrade } from "../core/doc/migrations.ts";
import type { Checkpoint, HeadMove, HistoryLine, ShotLine, ShotState } from "../core/doc/records.ts";
import { DOCUMENT_VERSION, ShotDocument } from "../core/doc/schema.ts";
import { announce, inTransaction, type Queryable } from "./database.ts";

/** A request that meets another state than it was made for. */
export class StaleError extends Error {
	readonly code = "stale";
	readonly state: ShotState;
	constructor(state: ShotState) {
		super("The shot has changed elsewhere since.");
		this.state = state;
	}
}

export class NoShotError extends Error {
	readonly code = "no-shot";
	constructor(id: string) {
		super(`There is no shot "${id}".`);
	}
}

interface Row {
	id: string;
	title: string;
	document: ShotDocument;
	head: string;
	sequence: string;
}

async function stateOf(db: Queryable, row: Row): Promise<ShotState> {
	const children = await db.query("select 1 from edits where shot_id = $1 and parent = $2 limit 1", [row.id, row.head]);
	return {
		id: row.id,
		title: row.title,
		document: upgrade(row.document),
		revision: Number(row.head),
		sequence: Number(row.sequence),
		canUndo: Number(row.head) > 0,
		canRedo: (children.rowCount ?? 0) > 0,
	};
}

async function lockShot(client: pg.PoolClient, id: string): Promise<Row> {
	const r = await client.query<Row>("select id, title, document, head, sequence from shots where id = $1 for update", [
		id,
	]);
	if (!r.rows[0]) throw new NoShotError(id);
	return { ...r.rows[0], document: upgrade(r.rows[0].document) };
}

export async function createShot(
	pool: pg.Pool,
	document: ShotDocument,
	id: string = randomUUID().slice(0, 8),
): Promise<ShotState> {
	const doc = ShotDocument.parse(document);
	await pool.query("insert into shots (id, title, document) values ($1, $2, $3)", [id, doc.title, JSON.stringify(doc)]);
	await announce(pool, { kind: "shot", id });
	return readShot(pool, id);
}

export async function readShot(db: Queryable, id: string): Promise<ShotState> {
	const r = await db.query<Row>("select id, title, document, head, sequence from shots where id = $1", [id]);
	if (!r.rows[0]) throw new NoShotError(id);
	return stateOf(db, r.rows[0]);
}

/** Shots by title, each with the thumbnail of its latest print. */
export async function listShots(db: Queryable): Promise<ShotLine[]> {
	const r = await db.query<{ id: string; title: string; head: string; updated_at: Date; thumbnail: string | null }>(
		`select s.id, s.title, s.head, s.updated_at,
		   (select p.thumbnail from prints p where p.shot_id = s.id and p.thumbnail is not null order by p.finished_at desc limit 1) as thumbnail
		 from shots s order by s.created_at`,
	);
	return r.rows.map((row) => ({
		id: row.id,
		title: row.title,
		revision: Number(row.head),
		updatedAt: row.updated_at.toISOString(),
		thumbnail: row.thumbnail,
	}));
}

/** Finds a shot by id or by title. Throws {@link NoShotError}. */
export async function findShot(db: Queryable, idOrTitle: string): Promise<ShotState> {
	const r = await db.query<{ id: string }>(
		"select id from shots where id = $1 or title = $1 order by (id = $1) desc, created_at limit 1",
		[idOrTitle],
	);
	if (!r.rows[0]) throw new NoShotError(idOrTitle);
	return readShot(db, r.rows[0].id);
}

async function store(client: pg.PoolClient, row: Row, document: ShotDocument, head: number): Promise<ShotState> {
	const r = await client.query<Row>(
		"update shots set document = $2, title = $3, head = $4, sequence = sequence + 1, updated_at = now() where id = $1 returning id, title, document, head, sequence",
		[row.id, JSON.stringify(document), document.title, head],
	);
	await announce(client, { kind: "shot", id: row.id, sequence: Number(r.rows[0].sequence) });
	return stateOf(client, r.rows[0]);
}

async function isDone(client: pg.PoolClient, shotId: string, clientId: string): Promise<boolean> {
	const r = await client.query(
		"select 1 from edits where shot_id = $1 and client_id = $2 union all select 1 from head_moves where shot_id = $1 and client_id = $2",
		[shotId, clientId],
	);
	return (r.rowCount ?? 0) > 0;
}

/**
 * Applies one edit at the head. `sequence` is the state that the edit was made for; another one throws
 * {@link StaleError}. Sending the same `clientId` again is harmless.
 */
export async function commitEdit(
	pool: pg.Pool,
	shotId: string,
	value: unknown,
	clientId: string,
	sequence: number,
): Promise<ShotState> {
	const edit: Edit = parseEdit(value);
	return inTransaction(pool, async (client) => {
		const row = await lockShot(client, shotId);
		if (await isDone(client, shotId, clientId)) return stateOf(client, row);
		if (Number(row.sequence) !== sequence) throw new StaleError(await stateOf(client, row));
		if (edit.name === "reference.add") {
			const known = await client.query("select 1 from blobs where hash = $1", [edit.reference.blob]);
			if (known.rowCount === 0) throw new EditError("no-blob", "The picture of this reference has not been kept yet.");
		}
		const { document, forward, inverse } = applyEdit(row.document, edit);
		const next = await client.query<{ revision: string }>(
			"select coalesce(max(revision), 0) + 1 as revision from edits where shot_id = $1",
			[shotId],
		);
		const revision = Number(next.rows[0].revision);
		await client.query(
			"insert into edits (shot_id, revision, parent, client_id, schema_version, edit, forward, inverse) values ($1, $2, $3, $4, $5, $6, $7, $8)",
			[
				shotId,
				revision,
				row.head,
				clientId,
				DOCUMENT_VERSION,
				JSON.stringify(edit),
				JSON.stringify(forward),
				JSON.stringify(inverse),
			],
		);
		return store(client, row, document, revision);
	});
}

interface EditRow {
	revision: string;
	parent: string;
	forward: Patch[];
	inverse: Patch[];
}

async function editAt(client: Queryable, shotId: string, revision: number): Promise<EditRow> {
	const r = await client.query<EditRow>(
		"select revision, parent, forward, inverse from edits where shot_id = $1 and revision = $2",
		[shotId, revision],
	);
	if (!r.rows[0]) throw new EditError("no-revision", `There is no revision ${revision} of this shot.`);
	return r.rows[0];
}

/** The document at another revision, reached by inverse patches up to the common ancestor and forward ones down. */
async function documentAt(
	client: Queryable,
	shotId: string,
	document: ShotDocument,
	from: number,
	to: number,
): Promise<ShotDocument> {
	let doc = document;
	let a = from;
	let b = to;
	const down: Patch[][] = [];
	while (a !== b) {
		if (a > b) {
			const edit = await editAt(client, shotId, a);
			doc = applyPatches(doc, edit.inverse);
			a = Number(edit.parent);
		} else {
			const edit = await editAt(client, shotId, b);
			down.push(edit.forward);
			b = Number(edit.parent);
		}
	}
	for (const patches of down.reverse()) doc = applyPatches(doc, patches);
	return doc;
}

/** Moves the head: to the parent, to the newest child, or to any revision. */
export async function moveHead(
	pool: pg.Pool,
	shotId: string,
	move: HeadMove,
	clientId: string,
	sequence: number,
): Promise<ShotState> {
	return inTransaction(pool, async (client) => {
		const row = await lockShot(client, shotId);
		if (await isDone(client, shotId, clientId)) return stateOf(client, row);
		if (Number(row.sequence) !== sequence) throw new StaleError(await stateOf(client, row));
		const head = Number(row.head);
		let to = head;
		if (move === "undo") {
			if (head === 0) throw new EditError("at-start", "This is the beginning of the shot.");
			to = Number((await editAt(client, shotId, head)).parent);
		} else if (move === "redo") {
			const r = await client.query<{ revision: string | null }>(
				"select max(revision) as revision from edits where shot_id = $1 and parent = $2",
				[shotId, head],
			);
			if (!r.rows[0].revision) throw new EditError("at-end", "There is nothing to redo.");
			to = Number(r.rows[0].revision);
		} else {
			if (move.open !== 0) await editAt(client, shotId, move.open);
			to = move.open;
		}
		const document = await documentAt(client, shotId, row.document, head, to);
		const kind = typeof move === "string" ? move : "open";
		await client.query(
			"insert into head_moves (shot_id, client_id, kind, from_revision, to_revision) values ($1, $2, $3, $4, $5)",
			[shotId, clientId, kind, head, to],
		);
		return store(client, row, document, to);
	});
}

/** Names the present place in the log. */
export async function makeCheckpoint(
	pool: pg.Pool,
	shotId: string,
	name: string,
	thumbnail: string | null,
): Promise<Checkpoint> {
	const state = await readShot(pool, shotId);
	const id = randomUUID().slice(0, 8);
	await pool.query(
		"insert into checkpoints (id, shot_id, revision, name, document, thumbnail) values ($1, $2, $3, $4, $5, $6)",
		[id, shotId, state.revision, name, JSON.stringify(state.document), thumbnail],
	);
	await announce(pool, { kind: "shot", id: shotId });
	return { id, name, revision: state.revision, thumbnail, createdAt: new Date().toISOString() };
}

export async function listCheckpoints(db: Queryable, shotId: string): Promise<Checkpoint[]> {
	const r = await db.query<{ id: string; name: string; revision: string; thumbnail: string | null; created_at: Date }>(
		"select id, name, revision, thumbnail, created_at from checkpoints where shot_id = $1 order by created_at desc",
		[shotId],
	);
	return r.rows.map((c) => ({
		id: c.id,
		name: c.name,
		revision: Number(c.revision),
		thumbnail: c.thumbnail,
		createdAt: c.created_at.toISOString(),
	}));
}

/** The latest edits on the way to the head, newest first. */
export async function readHistory(db: Queryable, shotId: string, most = 60): Promise<HistoryLine[]> {
	const r = await db.query<{ revision: string; name: string; what: string | null; created_at: Date }>(
		`with recursive way as (
		   select e.*, 1 as n from edits e join shots s on s.id = e.shot_id where e.shot_id = $1 and e.revision = s.head
		   union all
		   select e.*, way.n + 1 from edits e join way on e.shot_id = way.shot_id and e.revision = way.parent where way.n < $2
		 ) select revision, edit->>'name' as name, edit->'pieces'->0->>'name' as what, created_at from way order by n`,
		[shotId, most],
	);
	return r.rows.map((l) => ({
		revision: Number(l.revision),
		label: l.what ? `${editLabel(l.name)} ${l.what}` : editLabel(l.name),
		at: l.created_at.toISOString(),
	}));
}
