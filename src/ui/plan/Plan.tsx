"use client";
/** The plan: the set from above, the camera's wedge of view in it. Pieces are picked and moved here; the sun turns on its dial. */
import {
	type ComponentType,
	type PointerEvent as ReactPointerEvent,
	useCallback,
	useEffect,
	useId,
	useMemo,
	useRef,
	useState,
} from "react";
import type { Lamp } from "../../core/doc/schema.ts";
import { frameOfView } from "../../core/lens/camera.ts";
import { LAMPS } from "../../core/light/lamp.ts";
import { ownPosition, placesOf } from "../../core/light/lampPlacing.ts";
import { slidePieces } from "../../core/shape/handPieces.ts";
import { useShownSun } from "../frame/shownSun.ts";
import { haloed } from "../parts/marks.tsx";
import { painted } from "../parts/painted.ts";
import { pressedAgain, startDrag } from "../parts/pointer.ts";
import { halves, useEach, useSame } from "../parts/same.ts";
import { metres } from "../parts/words.ts";
import { draggedWith, pickPiece } from "../store/pick.ts";
import { useShot, useShown } from "../store/shotStore.ts";
import { snapped } from "../store/snap.ts";
import { useStudioOf } from "../store/studio.ts";
import { LensWay } from "./LensWay.tsx";
import { type Outline, outlineAt, outlineOf, type Place } from "./outlines.ts";
import { reachOf } from "./reach.ts";
import { Whole } from "./Whole.tsx";
import { roundMetres, useZoom } from "./zoom.ts";

/** A press of something in hand that is to be set where the plan is pressed; true when it was taken. */
export type PressFromAbove = (event: ReactPointerEvent, from: FromAbove) => boolean;

/** Where in the world (x and z) a pointer is in the plan, and the heading that goes up it. */
export interface FromAbove {
	worldAt: (e: { clientX: number; clientY: number }) => [number, number];
	headingDeg: number;
	pxPerMetre: number;
}

/** What marks in the plan are given: where the world lies in it, and back. */
export interface PlanMarkProps extends FromAbove {
	at: (x: number, z: number) => { x: number; y: number };
}

export interface PlanProps {
	width: number;
	height: number;
	press: PressFromAbove;
	/** Marks of what is in hand, over all else. */
	Marks: ComponentType<PlanMarkProps>;
}

