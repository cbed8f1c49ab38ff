"use client";
/**
 * Handles of the selected piece: its foot slides it over the ground, its crown sets the height, bars at its edges the
 * width and the depth, a ring on the ground its heading.
 */
import type { PointerEvent as ReactPointerEvent } from "react";
import type { Piece } from "../../../core/doc/schema.ts";
import { groundHeight } from "../../../core/ground/height.ts";
import { levelUnder, type Point } from "../../../core/ground/underPoint.ts";
import { project } from "../../../core/lens/camera.ts";
import type { Vec3 } from "../../../core/maths/vec.ts";
import { growPiece, slidePieces, turnPieceTowards } from "../../../core/shape/handPieces.ts";
import { footHeight, pieceBox } from "../../frame/geometry.ts";
import { useGesture } from "../../frame/gesture.ts";
import type { MarkProps } from "../../frame/marks.ts";
import { Double, Tag } from "../../parts/marks.tsx";
import { useShot, useShown } from "../../store/shotStore.ts";
import { useStudio } from "../../store/studio.ts";

export function PieceMarks({ width, height, k, view, place }: MarkProps) {
	const doc = useShown();
	const selected = useStudio((s) => s.selected);
	const pieces = doc.pieces.filter((p) => selected.includes(p.id));
	const at = (p: Vec3) => {
		const q = project(view, p);
		return q.depthM > 0.05 ? { x: q.x * width, y: q.y * height, depthM: q.depthM } : null;
	};
	return (
		<g>
			{pieces.map((p) => {
				const { box } = pieceBox(p.repeat && pieces.length > 1 ? p : { ...p, repeat: null }, doc, view);
				if (!box) return null;
				const [x, y, w, h] = [box.x0 * width, box.y0 * height, (box.x1 - box.x0) * width, (box.y1 - box.y0) * height];
				if (Math.max(w, h) > 6 * width) return null;
				return <Double key={p.id} k={k} d={`M${x} ${y}h${w}v${h}h${-w}z`} />;
			})}
			{pieces.length === 1 && <Handles piece={pieces[0]} {...{ width, height, k, view, place, at }} />}
			{pieces.length > 1 && <FootOfMany pieces={pieces} {...{ width, height, k, view, place, at }} />}
		</g>
	);
}

type At = (p: Vec3) => { x: number; y: number; depthM: number } | null;

function Handles({ piece, width, height, k, view, place, at }: MarkProps & { piece: Piece; at: At }) {
	const doc = useShot((s) => s.document);
	const gesture = useGesture();
	const y = footHeight(piece, doc.ground);
	const [px, , pz] = piece.position;
	const [w, h, d] = piece.size;
	const heading = (piece.headingDeg * Math.PI) / 180;
	const right: Vec3 = [Math.cos(heading), 0, Math.sin(heading)];
	const away: Vec3 = [Math.sin(heading), 0, -Math.cos(heading)];
	const foot = at([px, y, pz]);
	const crown = at([px, y + h, pz]);
	if (!foot) return null;
	const radius = Math.max(0.35, 0.75 * Math.max(w, d));
	const ring = Array.from({ length: 49 }, (_, i) =>
		at([px + radius * Math.cos((i * Math.PI) / 24), y, pz + radius * Math.sin((i * Math.PI) / 24)]),
	);
	const knob = at([px + away[0] * radius, y, pz + away[2] * radius]);
	const path = ring.every((p) => p) ? `M${ring.map((p) => `${p?.x.toFixed(1)} ${p?.y.toFixed(1)}`).join("L")}z` : "";
	const original = doc.pieces.find((p) => p.id === piece.id) ?? piece;
	const perMetre = width / (2 * view.tanX * foot.depthM);

	const slide = (event: ReactPointerEvent) => {
		const from = levelUnder(view, y, place(event));
		gesture(event, (e) => {
			const to = levelUnder(view, y, place(e));
			return from && to ? slidePieces([original], to[0] - from[0], to[2] - from[2]) : null;
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
	const turn = (event: ReactPointerEvent) =>
		gesture(event, (e) => {
			const to = levelUnder(view, y, place(e));
			return to && turnPieceTowards(original, to);
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
			{path && <Double k={k} d={path} />}
			{bar(2, 1)}
			{bar(2, -1)}
			{bar(0, 1)}
			{bar(0, -1)}
			{crown && (
				<g style={{ cursor: "ns-resize" }} onPointerDown={(e) => size(e, 1, 1)} data-testid="handle-height">
					<Double
						k={k}
						d={`M${crown.x - 9 / k} ${crown.y - 8 / k}L${crown.x} ${crown.y - 15 / k}L${crown.x + 9 / k} ${crown.y - 8 / k}`}
					/>
					<rect x={crown.x - 13 / k} y={crown.y - 22 / k} width={26 / k} height={20 / k} fill="transparent" />
					<Tag k={k} x={crown.x} y={crown.y - 32 / k} anchor="middle">{`${h.toFixed(2)} m`}</Tag>
				</g>
			)}
			{knob && (
				<g style={{ cursor: "grab" }} onPointerDown={turn} data-testid="handle-heading">
					<circle cx={knob.x} cy={knob.y} r={5 / k} fill="#fff" stroke="#000" strokeWidth={1.5 / k} />
					<circle cx={knob.x} cy={knob.y} r={12 / k} fill="transparent" />
					<Tag k={k} x={knob.x + 12 / k} y={knob.y}>{`${Math.round(piece.headingDeg)}°`}</Tag>
				</g>
			)}
			<Foot foot={foot} k={k} onPointerDown={slide} />
		</g>
	);
}

function Foot({ foot, k, onPointerDown }: { foot: Point; k: number; onPointerDown: (e: ReactPointerEvent) => void }) {
	return (
		<g style={{ cursor: "move" }} onPointerDown={onPointerDown} data-testid="handle-foot">
			<ellipse cx={foot.x} cy={foot.y} rx={9 / k} ry={4 / k} fill="#fff" stroke="#000" strokeWidth={1.6 / k} />
			<ellipse cx={foot.x} cy={foot.y} rx={3 / k} ry={1.5 / k} fill="#000" />
			<ellipse cx={foot.x} cy={foot.y} rx={16 / k} ry={11 / k} fill="transparent" />
		</g>
	);
}

function FootOfMany({ pieces, k, view, place, at }: MarkProps & { pieces: Piece[]; at: At }) {
	const ground = useShot((s) => s.document.ground);
	const originals = useShot((s) => s.document.pieces).filter((p) => pieces.some((q) => q.id === p.id));
	const gesture = useGesture();
	const x = pieces.reduce((s, p) => s + p.position[0], 0) / pieces.length;
	const z = pieces.reduce((s, p) => s + p.position[2], 0) / pieces.length;
	const y = groundHeight(ground, x, z);
	const foot = at([x, y, z]);
	if (!foot) return null;
	return (
		<Foot
			foot={foot}
			k={k}
			onPointerDown={(event) => {
				const from = levelUnder(view, y, place(event));
				gesture(event, (e) => {
					const to = levelUnder(view, y, place(e));
					return from && to ? slidePieces(originals, to[0] - from[0], to[2] - from[2]) : null;
				});
			}}
		/>
	);
}
