"use client";
/** Handles of what is laid in one place: its rim, its middle, its corners and a ring to turn it by. */
import type { PointerEvent as ReactPointerEvent } from "react";
import { project } from "../../../core/lens/camera.ts";
import { cameraAxes } from "../../../core/maths/axes.ts";
import { DEG } from "../../../core/maths/functions.ts";
import { type Mat34, transformPoint, type Vec3 } from "../../../core/maths/vec.ts";
import { pieceFrames } from "../../../core/shape/place.ts";
import type { MarkProps } from "../../frame/marks.ts";
import { Dot, Double, Tag } from "../../parts/marks.tsx";
import { startDrag } from "../../parts/pointer.ts";
import { useShown } from "../../store/shotStore.ts";
import { useStudio } from "../../store/studio.ts";
import { type Here, placeAt } from "./seenPlace.ts";

const WORLD: Mat34 = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];
const [LEAST_M, MOST_M] = [0.01, 500];
/** How far over the rim the ring stands, in pixels. */
const RING_PX = 26;
const GRAB_PX = 9;

const sized = (v: number) => Math.min(MOST_M, Math.max(LEAST_M, Number(v.toPrecision(3))));

export function PlaceMarks({ width, height, k, view, place }: MarkProps) {
	const doc = useShown();
	const heldPlace = useStudio((s) => s.heldPlace);
	if (!heldPlace) return null;
	const { where, on, show, commit } = heldPlace;
	const piece = on === null ? null : doc.pieces.find((p) => p.id === on);
	if (on !== null && !piece) return null;
	const frame = piece ? pieceFrames(piece, doc)[0] : WORLD;
	const { right, up } = cameraAxes(where.headingDeg, where.pitchDeg, where.turnDeg);
	/** A place of its middle plane, in halves of it right and up, in pixels; null behind the lens. */
	const at = (x: number, y: number) => {
		const own = where.at.map(
			(v, c) => v + (x * where.wideM * right[c] + y * where.highM * up[c]) / 2,
		) as unknown as Vec3;
		const q = project(view, transformPoint(frame, own));
		return q.depthM > 0.05 ? { x: q.x * width, y: q.y * height } : null;
	};
	const corners = [
		[-1, 1],
		[1, 1],
		[1, -1],
		[-1, -1],
	].map(([x, y]) => at(x, y));
	const [middle, top] = [at(0, 0), at(0, 1)];
	if (!middle || !top || corners.some((c) => !c)) return null;
	const rim = corners as { x: number; y: number }[];
	const away = Math.hypot(top.x - middle.x, top.y - middle.y) || 1;
	const ring = {
		x: top.x + ((top.x - middle.x) / away) * (RING_PX / k),
		y: top.y + ((top.y - middle.y) / away) * (RING_PX / k),
	};
	const pixel = (e: { clientX: number; clientY: number }) => {
		const p = place(e);
		return { x: p.x * width, y: p.y * height };
	};
	const drag = (event: ReactPointerEvent, make: (e: PointerEvent) => Here | null) => {
		if (event.button !== 0) return;
		startDrag(event, {
			move: (e) => {
				const now = make(e);
				if (now) show(now);
			},
			end: (e, moved) => {
				const now = moved ? make(e) : null;
				if (now) commit(now);
				else show(undefined);
			},
			cancel: () => show(undefined),
		});
	};
	const move = (event: ReactPointerEvent) =>
		drag(event, (e) => {
			const to = placeAt(view, on, place(e));
			return to && { ...where, ...to };
		});
	const size = (event: ReactPointerEvent, corner: { x: number; y: number }) => {
		const [across, down] = [at(1, 0), at(0, 1)].map((p) => ({
			x: (p?.x ?? middle.x + 1) - middle.x,
			y: (p?.y ?? middle.y + 1) - middle.y,
		}));
		/** How far from the middle a place is, in halves right and up. */
		const parts = ({ x, y }: { x: number; y: number }) => {
			const det = across.x * down.y - across.y * down.x || 1;
			const [dx, dy] = [x - middle.x, y - middle.y];
			return [(dx * down.y - dy * down.x) / det, (across.x * dy - across.y * dx) / det].map(Math.abs);
		};
		const first = parts(corner);
		drag(event, (e) => {
			const now = parts(pixel(e));
			const by = now.map((v, i) => v / (first[i] || 1));
			const both = Math.sqrt(by[0] * by[1]);
			const [x, y] = e.shiftKey ? by : [both, both];
			return { ...where, wideM: sized(where.wideM * x), highM: sized(where.highM * y) };
		});
	};
	const turn = (event: ReactPointerEvent) => {
		const angle = (p: { x: number; y: number }) => Math.atan2(p.y - middle.y, p.x - middle.x) / DEG;
		const first = angle(pixel(event));
		// Seen from behind it turns the other way.
		const [a, b] = rim;
		const sign = (a.x - middle.x) * (b.y - middle.y) - (a.y - middle.y) * (b.x - middle.x) > 0 ? 1 : -1;
		drag(event, (e) => {
			const by = sign * (angle(pixel(e)) - first);
			const turned = where.turnDeg + by;
			const turnDeg = turned - 360 * Math.round(turned / 360);
			return { ...where, turnDeg: e.shiftKey ? 15 * Math.round(turnDeg / 15) : Number(turnDeg.toFixed(1)) };
		});
	};
	const grab = (x: number, y: number, cursor: string, label: string, start: (e: ReactPointerEvent) => void) => (
		<circle
			cx={x}
			cy={y}
			r={GRAB_PX / k}
			fill="transparent"
			style={{ cursor }}
			pointerEvents="all"
			data-testid={`place-${label}`}
			onPointerDown={start}
		/>
	);
	return (
		<g data-testid="place-marks">
			<Double k={k} d={`M${rim.map((c) => `${c.x.toFixed(1)} ${c.y.toFixed(1)}`).join("L")}Z`} dashed />
			<Double k={k} d={`M${top.x} ${top.y}L${ring.x} ${ring.y}`} />
			<Dot x={middle.x} y={middle.y} k={k} soft chosen />
			{rim.map((c, n) => (
				<Dot key={n} x={c.x} y={c.y} k={k} soft={false} />
			))}
			<Dot x={ring.x} y={ring.y} k={k} soft />
			<Tag k={k} x={middle.x} y={Math.max(...rim.map((c) => c.y)) + 18 / k} anchor="middle">
				{`${where.wideM.toFixed(2)} × ${where.highM.toFixed(2)} m`}
			</Tag>
			{rim.map((c, n) => (
				<g key={n}>{grab(c.x, c.y, "nwse-resize", `corner ${n + 1}`, (e) => size(e, c))}</g>
			))}
			{grab(middle.x, middle.y, "move", "middle", move)}
			{grab(ring.x, ring.y, "grab", "turn", turn)}
		</g>
	);
}
