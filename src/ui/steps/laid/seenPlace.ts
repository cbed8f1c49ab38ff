/** Where something comes to lie that is laid in one place: on what the frame sees, first where it is looked at. */
import type { Laid, LaidOver, LaidWhere, Piece } from "../../../core/doc/schema.ts";
import type { Point } from "../../../core/ground/underPoint.ts";
import { type FrameOfView, project } from "../../../core/lens/camera.ts";
import { lookAgainst } from "../../../core/maths/axes.ts";
import { DEG, millimetres } from "../../../core/maths/functions.ts";
import { placedMiddle } from "../../../core/shape/place.ts";
import { type Faced, placeOn, placeUnder } from "../../../core/shape/underPoint.ts";
import { broughtBy, laidOnce } from "../../../core/surface/brought.ts";
import { asOver } from "../../../core/surface/laying.ts";
import { shownView } from "../../frame/geometry.ts";
import { shownDocument } from "../../store/shotStore.ts";
import { useStudio } from "../../store/studio.ts";

export type Here = Extract<LaidWhere, { kind: "here" }>;
export type Place = Pick<Here, "at" | "headingDeg" | "pitchDeg">;

const MIDDLE: Point = { x: 0.5, y: 0.5 };
/** Where ground is looked for, from the middle of the frame down. */
const DOWN = [0.5, 0.65, 0.8, 0.95];

/** What lies there, as a box looks at it: of the piece in whose metres it lies, or of the world. */
function placeOf({ at, normal }: Faced, view: FrameOfView, on: Piece | null): Place {
	// What lies on level ground has its head away from who looks.
	const away = Math.atan2(view.right[2], view.right[0]) / DEG - (on?.headingDeg ?? 0);
	const { headingDeg, pitchDeg } = lookAgainst(normal, away);
	return {
		at: at.map(millimetres) as Place["at"],
		headingDeg: Number(headingDeg.toFixed(2)),
		pitchDeg: Number(pitchDeg.toFixed(2)),
	};
}

const pieceNamed = (on: string | null): Piece | null =>
	on === null ? null : (shownDocument().pieces.find((p) => p.id === on) ?? null);

/** The place under a pointer, of a piece or of whatever is nearest; null beside it. */
export function placeAt(view: FrameOfView, on: string | null, at: Point): Place | null {
	const doc = shownDocument();
	const piece = pieceNamed(on);
	if (on !== null && !piece) return null;
	const faced = piece ? placeOn(piece, view, doc, at)?.own : placeUnder(view, doc, at);
	return faced ? placeOf(faced, view, piece) : null;
}

/** A place that is seen: the middle of a piece, or the middle of the frame, or below it. Null where nothing is seen there. */
export function seenPlace(on: string | null): Place | null {
	const doc = shownDocument();
	const view = shownView(doc.camera, doc.finish, useStudio.getState().free);
	const piece = pieceNamed(on);
	if (piece) {
		const { x, y, depthM } = project(view, placedMiddle(piece, doc));
		if (depthM > 0) return placeAt(view, on, { x, y });
	}
	for (const y of DOWN) {
		const place = placeAt(view, on, { ...MIDDLE, y });
		if (place) return place;
	}
	return null;
}

/** How something lies over another as it is laid: a picture that stands once in a place that is seen, all else as it always does. */
export function overAsLaid(laid: Laid, on: string | null): LaidOver {
	const own = broughtBy(laid.of, shownDocument());
	const place = own?.highM === undefined ? null : seenPlace(on);
	if (own?.highM === undefined) return asOver(laid);
	return laidOnce({ ...own, highM: own.highM }, place ?? { at: [0, 0.5, 0], headingDeg: 0, pitchDeg: 0 });
}
