"use client";
/** A reference taken down from the sheet: turned, mirrored, cropped, adjusted and written on. The file stays as it came. */
import clsx from "clsx";
import { type PointerEvent as ReactPointerEvent, useEffect, useRef, useState } from "react";
import { plainLook, shownSize } from "../../core/doc/look.ts";
import type { Look, Note, Reference } from "../../core/doc/schema.ts";
import { ReferencePicture } from "../frame/ReferencePicture.tsx";
import { Act, Rule } from "../parts/controls.tsx";
import { startDrag } from "../parts/pointer.ts";
import { useMeasured } from "../parts/useMeasured.ts";
import { newId } from "../parts/words.ts";
import { useShot, useShown } from "../store/shotStore.ts";
import { useStudio } from "../store/studio.ts";
import { NotesOver } from "./NotesOver.tsx";

type Hand = "look" | "stroke" | "words" | "crop";
type Crop = NonNullable<Look["crop"]>;

const HANDS: { hand: Hand; word: string; how: string }[] = [
	{ hand: "look", word: "Look", how: "Drag a stroke or words to move them." },
	{ hand: "stroke", word: "Stroke", how: "Draw over the picture." },
	{ hand: "words", word: "Words", how: "Click where the words begin." },
	{ hand: "crop", word: "Crop", how: "Drag the edges to what matters; take the crop when it is right." },
];

const ADJUST: {
	key: "brightness" | "contrast" | "hueDeg" | "saturation" | "warmth";
	label: string;
	unit?: string;
	min: number;
	max: number;
	step: number;
	digits: number;
}[] = [
	{ key: "brightness", label: "Brightness", unit: "EV", min: -3, max: 3, step: 0.05, digits: 2 },
	{ key: "contrast", label: "Contrast", min: 0, max: 3, step: 0.01, digits: 2 },
	{ key: "hueDeg", label: "Hue", unit: "°", min: -180, max: 180, step: 1, digits: 0 },
	{ key: "saturation", label: "Saturation", min: 0, max: 3, step: 0.01, digits: 2 },
	{ key: "warmth", label: "Warmth", min: -1, max: 1, step: 0.01, digits: 2 },
];