export function Plan({ width, height, press, Marks }: PlanProps) {
	const doc = useShown();
	const { selected, step, free, lamp, drawing, set } = useStudioOf(
		"selected",
		"step",
		"free",
		"lamp",
		"drawing",
		"set",
	);
	const { commit, show } = useShot.getState();
	const clip = useId();
	const { camera, pieces } = doc;
	const view = frameOfView(camera);
	// The plan lies about the lens as it stands, so that it keeps its place under a hand that moves that.
	const anchor = useShot((s) => s.document.camera);
	const [lx, , lz] = anchor.position;
	const h = (anchor.headingDeg * Math.PI) / 180;
	// From what stands, so that the plan keeps its scale under the hand.
	const standing = useShot((s) => s.document.pieces);
	const reach = useMemo(
		() => reachOf(standing.map((p) => Math.hypot(p.position[0] - lx, p.position[2] - lz))),
		[standing, lx, lz],
	);
	const box = useRef<HTMLDivElement>(null);
	const { k, x: zx, y: zy, pan, whole } = useZoom(box, width);
	const scale = ((height * 0.84) / reach) * k;
	const foot = useMemo(() => ({ x: (width / 2) * k + zx, y: height * 0.93 * k + zy }), [width, height, k, zx, zy]);
	const rings = [0.5, 1].map((f) => roundMetres((reach / k) * f));
	/** Plan of a world place: the camera looks up the plan. */
	const at = useCallback(
		(x: number, z: number) => {
			const dx = x - lx;
			const dz = z - lz;
			return {
				x: foot.x + (dx * Math.cos(h) + dz * Math.sin(h)) * scale,
				y: foot.y + (-dx * Math.sin(h) + dz * Math.cos(h)) * scale,
			};
		},
		[foot, lx, lz, h, scale],
	);
	const world = (px: number, py: number) => {
		const a = px / scale;
		const b = py / scale;
		return { dx: a * Math.cos(h) - b * Math.sin(h), dz: a * Math.sin(h) + b * Math.cos(h) };
	};
	const far = reach * 1.6 * scale;
	const eye = at(camera.position[0], camera.position[2]);
	const turned = ((camera.headingDeg - anchor.headingDeg) * Math.PI) / 180;
	const edge = (s: number) => {
		const wedge = turned + Math.atan(view.shiftX + s * view.tanX);
		return `${eye.x + Math.sin(wedge) * far} ${eye.y - Math.cos(wedge) * far}`;
	};

	const drag = (event: ReactPointerEvent, id: string) => {
		if (event.button !== 0) return;
		const ids = draggedWith(id, event.shiftKey);
		const deeper = pressedAgain(event);
		const originals = useShot.getState().document.pieces.filter((p) => ids.includes(p.id));
		const box = (event.currentTarget as SVGElement).ownerSVGElement?.getBoundingClientRect();
		const px = width / (box?.width ?? width);
		const make = (e: PointerEvent) => {
			const { dx, dz } = world((e.clientX - event.clientX) * px, (e.clientY - event.clientY) * px);
			return snapped(slidePieces(originals, dx, dz), scale);
		};
		startDrag(event, {
			move: (e) => show(make(e)),
			end: (e, moved) => {
				if (moved) commit(make(e));
				else pickPiece(id, event.shiftKey, deeper);
				if (!moved) set({ step: "Mass" });
			},
			cancel: () => show(null),
		});
	};

	const fromAbove: FromAbove = {
		worldAt: ({ clientX, clientY }) => {
			const on = box.current?.getBoundingClientRect();
			const px = width / (on?.width ?? width);
			const { dx, dz } = world((clientX - (on?.left ?? 0)) * px - foot.x, (clientY - (on?.top ?? 0)) * px - foot.y);
			return [lx + dx, lz + dz];
		},
		headingDeg: anchor.headingDeg,
		pxPerMetre: scale,
	};

	const place = useMemo((): Place => ({ at, headingDeg: anchor.headingDeg, scale }), [at, anchor.headingDeg, scale]);
	const outlines = useEach(pieces, (p) => (p.hidden ? null : outlineOf(p, place)), [place]);
	const own = new Set(selected);
	const [chosen, others] = halves(outlines, (o) => own.has(o.piece.id));
	const [over, setOver] = useState<string | null>(null);
	const under = (e: ReactPointerEvent) => {
		const box = e.currentTarget.getBoundingClientRect();
		const px = width / box.width;
		return outlineAt(
			outlines.filter((o) => !o.piece.held),
			(e.clientX - box.left) * px,
			(e.clientY - box.top) * px,
		);
	};

	const dragLamp = (event: ReactPointerEvent, l: Lamp) => {
		if (event.button !== 0) return;
		const box = (event.currentTarget as SVGElement).ownerSVGElement?.getBoundingClientRect();
		const px = width / (box?.width ?? width);
		const from = placesOf(l, doc)[0]?.position ?? l.position;
		const make = (e: PointerEvent) => {
			const { dx, dz } = world((e.clientX - event.clientX) * px, (e.clientY - event.clientY) * px);
			return {
				name: "lamp.set" as const,
				id: l.id,
				change: { position: ownPosition(l, doc, [from[0] + dx, from[1], from[2] + dz]) },
			};
		};
		startDrag(event, {
			move: (e) => show(make(e)),
			end: (e, moved) => {
				if (moved) commit(make(e));
				set({ lamp: l.id, step: "Light", selected: [] });
			},
			cancel: () => show(null),
		});
	};

	const sun = useShownSun();
	const sunTurn = (((sun?.headingDeg ?? 0) - anchor.headingDeg) * Math.PI) / 180;
	const dial = { x: width - 26, y: 28, r: 17 };
	const dragSun = (event: ReactPointerEvent) => {
		const svg = (event.currentTarget as SVGElement).ownerSVGElement?.getBoundingClientRect();
		if (!svg || !sun) return;
		const k = width / svg.width;
		const make = (e: PointerEvent) => {
			const dx = (e.clientX - svg.left) * k - dial.x;
			const dy = (e.clientY - svg.top) * k - dial.y;
			return sun.turnTo(Math.round((Math.atan2(dx, -dy) * 180) / Math.PI + anchor.headingDeg));
		};
		startDrag(event, {
			move: (e) => show(make(e)),
			end: (e, moved) => moved && commit(make(e)),
			cancel: () => show(null),
		});
	};

	return (
		<div
			ref={box}
			className="relative touch-none overflow-hidden bg-paper"
			style={{ width, height }}
			role="img"
			data-zoom={k}
			aria-label="Plan of the set from above"
			data-testid="plan"
		>
			<svg
				width={width}
				height={height}
				viewBox={`0 0 ${width} ${height}`}
				className="absolute inset-0 block"
				aria-hidden
			>
				<path d={`M${eye.x} ${eye.y}L${edge(-1)}L${edge(1)}z`} fill="#e2ddd2" />
				{rings.map((m) => (
					<circle key={m} cx={foot.x} cy={foot.y} r={m * scale} fill="none" stroke="#c9c5bc" />
				))}
			</svg>
			<Pieces outlines={others} width={width} height={height} />
			<Pieces outlines={chosen} width={width} height={height} />
			<svg
				width={width}
				height={height}
				viewBox={`0 0 ${width} ${height}`}
				className="absolute inset-0 block"
				aria-hidden
			>
				<clipPath id={clip}>
					<rect width={width} height={height} />
				</clipPath>
				<rect
					width={width}
					height={height}
					fill="transparent"
					style={{ cursor: drawing ? "crosshair" : over ? "move" : undefined }}
					onPointerMove={(e) => e.buttons === 0 && setOver(under(e)?.piece.name ?? null)}
					onPointerLeave={() => setOver(null)}
					onPointerDown={(e) => {
						if (e.button === 0 && press(e, fromAbove)) return;
						const hit = under(e);
						if (hit) drag(e, hit.piece.id);
						else pan(e);
					}}
				>
					{over && <title>{over}</title>}
				</rect>
				<g clipPath={`url(#${clip})`}>
					{chosen.slice(0, 200).map(({ piece, x, y, outlines, box: [left, top, right, bottom] }) => (
						<g key={piece.id} transform={`translate(${x} ${y})`} pointerEvents="none">
							<path
								d={
									right - left > 6 || bottom - top > 6
										? outlines.map((o) => `M${o.map((p) => p.join(" ")).join("L")}z`).join("")
										: `M${left - 2} ${top - 2}H${right + 2}V${bottom + 2}H${left - 2}z`
								}
								fill="none"
								stroke="#1d1c1a"
								strokeWidth={2}
							/>
						</g>
					))}
					{doc.lamps.map((l) => (
						<PlanLamp
							key={l.id}
							{...{ lamp: l, at, camera: anchor, scale }}
							chosen={l.id === lamp}
							onPointerDown={(e) => dragLamp(e, l)}
						/>
					))}
					{rings.map((m) => (
						<text key={m} x={foot.x + 3} y={foot.y - m * scale + 13} {...haloed}>
							{metres(m)}
						</text>
					))}
					<path d={`M${eye.x} ${eye.y}L${edge(-1)}M${eye.x} ${eye.y}L${edge(1)}`} stroke="#57544e" fill="none" />
					<path d={`M${eye.x - 5} ${eye.y + 6}L${eye.x} ${eye.y - 5}L${eye.x + 5} ${eye.y + 6}z`} fill="#1d1c1a" />
					<LensWay {...{ at, world }} />
					<Marks {...fromAbove} at={at} />
					{free && <Walker {...{ at, free, h: anchor.headingDeg }} />}
				</g>
				<text x={8} y={17} {...haloed} fontSize={13}>
					plan
				</text>
				{sun && (step === "Light" || step === "Air") ? (
					<g onPointerDown={dragSun} style={{ cursor: "grab" }} data-testid="sun-dial">
						<circle {...{ cx: dial.x, cy: dial.y, r: dial.r }} fill="#f3f1ec" stroke="#57544e" />
						<circle
							cx={dial.x + Math.sin(sunTurn) * dial.r}
							cy={dial.y - Math.cos(sunTurn) * dial.r}
							r={5}
							fill="#1d1c1a"
						/>
						<text x={dial.x} y={dial.y + 4} fontSize={12} textAnchor="middle" fill="#57544e">
							sun
						</text>
					</g>
				) : null}
			</svg>
			<Whole {...{ k, x: zx, y: zy, whole }} />
		</div>
	);
}

