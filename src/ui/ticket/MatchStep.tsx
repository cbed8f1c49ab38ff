"use client";
/** Match: lines and what they tell, or the lens by hand. */
import clsx from "clsx";
import type { MatchAxis } from "../../core/doc/schema.ts";
import { blurMm, focusDistanceM, frameOfView, horizonPercent } from "../../core/lens/camera.ts";
import { type MatchResult, matchedCamera } from "../match.ts";
import { Act, Choice, NumberLine, YesNo } from "../parts/controls.tsx";
import { useShot, useShown } from "../store/shotStore.ts";
import { useStudio } from "../store/studio.ts";

const AXES: { axis: MatchAxis; word: string }[] = [
	{ axis: "along", word: "Along" },
	{ axis: "across", word: "Across" },
	{ axis: "upright", word: "Upright" },
];
const RATIOS: Record<string, number> = { "1:1": 1, "4:5": 0.8, "4:3": 4 / 3, "16:9": 16 / 9, "1.85": 1.85, "2.39": 2.39 };
const BACKS: Record<string, { widthMm: number; heightMm: number }> = {
	"36 × 24": { widthMm: 36, heightMm: 24 },
	"24 × 16": { widthMm: 24, heightMm: 16 },
	"44 × 33": { widthMm: 44, heightMm: 33 },
};

export function takeMatch(match: MatchResult | null): void {
	if (!match?.ok) return;
	const { document, commit } = useShot.getState();
	const { film } = document.camera;
	const pose = matchedCamera(document, match);
	// The picture spans the film's width: a back too low for its ratio would crop the sides, so the ratio rules the height.
	const higher = pose.ratio < film.widthMm / film.heightMm ? { film: { widthMm: film.widthMm, heightMm: film.widthMm / pose.ratio } } : {};
	if (commit({ name: "camera.take", ...pose, ...higher })) useStudio.getState().set({ step: "Mass", staff: null, zoom: { k: 1, x: 0.5, y: 0.5 } });
}

export function MatchStep({ match }: { match: MatchResult | null }) {
	const doc = useShown();
	const { commit } = useShot.getState();
	if (doc.camera.locked)
		return (
			<div>
				<p className="pb-2 text-second text-small">The camera is locked: no looking around moves it.</p>
				<LensByHand locked />
				<div className="pt-2">
					<Act onClick={() => commit({ name: "camera.setLocked", locked: false })}>Unlock the camera</Act>
				</div>
			</div>
		);
	return (
		<div>
			<p className="pb-2 text-second text-small">Draw along edges that are parallel in the place. Two lines fix a direction; two directions fix the lens.</p>
			<Directions match={match} />
			<Answer match={match} />
			<LensByHand />
		</div>
	);
}

function Directions({ match }: { match: MatchResult | null }) {
	const doc = useShown();
	const { commit } = useShot.getState();
	const { axis, line, set } = useStudio();
	return (
		<div>
			{AXES.map((a) => {
				const own = doc.match.lines.filter((l) => l.axis === a.axis);
				const residuals = match?.ok ? own.map((l) => match.residual.get(l.id) ?? 0) : [];
				const rms = residuals.length ? Math.sqrt(residuals.reduce((s, r) => s + r * r, 0) / residuals.length) : null;
				return (
					<button
						key={a.axis}
						type="button"
						aria-pressed={axis === a.axis}
						onClick={() => set({ axis: a.axis })}
						className={clsx("flex w-full items-baseline justify-between border-hair border-b py-1 text-left", axis === a.axis && "border-l-[3px] border-l-ink pl-2 font-semibold")}
					>
						<span>{a.word}</span>
						<span className="text-small">
							{own.length === 0 ? "none" : own.length === 1 ? "1 line" : `${own.length} lines`}
							{rms !== null && own.length > 0 && <span className="ml-3">{rms.toFixed(1)} px</span>}
						</span>
					</button>
				);
			})}
			{doc.match.lines.length > 0 && (
				<div className="flex flex-wrap gap-1 pt-2">
					{doc.match.lines.map((l, i) => (
						<button
							key={l.id}
							type="button"
							aria-pressed={line?.id === l.id}
							onClick={() => set({ line: line?.id === l.id ? { id: l.id, end: line.end === 1 ? 2 : 1 } : { id: l.id, end: 1 }, axis: l.axis })}
							className={clsx("rounded-[3px] border border-ink/45 px-1.5 text-small", line?.id === l.id && "bg-ink text-paper")}
							aria-label={`Line ${i + 1}, ${l.axis}${line?.id === l.id ? `, end ${line.end}` : ""}`}
						>
							{i + 1}
						</button>
					))}
					{line && (
						<Act onClick={() => (commit({ name: "match.removeLine", id: line.id }), set({ line: null }))}>Delete line {doc.match.lines.findIndex((l) => l.id === line.id) + 1}</Act>
					)}
				</div>
			)}
			{line && <p className="pt-1 text-second text-small">Arrow keys move end {line.end} by 1 px, with Alt by 0.1 px.</p>}
		</div>
	);
}

