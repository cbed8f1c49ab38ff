"use client";
/**
 * Marks of drawn lines. While one is drawn: its points and the way to the pointer. Of a selected piece: its points, which are
 * dragged, made soft or hard by two quick presses and deleted by key; between them, places that become points; the sills of
 * a wall's openings, which are dragged along it.
 */
import { type PointerEvent as ReactPointerEvent, useEffect, useState } from "react";
import type { Edit } from "../../../core/doc/edits.ts";
import type { Piece } from "../../../core/doc/schema.ts";
import { levelUnder } from "../../../core/ground/underPoint.ts";
import { project, rayThrough } from "../../../core/lens/camera.ts";
import { cameraAxes } from "../../../core/maths/axes.ts";
import { atan2, DEG } from "../../../core/maths/functions.ts";
import { add, dot, scale, sub, type Vec3 } from "../../../core/maths/vec.ts";
import {
	insertPoint,
	isLine,
	LineError,
	type LinePiece,
	linePlaces,
	movePoint,
	pointPlaces,
	setSoft,
} from "../../../core/shape/handPoints.ts";
import { isWall, openingPlaces, slideOpening, type WallPiece } from "../../../core/shape/openings.ts";
import { drawnOf } from "../../../core/shape/shapes.ts";
import { useGesture } from "../../frame/gesture.ts";
import type { MarkProps } from "../../frame/marks.ts";
import { Dot, Double } from "../../parts/marks.tsx";
import { pressedAgain } from "../../parts/pointer.ts";
import { BetweenHandle, PointHandle } from "../../parts/points.tsx";
import type { PlanMarkProps } from "../../plan/Plan.tsx";
import { useShot, useShown } from "../../store/shotStore.ts";
import { useStudio, useStudioOf } from "../../store/studio.ts";
import type { At } from "./handles.tsx";

/** Points of one line that are marked at most. */
const MOST_MARKED = 120;

/** An edit of a line, or what was shown last where it cannot be: the reason is told. */
export function tried<E extends Edit>(make: () => E, last: E | null = null): E | null {
	try {
		return make();
	} catch (error) {
		if (!(error instanceof LineError)) throw error;
		useShot.getState().say(error.message);
		return last;
	}
}

/** What hands do with the points of a piece, in whatever view: `placed` tells where a pointer puts a point that is at a place. */
function useHands(piece: LinePiece) {
	const doc = useShot((s) => s.document);
	const gesture = useGesture();
	const { set } = useStudio.getState();
	const commit = useShot((s) => s.commit);
	const original = doc.pieces.find((p): p is LinePiece => p.id === piece.id && isLine(p)) ?? piece;
	type Placed = (e: { clientX: number; clientY: number }) => Vec3 | null;
	return {
		move: (event: ReactPointerEvent, n: number, placed: Placed, as: (p: LinePiece) => LinePiece = (p) => p) => {
			const soft = !original.shape.points.find((p) => p.n === n)?.soft;
			if (pressedAgain(event)) {
				event.preventDefault();
				event.stopPropagation();
				const edit = tried(() => setSoft(original, n, soft));
				if (edit) commit(edit);
				return;
			}
			let last: Extract<Edit, { name: "piece.redraw" }> | null = null;
			gesture(
				event,
				(e) => {
					const to = placed(e);
					if (to) last = tried(() => movePoint(as(original), n, to, doc), last);
					return last;
				},
				() => set({ point: { of: piece.id, n } }),
			);
		},
		insert: (event: ReactPointerEvent, after: number, placed: Placed, as: (p: LinePiece) => LinePiece = (p) => p) => {
			let last: Extract<Edit, { name: "piece.redraw" }> | null = null;
			gesture(event, (e) => {
				const to = placed(e);
				if (to) last = tried(() => insertPoint(as(original), after, to, doc), last);
				return last;
			});
		},
		slide: (event: ReactPointerEvent, n: number, placed: Placed) => {
			let last: Extract<Edit, { name: "piece.setShape" }> | null = null;
			gesture(event, (e) => {
				const to = placed(e);
				if (to) last = tried(() => slideOpening(original as WallPiece, n, to, doc), last);
				return last;
			});
		},
	};
}

