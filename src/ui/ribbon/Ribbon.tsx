"use client";
/**
 * The depth ribbon: the picture seen from the side. Left to right the distance from the lens, logarithmic; bottom to top
 * the height in the frame. Pieces and covers stand at their distance and height, are picked here, and are pushed nearer or
 * farther along their own line of sight. Pieces are painted on a canvas, so that thousands of them follow a drag.
 */
import { type PointerEvent as ReactPointerEvent, useEffect, useMemo, useRef, useState } from "react";
import { contrastKept, fogShape } from "../../core/air/fog.ts";
import type { Edit } from "../../core/doc/edits.ts";
import type { Cover, Piece, ShotDocument } from "../../core/doc/schema.ts";
import { groundHeight } from "../../core/ground/height.ts";
import { type FrameOfView, keptView, project, sharpRange } from "../../core/lens/camera.ts";
import { type KeptSize, pushAlongSight } from "../../core/scene/push.ts";
import { BANDS } from "../../core/study/bands.ts";
import { blurPx } from "../../core/study/toy.ts";
import { coverReach, leansOnAnother } from "../frame/geometry.ts";
import { Choice } from "../parts/controls.tsx";
import { haloed } from "../parts/marks.tsx";
import { painted } from "../parts/painted.ts";
import { pressedAgain, startDrag } from "../parts/pointer.ts";
import { halves, useEach, useSame } from "../parts/same.ts";
import { metres } from "../parts/words.ts";
import { draggedWith, pickPiece } from "../store/pick.ts";
import { useShot, useShown } from "../store/shotStore.ts";
import { useStudioOf } from "../store/studio.ts";
import { FAR, metresAt, moved, NEAR, SIDE, type Span, ticks, WHOLE, xOf, zoomed } from "./scale.ts";
import { FOOT, type Place, type Shape, shapeAt, shapeOf, yOf } from "./shapes.ts";

const NEAREST_PUSH = 0.3;
/** Pixels between the strokes of a cover. */
const HATCH_PX = 5;

/** The edit that pushes pieces so that the first of them comes to lie `factor` times as far. */
const push = (pieces: readonly Piece[], doc: ShotDocument, factor: number, keep: KeptSize): Edit => ({
	name: "piece.push",
	pieces: pieces.map((p) => pushAlongSight(p, doc, doc.camera, factor, keep)),
});

