"use client";
/** Match: what is drawn and what it tells, cameras kept, or the lens by hand. */
import clsx from "clsx";
import { useState } from "react";
import { BEND_LIMITS, bendSteps } from "../../../core/brief/copies.ts";
import { plainLook } from "../../../core/doc/look.ts";
import { type MatchAxis, MOST_BEND, type Reference } from "../../../core/doc/schema.ts";
import { characterOf, handedBend } from "../../../core/lens/character.ts";
import { Act, Choice, NumberLine } from "../../parts/controls.tsx";
import { newId } from "../../parts/words.ts";
import { askFamilies, askFit, leaveSearch } from "../../reference/edgeClient.ts";
import { useMatchResult } from "../../reference/MatchResult.tsx";
import { type MatchResult, matchedCamera, matchImage, matchLoses, matchReference } from "../../reference/match.ts";
import { Candidates } from "../../sheet/Candidates.tsx";
import { useShot, useShown } from "../../store/shotStore.ts";
import { type MatchTool, useStudio, useStudioOf } from "../../store/studio.ts";
import { Answer } from "./Answer.tsx";
import { LensByHand } from "./LensByHand.tsx";

const AXES: { axis: MatchAxis; word: string }[] = [
	{ axis: "along", word: "Along" },
	{ axis: "across", word: "Across" },
	{ axis: "upright", word: "Upright" },
];
const TOOLS: { tool: Exclude<MatchTool, "line">; word: string; how: string }[] = [
	{ tool: "height", word: "Known height", how: "Drag from the foot to the top of something upright on the ground." },
	{ tool: "length", word: "Known length", how: "Drag between two places of level ground." },
	{
		tool: "circle",
		word: "Circle",
		how: "Drag from one side of a wheel, well or arch to the other, then draw its handles to the rim.",
	},
	{
		tool: "curve",
		word: "Bent edge",
		how: "Drag from end to end of an edge that is straight in the place, then draw its middle onto it.",
	},
];

export function takeMatch(match: MatchResult | null): void {
	if (!match?.ok) return;
	const { document, commit, say } = useShot.getState();
	const { film } = document.camera;
	const pose = matchedCamera(document, match);
	const lost = matchLoses(document, match);
	// The picture spans the film's width: a back too low for its ratio would crop the sides, so the ratio rules the height.
	const higher =
		pose.ratio < film.widthMm / film.heightMm
			? { film: { widthMm: film.widthMm, heightMm: film.widthMm / pose.ratio } }
			: {};
	if (!commit({ name: "camera.take", ...pose, ...higher })) return;
	useStudio.getState().set({ step: "Mass", staff: null, zoom: { k: 1, x: 0.5, y: 0.5 } });
	if (lost.length)
		say(
			`Out of the frame now: ${lost.slice(0, 3).join(", ")}${lost.length > 3 ? ` and ${lost.length - 3} more` : ""}. In the plan they can be drawn back in.`,
		);
}

export function MatchBody() {
	const doc = useShown();
	const match = useMatchResult();
	const { commit } = useShot.getState();
	if (doc.camera.locked)
		return (
			<div>
				<p className="pb-2 text-second text-small">The camera is locked: no looking around moves it.</p>
				<LensByHand locked />
				<Candidates />
				<div className="pt-2">
					<Act onClick={() => commit({ name: "camera.setLocked", locked: false })}>Unlock the camera</Act>
				</div>
			</div>
		);
	return (
		<div>
			<p className="pb-2 text-second text-small">
				Draw along edges that are parallel in the place. Two lines fix a direction; two directions fix the lens.
			</p>
			<Directions match={match} />
			<Finding />
			<Marks match={match} />
			<Answer match={match} />
			<Candidates />
			<LensByHand />
		</div>
	);
}

