"use client";
import { useRef } from "react";
import { COARSE_PX, skyEdgeDeg, texelsPerRadian } from "../../../core/air/skyPicture.ts";
/** Light: where the sun stands, the haze and the high cloud, the exposure, and lamps. */
import { luminanceOf } from "../../../core/colour/linear.ts";
import { usualMoon } from "../../../core/doc/defaults.ts";
import type { SkyPicture } from "../../../core/doc/schema.ts";
import { proposeEv } from "../../../core/finish/finish.ts";
import { frameOfView } from "../../../core/lens/camera.ts";
import { Act, Rule, YesNo } from "../../parts/controls.tsx";
import { hangSky } from "../../reference/references.ts";
import { useShot, useShown } from "../../store/shotStore.ts";
import { useStudio } from "../../store/studio.ts";
import { EditRule } from "../EditRule.tsx";
import { ExposureLines } from "./ExposureLines.tsx";
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
					<EditRule
						label="Lit"
						value={now.lit * 100}
						unit="% of it"
						min={2}
						max={100}
						step={1}
						digits={0}
						edit={(v) => edit({ lit: v / 100 })}
						says={sun.elevationDeg > -1 ? "It shows once the sun is 1° below the horizon." : undefined}
					/>
				</>
			)}
		</>
	);
}

/** A picture in place of the sky: hung, turned, and as bright as is wanted. */
function SkyPictureLines() {
	const doc = useShown();
	const { commit } = useShot.getState();
	const hanging = useStudio((s) => s.hanging);
	const dome = useStudio((s) => s.root?.dome ?? null);
	const file = useRef<HTMLInputElement>(null);
	const { picture } = doc.air;
	const edit = (change: Partial<Pick<SkyPicture, "turnDeg" | "lux" | "saturation" | "sun">>) => ({
		name: "air.setPicture" as const,
		...change,
	});
	const view = frameOfView(doc.camera);
	const needed = ((doc.print.widthPx / (2 * view.tanX)) * Math.PI) / 180;
	const has = picture ? (texelsPerRadian(picture) * Math.PI) / 180 : 0;
	const [r, g, b] = dome?.picture?.ownSun ? dome.sunLux : [0, 0, 0];
	const lux = luminanceOf(r, g, b);
	return (
		<>
			<div className="flex items-baseline justify-between pt-2">
				<span className="text-second text-small">Sky picture</span>
				<Act onClick={() => file.current?.click()} disabled={hanging !== null}>
					{picture ? "Hang another" : "Hang one"}
				</Act>
				<input
					ref={file}
					type="file"
					accept=".hdr,.exr,.pic,image/png,image/jpeg,image/webp,image/tiff"
					hidden
					data-testid="pick-sky"
					onChange={(e) => {
						const [picked] = e.target.files ?? [];
						if (picked) void hangSky(picked);
						e.target.value = "";
					}}
				/>
			</div>
			{hanging !== null && (
				<p className="text-small" role="status">
					Reading {hanging} …
				</p>
			)}
			{!picture && hanging === null && (
				<p className="text-second text-small">
					Pick an HDR, EXR or photograph of all directions around, or drop an HDR or EXR on the frame.
				</p>
			)}
			{picture && (
				<>
					<div className="flex items-baseline justify-between">
						<span className="truncate">{picture.name}</span>
						<Act onClick={() => commit({ name: "air.hangPicture", picture: null })}>Take it down</Act>
					</div>
					<p className="text-second text-small">
						{picture.widthPx} × {picture.heightPx}: {has.toFixed(0)} of the {needed.toFixed(0)} px a degree that a print
						of {doc.print.widthPx} px has.
						{skyEdgeDeg(picture) < 90 &&
							` It shows the sky up to ${skyEdgeDeg(picture).toFixed(0)}°; beyond that it goes on in the colour of its edge.`}
						{has * COARSE_PX < needed && " What is seen of it will be soft."}
						{lux > 0 &&
							` Its sun is a true one that gives ${lux.toLocaleString("en", { maximumSignificantDigits: 2 })} lx; drag it to turn the picture.`}
					</p>
					<EditRule
						label="Turn"
						value={((picture.turnDeg % 360) + 360) % 360}
						unit="°"
						min={0}
						max={360}
						step={0.5}
						digits={1}
						edit={(turnDeg) => edit({ turnDeg })}
					/>
					<EditRule
						label="Light on level ground"
						value={picture.lux}
						unit="lx"
						min={0.1}
						max={150_000}
						digits={0}
						logarithmic
						edit={(lux) => edit({ lux })}
					/>
					<EditRule
						label="Colour"
						value={picture.saturation * 100}
						unit="%"
						min={0}
						max={200}
						step={1}
						digits={0}
						edit={(v) => edit({ saturation: v / 100 })}
					/>
					<YesNo
						label={lux > 0 || picture.sun ? "Another sun or moon instead of its own" : "Sun or moon besides"}
						value={picture.sun}
						onPick={(sun) => commit(edit({ sun }))}
					/>
				</>
			)}
		</>
	);
}

export function LightBody() {
	const doc = useShown();
	const { commit, show } = useShot.getState();
	const proof = useStudio((s) => s.proof);
	const { sun, haze, cloud, picture } = doc.air;
	const stands = !picture || picture.sun;
	const propose = () => {
		if (!proof?.pixels) return;
		const { pixels } = proof;
		const n = proof.width * proof.height;
		const luminance = new Float32Array(n);
		for (let i = 0; i < n; i++) luminance[i] = luminanceOf(pixels[i * 4], pixels[i * 4 + 1], pixels[i * 4 + 2]);
		commit({ name: "camera.setLens", ev100: Math.min(22, Math.max(-10, proposeEv(luminance))) });
	};
	return (
		<div>
			{stands && (
				<>
					<p className="text-second text-small">Drag the sun in the frame, or on the dial in the plan.</p>
					<PlaceRules
						of=""
						place={sun}
						onShow={(p) => show({ name: "air.setSun", ...p })}
						onCommit={(p) => commit({ name: "air.setSun", ...p })}
						says={
							sun.elevationDeg > 0.5
								? `Shadows are ${(1 / Math.tan((sun.elevationDeg * Math.PI) / 180)).toFixed(1)} times the height.`
								: "The sun is below the horizon."
						}
					/>
					<MoonLines />
				</>
			)}
			<SkyPictureLines />
			<EditRule
				label="Haze of the air"
				value={haze}
				unit="× clear"
				min={0}
				max={12}
				step={0.1}
				digits={1}
				edit={(v) => ({ name: "air.setHaze", haze: v })}
			/>
			{!picture && (
				<>
					<EditRule
						label="High thin cloud"
						value={cloud.cover * 100}
						unit="%"
						min={0}
						max={100}
						step={1}
						digits={0}
						edit={(v) => ({ name: "air.setCloud", cover: v / 100 })}
					/>
					<div className="flex justify-between py-1">
						<span className="text-second text-small">Cloud seed {cloud.seed}</span>
						<Act onClick={() => commit({ name: "air.setCloud", seed: (cloud.seed + 1) % 100000 })}>Another cloud</Act>
					</div>
				</>
			)}
			<EditRule
				label="Exposure"
				value={doc.camera.ev100}
				unit="EV"
				min={-6}
				max={18}
				step={0.1}
				digits={1}
				edit={(ev100) => ({ name: "camera.setLens", ev100 })}
			/>
			<Act onClick={propose} disabled={!proof}>
				Propose from the proof
			</Act>
			<ExposureLines />
			<LampLines />
		</div>
	);
}