export function Ribbon({ width, height }: { width: number; height: number }) {
	const doc = useShown();
	const { camera } = doc;
	const { selected, set, cover } = useStudioOf("selected", "set", "cover");
	const { commit, show } = useShot.getState();
	const [span, setSpan] = useState<Span>(WHOLE);
	const [keep, setKeep] = useState<KeptSize>("in metres");
	/** Distance under the pointer, metres. */
	const [over, setOver] = useState<number | null>(null);
	const box = useRef<HTMLDivElement>(null);
	const view = keptView(camera);
	const base = height - FOOT;
	const place = useMemo(
		(): Place => ({ view, ground: doc.ground, pieces: doc.pieces, span, width, height }),
		[view, doc.ground, doc.pieces, span, width, height],
	);
	const shapes = useEach(
		doc.pieces,
		(piece) => (piece.hidden ? null : shapeOf(piece, place)),
		[view, doc.ground, span, width, height],
		leansOnAnother,
	);
	const own = new Set(selected);
	const [chosen, others] = halves(shapes, (s) => own.has(s.piece.id));

	useEffect(() => {
		const element = box.current;
		if (!element) return;
		const onWheel = (e: WheelEvent) => {
			e.preventDefault();
			const r = element.getBoundingClientRect();
			setSpan((s) => zoomed(s, Math.exp(-e.deltaY * 0.002), metresAt(e.clientX - r.left, s, width)));
		};
		element.addEventListener("wheel", onWheel, { passive: false });
		return () => element.removeEventListener("wheel", onWheel);
	}, [width]);

	const at = (e: { clientX: number; clientY: number }): [number, number] => {
		const r = box.current?.getBoundingClientRect();
		return r ? [e.clientX - r.left, e.clientY - r.top] : [0, 0];
	};

	const down = (event: ReactPointerEvent) => {
		if (event.button !== 0) return;
		box.current?.focus({ preventScroll: true });
		const [px, py] = at(event);
		const hit = shapeAt(chosen, px, py) ?? shapeAt(shapes, px, py);
		if (!hit) {
			const under = doc.covers.find((c) => !c.hidden && isInBand(c, px, py, { doc, view, span, width, height }));
			const from = span;
			startDrag(event, {
				move: (e) => setSpan(moved(from, metresAt(px, from, width), metresAt(at(e)[0], from, width))),
				end: (_e, did) => !did && under && set({ cover: under.id, step: "Dress" }),
				cancel: () => setSpan(from),
			});
			box.current?.focus({ preventScroll: true });
			return;
		}
		const { document: standing } = useShot.getState();
		const taken = new Set(draggedWith(hit.piece.id, false));
		const deeper = pressedAgain(event);
		const own = standing.pieces.filter((p) => taken.has(p.id));
		const fromM = metresAt(px, span, width);
		const make = (e: { clientX: number }) =>
			push(
				own,
				standing,
				Math.max(
					NEAREST_PUSH / hit.box.nearM,
					metresAt(at({ clientX: e.clientX, clientY: 0 })[0], span, width) / fromM,
				),
				keep,
			);
		startDrag(event, {
			move: (e) => {
				if (!selected.includes(hit.piece.id)) pickPiece(hit.piece.id);
				show(make(e));
			},
			end: (e, did) => {
				if (did) commit(make(e));
				else {
					pickPiece(hit.piece.id, event.shiftKey, deeper);
					set({ step: "Mass" });
				}
				box.current?.focus({ preventScroll: true });
			},
			cancel: () => show(null),
		});
	};

	const key = (event: React.KeyboardEvent) => {
		const aside = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
		const pieces = doc.pieces.filter((p) => selected.includes(p.id));
		if (aside && pieces.length) {
			commit(push(pieces, doc, (event.shiftKey ? 1.1 : 1.01) ** aside, keep));
		} else if (aside) setSpan((s) => moved(s, s.fromM, s.fromM * (s.toM / s.fromM) ** (-0.1 * aside)));
		else if (event.key === "+" || event.key === "=") setSpan((s) => zoomed(s, 1.4, Math.sqrt(s.fromM * s.toM)));
		else if (event.key === "-") setSpan((s) => zoomed(s, 1 / 1.4, Math.sqrt(s.fromM * s.toM)));
		else if (event.key === "0") setSpan(WHOLE);
		else if ((event.key === "ArrowUp" || event.key === "ArrowDown") && shapes.length) {
			// From piece to piece, in the order of their distance.
			const order = [...shapes].sort((a, b) => a.box.nearM - b.box.nearM);
			const now = order.findIndex((s) => s.piece.id === selected[0]);
			const next = order[(now + (event.key === "ArrowUp" ? 1 : -1) + order.length) % order.length];
			pickPiece(next.piece.id);
		} else return;
		event.preventDefault();
		event.stopPropagation();
	};

	const whole = span.fromM <= NEAR * 1.001 && span.toM >= FAR * 0.999;
	return (
		<div
			ref={box}
			role="group"
			// biome-ignore lint/a11y/noNoninteractiveTabindex: pieces are pushed by keys
			tabIndex={0}
			aria-label="Depth ribbon: pieces by their distance from the lens. Up and down pick a piece, left and right push it."
			className="relative touch-none bg-paper focus-visible:outline-offset-[-3px]"
			style={{ width, height }}
			data-testid="ribbon"
			data-pieces={shapes.length}
			onKeyDown={key}
		>
			<Backdrop doc={doc} view={view} width={width} height={height} span={span} />
			<Shapes shapes={others} width={width} height={height} />
			<Shapes shapes={chosen} chosen width={width} height={height} />
			<svg
				width={width}
				height={height}
				viewBox={`0 0 ${width} ${height}`}
				className="absolute inset-0 block"
				aria-hidden
			>
				<rect
					width={width}
					height={base}
					fill="transparent"
					style={{ cursor: "ew-resize" }}
					onPointerDown={down}
					onPointerMove={(e) => setOver(metresAt(at(e)[0], span, width))}
					onPointerLeave={() => setOver(null)}
				/>
				<Covers {...{ doc, view, span, width, height }} chosen={cover} />
				<Sharp doc={doc} width={width} base={base} span={span} />
				{over !== null && <BlurHere doc={doc} m={over} width={width} base={base} span={span} />}
				{chosen.slice(0, 40).map((s, i) => (
					<g key={s.piece.id} pointerEvents="none" data-testid="ribbon-chosen" data-at={s.box.nearM}>
						<rect
							x={s.x0 - 2}
							y={s.y0 - 2}
							width={s.x1 - s.x0 + 4}
							height={s.y1 - s.y0 + 4}
							fill="none"
							stroke="#000"
							strokeWidth={3}
						/>
						<rect
							x={s.x0 - 2}
							y={s.y0 - 2}
							width={s.x1 - s.x0 + 4}
							height={s.y1 - s.y0 + 4}
							fill="none"
							stroke="#fff"
							strokeWidth={1.2}
						/>
						{chosen.length <= 3 && (
							<text
								x={Math.max(4, Math.min(width - 150, s.x1 + 6))}
								// Names of pieces that lie beside each other stand one above the other.
								y={Math.max(34 + 15 * i, s.y0 - 2 - 15 * i)}
								{...haloed}
								fontSize={13}
								fontWeight={600}
								fill="#1d1c1a"
							>
								{s.piece.name} {metres(s.box.nearM)}
							</text>
						)}
					</g>
				))}
			</svg>
			<div className="absolute top-1 right-2 flex items-center gap-2">
				<button
					type="button"
					className="text-second text-small underline underline-offset-4"
					title="The time strip in the ribbon's place (M)"
					onClick={() => useShot.getState().goTo(0)}
				>
					the move
				</button>
				{!whole && (
					<button
						type="button"
						className="text-second text-small underline underline-offset-4"
						onClick={() => setSpan(WHOLE)}
					>
						{metres(span.fromM)} to {metres(span.toM)}, whole ribbon
					</button>
				)}
				{chosen.length > 0 && (
					<>
						<span className="text-second text-small">size kept</span>
						<Choice
							small
							label="Size kept while pushing"
							options={["in metres", "in the frame"] as const}
							value={keep}
							onPick={setKeep}
						/>
					</>
				)}
			</div>
		</div>
	);
}

