"use client";
/** The frame on its mat: picture, reference, marks, and everything that hands do in it. */
import {
	type PointerEvent as ReactPointerEvent,
	useCallback,
	useEffect,
	useLayoutEffect,
	useRef,
	useState,
} from "react";
import { newPiece } from "../../core/doc/defaults.ts";
import { shownSize } from "../../core/doc/look.ts";
import type { Reference, ShapeKind } from "../../core/doc/schema.ts";
import { type FrameOfView, project } from "../../core/lens/camera.ts";
import { DEG } from "../../core/maths/functions.ts";
import { Double } from "../parts/marks.tsx";
import { startDrag } from "../parts/pointer.ts";
import { type MatchResult, matchReference } from "../reference/match.ts";
import { dropPictures } from "../reference/references.ts";
import { LampMarks, placeLamp } from "../steps/light/LampMarks.tsx";
import { DiscMark, PictureSunMark } from "../steps/light/SkyMarks.tsx";
import { PieceMarks } from "../steps/mass/PieceMarks.tsx";
import { Magnifier } from "../steps/match/Magnifier.tsx";
import { MatchMarks } from "../steps/match/MatchMarks.tsx";
import { PartMark } from "../steps/print/PartMark.tsx";
import { shownDocument, useShot, useShown } from "../store/shotStore.ts";
import { useStudio, useStudioOf } from "../store/studio.ts";
import type { ProofPicture } from "../view/finishPass.ts";
import { GuideMarks } from "./Guides.tsx";
import { groundUnder, newId, type Point, pieceBox, shownView } from "./geometry.ts";
import { useGesture } from "./gesture.ts";
import { PrintReader } from "./PrintReader.tsx";
import { ReferencePicture } from "./ReferencePicture.tsx";
import { View } from "./View.tsx";

interface Size {
	width: number;
	height: number;
}

/** Pixels of the margin outside the frame in which the place goes on, dimmed. */
const BLEED = 16;
/** Size of the frame as a stamp. */
const SMALL = 0.17;
const BLEED_SHARE = 0.025;

const fitted = (area: Size, ratio: number): Size => {
	const width = Math.floor(Math.min(area.width, area.height * ratio));
	return { width: Math.max(16, width), height: Math.max(16, Math.round(width / ratio)) };
};

