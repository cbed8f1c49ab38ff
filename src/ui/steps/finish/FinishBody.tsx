"use client";
/** Finish: how the linear picture comes to the eye. Nothing is traced again. */
import type { Finish } from "../../../core/doc/schema.ts";
import { Choice } from "../../parts/controls.tsx";
import { useShot, useShown } from "../../store/shotStore.ts";
import { EditRule } from "../EditRule.tsx";
import { LensLines } from "./LensLines.tsx";

export function FinishBody() {
	const { finish } = useShown();
	const { commit } = useShot.getState();
	const edit = (change: Partial<Finish>) => ({ name: "finish.set" as const, ...change });
	return (
		<div>
			<p className="pb-1 text-second text-small">Live on the working view, the proof and every print.</p>
			<EditRule
				label="Exposure"
				value={finish.exposureEv}
				unit="EV"
				min={-4}
				max={4}
				step={0.05}
				edit={(v) => edit({ exposureEv: v })}
			/>
			<p className="pt-1 pb-1 text-second text-small">Tone curve</p>
			<Choice
				label="Tone curve"
				options={["print", "straight"] as const}
				value={finish.curve}
				onPick={(curve) => commit(edit({ curve }))}
			/>
			<EditRule
				label="Contrast"
				value={finish.contrast}
				min={0.5}
				max={2}
				step={0.01}
				edit={(v) => edit({ contrast: v })}
			/>
			<EditRule
				label="Vignette"
				value={finish.vignette}
				min={0}
				max={1}
				step={0.01}
				edit={(v) => edit({ vignette: v })}
			/>
			<LensLines />
		</div>
	);
}