function Directions({ match }: { match: MatchResult | null }) {
	const doc = useShown();
	const { commit } = useShot.getState();
	const { axis, line, tool, set } = useStudioOf("axis", "line", "tool", "set");
	const chosen = doc.match.lines.find((l) => l.id === line?.id);
	return (
		<div>
			{AXES.map((a) => {
				const own = doc.match.lines.filter((l) => l.axis === a.axis);
				const residuals = match?.ok
					? own.filter((l) => !l.out && l.id !== match.wrong).map((l) => match.residual.get(l.id) ?? 0)
					: [];
				const rms = residuals.length ? Math.sqrt(residuals.reduce((s, r) => s + r * r, 0) / residuals.length) : null;
				const on = axis === a.axis && tool === "line";
				return (
					<button
						key={a.axis}
						type="button"
						aria-pressed={on}
						onClick={() => set({ axis: a.axis, tool: "line" })}
						className={clsx(
							"flex w-full items-baseline justify-between border-hair border-b py-1 text-left",
							on && "border-l-[3px] border-l-ink pl-2 font-semibold",
						)}
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
							onClick={() =>
								set({
									line: { id: l.id, end: line?.id === l.id && line.end === 1 ? 2 : 1, held: true },
									tool: "line",
									mark: null,
								})
							}
							className={clsx(
								"rounded-[3px] border border-ink/45 px-1.5 text-small",
								line?.id === l.id && "bg-ink text-paper",
								l.out && "line-through",
							)}
							aria-label={`Line ${i + 1}, ${l.axis}${l.out ? ", left out" : ""}${line?.id === l.id ? `, end ${line.end}` : ""}`}
						>
							{i + 1}
						</button>
					))}
				</div>
			)}
			{line && chosen && (
				<>
					<div className="flex flex-wrap gap-1 pt-2">
						<FitLine
							segment={[chosen.x1, chosen.y1, chosen.x2, chosen.y2]}
							onFit={([x1, y1, x2, y2]) => commit({ name: "match.changeLine", line: { ...chosen, x1, y1, x2, y2 } })}
						/>
						<Act onClick={() => commit({ name: "match.changeLine", line: { ...chosen, out: !chosen.out } })}>
							{chosen.out ? "Count it in" : "Leave it out"}
						</Act>
						<Act onClick={() => (commit({ name: "match.removeLine", id: line.id }), set({ line: null }))}>
							Delete line {doc.match.lines.indexOf(chosen) + 1}
						</Act>
					</div>
					<p className="pt-1 text-second text-small">Arrow keys move end {line.end} by 1 px, with Alt by 0.1 px.</p>
				</>
			)}
		</div>
	);
}

/** Lays a line on the edge in the picture that it lies along. */
function FitLine({
	segment,
	onFit,
}: {
	segment: [number, number, number, number];
	onFit: (s: readonly [number, number, number, number]) => void;
}) {
	const [busy, setBusy] = useState(false);
	const lay = async () => {
		const { say, document: doc } = useShot.getState();
		const reference = matchReference(doc);
		if (!reference) return say("There is no reference to find the edge in. Show one over the frame.");
		setBusy(true);
		try {
			const fitted = await askFit(reference, segment, Math.max(4, matchImage(doc).width / 160));
			if (fitted) onFit(fitted.segment);
			else say("No edge lies along this line. Draw it nearer to one, or leave it as it is.");
		} catch (error) {
			say((error as Error).message);
		} finally {
			setBusy(false);
		}
	};
	return (
		<Act disabled={busy} onClick={() => void lay()}>
			{busy ? "Fitting" : "Fit to the edge"}
		</Act>
	);
}