export function Frame({ match, print }: { match: MatchResult | null; print: ProofPicture | null }) {
	const doc = useShown();
	const {
		step,
		zoom,
		free,
		set,
		print: openPrint,
		blinking,
		grey,
		mirrored,
		small,
		drawing,
		placing,
	} = useStudioOf(
		"step",
		"zoom",
		"free",
		"set",
		"print",
		"blinking",
		"grey",
		"mirrored",
		"small",
		"drawing",
		"placing",
	);
	const outer = useRef<HTMLDivElement>(null);
	const plate = useRef<HTMLDivElement>(null);
	const [area, setArea] = useState<Size>({ width: 948, height: 512 });
	const [lens, setLens] = useState<Point | null>(null);
	const [dropping, setDropping] = useState(false);
	const matching = step === "Match" && !doc.camera.locked && !free && !print;
	const reference = matching ? matchReference(doc) : (doc.references.find((r) => r.id === doc.shown.reference) ?? null);
	const beside = doc.shown.mode === "beside" && reference;
	const shown = reference && shownSize(reference);
	const ratio = matching && shown && doc.shown.mode === "over" ? shown.width / shown.height : doc.camera.ratio;
	const size = fitted({ width: beside ? (area.width - 12) / 2 : area.width, height: area.height }, ratio);

	useLayoutEffect(() => {
		const element = outer.current;
		if (!element) return;
		const look = () => setArea({ width: element.clientWidth, height: element.clientHeight });
		look();
		const observer = new ResizeObserver(look);
		observer.observe(element);
		return () => observer.disconnect();
	}, []);

	useEffect(() => set({ frameSize: { width: size.width, height: size.height } }), [size.width, size.height, set]);

	const place = useCallback((e: { clientX: number; clientY: number }): Point => {
		const r = plate.current?.getBoundingClientRect();
		if (!r) return { x: 0, y: 0 };
		const x = (e.clientX - r.left) / r.width;
		return { x: useStudio.getState().mirrored ? 1 - x : x, y: (e.clientY - r.top) / r.height };
	}, []);

	useEffect(() => {
		const element = outer.current;
		if (!element) return;
		const onWheel = (e: WheelEvent) => {
			e.preventDefault();
			const r = plate.current?.getBoundingClientRect();
			if (!r) return;
			zoomAt(Math.exp(-e.deltaY * 0.0015), { x: (e.clientX - r.left) / r.width, y: (e.clientY - r.top) / r.height });
		};
		element.addEventListener("wheel", onWheel, { passive: false });
		return () => element.removeEventListener("wheel", onWheel);
	}, []);

	const view = shownView(doc.camera, free);
	const shift = { x: (0.5 - zoom.x) * size.width * zoom.k, y: (0.5 - zoom.y) * size.height * zoom.k };
	const transform = `translate(${shift.x}px, ${shift.y}px) scale(${zoom.k})`;
	// Around the frame as a whole a margin of what lies beside it is shown; a part of the frame has its edges elsewhere.
	const bleed = zoom.k === 1 ? Math.min(BLEED, Math.round(size.width * BLEED_SHARE)) : 0;
	const laid = doc.shown.mode === "over" || doc.shown.mode === "wipe";
	// While the key is held the reference is where it is not otherwise: over the frame, or away from it.
	const over = reference && laid !== blinking && !print;

	return (
		// biome-ignore lint/a11y/noStaticElementInteractions: pictures may also be picked in the Brief
		<div
			ref={outer}
			className="relative flex h-full w-full items-center justify-center gap-3"
			onDragOver={(e) => {
				e.preventDefault();
				setDropping(true);
			}}
			onDragLeave={() => setDropping(false)}
			onDrop={(e) => {
				e.preventDefault();
				setDropping(false);
				void dropPictures([...e.dataTransfer.files]);
			}}
			data-testid="frame"
		>
			{beside && <Beside reference={reference} size={size} grey={grey} mirrored={mirrored} />}
			<div className="relative" style={{ ...size, transform: small ? `scale(${SMALL})` : undefined }}>
				<div className="absolute overflow-hidden" style={{ inset: -bleed }}>
					<div className="absolute" style={{ inset: bleed, transform }}>
						<div className="absolute" style={{ inset: -bleed }} data-testid="picture" data-bleed={bleed}>
							<View print={print} bleed={bleed} />
						</div>
					</div>
				</div>
				<Crop />
				<div className="absolute inset-0 overflow-hidden" data-testid="plate">
					<div ref={plate} className="absolute inset-0 origin-center" style={{ transform }}>
						{over && (
							<div
								className="pointer-events-none absolute inset-0 grid place-items-center overflow-hidden"
								style={{
									opacity: doc.shown.mode === "over" ? doc.shown.opacity : 1,
									clipPath:
										doc.shown.mode === "wipe" ? `inset(0 ${(1 - (doc.shown.wipe ?? 0.5)) * 100}% 0 0)` : undefined,
								}}
							>
								<ReferencePicture
									reference={reference}
									alt={reference.name}
									width={fittedReference(reference, size)}
									finer={zoom.k}
									style={{ transform: mirrored ? "scaleX(-1)" : undefined }}
									filter={grey ? "grayscale(1)" : ""}
								/>
							</div>
						)}
						<svg
							className="absolute inset-0 h-full w-full touch-none"
							viewBox={`0 0 ${size.width} ${size.height}`}
							style={{
								transform: mirrored ? "scaleX(-1)" : undefined,
								cursor: drawing || placing ? "crosshair" : free ? "grab" : "default",
							}}
							role="img"
							aria-label="Marks over the frame"
						>
							{matching ? (
								<MatchMarks
									width={size.width}
									height={size.height}
									k={zoom.k}
									place={place}
									result={match}
									onLens={setLens}
								/>
							) : (
								!print && <Ground width={size.width} height={size.height} view={view} place={place} />
							)}
							<GuideMarks width={size.width} height={size.height} k={zoom.k} view={view} place={place} />
							{over && doc.shown.mode === "wipe" && (
								<WipeEdge width={size.width} height={size.height} k={zoom.k} place={place} />
							)}
							{print && openPrint && <PrintReader print={openPrint} place={place} />}
						</svg>
					</div>
				</div>
				{lens && reference && over && <Magnifier at={lens} reference={reference} size={size} />}
				{dropping && (
					<p className="absolute inset-0 grid place-items-center border-2 border-ink border-dashed bg-paper/80 font-title text-xl italic">
						Drop a picture here as a reference
					</p>
				)}
			</div>
		</div>
	);
}

/** Width at which a reference lies in the frame as a whole. */
function fittedReference(reference: Reference, size: Size): number {
	const { width, height } = shownSize(reference);
	return Math.min(size.width, (size.height * width) / height);
}