interface Bands {
	doc: ShotDocument;
	view: FrameOfView;
	span: Span;
	width: number;
	height: number;
}

/** Top and foot in the ribbon of a cover at a distance: from the ground, straight ahead, to the height of its tallest plants. */
function bandAt(c: Cover, m: number, { doc, view, height }: Bands): [number, number] {
	const [px, h, pz] = groundAhead(doc, view, m);
	return [h + c.sizeM[1], h].map((up) => yOf(project(view, [px, up, pz]).y, height)) as [number, number];
}

const BAND_PX = 5;

function isInBand(c: Cover, px: number, py: number, bands: Bands): boolean {
	const { nearM, farM } = coverReach(c);
	const m = metresAt(px, bands.span, bands.width);
	if (m < nearM || m > farM) return false;
	const [top, foot] = bandAt(c, m, bands);
	return py > top - BAND_PX && py < foot + BAND_PX;
}

/** Covers as hatched bands: how far they reach, and how high they stand in the frame there. */
function Covers({ chosen, ...bands }: Bands & { chosen: string | null }) {
	const { doc, span, width } = bands;
	return (
		<g pointerEvents="none">
			{doc.covers.map((c) => {
				if (c.hidden) return null;
				const { nearM, farM } = coverReach(c);
				const from = Math.max(SIDE, xOf(nearM, span, width));
				const to = Math.min(width - SIDE, xOf(farM, span, width));
				if (to < from + 1) return null;
				const on = chosen === c.id;
				const strokes: string[] = [];
				const [tops, feet]: [string[], string[]] = [[], []];
				for (let at = from; at <= to; at += HATCH_PX) {
					const [top, foot] = bandAt(c, metresAt(at, span, width), bands);
					tops.push(`${at.toFixed(1)} ${top.toFixed(1)}`);
					feet.push(`${at.toFixed(1)} ${foot.toFixed(1)}`);
					strokes.push(
						`M${at.toFixed(1)} ${foot.toFixed(1)}L${(at + 2).toFixed(1)} ${Math.min(top, foot - 3).toFixed(1)}`,
					);
				}
				return (
					<g key={c.id} data-testid={`band-${c.name}`}>
						<path d={`M${tops.join("L")}L${feet.reverse().join("L")}z`} fill="#6d675c" fillOpacity={on ? 0.28 : 0.12} />
						<path d={strokes.join("")} stroke={on ? "#1d1c1a" : "#6d675c"} strokeWidth={on ? 1.6 : 0.9} />
					</g>
				);
			})}
		</g>
	);
}

