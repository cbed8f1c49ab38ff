"use client";
/** The lens by hand: film back, ratio, focal length and place, by number. */
import type { ComponentProps } from "react";
import type { Edit } from "../../../core/doc/edits.ts";
import type { Camera } from "../../../core/doc/schema.ts";
import { frameOfView, horizonPercent } from "../../../core/lens/camera.ts";
import { Act, Choice, NumberLine } from "../../parts/controls.tsx";
import { useShot, useShown } from "../../store/shotStore.ts";
import { FStopLine } from "../FStopLine.tsx";
import { FocusLines } from "./FocusLines.tsx";
import { RoomLines } from "./RoomLines.tsx";

const RATIOS: Record<string, number> = {
	"1:1": 1,
	"4:5": 0.8,
	"4:3": 4 / 3,
	"16:9": 16 / 9,
	"1.85": 1.85,
	"2.00": 2,
	"2.39": 2.39,
	"9:16": 9 / 16,
};
/** Standard sizes of film and sensors, told by their measures. */
const BACKS: Record<string, Camera["film"]> = Object.fromEntries(
	[
		[13.2, 8.8],
		[17.3, 13],
		[24, 16],
		[24.9, 18.7],
		[36, 24],
		[44, 33],
		[56, 41.5],
		[56, 56],
	].map(([widthMm, heightMm]) => [`${widthMm} × ${heightMm}`, { widthMm, heightMm }]),
);

const same = (a: number, b: number) => Math.abs(a - b) < 0.005;

/** A number of the camera's place, and what placing it otherwise changes. */
interface PlaceLine
	extends Pick<
		ComponentProps<typeof NumberLine>,
		"label" | "value" | "unit" | "min" | "max" | "step" | "digits" | "note"
	> {
	edit: (v: number) => Partial<Pick<Camera, "position" | "headingDeg" | "pitchDeg" | "rollDeg" | "shiftMm">>;
}

/** The camera held level and its film raised instead, so that uprights stay upright and the horizon stays in its place. */
function uprights(camera: Camera): Edit | null {
	const view = frameOfView(camera);
	if (Math.abs(camera.pitchDeg) < 0.05 || camera.rollDeg !== 0) return null;
	const rise = (camera.focalMm * view.middle[1]) / view.up[1];
	return Math.abs(rise) > 200
		? null
		: { name: "camera.place", pitchDeg: 0, shiftMm: [camera.shiftMm?.[0] ?? 0, Math.round(rise * 1000) / 1000] };
}