/** Edges found in the picture, each family taken or refused by a click. */
function Finding() {
	const { proposals, set } = useStudioOf("proposals", "set");
	const { commit, say } = useShot.getState();
	const lines = useShown().match.lines;
	const [busy, setBusy] = useState(false);
	const find = async () => {
		const reference = matchReference(useShot.getState().document);
		if (!reference) return say("There is no reference to find edges in. Show one over the frame.");
		setBusy(true);
		try {
			const families = await askFamilies(reference);
			set({ proposals: families });
			if (families.length === 0) say("No converging edges were found in this picture. Draw them by hand.");
		} catch (error) {
			say((error as Error).message);
		} finally {
			setBusy(false);
		}
	};
	const away = (id: string) => {
		const rest = useStudio.getState().proposals?.filter((f) => f.id !== id) ?? [];
		set({ proposals: rest.length ? rest : null, proposalOver: null });
	};
	if (busy)
		return (
			<div className="flex items-baseline justify-between pt-2">
				<p role="status" className="text-small">
					Looking for edges in the picture
				</p>
				<Act onClick={leaveSearch}>Leave</Act>
			</div>
		);
	if (!proposals)
		return (
			<div className="pt-2">
				<Act onClick={() => void find()}>Find converging edges</Act>
			</div>
		);
	return (
		<div className="pt-2" data-testid="proposals">
			<p className="text-second text-small">Found in the picture. Take what is parallel in the place.</p>
			{proposals.map((f, i) => (
				<div
					key={f.id}
					className="flex items-center justify-between gap-2 border-hair border-b py-1"
					onPointerEnter={() => set({ proposalOver: i })}
					onPointerLeave={() => set({ proposalOver: null })}
				>
					<span className="whitespace-nowrap text-small">
						Family {i + 1}, {f.count}
					</span>
					<span className="flex gap-1">
						<select
							aria-label={`Direction of family ${i + 1}`}
							className="rounded-[3px] border border-ink/45 bg-paper text-small"
							value={f.axis}
							onChange={(e) =>
								set({
									proposals: proposals.map((p) => (p.id === f.id ? { ...p, axis: e.target.value as MatchAxis } : p)),
								})
							}
						>
							{AXES.map((a) => (
								<option key={a.axis} value={a.axis}>
									{a.axis}
								</option>
							))}
						</select>
						<Act
							onClick={() => {
								const made = f.segments
									.slice(0, 200 - lines.length)
									.map(([x1, y1, x2, y2]) => ({ id: newId(), axis: f.axis, x1, y1, x2, y2 }));
								if (made.length && commit({ name: "match.addLines", lines: made })) away(f.id);
							}}
						>
							Take
						</Act>
						<Act onClick={() => away(f.id)}>Refuse</Act>
					</span>
				</div>
			))}
		</div>
	);
}