function Answer({ match }: { match: MatchResult | null }) {
	const doc = useShown();
	const { commit } = useShot.getState();
	const { placingStaff, staff, set } = useStudio();
	if (!match || (!match.ok && match.empty)) return null;
	if (!match.ok)
		return (
			<p role="status" className="my-2 border-madder border-l-4 pl-2 text-small">
				{match.message}
			</p>
		);
	const s = match.solution;
	const imageHeight = (doc.references.find((r) => r.id === doc.shown.reference)?.widthPx ?? 1920) / match.ratio;
	const horizon = 100 - ((s.horizon.yLeft + s.horizon.yRight) / 2 / imageHeight) * 100;
	const row = (name: string, value: string, sd: string) => (
		<div className="flex items-baseline justify-between border-hair border-b py-[3px]">
			<dt className="text-second text-small">{name}</dt>
			<dd>
				<b className="font-semibold">{value}</b>
				<span className="ml-2 inline-block w-14 text-right text-second text-small">± {sd}</span>
			</dd>
		</div>
	);
	return (
		<div className="pt-3">
			<dl data-testid="match-answer" data-focal={s.focalMm} data-pitch={s.pitchDeg} data-heading={s.headingDeg}>
				{row("Focal length", `${s.focalMm.toFixed(1)} mm`, s.focalMmSd.toFixed(1))}
				{row("Tilt", `${Math.abs(s.pitchDeg).toFixed(1)}° ${s.pitchDeg >= 0 ? "up" : "down"}`, s.pitchDegSd.toFixed(2))}
				{row("Roll", `${Math.abs(s.rollDeg) < 0.05 ? "0.0" : s.rollDeg.toFixed(1)}°`, s.rollDegSd.toFixed(2))}
				{row("Heading", `${s.headingDeg.toFixed(1)}°`, s.headingDegSd.toFixed(2))}
				{row("Horizon", `${horizon.toFixed(1)} %`, ((100 * s.pitchDegSd * (s.focalMm / doc.camera.film.widthMm) * match.ratio * Math.PI) / 180).toFixed(1))}
			</dl>
			{s.warnings.map((w) => (
				<p key={w} className="pt-1 text-small">
					{w}
				</p>
			))}
			<NumberLine
				label="Eye height"
				value={doc.match.eyeHeightM}
				unit="m"
				min={0.01}
				max={10000}
				step={0.05}
				onCommit={(eyeHeightM) => commit({ name: "match.setEyeHeight", eyeHeightM })}
			/>
			<div className="flex items-center justify-between pt-1">
				<span className="text-second text-small">{placingStaff ? "Click the staff's foot in the frame." : "A 4 m staff shows whether it is true."}</span>
				<Act onClick={() => set({ placingStaff: !placingStaff, ...(staff && !placingStaff ? { staff: null } : {}) })}>
					{placingStaff ? "Leave" : staff ? "Set again" : "Set a staff"}
				</Act>
			</div>
		</div>
	);
}

/** Film back, ratio, focal length and place, by number. */
function LensByHand({ locked }: { locked?: boolean }) {
	const doc = useShown();
	const { commit } = useShot.getState();
	const { camera, match } = doc;
	const back = Object.entries(BACKS).find(([, b]) => b.widthMm === camera.film.widthMm)?.[0] ?? null;
	const ratio = Object.entries(RATIOS).find(([, r]) => Math.abs(r - camera.ratio) < 0.005)?.[0] ?? null;
	const horizon = horizonPercent(frameOfView(camera));
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
			<NumberLine label="f-stop" value={camera.fStop} min={0.7} max={64} step={0.5} digits={1} onCommit={(fStop) => commit({ name: "camera.setLens", fStop })} />
			<YesNo
				label="Focus"
				value={camera.focusM === null}
				yes="hyperfocal"
				no="at a distance"
				onPick={(deep) => commit({ name: "camera.setLens", focusM: deep ? null : Math.round(focusDistanceM(camera) * 100) / 100 })}
			/>
			{camera.focusM !== null && (
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
			<NumberLine
				label="Eye height of the lens"
				value={camera.position[1]}
				unit="m"
				min={-1000}
				max={10000}
				step={0.05}
				disabled={locked}
				onCommit={(y) => commit({ name: "camera.place", position: [camera.position[0], y, camera.position[2]] })}
			/>
			<NumberLine
				label="Heading"
				value={camera.headingDeg}
				unit="°"
				min={-360}
				max={360}
				step={1}
				digits={1}
				disabled={locked}
				onCommit={(headingDeg) => commit({ name: "camera.place", headingDeg })}
			/>
			<NumberLine
				label="Tilt"
				value={camera.pitchDeg}
				unit="°"
				min={-89}
				max={89}
				step={0.5}
				digits={1}
				disabled={locked}
				onCommit={(pitchDeg) => commit({ name: "camera.place", pitchDeg })}
				note={Number.isFinite(horizon) ? `horizon ${horizon.toFixed(0)} %` : undefined}
			/>
			<NumberLine
				label="Roll"
				value={camera.rollDeg}
				unit="°"
				min={-180}
				max={180}
				step={0.5}
				digits={1}
				disabled={locked}
				onCommit={(rollDeg) => commit({ name: "camera.place", rollDeg })}
			/>
			{!locked && (
				<>
					<p className="pt-2 pb-1 text-second text-small">Film back, mm</p>
					<Choice label="Film back" options={Object.keys(BACKS)} value={back} onPick={(b) => commit({ name: "camera.setFilm", film: BACKS[b] })} />
					<p className="pt-2 pb-1 text-second text-small">Ratio; the horizontal angle stays where it is wider than the back</p>
					<Choice label="Ratio" options={Object.keys(RATIOS)} value={ratio} onPick={(r) => commit({ name: "camera.setFilm", ratio: RATIOS[r] })} />
					<div className="pt-2">
						<Act onClick={() => commit({ name: "camera.setLocked", locked: true })}>Lock as it stands</Act>
					</div>
				</>
			)}
		</div>
	);
}
