/** Shots and the log of their edits. */
import { randomUUID } from "node:crypto";
import type pg from "pg";
import { applyEdit, type Edit, EditError, editLabel, filesBrought, parseEdit } from "../core/doc/edits.ts";
import { type StoredDocument, upgrade } from "../core/doc/migrations.ts";
import type {
	Checkpoint,
	HeadMove,
	HistoryLine,
	LeftBehind,
	ShotLine,
	ShotStanding,
	ShotState,
} from "../core/doc/records.ts";
import { patchesBetween, RETURN, type Return } from "../core/doc/return.ts";
import { DOCUMENT_VERSION, ShotDocument } from "../core/doc/schema.ts";
import { tellEdit } from "../core/doc/telling.ts";
import { noteFiles } from "./blobs.ts";
import { announce, inTransaction, type Queryable } from "./database.ts";
import { documentAt, parentOf } from "./log.ts";

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

interface Standing {
	id: string;
	title: string;
	head: string;
	sequence: string;
}

interface Row extends Standing {
	document: ShotDocument;
}

/** How a shot stands, without its document. */
async function standingOf(db: Queryable, row: Standing): Promise<ShotStanding> {
	const r = await db.query<{ children: boolean; stands: string | null }>(
		`select exists (select 1 from edits where shot_id = $1 and parent = $2) as children,
		   (select edit->>'to' from edits where shot_id = $1 and revision = $2 and edit->>'name' = '${RETURN}') as stands`,
		[row.id, row.head],
	);
	const { children, stands } = r.rows[0];
	return {
		id: row.id,
		title: row.title,
		revision: Number(row.head),
		standsFor: Number(stands ?? row.head),
		sequence: Number(row.sequence),
		canUndo: Number(row.head) > 0,
		canRedo: children,
	};
}

const stateOf = async (db: Queryable, row: Row): Promise<ShotState> => ({
	...(await standingOf(db, row)),
	document: upgrade(row.document),
});

export async function readStanding(db: Queryable, id: string): Promise<ShotStanding> {
	const r = await db.query<Standing>("select id, title, head, sequence from shots where id = $1", [id]);
	if (!r.rows[0]) throw new NoShotError(id);
	return standingOf(db, r.rows[0]);
}

/**
 * Locks a shot to change it. One whose document is of an earlier schema is brought to the present one first: its head as it
 * stood is kept as a snapshot, from which the states of that time are reached by patches of that time.
 */
async function lockShot(client: pg.PoolClient, id: string): Promise<Row> {
	const r = await client.query<Row>("select id, title, document, head, sequence from shots where id = $1 for update", [
		id,
	]);
	const row = r.rows[0];
	if (!row) throw new NoShotError(id);
	const stored = row.document as unknown as StoredDocument;
	if (stored.version === DOCUMENT_VERSION) return row;
	await client.query(
		`insert into snapshots (shot_id, schema_version, revision, document) values ($1, $2, $3, $4)
		 on conflict (shot_id, schema_version) do nothing`,
		[id, stored.version, row.head, JSON.stringify(stored)],
	);
	const document = upgrade(stored);
	await client.query("update shots set document = $2 where id = $1", [id, JSON.stringify(document)]);
	return { ...row, document };
}

export async function createShot(
	pool: pg.Pool,
	document: ShotDocument,
	id: string = randomUUID().slice(0, 8),
): Promise<ShotState> {
	const doc = ShotDocument.parse(document);
	const words = JSON.stringify(doc);
	await inTransaction(pool, async (client) => {
		await client.query("insert into shots (id, title, document) values ($1, $2, $3)", [id, doc.title, words]);
		await noteFiles(client, id, words);
		await announce(client, { kind: "shot", id });
	});
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
		   (select f.thumbnail from prints p join frames f on f.print_id = p.id
		     where p.shot_id = s.id and f.thumbnail is not null order by p.finished_at desc nulls last, f.turn limit 1) as thumbnail
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
	const r = await client.query<{ sequence: string }>(
		"update shots set document = $2, title = $3, head = $4, sequence = sequence + 1, updated_at = now() where id = $1 returning sequence",
		[row.id, JSON.stringify(document), document.title, head],
	);
	const { sequence } = r.rows[0];
	await announce(client, { kind: "shot", id: row.id, sequence: Number(sequence) });
	return stateOf(client, { ...row, document, title: document.title, head: String(head), sequence });
}

async function isDone(client: pg.PoolClient, shotId: string, clientId: string): Promise<boolean> {
	const r = await client.query(
		"select 1 from edits where shot_id = $1 and client_id = $2 union all select 1 from head_moves where shot_id = $1 and client_id = $2",
		[shotId, clientId],
	);
	return (r.rowCount ?? 0) > 0;
}

