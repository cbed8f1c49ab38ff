"use client";
/**
 * The section: the set from the side along the view, at one scale both ways. Left the lens with its wedge, then what lies
 * ahead of it. Pieces are picked here; dragged along they slide towards or away, dragged up or down they are lifted.
 */
import { memo, type PointerEvent as ReactPointerEvent, useCallback, useId, useMemo, useRef } from "react";
import type { Edit } from "../../core/doc/edits.ts";
import type { Ground, Piece } from "../../core/doc/schema.ts";
import { groundHeight } from "../../core/ground/height.ts";
import { frameOfView } from "../../core/lens/camera.ts";
import { liftPieces, slidePieces } from "../../core/shape/handPieces.ts";
import { outermost, supportsOf } from "../../core/shape/place.ts";
import { haloed } from "../parts/marks.tsx";
import { pressedAgain, startDrag } from "../parts/pointer.ts";
import { metres } from "../parts/words.ts";
import { draggedWith, pickPiece } from "../store/pick.ts";
import { useShot, useShown } from "../store/shotStore.ts";
import { snapped } from "../store/snap.ts";
import { useStudioOf } from "../store/studio.ts";
import { reachOf } from "./reach.ts";
import { Whole } from "./Whole.tsx";
import { roundMetres, useZoom } from "./zoom.ts";

/** Pixels after which it is settled whether a drag goes along or up. */
const SETTLED_PX = 6;

export function Section({ width, height }: { width: number; height: number }) {
	const doc = useShown();
	const { camera, ground, pieces } = doc;
	const { selected, set } = useStudioOf("selected", "set");
	const { commit, show } = useShot.getState();
	const clip = useId();
	const [lx, ly, lz] = camera.position;
	const h = (camera.headingDeg * Math.PI) / 180;
	const [ax, az] = [Math.sin(h), -Math.cos(h)];
	const standing = useShot((s) => s.document.pieces);
	const reach = useMemo(
		() => reachOf(standing.map((p) => Math.hypot(p.position[0] - lx, p.position[2] - lz))),
		[standing, lx, lz],
	);
	const box = useRef<SVGSVGElement>(null);
	const { k, x: zx, y: zy, pan, whole } = useZoom(box, width);
	const scale = ((width * 0.86) / reach) * k;
	const left = width * 0.07 * k + zx;
	// The lens's height lies a third above the foot, so that ground and crowns have room.
	const middle = height * 0.62 * k + zy;
	const x = (m: number) => left + m * scale;
	const y = (up: number) => middle - (up - ly) * scale;

	const drag = (event: ReactPointerEvent, piece: Piece) => {
		if (event.button !== 0) return;
		const ids = draggedWith(piece.id, event.shiftKey);
		const deeper = pressedAgain(event);
		const originals = useShot.getState().document.pieces.filter((p) => ids.includes(p.id));
		let upwards: boolean | null = null;
		const make = (e: PointerEvent): Edit | null => {
			const [dx, dy] = [e.clientX - event.clientX, e.clientY - event.clientY];
			if (upwards === null && Math.max(Math.abs(dx), Math.abs(dy)) >= SETTLED_PX) upwards = Math.abs(dy) > Math.abs(dx);
			if (upwards === null) return null;
			if (!upwards) return snapped(slidePieces(originals, (ax * dx) / scale, (az * dx) / scale), scale);
			return liftPieces(originals, -dy / scale);
		};
		startDrag(event, {
			move: (e) => show(make(e)),
			end: (e, moved) => {
				const edit = moved ? make(e) : null;
				if (edit) return void commit(edit);
				show(null);
				pickPiece(piece.id, event.shiftKey, deeper);
				set({ step: "Mass" });
			},
			cancel: () => show(null),
		});
	};

	const newest = useRef(drag);
	newest.current = drag;
	const press = useCallback((event: ReactPointerEvent, piece: Piece) => newest.current(event, piece), []);
	const place = useMemo(
		(): Place => ({ left, middle, scale, reach, lx, ly, lz, ax, az }),
		[left, middle, scale, reach, lx, ly, lz, ax, az],
	);
	const chosen = useMemo(() => new Set(selected), [selected]);

	const profile = Array.from({ length: 120 }, (_, i) => {
		const m = (-20 + (i / 119) * (width + 40) - left) / scale;
		return `${x(m).toFixed(1)} ${y(groundHeight(ground, lx + ax * m, lz + az * m)).toFixed(1)}`;
	});
	const view = frameOfView(camera);
	const far = Math.max(reach * 1.5, (2 * width) / scale);
	// The upper and lower edge of the frame at its middle, as slopes along the view.
	const slope = (s: number) => {
		const d = [0, 1, 2].map((k) => view.middle[k] + s * view.tanY * view.up[k]);
		return d[1] / Math.max(1e-3, d[0] * ax + d[2] * az);
	};
	const edge = (s: number) => `${x(far)} ${y(ly + slope(s) * far)}`;
	return (
		<div className="relative" style={{ width, height }}>
			<svg
				ref={box}
				data-zoom={k}
				width={width}
				height={height}
				viewBox={`0 0 ${width} ${height}`}
				className="block touch-none bg-paper"
				role="img"
				aria-label="Section of the set from the side"
				data-testid="section"
			>
				<clipPath id={clip}>
					<rect width={width} height={height} />
				</clipPath>
				<rect width={width} height={height} fill="transparent" onPointerDown={pan} />
				<g clipPath={`url(#${clip})`}>
					<path pointerEvents="none" d={`M${x(0)} ${y(ly)}L${edge(1)}L${edge(-1)}z`} fill="#e9e5db" />
					<path
						pointerEvents="none"
						d={`M${profile.join("L")}L${width + 50} ${height + 50}L-50 ${height + 50}z`}
						fill="#dcd7cb"
					/>
					{doc.water.on && (
						<path d={`M0 ${y(doc.water.levelM)}H${width}`} stroke="#57544e" strokeWidth={1} strokeDasharray="1 3" />
					)}
					<path d={`M0 ${y(ly)}H${width}`} stroke="#a03c2a" strokeWidth={0.8} strokeDasharray="3 3" />
					{pieces.map((piece) => (
						<SectionPiece
							key={piece.id}
							{...{ piece, ground, place }}
							under={supportsOf(piece, doc.pieces)}
							on={chosen.has(piece.id)}
							onPress={press}
						/>
					))}
					<path d={`M${x(0)} ${y(ly)}L${edge(1)}M${x(0)} ${y(ly)}L${edge(-1)}`} stroke="#57544e" fill="none" />
					<circle cx={x(0)} cy={y(ly)} r={3.5} fill="#1d1c1a" />
					{(width > 300 ? [0.5, 1] : [1])
						.map((f) => roundMetres((reach / k) * f))
						.map((m) => (
							<text key={m} x={x(m)} y={height - 6} textAnchor="end" {...haloed} pointerEvents="none">
								{metres(m)}
							</text>
						))}
				</g>
				<text x={8} y={17} {...haloed} fontSize={13}>
					section
				</text>
			</svg>
			<Whole {...{ k, x: zx, y: zy, whole }} />
		</div>
	);
}

