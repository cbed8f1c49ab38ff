"use client";
/** Repeats of a piece: in a row, a field, a ring, along a line, or facing it; by chance a little unlike each other; single ones apart. */
import type { Edit } from "../../../core/doc/edits.ts";
import {
	corners,
	measuresOf,
	type Piece,
	REPEAT_KINDS,
	type Repeat,
	type RepeatKind,
	type Vary,
} from "../../../core/doc/schema.ts";
import { copiesOf, countOf, withSingle } from "../../../core/shape/copies.ts";
import { setApart } from "../../../core/shape/handPieces.ts";
import { Act, Choice, NumberLine, YesNo } from "../../parts/controls.tsx";
import { newId } from "../../parts/words.ts";
import { useShot } from "../../store/shotStore.ts";
import { useStudioOf } from "../../store/studio.ts";
import { EditRule } from "../EditRule.tsx";

type Of<K extends RepeatKind> = Extract<Repeat, { kind: K }>;

interface Line<K extends RepeatKind> {
	word: string;
	unit?: string;
	range: [number, number];
	get: (r: Of<K>) => number;
	set: (r: Of<K>, v: number) => Of<K>;
}

/** A kind of repeat in the ticket: how it begins about a piece, and its numbers. */
interface Shown<K extends RepeatKind> {
	begin: (piece: Piece) => Of<K>;
	lines: Line<K>[];
}

const FAR: [number, number] = [-1e5, 1e5];
const MANY: [number, number] = [1, 2000];
type Stepped = Of<"row"> | Of<"field">;
const stepRight = {
	word: "Each right",
	unit: "m",
	range: FAR,
	get: (r: Stepped) => r.step[0],
	set: <R extends Stepped>(r: R, v: number): R => ({ ...r, step: [v, r.step[1]] }),
};
const stepAway = {
	word: "Each away",
	unit: "m",
	range: FAR,
	get: (r: Stepped) => r.step[1],
	set: <R extends Stepped>(r: R, v: number): R => ({ ...r, step: [r.step[0], v] }),
};

const apart = (of: number): number => Math.max(0.5, Math.round(of * 200) / 100);

const SHOWN: { [K in RepeatKind]: Shown<K> } = {
	row: {
		begin: ({ size }) => ({ kind: "row", count: 3, step: [0, apart(size[2])] }),
		lines: [
			{ word: "Count", range: MANY, get: (r) => r.count, set: (r, count) => ({ ...r, count }) },
			stepRight,
			stepAway,
		],
	},
	field: {
		begin: ({ size }) => ({ kind: "field", columns: 3, rows: 3, step: [apart(size[0]), apart(size[2])] }),
		lines: [
			{ word: "Columns", range: MANY, get: (r) => r.columns, set: (r, columns) => ({ ...r, columns }) },
			{ word: "Rows", range: MANY, get: (r) => r.rows, set: (r, rows) => ({ ...r, rows }) },
			stepRight,
			stepAway,
		],
	},
	ring: {
		begin: ({ size }) => ({
			kind: "ring",
			count: 8,
			centre: [0, apart(1.5 * Math.max(size[0], size[2]))],
			arcDeg: 360,
			turned: true,
		}),
		lines: [
			{ word: "Count", range: MANY, get: (r) => r.count, set: (r, count) => ({ ...r, count }) },
			{ word: "Round", unit: "°", range: [1, 360], get: (r) => r.arcDeg, set: (r, arcDeg) => ({ ...r, arcDeg }) },
			{
				word: "Middle right",
				unit: "m",
				range: FAR,
				get: (r) => r.centre[0],
				set: (r, v) => ({ ...r, centre: [v, r.centre[1]] }),
			},
			{
				word: "Middle away",
				unit: "m",
				range: FAR,
				get: (r) => r.centre[1],
				set: (r, v) => ({ ...r, centre: [r.centre[0], v] }),
			},
		],
	},
	along: {
		begin: ({ size }) => {
			const far = apart(3 * Math.max(size[0], size[2]));
			const [first, second, third] = corners<[number, number]>([0, 0], [0, far], [far, 2 * far]);
			return { kind: "along", count: 7, points: [first, { ...second, soft: true }, third], turned: true };
		},
		lines: [{ word: "Count", range: MANY, get: (r) => r.count, set: (r, count) => ({ ...r, count }) }],
	},
	facing: {
		begin: ({ size }) => ({ kind: "facing", acrossM: apart(1.5 * size[0]) }),
		lines: [{ word: "Across", unit: "m", range: FAR, get: (r) => r.acrossM, set: (r, acrossM) => ({ ...r, acrossM }) }],
	},
};

const USUAL_CHANCE: Vary = { seed: 1, turnDeg: 8, size: 0.1, drop: 0 };

/** What chance does to the copies, and how many of its units one is shown as. */
const CHANCES: { of: "turnDeg" | "size" | "drop"; label: string; unit: string; max: number; by: number }[] = [
	{ of: "turnDeg", label: "Turned by up to", unit: "°", max: 180, by: 1 },
	{ of: "size", label: "Larger or smaller by up to", unit: "%", max: 90, by: 100 },
	{ of: "drop", label: "Left out", unit: "%", max: 95, by: 100 },
];

