/** References and clips. */
import { z } from "zod";
import { atan2, cos, DEG, sin } from "../../maths/functions.ts";
import { filesOfClip, filesOfReference } from "../files.ts";
import { sameShape, toFile, toOtherCopy, toShown } from "../look.ts";
import * as S from "../schema.ts";
import { define, EditError, find, refuseTaken } from "./define.ts";

export const referenceEdits = {
	"reference.add": define(
		"add a reference",
		z.object({ reference: S.Reference }),
		(d, { reference }) => {
			refuseTaken(d.references, reference.id, "reference");
			d.references.push(reference);
			// The first one is shown at once; more of them do not push away what is being looked at.
			if (!d.shown.reference || d.shown.mode === "off") d.shown = { ...d.shown, reference: reference.id, mode: "over" };
		},
		({ reference }) => filesOfReference(reference),
	),
	"reference.remove": define("remove a reference", z.object({ id: S.Id }), (d, e) => {
		find(d.references, e.id, "reference");
		d.references = d.references.filter((r) => r.id !== e.id);
		if (d.target?.reference === e.id) d.target = null;
		if (d.match.reference === e.id) d.match.reference = undefined;
		if (d.shown.reference === e.id) d.shown = { ...d.shown, reference: d.references[0]?.id ?? null, mode: "off" };
	}),
	"clip.add": define(
		"add a clip",
		z.object({ clip: S.Clip }),
		(d, e) => {
			d.clips ??= [];
			refuseTaken(d.clips, e.clip.id, "clip");
			d.clips.push(e.clip);
			if (d.clips.length > 20) throw new EditError("full", "A shot holds at most 20 clips.");
		},
		(e) => filesOfClip(e.clip),
	),
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
};
