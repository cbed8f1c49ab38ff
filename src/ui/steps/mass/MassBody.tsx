"use client";
/** Mass: shapes drawn on the ground; numbers, surface, repeats of what is selected. */
import { useMemo, useState } from "react";
import { newPiece } from "../../../core/doc/defaults.ts";
import { groupOfAll } from "../../../core/doc/groups.ts";
import { type Piece, SHAPE_KINDS, type Stands, type Surface } from "../../../core/doc/schema.ts";
import { keptView } from "../../../core/lens/camera.ts";
import { millimetres } from "../../../core/maths/functions.ts";
import { copiesOf } from "../../../core/shape/copies.ts";
import { commonOf, type Quantity, quantityOf, setQuantity, stepQuantity } from "../../../core/shape/handPieces.ts";
import { isLine } from "../../../core/shape/handPoints.ts";
import { footing, placedMiddle } from "../../../core/shape/place.ts";
import { drawnOf, isFlat, isFront, turnsToLens } from "../../../core/shape/shapes.ts";
import { pivotOf } from "../../../core/shape/together.ts";
import { laidOfAll, laidOnAll } from "../../../core/surface/laying.ts";
import { ownColour, surfaceTimes } from "../../../core/surface/shading.ts";
import { footHeight, keptInFrame } from "../../frame/geometry.ts";
import { Act, Choice, NameLine, NumberLine, PickLine, Swatch, YesNo } from "../../parts/controls.tsx";
import { keptBy } from "../../parts/same.ts";
import { shareWords } from "../../parts/words.ts";
import { useShot, useShown } from "../../store/shotStore.ts";
import { useStudio, useStudioOf } from "../../store/studio.ts";
import { LOOKS, type Look } from "../../view/looks.ts";
import { EditRule } from "../EditRule.tsx";
import { ColourLines } from "../laid/ColourLines.tsx";
import { FaceLines } from "../laid/FaceLines.tsx";
import { LaidLines } from "../laid/LaidLines.tsx";
import { StainLines } from "../laid/StainLines.tsx";
import { ActLines } from "./ActLines.tsx";
import { ArrangeLines } from "./ArrangeLines.tsx";
import { anotherOfSelected } from "./acts.ts";
import { BankLines } from "./BankLines.tsx";
import { leaveLine } from "./drawLine.ts";
import { ExchangeSheet } from "./ExchangeSheet.tsx";
import { EnteredLine, GroupLines } from "./GroupLines.tsx";
import { DrawingLine, LineLines } from "./LineLines.tsx";
import { MeasureLines } from "./MeasureLines.tsx";
import { RepeatLines } from "./RepeatLines.tsx";
import { ShapePicker } from "./ShapePicker.tsx";
import { SharedLines } from "./SharedLines.tsx";
import { SurfaceLines } from "./SurfaceLines.tsx";

const LOOK_NAMES = Object.keys(LOOKS) as Look[];

export function MassBody() {
	const doc = useShown();
	const { drawing, selected, look, valueSteps, set } = useStudioOf("drawing", "selected", "look", "valueSteps", "set");
	const pieces = doc.pieces.filter((p) => selected.includes(p.id));
	return (
		<div>
			<ShapePicker
				value={drawing}
				onPick={(kind) => {
					leaveLine();
					// Handles of what is selected would be in the way of a line.
					set({
						drawing: drawing === kind ? null : kind,
						sketchUpright: false,
						...(drawnOf({ kind }) && { selected: [] }),
					});
				}}
			/>
			{drawing && drawnOf({ kind: drawing }) && <DrawingLine kind={drawing} />}
			<p className="py-1 text-second text-small" hidden={!!drawing && !!drawnOf({ kind: drawing })}>
				{drawing
					? `${drawing[0].toUpperCase()}${drawing.slice(1)}: ${isFlat(drawing) ? "drag from corner to corner" : "drag across for the width, upwards for the height"}, on the ground or on a piece. A tap sets another one as large as the last.`
					: "Pick a shape and draw it in the frame or the plan; or click a piece."}
			</p>
			<ExchangeSheet />
			<EnteredLine />
			{pieces.length > 0 && <GroupLines pieces={pieces} />}
			{pieces.length === 1 && <One piece={pieces[0]} />}
			{pieces.length > 1 && <Many pieces={pieces} />}
			<div className="pt-3">
				<Choice
					label="Look of the frame"
					columns={3}
					options={LOOK_NAMES}
					value={look}
					onPick={(l) => set({ look: l })}
				/>
				{look === "tones" && (
					<NumberLine
						label="Steps from black to white"
						value={valueSteps}
						min={2}
						max={9}
						step={1}
						digits={0}
						onCommit={(v) => set({ valueSteps: Math.round(v) })}
					/>
				)}
				{look === "raking" && (
					<p className="py-1 text-second text-small">The light comes from where the pointer is in the frame.</p>
				)}
			</div>
		</div>
	);
}

