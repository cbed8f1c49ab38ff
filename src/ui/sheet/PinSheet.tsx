"use client";
/** The pin-up sheet: references hung under headings by what each is for, with a written caption below. */
import {
	type CollisionDetection,
	closestCenter,
	DndContext,
	KeyboardSensor,
	PointerSensor,
	pointerWithin,
	useDraggable,
	useDroppable,
	useSensor,
	useSensors,
} from "@dnd-kit/core";
import clsx from "clsx";
import { useEffect, useRef, useState } from "react";
import type { Reference } from "../../core/doc/schema.ts";
import { ReferencePicture } from "../frame/ReferencePicture.tsx";
import { Act } from "../parts/controls.tsx";
import { OverFrame } from "../parts/OverFrame.tsx";
import { dropPictures } from "../reference/references.ts";
import { useShot, useShown } from "../store/shotStore.ts";
import { useStudio, useStudioOf } from "../store/studio.ts";
import { ClipView } from "./ClipView.tsx";
import { NotesOver } from "./NotesOver.tsx";
import { DRAG_PX, usePointerDrop } from "./pointerDrop.ts";
import { TakenDown } from "./TakenDown.tsx";

const USUAL = ["light", "building", "skyline", "palette"];
const LOOSE = "not sorted";
/** Before the name of a heading that is dragged; ids of references have no colon. */
const HEADING = "heading:";
const CARD_WIDTH = 158;
/** Shares of the sheet at its edges within which it scrolls under what is dragged: little, so that no heading slips away under a hand that aims. */
const SCROLLS_WITHIN = { x: 0.05, y: 0.1 };

export const PICTURE_TYPES = "image/png,image/jpeg,image/webp,image/vnd.radiance,.hdr,.exr,video/webm,video/mp4";

/** What the pointer is in; by keyboard, what is nearest. A card counts before the heading that it hangs under. */
const pointerThenNear: CollisionDetection = (args) => {
	const under = args.pointerCoordinates ? pointerWithin(args) : closestCenter(args);
	return under
		.filter((c) => c.id !== `card:${args.active.id}`)
		.sort((a, b) => Number(String(b.id).startsWith("card:")) - Number(String(a.id).startsWith("card:")));
};

/** Headings with one of them moved to another's place, those between making room; null if that changes nothing. */
function movedTo(headings: string[], moved: string, place: string): string[] | null {
	const to = headings.indexOf(place);
	if (to < 0 || moved === place || !headings.includes(moved)) return null;
	const others = headings.filter((h) => h !== moved);
	return [...others.slice(0, to), moved, ...others.slice(to)];
}

/** Headings of the sheet, and those that pictures hang under besides. */
function useHeadings(): string[] {
	const doc = useShown();
	const named = doc.purposes ?? USUAL;
	const used = [...new Set(doc.references.map((r) => r.purpose ?? LOOSE))].filter((p) => !named.includes(p));
	// What has just come in waits at the left, in reach.
	return [...used.filter((p) => p === LOOSE), ...named, ...used.filter((p) => p !== LOOSE)];
}