/** The reference at the frame's side, as large as the frame. */
function Beside({
	reference,
	size,
	grey,
	mirrored,
}: {
	reference: Reference;
	size: Size;
	grey: boolean;
	mirrored: boolean;
}) {
	return (
		<div className="grid place-items-center" style={size}>
			<ReferencePicture
				reference={reference}
				alt={reference.name}
				width={fittedReference(reference, size)}
				style={{ transform: mirrored ? "scaleX(-1)" : undefined }}
				filter={grey ? "grayscale(1)" : ""}
			/>
		</div>
	);
}

/** The edge between reference and frame, dragged to the sides. */
function WipeEdge({
	width,
	height,
	k,
	place,
}: Size & { k: number; place: (e: { clientX: number; clientY: number }) => Point }) {
	const gesture = useGesture();
	const at = useShown().shown.wipe ?? 0.5;
	const x = at * width;
	return (
		<g
			style={{ cursor: "ew-resize" }}
			onPointerDown={(e) =>
				gesture(e, (to) => ({ name: "reference.show", wipe: Math.min(1, Math.max(0, place(to).x)) }))
			}
			data-testid="wipe-edge"
		>
			<Double k={k} d={`M${x} 0V${height}`} />
			<rect x={x - 9 / k} y={0} width={18 / k} height={height} fill="transparent" />
			<rect x={x - 4 / k} y={height / 2 - 14 / k} width={8 / k} height={28 / k} className="tag" />
		</g>
	);
}

/** Enlarges about a place of the frame, 100 to 800 %. */
export function zoomAt(factor: number, at: Point): void {
	const { zoom, set } = useStudio.getState();
	const k = Math.min(8, Math.max(1, zoom.k * factor));
	const keep = (c: number, p: number) => {
		const half = 0.5 / k;
		return Math.min(1 - half, Math.max(half, p + ((c - p) * zoom.k) / k));
	};
	set({ zoom: { k, x: keep(zoom.x, at.x), y: keep(zoom.y, at.y) } });
}

function Crop() {
	const arm = "absolute bg-ink";
	return (
		<div aria-hidden className="pointer-events-none">
			{[0, 1].map((x) =>
				[0, 1].map((y) => (
					<span key={`${x}${y}`}>
						<i
							className={arm}
							style={{ width: 9, height: 1, [x ? "right" : "left"]: -14, [y ? "bottom" : "top"]: 0 }}
						/>
						<i
							className={arm}
							style={{ width: 1, height: 9, [x ? "right" : "left"]: 0, [y ? "bottom" : "top"]: -14 }}
						/>
					</span>
				)),
			)}
		</div>
	);
}

interface GroundProps extends Size {
	view: FrameOfView;
	place: (e: { clientX: number; clientY: number }) => Point;
}

