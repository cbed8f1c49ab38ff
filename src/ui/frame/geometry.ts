/** Where things of the shot lie in the frame, for overlays, handles, plan and ribbon. */
import type { Camera, Cover, Ground, Piece, ShotDocument } from "../../core/doc/schema.ts";
import { groundHeight } from "../../core/ground/height.ts";
import { type FrameOfView, frameOfView, project } from "../../core/lens/camera.ts";
import { outermost } from "../../core/shape/place.ts";
import type { FreePose } from "../store/studio.ts";

/** The view that the frame shows: the shot's lens, or a free one, level and with the same field unless it brings its own. */
export function shownView(camera: Camera, free: FreePose | null): FrameOfView {
	return frameOfView(free ? { ...camera, rollDeg: 0, ...free } : camera);
}

export interface PieceBox {
	/** Box in the frame, 0 to 1. Null when nothing of it lies before the lens. */
	box: { x0: number; y0: number; x1: number; y1: number } | null;
	nearM: number;
	farM: number;
	/** Heights in the frame (0 top, 1 bottom) of its near and of its far half. */
	near: [number, number];
	far: [number, number];
	/** Share of the frame that the box takes, clipped to it. */
	share: number;
}

/** Box in the frame of a piece and its repeats. */
export function pieceBox(piece: Piece, doc: Pick<ShotDocument, "ground">, view: FrameOfView): PieceBox {
	const points = outermost(piece, doc)
		.map((p) => project(view, p))
		.filter((p) => p.depthM >= 0.05);
	if (points.length === 0) return { box: null, nearM: Infinity, farM: 0, near: [0, 0], far: [0, 0], share: 0 };
	let [x0, y0, x1, y1, nearM, farM] = [Infinity, Infinity, -Infinity, -Infinity, Infinity, 0];
	for (const p of points) {
		x0 = Math.min(x0, p.x);
		x1 = Math.max(x1, p.x);
		y0 = Math.min(y0, p.y);
		y1 = Math.max(y1, p.y);
		nearM = Math.min(nearM, p.depthM);
		farM = Math.max(farM, p.depthM);
	}
	const middle = Math.sqrt(nearM * farM);
	const span = (half: typeof points): [number, number] =>
		half.length ? [Math.min(...half.map((p) => p.y)), Math.max(...half.map((p) => p.y))] : [y0, y1];
	const w = Math.min(1, x1) - Math.max(0, x0);
	const h = Math.min(1, y1) - Math.max(0, y0);
	return {
		box: { x0, y0, x1, y1 },
		nearM,
		farM,
		near: span(points.filter((p) => p.depthM <= middle)),
		far: span(points.filter((p) => p.depthM > middle)),
		share: w > 0 && h > 0 ? w * h : 0,
	};
}

const boxes = new WeakMap<Piece, { ground: Ground; view: FrameOfView; box: PieceBox }>();

/** {@link pieceBox}, kept for as long as piece, ground and view are the same: of thousands, a drag changes one. */
export function keptPieceBox(piece: Piece, doc: Pick<ShotDocument, "ground">, view: FrameOfView): PieceBox {
	const held = boxes.get(piece);
	if (held && held.ground === doc.ground && held.view === view) return held.box;
	const box = pieceBox(piece, doc, view);
	boxes.set(piece, { ground: doc.ground, view, box });
	return box;
}

/** World height of a piece's foot. */
export const footHeight = (piece: Piece, ground: Ground): number =>
	piece.position[1] + (piece.stands === "ground" ? groundHeight(ground, piece.position[0], piece.position[2]) : 0);

/** Distances between which a cover may stand, by its rules. */
export function coverReach(cover: Cover): { nearM: number; farM: number } {
	const rule = cover.rules.find((r) => r.kind === "near the lens" && !r.out);
	return { nearM: 1, farM: rule && rule.kind === "near the lens" ? rule.distanceM + rule.featherM : 400 };
}