export function PinSheet() {
	const { pinsOpen, set } = useStudioOf("pinsOpen", "set");
	const doc = useShown();
	const { commit } = useShot.getState();
	const headings = useHeadings();
	const [down, setDown] = useState<string | null>(null);
	const [dropping, setDropping] = useState(false);
	const file = useRef<HTMLInputElement>(null);
	const sensors = useSensors(
		useSensor(PointerSensor, { activationConstraint: { distance: DRAG_PX } }),
		useSensor(KeyboardSensor),
	);
	const clip = doc.clips?.find((c) => c.id === down);
	const taken = doc.references.find((r) => r.id === down);
	/** Hangs a picture, or a heading with all below it, where it was let go. */
	const hang = (what: string, place: string) => {
		const kind = place.slice(0, place.indexOf(":"));
		const name = place.slice(kind.length + 1);
		const purpose = kind === "card" ? (doc.references.find((r) => r.id === name)?.purpose ?? LOOSE) : name;
		if (what.startsWith(HEADING)) {
			const purposes = movedTo(doc.purposes ?? USUAL, what.slice(HEADING.length), purpose);
			if (purposes) commit({ name: "sheet.setPurposes", purposes });
			return;
		}
		const before = kind === "card" ? name : null;
		if (
			before === what ||
			(before === null && (doc.references.find((r) => r.id === what)?.purpose ?? LOOSE) === purpose)
		)
			return;
		commit({ name: "reference.hang", id: what, purpose, before });
	};
	const press = usePointerDrop(hang);
	return (
		<OverFrame
			open={pinsOpen}
			onOpenChange={(open) => set({ pinsOpen: open })}
			title="Pin-up sheet"
			testId="pin-sheet"
			onOpenAutoFocus={(e) => e.preventDefault()}
			onEscapeKeyDown={(e) => {
				if (!taken && !clip) return;
				e.preventDefault();
				setDown(null);
			}}
			onDragOver={(e) => {
				if (!e.dataTransfer.types.includes("Files")) return;
				e.preventDefault();
				setDropping(true);
			}}
			onDragLeave={() => setDropping(false)}
			onDrop={(e) => {
				e.preventDefault();
				setDropping(false);
				void dropPictures([...e.dataTransfer.files]);
			}}
			head={
				<>
					<Bringing />
					<Act onClick={() => file.current?.click()}>Bring pictures in</Act>
					<input
						ref={file}
						type="file"
						accept={PICTURE_TYPES}
						multiple
						hidden
						onChange={(e) => {
							void dropPictures([...(e.target.files ?? [])]);
							e.target.value = "";
						}}
					/>
				</>
			}
		>
			{clip ? (
				<ClipView clip={clip} onBack={() => setDown(null)} />
			) : taken ? (
				<TakenDown reference={taken} onBack={() => setDown(null)} />
			) : (
				<DndContext
					sensors={sensors}
					collisionDetection={pointerThenNear}
					autoScroll={{ threshold: SCROLLS_WITHIN }}
					onDragEnd={({ active, over, activatorEvent }) =>
						over && activatorEvent instanceof KeyboardEvent && hang(String(active.id), String(over.id))
					}
				>
					<div className="flex min-h-0 flex-1 gap-3 overflow-auto pt-3" onPointerDownCapture={press}>
						{headings.map((heading) => (
							<Column
								key={heading}
								heading={heading}
								fixed={!(doc.purposes ?? USUAL).includes(heading)}
								onTake={setDown}
							/>
						))}
						<NewHeading />
						<Clips onTake={setDown} />
					</div>
				</DndContext>
			)}
			{dropping && (
				<p className="absolute inset-3 grid place-items-center border-2 border-ink border-dashed bg-paper/80 font-title text-xl italic">
					Drop pictures here to hang them
				</p>
			)}
		</OverFrame>
	);
}

/** How far the pictures that are being brought in have come. */
export function Bringing() {
	const bringing = useStudio((s) => s.bringing);
	if (!bringing) return <span />;
	return (
		<p role="status" className="text-small">
			Bringing in {bringing.done + 1} of {bringing.all}: {bringing.name}
		</p>
	);
}

function Column({ heading, fixed, onTake }: { heading: string; fixed: boolean; onTake: (id: string) => void }) {
	const doc = useShown();
	const { commit } = useShot.getState();
	const { setNodeRef, isOver } = useDroppable({ id: `under:${heading}` });
	const hung = doc.references.filter((r) => (r.purpose ?? LOOSE) === heading);
	const purposes = doc.purposes ?? USUAL;
	return (
		<section
			ref={setNodeRef}
			data-over={isOver || undefined}
			className={clsx("shrink-0 px-2 pb-6", isOver && "bg-paper/50")}
			style={{ width: CARD_WIDTH + 16 }}
			aria-label={heading}
			data-testid={`heading-${heading}`}
			data-drop={`under:${heading}`}
		>
			<header className="flex items-baseline justify-between gap-2 border-ink border-b pb-1">
				<h3 className="font-title text-[1.1rem] italic">{fixed ? heading : <Heading name={heading} />}</h3>
				{!fixed && hung.length === 0 && (
					<button
						type="button"
						className="text-second text-small underline"
						aria-label={`Take the heading ${heading} away`}
						onClick={() => commit({ name: "sheet.setPurposes", purposes: purposes.filter((p) => p !== heading) })}
					>
						away
					</button>
				)}
			</header>
			{hung.length === 0 && <p className="pt-2 text-second text-small">Hang a picture here.</p>}
			<ul>
				{hung.map((r) => (
					<Card key={r.id} reference={r} onTake={() => onTake(r.id)} />
				))}
			</ul>
		</section>
	);
}

/** A heading's name, dragged to another heading's place with all that hangs below. */
function Heading({ name }: { name: string }) {
	const { attributes, listeners, setNodeRef, transform } = useDraggable({ id: HEADING + name });
	return (
		<button
			ref={setNodeRef}
			type="button"
			className="cursor-grab italic"
			title="Drag to another place among the headings"
			style={{ transform: transform ? `translateX(${transform.x}px)` : undefined }}
			{...listeners}
			{...attributes}
			data-drag={HEADING + name}
		>
			{name}
		</button>
	);
}

