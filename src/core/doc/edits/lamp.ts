/** Lamps. */
import { z } from "zod";
import * as S from "../schema.ts";
import { define, EditError, find, refuseTaken } from "./define.ts";
import { dropTracks } from "./move.ts";

export const lampEdits = {
	"lamp.add": define("add", z.object({ lamps: z.array(S.Lamp).min(1).max(2000) }), (d, e) => {
		for (const lamp of e.lamps) {
			refuseTaken(d.lamps, lamp.id, "lamp");
			if (lamp.carriedBy !== null) find(d.pieces, lamp.carriedBy, "piece");
			d.lamps.push(lamp);
		}
		if (d.lamps.length > 2000)
			throw new EditError("full", "A shot holds at most 2,000 lamps. A lamp on a repeated piece counts as one.");
	}),
	"lamp.remove": define("delete a lamp", z.object({ id: S.Id }), (d, e) => {
		find(d.lamps, e.id, "lamp");
		d.lamps = d.lamps.filter((l) => l.id !== e.id);
		dropTracks(d, new Set([e.id]));
	}),
	"lamp.set": define("lamp", z.object({ id: S.Id, change: S.Lamp.omit({ id: true }).partial() }), (d, e) => {
		const lamp = find(d.lamps, e.id, "lamp");
		if (e.change.carriedBy) find(d.pieces, e.change.carriedBy, "piece");
		Object.assign(lamp, e.change);
	}),
};