/** Pieces, painted again only when one of them changes: of thousands, a drag moves the chosen ones. */
function Pieces({ outlines: given, width, height }: { outlines: readonly Outline[]; width: number; height: number }) {
	const outlines = useSame(given);
	const canvas = useRef<HTMLCanvasElement>(null);
	useEffect(() => {
		const context = painted(canvas.current, width, height);
		if (!context) return;
		const ratio = context.getTransform().a;
		context.fillStyle = "rgba(109, 103, 92, 0.75)";
		for (const { x, y, outlines: parts, box, copies } of outlines)
			for (const copy of copies) {
				const [px, py] = [x + copy.x, y + copy.y];
				const reach = Math.hypot(Math.max(-box[0], box[2]), Math.max(-box[1], box[3])) * copy.size;
				if (px < -reach || px > width + reach || py < -reach || py > height + reach) continue;
				context.setTransform(ratio, 0, 0, ratio, ratio * px, ratio * py);
				context.transform(...copy.turned);
				// What would be too thin to be seen is drawn as its box.
				const [left, top, right, bottom] = box;
				if (right - left <= 4 || bottom - top <= 4) context.fillRect(left, top, right - left, bottom - top);
				else
					for (const part of parts) {
						context.beginPath();
						for (const [qx, qy] of part) context.lineTo(qx, qy);
						context.fill();
					}
			}
	}, [outlines, width, height]);
	return <canvas ref={canvas} className="pointer-events-none absolute inset-0" style={{ width, height }} />;
}

