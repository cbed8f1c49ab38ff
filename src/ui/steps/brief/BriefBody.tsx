"use client";
/** Brief: title, the idea in a sentence, what carries it, mood, references, palette. */
import { useEffect, useRef, useState } from "react";
import { ReferencePicture } from "../../frame/ReferencePicture.tsx";
import { Act, Choice } from "../../parts/controls.tsx";
import { dropPictures } from "../../reference/references.ts";
import { Bringing, PICTURE_TYPES } from "../../sheet/PinSheet.tsx";
import { useShot, useShown } from "../../store/shotStore.ts";
import { useStudio } from "../../store/studio.ts";
import { EditRule } from "../EditRule.tsx";
import { PaletteLines } from "./PaletteLines.tsx";

function Words({
	label,
	value,
	most,
	rows,
	onCommit,
	hint,
}: {
	label: string;
	value: string;
	most: number;
	rows: number;
	onCommit: (v: string) => void;
	hint?: string;
}) {
	const [text, setText] = useState(value);
	useEffect(() => setText(value), [value]);
	const take = () => text !== value && onCommit(text);
	const common = {
		"aria-label": label,
		value: text,
		maxLength: most,
		placeholder: hint,
		onChange: (e: { target: { value: string } }) => setText(e.target.value),
		onBlur: take,
		className: "w-full border-hair border-b bg-transparent py-1 focus:border-ink",
	};
	return (
		<label className="block py-1">
			<span className="text-second text-small">{label}</span>
			{rows === 1 ? (
				<input {...common} onKeyDown={(e) => (e.stopPropagation(), e.key === "Enter" && take())} />
			) : (
				<textarea
					{...common}
					rows={rows}
					className={`${common.className} resize-none`}
					onKeyDown={(e) => e.stopPropagation()}
				/>
			)}
		</label>
	);
}

/** Words in one line, set apart by commas. */
const listOf = (text: string, most: number, longest: number): string[] =>
	text
		.split(/[,;\n]/)
		.map((w) => w.trim().slice(0, longest))
		.filter((w, i, all) => w && all.indexOf(w) === i)
		.slice(0, most);

export function BriefBody() {
	const doc = useShown();
	const { commit } = useShot.getState();
	const set = useStudio((s) => s.set);
	const file = useRef<HTMLInputElement>(null);
	return (
		<div>
			<Words
				label="Title"
				value={doc.title}
				most={120}
				rows={1}
				onCommit={(title) => commit({ name: "shot.setTitle", title })}
			/>
			<Words
				label="The idea, in a sentence"
				value={doc.idea}
				most={400}
				rows={3}
				onCommit={(idea) => commit({ name: "shot.setIdea", idea })}
			/>
			<Words
				label="What carries it, up to three"
				value={(doc.carries ?? []).join(", ")}
				most={360}
				rows={2}
				hint="orange dusk, the reeds"
				onCommit={(text) => commit({ name: "shot.setCarries", carries: listOf(text, 3, 120) })}
			/>
			<Words
				label="Mood, in words"
				value={(doc.mood ?? []).join(", ")}
				most={360}
				rows={1}
				hint="still, salt, waiting"
				onCommit={(text) => commit({ name: "shot.setMood", mood: listOf(text, 12, 40) })}
			/>
			<div className="flex items-baseline justify-between pt-2 pb-1">
				<span className="text-second text-small">References</span>
				<span className="flex gap-1">
					<Act onClick={() => set({ pinsOpen: true })}>Pin-up sheet</Act>
					<Act onClick={() => file.current?.click()}>Bring in</Act>
				</span>
				<input
					ref={file}
					type="file"
					accept={PICTURE_TYPES}
					multiple
					hidden
					data-testid="pick-picture"
					onChange={(e) => {
						void dropPictures([...(e.target.files ?? [])]);
						e.target.value = "";
					}}
				/>
			</div>
			<Bringing />
			{doc.references.length === 0 && (
				<p className="text-second text-small">
					Drop pictures or clips on the frame, or paste one: PNG, JPEG, WebP, WebM, MP4.
				</p>
			)}
			<ul>
				{doc.references.map((r) => (
					<li key={r.id} className="flex items-center gap-2 py-1">
						<button
							type="button"
							className="flex min-w-0 flex-1 items-center gap-2 text-left"
							onClick={() =>
								commit({
									name: "reference.show",
									reference: r.id,
									mode: doc.shown.mode === "off" ? "over" : doc.shown.mode,
								})
							}
						>
							<span
								className={`grid h-9 w-14 shrink-0 place-items-center overflow-hidden ${doc.shown.reference === r.id ? "outline outline-2 outline-ink" : ""}`}
							>
								<ReferencePicture reference={r} width={56} />
							</span>
							<span className="truncate">{r.name}</span>
						</button>
						<button
							type="button"
							className="text-second text-small underline"
							onClick={() => commit({ name: "reference.remove", id: r.id })}
							aria-label={`Remove ${r.name}`}
						>
							remove
						</button>
					</li>
				))}
			</ul>
			{doc.references.length > 0 && (
				<div className="pt-1">
					<Choice
						label="Reference"
						options={["beside", "over", "wipe", "off"] as const}
						value={doc.shown.mode}
						onPick={(mode) =>
							commit({ name: "reference.show", mode, reference: doc.shown.reference ?? doc.references[0].id })
						}
					/>
					{doc.shown.mode === "over" && (
						<EditRule
							label="Opacity"
							value={doc.shown.opacity * 100}
							unit="%"
							min={0}
							max={100}
							step={1}
							digits={0}
							edit={(v) => ({ name: "reference.show", opacity: v / 100 })}
						/>
					)}
				</div>
			)}
			<PaletteLines />
		</div>
	);
}
