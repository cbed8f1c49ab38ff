/** Where things of the shot lie in the frame, for overlays, handles, plan and ribbon. */
import type { Camera, Cover, Ground, Piece, ShotDocument } from "../../core/doc/schema.ts";
import { groundHeight } from "../../core/ground/height.ts";
import { type FrameOfView, frameOfView, project, rayThrough } from "../../core/lens/camera.ts";
import type { Vec3 } from "../../core/maths/vec.ts";
import { outermost } from "../../core/shape/place.ts";
import type { FreePose } from "../store/studio.ts";

export interface Point {
	x: number;
	y: number;
}

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

/** Place on the ground under a place of the frame (0 to 1), or null above the horizon or beyond 30 km. */
export function groundUnder(view: FrameOfView, ground: Ground, at: Point): Vec3 | null {
	const d = rayThrough(view, at.x, at.y);
	let y = groundHeight(ground, view.position[0], view.position[2]);
	for (let i = 0; i < 8; i++) {
		if (d[1] >= -1e-5) return null;
		const t = (y - view.position[1]) / d[1];
		if (!(t > 0) || t > 30_000) return null;
		const p: Vec3 = [view.position[0] + d[0] * t, y, view.position[2] + d[2] * t];
		const now = groundHeight(ground, p[0], p[2]);
		if (Math.abs(now - y) < 0.002) return [p[0], now, p[2]];
		y = now;
	}
	return null;
}

/** Place on a level plane under a place of the frame. */
export function levelUnder(view: FrameOfView, y: number, at: Point): Vec3 | null {
	const d = rayThrough(view, at.x, at.y);
	const t = (y - view.position[1]) / d[1];
	if (!(t > 0) || t > 30_000) return null;
	return [view.position[0] + d[0] * t, y, view.position[2] + d[2] * t];
}

/** World height of a piece's foot. */
export const footHeight = (piece: Piece, ground: Ground): number =>
	piece.position[1] + (piece.stands === "ground" ? groundHeight(ground, piece.position[0], piece.position[2]) : 0);

/** Distances between which a cover may stand, by its rules. */
export function coverReach(cover: Cover): { nearM: number; farM: number } {
	const rule = cover.rules.find((r) => r.kind === "near the lens" && !r.out);
	return { nearM: 1, farM: rule && rule.kind === "near the lens" ? rule.distanceM + rule.featherM : 400 };
}

export const metres = (m: number): string =>
	m >= 1000
		? `${(m / 1000).toFixed(m >= 10_000 ? 0 : 1)} km`
		: m >= 100
			? `${m.toFixed(0)} m`
			: m >= 10
				? `${m.toFixed(1)} m`
				: `${m.toFixed(2)} m`;

export const clock = (seconds: number): string =>
	seconds < 90
		? `${Math.max(1, Math.round(seconds))} s`
		: seconds < 5400
			? `${Math.round(seconds / 60)} min`
			: `${(seconds / 3600).toFixed(1)} h`;

export const newId = (): string => crypto.randomUUID().slice(0, 8);