/** A picture hung by its top edge. It is dragged to another heading, or before another picture. */
function Card({ reference, onTake }: { reference: Reference; onTake: () => void }) {
	const { attributes, listeners, setNodeRef, transform, isDragging } = useDraggable({ id: reference.id });
	const { setNodeRef: setDrop, isOver } = useDroppable({ id: `card:${reference.id}` });
	const shown = useShown().shown.reference === reference.id;
	return (
		<li
			ref={setDrop}
			data-drop={`card:${reference.id}`}
			data-over={isOver || undefined}
			className={clsx("pt-3", isOver && "border-ink border-t-2")}
		>
			<div
				ref={setNodeRef}
				data-drag={reference.id}
				style={{
					transform: transform ? `translate(${transform.x}px, ${transform.y}px)` : undefined,
					position: "relative",
					zIndex: isDragging ? 5 : undefined,
				}}
			>
				<button
					type="button"
					className="block h-[6px] bg-ink"
					style={{ width: CARD_WIDTH }}
					{...listeners}
					{...attributes}
					aria-label={`${reference.name}, hung; drag to hang it elsewhere`}
				/>
				<button
					type="button"
					className="relative block cursor-pointer text-left"
					onClick={onTake}
					aria-label={`Take ${reference.name} down`}
					{...listeners}
				>
					<ReferencePicture reference={reference} width={CARD_WIDTH} />
					<NotesOver notes={reference.notes ?? []} />
				</button>
			</div>
			<Caption reference={reference} />
			{shown && <p className="text-second text-small">shown at the frame</p>}
		</li>
	);
}

function Caption({ reference }: { reference: Reference }) {
	const { commit } = useShot.getState();
	const written = reference.caption ?? reference.name;
	const [text, setText] = useState(written);
	useEffect(() => setText(written), [written]);
	return (
		<textarea
			aria-label={`Caption of ${reference.name}`}
			rows={written.length > 26 ? 2 : 1}
			className="mt-1 block w-full resize-none border-transparent border-b bg-transparent text-small leading-tight hover:border-hair focus:border-ink"
			value={text}
			maxLength={300}
			onChange={(e) => setText(e.target.value)}
			onBlur={() =>
				text !== written && commit({ name: "reference.describe", id: reference.id, change: { caption: text } })
			}
			onKeyDown={(e) => {
				e.stopPropagation();
				if (e.key !== "Enter") return;
				e.preventDefault();
				e.currentTarget.blur();
			}}
		/>
	);
}

/** Moving pictures; a still is pulled from one when it is opened. */
function Clips({ onTake }: { onTake: (id: string) => void }) {
	const clips = useShown().clips ?? [];
	if (clips.length === 0) return null;
	return (
		<section className="shrink-0 px-2" style={{ width: CARD_WIDTH + 16 }} aria-label="clips">
			<h3 className="border-ink border-b pb-1 font-title text-[1.1rem] italic">clips</h3>
			<ul>
				{clips.map((c) => (
					<li key={c.id} className="pt-3">
						<button
							type="button"
							className="block w-full border-ink border-t-[6px] text-left"
							onClick={() => onTake(c.id)}
							aria-label={`Open the clip ${c.name}`}
						>
							<video
								src={`/api/blobs/${c.blob}`}
								muted
								preload="metadata"
								className="w-full bg-ink"
								style={{ aspectRatio: c.widthPx / c.heightPx }}
							/>
						</button>
						<p className="truncate pt-1 text-small">
							{c.name}, {c.seconds.toFixed(1)} s
						</p>
					</li>
				))}
			</ul>
		</section>
	);
}

function NewHeading() {
	const doc = useShown();
	const { commit } = useShot.getState();
	const [text, setText] = useState("");
	const add = () => {
		const name = text.trim();
		if (name && commit({ name: "sheet.setPurposes", purposes: [...new Set([...(doc.purposes ?? USUAL), name])] }))
			setText("");
	};
	return (
		<div className="w-36 shrink-0">
			<input
				aria-label="A heading of your own"
				placeholder="Own heading"
				className="w-full border-ink/45 border-b bg-transparent pb-1 font-title text-[1.1rem] italic focus:border-ink"
				value={text}
				maxLength={40}
				onChange={(e) => setText(e.target.value)}
				onBlur={add}
				onKeyDown={(e) => (e.stopPropagation(), e.key === "Enter" && add())}
			/>
		</div>
	);
}