/** Refuses an edit that brings files which have not been kept. */
async function checkFiles(client: Queryable, edit: Edit): Promise<void> {
	const brought = filesBrought(edit);
	if (brought.length === 0) return;
	const r = await client.query<{ hash: string }>("select hash from blobs where hash = any($1)", [
		brought.map((f) => f.blob),
	]);
	const known = new Set(r.rows.map((b) => b.hash));
	const missing = brought.find((f) => !known.has(f.blob));
	if (missing) throw new EditError("no-blob", `The ${missing.what} has not been kept yet.`);
}

/** The value of a function; what it throws is told with its place in a list. */
function attempt<T>(make: () => T, at: number, refused: (at: number, error: unknown) => never): T {
	try {
		return make();
	} catch (error) {
		return refused(at, error);
	}
}

const asItIs = (_at: number, error: unknown): never => {
	throw error;
};

async function lastRevision(client: Queryable, shotId: string): Promise<number> {
	const r = await client.query<{ last: string }>(
		"select coalesce(max(revision), 0) as last from edits where shot_id = $1",
		[shotId],
	);
	return Number(r.rows[0].last);
}

/** A line of the log that follows another. */
interface LogLine {
	revision: number;
	parent: number;
	clientId: string;
	edit: Edit | Return;
	told: string;
	forward: unknown;
	inverse: unknown;
}

async function append(client: Queryable, shotId: string, line: LogLine): Promise<void> {
	const [edit, forward, inverse] = [line.edit, line.forward, line.inverse].map((v) => JSON.stringify(v));
	await client.query(
		"insert into edits (shot_id, revision, parent, client_id, schema_version, edit, forward, inverse, told) values ($1, $2, $3, $4, $5, $6, $7, $8, $9)",
		[shotId, line.revision, line.parent, line.clientId, DOCUMENT_VERSION, edit, forward, inverse, line.told],
	);
	await noteFiles(client, shotId, edit, forward, inverse);
}

/** Applies edits at the head, one after the other, each as a step of its own. `refused` is told of one that cannot be. */
async function applyAtHead(
	client: pg.PoolClient,
	row: Row,
	edits: { edit: Edit; clientId: string }[],
	refused: (at: number, error: unknown) => never,
): Promise<ShotState> {
	let { document } = row;
	let head = Number(row.head);
	let last = await lastRevision(client, row.id);
	for (const [at, { edit, clientId }] of edits.entries()) {
		await checkFiles(client, edit).catch((error) => refused(at, error));
		const applied = attempt(() => applyEdit(document, edit), at, refused);
		last++;
		const told = tellEdit(edit, document, applied.document);
		const { forward, inverse } = applied;
		await append(client, row.id, { revision: last, parent: head, clientId, edit, told, forward, inverse });
		document = applied.document;
		head = last;
	}
	return store(client, row, document, head);
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
		return applyAtHead(client, row, [{ edit, clientId }], asItIs);
	});
}

/** An edit of a list that is refused, and with it all of the list. */
export class EditListError extends EditError {
	/** Its place in the list. */
	readonly at: number;
	constructor(cause: EditError, at: number) {
		super(cause.code, cause.message);
		this.at = at;
	}
}

/** Applies a list of edits at the head as it stands, in one transaction. Throws {@link EditListError}; then none is applied. */
export async function commitEdits(pool: pg.Pool, shotId: string, values: readonly unknown[]): Promise<ShotState> {
	const refused = (at: number, error: unknown): never => {
		throw error instanceof EditError ? new EditListError(error, at) : error;
	};
	const edits = values.map((value, at) => ({
		edit: attempt(() => parseEdit(value), at, refused),
		clientId: randomUUID(),
	}));
	return inTransaction(pool, async (client) => {
		const row = await lockShot(client, shotId);
		return edits.length ? applyAtHead(client, row, edits, refused) : stateOf(client, row);
	});
}

/** The revision that is meant by a move of the head by a step. */
async function stepTo(client: Queryable, shotId: string, head: number, move: "undo" | "redo"): Promise<number> {
	if (move === "undo") {
		if (head === 0) throw new EditError("at-start", "This is the beginning of the shot.");
		return parentOf(client, shotId, head);
	}
	const r = await client.query<{ revision: string | null }>(
		"select max(revision) as revision from edits where shot_id = $1 and parent = $2",
		[shotId, head],
	);
	if (!r.rows[0].revision) throw new EditError("at-end", "There is nothing to redo.");
	return Number(r.rows[0].revision);
}

/** The revision whose document another one has, and what the sheet calls it. */
async function meantBy(client: Queryable, shotId: string, revision: number): Promise<{ to: number; called: string }> {
	const r = await client.query<{ edit: { name: string; to?: number }; told: string | null; checkpoint: string | null }>(
		`select edit, told, (select name from checkpoints c where c.shot_id = e.shot_id and c.revision = e.revision order by created_at desc limit 1) as checkpoint
		 from edits e where shot_id = $1 and revision = $2`,
		[shotId, revision],
	);
	const line = r.rows[0];
	if (!line) return { to: revision, called: "the beginning" };
	if (line.edit.name === RETURN) return meantBy(client, shotId, line.edit.to ?? 0);
	return { to: revision, called: line.checkpoint ?? `"${line.told ?? editLabel(line.edit.name)}"` };
}

