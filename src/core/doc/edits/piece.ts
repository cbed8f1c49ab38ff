/** Pieces. */
import { current, isDraft, original } from "immer";
import { z } from "zod";
import { cameraAxes } from "../../maths/axes.ts";
import { cos, DEG, millimetres, sin, wrapDeg } from "../../maths/functions.ts";
import { actedOn, actsOnItself } from "../acts.ts";
import { metres } from "../schema/numbers.ts";
import * as S from "../schema.ts";
import { type Doc, define, EditError, find } from "./define.ts";
import { addGroups, dropEmpty } from "./group.ts";
import { dropTracks } from "./move.ts";
import { carryPivots, placesOfGrouped } from "./pivots.ts";

const MOST_PIECES = 5000;
const FULL = "A shot holds at most 5,000 pieces. Repeats count as one.";

const ids = z.array(S.Id).min(1).max(5000);
const each = <T extends z.ZodRawShape>(shape: T) =>
	z.object({
		pieces: z
			.array(z.object({ id: S.Id, ...shape }))
			.min(1)
			.max(5000),
	});

const Added = z.object({
	pieces: z.array(S.Piece).min(1).max(5000),
	groups: z.array(S.Group).max(S.MOST_GROUPS).optional(),
});

/** Pieces at another place and of another size, all their lengths a multiple of what they were. */
const scaled = each({
	position: S.Piece.shape.position,
	size: S.Piece.shape.size,
	repeat: S.Piece.shape.repeat,
	shape: S.Shape.optional(),
});

/** A piece with measures in metres is no more of one shape with those that it has left in size. */
function changeAsLarge(doc: Doc, { pieces }: z.infer<typeof scaled>): void {
	for (const { id, shape } of pieces) {
		const piece = find(doc.pieces, id, "piece");
		if (shape && JSON.stringify(shape) !== JSON.stringify(piece.shape)) delete piece.shared;
	}
	changeAndCarry(doc, pieces);
}

const changePieces = (doc: Doc, changes: { id: string }[]) => {
	for (const { id, ...change } of changes) Object.assign(find(doc.pieces, id, "piece"), change);
};

/** Pieces that stand on one of these, or on one that does; those of `without` and what stands on them are not among them. */
function standingOn(doc: Doc, on: ReadonlySet<string>, without: ReadonlySet<string> = new Set()): Doc["pieces"] {
	const all = new Set(on);
	const out: Doc["pieces"] = [];
	for (let more = true; more; ) {
		more = false;
		for (const piece of doc.pieces) {
			if (typeof piece.stands === "string" || all.has(piece.id) || without.has(piece.id)) continue;
			if (!all.has(piece.stands.on)) continue;
			all.add(piece.id);
			out.push(piece);
			more = true;
		}
	}
	return out;
}

/** Whether any piece stands on another: looked for among what was drafted, since a look through thousands of drafts is dear. */
function standsOnAny(doc: Doc): boolean {
	const { pieces } = (isDraft(doc) ? original(doc) : doc) as S.ShotDocument;
	return pieces.some((p) => typeof p.stands !== "string");
}

/** Likewise whether any does something to another. */
function actsOnAny(doc: Doc): boolean {
	const { pieces } = (isDraft(doc) ? original(doc) : doc) as S.ShotDocument;
	return pieces.some((p) => p.act);
}

/** Refuses to move what is held. */
function checkFree(doc: Doc, ids: readonly string[]): void {
	for (const id of ids) {
		const { held, name } = find(doc.pieces, id, "piece");
		if (held) throw new EditError("held", `"${name}" is held. Let it go before it is moved.`);
	}
}

/** Changes pieces, and moves with each what stands on it. */
function changeAndCarry(doc: Doc, changes: { id: string; position?: number[]; headingDeg?: number }[]): void {
	checkFree(
		doc,
		changes.map((c) => c.id),
	);
	const before = placesOfGrouped(doc);
	if (standsOnAny(doc)) {
		const changed = new Set(changes.map((c) => c.id));
		for (const { id, position, headingDeg } of changes) {
			const support = find(doc.pieces, id, "piece");
			const [fx, , fz] = support.position;
			const turn = ((headingDeg ?? support.headingDeg) - support.headingDeg) % 360;
			const [c, s] = [cos(turn * DEG), sin(turn * DEG)];
			const [tx, , tz] = position ?? support.position;
			for (const piece of standingOn(doc, new Set([id]), changed)) {
				const [x, y, z] = piece.position;
				const [dx, dz] = [x - fx, z - fz];
				piece.position = [tx + c * dx - s * dz, y, tz + s * dx + c * dz];
				if (turn) piece.headingDeg = wrapDeg(piece.headingDeg + turn);
			}
		}
	}
	changePieces(doc, changes);
	carryPivots(doc, before);
}

