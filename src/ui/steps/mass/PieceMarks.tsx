"use client";
/**
 * Handles of the selected piece: its foot slides it over the ground, its crown sets the height and by its rim the lean, bars
 * at its edges the width and the depth, a ring on the ground its heading.
 */
import type { PointerEvent as ReactPointerEvent } from "react";
import type { Piece } from "../../../core/doc/schema.ts";
import { levelUnder } from "../../../core/ground/underPoint.ts";
import { project, rayThrough } from "../../../core/lens/camera.ts";
import { cameraAxes } from "../../../core/maths/axes.ts";
import { add, scale, sub, type Vec3 } from "../../../core/maths/vec.ts";
import { countOf } from "../../../core/shape/copies.ts";
import { growPiece, leanPiece, slidePieces, turnPieceAlong } from "../../../core/shape/handPieces.ts";
import { isLine } from "../../../core/shape/handPoints.ts";
import { isFront, turnsToLens } from "../../../core/shape/shapes.ts";
import { silhouette } from "../../../core/shape/silhouette.ts";
import { footHeight } from "../../frame/geometry.ts";
import { useGesture } from "../../frame/gesture.ts";
import type { MarkProps } from "../../frame/marks.ts";
import { Double } from "../../parts/marks.tsx";
import { useShot, useShown } from "../../store/shotStore.ts";
import { snapped } from "../../store/snap.ts";
import { useStudio, useStudioOf } from "../../store/studio.ts";
import { ColourMarks, LikeMarks } from "../laid/ColourMarks.tsx";
import { FaceMarks } from "../laid/FaceMarks.tsx";
import { PaintMarks } from "../laid/PaintMarks.tsx";
import { PlaceMarks } from "../laid/PlaceMarks.tsx";
import { CopyMarks } from "./CopyMarks.tsx";
import { type At, Crown, Foot, SnapTag, TurnRing } from "./handles.tsx";
import { LineSoFar, PointMarks } from "./LineMarks.tsx";
import { ManyMarks } from "./ManyMarks.tsx";

/** Selected pieces, and copies of one, of which the outline is drawn; more of them are told by the list. */
const MOST_OUTLINED = 60;

export function PieceMarks(props: MarkProps) {
	const { painting, colouring, heldPlace } = useStudioOf("painting", "colouring", "heldPlace");
	// A brush is held over them, or patches are: their handles would be in its way.
	return painting ? (
		<PaintMarks {...props} />
	) : heldPlace ? (
		<PlaceMarks {...props} />
	) : colouring ? (
		<ColourMarks {...props} />
	) : (
		<>
			<Selected {...props} />
			<FaceMarks {...props} />
			<LikeMarks {...props} />
		</>
	);
}

function Selected({ width, height, k, view, place }: MarkProps) {
	const doc = useShown();
	const selected = useStudio((s) => s.selected);
	const pieces = doc.pieces.filter((p) => selected.includes(p.id));
	const at = (p: Vec3) => {
		const q = project(view, p);
		return q.depthM > 0.05 ? { x: q.x * width, y: q.y * height, depthM: q.depthM } : null;
	};
	return (
		<g>
			{pieces.slice(0, MOST_OUTLINED).map((p) => {
				const all = pieces.length > 1 && countOf(p.repeat) <= MOST_OUTLINED;
				const lines = silhouette(all ? p : { ...p, repeat: null }, doc, view);
				const d = lines
					.map((l) => l.map((v, i) => (v * (i % 2 ? height : width)).toFixed(1)))
					.map(([x1, y1, x2, y2]) => `M${x1} ${y1}L${x2} ${y2}`)
					.join("");
				return <Double key={p.id} k={k} d={d} />;
			})}
			{pieces.length === 1 && !pieces[0].held && (
				<Handles piece={pieces[0]} {...{ width, height, k, view, place, at }} />
			)}
			<LineSoFar {...{ width, height, k, view, place }} />
			{pieces.length > 1 && <ManyMarks pieces={pieces} {...{ width, height, k, view, place, at }} />}
		</g>
	);
}

/** Where the tick of the heading ends outside the ring, in radii of it. */
const TICK = 1.3;