/** Place in the world on the ground, or on water over it, straight ahead of the lens. */
function groundAhead({ camera, ground, water }: ShotDocument, view: FrameOfView, m: number): [number, number, number] {
	const level = Math.hypot(view.forward[0], view.forward[2]) || 1;
	const px = camera.position[0] + (view.forward[0] / level) * m;
	const pz = camera.position[2] + (view.forward[2] / level) * m;
	return [px, Math.max(groundHeight(ground, px, pz), water.on ? water.levelM : -1e9), pz];
}

/** Pieces, painted again only when one of them changes: of thousands, a drag moves the chosen ones. */
function Shapes({
	shapes: given,
	chosen,
	width,
	height,
}: {
	shapes: readonly Shape[];
	chosen?: boolean;
	width: number;
	height: number;
}) {
	const shapes = useSame(given);
	const canvas = useRef<HTMLCanvasElement>(null);
	useEffect(() => {
		const context = painted(canvas.current, width, height);
		if (!context) return;
		context.fillStyle = "#6d675c";
		for (const { box, x0, x1, near, far } of shapes) {
			if (x1 < 0 || x0 > width) continue;
			// What runs away from the lens over more than four times its distance lies like ground in the ribbon.
			context.globalAlpha = chosen ? 1 : box.farM > 4 * box.nearM ? 0.22 : 0.72;
			context.beginPath();
			context.moveTo(x0, near[0]);
			context.lineTo(x1, far[0]);
			context.lineTo(x1, Math.max(far[0] + 2, far[1]));
			context.lineTo(x0, Math.max(near[0] + 2, near[1]));
			context.fill();
		}
	}, [shapes, chosen, width, height]);
	return <canvas ref={canvas} className="pointer-events-none absolute inset-0" style={{ width, height }} />;
}

