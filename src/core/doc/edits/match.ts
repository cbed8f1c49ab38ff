/** What is drawn for the match. */
import { z } from "zod";
import * as S from "../schema.ts";
import { type Doc, define, EditError, find, put, refuseTaken } from "./define.ts";

/** What is drawn for the match stays with the reference that it was drawn over. */
function drawnOver({ match, shown }: Doc): void {
	const empty = match.lines.length === 0 && !match.measures?.length && !match.circles?.length && !match.horizon;
	if (empty || !match.reference) match.reference = shown.reference ?? undefined;
}

export const matchEdits = {
	"match.addLine": define("draw a line", z.object({ line: S.MatchLine }), (d, e) => {
		refuseTaken(d.match.lines, e.line.id, "line");
		drawnOver(d);
		d.match.lines.push(e.line);
	}),
	"match.changeLine": define("move a line", z.object({ line: S.MatchLine }), (d, e) => {
		Object.assign(find(d.match.lines, e.line.id, "line"), e.line);
	}),
	"match.removeLine": define("delete a line", z.object({ id: S.Id }), (d, e) => {
		find(d.match.lines, e.id, "line");
		d.match.lines = d.match.lines.filter((l) => l.id !== e.id);
	}),
	"match.addLines": define("take lines", z.object({ lines: z.array(S.MatchLine).min(1).max(200) }), (d, e) => {
		drawnOver(d);
		for (const line of e.lines) {
			refuseTaken(d.match.lines, line.id, "line");
			d.match.lines.push(line);
		}
		if (d.match.lines.length > 200) throw new EditError("full", "A match holds at most 200 lines.");
	}),
	"match.putMeasure": define("known size", z.object({ measure: S.MatchMeasure }), (d, e) => {
		drawnOver(d);
		d.match.measures = put(d.match.measures, e.measure, 40);
	}),
	"match.putCircle": define("circle", z.object({ circle: S.MatchCircle }), (d, e) => {
		drawnOver(d);
		d.match.circles = put(d.match.circles, e.circle, 20);
	}),
	"match.putCurve": define("bent edge", z.object({ curve: S.MatchCurve }), (d, e) => {
		drawnOver(d);
		d.match.curves = put(d.match.curves, e.curve, 40);
	}),
	"match.removeMark": define("delete a mark", z.object({ id: S.Id }), (d, e) => {
		find<{ id: string }>(
			[...(d.match.measures ?? []), ...(d.match.circles ?? []), ...(d.match.curves ?? [])],
			e.id,
			"mark",
		);
		d.match.curves = d.match.curves?.filter((c) => c.id !== e.id);
		d.match.measures = d.match.measures?.filter((m) => m.id !== e.id);
		d.match.circles = d.match.circles?.filter((c) => c.id !== e.id);
	}),
	"match.setHorizon": define("horizon", z.object({ horizon: S.Match.shape.horizon.unwrap() }), (d, e) => {
		drawnOver(d);
		d.match.horizon = e.horizon;
	}),
	"match.set": define("match", S.Match.pick({ centre: true, allCount: true }).partial(), (d, e) => {
		Object.assign(d.match, e);
	}),
	"match.giveFocal": define(
		"give the focal length",
		z.object({ focalMm: S.Camera.shape.focalMm.nullable() }),
		(d, e) => {
			d.match.focalGivenMm = e.focalMm;
		},
	),
	"match.setEyeHeight": define(
		"eye height",
		z.object({ eyeHeightM: S.ShotDocument.shape.match.shape.eyeHeightM }),
		(d, e) => {
			d.match.eyeHeightM = e.eyeHeightM;
		},
	),
};