const TURN = { unit: "°", min: -180, max: 180, step: 1, digits: 0 };
const FAR = { unit: "m", min: -1e5, max: 1e5, step: 0.1 };
/** Below 0 is the size of a mirror. */
const LONG = { unit: "m", min: -1e5, max: 1e5, step: 0.1 };

/** Measures in the order in which they are shown, two to a row. */
const QUANTITIES: { of: Quantity; word: string; range: typeof TURN | typeof FAR }[] = [
	{ of: "right", word: "Right", range: FAR },
	{ of: "width", word: "Width", range: LONG },
	{ of: "away", word: "Away", range: FAR },
	{ of: "height", word: "Height", range: LONG },
	{ of: "up", word: "Up", range: FAR },
	{ of: "depth", word: "Depth", range: LONG },
	{ of: "heading", word: "Heading", range: { ...TURN, min: -360, max: 360 } },
	{ of: "pitch", word: "Pitch", range: TURN },
	{ of: "roll", word: "Roll", range: TURN },
];

/** Whether a measure does anything to a piece: what turns to the lens has no heading of its own, and what is its front alone no depth. */
const matters = (of: Quantity, { shape }: Piece): boolean =>
	!(of === "heading" && turnsToLens(shape)) && !(of === "depth" && isFront(shape));

/** A colour that is chosen is seen: a surface that lies there takes it on. */
const recoloured = ({ laid }: Surface, colour: Surface["colour"]): Partial<Surface> => ({
	colour,
	...(laid && laid.tint === 0 && { laid: { ...laid, tint: 1 } }),
});

function One({ piece }: { piece: Piece }) {
	const { free, select, shares, set } = useStudioOf("free", "select", "shares", "set");
	const { commit, show } = useShot.getState();
	const doc = useShown();
	const seen = keptInFrame(piece, doc, keptView(doc.camera));
	const percent = shares.get(piece.id)?.percent ?? null;
	const leans = piece.pitchDeg !== 0 || piece.rollDeg !== 0;
	const surface = (change: Partial<Piece["surface"]>) => ({
		name: "piece.setSurface" as const,
		ids: [piece.id],
		surface: change,
	});
	return (
		<div className="pt-1">
			<div className="flex items-baseline justify-between gap-2">
				<NameLine
					label="Name of the piece"
					name={piece.name}
					onCommit={(title) => commit({ name: "piece.rename", id: piece.id, title })}
				/>
				{!free && (
					<span className="shrink-0 text-second text-small" data-testid="share">
						{!seen || piece.hidden ? "not in frame" : `${shareWords(percent)}${percent ? " of the frame" : ""}`}
					</span>
				)}
			</div>
			<div className="grid grid-cols-2 gap-x-3">
				{QUANTITIES.filter(({ of }) => matters(of, piece)).map(({ of, word, range }) => (
					<NumberLine
						key={of}
						label={word}
						value={quantityOf(piece, of)}
						{...range}
						onCommit={(v) => commit(setQuantity([piece], of, () => v))}
					/>
				))}
			</div>
			<StandsLine piece={piece} />
			{leans && (
				<YesNo
					label="Leaned"
					value={!!piece.rests}
					yes="it rests"
					no="about its foot"
					onPick={(rests) => commit({ name: "piece.turn", pieces: [{ id: piece.id, rests }] })}
				/>
			)}
			<SharedLines pieces={[piece]} />
			<ShapeLine pieces={[piece]} />
			<MeasureLines pieces={[piece]} />
			{isLine(piece) && <LineLines piece={piece} />}
			<RepeatLines piece={piece} />
			<ActLines pieces={[piece]} />
			<Swatch
				label="Colour"
				value={piece.surface.colour}
				onPreview={(colour) => show(surface(recoloured(piece.surface, colour)))}
				onCommit={(colour) => commit(surface(recoloured(piece.surface, colour)))}
			/>
			{!piece.surface.glass && <FaceLines piece={piece} />}
			{!piece.surface.glass && <ColourOf pieces={[piece]} />}
			<StainLines pieces={[piece.id]} />
			<BankLines pieces={[piece]} />
			<SurfaceLines surface={piece.surface} onShow={(s) => show(surface(s))} onCommit={(s) => commit(surface(s))} />
			<ArrangeLines pieces={[piece]} />
			<YesNo
				label="Shown"
				value={!piece.hidden}
				onPick={(v) => commit({ name: "piece.setHidden", ids: [piece.id], hidden: !v })}
			/>
			<div className="flex flex-wrap gap-2 pt-1">
				<Act onClick={() => anotherOfSelected(false)}>Another</Act>
				<Act onClick={() => anotherOfSelected(true)}>Another of one shape</Act>
				<Act onClick={() => set({ exchanging: piece.id })}>Exchange</Act>
				<Act onClick={() => commit({ name: "piece.remove", ids: [piece.id] }) && select([])}>Delete</Act>
			</div>
		</div>
	);
}