const hasSeed = ({ kind }: Piece["shape"]) => measuresOf(kind).some(([, m]) => m.of === "seed");

export function RepeatLines({ piece }: { piece: Piece }) {
	const commit = useShot((s) => s.commit);
	const { copy, set, select } = useStudioOf("copy", "set", "select");
	const { repeat } = piece;
	const edit = (next: Repeat | null): Edit => ({ name: "piece.setRepeat", id: piece.id, repeat: next });
	const lines = repeat ? (SHOWN[repeat.kind].lines as Line<RepeatKind>[]) : [];
	const vary = (change: Partial<Vary>): Repeat => ({
		...(repeat as Repeat),
		vary: { ...USUAL_CHANCE, ...repeat?.vary, ...change },
	});
	const count = countOf(repeat);
	const single = copy?.of === piece.id && copy.copy < count ? copy.copy : null;
	const there = repeat ? copiesOf(repeat).length : 1;
	return (
		<div>
			<div className="py-[3px]">
				<span className="block pb-1 text-second text-small">Repeat</span>
				<Choice
					columns={6}
					label="Repeat"
					options={["single", ...REPEAT_KINDS] as const}
					value={repeat?.kind ?? "single"}
					onPick={(kind) => {
						if (kind === (repeat?.kind ?? "single")) return;
						set({ copy: null });
						if (kind === "single") return commit(edit(null));
						const begun = SHOWN[kind].begin(piece);
						commit(edit(repeat?.vary ? { ...begun, vary: repeat.vary } : begun));
					}}
				/>
			</div>
			{repeat && (
				<>
					<div className="grid grid-cols-2 gap-x-3">
						{lines.map(({ word, unit, range: [min, max], get, set: put }) => (
							<NumberLine
								key={word}
								label={word}
								value={get(repeat)}
								unit={unit}
								min={min}
								max={max}
								step={unit === "m" ? 0.1 : 1}
								digits={unit === "m" ? 2 : 0}
								onCommit={(v) => commit(edit(put(repeat, unit === "m" ? v : Math.round(v))))}
							/>
						))}
					</div>
					{(repeat.kind === "ring" || repeat.kind === "along") && (
						<YesNo
							label="Each"
							value={repeat.turned}
							yes={repeat.kind === "ring" ? "turned as it goes round" : "turned as the line turns"}
							no="looking the same way"
							onPick={(turned) => commit(edit({ ...repeat, turned }))}
						/>
					)}
					<YesNo
						label="Unlike each other"
						value={!!repeat.vary}
						yes="by chance"
						no="all alike"
						onPick={(v) => commit(edit(v ? vary({}) : { ...repeat, vary: undefined }))}
					/>
					{repeat.vary && (
						<>
							{CHANCES.map(({ of, label, unit, max, by }) => (
								<EditRule
									key={of}
									{...{ label, unit, max }}
									value={(repeat.vary?.[of] ?? 0) * by}
									min={0}
									step={1}
									digits={0}
									edit={(v) => edit(vary({ [of]: v / by }))}
								/>
							))}
							{hasSeed(piece.shape) && (
								<NumberLine
									label="Seeds of the shape"
									value={repeat.vary.seeds ?? 1}
									min={1}
									max={12}
									step={1}
									digits={0}
									onCommit={(v) => commit(edit(vary({ seeds: Math.round(v) })))}
								/>
							)}
							<NumberLine
								label="Seed"
								value={repeat.vary.seed}
								min={0}
								max={9999}
								step={1}
								digits={0}
								onCommit={(v) => commit(edit(vary({ seed: Math.round(v) })))}
							/>
						</>
					)}
					{single !== null && <SingleLine {...{ repeat, single, count }} put={(next) => commit(edit(next))} />}
					<div className="flex items-baseline justify-between gap-2 pt-1">
						<span className="text-second text-small">
							{there === count ? `${count} stand there.` : `${there} of ${count} stand there.`}
						</span>
						<Act
							onClick={() => {
								const apart = setApart(piece, newId);
								if (commit(apart)) select(apart.pieces.map((p) => p.id));
							}}
						>
							Set apart
						</Act>
					</div>
				</>
			)}
		</div>
	);
}

/** One of the copies, as it was picked in the frame. */
function SingleLine({
	repeat,
	single,
	count,
	put,
}: {
	repeat: Repeat;
	single: number;
	count: number;
	put: (repeat: Repeat) => void;
}) {
	const own = repeat.singles?.find((s) => s.copy === single);
	return (
		<div className="my-1 border-hair border-y py-1" data-testid="single">
			<p className="text-small">
				Number {single + 1} of {count}
				{own?.out ? ", left out" : own?.by ? ", moved" : ""}
			</p>
			<div className="flex gap-2 pt-1">
				<Act onClick={() => put(withSingle(repeat, { copy: single, out: !own?.out || undefined }))}>
					{own?.out ? "Back in" : "Leave out"}
				</Act>
				<Act disabled={!own?.by} onClick={() => put(withSingle(repeat, { copy: single, by: undefined }))}>
					As the others
				</Act>
			</div>
		</div>
	);
}
