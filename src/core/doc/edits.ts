/**
 * Every change of a shot is one of these named edits. Each has one schema and one pure recipe. The interface, the
 * command line, the tests and the demo scripts change a shot in this way only.
 */
import { type Draft, enablePatches, isDraft, original, type Patch, produceWithPatches } from "immer";
import { z } from "zod";
import { atan2, cos, DEG, sin } from "../maths/functions.ts";
import { usualMoon } from "./defaults.ts";
import { sameShape, toFile, toOtherCopy, toShown } from "./look.ts";
import * as S from "./schema.ts";

enablePatches();

/** An edit that cannot be applied: what is wrong, and with what. */
export class EditError extends Error {
	readonly code: string;
	constructor(code: string, message: string) {
		super(message);
		this.code = code;
	}
}

type Doc = Draft<S.ShotDocument>;

interface Definition<T extends z.ZodType> {
	schema: T;
	apply: (doc: Doc, edit: z.infer<T>) => void;
	/** What the history calls it. */
	label: string;
}

const define = <T extends z.ZodType>(
	label: string,
	schema: T,
	apply: (doc: Doc, edit: z.infer<T>) => void,
): Definition<T> => ({
	label,
	schema,
	apply,
});

function find<T extends { id: string }>(list: T[], id: string, what: string): T {
	// Looking through a draft makes a draft of each item passed: of thousands, the place is looked up in what it was drawn from.
	const at = isDraft(list) ? (original<{ id: string }[]>(list)?.findIndex((i) => i.id === id) ?? -1) : -1;
	const item = list[at]?.id === id ? list[at] : list.find((i) => i.id === id);
	if (!item) throw new EditError("not-found", `There is no ${what} "${id}" in this shot.`);
	return item;
}

function refuseTaken(list: { id: string }[], id: string, what: string): void {
	if (list.some((i) => i.id === id)) throw new EditError("taken", `The ${what} "${id}" is in this shot already.`);
}

/** The list with an item added or put in the place of the one of its name. */
function put<T extends { id: string }>(list: T[] | undefined, item: T, most: number): T[] {
	const at = list?.findIndex((i) => i.id === item.id) ?? -1;
	if (!list || at < 0) {
		if ((list?.length ?? 0) >= most) throw new EditError("full", `There are ${most} of these at most.`);
		return [...(list ?? []), item];
	}
	return list.map((i, k) => (k === at ? item : i));
}

/** What is drawn for the match stays with the reference that it was drawn over. */
function drawnOver({ match, shown }: Doc): void {
	const empty = match.lines.length === 0 && !match.measures?.length && !match.circles?.length && !match.horizon;
	if (empty || !match.reference) match.reference = shown.reference ?? undefined;
}

function unlocked(doc: Doc): S.Camera {
	if (doc.camera.locked) throw new EditError("locked", "The camera is locked. Unlock it first.");
	return doc.camera;
}

const ids = z.array(S.Id).min(1).max(5000);
const each = <T extends z.ZodRawShape>(shape: T) =>
	z.object({
		pieces: z
			.array(z.object({ id: S.Id, ...shape }))
			.min(1)
			.max(5000),
	});
const Lens = S.Camera.pick({ focalMm: true, fStop: true, focusM: true, ev100: true }).partial();
const Pose = S.Camera.pick({ position: true, headingDeg: true, pitchDeg: true, rollDeg: true });

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

const changePieces = (doc: Doc, changes: { id: string }[]) => {
	for (const { id, ...change } of changes) Object.assign(find(doc.pieces, id, "piece"), change);
};