/** Bare frame: picking, drawing shapes, walking, and the handles of what is selected. */
function Ground({ width, height, view, place }: GroundProps) {
	const doc = useShown();
	const { zoom, drawing, placing, lamp, free, step, print, select, set, stage, pickingFogPiece } = useStudioOf(
		"zoom",
		"drawing",
		"placing",
		"lamp",
		"free",
		"step",
		"print",
		"select",
		"set",
		"stage",
		"pickingFogPiece",
	);
	const { commit, show } = useShot.getState();
	const k = zoom.k;

	const drawShape = (event: ReactPointerEvent, kind: ShapeKind) => {
		const start = place(event);
		const foot = groundUnder(view, doc.ground, start);
		if (!foot) return useShot.getState().say("Shapes are drawn on the ground: begin below the horizon.");
		const depth = project(view, foot).depthM;
		const perMetre = width / (2 * view.tanX * depth);
		const id = newId();
		const make = (e: { clientX: number; clientY: number }) => {
			const to = place(e);
			const across = ((to.x - start.x) * width) / perMetre;
			const upward = ((start.y - to.y) * height) / perMetre;
			const w = Math.max(0.05, Math.round(Math.abs(across) * 100) / 100);
			const h = Math.max(0.05, Math.round((upward > 0.15 * w && kind !== "sphere" ? upward : w) * 100) / 100);
			const r = view.right;
			const level = Math.hypot(r[0], r[2]);
			const round = (v: number) => Math.round(v * 1000) / 1000;
			const position: [number, number, number] = [
				round(foot[0] + ((r[0] / level) * across) / 2),
				0,
				round(foot[2] + ((r[2] / level) * across) / 2),
			];
			const headingDeg = Math.round((Math.atan2(r[2], r[0]) * 180) / Math.PI);
			const count = doc.pieces.filter((p) => p.shape.kind === kind).length + 1;
			const name = `${kind[0].toUpperCase()}${kind.slice(1)} ${count}`;
			return {
				name: "piece.add" as const,
				pieces: [newPiece(id, kind, { name, position, headingDeg, size: [w, h, w] })],
			};
		};
		startDrag(event, {
			move: (e) => show(make(e)),
			end: (e, moved) => {
				if (!moved) return show(null);
				if (commit(make(e))) {
					select([id]);
					set({ drawing: null });
				}
			},
			cancel: () => show(null),
		});
	};

	const look = (event: ReactPointerEvent) => {
		const pose = useStudio.getState().free;
		if (!pose) return;
		const { clientX, clientY } = event;
		const perPx = (view.tanX * 2) / width / DEG;
		startDrag(event, {
			move: (e) =>
				set({
					free: {
						...pose,
						headingDeg: (((pose.headingDeg - (e.clientX - clientX) * perPx) % 360) + 360) % 360,
						pitchDeg: Math.min(85, Math.max(-85, pose.pitchDeg + (e.clientY - clientY) * perPx)),
					},
				}),
			end: (e, moved) => {
				if (moved) return;
				const to = groundUnder(view, doc.ground, place(e));
				if (to) set({ free: { ...pose, position: [to[0], to[1] + (doc.camera.position[1] || 1.65), to[2]] } });
			},
			cancel: () => set({ free: pose }),
		});
	};

	const pick = async (event: ReactPointerEvent) => {
		const at = place(event);
		const more = event.shiftKey;
		const from = { x: zoom.x, y: zoom.y };
		startDrag(event, {
			move: (e) => {
				if (k === 1) return;
				const half = 0.5 / k;
				const clampTo = (v: number) => Math.min(1 - half, Math.max(half, v));
				set({
					zoom: {
						k,
						x: clampTo(from.x - (e.clientX - event.clientX) / width / k),
						y: clampTo(from.y - (e.clientY - event.clientY) / height / k),
					},
				});
			},
			end: async (_e, moved) => {
				if (moved) return;
				const hit = await stage?.pick(at.x, at.y);
				const root = useStudio.getState().root;
				const id = hit ? (root?.ids[hit.piece]?.id ?? null) : null;
				if (pickingFogPiece) {
					if (id) set({ selected: [id], pickingFogPiece: false });
					return;
				}
				if (id && shownDocument().covers.some((c) => c.id === id))
					return set({ cover: id, step: "Dress", selected: [] });
				if (id && shownDocument().pieces.some((p) => p.id === id)) {
					select([id], more);
					if (step !== "Air") set({ step: "Mass" });
				} else if (id && shownDocument().lamps.some((l) => l.id === id)) {
					set({ lamp: id, step: "Light", selected: [] });
				} else if (!more) {
					select([]);
					set({ lamp: null });
				}
			},
		});
	};

	const pickBox = (event: ReactPointerEvent) => {
		const at = place(event);
		const under = doc.pieces
			.filter((p) => !p.hidden)
			.map((p) => ({ p, b: pieceBox({ ...p, repeat: null }, doc, view) }))
			.filter(({ b }) => b.box && at.x >= b.box.x0 && at.x <= b.box.x1 && at.y >= b.box.y0 && at.y <= b.box.y1)
			.sort((a, b) => a.b.share - b.b.share)[0];
		return under?.p.id ?? null;
	};

	const discs = !doc.air.picture || doc.air.picture.sun;
	const down = (event: ReactPointerEvent) => {
		if (event.button !== 0) return;
		if (drawing) return drawShape(event, drawing);
		if (placing) return placeLamp(event, placing, view, place, height);
		if (free) {
			const id = pickBox(event);
			if (id && event.shiftKey) return select([id]);
			return look(event);
		}
		void pick(event);
	};

	return (
		<g>
			<rect width={width} height={height} fill="transparent" onPointerDown={down} data-testid="ground" />
			{step === "Light" && !free && discs && (
				<DiscMark body="sun" width={width} height={height} k={k} view={view} place={place} />
			)}
			{step === "Light" && !free && doc.air.picture && (
				<PictureSunMark width={width} height={height} k={k} view={view} place={place} />
			)}
			{step === "Light" && !free && discs && doc.air.moon?.on && (
				<DiscMark body="moon" width={width} height={height} k={k} view={view} place={place} />
			)}
			{!(step === "Light" && lamp) && <PieceMarks width={width} height={height} k={k} view={view} place={place} />}
			{step === "Print" && !free && !print && doc.print.part && (
				<PartMark part={doc.print.part} width={width} height={height} k={k} place={place} />
			)}
			{step === "Light" && <LampMarks width={width} height={height} k={k} view={view} place={place} />}
		</g>
	);
}