/**
 * Undo and redo move the head along the log; a return to a revision is an edit at the head that gives the shot the document of
 * then, so that undo takes it back and nothing after it is lost.
 */
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
		const here = { revision: head, document: row.document as unknown as StoredDocument };
		if (typeof move === "string") {
			const to = await stepTo(client, shotId, head, move);
			const document = await documentAt(client, shotId, here, to);
			await client.query(
				"insert into head_moves (shot_id, client_id, kind, from_revision, to_revision) values ($1, $2, $3, $4, $5)",
				[shotId, clientId, move, head, to],
			);
			return store(client, row, document, to);
		}
		const { to, called } = await meantBy(client, shotId, move.open);
		const document = await documentAt(client, shotId, here, to);
		const revision = (await lastRevision(client, shotId)) + 1;
		await append(client, shotId, {
			revision,
			parent: head,
			clientId,
			edit: { name: RETURN, to },
			told: `return to ${called}`,
			...patchesBetween(row.document, document),
		});
		return store(client, row, document, revision);
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
	const r = await db.query<LoggedLine>(
		`with recursive way as (
		   select e.*, 1 as n from edits e join shots s on s.id = e.shot_id where e.shot_id = $1 and e.revision = s.head
		   union all
		   select e.*, way.n + 1 from edits e join way on e.shot_id = way.shot_id and e.revision = way.parent where way.n < $2
		 ) select revision, edit->>'name' as name, told, created_at from way order by n`,
		[shotId, most],
	);
	return r.rows.map(toHistory);
}

interface LoggedLine {
	revision: string;
	name: string;
	told: string | null;
	created_at: Date;
}

const toHistory = ({ revision, name, told, created_at }: LoggedLine): HistoryLine => ({
	revision: Number(revision),
	label: told ?? editLabel(name),
	at: created_at.toISOString(),
});

/**
 * Ends of branches that were left by an edit after an undo, newest first. What redo still leads to has not been left; a
 * branch that ends with a return is told by what came before that, unless the head's own way holds it.
 */
export async function listLeftBehind(db: Queryable, shotId: string, most = 24): Promise<LeftBehind[]> {
	const r = await db.query<LoggedLine & { thumbnail: string | null }>(
		`with recursive ahead as (
		   select head as revision from shots where id = $1
		   union all
		   select (select max(e.revision) from edits e where e.shot_id = $1 and e.parent = ahead.revision) from ahead
		     where exists (select 1 from edits e where e.shot_id = $1 and e.parent = ahead.revision)
		 ), ends as (
		   select e.revision, e.parent, e.edit->>'name' = '${RETURN}' as returns from edits e
		   where e.shot_id = $1 and not exists (select 1 from edits c where c.shot_id = $1 and c.parent = e.revision)
		     and e.revision not in (select revision from ahead)
		   union
		   select e.revision, e.parent, e.edit->>'name' = '${RETURN}' from edits e join ends on e.shot_id = $1 and e.revision = ends.parent and ends.returns
		 ), way as (
		   select head as revision from shots where id = $1
		   union all
		   select e.parent from edits e join way on e.shot_id = $1 and e.revision = way.revision
		     where e.parent >= (select min(revision) from ends)
		 ) select e.revision, e.edit->>'name' as name, e.told, e.created_at, l.thumbnail
		 from edits e left join left_behind l on l.shot_id = e.shot_id and l.revision = e.revision
		 where e.shot_id = $1 and e.revision in (select revision from ends where not returns)
		   and e.revision not in (select revision from way)
		 order by e.revision desc limit $2`,
		[shotId, most],
	);
	return r.rows.map((row) => ({ ...toHistory(row), thumbnail: row.thumbnail }));
}

/** Keeps the frame as it stood at a revision from which an undo led away. */
export async function picturedBefore(
	pool: pg.Pool,
	shotId: string,
	revision: number,
	thumbnail: string,
): Promise<void> {
	await pool.query(
		`insert into left_behind (shot_id, revision, thumbnail)
		 select shot_id, revision, $3 from edits where shot_id = $1 and revision = $2
		 on conflict (shot_id, revision) do update set thumbnail = excluded.thumbnail`,
		[shotId, revision, thumbnail],
	);
	await announce(pool, { kind: "shot", id: shotId });
}

/** How a shot stands in its log, without its document. */
export interface ShotLog {
	standing: ShotStanding;
	checkpoints: Checkpoint[];
	history: HistoryLine[];
	left: LeftBehind[];
}

export async function readLog(db: Queryable, shotId: string): Promise<ShotLog> {
	const [standing, checkpoints, history, left] = await Promise.all([
		readStanding(db, shotId),
		listCheckpoints(db, shotId),
		readHistory(db, shotId),
		listLeftBehind(db, shotId),
	]);
	return { standing, checkpoints, history, left };
}
