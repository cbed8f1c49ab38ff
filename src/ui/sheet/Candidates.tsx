"use client";
/** Cameras that are kept as thumbnails, to be compared; one is taken and locked. */
import { useState } from "react";
import type { Camera, Candidate } from "../../core/doc/schema.ts";
import { frameThumbnail } from "../frame/thumbnail.ts";
import { Act } from "../parts/controls.tsx";
import { newId } from "../parts/words.ts";
import { useShot, useShown } from "../store/shotStore.ts";
import { type FreePose, useStudio, useStudioOf } from "../store/studio.ts";

/** Keeps the camera, or the free view when one walks in it, with the frame as it looks. */
export async function keepCamera(): Promise<void> {
	const { document: doc, commit, say } = useShot.getState();
	const { free } = useStudio.getState();
	const { position, headingDeg, pitchDeg, rollDeg, film, ratio, focalMm, shiftMm } = doc.camera;
	const kept = doc.candidates ?? [];
	const names = new Set(kept.map((c) => c.name));
	let n = kept.length + 1;
	while (names.has(`Camera ${n}`)) n++;
	try {
		const thumbnail = await frameThumbnail();
		const seen = {
			position,
			headingDeg,
			pitchDeg,
			rollDeg,
			focalMm,
			...(shiftMm && { shiftMm }),
			...(free && { rollDeg: 0, ...free }),
		};
		commit({
			name: "candidate.keep",
			candidate: { id: newId(), name: `Camera ${n}`, thumbnail, camera: { ...seen, film, ratio } },
		});
	} catch (error) {
		say(`The camera could not be kept: ${(error as Error).message}`);
	}
}

/** The view through a camera that is kept, with its own lens. */
const throughCandidate = ({
	position,
	headingDeg,
	pitchDeg,
	rollDeg,
	focalMm,
	shiftMm,
}: Candidate["camera"]): FreePose => ({
	position,
	headingDeg,
	pitchDeg,
	rollDeg,
	focalMm,
	shiftMm: shiftMm ?? [0, 0],
});

/** Looks through a camera that is kept, in a free view; the shot keeps its own. */
export const lookThrough = (c: Candidate): void =>
	useStudio.getState().set({ free: throughCandidate(c.camera), print: null, camerasOpen: false });

/** Makes a camera that is kept the shot's own, and locks it. */
export function takeAndLock(c: Candidate): void {
	if (useShot.getState().commit({ name: "candidate.take", id: c.id }))
		useStudio.getState().set({ free: null, camerasOpen: false });
}

/** Whether the shot looks through this camera. */
export const isOf = ({ camera: own }: Candidate, camera: Camera): boolean =>
	own.focalMm === camera.focalMm &&
	own.headingDeg === camera.headingDeg &&
	own.pitchDeg === camera.pitchDeg &&
	own.position.every((v, i) => v === camera.position[i]);

export function Candidates() {
	const { candidates = [], camera } = useShown();
	const { commit } = useShot.getState();
	const { free, set } = useStudioOf("free", "set");
	return (
		<div className="pt-3">
			<div className="flex items-baseline justify-between">
				<span className="text-second text-small">Cameras kept</span>
				{candidates.length > 0 && (
					<button
						type="button"
						className="flex-1 pl-2 text-left text-small underline underline-offset-4"
						onClick={() => set({ camerasOpen: true })}
					>
						Compare
					</button>
				)}
				<Act onClick={() => void keepCamera()}>{free ? "Keep this view" : "Keep this camera"}</Act>
			</div>
			{candidates.length === 0 && (
				<p className="pt-1 text-second text-small">Walk off (W), find another view, and keep it here to compare.</p>
			)}
			<ul className="grid grid-cols-2 gap-2 pt-1">
				{candidates.map((c) => {
					const own = c.camera;
					const same = isOf(c, camera);
					return (
						<li key={c.id} data-testid="candidate">
							<button
								type="button"
								className="block w-full text-left"
								aria-label={`See from ${c.name}`}
								onClick={() => lookThrough(c)}
							>
								{c.thumbnail ? (
									// biome-ignore lint/performance/noImgElement: the blob is served by this application as it is
									<img
										src={`/api/blobs/${c.thumbnail}`}
										alt=""
										className={`aspect-video w-full object-cover ${same ? "outline outline-2 outline-ink" : ""}`}
									/>
								) : (
									<span className="block aspect-video w-full bg-hair" />
								)}
							</button>
							<CandidateName id={c.id} name={c.name} />
							<p className="text-second text-small">
								{own.focalMm.toFixed(0)} mm, eye {own.position[1].toFixed(2)} m{same && camera.locked ? ", locked" : ""}
							</p>
							<div className="flex gap-2 text-small">
								{!camera.locked && (
									<button
										type="button"
										className="underline"
										aria-label={`Take ${c.name} and lock it`}
										onClick={() => takeAndLock(c)}
									>
										take and lock
									</button>
								)}
								<button
									type="button"
									className="text-second underline"
									aria-label={`Take ${c.name} away`}
									onClick={() => commit({ name: "candidate.remove", id: c.id })}
								>
									away
								</button>
							</div>
						</li>
					);
				})}
			</ul>
		</div>
	);
}

function CandidateName({ id, name }: { id: string; name: string }) {
	const { commit } = useShot.getState();
	const [text, setText] = useState(name);
	const take = () =>
		text.trim() && text !== name ? commit({ name: "candidate.rename", id, title: text }) : setText(name);
	return (
		<input
			aria-label={`Name of ${name}`}
			className="w-full border-transparent border-b bg-transparent font-medium hover:border-hair focus:border-ink"
			value={text}
			maxLength={80}
			onChange={(e) => setText(e.target.value)}
			onBlur={take}
			onKeyDown={(e) => (e.stopPropagation(), e.key === "Enter" && e.currentTarget.blur())}
		/>
	);
}