export const EDITS = {
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
	"reference.add": define("add a reference", z.object({ reference: S.Reference }), (d, e) => {
		refuseTaken(d.references, e.reference.id, "reference");
		d.references.push(e.reference);
		// The first one is shown at once; more of them do not push away what is being looked at.
		if (!d.shown.reference || d.shown.mode === "off") d.shown = { ...d.shown, reference: e.reference.id, mode: "over" };
	}),
	"reference.remove": define("remove a reference", z.object({ id: S.Id }), (d, e) => {
		find(d.references, e.id, "reference");
		d.references = d.references.filter((r) => r.id !== e.id);
		if (d.target?.reference === e.id) d.target = null;
		if (d.match.reference === e.id) d.match.reference = undefined;
		if (d.shown.reference === e.id) d.shown = { ...d.shown, reference: d.references[0]?.id ?? null, mode: "off" };
	}),
	"clip.add": define("add a clip", z.object({ clip: S.Clip }), (d, e) => {
		d.clips ??= [];
		refuseTaken(d.clips, e.clip.id, "clip");
		d.clips.push(e.clip);
		if (d.clips.length > 20) throw new EditError("full", "A shot holds at most 20 clips.");
	}),
	"clip.remove": define("remove a clip", z.object({ id: S.Id }), (d, e) => {
		find(d.clips ?? [], e.id, "clip");
		d.clips = d.clips?.filter((c) => c.id !== e.id);
	}),
	"reference.describe": define(
		"describe a reference",
		z.object({
			id: S.Id,
			change: S.Reference.pick({ name: true, caption: true, purpose: true, notes: true }).partial(),
		}),
		(d, e) => {
			Object.assign(find(d.references, e.id, "reference"), e.change);
		},
	),
	"reference.hang": define(
		"hang a reference",
		z.object({ id: S.Id, purpose: S.Reference.shape.purpose.unwrap(), before: S.Id.nullable() }),
		(d, e) => {
			const reference = find(d.references, e.id, "reference");
			reference.purpose = e.purpose;
			const rest = d.references.filter((r) => r.id !== e.id);
			const at = e.before === null ? rest.length : rest.indexOf(find(rest, e.before, "reference"));
			d.references = [...rest.slice(0, at), reference, ...rest.slice(at)];
		},
	),
	"reference.setLook": define("adjust a reference", z.object({ id: S.Id, look: S.Look }), (d, e) => {
		const reference = find(d.references, e.id, "reference");
		const before = { ...reference };
		reference.look = e.look;
		// What is drawn over it stays on the same places of the picture.
		if ((d.match.reference ?? d.shown.reference) !== e.id || sameShape(before.look, e.look)) return;
		const moved = (x: number, y: number) =>
			toShown(reference, toOtherCopy(reference, toFile(before, [x, y]), before.look, e.look));
		for (const l of [...d.match.lines, ...(d.match.measures ?? [])]) {
			[l.x1, l.y1] = moved(l.x1, l.y1);
			[l.x2, l.y2] = moved(l.x2, l.y2);
		}
		for (const c of d.match.circles ?? []) {
			const [ax, ay] = [c.x + cos(c.angleDeg * DEG), c.y + sin(c.angleDeg * DEG)];
			const [x, y] = moved(c.x, c.y);
			const [bx, by] = moved(ax, ay);
			Object.assign(c, { x, y, angleDeg: atan2(by - y, bx - x) / DEG });
		}
		for (const c of d.match.curves ?? []) c.points = c.points.map(([x, y]) => moved(x, y));
		d.match.horizon = null;
	}),
	"reference.show": define("show the reference", S.ShotDocument.shape.shown.partial(), (d, e) => {
		if (e.reference) find(d.references, e.reference, "reference");
		Object.assign(d.shown, e);
	}),
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
	"candidate.keep": define("keep a camera", z.object({ candidate: S.Candidate }), (d, e) => {
		d.candidates ??= [];
		refuseTaken(d.candidates, e.candidate.id, "camera");
		d.candidates.push(e.candidate);
		if (d.candidates.length > 24) throw new EditError("full", "24 cameras are kept at most. Take one away first.");
	}),
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
		Object.assign(d.camera, e);
	}),
	"camera.setFilm": define("film back", S.Camera.pick({ film: true, ratio: true }).partial(), (d, e) => {
		Object.assign(unlocked(d), e);
	}),
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
		each({ headingDeg: S.Piece.shape.headingDeg, leanDeg: S.Piece.shape.leanDeg.optional() }),
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
	"ground.set": define("ground", S.Ground.partial(), (d, e) => {
		Object.assign(d.ground, e);
	}),
	"water.set": define("water", S.Water.partial(), (d, e) => {
		Object.assign(d.water, e);
	}),
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
	}),
	"lamp.set": define("lamp", z.object({ id: S.Id, change: S.Lamp.omit({ id: true }).partial() }), (d, e) => {
		const lamp = find(d.lamps, e.id, "lamp");
		if (e.change.carriedBy) find(d.pieces, e.change.carriedBy, "piece");
		Object.assign(lamp, e.change);
	}),
	"air.setSun": define("sun", S.Sun.partial(), (d, e) => {
		Object.assign(d.air.sun, e);
	}),
	"air.setMoon": define("moon", S.Moon.partial(), (d, e) => {
		d.air.moon = { ...usualMoon(), ...d.air.moon, ...e };
	}),
	"air.hangPicture": define("sky picture", z.object({ picture: S.SkyPicture.nullable() }), (d, { picture }) => {
		d.air.picture = picture;
	}),
	"air.setPicture": define(
		"sky picture",
		S.SkyPicture.pick({ turnDeg: true, lux: true, saturation: true, sun: true }).partial(),
		(d, e) => {
			if (!d.air.picture) throw new EditError("no-picture", "No sky picture hangs in this shot.");
			Object.assign(d.air.picture, e);
		},
	),
	"air.setHaze": define("haze", z.object({ haze: S.Air.shape.haze }), (d, e) => {
		d.air.haze = e.haze;
	}),
	"air.setCloud": define("cloud", S.Air.shape.cloud.partial(), (d, e) => {
		Object.assign(d.air.cloud, e);
	}),
	"air.setFog": define("fog", S.Air.shape.fog.partial(), (d, e) => {
		Object.assign(d.air.fog, e);
	}),
	"finish.set": define("finish", S.Finish.partial(), (d, e) => {
		Object.assign(d.finish, e);
	}),
	"print.set": define("print settings", S.PrintSettings.partial(), (d, e) => {
		Object.assign(d.print, e);
	}),
};

