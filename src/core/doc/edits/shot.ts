/** What the shot is about, and how it is looked at. */
import { z } from "zod";
import * as S from "../schema.ts";
import { define, find } from "./define.ts";

export const shotEdits = {
	"shot.setTitle": define("title", z.object({ title: S.ShotDocument.shape.title }), (d, e) => {
		d.title = e.title;
	}),
	"shot.setIdea": define("idea", z.object({ idea: S.ShotDocument.shape.idea }), (d, e) => {
		d.idea = e.idea;
	}),
	"shot.setCarries": define("what carries it", z.object({ carries: S.ShotDocument.shape.carries.unwrap() }), (d, e) => {
		d.carries = e.carries;
	}),
	"shot.setMood": define("mood", z.object({ mood: S.ShotDocument.shape.mood.unwrap() }), (d, e) => {
		d.mood = e.mood;
	}),
	"sheet.setPurposes": define(
		"headings of the pin-up sheet",
		z.object({ purposes: S.ShotDocument.shape.purposes.unwrap() }),
		(d, e) => {
			d.purposes = e.purposes;
		},
	),
	"target.set": define("palette and values aimed at", z.object({ target: S.Target.nullable() }), (d, e) => {
		if (e.target) find(d.references, e.target.reference, "reference");
		d.target = e.target;
	}),
	"guides.set": define(
		"guides",
		z
			.object({ guides: S.ShotDocument.shape.guides.unwrap(), focalPoint: S.ShotDocument.shape.focalPoint.unwrap() })
			.partial(),
		(d, e) => {
			Object.assign(d, e);
		},
	),
};
