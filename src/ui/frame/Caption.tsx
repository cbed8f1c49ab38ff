"use client";
/** The caption of the frame, like a print's: lens, eye, horizon, exposure; the reference; the state of the proof. */
import clsx from "clsx";
import { horizonOf } from "../../core/ground/planet.ts";
import { horizonPercent } from "../../core/lens/camera.ts";
import { Choice } from "../parts/controls.tsx";
import { clock, metres } from "../parts/words.ts";
import { keepHeld } from "../store/heldProof.ts";
import { useShot, useShown } from "../store/shotStore.ts";
import { useStudioOf } from "../store/studio.ts";
import { isLit } from "../view/looks.ts";
import { zoomAt } from "./Frame.tsx";
import { GuideMenu } from "./Guides.tsx";
import { shownView } from "./geometry.ts";

export function Caption() {
	const doc = useShown();
	const commit = useShot((s) => s.commit);
	const busy = useShot((s) => s.busy);
	const {
		free,
		zoom,
		proof,
		print,
		clean,
		held,
		underPointer,
		layer,
		depthRange,
		thinning,
		wearing,
		set,
		mirrored,
		grey,
		look,
		playing,
		playsSmall,
	} = useStudioOf(
		"free",
		"zoom",
		"proof",
		"print",
		"clean",
		"held",
		"underPointer",
		"layer",
		"depthRange",
		"thinning",
		"wearing",
		"set",
		"mirrored",
		"grey",
		"look",
		"playing",
		"playsSmall",
	);
	const { camera } = doc;
	const seenFrom = free ?? camera;
	const horizon = horizonPercent(shownView(camera, doc.finish, free), horizonOf({ ...doc, camera: seenFrom }).dip);
	const thin = thinning.filter((t) => t.shown < t.all);
	const percent = (v: number) => `${(v * 100).toFixed(v < 0.1 ? 1 : 0)} %`;
	const facts = !!print && underPointer !== null;
	// A smaller picture that stands in for the frame's own pixels while these are slow to come.
	const small = proof?.coarse && proof.clean ? `${proof.width} pixels across` : null;
	let state = "working view";
	const scale = layer === "depth" && depthRange;
	if (playing !== null) state = playsSmall ? "the small frames, played" : "the move, played";
	else if (print)
		state =
			underPointer ??
			(scale ? `depth: white at ${metres(scale[0])}, dark at ${metres(scale[1])}, by its logarithm` : "print");
	else if (free) state = "free view, the camera stays";
	else if (look !== "surfaces") state = `working view in ${look}`;
	else if (proof?.done) state = `proof: noise ${percent(proof.noise ?? 0)}, done`;
	else if (proof && busy && proof.samples >= 4) state = "proof rests while a print is traced";
	else if (proof && held && proof.samples >= 4)
		state = `proof held at ${proof.samples} samples${small ? `, ${small}` : ""}`;
	else if (proof && small)
		state = `proof: ${proof.noise === null ? "" : `noise ${percent(proof.noise)}, `}${small} as yet`;
	else if (proof && proof.noise !== null)
		state = `proof: noise ${percent(proof.noise)}, to ${percent(proof.aim)}${proof.secondsLeft ? ` in ${clock(proof.secondsLeft)}` : ""}`;
	else if (proof) state = "proof begins";
	if (!print && wearing !== null) state = `the land wears: ${Math.round(wearing * 100)} %`;
	else if (!print && !proof && thin.length)
		state = thin.map((t) => `${t.shown.toLocaleString("en")} of ${t.all.toLocaleString("en")} plants shown`).join(", ");
	return (
		<div
			className={clsx(
				"grid items-baseline gap-3 px-5",
				// What lies under the pointer in a print takes the room of what the caption says of the shot.
				facts ? "grid-cols-[auto_auto_minmax(0,1fr)]" : "grid-cols-[1fr_auto_1fr]",
			)}
		>
			<p className="truncate text-second text-small" data-testid="caption">
				<em className="font-title text-[1.05rem] text-ink">{camera.focalMm.toFixed(camera.focalMm % 1 ? 1 : 0)} mm</em>{" "}
				<b className="text-ink">{camera.locked ? "locked" : "free"}</b>
				{!facts &&
					` · f/${camera.fStop} · eye ${camera.position[1].toFixed(2)} m · horizon ${Number.isFinite(horizon) ? `${horizon.toFixed(0)} %` : "not seen"} · EV ${camera.ev100.toFixed(1)}`}
				{mirrored && " · turned over"}
				{grey && " · grey"}
			</p>
			<div className="flex items-center gap-2">
				{doc.references.length > 0 && (
					<Choice
						small
						label="Reference"
						options={["beside", "over", "wipe", "off"] as const}
						value={doc.shown.mode}
						onPick={(mode) =>
							commit({ name: "reference.show", mode, reference: doc.shown.reference ?? doc.references[0].id })
						}
					/>
				)}
				<GuideMenu />
				{zoom.k > 1 && (
					<button
						type="button"
						className="text-small underline underline-offset-4"
						onClick={() => set({ zoom: { k: 1, x: 0.5, y: 0.5 } })}
					>
						{Math.round(zoom.k * 100)} %, whole frame
					</button>
				)}
				{zoom.k === 1 && (
					<button
						type="button"
						className="text-second text-small underline underline-offset-4"
						onClick={() => zoomAt(2, { x: 0.5, y: 0.5 })}
						aria-label="Enlarge the frame"
					>
						enlarge
					</button>
				)}
			</div>
			<div className="flex min-w-0 justify-end gap-2 text-small">
				<p
					className="truncate text-right text-second"
					title={facts ? state : undefined}
					aria-live="polite"
					data-testid="proof-state"
					data-samples={proof?.samples ?? 0}
					data-since={proof ? Math.round(proof.sinceEditMs) : ""}
					data-clean={proof?.clean ?? false}
				>
					{state}
				</p>
				{(print ? layer === "picture" : proof && !free && isLit(look)) && (
					<button
						type="button"
						className="whitespace-nowrap text-second underline underline-offset-4"
						aria-pressed={clean}
						title={
							clean ? "Noise is taken out. Show it as it was traced." : "Shown as it was traced. Take the noise out."
						}
						onClick={() => set({ clean: !clean })}
					>
						{clean ? "cleaned" : "as traced"}
					</button>
				)}
				{!print && proof && !proof.done && !free && isLit(look) && (
					<button
						type="button"
						className="whitespace-nowrap text-second underline underline-offset-4"
						title={
							held
								? "The proof stays at its first samples and leaves the machine to you. Let it go on."
								: "Hold the proof at its first samples, so that the machine is free."
						}
						onClick={() => {
							keepHeld(!held);
							set({ held: !held });
						}}
					>
						{held ? "go on" : "hold"}
					</button>
				)}
			</div>
		</div>
	);
}
