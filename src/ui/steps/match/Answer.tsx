"use client";
/** What the lines tell of the camera, how sure it is, and what checks it. */
import { Act, Choice, NumberLine, YesNo } from "../../parts/controls.tsx";
import { type Matched, type MatchResult, matchImage, matchMoves } from "../../reference/match.ts";
import { useShot, useShown } from "../../store/shotStore.ts";
import { useStudioOf } from "../../store/studio.ts";

/** What a lens would be in place of the one that stands; a difference that the figures would not show is said to be none. */
const lensWords = (would: number, now: number): string =>
	Math.abs(would - now) < 0.05
		? "stays as it is"
		: `would be ${would.toFixed(Math.abs(would - now) < 1 ? 1 : 0)} instead of ${now.toFixed(Math.abs(would - now) < 1 ? 1 : 0)} mm`;

/** One standard deviation in words: what was taken for granted has none, and one below the last digit says so. */
const spread = (sd: number, digits: number, unit = ""): string =>
	sd === 0 ? "as taken" : sd < 0.5 * 10 ** -digits ? `± < ${10 ** -digits}${unit}` : `± ${sd.toFixed(digits)}${unit}`;

/** Which line pulls hardest, or does not belong, in words of the drawing. */
function Influence({ match }: { match: Matched }) {
	const { match: m } = useShown();
	const { commit } = useShot.getState();
	const number = (id: string) => m.lines.findIndex((l) => l.id === id) + 1;
	const focal = match.solution.focalMm;
	if (match.wrong) {
		const other = match.without.get(match.wrong);
		return (
			<p className="flex flex-wrap items-baseline gap-x-2 pt-1 text-small" role="status">
				<span>
					Line {number(match.wrong)} does not belong with the rest{m.allCount ? "" : " and does not count"}.
					{other !== undefined && ` ${m.allCount ? "Without" : "With"} it the lens ${lensWords(other, focal)}.`}
				</span>
				<button
					type="button"
					className="underline underline-offset-4"
					onClick={() => commit({ name: "match.set", allCount: !m.allCount })}
				>
					{m.allCount ? "Leave it out" : "Count it in"}
				</button>
			</p>
		);
	}
	let hardest: { id: string; focal: number } | null = null;
	for (const [id, f] of match.without)
		if (!hardest || Math.abs(Math.log(f / focal)) > Math.abs(Math.log(hardest.focal / focal)))
			hardest = { id, focal: f };
	if (!hardest || Math.abs(hardest.focal - focal) < 0.5) return null;
	return (
		<p className="pt-1 text-second text-small">
			Line {number(hardest.id)} pulls hardest: without it the lens {lensWords(hardest.focal, focal)}.
		</p>
	);
}

