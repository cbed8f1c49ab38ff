"use client";
/** Exposure by f-stop, shutter and ISO, or held as it stands and what they would have to be. */
import { isoFor, shutterWords, usualExposure } from "../../../core/doc/exposure.ts";
import { shutterSeconds } from "../../../core/time/frames.ts";
import { NumberLine, YesNo } from "../../parts/controls.tsx";
import { useShot, useShown } from "../../store/shotStore.ts";
import { FStopLine } from "../FStopLine.tsx";

export function ExposureLines() {
	const { camera, move } = useShown();
	const timeS = useShot((s) => s.timeS);
	const { commit } = useShot.getState();
	const exposure = camera.exposure ?? usualExposure();
	// A move's own shutter is the one that exposes its frames.
	const inMove = timeS !== null && move ? shutterSeconds(move) : null;
	const shutterS = inMove && inMove > 0 ? inMove : exposure.shutterS;
	const needed = isoFor(camera.ev100, { ...exposure, fStop: camera.fStop, shutterS });
	const set = (change: Partial<typeof exposure>) => commit({ name: "camera.setExposure", ...change });
	return (
		<>
			<YesNo
				label="This EV"
				value={exposure.follows}
				yes="follows shutter and ISO"
				no="held as it stands"
				onPick={(follows) => set({ follows })}
			/>
			<FStopLine />
			<NumberLine
				label="Shutter, one over"
				value={1 / shutterS}
				min={0.001}
				max={100_000}
				step={5}
				digits={1 / shutterS < 10 ? 2 : 0}
				disabled={inMove !== null}
				note={inMove ? "the move's own" : shutterWords(shutterS)}
				onCommit={(v) => set({ shutterS: 1 / v })}
			/>
			<NumberLine
				label="ISO"
				value={exposure.iso}
				min={1}
				max={1_000_000}
				step={100}
				digits={0}
				onCommit={(iso) => set({ iso })}
			/>
			<NumberLine
				label="Compensation"
				value={exposure.compensationEv}
				unit="EV"
				min={-8}
				max={8}
				step={0.3}
				digits={1}
				onCommit={(compensationEv) => set({ compensationEv })}
			/>
			<p className="text-second text-small" data-testid="exposure-told">
				{exposure.follows
					? `EV ${camera.ev100.toFixed(1)} follows from these.`
					: `EV ${camera.ev100.toFixed(1)} is held: at f/${camera.fStop} and ${shutterWords(shutterS)} that is ISO ${needed >= 10 ? Math.round(needed).toLocaleString("en") : needed.toFixed(1)}.`}
			</p>
		</>
	);
}
