/** Where things of the shot lie in the frame, for overlays, handles, plan and ribbon. */
import type { Camera, Cover, Piece } from "../../core/doc/schema.ts";
import { type FrameOfView, frameOfView } from "../../core/lens/camera.ts";
import { type InFrame, inFrame } from "../../core/shape/inFrame.ts";
import { footing, type Standing, supportsOf } from "../../core/shape/place.ts";
import type { FreePose } from "../store/studio.ts";

/** The view that the frame shows: the shot's lens, or a free one, level and with the same field unless it brings its own. */
export function shownView(camera: Camera, free: FreePose | null): FrameOfView {
	return frameOfView(free ? { ...camera, rollDeg: 0, ...free } : camera);
}

const boxes = new WeakMap<Piece, { by: readonly unknown[]; box: InFrame | null }>();

/**
 * What of a piece is in the frame, kept for as long as piece, ground, what it stands on and view are the same: of thousands,
 * a drag changes one.
 */
export function keptInFrame(piece: Piece, doc: Standing, view: FrameOfView): InFrame | null {
	const by = [doc.ground, view, ...supportsOf(piece, doc.pieces)];
	const held = boxes.get(piece);
	if (held && held.by.length === by.length && held.by.every((v, i) => v === by[i])) return held.box;
	const box = inFrame(piece, doc, view);
	boxes.set(piece, { by, box });
	return box;
}

/** World height of a piece's foot. */
export const footHeight = (piece: Piece, doc: Standing): number =>
	piece.position[1] + footing(piece, piece.position[0], piece.position[2], doc);

/** Distances between which a cover may stand, by its rules. */
export function coverReach(cover: Cover): { nearM: number; farM: number } {
	const rule = cover.rules.find((r) => r.kind === "near the lens" && !r.out);
	return { nearM: 1, farM: rule && rule.kind === "near the lens" ? rule.distanceM + rule.featherM : 400 };
}
