"use client";
/** Brief: title, the idea in a sentence, references. */
import { useEffect, useRef, useState } from "react";
import { Act, Choice, Rule } from "../parts/controls.tsx";
import { dropPictures } from "../references.ts";
import { useShot, useShown } from "../store/shotStore.ts";

function Words({ label, value, most, rows, onCommit }: { label: string; value: string; most: number; rows: number; onCommit: (v: string) => void }) {
	const [text, setText] = useState(value);
	useEffect(() => setText(value), [value]);
	const take = () => text !== value && onCommit(text);
	const common = {
		"aria-label": label,
		value: text,
		maxLength: most,
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
				<textarea {...common} rows={rows} className={`${common.className} resize-none`} onKeyDown={(e) => e.stopPropagation()} />
			)}
		</label>
	);
}

export function BriefStep() {
	const doc = useShown();
	const { commit, show } = useShot.getState();
	const file = useRef<HTMLInputElement>(null);
	return (
		<div>
			<Words label="Title" value={doc.title} most={120} rows={1} onCommit={(title) => commit({ name: "shot.setTitle", title })} />
			<Words label="The idea, in a sentence" value={doc.idea} most={400} rows={3} onCommit={(idea) => commit({ name: "shot.setIdea", idea })} />
			<div className="flex items-baseline justify-between pt-2 pb-1">
				<span className="text-second text-small">References</span>
				<Act onClick={() => file.current?.click()}>Pick a picture</Act>
				<input
					ref={file}
					type="file"
					accept="image/png,image/jpeg,image/webp"
					multiple
					hidden
					data-testid="pick-picture"
					onChange={(e) => {
						void dropPictures([...(e.target.files ?? [])]);
						e.target.value = "";
					}}
				/>
			</div>
			{doc.references.length === 0 && <p className="text-second text-small">Drop a PNG, JPEG or WebP on the frame, or paste one.</p>}
			<ul>
				{doc.references.map((r) => (
					<li key={r.id} className="flex items-center gap-2 py-1">
						<button
							type="button"
							className="flex min-w-0 flex-1 items-center gap-2 text-left"
							onClick={() => commit({ name: "reference.show", reference: r.id, mode: doc.shown.mode === "off" ? "over" : doc.shown.mode })}
						>
							{/* biome-ignore lint/performance/noImgElement: the blob is served by this application as it is */}
							<img src={`/api/blobs/${r.blob}`} alt="" className={`h-9 w-14 object-cover ${doc.shown.reference === r.id ? "outline outline-2 outline-ink" : ""}`} />
							<span className="truncate">{r.name}</span>
						</button>
						<button type="button" className="text-second text-small underline" onClick={() => commit({ name: "reference.remove", id: r.id })} aria-label={`Remove ${r.name}`}>
							remove
						</button>
					</li>
				))}
			</ul>
			{doc.references.length > 0 && (
				<div className="pt-1">
					<Choice
						label="Reference"
						options={["beside", "over", "off"] as const}
						value={doc.shown.mode}
						onPick={(mode) => commit({ name: "reference.show", mode, reference: doc.shown.reference ?? doc.references[0].id })}
					/>
					{doc.shown.mode === "over" && (
						<Rule
							label="Opacity"
							value={doc.shown.opacity * 100}
							unit="%"
							min={0}
							max={100}
							step={1}
							digits={0}
							onPreview={(v) => show({ name: "reference.show", opacity: v / 100 })}
							onCommit={(v) => commit({ name: "reference.show", opacity: v / 100 })}
						/>
					)}
				</div>
			)}
		</div>
	);
}
