"use client";
/** Ground: a preset with its seed, height and level, or none; what has happened to it; and a level of still water. */
import type { Ground, Water } from "../../../core/doc/schema.ts";
import { groundHeight, waterOver } from "../../../core/ground/height.ts";
import { PRESETS } from "../../../core/ground/preset.ts";
import { millimetres } from "../../../core/maths/functions.ts";
import { Act, NumberLine, YesNo } from "../../parts/controls.tsx";
import { useShot, useShown } from "../../store/shotStore.ts";
import { EditRule } from "../EditRule.tsx";
import { BrushLines } from "./BrushLines.tsx";
import { LandFilesLines } from "./LandFilesLines.tsx";
import { LedgerLines } from "./LedgerLines.tsx";
import { PresetChoice } from "./PresetChoice.tsx";

const IN_THE_GROUND =
	"The water lies exactly in the ground: in the print the two show through each other in blotches. Set them apart.";
const BELOW_THE_GROUND = "All ground near the lens lies above the water: none of it is seen.";
/** Metres by which ground is set under water that it hid. */
const UNDER_M = 0.4;

const lowerBy = (ground: Ground, water: Water): number => water.levelM - UNDER_M - (ground.levelM ?? 0);

export function GroundBody() {
	const { ground, water, camera, match } = useShown();
	const { commit } = useShot.getState();
	const { mostM, stepM, says } = PRESETS[ground.preset];
	const [x, y, z] = camera.position;
	const groundM = groundHeight(ground, x, z);
	const lies = water.on && !ground.out ? waterOver(ground, water, camera.position) : null;
	return (
		<div>
			<YesNo
				label="Ground"
				value={!ground.out}
				yes="lies there"
				no="left out"
				onPick={(v) => commit({ name: "ground.set", out: !v })}
			/>
			<PresetChoice ground={ground} />
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
			<NumberLine
				label="Level of the ground"
				value={ground.levelM ?? 0}
				unit="m"
				min={-1000}
				max={4000}
				step={0.05}
				onCommit={(levelM) => commit({ name: "ground.set", levelM })}
			/>
			{!ground.out && groundM > y && (
				<div role="status" className="py-1 text-small">
					<p>{`The lens lies ${(groundM - y).toFixed(1)} m under the ground.`}</p>
					<Act
						onClick={() => commit({ name: "camera.place", position: [x, millimetres(groundM + match.eyeHeightM), z] })}
					>
						Lift it to the height of the eyes
					</Act>
				</div>
			)}
			{!ground.out && <BrushLines />}
			<LedgerLines ground={ground} />
			<YesNo label="Still water" value={water.on} onPick={(on) => commit({ name: "water.set", on })} />
			{water.on && (
				<>
					{lies && (
						<div role="status" className="py-1 text-small">
							<p>{lies === "in the ground" ? IN_THE_GROUND : BELOW_THE_GROUND}</p>
							<Act
								onClick={() =>
									commit({
										name: "ground.set",
										levelM: Number(((ground.levelM ?? 0) + lowerBy(ground, water)).toFixed(2)),
									})
								}
							>
								Lower the ground under it
							</Act>
						</div>
					)}
					<NumberLine
						label="Level of the water"
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
			{!ground.out && <LandFilesLines />}
		</div>
	);
}
