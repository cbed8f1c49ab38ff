/** Groups of pieces. */
import { z } from "zod";
import { groupsAbout } from "../groups.ts";
import * as S from "../schema.ts";
import { type Doc, define, EditError, find, put, refuseTaken } from "./define.ts";

/** Ids of pieces and of groups. */
const members = { pieces: z.array(S.Id).max(5000), groups: z.array(S.Id).max(S.MOST_GROUPS) };

/** Puts pieces and groups into a group, or, with null, into none. */
function putInto(doc: Doc, { pieces, groups }: { pieces: string[]; groups: string[] }, into: string | null): void {
	const all = doc.groups ?? [];
	const target = into === null ? null : find(all, into, "group");
	const set = (of: { group?: string }) => {
		if (into === null) delete of.group;
		else of.group = into;
	};
	for (const id of groups) {
		const group = find(all, id, "group");
		if (target && (id === into || groupsAbout(target, all).some((g) => g.id === id)))
			throw new EditError("in-itself", `The group "${group.name}" cannot be put into itself.`);
		set(group);
	}
	for (const id of pieces) set(find(doc.pieces, id, "piece"));
}

/** Adds groups, each in one that is there or comes with it. */
export function addGroups(doc: Doc, groups: readonly S.Group[] = []): void {
	const all = doc.groups ?? [];
	for (const group of groups) refuseTaken(all, group.id, "group");
	if (all.length + groups.length > S.MOST_GROUPS)
		throw new EditError("full", `A shot holds at most ${S.MOST_GROUPS.toLocaleString("en")} groups.`);
	if (groups.length) doc.groups = [...all, ...groups];
	for (const { group } of groups) if (group !== undefined) find(doc.groups ?? [], group, "group");
}

/** Takes away groups that hold nothing any more. */
export function dropEmpty(doc: Doc): void {
	for (let groups = doc.groups; groups?.length; ) {
		const used = new Set([...doc.pieces, ...groups].map((of) => of.group));
		const left = groups.filter((g) => used.has(g.id));
		if (left.length === groups.length) return;
		doc.groups = left;
		groups = left;
	}
}

export const groupEdits = {
	"group.make": define("group", z.object({ group: S.Group, ...members }), (d, e) => {
		if (e.pieces.length + e.groups.length === 0)
			throw new EditError("empty-group", "A group needs a piece: select the pieces first.");
		addGroups(d, [e.group]);
		putInto(d, e, e.group.id);
		dropEmpty(d);
	}),
	"group.put": define("put into another group", z.object({ ...members, into: S.Id.nullable() }), (d, e) => {
		putInto(d, e, e.into);
		dropEmpty(d);
	}),
	"group.part": define("part the group", z.object({ id: S.Id }), (d, { id }) => {
		const { group: about } = find(d.groups ?? [], id, "group");
		for (const of of [...d.pieces, ...(d.groups ?? [])]) {
			if (of.group !== id) continue;
			if (about === undefined) delete of.group;
			else of.group = about;
		}
		d.groups = d.groups?.filter((g) => g.id !== id);
	}),
	"set.put": define("keep as a set", z.object({ set: S.PieceSet }), (d, e) => {
		for (const id of e.set.pieces) find(d.pieces, id, "piece");
		d.sets = put<S.PieceSet>(d.sets, e.set, S.MOST_SETS);
	}),
	"set.remove": define("forget the set", z.object({ id: S.Id }), (d, { id }) => {
		find(d.sets ?? [], id, "set");
		d.sets = d.sets?.filter((s) => s.id !== id);
	}),
	"group.rename": define("name", z.object({ id: S.Id, title: S.Group.shape.name }), (d, e) => {
		find(d.groups ?? [], e.id, "group").name = e.title;
	}),
	"group.setPivot": define("pivot", z.object({ id: S.Id, pivot: S.Group.shape.pivot.unwrap().nullable() }), (d, e) => {
		const group = find(d.groups ?? [], e.id, "group");
		if (e.pivot) group.pivot = e.pivot;
		else delete group.pivot;
	}),
};
