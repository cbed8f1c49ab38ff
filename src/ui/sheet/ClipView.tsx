"use client";
/** A clip, looked through by hand; stills are pulled from it and hung as references. */
import { useEffect, useRef, useState } from "react";
import type { Clip } from "../../core/doc/schema.ts";
import { Act, Rule } from "../parts/controls.tsx";
import { newId } from "../parts/words.ts";
import { keepPicture } from "../reference/references.ts";
import { useShot } from "../store/shotStore.ts";

/** Seconds of one frame at the rate of film. */
const FRAME_S = 1 / 24;

export function ClipView({ clip, onBack }: { clip: Clip; onBack: () => void }) {
	const { commit, say } = useShot.getState();
	const video = useRef<HTMLVideoElement>(null);
	const [address, setAddress] = useState<string | null>(null);
	const [at, setAt] = useState(0);
	const [pulled, setPulled] = useState(0);
	const [busy, setBusy] = useState(false);

	// A clip is read whole, so that every place of it can be gone to.
	useEffect(() => {
		const ending = new AbortController();
		let made: string | null = null;
		fetch(`/api/blobs/${clip.blob}`, { signal: ending.signal })
			.then((r) => (r.ok ? r.blob() : Promise.reject(new Error("The clip's file is gone."))))
			.then((b) => {
				made = URL.createObjectURL(b);
				setAddress(made);
			})
			.catch((error) => ending.signal.aborted || say(`${clip.name}: ${error.message}`));
		return () => {
			ending.abort();
			if (made) URL.revokeObjectURL(made);
		};
	}, [clip, say]);

	const go = (to: number) => {
		const t = Math.min(Math.max(0, clip.seconds - 0.001), Math.max(0, to));
		setAt(t);
		if (video.current) video.current.currentTime = t;
	};

	const pull = async () => {
		const element = video.current;
		if (!element || element.readyState < 2) return;
		setBusy(true);
		try {
			const canvas = document.createElement("canvas");
			canvas.width = clip.widthPx;
			canvas.height = clip.heightPx;
			canvas.getContext("2d")?.drawImage(element, 0, 0);
			const blob = await new Promise<Blob | null>((r) => canvas.toBlob(r, "image/png"));
			if (!blob) throw new Error("The still could not be drawn.");
			const kept = await keepPicture(blob);
			const name = `${clip.name}, ${at.toFixed(2)} s`.slice(-80);
			if (
				commit({ name: "reference.add", reference: { id: newId(), name, ...kept, clip: { blob: clip.blob, atS: at } } })
			)
				setPulled(pulled + 1);
		} catch (error) {
			say(`The still could not be pulled: ${(error as Error).message}`);
		} finally {
			setBusy(false);
		}
	};

	return (
		<div className="flex min-h-0 flex-1 flex-col gap-3 pt-3" data-testid="clip-view">
			<div className="grid min-h-0 flex-1 place-items-center">
				{address ? (
					<video
						ref={video}
						src={address}
						muted
						preload="auto"
						className="max-h-full max-w-full bg-ink"
						onLoadedData={() => go(at)}
					/>
				) : (
					<p className="text-second">Reading the clip</p>
				)}
			</div>
			<div className="flex items-end gap-4 bg-paper p-3">
				<div className="min-w-0 flex-1">
					<Rule
						label={clip.name}
						value={at}
						unit="s"
						min={0}
						max={Math.max(0.1, clip.seconds)}
						step={FRAME_S}
						digits={2}
						onPreview={go}
						onCommit={go}
					/>
				</div>
				<Act onClick={() => go(at - FRAME_S)}>Frame before</Act>
				<Act onClick={() => go(at + FRAME_S)}>Frame after</Act>
				<Act strong disabled={busy || !address} onClick={() => void pull()}>
					Pull a still
				</Act>
				<span className="text-second text-small" role="status">
					{pulled === 0 ? "" : pulled === 1 ? "1 still hung" : `${pulled} stills hung`}
				</span>
				<Act
					onClick={() => {
						commit({ name: "clip.remove", id: clip.id });
						onBack();
					}}
				>
					Remove
				</Act>
				<Act onClick={onBack}>Back to the sheet</Act>
			</div>
		</div>
	);
}