export function Answer({ match }: { match: MatchResult | null }) {
	const doc = useShown();
	const { commit } = useShot.getState();
	const { placingStaff, staff, staffKind, plumb, frameSize, set } = useStudioOf(
		"placingStaff",
		"staff",
		"staffKind",
		"plumb",
		"frameSize",
		"set",
	);
	if (!match || (!match.ok && match.empty)) return null;
	if (!match.ok)
		return (
			<div role="status" className="my-2 border-madder border-l-4 pl-2 text-small">
				{match.message}{" "}
				{doc.match.allCount && (
					<button
						type="button"
						className="underline underline-offset-4"
						onClick={() => commit({ name: "match.set", allCount: false })}
					>
						Leave out what does not belong
					</button>
				)}
			</div>
		);
	const s = match.solution;
	const image = matchImage(doc);
	const horizon = 100 - ((s.horizon.yLeft + s.horizon.yRight) / 2 / image.height) * 100;
	const three = ["along", "across", "upright"].every(
		(a) => doc.match.lines.filter((l) => l.axis === a && !l.out).length >= 2,
	);
	const moves = matchMoves(doc, match, frameSize.width);
	const row = (name: string, value: string, sd: string) => (
		<div className="flex items-baseline justify-between border-hair border-b py-[3px]">
			<dt className="text-second text-small">{name}</dt>
			<dd>
				<b className="font-semibold">{value}</b>
				<span className="ml-2 inline-block min-w-16 text-right text-second text-small">{sd}</span>
			</dd>
		</div>
	);
	return (
		<div className="pt-3">
			<dl
				data-testid="match-answer"
				data-focal={s.focalMm}
				data-focal-sd={s.focalMmSd}
				data-pitch={s.pitchDeg}
				data-pitch-sd={s.pitchDegSd}
				data-heading={s.headingDeg}
				data-heading-sd={s.headingDegSd}
			>
				{row("Focal length", `${s.focalMm.toFixed(1)} mm`, spread(s.focalMmSd, 1))}
				{row("Tilt", `${Math.abs(s.pitchDeg).toFixed(1)}° ${s.pitchDeg >= 0 ? "up" : "down"}`, spread(s.pitchDegSd, 2))}
				{row("Roll", `${Math.abs(s.rollDeg) < 0.05 ? "0.0" : s.rollDeg.toFixed(1)}°`, spread(s.rollDegSd, 2))}
				{row("Heading", `${s.headingDeg.toFixed(1)}°`, spread(s.headingDegSd, 2))}
				{row(
					"Horizon",
					`${horizon.toFixed(1)} %`,
					spread((100 * s.pitchDegSd * (s.focalMm / doc.camera.film.widthMm) * match.ratio * Math.PI) / 180, 1),
				)}
				{s.eyeHeightM !== undefined &&
					row("Eye height, from known sizes", `${s.eyeHeightM.toFixed(2)} m`, spread(s.eyeHeightMSd ?? 0, 2))}
				{doc.match.centre === "solved" &&
					row(
						"Picture's centre",
						`${Math.round(s.principalPoint[0])}, ${Math.round(s.principalPoint[1])} px`,
						spread(Math.max(...s.principalPointSd), 0, " px"),
					)}
			</dl>
			<Influence match={match} />
			{s.warnings.map((w) => (
				<p key={w} className="pt-1 text-small">
					{w}
				</p>
			))}
			{s.advice && <p className="pt-1 text-second text-small">{s.advice}</p>}
			{(three || doc.match.centre === "solved") && (
				<div className="flex items-center justify-between gap-2 pt-1">
					<span className="text-second text-small">Centre of the lens</span>
					<Choice
						small
						label="Centre of the lens"
						options={["middle", "solved"] as const}
						value={doc.match.centre ?? "middle"}
						onPick={(centre) => commit({ name: "match.set", centre })}
					/>
				</div>
			)}
			{s.eyeHeightM === undefined && (
				<NumberLine
					label="Eye height"
					value={doc.match.eyeHeightM}
					unit="m"
					min={0.01}
					max={10000}
					step={0.05}
					onCommit={(eyeHeightM) => commit({ name: "match.setEyeHeight", eyeHeightM })}
				/>
			)}
			<div className="flex items-center justify-between pt-1">
				<span className="text-second text-small">Check by</span>
				<Choice
					small
					label="What is set to check it"
					options={["staff", "door across", "door along"] as const}
					value={staffKind}
					onPick={(kind) => set({ staffKind: kind })}
				/>
			</div>
			<div className="flex items-center justify-between pt-1">
				<span className="text-second text-small">
					{placingStaff
						? "Click its foot in the frame."
						: staffKind === "staff"
							? "A 4 m staff on a spot"
							: "A door of 0.9 × 2.1 m on a spot"}
				</span>
				<Act onClick={() => set({ placingStaff: !placingStaff, ...(staff && !placingStaff ? { staff: null } : {}) })}>
					{placingStaff ? "Leave" : staff ? "Set again" : staffKind === "staff" ? "Set a staff" : "Set a door"}
				</Act>
			</div>
			<YesNo label="Plumb lines" value={plumb} yes="shown" no="none" onPick={(on) => set({ plumb: on })} />
			{moves && (
				<p className="pt-1 text-small" data-testid="match-moves">
					Taking it moves {moves.all === 1 ? "one piece" : `${moves.all} pieces`} in the frame; {moves.name} by{" "}
					{Math.round(moves.px)} px.
				</p>
			)}
		</div>
	);
}