/** A lamp from above: a small sun, with the way it shines when it has one. */
function PlanLamp({
	lamp,
	at,
	camera,
	scale,
	chosen,
	onPointerDown,
}: {
	lamp: Lamp;
	at: (x: number, z: number) => { x: number; y: number };
	camera: { headingDeg: number };
	scale: number;
	chosen: boolean;
	onPointerDown: (e: ReactPointerEvent) => void;
}) {
	const doc = useShown();
	const { aims } = LAMPS[lamp.kind];
	const turn = (camera.headingDeg * Math.PI) / 180;
	return (
		<g onPointerDown={onPointerDown} style={{ cursor: "move" }} data-testid={`plan-lamp-${lamp.name}`}>
			<title>{lamp.name}</title>
			{placesOf(lamp, doc)
				.slice(0, 200)
				.map(({ position, axis }) => {
					const c = at(position[0], position[2]);
					const x = axis[0] * Math.cos(turn) + axis[2] * Math.sin(turn);
					const y = -axis[0] * Math.sin(turn) + axis[2] * Math.cos(turn);
					const reach = Math.max(10, Math.min(40, 3 * scale));
					return (
						<g key={`${position[0]},${position[2]}`} transform={`translate(${c.x} ${c.y})`}>
							{aims && <path d={`M0 0L${x * reach} ${y * reach}`} stroke="#1d1c1a" strokeWidth={1.2} />}
							<circle
								r={chosen ? 5 : 3.5}
								fill={lamp.muted ? "none" : "#f3f1ec"}
								stroke="#1d1c1a"
								strokeWidth={chosen ? 2 : 1.2}
							/>
							<circle r={9} fill="transparent" />
						</g>
					);
				})}
		</g>
	);
}

function Walker({
	at,
	free,
	h,
}: {
	at: (x: number, z: number) => { x: number; y: number };
	free: { position: readonly number[]; headingDeg: number };
	h: number;
}) {
	const p = at(free.position[0], free.position[2]);
	const a = ((free.headingDeg - h) * Math.PI) / 180;
	return (
		<g>
			<circle cx={p.x} cy={p.y} r={4} fill="none" stroke="#1d1c1a" strokeWidth={1.5} />
			<path
				d={`M${p.x} ${p.y}L${p.x + Math.sin(a) * 13} ${p.y - Math.cos(a) * 13}`}
				stroke="#1d1c1a"
				strokeWidth={1.5}
			/>
		</g>
	);
}
