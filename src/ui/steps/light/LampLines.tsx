"use client";
/** Lamps: their list with solo and mute, and all that one of them can be given. */
import clsx from "clsx";
import { useEffect, useRef } from "react";
import { type Lamp, LampKind, LampStrength } from "../../../core/doc/schema.ts";
import { LAMPS } from "../../../core/light/lamp.ts";
import { ownPosition, placesOf } from "../../../core/light/lampPlacing.ts";
import { shining } from "../../../core/light/lamps.ts";
import { Act, Choice, NameLine, NumberLine, Rule, Swatch, YesNo } from "../../parts/controls.tsx";
import { newId } from "../../parts/words.ts";
import { useShot, useShown } from "../../store/shotStore.ts";
import { useStudio, useStudioOf } from "../../store/studio.ts";

const SHORT = { lumen: "lm", candela: "cd", lux: "lx" } as const;

/** Another of the lamp that is worked on, half a metre to the right. */
export function duplicateLamp(): void {
	const { document, commit } = useShot.getState();
	const { lamp: id, set } = useStudio.getState();
	const lamp = document.lamps.find((l) => l.id === id);
	if (!lamp) return;
	const copy = {
		...lamp,
		id: newId(),
		name: `${lamp.name.replace(/ \d+$/, "")} ${document.lamps.length + 1}`.slice(0, 80),
	};
	copy.position = [lamp.position[0] + 0.5, lamp.position[1], lamp.position[2]];
	if (commit({ name: "lamp.add", lamps: [copy] })) set({ lamp: copy.id });
}

export function LampLines() {
	const doc = useShown();
	const { lamp: chosen, placing, set } = useStudioOf("lamp", "placing", "set");
	const commit = useShot((s) => s.commit);
	const open = doc.lamps.find((l) => l.id === chosen) ?? null;
	const lit = new Set(shining(doc.lamps));
	const word = (l: Lamp, part: "solo" | "muted", text: string) => (
		<button
			type="button"
			aria-pressed={l[part]}
			aria-label={`${text} ${l.name}`}
			className={clsx("rounded-[3px] px-1 text-small", l[part] ? "bg-ink text-paper" : "text-second hover:bg-hair/60")}
			onClick={() => commit({ name: "lamp.set", id: l.id, change: { [part]: !l[part] } })}
		>
			{text}
		</button>
	);
	return (
		<div className="mt-3 border-hair border-t pt-2">
			<Choice
				label="Lamp to place"
				options={LampKind.options}
				value={placing}
				onPick={(kind) => set({ placing: placing === kind ? null : kind })}
				small
			/>
			<p className="py-1 text-second text-small">
				{placing
					? "Click a piece or the ground; drag upwards on the ground for the height."
					: doc.lamps.length
						? "Drag a lamp, its foot, its aim in the frame."
						: "No lamp yet. Pick a kind and click in the frame."}
			</p>
			{doc.lamps.map((l) => (
				<div
					key={l.id}
					className={clsx(
						"flex items-baseline gap-1 border-hair border-b py-[3px]",
						l.id === chosen && "border-l-[3px] border-l-ink pl-2",
					)}
				>
					<button
						type="button"
						aria-pressed={l.id === chosen}
						className="min-w-0 flex-1 truncate text-left"
						onClick={() => set({ lamp: l.id === chosen ? null : l.id })}
					>
						<span className={lit.has(l) ? "" : "text-second line-through"}>{l.name}</span>
					</button>
					<span className="text-second text-small">
						{Number(l.strength.value.toPrecision(3)).toLocaleString("en")} {SHORT[l.strength.unit]}
					</span>
					{word(l, "solo", "alone")}
					{word(l, "muted", "left out")}
				</div>
			))}
			{open && <One key={open.id} lamp={open} />}
		</div>
	);
}