/** These pieces and all that share a shape with one of them. */
function sharing(doc: Doc, ids: readonly string[]): Doc["pieces"] {
	const own = ids.map((id) => find(doc.pieces, id, "piece"));
	const shared = new Set(own.flatMap((p) => p.shared ?? []));
	if (shared.size === 0) return own;
	const had = new Set(ids);
	const { pieces } = (isDraft(doc) ? original(doc) : doc) as S.ShotDocument;
	const others = pieces.flatMap((p, i) =>
		p.shared !== undefined && shared.has(p.shared) && !had.has(p.id) ? [doc.pieces[i]] : [],
	);
	return [...own, ...others];
}

/** Refuses what a piece cannot stand on: what is not there, itself, or what stands on it. */
function checkStands(doc: Doc, ids: readonly string[], stands: S.Stands): void {
	if (typeof stands === "string") return;
	const { on } = stands;
	find(doc.pieces, on, "piece");
	if (ids.includes(on) || standingOn(doc, new Set(ids)).some((p) => p.id === on))
		throw new EditError("stands-on-itself", "A piece cannot stand on itself, nor on what stands on it.");
}

export const pieceEdits = {
	// `groups`: those of the pieces that come with them. A piece may share the shape of one of which it has the id.
	"piece.add": define("add", Added, (d, e) => {
		const taken = new Set(d.pieces.map((p) => p.id));
		addGroups(d, e.groups);
		for (const piece of e.pieces) {
			if (piece.group !== undefined) find(d.groups ?? [], piece.group, "group");
			if (taken.has(piece.id)) throw new EditError("taken", `The piece "${piece.id}" is in this shot already.`);
			taken.add(piece.id);
			d.pieces.push(piece);
		}
		const begun = new Set(e.pieces.flatMap((p) => (p.shared !== undefined && taken.has(p.shared) ? p.shared : [])));
		for (const id of begun) find(d.pieces, id, "piece").shared ??= id;
		for (const piece of e.pieces) checkStands(d, [piece.id], piece.stands);
		if (d.pieces.length > MOST_PIECES) throw new EditError("full", FULL);
	}),
	"piece.remove": define("delete", z.object({ ids }), (d, e) => {
		for (const id of e.ids) find(d.pieces, id, "piece");
		const gone = new Set(e.ids);
		// What stood on it stays as high as it was, on what that stood on.
		for (const id of standsOnAny(d) ? e.ids : []) {
			const support = find(d.pieces, id, "piece");
			for (const p of d.pieces)
				if (typeof p.stands !== "string" && p.stands.on === id) {
					p.stands = support.stands;
					p.position[1] += support.position[1] + support.size[1];
				}
		}
		d.pieces = d.pieces.filter((p) => !gone.has(p.id));
		dropEmpty(d);
		for (const set of d.sets ?? [])
			if (set.pieces.some((id) => gone.has(id))) set.pieces = set.pieces.filter((id) => !gone.has(id));
		for (const stain of d.stains ?? [])
			if (stain.pieces.some((id) => gone.has(id))) stain.pieces = stain.pieces.filter((id) => !gone.has(id));
		if (d.masks?.some(({ on }) => on !== null && gone.has(on)))
			d.masks = d.masks.filter(({ on }) => on === null || !gone.has(on));
		// What acted on it is a piece by itself again.
		if (actsOnAny(d)) for (const p of d.pieces) if (p.act && actedOn(p, d).length === 0) delete p.act;
		// A lamp goes with what carries it.
		const lamps = d.lamps.filter((l) => l.carriedBy !== null && gone.has(l.carriedBy));
		dropTracks(d, new Set([...gone, ...lamps.map((l) => l.id)]));
		d.lamps = d.lamps.filter((l) => l.carriedBy === null || !gone.has(l.carriedBy));
	}),
	"piece.move": define("move", each({ position: S.Piece.shape.position }), (d, e) => changeAndCarry(d, e.pieces)),
	"piece.turn": define(
		"turn",
		each(
			S.Piece.pick({ headingDeg: true, pitchDeg: true, rollDeg: true, rests: true, position: true }).partial().shape,
		),
		(d, e) => changeAndCarry(d, e.pieces),
	),
	"piece.size": define("size", each({ size: S.Piece.shape.size, mirrored: S.Piece.shape.mirrored }), (d, e) => {
		checkFree(
			d,
			e.pieces.map((p) => p.id),
		);
		const given = new Set(e.pieces.map((p) => p.id));
		for (const { id, size } of e.pieces) {
			const before = find(d.pieces, id, "piece").size;
			for (const other of sharing(d, [id])) {
				if (given.has(other.id)) continue;
				other.size = other.size.map((v, axis) =>
					size[axis] === before[axis] ? v : Math.max(0.001, millimetres((v * size[axis]) / before[axis])),
				) as S.Piece["size"];
			}
		}
		changePieces(d, e.pieces);
	}),
	"piece.push": define("push along the line of sight", scaled, changeAsLarge),
	"piece.scale": define("size together", scaled, changeAsLarge),
	"piece.drop": define(
		"drop",
		each({ stands: S.Piece.shape.stands, position: S.Piece.shape.position, rests: S.Piece.shape.rests }),
		(d, e) => {
			for (const { id, stands } of e.pieces) checkStands(d, [id], stands);
			changeAndCarry(d, e.pieces);
		},
	),
	"piece.stand": define(
		"stand",
		// `upsM`: height over what they stand on from now on, of each in turn; without, as many metres as before.
		z.object({ ids, stands: S.Piece.shape.stands, upsM: z.array(metres).optional() }),
		(d, e) => {
			checkStands(d, e.ids, e.stands);
			checkFree(d, e.ids);
			for (const [i, id] of e.ids.entries()) {
				const piece = find(d.pieces, id, "piece");
				piece.stands = e.stands;
				piece.position[1] = e.upsM?.[i] ?? piece.position[1];
			}
		},
	),
	"piece.setShape": define("shape", z.object({ ids, shape: S.Shape }), (d, e) => {
		for (const piece of sharing(d, e.ids)) piece.shape = e.shape;
	}),
	// They take the shape, the measures and the surface of the piece `of`; with null each goes on by itself.
	"piece.setShared": define("share a shape", z.object({ ids, of: S.Id.nullable() }), (d, e) => {
		const pieces = e.ids.map((id) => find(d.pieces, id, "piece"));
		if (e.of === null) {
			for (const piece of pieces) delete piece.shared;
			return;
		}
		const of = find(d.pieces, e.of, "piece");
		of.shared ??= of.id;
		for (const piece of pieces) {
			piece.shape = of.shape;
			piece.surface = of.surface;
			piece.shared = of.shared;
		}
	}),
	// `by`: how far the foot goes, right, up and away in the piece's own directions; what shares the shape goes with it.
	"piece.redraw": define(
		"line",
		each({ shape: S.Shape, size: S.Piece.shape.size, by: S.Piece.shape.position }),
		(d, e) => {
			checkFree(
				d,
				e.pieces.map((p) => p.id),
			);
			for (const { id, shape, size, by } of e.pieces) {
				const before = find(d.pieces, id, "piece").size;
				for (const piece of sharing(d, [id])) {
					const own = piece.size.map((v, c) => v / before[c]);
					const { right, up, forward } = cameraAxes(piece.headingDeg, piece.pitchDeg, piece.rollDeg);
					piece.position = piece.position.map(
						(v, c) => v + right[c] * by[0] * own[0] + up[c] * by[1] * own[1] + forward[c] * by[2] * own[2],
					) as S.Piece["position"];
					piece.size = size.map((v, c) => Math.max(0.001, v * own[c])) as S.Piece["size"];
					piece.shape = shape;
				}
			}
		},
	),
	"piece.setMeasures": define(
		"measures of the shape",
		z.object({ ids, measures: z.record(z.string(), z.union([z.number(), z.string(), z.null()])) }),
		(d, e) => {
			for (const piece of sharing(d, e.ids)) {
				const { kind } = piece.shape;
				const own = new Set(S.measuresOf(kind).map(([field]) => field));
				const odd = Object.keys(e.measures).find((field) => !own.has(field));
				if (odd) throw new EditError("no-measure", `"${piece.name}" is a ${kind}, which has no measure "${odd}".`);
				const next = S.Shape.safeParse({ ...piece.shape, ...e.measures });
				if (!next.success) {
					const [issue] = next.error.issues;
					throw new EditError("bad-measure", `"${piece.name}": ${issue.path.join(".")}: ${issue.message}`);
				}
				piece.shape = next.data;
			}
		},
	),
	"piece.setApart": define(
		"set copies apart",
		z.object({ id: S.Id, pieces: z.array(S.Piece).min(1).max(S.MOST_COPIES) }),
		(d, e) => {
			const at = d.pieces.indexOf(find(d.pieces, e.id, "piece"));
			const rest = new Set(d.pieces.map((p) => p.id));
			rest.delete(e.id);
			for (const { id } of e.pieces) {
				if (rest.has(id)) throw new EditError("taken", `The piece "${id}" is in this shot already.`);
				rest.add(id);
			}
			// The first goes on as the piece that it was, for what stands on it and what moves it.
			if (e.pieces[0].id !== e.id)
				throw new EditError("first", "The first of the pieces has to keep the name of the repeat.");
			d.pieces.splice(at, 1, ...e.pieces);
			if (d.pieces.length > MOST_PIECES) throw new EditError("full", FULL);
		},
	),
	"piece.rename": define("name", z.object({ id: S.Id, title: S.Piece.shape.name }), (d, e) => {
		find(d.pieces, e.id, "piece").name = e.title;
	}),
	"piece.setSurface": define("surface", z.object({ ids, surface: S.Surface.partial() }), (d, e) => {
		for (const piece of sharing(d, e.ids)) piece.surface = { ...piece.surface, ...e.surface };
	}),
	/** Each with a surface of its own; those that share a shape with one take its. */
	"piece.setSurfaces": define("surfaces", each({ surface: S.Surface.partial() }), (d, e) => {
		for (const { id, surface } of e.pieces)
			for (const piece of sharing(d, [id])) piece.surface = { ...piece.surface, ...surface };
	}),
	"piece.setBank": define("how the ground meets it", z.object({ ids, bank: S.Bank.nullable() }), (d, { ids, bank }) => {
		for (const id of ids) {
			const piece = find(d.pieces, id, "piece");
			if (bank) piece.bank = bank;
			else delete piece.bank;
		}
	}),
	"piece.exchange": define(
		"exchange",
		each({ shape: S.Shape, size: S.Piece.shape.size, surface: S.Surface }),
		(d, e) => {
			// It is another one: what shared its shape goes on without it.
			for (const { id } of e.pieces) delete find(d.pieces, id, "piece").shared;
			changePieces(d, e.pieces);
		},
	),
	"piece.setAct": define("cut, join or meet", z.object({ ids, act: S.Act.nullable() }), (d, e) => {
		if (e.act) {
			const { on } = e.act;
			if (!d.pieces.some((p) => p.id === on)) find(d.groups ?? [], on, "piece or group");
		}
		for (const id of e.ids) {
			const piece = find(d.pieces, id, "piece");
			if (!e.act) delete piece.act;
			else piece.act = e.act;
		}
		// Looked at as it has come to be, without a draft of each of thousands.
		const now = current(d) as S.ShotDocument;
		for (const piece of now.pieces.filter((p) => e.act && e.ids.includes(p.id))) {
			if (actedOn(piece, now).length === 0)
				throw new EditError(
					"acts-on-nothing",
					`"${piece.name}" cannot be cut out of itself, joined to itself or meet itself.`,
				);
			if (actsOnItself(piece, now))
				throw new EditError("acts-on-itself", `"${piece.name}" would act on itself, by what it acts on.`);
		}
	}),
	"piece.setHidden": define("show or leave out", z.object({ ids, hidden: z.boolean() }), (d, e) => {
		for (const id of e.ids) find(d.pieces, id, "piece").hidden = e.hidden;
	}),
	"piece.setHeld": define("hold", z.object({ ids, held: z.boolean() }), (d, e) => {
		for (const id of e.ids) {
			const piece = find(d.pieces, id, "piece");
			if (e.held) piece.held = true;
			else delete piece.held;
		}
	}),
	"piece.setRepeat": define("step and repeat", z.object({ id: S.Id, repeat: S.Repeat.nullable() }), (d, e) => {
		find(d.pieces, e.id, "piece").repeat = e.repeat;
	}),
};
