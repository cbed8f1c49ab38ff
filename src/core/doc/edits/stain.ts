/** What lies over several things at once, and strokes of the brush that says where. */
import { current, isDraft } from "immer";
import { z } from "zod";
import * as S from "../schema.ts";
import { type Doc, define, EditError, find, put } from "./define.ts";

/** Masks that some where still names: others are left of what was struck out. */
function named(d: Doc): S.Mask[] {
	const { pieces, stains, groundLaid, covers, masks = [] } = (isDraft(d) ? current(d) : d) as S.ShotDocument;
	const words = JSON.stringify([pieces.map((p) => p.surface), stains, groundLaid, covers.map((c) => c.laid)]);
	return masks.filter(({ id }) => words.includes(`"mask":"${id}"`));
}

export const stainEdits = {
	"stain.set": define("stain", z.object({ stain: S.Stain }), (d, { stain }) => {
		d.stains = put(d.stains, stain, S.MOST_STAINS);
	}),
	"stain.remove": define("take off a stain", z.object({ id: S.Id }), (d, { id }) => {
		find(d.stains ?? [], id, "stain");
		d.stains = d.stains?.filter((own) => own.id !== id);
		if (!d.stains?.length) delete d.stains;
	}),
	/** A stroke of a mask, which begins with its first. */
	"mask.stroke": define(
		"stroke of the brush",
		z.object({ id: S.Id, on: S.Id.nullable(), stroke: S.MaskStroke }),
		(d, { id, on, stroke }) => {
			if (on) find(d.pieces, on, "piece");
			const own = d.masks?.find((mask) => mask.id === id);
			if (own && own.on !== on)
				throw new EditError("other-kind", "This mask lies on something else: strokes of one lie in the same metres.");
			if (own && own.strokes.length === S.MOST_MASK_STROKES)
				throw new EditError("full", `A mask holds at most ${S.MOST_MASK_STROKES} strokes. Paint another one over it.`);
			if (!own && d.masks?.length === S.MOST_MASKS) d.masks = named(d);
			d.masks = put(d.masks, { id, on, strokes: [...(own?.strokes ?? []), stroke] }, S.MOST_MASKS);
		},
	),
	"mask.clear": define("clear what is painted", z.object({ id: S.Id }), (d, { id }) => {
		find(d.masks ?? [], id, "mask");
		d.masks = d.masks?.filter((own) => own.id !== id);
		if (!d.masks?.length) delete d.masks;
	}),
};