function Handles({ piece, width, height, k, view, place, at }: MarkProps & { piece: Piece; at: At }) {
	const doc = useShot((s) => s.document);
	const gesture = useGesture();
	const y = footHeight(piece, doc);
	const [px, , pz] = piece.position;
	const [w, h, d] = piece.size;
	const heading = (piece.headingDeg * Math.PI) / 180;
	const right: Vec3 = [Math.cos(heading), 0, Math.sin(heading)];
	const away: Vec3 = [Math.sin(heading), 0, -Math.cos(heading)];
	const foot = at([px, y, pz]);
	const [upX, upY, upZ] = cameraAxes(piece.headingDeg, piece.pitchDeg, piece.rollDeg).up;
	const crown = at([px + upX * h, y + upY * h, pz + upZ * h]);
	if (!foot) return null;
	const radius = Math.max(0.35, 0.75 * Math.max(w, d));
	const original = doc.pieces.find((p) => p.id === piece.id) ?? piece;
	const perMetre = width / (2 * view.tanX * foot.depthM);

	const slide = (event: ReactPointerEvent) => {
		const from = levelUnder(view, y, place(event));
		gesture(event, (e) => {
			const to = levelUnder(view, y, place(e));
			return from && to ? snapped(slidePieces([original], to[0] - from[0], to[2] - from[2]), perMetre) : null;
		});
	};
	const size = (event: ReactPointerEvent, axis: 0 | 1 | 2, side: 1 | -1) => {
		const from = place(event);
		const a = axis === 0 ? right : away;
		const tip = axis === 1 ? crown : at([px + a[0], y, pz + a[2]]);
		gesture(event, (e) => {
			const to = place(e);
			const dx = (to.x - from.x) * width;
			const dy = (to.y - from.y) * height;
			let change: number;
			if (axis === 1) change = -dy / perMetre;
			else {
				const ux = (tip?.x ?? foot.x + 1) - foot.x;
				const uy = (tip?.y ?? foot.y) - foot.y;
				change = (2 * side * (dx * ux + dy * uy)) / Math.max(4, ux * ux + uy * uy);
			}
			return growPiece(original, axis, change);
		});
	};
	const turn = (event: ReactPointerEvent) => {
		const from = levelUnder(view, y, place(event));
		gesture(event, (e) => {
			const to = levelUnder(view, y, place(e));
			return from && to ? turnPieceAlong(original, from, to) : null;
		});
	};
	/** The crown goes where the pointer is, in the plane through the foot that faces the lens. */
	const lean = (event: ReactPointerEvent) =>
		gesture(event, (e) => {
			const along = rayThrough(view, place(e).x, place(e).y);
			const to: Vec3 = scale(along, foot.depthM);
			return leanPiece(original, add(sub(view.position, [px, y, pz]), to));
		});
	const bar = (axis: 0 | 2, side: 1 | -1) => {
		const a = axis === 0 ? right : away;
		const reach = (side * piece.size[axis]) / 2;
		const low = at([px + a[0] * reach, y + h * 0.3, pz + a[2] * reach]);
		const high = at([px + a[0] * reach, y + h * 0.7, pz + a[2] * reach]);
		if (!low || !high) return null;
		const mid = { x: (low.x + high.x) / 2, y: (low.y + high.y) / 2 };
		const half = Math.max(7 / k, Math.abs(low.y - high.y) / 2);
		return (
			<g
				key={`${axis}${side}`}
				style={{ cursor: "ew-resize" }}
				onPointerDown={(e) => size(e, axis, side)}
				data-testid={`handle-${axis === 0 ? "width" : "depth"}`}
			>
				<Double k={k} d={`M${mid.x} ${mid.y - half}V${mid.y + half}`} />
				<rect x={mid.x - 9 / k} y={mid.y - half - 4 / k} width={18 / k} height={2 * half + 8 / k} fill="transparent" />
			</g>
		);
	};
	return (
		<g>
			{!turnsToLens(piece.shape) && (
				<TurnRing
					{...{ at, k, turn }}
					centre={[px, y, pz]}
					radiusM={radius}
					// Before the piece, where it can be seen and taken.
					tickAt={heading + Math.PI / 2}
					tickTo={TICK}
					told={`${Math.round(piece.headingDeg)}°`}
				/>
			)}
			{!isFront(piece.shape) && bar(2, 1)}
			{!isFront(piece.shape) && bar(2, -1)}
			{bar(0, 1)}
			{bar(0, -1)}
			{crown && <Crown crown={crown} k={k} lean={lean} size={(e) => size(e, 1, 1)} told={`${h.toFixed(2)} m`} />}
			{isLine(piece) && <PointMarks {...{ piece, k, view, place, at }} />}
			{piece.repeat && <CopyMarks {...{ piece, original, k, view, place, at }} />}
			<Foot foot={foot} k={k} onPointerDown={slide} />
			<SnapTag {...foot} k={k} />
		</g>
	);
}