export function TakenDown({ reference, onBack }: { reference: Reference; onBack: () => void }) {
	const doc = useShown();
	const { commit, show } = useShot.getState();
	const set = useStudio((s) => s.set);
	const look = reference.look ?? plainLook();
	const notes = reference.notes ?? [];
	const [hand, setHand] = useState<Hand>("look");
	const [crop, setCrop] = useState<Crop>({ x: 0, y: 0, width: 1, height: 1 });
	const [stroke, setStroke] = useState<[number, number][] | null>(null);
	const [chosen, setChosen] = useState<string | null>(null);
	const [writing, setWriting] = useState<{ at: [number, number]; words: string } | null>(null);
	const [area, measure] = useMeasured({ width: 600, height: 480 });
	const plate = useRef<HTMLDivElement>(null);
	const size = shownSize(reference);
	const width = Math.max(40, Math.min(area.width - 16, ((area.height - 16) * size.width) / size.height));
	const setLook = (change: Partial<Look>) =>
		commit({ name: "reference.setLook", id: reference.id, look: { ...look, ...change } });
	const setNotes = (next: Note[]) => commit({ name: "reference.describe", id: reference.id, change: { notes: next } });
	const place = (e: { clientX: number; clientY: number }): [number, number] => {
		const r = plate.current?.getBoundingClientRect();
		return r
			? [Number(((e.clientX - r.left) / r.width).toFixed(4)), Number(((e.clientY - r.top) / r.height).toFixed(4))]
			: [0, 0];
	};

	useEffect(() => {
		const onKey = (e: KeyboardEvent) => {
			if (e.key !== "Delete" || !chosen || (e.target as HTMLElement).tagName === "INPUT") return;
			e.stopPropagation();
			commit({
				name: "reference.describe",
				id: reference.id,
				change: { notes: (reference.notes ?? []).filter((n) => n.id !== chosen) },
			});
			setChosen(null);
		};
		window.addEventListener("keydown", onKey, true);
		return () => window.removeEventListener("keydown", onKey, true);
	}, [chosen, reference, commit]);

	const down = (event: ReactPointerEvent) => {
		if (event.button !== 0) return;
		if (hand === "words") {
			event.preventDefault();
			return setWriting({ at: place(event), words: "" });
		}
		if (hand !== "stroke") return setChosen(null);
		const points: [number, number][] = [place(event)];
		startDrag(event, {
			move: (e) => {
				if (points.length < 600) points.push(place(e));
				setStroke([...points]);
			},
			end: (_e, moved) => {
				setStroke(null);
				if (moved && points.length > 1) setNotes([...notes, { id: newId(), kind: "stroke", points }]);
			},
			cancel: () => setStroke(null),
		});
	};

	const moveNote = (id: string, event: ReactPointerEvent) => {
		if (hand !== "look" || event.button !== 0) return;
		setChosen(id);
		const from = place(event);
		const moved = (e: { clientX: number; clientY: number }): Note[] => {
			const [x, y] = place(e);
			const by = ([a, b]: readonly [number, number]): [number, number] => [a + x - from[0], b + y - from[1]];
			return notes.map((n) =>
				n.id !== id ? n : n.kind === "words" ? { ...n, at: by(n.at) } : { ...n, points: n.points.map(by) },
			);
		};
		startDrag(event, {
			move: (e) => show({ name: "reference.describe", id: reference.id, change: { notes: moved(e) } }),
			end: (e, did) => (did ? setNotes(moved(e)) : show(null)),
			cancel: () => show(null),
		});
	};

	const write = () => {
		const words = writing?.words.trim();
		if (writing && words) setNotes([...notes, { id: newId(), kind: "words", at: writing.at, words }]);
		setWriting(null);
	};

	const takeCrop = () => {
		const old = look.crop ?? { x: 0, y: 0, width: 1, height: 1 };
		const next = {
			x: old.x + crop.x * old.width,
			y: old.y + crop.y * old.height,
			width: crop.width * old.width,
			height: crop.height * old.height,
		};
		setLook({ crop: next });
		setCrop({ x: 0, y: 0, width: 1, height: 1 });
		setHand("look");
	};

	return (
		<div className="flex min-h-0 flex-1 gap-5 pt-3" data-testid="taken-down">
			<div ref={measure} className="grid min-h-0 min-w-0 flex-1 place-items-center overflow-hidden">
				<div
					ref={plate}
					className="relative touch-none"
					style={{ cursor: hand === "stroke" || hand === "words" ? "crosshair" : "default" }}
					onPointerDown={down}
				>
					<ReferencePicture reference={reference} width={width} alt={reference.name} />
					<NotesOver
						large
						notes={stroke ? [...notes, { id: "fresh", kind: "stroke", points: stroke }] : notes}
						chosen={chosen}
						onDown={hand === "look" ? moveNote : undefined}
					/>
					{hand === "crop" && <CropEdges crop={crop} onCrop={setCrop} place={place} />}
					{writing && (
						<input
							// biome-ignore lint/a11y/noAutofocus: the click that places the words begins them
							autoFocus
							aria-label="Words on the picture"
							className="absolute min-w-40 border-ink border-b bg-paper/80 px-1 italic"
							style={{ left: `${writing.at[0] * 100}%`, top: `calc(${writing.at[1] * 100}% - 1.4rem)` }}
							maxLength={200}
							value={writing.words}
							onChange={(e) => setWriting({ ...writing, words: e.target.value })}
							onBlur={write}
							onPointerDown={(e) => e.stopPropagation()}
							onKeyDown={(e) => {
								e.stopPropagation();
								if (e.key === "Enter") write();
								if (e.key === "Escape") setWriting(null);
							}}
						/>
					)}
				</div>
			</div>
			<aside
				className="flex w-56 shrink-0 flex-col gap-2 overflow-y-auto bg-paper p-3"
				aria-label={`How ${reference.name} is looked at`}
			>
				<h3 className="truncate font-title text-[1.15rem] italic">{reference.name}</h3>
				<p className="text-second text-small">
					{size.width} × {size.height} px
				</p>
				<div className="flex flex-wrap gap-1">
					{HANDS.map((h) => (
						<button
							key={h.hand}
							type="button"
							aria-pressed={hand === h.hand}
							onClick={() => setHand(h.hand)}
							className={clsx(
								"rounded-[5px] border border-ink/45 px-2 py-[3px] text-small",
								hand === h.hand ? "bg-ink text-paper" : "bg-paper hover:bg-hair/40",
							)}
						>
							{h.word}
						</button>
					))}
				</div>
				<p className="text-second text-small">{HANDS.find((h) => h.hand === hand)?.how}</p>
				{hand === "crop" && (
					<Act strong onClick={takeCrop}>
						Take the crop
					</Act>
				)}
				{chosen && hand === "look" && (
					<Act onClick={() => (setNotes(notes.filter((n) => n.id !== chosen)), setChosen(null))}>
						Delete what is chosen
					</Act>
				)}
				<div className="flex flex-wrap gap-1">
					<Act onClick={() => setLook({ turns: (look.turns + 1) % 4, crop: null })}>Turn</Act>
					<Act
						onClick={() =>
							setLook({
								mirrored: !look.mirrored,
								crop: look.crop && { ...look.crop, x: 1 - look.crop.x - look.crop.width },
							})
						}
					>
						{look.mirrored ? "Mirror back" : "Mirror"}
					</Act>
					{look.crop && <Act onClick={() => setLook({ crop: null })}>Whole picture</Act>}
				</div>
				<div>
					{ADJUST.map(({ key, ...a }) => (
						<Rule
							key={key}
							{...a}
							value={look[key]}
							onPreview={(v) => show({ name: "reference.setLook", id: reference.id, look: { ...look, [key]: v } })}
							onCommit={(v) => setLook({ [key]: v })}
						/>
					))}
				</div>
				<Act onClick={() => setLook({ ...plainLook(), turns: look.turns, mirrored: look.mirrored, crop: look.crop })}>
					Colours as they came
				</Act>
				<div className="mt-auto flex flex-wrap gap-1 pt-2">
					<Act
						onClick={() => {
							commit({
								name: "reference.show",
								reference: reference.id,
								mode: doc.shown.mode === "off" ? "over" : doc.shown.mode,
							});
							set({ pinsOpen: false });
						}}
					>
						Show at the frame
					</Act>
					<Act
						onClick={() => {
							commit({ name: "reference.remove", id: reference.id });
							onBack();
						}}
					>
						Remove
					</Act>
					<Act strong onClick={onBack}>
						Hang it back
					</Act>
				</div>
			</aside>
		</div>
	);
}

