/** Covers. */
import { z } from "zod";
import * as S from "../schema.ts";
import { define, EditError, find, refuseTaken } from "./define.ts";

export const coverEdits = {
	"cover.add": define("add a cover", z.object({ cover: S.Cover }), (d, e) => {
		refuseTaken(d.covers, e.cover.id, "cover");
		d.covers.push(e.cover);
	}),
	"cover.remove": define("delete a cover", z.object({ id: S.Id }), (d, e) => {
		find(d.covers, e.id, "cover");
		d.covers = d.covers.filter((c) => c.id !== e.id);
	}),
	"cover.setDensity": define("density", z.object({ id: S.Id, densityPerM2: S.Cover.shape.densityPerM2 }), (d, e) => {
		find(d.covers, e.id, "cover").densityPerM2 = e.densityPerM2;
	}),
	"cover.set": define(
		"cover",
		z.object({ id: S.Id, change: S.Cover.omit({ id: true, rules: true, densityPerM2: true }).partial() }),
		(d, e) => {
			Object.assign(find(d.covers, e.id, "cover"), e.change);
		},
	),
	"cover.setRule": define("where rule", z.object({ id: S.Id, index: z.int().min(0).max(11), rule: S.Rule }), (d, e) => {
		const rules = find(d.covers, e.id, "cover").rules;
		if (e.index > rules.length) throw new EditError("not-found", `This cover has ${rules.length} where rules.`);
		rules[e.index] = e.rule;
	}),
	"cover.removeRule": define("remove a where rule", z.object({ id: S.Id, index: z.int().min(0).max(11) }), (d, e) => {
		const rules = find(d.covers, e.id, "cover").rules;
		if (e.index >= rules.length) throw new EditError("not-found", `This cover has ${rules.length} where rules.`);
		rules.splice(e.index, 1);
	}),
};
