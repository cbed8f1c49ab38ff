"use client";
/** Water: the level of the sea or of a lake, its ripples or the waves of a wind, and how far one sees into it. */
import type { Ground, Water } from "../../../core/doc/schema.ts";
import { waterOver } from "../../../core/ground/height.ts";
import { entryOf } from "../../../core/ground/ledger/ledger.ts";
import { RIPPLES } from "../../../core/ground/ripples.ts";
import { seaOf, USUAL_FETCH_M } from "../../../core/ground/waves.ts";
import { Act, Choice, NumberLine, YesNo } from "../../parts/controls.tsx";
import { useShot, useShown } from "../../store/shotStore.ts";
import { EditRule } from "../EditRule.tsx";

const IN_THE_GROUND =
	"The water lies exactly in the ground: in the print the two show through each other in blotches. Set them apart.";
const BELOW_THE_GROUND = "All ground near the lens lies above the water: none of it is seen.";
/** Metres by which ground is set under water that it hid. */
const UNDER_M = 0.4;

const lowerBy = (ground: Ground, water: Water): number => water.levelM - UNDER_M - (ground.levelM ?? 0);

const BREEZE_MS = 5;
const WAVES = ["ripples", "waves of wind"] as const;

/** What a wind raises, in words. */
function seaWords({ windMs = 0, fetchM = USUAL_FETCH_M }: Water): string {
	const { heightM, lengthM } = seaOf({ windMs, fetchM });
	const metres = (m: number) => (m < 1 ? m.toFixed(2) : m.toFixed(1));
	return `Waves ${metres(heightM)} m high from trough to crest, ${metres(lengthM)} m apart.`;
}

export function WaterLines() {
	const { ground, water, camera } = useShown();
	const { commit } = useShot.getState();
	const lies = water.on && !ground.out ? waterOver(ground, water, camera.position) : null;
	// Ponds and rivers of the ledger ripple and are seen into like the sea.
	const inLand = !ground.out && (ground.ledger ?? []).some((e) => !e.out && "water" in entryOf(e));
	const wind = (water.windMs ?? 0) > 0;
	return (
		<>
			<YesNo label="Sea or lake" value={water.on} onPick={(on) => commit({ name: "water.set", on })} />
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
				</>
			)}
			{(water.on || inLand) && (
				<>
					<div className="py-1">
						<Choice
							label="Its surface"
							options={WAVES}
							value={wind ? WAVES[1] : WAVES[0]}
							onPick={(picked) => commit({ name: "water.set", windMs: picked === WAVES[0] ? 0 : BREEZE_MS })}
						/>
					</div>
					{wind ? (
						<>
							<EditRule
								label="Wind"
								value={water.windMs ?? 0}
								unit="m/s"
								min={0.5}
								max={35}
								step={0.5}
								digits={1}
								logarithmic
								edit={(windMs) => ({ name: "water.set", windMs })}
								says={seaWords(water)}
							/>
							<EditRule
								label="Blows over"
								value={water.fetchM ?? USUAL_FETCH_M}
								unit="m"
								min={10}
								max={1_000_000}
								digits={0}
								logarithmic
								edit={(fetchM) => ({ name: "water.set", fetchM })}
							/>
						</>
					) : (
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
					)}
					<NumberLine
						label="They run towards"
						value={water.headingDeg ?? RIPPLES.headingDeg}
						unit="°"
						min={-360}
						max={360}
						step={5}
						digits={0}
						onCommit={(headingDeg) => commit({ name: "water.set", headingDeg })}
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
		</>
	);
}
