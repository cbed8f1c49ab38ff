/** Where things of the shot lie in the frame, for overlays, handles, plan and ribbon. */
import type { Camera, Cover, Finish, Piece } from "../../core/doc/schema.ts";
import { type FrameOfView, frameOfView } from "../../core/lens/camera.ts";
import { characterOf } from "../../core/lens/character.ts";
import { type InFrame, inFrame } from "../../core/shape/inFrame.ts";
import { footing, type Standing, supportsOf } from "../../core/shape/place.ts";
import type { FreePose } from "../store/studio.ts";

/** The view that the frame shows, bent as its finish bends it: the shot's lens, or a free one, level and with the same field unless it brings its own. */
export function shownView(camera: Camera, finish: Pick<Finish, "lens">, free: FreePose | null): FrameOfView {
	const view = frameOfView(free ? { ...camera, rollDeg: 0, ...free } : camera);
	const { bend } = characterOf(finish);
	return bend ? { ...view, bend } : view;
}

interface Box {
	by: readonly unknown[];
	box: InFrame | null;
}

const boxes = new WeakMap<Piece, Box[]>();
/** Views that a piece's box is kept for: the frame's and those of a few deliveries. */
const MOST_VIEWS = 6;

/**
 * What of a piece is in the frame, kept for as long as piece, ground, what it stands on and view are the same: of thousands,
 * a drag changes one.
 */
export function keptInFrame(piece: Piece, doc: Standing, view: FrameOfView): InFrame | null {
	const by = [doc.ground, view, ...supportsOf(piece, doc.pieces)];
	const held = boxes.get(piece) ?? [];
	const known = held.find((h) => h.by.length === by.length && h.by.every((v, i) => v === by[i]));
	if (known) return known.box;
	const box = inFrame(piece, doc, view);
	boxes.set(piece, [{ by, box }, ...held.slice(0, MOST_VIEWS - 1)]);
	return box;
}

/** What a piece is in the frame changes with more than itself, ground and view. */
export const leansOnAnother = ({ stands }: Piece): boolean => typeof stands !== "string";

/** World height of a piece's foot. */
export const footHeight = (piece: Piece, doc: Standing): number =>
	piece.position[1] + footing(piece, piece.position[0], piece.position[2], doc);

/** Distances between which a cover may stand, by its rules. */
export function coverReach(cover: Cover): { nearM: number; farM: number } {
	const rule = cover.rules.find((r) => r.kind === "near the lens" && !r.out);
	return { nearM: 1, farM: rule && rule.kind === "near the lens" ? rule.distanceM + rule.featherM : 400 };
}
