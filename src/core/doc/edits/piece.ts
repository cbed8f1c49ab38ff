/** Pieces. */
import { z } from "zod";
import * as S from "../schema.ts";
import { type Doc, define, EditError, find } from "./define.ts";

const ids = z.array(S.Id).min(1).max(5000);
const each = <T extends z.ZodRawShape>(shape: T) =>
	z.object({
		pieces: z
			.array(z.object({ id: S.Id, ...shape }))
			.min(1)
			.max(5000),
	});

const changePieces = (doc: Doc, changes: { id: string }[]) => {
	for (const { id, ...change } of changes) Object.assign(find(doc.pieces, id, "piece"), change);
};

export const pieceEdits = {
	"piece.add": define("add", z.object({ pieces: z.array(S.Piece).min(1).max(5000) }), (d, e) => {
		const taken = new Set(d.pieces.map((p) => p.id));
		for (const piece of e.pieces) {
			if (taken.has(piece.id)) throw new EditError("taken", `The piece "${piece.id}" is in this shot already.`);
			taken.add(piece.id);
			d.pieces.push(piece);
		}
		if (d.pieces.length > 5000) throw new EditError("full", "A shot holds at most 5,000 pieces. Repeats count as one.");
	}),
	"piece.remove": define("delete", z.object({ ids }), (d, e) => {
		for (const id of e.ids) find(d.pieces, id, "piece");
		const gone = new Set(e.ids);
		d.pieces = d.pieces.filter((p) => !gone.has(p.id));
		// A lamp goes with what carries it.
		d.lamps = d.lamps.filter((l) => l.carriedBy === null || !gone.has(l.carriedBy));
	}),
	"piece.move": define("move", each({ position: S.Piece.shape.position }), (d, e) => changePieces(d, e.pieces)),
	"piece.turn": define(
		"turn",
		each(S.Piece.pick({ headingDeg: true, pitchDeg: true, rollDeg: true }).partial().shape),
		(d, e) => changePieces(d, e.pieces),
	),
	"piece.size": define("size", each({ size: S.Piece.shape.size }), (d, e) => changePieces(d, e.pieces)),
	"piece.push": define(
		"push along the line of sight",
		each({ position: S.Piece.shape.position, size: S.Piece.shape.size, repeat: S.Piece.shape.repeat }),
		(d, e) => changePieces(d, e.pieces),
	),
	"piece.stand": define("stand", z.object({ ids, stands: S.Piece.shape.stands }), (d, e) => {
		for (const id of e.ids) find(d.pieces, id, "piece").stands = e.stands;
	}),
	"piece.rename": define("name", z.object({ id: S.Id, title: S.Piece.shape.name }), (d, e) => {
		find(d.pieces, e.id, "piece").name = e.title;
	}),
	"piece.setSurface": define("surface", z.object({ ids, surface: S.Surface.partial() }), (d, e) => {
		for (const id of e.ids) Object.assign(find(d.pieces, id, "piece").surface, e.surface);
	}),
	"piece.setHidden": define("show or leave out", z.object({ ids, hidden: z.boolean() }), (d, e) => {
		for (const id of e.ids) find(d.pieces, id, "piece").hidden = e.hidden;
	}),
	"piece.setRepeat": define("step and repeat", z.object({ id: S.Id, repeat: S.Repeat.nullable() }), (d, e) => {
		find(d.pieces, e.id, "piece").repeat = e.repeat;
	}),
};