/** Ground, horizon, fog, the sharp range, bands and distances. */
function Backdrop({
	doc,
	view,
	width,
	height,
	span,
}: {
	doc: ShotDocument;
	view: FrameOfView;
	width: number;
	height: number;
	span: Span;
}) {
	const base = height - FOOT;
	const x = (m: number) => xOf(m, span, width);
	const y = (v: number) => yOf(v, height);
	const [lx, ly, lz] = doc.camera.position;
	const level = Math.hypot(view.forward[0], view.forward[2]) || 1;
	const groundPath = Array.from({ length: 90 }, (_, i) => {
		const m = span.fromM * (span.toM / span.fromM) ** (i / 89);
		const p = project(view, groundAhead(doc, view, m));
		return `${x(m).toFixed(1)} ${y(p.y).toFixed(1)}`;
	});
	const fog = fogShape(doc.air.fog);
	const veil = doc.air.fog.on
		? Array.from({ length: 8 }, (_, i) => span.fromM * (span.toM / span.fromM) ** (i / 7)).map((m) => ({
				m,
				lost: 1 - contrastKept(fog, ly, ly, m),
			}))
		: [];
	const horizon = project(view, [lx + (view.forward[0] / level) * 1e6, ly, lz + (view.forward[2] / level) * 1e6]).y;
	return (
		<svg
			width={width}
			height={height}
			viewBox={`0 0 ${width} ${height}`}
			className="absolute inset-0 block"
			aria-hidden
		>
			<defs>
				<linearGradient id="veil">
					{veil.map((v) => (
						<stop key={v.m} offset={`${(x(v.m) / width) * 100}%`} stopColor="#aab4c0" stopOpacity={v.lost * 0.75} />
					))}
				</linearGradient>
			</defs>
			<path d={`M${groundPath.join("L")}L${width - SIDE} ${base}L${SIDE} ${base}z`} fill="#dcd7cb" />
			<path d={`M${SIDE} ${y(horizon)}H${width - SIDE}`} stroke="#57544e" strokeDasharray="3 3" strokeWidth={0.8} />
			<rect x={0} y={0} width={width} height={base} fill="url(#veil)" />
			{BANDS.map(({ band, fromM, toM }, i) => {
				if (toM < span.fromM || fromM > span.toM) return null;
				const edge = x(Math.max(NEAR, fromM));
				const at = Math.max(SIDE, edge);
				return (
					<g key={band}>
						{edge > SIDE + 1 && <path d={`M${at} 6v14`} stroke="#57544e" />}
						<text x={at + (i === 0 ? 10 : 8)} y={18} fontSize={13} fill="#57544e">
							{band}
						</text>
					</g>
				);
			})}
			{ticks(span, 10).map((m) => (
				<g key={m}>
					<path d={`M${x(m)} ${base}v5`} stroke="#57544e" />
					<text x={Math.min(width - 18, x(m))} y={height - 6} fontSize={12} textAnchor="middle" fill="#57544e">
						{m >= 1000 ? `${m / 1000} km` : m === 1 ? "1 m" : m}
					</text>
				</g>
			))}
		</svg>
	);
}

/** What blur is at a distance: a hair line there, and its size in pixels of the print. */
function BlurHere({
	doc,
	m,
	width,
	base,
	span,
}: {
	doc: ShotDocument;
	m: number;
	width: number;
	base: number;
	span: Span;
}) {
	const x = xOf(m, span, width);
	const { widthPx } = doc.print;
	const blur = blurPx(doc.camera, m, widthPx);
	const words = `${metres(m)}: blur ${blur < 10 ? blur.toFixed(1) : Math.round(blur)} px of ${widthPx.toLocaleString("en")}`;
	const right = x > width - 230;
	return (
		<g pointerEvents="none" data-testid="blur-here">
			<path d={`M${x} 24V${base}`} stroke="#57544e" strokeWidth={0.8} />
			<text
				x={right ? x - 6 : x + 6}
				y={36}
				textAnchor={right ? "end" : "start"}
				{...haloed}
				fontSize={13}
				fill="#1d1c1a"
			>
				{words}
			</text>
		</g>
	);
}

/** The range that is sharp, as a bar on the scale, and the hyperfocal distance on it. */
function Sharp({ doc, width, base, span }: { doc: ShotDocument; width: number; base: number; span: Span }) {
	const { hyperfocalM: H, fromM: from, toM: to } = sharpRange(doc.camera);
	if (from > span.toM || to < span.fromM) return null;
	const clip = (m: number) => Math.min(width - SIDE, Math.max(SIDE, xOf(m, span, width)));
	return (
		<g pointerEvents="none">
			<path d={`M${clip(from)} ${base}H${clip(to)}`} stroke="#1d1c1a" strokeWidth={2.5} />
			{H > span.fromM && H < span.toM && <path d={`M${clip(H)} ${base - 7}v7`} stroke="#1d1c1a" strokeWidth={1.2} />}
			<text x={clip(from)} y={base - 15} {...haloed} fill="#1d1c1a">
				sharp from {metres(from)}
				{to < FAR ? ` to ${metres(to)}` : ""}
				{doc.camera.focusM !== null || doc.camera.focusOn ? `, hyperfocal ${metres(H)}` : ""}
			</text>
		</g>
	);
}
