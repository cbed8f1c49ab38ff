"use client";
/** Ground: a preset with its seed and height, and a level of still water. */
import { GroundPreset } from "../../../core/doc/schema.ts";
import { PRESETS } from "../../../core/ground/preset.ts";
import { Choice, NumberLine, YesNo } from "../../parts/controls.tsx";
import { useShot, useShown } from "../../store/shotStore.ts";
import { EditRule } from "../EditRule.tsx";

export function GroundBody() {
	const { ground, water } = useShown();
	const { commit } = useShot.getState();
	const { mostM, stepM, says } = PRESETS[ground.preset];
	return (
		<div>
			<Choice
				label="Ground"
				options={GroundPreset.options}
				value={ground.preset}
				onPick={(preset) => commit({ name: "ground.set", preset })}
			/>
			<NumberLine
				label="Seed"
				value={ground.seed}
				min={0}
				max={99999}
				step={1}
				digits={0}
				onCommit={(seed) => commit({ name: "ground.set", seed: Math.round(seed) })}
			/>
			<EditRule
				label="Height"
				value={ground.heightM}
				unit="m"
				min={0}
				max={mostM}
				step={stepM}
				digits={1}
				edit={(heightM) => ({ name: "ground.set", heightM })}
				says={says}
			/>
			<YesNo label="Still water" value={water.on} onPick={(on) => commit({ name: "water.set", on })} />
			{water.on && (
				<>
					<NumberLine
						label="Level"
						value={water.levelM}
						unit="m"
						min={-1000}
						max={4000}
						step={0.01}
						onCommit={(levelM) => commit({ name: "water.set", levelM })}
					/>
					<EditRule
						label="Ripples, trough to crest"
						value={water.rippleMm}
						unit="mm"
						min={0}
						max={60}
						step={0.5}
						digits={1}
						edit={(rippleMm) => ({ name: "water.set", rippleMm })}
						says={water.rippleMm === 0 ? "A mirror." : undefined}
					/>
					<EditRule
						label="One sees down"
						value={water.clarityM}
						unit="m"
						min={0.05}
						max={50}
						logarithmic
						edit={(clarityM) => ({ name: "water.set", clarityM })}
					/>
				</>
			)}
		</div>
	);
}