function One({ lamp }: { lamp: Lamp }) {
	const doc = useShown();
	const { commit, show } = useShot.getState();
	const { selected, set } = useStudioOf("selected", "set");
	const change = (part: Partial<Omit<Lamp, "id">>) => ({ name: "lamp.set" as const, id: lamp.id, change: part });
	const put = (part: Partial<Omit<Lamp, "id">>) => commit(change(part));
	const { strength, kind } = lamp;
	const { aims, cone, measures, body } = LAMPS[kind];
	const move = (i: 0 | 1 | 2, v: number) => {
		const position: [number, number, number] = [...lamp.position];
		position[i] = i === 2 ? -v : v;
		put({ position });
	};
	const far = { unit: "m", min: -1e5, max: 1e5, step: 0.1 };
	const long = { unit: "m", min: 0.001, max: 1000, step: 0.05 };
	const top = useRef<HTMLDivElement>(null);
	useEffect(() => {
		// Its answer is a promise in newer browsers, which must not be taken for a clean-up.
		void top.current?.scrollIntoView({ block: "nearest" });
	}, []);
	const carrier = doc.pieces.find((p) => p.id === lamp.carriedBy);
	const ready = doc.pieces.find((p) => p.id === selected[0]);
	/** The lamp stays where it is when it changes hands. */
	const give = (carriedBy: string | null) => {
		const world = placesOf(lamp, doc)[0]?.position ?? lamp.position;
		put({ carriedBy, position: ownPosition({ ...lamp, carriedBy }, doc, world) });
	};
	return (
		<div ref={top} className="pt-2">
			<NameLine label="Name of the lamp" name={lamp.name} onCommit={(name) => put({ name })} />
			<Choice label="Kind of the lamp" options={LampKind.options} value={kind} onPick={(k) => put({ kind: k })} small />
			<Rule
				label="Strength"
				value={strength.value}
				unit={SHORT[strength.unit]}
				min={0.1}
				max={1e6}
				logarithmic
				digits={strength.value < 10 ? 1 : 0}
				onPreview={(value) => show(change({ strength: { ...strength, value } }))}
				onCommit={(value) => put({ strength: { ...strength, value } })}
				says={
					strength.unit === "lumen"
						? "All of its light."
						: strength.unit === "lux"
							? `On its axis, ${strength.atM} m away.`
							: "On its axis."
				}
			/>
			<Choice
				label="Unit of the strength"
				options={LampStrength.shape.unit.options}
				value={strength.unit}
				onPick={(unit) => put({ strength: { ...strength, unit } })}
			/>
			{strength.unit === "lux" && (
				<NumberLine
					label="Met at"
					value={strength.atM}
					unit="m"
					min={0.1}
					max={1000}
					onCommit={(atM) => put({ strength: { ...strength, atM } })}
				/>
			)}
			<Rule
				label="Warmth"
				value={lamp.kelvin}
				unit="K"
				min={1000}
				max={12_000}
				logarithmic
				digits={0}
				onPreview={(v) => show(change({ kelvin: v }))}
				onCommit={(v) => put({ kelvin: v })}
				says={warmth(lamp.kelvin)}
			/>
			<Swatch
				label="Filter"
				value={lamp.filter}
				onPreview={(filter) => show(change({ filter }))}
				onCommit={(filter) => put({ filter })}
			/>
			<div className="grid grid-cols-2 gap-x-3">
				<NumberLine label="Right" value={lamp.position[0]} {...far} onCommit={(v) => move(0, v)} />
				{measures === 1 ? (
					<NumberLine label="Across" value={lamp.sizeM[0]} {...long} onCommit={(v) => put({ sizeM: [v, v] })} />
				) : measures === 2 ? (
					<NumberLine
						label="Width"
						value={lamp.sizeM[0]}
						{...long}
						onCommit={(v) => put({ sizeM: [v, lamp.sizeM[1]] })}
					/>
				) : (
					<span />
				)}
				<NumberLine label="Away" value={-lamp.position[2]} {...far} onCommit={(v) => move(2, v)} />
				{measures === 2 ? (
					<NumberLine
						label="Height"
						value={lamp.sizeM[1]}
						{...long}
						onCommit={(v) => put({ sizeM: [lamp.sizeM[0], v] })}
					/>
				) : (
					<span />
				)}
				<NumberLine label="Up" value={lamp.position[1]} {...far} onCommit={(v) => move(1, v)} />
				<span />
				{aims && (
					<NumberLine
						label="Heading"
						value={lamp.headingDeg}
						unit="°"
						min={-360}
						max={360}
						step={1}
						digits={1}
						onCommit={(headingDeg) => put({ headingDeg })}
					/>
				)}
				{aims && (
					<NumberLine
						label="Pitch"
						value={lamp.pitchDeg}
						unit="°"
						min={-90}
						max={90}
						step={1}
						digits={1}
						onCommit={(pitchDeg) => put({ pitchDeg })}
					/>
				)}
				{cone && (
					<NumberLine
						label="Cone"
						value={lamp.coneDeg}
						unit="°"
						min={1}
						max={178}
						step={1}
						digits={1}
						onCommit={(coneDeg) => put({ coneDeg })}
					/>
				)}
				{cone && (
					<NumberLine
						label="Fades"
						value={lamp.softness * 100}
						unit="%"
						min={0}
						max={100}
						step={5}
						digits={0}
						onCommit={(v) => put({ softness: v / 100 })}
					/>
				)}
			</div>
			{carrier ? (
				<div className="flex items-baseline justify-between py-[3px]">
					<span className="min-w-0 truncate text-second text-small">Carried by {carrier.name}</span>
					<Act onClick={() => give(null)}>Let go</Act>
				</div>
			) : (
				<>
					<YesNo
						label="Up counts from"
						value={lamp.stands === "ground"}
						yes="the ground"
						no="level zero"
						onPick={(v) => {
							const world = placesOf(lamp, doc)[0]?.position ?? lamp.position;
							const stands = v ? "ground" : "level";
							put({ stands, position: ownPosition({ ...lamp, stands }, doc, world) });
						}}
					/>
					<Carriers onPick={give} first={ready?.id} />
				</>
			)}
			{body && (
				<YesNo label="The lamp itself is" value={lamp.seen} yes="seen" no="not seen" onPick={(seen) => put({ seen })} />
			)}
			<div className="flex gap-2 pt-1">
				<Act onClick={duplicateLamp}>Another</Act>
				<Act onClick={() => commit({ name: "lamp.remove", id: lamp.id }) && set({ lamp: null })}>Delete</Act>
			</div>
		</div>
	);
}

/** Pieces that may carry the lamp, nearest first. */
function Carriers({ onPick, first }: { onPick: (id: string) => void; first?: string }) {
	const doc = useShown();
	const pieces = [...doc.pieces]
		.sort((a, b) => Number(b.id === first) - Number(a.id === first) || a.name.localeCompare(b.name))
		.slice(0, 500);
	return (
		<label className="flex items-baseline justify-between gap-2 py-[3px]">
			<span className="shrink-0 text-second text-small">Carried by</span>
			<select
				aria-label="Piece that carries the lamp"
				className="min-w-0 max-w-[9rem] truncate border-transparent border-b bg-transparent font-semibold hover:border-hair"
				value=""
				onChange={(e) => e.target.value && onPick(e.target.value)}
			>
				<option value="">nothing</option>
				{pieces.map((p) => (
					<option key={p.id} value={p.id}>
						{p.name}
					</option>
				))}
			</select>
		</label>
	);
}

const warmth = (kelvin: number): string =>
	kelvin < 2100
		? "A candle, embers."
		: kelvin < 3300
			? "A filament lamp."
			: kelvin < 4500
				? "Moonlit white."
				: kelvin < 7000
					? "Daylight."
					: "Open shade, blue sky.";
