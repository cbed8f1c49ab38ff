import { z } from "zod";
import { filesOfEntry } from "../files.ts";
import * as S from "../schema.ts";
import { type Doc, define, EditError, find, refuseTaken } from "./define.ts";

const ledgerOf = (d: Doc): S.LandEntry[] => d.ground.ledger ?? [];

export const groundEdits = {
	"ground.set": define("ground", S.Ground.omit({ ledger: true }).partial(), (d, e) => {
		Object.assign(d.ground, e);
	}),
	"ground.lay": define("surface of the ground", z.object({ laid: S.Laid.nullable() }), (d, { laid }) => {
		d.groundLaid = laid;
	}),
	"ground.addEntry": define(
		"what happened to the land",
		z.object({ entry: S.LandEntry }),
		(d, { entry }) => {
			refuseTaken(ledgerOf(d), entry.id, "entry");
			if (ledgerOf(d).length === S.MOST_ENTRIES)
				throw new EditError("full", `The land's ledger holds at most ${S.MOST_ENTRIES} entries.`);
			d.ground.ledger = [...ledgerOf(d), entry];
		},
		({ entry }) => filesOfEntry(entry),
	),
	"ground.setEntry": define(
		"what happened to the land",
		z.object({ entry: S.LandEntry }),
		(d, { entry }) => {
			const old = find(ledgerOf(d), entry.id, "entry");
			if (old.kind !== entry.kind)
				throw new EditError(
					"other-kind",
					`The entry "${entry.id}" is a ${old.kind}, which cannot become a ${entry.kind}.`,
				);
			d.ground.ledger = ledgerOf(d).map((own) => (own.id === entry.id ? entry : own));
		},
		({ entry }) => filesOfEntry(entry),
	),
	"ground.stroke": define("stroke over the land", z.object({ id: S.Id, stroke: S.Stroke }), (d, { id, stroke }) => {
		const entry = find(ledgerOf(d), id, "entry");
		if (entry.kind !== "hand")
			throw new EditError("other-kind", `The entry "${id}" is a ${entry.kind}: strokes go to what is shaped by hand.`);
		if (entry.strokes.length === S.MOST_STROKES)
			throw new EditError("full", `An entry holds at most ${S.MOST_STROKES} strokes. Begin another one.`);
		d.ground.ledger = ledgerOf(d).map((own) =>
			own.id === id ? { ...entry, strokes: [...entry.strokes, stroke] } : own,
		);
	}),
	"ground.moveEntry": define(
		"order of what happened to the land",
		z.object({
			id: S.Id,
			to: z
				.int()
				.min(0)
				.max(S.MOST_ENTRIES - 1),
		}),
		(d, { id, to }) => {
			const entry = find(ledgerOf(d), id, "entry");
			if (to >= ledgerOf(d).length)
				throw new EditError("not-found", `The land's ledger has ${ledgerOf(d).length} entries.`);
			const others = ledgerOf(d).filter((own) => own.id !== id);
			d.ground.ledger = [...others.slice(0, to), entry, ...others.slice(to)];
		},
	),
	"ground.removeEntry": define("take out of the ledger", z.object({ id: S.Id }), (d, { id }) => {
		find(ledgerOf(d), id, "entry");
		const left = ledgerOf(d).filter((own) => own.id !== id);
		if (left.length) d.ground.ledger = left;
		else delete d.ground.ledger;
	}),
	"water.set": define("water", S.Water.partial(), (d, e) => {
		Object.assign(d.water, e);
	}),
};
