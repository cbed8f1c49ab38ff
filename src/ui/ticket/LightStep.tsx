"use client";
/** Light: where the sun stands, the haze and the high cloud, the exposure, and lamps. */
import { usualMoon } from "../../core/doc/defaults.ts";
import { proposeEv } from "../../core/finish/finish.ts";
import { Act, Rule, YesNo } from "../parts/controls.tsx";
import { useShot, useShown } from "../store/shotStore.ts";
import { useStudio } from "../store/studio.ts";
import { LampLines } from "./LampLines.tsx";

interface Place {
	headingDeg: number;
	elevationDeg: number;
}

/** Where sun or moon stands: heading and height. */
function PlaceRules({
	of,
	place,
	onShow,
	onCommit,
	says,
}: {
	of: string;
	place: Place;
	onShow: (p: Partial<Place>) => void;
	onCommit: (p: Partial<Place>) => void;
	says?: string;
}) {
	return (
		<>
			<Rule
				label={`Heading${of}`}
				value={((place.headingDeg % 360) + 360) % 360}
				unit="°"
				min={0}
				max={360}
				step={0.5}
				digits={1}
				onPreview={(headingDeg) => onShow({ headingDeg })}
				onCommit={(headingDeg) => onCommit({ headingDeg })}
			/>
			<Rule
				label={`Height${of}`}
				value={place.elevationDeg}
				unit="°"
				min={-18}
				max={90}
				step={0.1}
				digits={1}
				onPreview={(elevationDeg) => onShow({ elevationDeg })}
				onCommit={(elevationDeg) => onCommit({ elevationDeg })}
				says={says}
			/>
		</>
	);
}

function MoonLines() {
	const { moon, sun } = useShown().air;
	const { commit, show } = useShot.getState();
	const now = moon ?? usualMoon();
	const edit = (change: Partial<typeof now>) => ({ name: "air.setMoon" as const, ...change });
	return (
		<>
			<YesNo label="Moon" value={now.on} yes="up" no="none" onPick={(on) => commit(edit({ on }))} />
			{now.on && (
				<>
					<PlaceRules of=" of the moon" place={now} onShow={(p) => show(edit(p))} onCommit={(p) => commit(edit(p))} />
					<Rule
						label="Lit"
						value={now.lit * 100}
						unit="% of it"
						min={2}
						max={100}
						step={1}
						digits={0}
						onPreview={(v) => show(edit({ lit: v / 100 }))}
						onCommit={(v) => commit(edit({ lit: v / 100 }))}
						says={sun.elevationDeg > -1 ? "It shows once the sun is 1° below the horizon." : undefined}
					/>
				</>
			)}
		</>
	);
}

export function LightStep() {
	const doc = useShown();
	const { commit, show } = useShot.getState();
	const proof = useStudio((s) => s.proof);
	const { sun, haze, cloud } = doc.air;
	const propose = () => {
		if (!proof?.pixels) return;
		const { pixels } = proof;
		const n = proof.width * proof.height;
		const luminance = new Float32Array(n);
		for (let i = 0; i < n; i++) luminance[i] = 0.2126 * pixels[i * 4] + 0.7152 * pixels[i * 4 + 1] + 0.0722 * pixels[i * 4 + 2];
		commit({ name: "camera.setLens", ev100: Math.min(22, Math.max(-10, proposeEv(luminance))) });
	};
	return (
		<div>
			<p className="text-second text-small">Drag the sun in the frame, or on the dial in the plan.</p>
			<PlaceRules
				of=""
				place={sun}
				onShow={(p) => show({ name: "air.setSun", ...p })}
				onCommit={(p) => commit({ name: "air.setSun", ...p })}
				says={sun.elevationDeg > 0.5 ? `Shadows are ${(1 / Math.tan((sun.elevationDeg * Math.PI) / 180)).toFixed(1)} times the height.` : "The sun is below the horizon."}
			/>
			<MoonLines />
			<Rule
				label="Haze of the air"
				value={haze}
				unit="× clear"
				min={0}
				max={12}
				step={0.1}
				digits={1}
				onPreview={(v) => show({ name: "air.setHaze", haze: v })}
				onCommit={(v) => commit({ name: "air.setHaze", haze: v })}
			/>
			<Rule
				label="High thin cloud"
				value={cloud.cover * 100}
				unit="%"
				min={0}
				max={100}
				step={1}
				digits={0}
				onPreview={(v) => show({ name: "air.setCloud", cover: v / 100 })}
				onCommit={(v) => commit({ name: "air.setCloud", cover: v / 100 })}
			/>
			<div className="flex justify-between py-1">
				<span className="text-second text-small">Cloud seed {cloud.seed}</span>
				<Act onClick={() => commit({ name: "air.setCloud", seed: (cloud.seed + 1) % 100000 })}>Another cloud</Act>
			</div>
			<Rule
				label="Exposure"
				value={doc.camera.ev100}
				unit="EV"
				min={-6}
				max={18}
				step={0.1}
				digits={1}
				onPreview={(ev100) => show({ name: "camera.setLens", ev100 })}
				onCommit={(ev100) => commit({ name: "camera.setLens", ev100 })}
			/>
			<Act onClick={propose} disabled={!proof}>
				Propose from the proof
			</Act>
			<LampLines />
		</div>
	);
}