export function LensByHand({ locked }: { locked?: boolean }) {
	const doc = useShown();
	const { commit } = useShot.getState();
	const { camera, match } = doc;
	const back =
		Object.entries(BACKS).find(
			([, b]) => same(b.widthMm, camera.film.widthMm) && same(b.heightMm, camera.film.heightMm),
		)?.[0] ?? null;
	const ratio = Object.entries(RATIOS).find(([, r]) => Math.abs(r - camera.ratio) < 0.005)?.[0] ?? null;
	const horizon = horizonPercent(frameOfView(camera));
	const [right, rise] = camera.shiftMm ?? [0, 0];
	const straight = uprights(camera);
	const [x, y, z] = camera.position;
	const places: PlaceLine[] = [
		{
			label: "Eye height of the lens",
			value: y,
			unit: "m",
			min: -1000,
			max: 10_000,
			step: 0.05,
			edit: (v) => ({ position: [x, v, z] }),
		},
		{
			label: "Heading",
			value: camera.headingDeg,
			unit: "°",
			min: -360,
			max: 360,
			step: 1,
			digits: 1,
			edit: (headingDeg) => ({ headingDeg }),
		},
		{
			label: "Tilt",
			value: camera.pitchDeg,
			unit: "°",
			min: -89,
			max: 89,
			step: 0.5,
			digits: 1,
			edit: (pitchDeg) => ({ pitchDeg }),
			note: Number.isFinite(horizon) ? `horizon ${horizon.toFixed(0)} %` : undefined,
		},
		{
			label: "Roll",
			value: camera.rollDeg,
			unit: "°",
			min: -180,
			max: 180,
			step: 0.5,
			digits: 1,
			edit: (rollDeg) => ({ rollDeg }),
		},
		{
			label: "Shift to the right",
			value: right,
			unit: "mm",
			min: -200,
			max: 200,
			step: 0.5,
			digits: 1,
			edit: (mm) => ({ shiftMm: [mm, rise] }),
		},
		{
			label: "Rise",
			value: rise,
			unit: "mm",
			min: -200,
			max: 200,
			step: 0.5,
			digits: 1,
			edit: (mm) => ({ shiftMm: [right, mm] }),
		},
	];
	return (
		<div className="pt-3">
			{!locked && (
				<div className="flex items-baseline justify-between py-[3px]">
					<span className="text-second text-small">Lens known beforehand</span>
					{match.focalGivenMm === null ? (
						<Act onClick={() => commit({ name: "match.giveFocal", focalMm: camera.focalMm })}>Give it</Act>
					) : (
						<Act onClick={() => commit({ name: "match.giveFocal", focalMm: null })}>Solve for it</Act>
					)}
				</div>
			)}
			{!locked && match.focalGivenMm !== null && (
				<NumberLine
					label="Given focal length"
					value={match.focalGivenMm}
					unit="mm"
					min={4}
					max={1200}
					step={1}
					digits={1}
					onCommit={(focalMm) => commit({ name: "match.giveFocal", focalMm })}
				/>
			)}
			<NumberLine
				label="Focal length"
				value={camera.focalMm}
				unit="mm"
				min={4}
				max={1200}
				step={1}
				digits={1}
				disabled={locked}
				onCommit={(focalMm) => commit({ name: "camera.setLens", focalMm })}
			/>
			<FStopLine />
			<FocusLines />
			{places.map(({ edit, ...line }) => (
				<NumberLine
					key={line.label}
					{...line}
					disabled={locked}
					onCommit={(v) => commit({ name: "camera.place", ...edit(v) })}
				/>
			))}
			<RoomLines />
			{!locked && straight && (
				<div className="flex items-baseline justify-between py-[3px]">
					<span className="text-second text-small">Level, with the horizon where it is</span>
					<Act onClick={() => commit(straight)}>Make uprights upright</Act>
				</div>
			)}
			{!locked && (
				<>
					<p className="pt-2 pb-1 text-second text-small">Film back, mm</p>
					<Choice
						label="Film back"
						columns={2}
						options={Object.keys(BACKS)}
						value={back}
						onPick={(b) => commit({ name: "camera.setFilm", film: BACKS[b] })}
					/>
					{(["widthMm", "heightMm"] as const).map((side) => (
						<NumberLine
							key={side}
							label={side === "widthMm" ? "Any other, width" : "and height"}
							value={camera.film[side]}
							unit="mm"
							min={side === "widthMm" ? 4 : 3}
							max={100}
							step={0.1}
							onCommit={(mm) => commit({ name: "camera.setFilm", film: { ...camera.film, [side]: mm } })}
						/>
					))}
					<p className="pt-2 pb-1 text-second text-small">
						Ratio: one wider than {(camera.film.widthMm / camera.film.heightMm).toFixed(2)} keeps the width of the view,
						a narrower one its height
					</p>
					<Choice
						label="Ratio"
						columns={4}
						options={Object.keys(RATIOS)}
						value={ratio}
						onPick={(r) => commit({ name: "camera.setFilm", ratio: RATIOS[r] })}
					/>
					<NumberLine
						label="Any other, width over height"
						value={camera.ratio}
						min={0.2}
						max={5}
						step={0.05}
						digits={3}
						onCommit={(ratio) => commit({ name: "camera.setFilm", ratio })}
					/>
					<div className="pt-2">
						<Act onClick={() => commit({ name: "camera.setLocked", locked: true })}>Lock as it stands</Act>
					</div>
				</>
			)}
		</div>
	);
}