/** What the crop leaves, dragged by its edges, its corners, or as a whole. */
function CropEdges({
	crop,
	onCrop,
	place,
}: {
	crop: Crop;
	onCrop: (c: Crop) => void;
	place: (e: { clientX: number; clientY: number }) => [number, number];
}) {
	const drag = (
		event: ReactPointerEvent,
		edges: { left?: boolean; right?: boolean; top?: boolean; bottom?: boolean } | null,
	) => {
		event.stopPropagation();
		const from = place(event);
		startDrag(event, {
			move: (e) => {
				const [x, y] = place(e);
				const [dx, dy] = [x - from[0], y - from[1]];
				const bound = (v: number, low: number, high: number) => Math.min(high, Math.max(low, v));
				if (!edges)
					return onCrop({
						...crop,
						x: bound(crop.x + dx, 0, 1 - crop.width),
						y: bound(crop.y + dy, 0, 1 - crop.height),
					});
				let { x: x0, y: y0 } = crop;
				let [x1, y1] = [crop.x + crop.width, crop.y + crop.height];
				if (edges.left) x0 = bound(x0 + dx, 0, x1 - 0.02);
				if (edges.right) x1 = bound(x1 + dx, x0 + 0.02, 1);
				if (edges.top) y0 = bound(y0 + dy, 0, y1 - 0.02);
				if (edges.bottom) y1 = bound(y1 + dy, y0 + 0.02, 1);
				onCrop({ x: x0, y: y0, width: x1 - x0, height: y1 - y0 });
			},
			end: () => {},
			cancel: () => onCrop(crop),
		});
	};
	const share = (v: number) => `${v * 100}%`;
	const edge = "absolute";
	return (
		<div
			className="absolute cursor-move outline outline-2 outline-white"
			style={{
				left: share(crop.x),
				top: share(crop.y),
				width: share(crop.width),
				height: share(crop.height),
				boxShadow: "0 0 0 1px #000, 0 0 0 4000px rgb(205 204 201 / 0.6)",
				clipPath: "none",
			}}
			onPointerDown={(e) => drag(e, null)}
			data-testid="crop"
		>
			<i
				className={`${edge} inset-y-0 -left-2 w-4 cursor-ew-resize`}
				data-testid="crop-left"
				onPointerDown={(e) => drag(e, { left: true })}
			/>
			<i
				className={`${edge} inset-y-0 -right-2 w-4 cursor-ew-resize`}
				data-testid="crop-right"
				onPointerDown={(e) => drag(e, { right: true })}
			/>
			<i
				className={`${edge} inset-x-0 -top-2 h-4 cursor-ns-resize`}
				data-testid="crop-top"
				onPointerDown={(e) => drag(e, { top: true })}
			/>
			<i
				className={`${edge} inset-x-0 -bottom-2 h-4 cursor-ns-resize`}
				data-testid="crop-bottom"
				onPointerDown={(e) => drag(e, { bottom: true })}
			/>
			<i
				className={`${edge} -top-2 -left-2 h-4 w-4 cursor-nwse-resize`}
				onPointerDown={(e) => drag(e, { left: true, top: true })}
			/>
			<i
				className={`${edge} -right-2 -bottom-2 h-4 w-4 cursor-nwse-resize`}
				onPointerDown={(e) => drag(e, { right: true, bottom: true })}
			/>
		</div>
	);
}
