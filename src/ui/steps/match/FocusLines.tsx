"use client";
/** Focus: as deep as it can be, at a distance, at what is clicked in the frame, or on a piece that it then follows. */
import { blurMm, focusDistanceM } from "../../../core/lens/camera.ts";
import { toyLook } from "../../../core/study/toy.ts";
import { Act, Choice, NumberLine, YesNo } from "../../parts/controls.tsx";
import { metres } from "../../parts/words.ts";
import { useShot, useShown } from "../../store/shotStore.ts";
import { useStudio, useStudioOf } from "../../store/studio.ts";

const HOW = ["hyperfocal", "a distance", "a piece"] as const;

/** A distance as it is kept: to the centimetre, within what a lens may have. */
export const keptDistance = (m: number): number => Math.min(1e5, Math.max(0.05, Math.round(m * 100) / 100));

/** The warning of a large place that looks like a toy, with what takes it away. */
function ToyLines() {
	const { camera } = useShown();
	const shares = useStudio((s) => s.shares);
	const { commit } = useShot.getState();
	const seen = [...shares.values()].filter((s) => s.percent > 0.2 && Number.isFinite(s.nearM)).map((s) => s.nearM);
	const toy = seen.length ? toyLook(camera, Math.min(...seen), Math.max(...seen)) : null;
	if (!toy) return null;
	return (
		<div className="py-1" data-testid="toy">
			<p className="text-madder text-small">
				The place looks like a toy, {toy.smaller.toFixed(toy.smaller < 10 ? 1 : 0)} times smaller: at {metres(toy.atM)}{" "}
				blur is {toy.blurPx.toFixed(0)} px of 1920.
			</p>
			<div className="flex flex-wrap gap-2 pt-1">
				{toy.fStop !== null && (
					<Act onClick={() => commit({ name: "camera.setLens", fStop: toy.fStop as number })}>
						Close to f/{toy.fStop}
					</Act>
				)}
				{toy.focusM !== null && (
					<Act
						onClick={() =>
							commit({ name: "camera.setLens", focusM: keptDistance(toy.focusM as number), focusOn: null })
						}
					>
						Focus at {metres(toy.focusM)}
					</Act>
				)}
			</div>
		</div>
	);
}

export function FocusLines() {
	const { camera, pieces } = useShown();
	const { selected, focusing, blurred, set } = useStudioOf("selected", "focusing", "blurred", "set");
	const { commit, say } = useShot.getState();
	const on = pieces.find((p) => p.id === camera.focusOn);
	const how = camera.focusOn ? "a piece" : camera.focusM === null ? "hyperfocal" : "a distance";
	const pick = (to: (typeof HOW)[number]) => {
		if (to === "hyperfocal") commit({ name: "camera.setLens", focusM: null, focusOn: null });
		else if (to === "a distance")
			commit({ name: "camera.setLens", focusM: keptDistance(focusDistanceM(camera)), focusOn: null });
		else if (selected[0]) commit({ name: "camera.setLens", focusOn: selected[0] });
		else {
			set({ focusing: "piece" });
			say("Click the piece in the frame that the focus shall follow.");
		}
	};
	return (
		<>
			<div className="py-[3px]">
				<span className="block pb-1 text-second text-small">Focus on</span>
				<Choice small label="Focus on" options={HOW} value={how} onPick={pick} />
			</div>
			{camera.focusOn && (
				<p className="text-second text-small" data-testid="focus-follows">
					{on
						? on.hidden
							? `${on.name} is left out: the focus stays where it was.`
							: `Follows ${on.name}, ${metres(focusDistanceM(camera))} off.`
						: "The piece that it followed is gone: the focus stays where it was."}
				</p>
			)}
			{how === "a distance" && camera.focusM !== null && (
				<NumberLine
					label="Focus at"
					value={camera.focusM}
					unit="m"
					min={0.05}
					max={1e5}
					step={0.1}
					onCommit={(focusM) => commit({ name: "camera.setLens", focusM })}
					note={`${((blurMm(camera, 1e6) / camera.film.widthMm) * 1920).toFixed(1)} px far off`}
				/>
			)}
			<ToyLines />
			<YesNo
				label="Blur in the working view"
				value={blurred}
				yes="as the lens has it"
				no="none"
				onPick={(on) => set({ blurred: on })}
			/>
			<div className="flex items-baseline justify-between py-[3px]">
				<span className="text-second text-small">
					{focusing ? "Click what shall be sharp." : "Sharp where the frame is clicked"}
				</span>
				<Act onClick={() => set({ focusing: focusing ? null : "place" })}>
					{focusing ? "Leave" : "Pick in the frame"}
				</Act>
			</div>
		</>
	);
}
