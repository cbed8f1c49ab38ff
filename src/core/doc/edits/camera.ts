/** The camera, and those that are kept. */
import { z } from "zod";
import { exposed, usualExposure } from "../exposure.ts";
import { filesOfCandidate } from "../files.ts";
import * as S from "../schema.ts";
import { type Doc, define, EditError, find, refuseTaken } from "./define.ts";

const Lens = S.Camera.pick({ focalMm: true, fStop: true, focusM: true, ev100: true })
	.extend({ focusOn: S.Id.nullable() })
	.partial();
const Pose = S.Camera.pick({ position: true, headingDeg: true, pitchDeg: true, rollDeg: true });

function unlocked(doc: Doc): S.Camera {
	if (doc.camera.locked) throw new EditError("locked", "The camera is locked. Unlock it first.");
	return doc.camera;
}

/** Sets the shift; none is no field, so that a lens that was never shifted and one set back are the same. */
const shift = (camera: Doc["camera"], [right, up]: [number, number]) => {
	if (right === 0 && up === 0) delete camera.shiftMm;
	else camera.shiftMm = [right, up];
};

/** Takes another camera's pose, lens and frame, and locks it. */
const lookThrough = (camera: Doc["camera"], { shiftMm, ...taken }: Partial<Doc["camera"]>) => {
	Object.assign(camera, taken, { locked: true });
	shift(camera, shiftMm ?? [0, 0]);
};

export const cameraEdits = {
	"camera.take": define(
		"take and lock the match",
		Pose.extend({
			focalMm: S.Camera.shape.focalMm,
			shiftMm: S.Camera.shape.shiftMm,
			ratio: S.Camera.shape.ratio,
			film: S.FilmBack.optional(),
		}),
		(d, e) => {
			lookThrough(unlocked(d), e);
			// The reference has done its work over the frame; it stays one click away.
			if (d.shown.mode === "over") d.shown.mode = "off";
		},
	),
	"candidate.keep": define(
		"keep a camera",
		z.object({ candidate: S.Candidate }),
		(d, e) => {
			d.candidates ??= [];
			refuseTaken(d.candidates, e.candidate.id, "camera");
			d.candidates.push(e.candidate);
			if (d.candidates.length > 24) throw new EditError("full", "24 cameras are kept at most. Take one away first.");
		},
		(e) => filesOfCandidate(e.candidate),
	),
	"candidate.rename": define("name a camera", z.object({ id: S.Id, title: S.Candidate.shape.name }), (d, e) => {
		find(d.candidates ?? [], e.id, "camera").name = e.title;
	}),
	"candidate.remove": define("take a camera away", z.object({ id: S.Id }), (d, e) => {
		find(d.candidates ?? [], e.id, "camera");
		d.candidates = d.candidates?.filter((c) => c.id !== e.id);
	}),
	"candidate.take": define("take a kept camera", z.object({ id: S.Id }), (d, e) => {
		const { camera } = find(d.candidates ?? [], e.id, "camera");
		lookThrough(unlocked(d), camera);
	}),
	"camera.place": define(
		"place the camera",
		Pose.extend({ shiftMm: S.Camera.shape.shiftMm }).partial(),
		(d, { shiftMm, ...pose }) => {
			Object.assign(unlocked(d), pose);
			if (shiftMm) shift(d.camera, shiftMm);
		},
	),
	"camera.setLocked": define("lock or unlock", z.object({ locked: z.boolean() }), (d, e) => {
		d.camera.locked = e.locked;
	}),
	"camera.setLens": define("lens", Lens, (d, e) => {
		if (e.focalMm !== undefined && e.focalMm !== d.camera.focalMm) unlocked(d);
		const { focusOn, ...lens } = e;
		if (focusOn) find(d.pieces, focusOn, "piece");
		if (focusOn === null) delete d.camera.focusOn;
		else if (focusOn !== undefined) d.camera.focusOn = focusOn;
		Object.assign(d.camera, lens);
		// An exposure that is set by itself is held; else it follows from the f-stop where it is to.
		if (lens.ev100 !== undefined && d.camera.exposure) d.camera.exposure.follows = false;
		d.camera.ev100 = exposed(d.camera).ev100;
	}),
	"camera.setExposure": define("exposure", S.Camera.shape.exposure.unwrap().partial(), (d, e) => {
		d.camera.exposure = { ...usualExposure(), ...d.camera.exposure, ...e };
		d.camera.ev100 = exposed(d.camera).ev100;
	}),
	"camera.setFilm": define("film back", S.Camera.pick({ film: true, ratio: true }).partial(), (d, e) => {
		Object.assign(unlocked(d), e);
	}),
};
