"use client";
/** Drawn shapes in the ticket: how points are set, corners and bows, whether the line closes, whose outline a section has, openings. */
import { newPiece } from "../../../core/doc/defaults.ts";
import { SHAPE_KINDS, type ShapeKind } from "../../../core/doc/schema.ts";
import { type LinePiece, redrawn, setSoft } from "../../../core/shape/handPoints.ts";
import {
	addOpening,
	dropOpening,
	isWall,
	OPENINGS,
	type Opening,
	setOpening,
	type WallPiece,
	wallLength,
} from "../../../core/shape/openings.ts";
import { drawnOf } from "../../../core/shape/shapes.ts";
import { Act, Choice, NumberLine, PickLine, YesNo } from "../../parts/controls.tsx";
import { metres } from "../../parts/words.ts";
import { useShot, useShown } from "../../store/shotStore.ts";
import { useStudioOf } from "../../store/studio.ts";
import { tried } from "./LineMarks.tsx";

/** What is said of a kind while it is drawn. */
const HOW: Partial<Record<ShapeKind, string>> = Object.fromEntries(
	SHAPE_KINDS.flatMap((kind) => {
		const of = drawnOf({ kind });
		if (!of) return [];
		if (of.upright)
			return [[kind, "press where its axis meets the ground, then point by point up its right edge; Enter ends it."]];
		if (of.closed(newPiece("", kind).shape))
			return [[kind, "press its corners one by one; on the first one again, or with Enter, it closes."]];
		return [[kind, "press its points one by one; Enter or two quick presses end it, the first point closes it."]];
	}),
);

/** How the line is drawn that is in hand. */
export function DrawingLine({ kind }: { kind: ShapeKind }) {
	const { sketchSoft, sketchUpright, set } = useStudioOf("sketchSoft", "sketchUpright", "set");
	return (
		<div>
			<p className="py-1 text-second text-small">
				{`${kind[0].toUpperCase()}${kind.slice(1)}: ${HOW[kind]} Delete takes the last one back.`}
			</p>
			<div className="flex gap-2 pb-1">
				<Choice
					small
					label="Points are set as"
					options={["corners", "bows"] as const}
					value={sketchSoft ? "bows" : "corners"}
					onPick={(v) => set({ sketchSoft: v === "bows" })}
				/>
				{!drawnOf({ kind })?.upright && !drawnOf({ kind })?.lies && (
					<Choice
						small
						label="The line"
						options={["lies", "stands"] as const}
						value={sketchUpright ? "stands" : "lies"}
						onPick={(v) => set({ sketchUpright: v === "stands" })}
					/>
				)}
			</div>
		</div>
	);
}

export function LineLines({ piece }: { piece: LinePiece }) {
	const commit = useShot((s) => s.commit);
	const { shape } = piece;
	const all = shape.points.every((p) => p.soft) ? "bows" : shape.points.some((p) => p.soft) ? null : "corners";
	const soften = (v: "corners" | "bows") => {
		const edit = tried(() => setSoft(piece, null, v === "bows"));
		if (edit) commit(edit);
	};
	const close = (closed: boolean) => {
		const edit = tried(() => redrawn({ ...piece, shape: { ...shape, closed } } as LinePiece, shape.points));
		if (edit) commit(edit);
	};
	return (
		<div className="py-1">
			<div className="flex items-baseline justify-between gap-2">
				<span className="text-second text-small">{shape.points.length} points, all</span>
				<Choice small label="All points" options={["corners", "bows"] as const} value={all} onPick={soften} />
			</div>
			{"closed" in shape && (
				<YesNo label="The line" value={shape.closed} yes="ends where it begins" no="has two ends" onPick={close} />
			)}
			{shape.kind === "rail" && shape.section === "own" && <SectionLine piece={piece} />}
			{isWall(piece) && <Openings piece={piece} />}
		</div>
	);
}

/** The outline of another piece as the section of this one. */
function SectionLine({ piece }: { piece: LinePiece }) {
	const pieces = useShown().pieces;
	const commit = useShot((s) => s.commit);
	const outlines = pieces.filter((p) => p.shape.kind === "raised");
	if (outlines.length === 0)
		return <p className="text-second text-small">Draw an outline (raised): it can then be led along this line.</p>;
	return (
		<PickLine
			label="Section of"
			options={outlines.map((p) => [p.id, p.name])}
			value={null}
			empty="the outline of …"
			onPick={(id) => {
				const from = outlines.find((p) => p.id === id)?.shape;
				if (from?.kind !== "raised" || piece.shape.kind !== "rail") return;
				commit({ name: "piece.setShape", ids: [piece.id], shape: { ...piece.shape, outline: from.points } });
			}}
		/>
	);
}

const KINDS = Object.keys(OPENINGS) as (keyof typeof OPENINGS)[];
const HEADS = ["straight", "round", "low", "pointed"] as const;

const FIELDS: { of: "alongM" | "widthM" | "sillM" | "tallM"; label: string; min: number }[] = [
	{ of: "alongM", label: "Along", min: 0 },
	{ of: "widthM", label: "Width", min: 0.05 },
	{ of: "sillM", label: "Sill", min: 0 },
	{ of: "tallM", label: "Tall", min: 0.05 },
];

function Openings({ piece }: { piece: WallPiece }) {
	const commit = useShot((s) => s.commit);
	const act = (make: () => ReturnType<typeof setOpening>) => {
		const edit = tried(make);
		if (edit) commit(edit);
	};
	const change = (n: number, to: Partial<Opening>) => act(() => setOpening(piece, n, to));
	return (
		<div data-testid="openings">
			<div className="flex items-baseline justify-between gap-2 pt-1">
				<span className="text-second text-small">{`${metres(wallLength(piece))} long; openings:`}</span>
				<span className="flex gap-2">
					{KINDS.map((kind) => (
						<Act key={kind} onClick={() => act(() => addOpening(piece, kind))}>
							{kind}
						</Act>
					))}
				</span>
			</div>
			{piece.shape.openings.map((o, i) => (
				<div key={o.n} className="mt-1 border-hair border-t pt-1">
					<div className="grid grid-cols-2 gap-x-3">
						{FIELDS.map(({ of, label, min }) => (
							<NumberLine
								key={of}
								label={`${label} ${i + 1}`}
								value={o[of]}
								unit="m"
								min={min}
								max={1e4}
								step={0.1}
								onCommit={(v) => change(o.n, { [of]: v })}
							/>
						))}
					</div>
					<div className="flex items-baseline justify-between gap-2">
						<PickLine
							label="Head"
							options={HEADS.map((h) => [h, h])}
							value={o.head}
							onPick={(head) => change(o.n, { head })}
						/>
						<Act onClick={() => act(() => dropOpening(piece, o.n))}>Take out</Act>
					</div>
				</div>
			))}
		</div>
	);
}
