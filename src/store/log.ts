/** The way through the log of a shot: how the document of any revision is reached from another. */
import { applyPatches, EditError, type Patch } from "../core/doc/edits.ts";
import { migrated, type StoredDocument, upgrade } from "../core/doc/migrations.ts";
import { DOCUMENT_VERSION, type ShotDocument } from "../core/doc/schema.ts";
import type { Queryable } from "./database.ts";

/** A step of the log: the edit that led from its parent to a revision, under the schema of its time. */
interface Step {
	revision: number;
	parent: number;
	version: number;
}

interface Patches {
	forward: Patch[];
	inverse: Patch[];
}

interface Way {
	/** Steps up from where it begins, and then down. */
	up: Step[];
	down: Step[];
}

/**
 * The way through the log from one revision to another, without the patches. Where both lie close together it is found among
 * the steps above the lower of them; else all of the log above them is read. Throws when a revision is not in the log.
 */
async function wayBetween(client: Queryable, shotId: string, from: number, to: number): Promise<Way> {
	for (const floor of [Math.min(from, to), 0]) {
		const r = await client.query<{ revision: string; parent: string; version: number }>(
			`with recursive way as (
			   select revision, parent, schema_version from edits where shot_id = $1 and revision = any($2)
			   union
			   select e.revision, e.parent, e.schema_version from edits e join way on e.shot_id = $1 and e.revision = way.parent
			     where e.revision >= $3
			 ) select revision, parent, schema_version as version from way`,
			[shotId, [from, to], floor],
		);
		const steps = new Map(
			r.rows.map((s) => [
				Number(s.revision),
				{ revision: Number(s.revision), parent: Number(s.parent), version: s.version },
			]),
		);
		for (const n of [from, to])
			if (n !== 0 && !steps.has(n)) throw new EditError("no-revision", `There is no revision ${n} of this shot.`);
		const way = meet(steps, from, to);
		if (way) return way;
	}
	throw new Error(`The log of the shot ${shotId} has a gap.`);
}

/** Steps from one revision up to where its way meets that of another, and down to that; null when a step is not there. */
function meet(steps: ReadonlyMap<number, Step>, from: number, to: number): Way | null {
	const up: Step[] = [];
	const down: Step[] = [];
	let [a, b] = [from, to];
	// A parent always has the lower number.
	while (a !== b) {
		const step = steps.get(Math.max(a, b));
		if (!step) return null;
		if (a > b) {
			up.push(step);
			a = step.parent;
		} else {
			down.push(step);
			b = step.parent;
		}
	}
	return { up, down: down.reverse() };
}

export async function parentOf(client: Queryable, shotId: string, revision: number): Promise<number> {
	const r = await client.query<{ parent: string }>("select parent from edits where shot_id = $1 and revision = $2", [
		shotId,
		revision,
	]);
	return Number(r.rows[0].parent);
}

async function patchesOf(client: Queryable, shotId: string, steps: readonly Step[]): Promise<Map<number, Patches>> {
	const r = await client.query<Patches & { revision: string }>(
		"select revision, forward, inverse from edits where shot_id = $1 and revision = any($2)",
		[shotId, steps.map((s) => s.revision)],
	);
	return new Map(r.rows.map((row) => [Number(row.revision), row]));
}

export interface Snapshot {
	revision: number;
	document: StoredDocument;
}

/**
 * The document at another revision, as the present schema has it: by inverse patches up to where the ways meet and by
 * forward ones down. Patches fit documents of the schema of their own time alone: where a step is of an earlier one, the way
 * begins at the snapshot of the shot's oldest schema, and the document is taken from schema to schema on its way down.
 */
export async function documentAt(client: Queryable, shotId: string, head: Snapshot, to: number): Promise<ShotDocument> {
	let from = head;
	let way = await wayBetween(client, shotId, head.revision, to);
	if ([...way.up, ...way.down].some((s) => s.version !== DOCUMENT_VERSION)) {
		from = await oldestSnapshot(client, shotId);
		way = await wayBetween(client, shotId, from.revision, to);
	}
	const patches = await patchesOf(client, shotId, [...way.up, ...way.down]);
	let doc = migrated(from.document, from.document.version);
	const go = (step: Step, side: "forward" | "inverse") => {
		if (step.version > doc.version) doc = migrated(doc, step.version);
		doc = applyPatches(doc, (patches.get(step.revision) as Patches)[side]);
	};
	for (const step of way.up) go(step, "inverse");
	for (const step of way.down) go(step, "forward");
	return upgrade(doc);
}

async function oldestSnapshot(client: Queryable, shotId: string): Promise<Snapshot> {
	const r = await client.query<{ revision: string; document: StoredDocument }>(
		"select revision, document from snapshots where shot_id = $1 order by schema_version limit 1",
		[shotId],
	);
	if (!r.rows[0]) throw new Error(`The shot ${shotId} has steps of an earlier schema and no snapshot of it.`);
	return { revision: Number(r.rows[0].revision), document: r.rows[0].document };
}
