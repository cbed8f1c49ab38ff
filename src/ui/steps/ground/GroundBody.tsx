"use client";
/** Ground: a preset with its seed, height and level, or none; what has happened to it; and the water about it. */
import { groundHeight } from "../../../core/ground/height.ts";
import { PRESETS } from "../../../core/ground/preset.ts";
import { millimetres } from "../../../core/maths/functions.ts";
import { laidColour, laidTimes } from "../../../core/surface/shading.ts";
import { Act, NumberLine, YesNo } from "../../parts/controls.tsx";
import { useShot, useShown } from "../../store/shotStore.ts";
import { EditRule } from "../EditRule.tsx";
import { ColourLines } from "../laid/ColourLines.tsx";
import { LaidLines } from "../laid/LaidLines.tsx";
import { StainLines } from "../laid/StainLines.tsx";
import { BrushLines } from "./BrushLines.tsx";
import { LandFilesLines } from "./LandFilesLines.tsx";
import { LedgerLines } from "./LedgerLines.tsx";
import { PlanetLines } from "./PlanetLines.tsx";
import { PresetChoice } from "./PresetChoice.tsx";
import { WaterLines } from "./WaterLines.tsx";

export function GroundBody() {
	const { ground, groundLaid, camera, match } = useShown();
	const { commit, show } = useShot.getState();
	const { mostM, stepM, says } = PRESETS[ground.preset];
	const [x, y, z] = camera.position;
	const groundM = groundHeight(ground, x, z);
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
			{!ground.out && (
				<LaidLines
					laid={groundLaid ?? null}
					tintOf="In the land's colours"
					onShow={(laid) => show(laid === undefined ? null : { name: "ground.lay", laid })}
					onCommit={(laid) => commit({ name: "ground.lay", laid })}
				/>
			)}
			{!ground.out && groundLaid && (
				<ColourLines
					own={laidColour(groundLaid, [0.3, 0.3, 0.3])}
					edit={(factor) => ({ name: "ground.lay", laid: laidTimes(groundLaid, factor) })}
				/>
			)}
			{!ground.out && <StainLines pieces={null} />}
			{!ground.out && <BrushLines />}
			<LedgerLines ground={ground} />
			<WaterLines />
			<PlanetLines />
			{!ground.out && <LandFilesLines />}
		</div>
	);
}