/** What a piece stands on: the ground, level zero, or a piece that reaches under its foot. It stays as high as it is. */
function StandsLine({ piece }: { piece: Piece }) {
	const doc = useShown();
	const commit = useShot((s) => s.commit);
	// Of what stands: while something is dragged, nobody picks.
	const standing = useShot((s) => s.document.pieces);
	const [x, , z] = (standing.find((p) => p.id === piece.id) ?? piece).position;
	const now = typeof piece.stands === "string" ? piece.stands : piece.stands.on;
	const under = useMemo(
		() =>
			standing.filter(
				(p) =>
					p.id === now || (p.id !== piece.id && Math.hypot(p.position[0] - x, p.position[2] - z) < reachOf(p, null)),
			),
		[standing, piece.id, now, x, z],
	);
	const pick = (value: string) => {
		const stands: Stands = value === "ground" || value === "level" ? value : { on: value };
		const up = footHeight(piece, doc) - footing({ ...piece, stands }, x, z, doc);
		commit({ name: "piece.stand", ids: [piece.id], stands, upsM: [millimetres(up)] });
	};
	return (
		<PickLine
			label="Stands on"
			options={[["ground", "the ground"], ["level", "level zero"], ...under.map((p) => [p.id, p.name] as const)]}
			value={now}
			onPick={pick}
		/>
	);
}

/** Distance about a piece's foot within which others may stand on it, repeats included. */
const reachOf = keptBy(
	({ size, repeat }: Piece, _: null): number =>
		Math.hypot(...size) + Math.max(...copiesOf(repeat).map((c) => Math.hypot(c.right, c.away))),
);

/** The shape of pieces, their measures kept. */
function ShapeLine({ pieces }: { pieces: readonly Piece[] }) {
	const commit = useShot((s) => s.commit);
	const [{ shape }] = pieces;
	return (
		<PickLine
			label="Shape"
			options={SHAPE_KINDS.map((kind) => [kind, kind])}
			value={pieces.every((p) => p.shape.kind === shape.kind) ? shape.kind : null}
			empty="several"
			onPick={(kind) =>
				commit({ name: "piece.setShape", ids: pieces.map((p) => p.id), shape: newPiece("", kind).shape })
			}
		/>
	);
}

/** Numbers of several pieces: as steps for all, from where each is, or as one value for all. */
function NumbersOfAll({ pieces }: { pieces: readonly Piece[] }) {
	const doc = useShown();
	const commit = useShot((s) => s.commit);
	const [how, setHow] = useState<"steps" | "values">("steps");
	const steps = how === "steps";
	return (
		<div className="pt-1">
			<Choice small label="Numbers of all" options={["steps", "values"] as const} value={how} onPick={setHow} />
			<div className="grid grid-cols-2 gap-x-3">
				{QUANTITIES.map(({ of, word, range }) => (
					<NumberLine
						key={`${of} ${how}`}
						label={steps ? `${of === "heading" ? "Turn" : word} by` : word}
						value={steps ? 0 : commonOf(pieces, of)}
						{...range}
						min={steps ? -range.max : range.min}
						onCommit={(v) =>
							steps
								? commit(stepQuantity(pieces, of, v, pivotOf(pieces, doc)))
								: commit(setQuantity(pieces, of, () => v))
						}
					/>
				))}
			</div>
			<p className="text-second text-small">
				{steps ? "Each goes on from where it is; they turn together." : "A value goes to each. Empty: they differ."}
			</p>
		</div>
	);
}