/** The middle of a stretch from point to point. */
const middleOf = (line: readonly Vec3[]): Vec3 =>
	line.length > 2 ? line[Math.floor(line.length / 2)] : scale(add(line[0], line[1]), 0.5);

/** The points of a selected piece in the frame. */
export function PointMarks({
	piece,
	k,
	view,
	place,
	at,
}: Pick<MarkProps, "k" | "view" | "place"> & { piece: LinePiece; at: At }) {
	const doc = useShown();
	const chosen = useStudio((s) => s.point);
	const hands = useHands(piece);
	// What is turned about an upright axis shows its line where the lens sees its edge.
	const inSpace = !!drawnOf(piece.shape)?.inSpace;
	const facing = drawnOf(piece.shape)?.upright && piece.pitchDeg === 0 && piece.rollDeg === 0;
	const headingDeg = atan2(view.right[2], view.right[0]) / DEG;
	const as = (p: LinePiece): LinePiece => (facing ? { ...p, headingDeg } : p);
	const own = as(piece);
	const places = pointPlaces(own, doc);
	const axes = cameraAxes(own.headingDeg, own.pitchDeg, own.rollDeg);
	const flat = facing ? axes.forward : axes.up;
	/** In the plane of the line; with Shift, a rail goes up and down. */
	const placed = (from: Vec3, event: ReactPointerEvent) => {
		const level = inSpace && event.shiftKey ? cameraAxes(headingDeg, 0, 0).forward : flat;
		return (e: { clientX: number; clientY: number }): Vec3 | null => {
			const { x, y } = place(e);
			const along = rayThrough(view, x, y);
			const t = dot(sub(from, view.position), level) / dot(along, level);
			if (!(t > 0)) return null;
			const to = add(view.position, scale(along, t));
			return inSpace && event.shiftKey ? [from[0], to[1], from[2]] : to;
		};
	};
	/** What is moved while it is shown as it faces the lens keeps its own heading. */
	const lines = linePlaces(own, doc);
	const points = piece.shape.points;
	if (points.length > MOST_MARKED) return null;
	return (
		<g>
			{lines.map((line, i) => {
				const seen = line.map(at);
				if (seen.some((p) => !p)) return null;
				const d = `M${seen.map((p) => `${p?.x.toFixed(1)} ${p?.y.toFixed(1)}`).join("L")}`;
				const between = middleOf(line);
				const m = at(between);
				return (
					<g key={points[i].n}>
						<Double k={k} d={d} dashed />
						{m && (
							<BetweenHandle
								{...{ ...m, k }}
								onPointerDown={(e) => hands.insert(e, points[i].n, placed(between, e), as)}
								testId={`between-${points[i].n}`}
							/>
						)}
					</g>
				);
			})}
			{isWall(piece) && <OpeningMarks {...{ piece, k, view, place, at, hands }} />}
			{places.map((p, i) => {
				const q = at(p);
				const { n, soft } = points[i];
				return (
					q && (
						<PointHandle
							key={n}
							{...{ ...q, k }}
							soft={!!soft}
							chosen={chosen?.of === piece.id && chosen.n === n}
							title={`${soft ? "Soft point" : "Corner"} ${n + 1}${inSpace ? "; with Shift up and down" : ""}`}
							onPointerDown={(e) => hands.move(e, n, placed(p, e), as)}
							testId={`point-${n}`}
						/>
					)
				);
			})}
		</g>
	);
}