export type EditName = keyof typeof EDITS;
export type Edit = { [K in EditName]: { name: K } & z.infer<(typeof EDITS)[K]["schema"]> }[EditName];

export interface Applied {
	document: S.ShotDocument;
	forward: Patch[];
	inverse: Patch[];
}

/**
 * Checks a value from outside and returns it as an edit. Throws {@link EditError} with a sentence that names the field.
 */
export function parseEdit(value: unknown): Edit {
	const name = (value as { name?: unknown } | null)?.name;
	if (typeof name !== "string" || !Object.hasOwn(EDITS, name))
		throw new EditError("unknown-edit", `There is no edit named ${JSON.stringify(name ?? null)}.`);
	const { name: _, ...rest } = value as Record<string, unknown>;
	const result = EDITS[name as EditName].schema.safeParse(rest);
	if (!result.success) {
		const issue = result.error.issues[0];
		throw new EditError("bad-edit", `${name}: ${issue.path.length ? `${issue.path.join(".")}: ` : ""}${issue.message}`);
	}
	return { name, ...(result.data as object) } as Edit;
}

/** Applies one edit to a document. Pure; the patches lead forward and back. */
export function applyEdit(document: S.ShotDocument, edit: Edit): Applied {
	const { name, ...values } = edit;
	const definition = EDITS[name] as Definition<z.ZodType>;
	const [next, forward, inverse] = produceWithPatches(document, (draft: Doc) => {
		definition.apply(draft, values);
	});
	return { document: next as S.ShotDocument, forward, inverse };
}

/** What the history calls an edit. */
export const editLabel = (name: string): string => EDITS[name as EditName]?.label ?? name;

export { applyPatches, type Patch } from "immer";