/** Where the lens stands in the section and in the world, the way it looks, and how many pixels a metre has. */
interface Place {
	left: number;
	middle: number;
	scale: number;
	reach: number;
	lx: number;
	ly: number;
	lz: number;
	ax: number;
	az: number;
}

/** A piece from the side, drawn again only when it changes. */
const SectionPiece = memo(function SectionPiece({
	piece,
	ground,
	under,
	place: { left, middle, scale, reach, lx, ly, lz, ax, az },
	on,
	onPress,
}: {
	piece: Piece;
	ground: Ground;
	/** What it stands on; the same list as long as that is the ground. */
	under: readonly Piece[];
	place: Place;
	on: boolean;
	onPress: (e: ReactPointerEvent, piece: Piece) => void;
}) {
	if (piece.hidden) return null;
	let [from, to, low, high] = [Infinity, -Infinity, Infinity, -Infinity];
	for (const [px, py, pz] of outermost(piece, { ground, pieces: under })) {
		const ahead = (px - lx) * ax + (pz - lz) * az;
		from = Math.min(from, ahead);
		to = Math.max(to, ahead);
		low = Math.min(low, py);
		high = Math.max(high, py);
	}
	const x0 = left + from * scale;
	const y0 = middle - (high - ly) * scale;
	const w = Math.max(3, (to - from) * scale);
	const tall = Math.max(3, (high - low) * scale);
	return (
		<g onPointerDown={(e) => onPress(e, piece)} style={{ cursor: "move" }}>
			<title>{piece.name}</title>
			<rect x={x0} y={y0} width={w} height={tall} fill="#6d675c" fillOpacity={to - from > reach / 2 ? 0.2 : 0.7} />
			{on && (
				<rect
					x={x0 - 2}
					y={y0 - 2}
					width={w + 4}
					height={tall + 4}
					fill="none"
					stroke="#1d1c1a"
					strokeWidth={1.5}
					data-testid="section-chosen"
				/>
			)}
			<rect x={x0 - 3} y={y0 - 3} width={Math.max(9, w + 6)} height={Math.max(9, tall + 6)} fill="transparent" />
		</g>
	);
});