function OpeningMarks({
	piece,
	k,
	view,
	place,
	at,
	hands,
}: Pick<MarkProps, "k" | "view" | "place"> & { piece: WallPiece; at: At; hands: ReturnType<typeof useHands> }) {
	const doc = useShown();
	return openingPlaces(piece, doc).map(({ n, from, to }) => {
		const [a, b] = [at(from), at(to)];
		if (!a || !b) return null;
		const mid = { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
		return (
			<g
				key={n}
				style={{ cursor: "ew-resize" }}
				onPointerDown={(e) => hands.slide(e, n, (p) => levelUnder(view, from[1], place(p)))}
				data-testid={`opening-${n}`}
			>
				<Double k={k} d={`M${a.x} ${a.y}L${b.x} ${b.y}M${mid.x} ${mid.y - 5 / k}V${mid.y + 5 / k}`} />
				<path d={`M${a.x} ${a.y}L${b.x} ${b.y}`} stroke="transparent" strokeWidth={16 / k} />
			</g>
		);
	});
}

/** Where the pointer is while a line is drawn, in pixels of the page. */
function usePointer(on: boolean): { clientX: number; clientY: number } | null {
	const [pointer, setPointer] = useState<{ clientX: number; clientY: number } | null>(null);
	useEffect(() => {
		if (!on) return setPointer(null);
		const move = ({ clientX, clientY }: PointerEvent) => setPointer({ clientX, clientY });
		window.addEventListener("pointermove", move);
		return () => window.removeEventListener("pointermove", move);
	}, [on]);
	return pointer;
}

/** The line that is being drawn, in the frame. */
export function LineSoFar({ width, height, k, view, place }: MarkProps) {
	const line = useStudio((s) => s.sketch);
	const pointer = usePointer(line !== null);
	if (!line) return null;
	const seen = line.points
		.map((p) => project(view, p.world))
		.map((p) => ({ x: p.x * width, y: p.y * height, depthM: p.depthM }));
	if (seen.some((p) => p.depthM <= 0.05)) return null;
	const to = pointer && place(pointer);
	const inside = to && to.x >= 0 && to.x <= 1 && to.y >= 0 && to.y <= 1;
	const d = `M${seen.map((p) => `${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join("L")}`;
	const last = seen[seen.length - 1];
	return (
		<g pointerEvents="none" data-testid="line-so-far" data-points={seen.length}>
			<Double k={k} d={d} />
			{inside && <Double k={k} dashed d={`M${last.x} ${last.y}L${to.x * width} ${to.y * height}`} />}
			{seen.map((p, i) => (
				<Dot key={line.points[i].world.join()} {...p} k={k} soft={line.points[i].soft} />
			))}
		</g>
	);
}

/** Points in the plan: of the line that is drawn, or of the selected piece. */
export function LinesFromAbove({ at, worldAt }: PlanMarkProps) {
	const doc = useShown();
	const { selected, sketch: line } = useStudioOf("selected", "sketch");
	const piece = selected.length === 1 ? doc.pieces.find((p) => p.id === selected[0]) : undefined;
	if (line) {
		const seen = line.points.map((p) => at(p.world[0], p.world[2]));
		return (
			<g pointerEvents="none">
				<path d={`M${seen.map((p) => `${p.x} ${p.y}`).join("L")}`} fill="none" stroke="#1d1c1a" />
				{seen.map((p, i) => (
					<Dot key={line.points[i].world.join()} {...p} k={1} soft={line.points[i].soft} />
				))}
			</g>
		);
	}
	return piece && isLine(piece) && !piece.held && !drawnOf(piece.shape)?.upright && lies(piece) ? (
		<PlanPoints piece={piece} {...{ at, worldAt }} />
	) : null;
}

const lies = (piece: Piece) => piece.pitchDeg === 0 && piece.rollDeg === 0;

function PlanPoints({ piece, at, worldAt }: Pick<PlanMarkProps, "at" | "worldAt"> & { piece: LinePiece }) {
	const doc = useShown();
	const chosen = useStudio((s) => s.point);
	const hands = useHands(piece);
	const places = pointPlaces(piece, doc);
	const { points } = piece.shape;
	if (points.length > MOST_MARKED) return null;
	const placed =
		(y: number) =>
		(e: { clientX: number; clientY: number }): Vec3 => {
			const [x, z] = worldAt(e);
			return [x, y, z];
		};
	return (
		<g>
			{linePlaces(piece, doc).map((line, i) => {
				const between = middleOf(line);
				return (
					<BetweenHandle
						key={points[i].n}
						{...at(between[0], between[2])}
						k={1}
						reachPx={6}
						onPointerDown={(e) => hands.insert(e, points[i].n, placed(between[1]))}
						testId={`plan-between-${points[i].n}`}
					/>
				);
			})}
			{places.map((p, i) => {
				const { n, soft } = points[i];
				return (
					<PointHandle
						key={n}
						{...at(p[0], p[2])}
						k={1}
						reachPx={8}
						soft={!!soft}
						chosen={chosen?.of === piece.id && chosen.n === n}
						onPointerDown={(e) => hands.move(e, n, placed(p[1]))}
						testId={`plan-point-${n}`}
					/>
				);
			})}
		</g>
	);
}