/** Known sizes, circles, horizon and the picture's centre. */
function Marks({ match }: { match: MatchResult | null }) {
	const { match: m, camera, ...doc } = useShown();
	const { commit, say } = useShot.getState();
	const { tool, mark, set } = useStudioOf("tool", "mark", "set");
	const image = matchImage({ match: m, camera, ...doc });
	const drag = () => {
		const at = match?.ok ? match.solution.horizon : { yLeft: image.height * 0.55, yRight: image.height * 0.55 };
		commit({ name: "match.setHorizon", horizon: at });
	};
	const bend = match?.ok ? match.solution.bend : undefined;
	const reference = matchReference({ match: m, camera, ...doc });
	const handed = bend?.k ?? reference?.look?.bend ?? 0;
	const handOn = () => {
		const k = handedBend(camera, image.width / image.height, handed);
		if (Math.abs(k) > MOST_BEND) return say(`The print bends by ${100 * MOST_BEND} % at most.`);
		commit({ name: "finish.set", lens: { ...characterOf(doc.finish), bend: Number(k.toFixed(5)) } });
		if (reference?.look?.bend) straighten(reference, null);
	};
	const straighten = ({ id, look = plainLook() }: Reference, k: number | null) => {
		const { bend: before = 0, ...rest } = look;
		const all = k === null ? 0 : Math.min(BEND_LIMITS.high, Math.max(BEND_LIMITS.low, bendSteps(before + k))) / 1e4;
		commit({ name: "reference.setLook", id, look: all ? { ...rest, bend: all } : rest });
	};
	return (
		<div className="pt-2">
			<div className="flex flex-wrap gap-1">
				{TOOLS.map((t) => (
					<button
						key={t.tool}
						type="button"
						aria-pressed={tool === t.tool}
						title={t.how}
						onClick={() => set({ tool: tool === t.tool ? "line" : t.tool, line: null })}
						className={clsx(
							"rounded-[5px] border border-ink/45 px-2 py-[3px] text-small",
							tool === t.tool ? "bg-ink text-paper" : "bg-paper hover:bg-hair/40",
						)}
					>
						{t.word}
					</button>
				))}
				<Act onClick={() => (m.horizon ? commit({ name: "match.setHorizon", horizon: null }) : drag())}>
					{m.horizon ? "Leave the horizon" : "Drag a horizon"}
				</Act>
			</div>
			{tool !== "line" && <p className="pt-1 text-second text-small">{TOOLS.find((t) => t.tool === tool)?.how}</p>}
			{(m.measures ?? []).map((x, i) => (
				<div
					key={x.id}
					className={clsx("flex items-baseline gap-2", mark === x.id && "border-l-[3px] border-l-ink pl-2")}
				>
					<div className="flex-1">
						<NumberLine
							label={`${x.kind === "height" ? "Height" : "Length"} ${i + 1}`}
							value={x.metres}
							unit="m"
							min={0.01}
							max={10000}
							step={0.05}
							onCommit={(metres) => commit({ name: "match.putMeasure", measure: { ...x, metres } })}
							note={
								match?.ok && Math.abs((match.measured.get(x.id) ?? x.metres) / x.metres - 1) > 0.005
									? `here ${match.measured.get(x.id)?.toFixed(2)}`
									: undefined
							}
						/>
					</div>
					<button
						type="button"
						className="text-second text-small underline"
						aria-label={`Delete ${x.kind} ${i + 1}`}
						onClick={() => commit({ name: "match.removeMark", id: x.id })}
					>
						delete
					</button>
				</div>
			))}
			{(m.curves ?? []).map((c, i) => (
				<div
					key={c.id}
					className={clsx(
						"flex items-baseline justify-between gap-2 py-[3px]",
						mark === c.id && "border-l-[3px] border-l-ink pl-2",
					)}
				>
					<span className="text-second text-small">Bent edge {i + 1}</span>
					{bend && <span className="text-small">straight to {(bend.residualsPx[i] ?? 0).toFixed(1)} px</span>}
					<button
						type="button"
						className="text-second text-small underline"
						aria-label={`Delete bent edge ${i + 1}`}
						onClick={() => commit({ name: "match.removeMark", id: c.id })}
					>
						delete
					</button>
				</div>
			))}
			{bend && (
				<p className="flex flex-wrap items-baseline gap-x-2 text-small">
					The lens bends {bend.k < 0 ? "outwards, like a barrel" : "inwards, like a cushion"}:{" "}
					{(100 * Math.abs(bend.k)).toFixed(1)} ± {(100 * bend.kSd).toFixed(1)} % at the corners.
					{reference && !reference.look?.crop && Math.abs(bend.k) > bend.kSd && (
						<button
							type="button"
							className="underline underline-offset-4"
							onClick={() => straighten(reference, bend.k)}
						>
							Straighten the picture
						</button>
					)}
					{reference?.look?.crop && <span className="text-second">Without its crop it could be straightened.</span>}
				</p>
			)}
			{reference?.look?.bend !== undefined && (
				<p className="flex items-baseline justify-between text-small">
					<span className="text-second">Straightened by {(100 * Math.abs(reference.look.bend)).toFixed(1)} %</span>
					<button type="button" className="underline underline-offset-4" onClick={() => straighten(reference, null)}>
						As it came
					</button>
				</p>
			)}
			{handed !== 0 && (
				<p className="flex items-baseline justify-between gap-2 text-small">
					<span className="text-second">
						{doc.finish.lens?.bend
							? `The print bends by ${(100 * Math.abs(doc.finish.lens.bend)).toFixed(1)} %`
							: "The print is straight"}
					</span>
					<button type="button" className="underline underline-offset-4" onClick={handOn}>
						Bend the print so
					</button>
				</p>
			)}
			{(m.circles ?? []).map((c, i) => (
				<div
					key={c.id}
					className={clsx(
						"flex items-center justify-between gap-2 py-[3px]",
						mark === c.id && "border-l-[3px] border-l-ink pl-2",
					)}
				>
					<span className="text-second text-small">Circle {i + 1}</span>
					<Choice
						small
						label={`Circle ${i + 1} lies`}
						options={["ground", "along", "across"] as const}
						value={c.plane}
						onPick={(plane) => commit({ name: "match.putCircle", circle: { ...c, plane } })}
					/>
					<button
						type="button"
						className="text-second text-small underline"
						aria-label={`Delete circle ${i + 1}`}
						onClick={() => commit({ name: "match.removeMark", id: c.id })}
					>
						delete
					</button>
				</div>
			))}
		</div>
	);
}
