"use client";
/** The frame on its mat: picture, reference, marks, and everything that hands do in it. */
import { type ComponentType, useCallback, useEffect, useLayoutEffect, useRef, useState } from "react";
import { shownSize } from "../../core/doc/look.ts";
import type { Reference } from "../../core/doc/schema.ts";
import type { Point } from "../../core/ground/underPoint.ts";
import { Double } from "../parts/marks.tsx";
import { matchReference } from "../reference/match.ts";
import { useShown } from "../store/shotStore.ts";
import { useStudio, useStudioOf } from "../store/studio.ts";
import type { ProofPicture } from "../view/finishPass.ts";
import { Bare, type BareProps } from "./Bare.tsx";
import { GuideMarks } from "./Guides.tsx";
import { shownView } from "./geometry.ts";
import { useGesture } from "./gesture.ts";
import { Magnifier } from "./Magnifier.tsx";
import type { MarkProps } from "./marks.ts";
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

/** What the room lays over the frame. */
export interface FrameHands {
	/** Marks in place of all others while the reference is matched. */
	MatchMarks: ComponentType<MarkProps>;
	/** Marks of the steps, over the bare frame. */
	Marks: ComponentType<MarkProps>;
	press: BareProps["press"];
	dropped: (files: File[]) => void;
	picked: BareProps["picked"];
}

export function Frame({ print, hands }: { print: ProofPicture | null; hands: FrameHands }) {
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
		focusing,
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
		"focusing",
	);
	const outer = useRef<HTMLDivElement>(null);
	const plate = useRef<HTMLDivElement>(null);
	const [area, setArea] = useState<Size>({ width: 948, height: 512 });
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

	const view = shownView(doc.camera, doc.finish, free);
	const marks: MarkProps = { width: size.width, height: size.height, k: zoom.k, view, place };
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
				hands.dropped([...e.dataTransfer.files]);
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
							{matching && !focusing ? (
								<hands.MatchMarks {...marks} />
							) : (
								!print && (
									<g>
										<Bare {...marks} press={hands.press} picked={hands.picked} />
										<hands.Marks {...marks} />
									</g>
								)
							)}
							<GuideMarks width={size.width} height={size.height} k={zoom.k} view={view} place={place} />
							{over && doc.shown.mode === "wipe" && (
								<WipeEdge width={size.width} height={size.height} k={zoom.k} place={place} />
							)}
							{print && openPrint && <PrintReader print={openPrint} view={view} place={place} />}
						</svg>
					</div>
				</div>
				{reference && over && <Magnifier reference={reference} size={size} />}
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
