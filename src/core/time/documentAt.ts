/** A shot at a moment of its move. */

import { exposed } from "../doc/exposure.ts";
import { withFields } from "../doc/keyedValues.ts";
import { type HolderKind, keyed, type Move, type ShotDocument, type Track } from "../doc/schema.ts";
import { focusDistanceM, frameOfView } from "../lens/camera.ts";
import { exp, log } from "../maths/functions.ts";
import { dot, sub, type Vec3 } from "../maths/vec.ts";
import { placedMiddle } from "../shape/place.ts";
import { type Moment, shutterSeconds } from "./frames.ts";
import { atMoment } from "./moment.ts";
import { shaken } from "./tremor.ts";
import { valueAt } from "./ways.ts";

type Patches = Map<HolderKind, Map<string, Record<string, unknown>>>;

/** Distance of focus, metres, of a focus as it is keyed: of the piece that it follows, as set, or hyperfocal. */
function focusOf(doc: ShotDocument, { focusM, focusOn }: { focusM: number | null; focusOn: string | null }): number {
	return focusOfPiece(doc, focusOn ?? undefined) ?? focusDistanceM({ ...doc.camera, focusM });
}

/** Planar distance from the lens to the middle of a piece; null when there is none that is shown before the lens. */
export function focusOfPiece(doc: Pick<ShotDocument, "camera" | "pieces" | "ground">, id?: string): number | null {
	const piece = id === undefined ? undefined : doc.pieces.find((p) => p.id === id);
	if (!piece || piece.hidden) return null;
	const depth = dot(sub(placedMiddle(piece, doc), doc.camera.position as Vec3), frameOfView(doc.camera).forward);
	return depth > 0.05 ? depth : null;
}

/** Of several keyed focuses: metres by their logarithm, each end as it stands at that moment. */
function withFocus(doc: ShotDocument, track: Track, timeS: number): ShotDocument {
	const keys = track.keys.map((k) => ({
		...k,
		value: log(focusOf(doc, k.value as { focusM: number | null; focusOn: string | null })),
	}));
	const focusM = Math.min(1e5, Math.max(0.05, exp(valueAt(keys, "straight", timeS) as number)));
	return { ...doc, camera: { ...doc.camera, focusM, focusOn: undefined } };
}

/** The focus as a distance, where it follows a piece. The same document where it does not. */
export function withFocusMeasured(doc: ShotDocument): ShotDocument {
	const focusM = focusOfPiece(doc, doc.camera.focusOn);
	return focusM === null ? doc : { ...doc, camera: { ...doc.camera, focusM } };
}

/** Focal length over distance at the move's beginning, by which a piece keeps its size; null when it is not before the lens. */
const sizes = new WeakMap<ShotDocument, number | null>();

function sizeAtBeginning(doc: ShotDocument, move: Move): number | null {
	const known = sizes.get(doc);
	if (known !== undefined) return known;
	const first = keyedAt(doc, { ...move, keepsSizeOf: null }, 0);
	const distance = focusOfPiece(first, move.keepsSizeOf ?? undefined);
	const size = distance === null ? null : first.camera.focalMm / distance;
	sizes.set(doc, size);
	return size;
}

/**
 * The focal length that keeps a piece as large in the frame as it was at the beginning, whatever way the lens goes: an image
 * is as large as the focal length over the planar distance.
 */
function withSizeKept(now: ShotDocument, doc: ShotDocument, move: Move, timeS: number): ShotDocument {
	if (!move.keepsSizeOf || timeS === 0) return now;
	const size = sizeAtBeginning(doc, move);
	const distance = focusOfPiece(now, move.keepsSizeOf);
	if (size === null || distance === null) return now;
	return { ...now, camera: { ...now.camera, focalMm: Math.min(1200, Math.max(4, size * distance)) } };
}

function keyedAt(doc: ShotDocument, move: Move, timeS: number): ShotDocument {
	const patches: Patches = new Map();
	let focus: Track | null = null;
	for (const track of move.tracks) {
		const { holder, way, fields } = keyed(track.value);
		if (way === "focus") {
			focus = track;
			continue;
		}
		const of = patches.get(holder) ?? new Map<string, Record<string, unknown>>();
		patches.set(holder, of);
		const id = track.of ?? "";
		of.set(id, { ...of.get(id), ...fields(valueAt(track.keys, way, timeS)) });
	}
	let now = doc;
	for (const [holder, of] of patches) now = withFields(now, holder, of);
	now = withSizeKept(now, doc, move, timeS);
	now = focus ? withFocus(now, focus, timeS) : now;
	const fixed = move.tracks.some((t) => t.value === "camera.exposure");
	const camera = fixed ? now.camera : exposed(now.camera, shutterSeconds(move) || undefined);
	return camera === now.camera ? now : { ...now, camera };
}

const MOST_KEPT = 4;
const kept = new WeakMap<ShotDocument, Map<number, ShotDocument>>();

/**
 * The document as it stands at a time of its move, seconds: keyed values in the place of its own, the hand's tremor on the
 * camera, sequences at their frames, what turns to the lens turned to it, all else untouched and the same objects. Null is the still, and a
 * shot without a move has no other: the document itself where nothing turns to the lens. Pure; of each document the last few moments are kept, so that who asks again gets the same one.
 * @example documentAt(doc, 2).camera.position // where the lens stands after two seconds
 */
export function documentAt(doc: ShotDocument, timeS: number | null): ShotDocument {
	const { move } = doc;
	if (timeS === null || !move) return atMoment(doc, null);
	const known = kept.get(doc) ?? new Map<number, ShotDocument>();
	kept.set(doc, known);
	const held = known.get(timeS);
	if (held) return held;
	const now = atMoment(shaken(keyedAt(doc, move, timeS), timeS), timeS);
	if (known.size >= MOST_KEPT) known.delete(known.keys().next().value as number);
	known.set(timeS, now);
	return now;
}

/** The document by which a moment's picture is exposed and finished: as it stands in the middle of the shutter's time. */
export const documentOf = (doc: ShotDocument, { timeS, shutterS }: Moment): ShotDocument =>
	documentAt(doc, timeS === null ? null : timeS + shutterS / 2);