/** The colour of pieces, brought to one that is seen elsewhere. */
function ColourOf({ pieces }: { pieces: readonly Piece[] }) {
	const doc = useShown();
	const [first] = pieces;
	return (
		<ColourLines
			own={ownColour(first.surface)}
			at={() => placedMiddle(first, doc)}
			edit={(factor) => ({
				name: "piece.setSurfaces",
				pieces: pieces.map(({ id, surface }) => ({ id, surface: surfaceTimes(surface, factor) })),
			})}
		/>
	);
}

const OF_ALL = [
	["wet", "Wet, all", 0],
	["rougher", "Rougher, all", -100],
	["worn", "Worn, all", 0],
	["dirt", "Dirt, all", 0],
] as const;

/** How wet, rough, worn and dirty different things that lie on several pieces are, each as it is otherwise. */
function LaidOfAll({ pieces }: { pieces: readonly Piece[] }) {
	const laid = pieces.find((p) => p.surface.laid)?.surface.laid;
	if (!laid) return null;
	return OF_ALL.map(([of, label, min]) => (
		<EditRule
			key={of}
			label={label}
			value={(laid[of] ?? 0) * 100}
			unit="%"
			min={min}
			max={100}
			step={1}
			digits={0}
			edit={(v) => ({ name: "piece.setSurfaces", pieces: laidOfAll(pieces, { [of]: v / 100 }) })}
		/>
	));
}

function Many({ pieces }: { pieces: Piece[] }) {
	const { commit, show } = useShot.getState();
	const select = useStudio((s) => s.select);
	const group = groupOfAll(pieces, useShown());
	const ids = pieces.map((p) => p.id);
	const surface = (change: Partial<Piece["surface"]>) => ({ name: "piece.setSurface" as const, ids, surface: change });
	return (
		<div className="pt-1">
			{!group && <p className="font-title text-[1.15rem] italic">{pieces.length} pieces</p>}
			<NumbersOfAll pieces={pieces} />
			<SharedLines pieces={pieces} />
			<ShapeLine pieces={pieces} />
			{pieces.every((p) => p.shape.kind === pieces[0].shape.kind) && <MeasureLines pieces={pieces} />}
			<ActLines pieces={pieces} />
			<Swatch
				label="Colour of all"
				value={pieces[0].surface.colour}
				onPreview={(colour) => show(surface({ colour }))}
				onCommit={(colour) => commit(surface({ colour }))}
			/>
			<EditRule
				label="Roughness of all"
				value={pieces[0].surface.roughness}
				min={0.02}
				max={1}
				edit={(v) => surface({ roughness: v })}
			/>
			<LaidLines
				laid={laidOnAll(pieces)}
				tintOf="In their colours"
				onShow={(laid) => show(laid === undefined ? null : surface({ laid }))}
				onCommit={(laid) => commit(surface({ laid }))}
			/>
			{laidOnAll(pieces) === undefined && <LaidOfAll pieces={pieces} />}
			<ColourOf pieces={pieces} />
			<StainLines pieces={ids} />
			<BankLines pieces={pieces} />
			<ArrangeLines pieces={pieces} />
			<YesNo
				label="Shown"
				value={pieces.every((p) => !p.hidden)}
				onPick={(v) => commit({ name: "piece.setHidden", ids, hidden: !v })}
			/>
			<div className="flex flex-wrap gap-2 pt-1">
				<Act onClick={() => anotherOfSelected(false)}>Another of each</Act>
				<Act onClick={() => anotherOfSelected(true)}>Of one shape</Act>
				<Act onClick={() => commit({ name: "piece.remove", ids }) && select([])}>Delete all</Act>
			</div>
		</div>
	);
}
