"use client";
/** Mass: shapes drawn on the ground; numbers, surface, repeats of what is selected. */
import { type Piece, SHAPE_KINDS } from "../../../core/doc/schema.ts";
import { pieceBox, shownView } from "../../frame/geometry.ts";
import { Act, Choice, NameLine, NumberLine, Swatch, YesNo } from "../../parts/controls.tsx";
import { newId } from "../../parts/words.ts";
import { useShot, useShown } from "../../store/shotStore.ts";
import { useStudio, useStudioOf } from "../../store/studio.ts";
import { EditRule } from "../EditRule.tsx";
import { SurfaceLines } from "./SurfaceLines.tsx";

/** Another of each selected piece, a width to the right. */
export function duplicateSelected(): void {
	const { document, commit } = useShot.getState();
	const { selected, select } = useStudio.getState();
	const originals = document.pieces.filter((p) => selected.includes(p.id));
	if (originals.length === 0) return;
	const copies = originals.map(
		(p) =>
			({
				...p,
				id: newId(),
				position: [p.position[0] + p.size[0] * 1.2, p.position[1], p.position[2]],
			}) satisfies Piece,
	);
	if (commit({ name: "piece.add", pieces: copies })) select(copies.map((p) => p.id));
}

export function MassBody() {
	const doc = useShown();
	const { drawing, selected, look, set } = useStudioOf("drawing", "selected", "look", "set");
	const pieces = doc.pieces.filter((p) => selected.includes(p.id));
	return (
		<div>
			<Choice
				label="Shape to draw"
				options={SHAPE_KINDS}
				value={drawing}
				onPick={(kind) => set({ drawing: drawing === kind ? null : kind })}
			/>
			<p className="py-1 text-second text-small">
				{drawing
					? "Drag across on the ground for the width, upwards for the height."
					: "Pick a shape and drag it on the ground; or click a piece."}
			</p>
			{pieces.length === 1 && <One piece={pieces[0]} />}
			{pieces.length > 1 && <Many pieces={pieces} />}
			<div className="pt-3">
				<Choice
					label="Look of the frame"
					options={["surfaces", "clay", "silhouette"] as const}
					value={look}
					onPick={(l) => set({ look: l })}
				/>
			</div>
		</div>
	);
}

function One({ piece }: { piece: Piece }) {
	const doc = useShown();
	const { free, select } = useStudioOf("free", "select");
	const { commit, show } = useShot.getState();
	const { share } = pieceBox(piece, doc, shownView(doc.camera, free));
	const move = (i: 0 | 1 | 2, v: number) => {
		const position = [...piece.position] as [number, number, number];
		position[i] = i === 2 ? -v : v;
		commit({ name: "piece.move", pieces: [{ id: piece.id, position }] });
	};
	const size = (i: 0 | 1 | 2, v: number) => {
		const next = [...piece.size] as [number, number, number];
		next[i] = v;
		commit({ name: "piece.size", pieces: [{ id: piece.id, size: next }] });
	};
	const turn = (change: Partial<Pick<Piece, "headingDeg" | "pitchDeg" | "rollDeg">>) =>
		commit({ name: "piece.turn", pieces: [{ id: piece.id, ...change }] });
	const turned = { unit: "°", min: -180, max: 180, step: 1, digits: 0 };
	const far = { unit: "m", min: -1e5, max: 1e5, step: 0.1 };
	const long = { unit: "m", min: 0.001, max: 1e5, step: 0.1 };
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
				<span className="shrink-0 text-second text-small">{(share * 100).toFixed(1)} % of the frame</span>
			</div>
			<div className="grid grid-cols-2 gap-x-3">
				<NumberLine label="Right" value={piece.position[0]} {...far} onCommit={(v) => move(0, v)} />
				<NumberLine label="Width" value={piece.size[0]} {...long} onCommit={(v) => size(0, v)} />
				<NumberLine label="Away" value={-piece.position[2]} {...far} onCommit={(v) => move(2, v)} />
				<NumberLine label="Height" value={piece.size[1]} {...long} onCommit={(v) => size(1, v)} />
				<NumberLine label="Up" value={piece.position[1]} {...far} onCommit={(v) => move(1, v)} />
				<NumberLine label="Depth" value={piece.size[2]} {...long} onCommit={(v) => size(2, v)} />
				<NumberLine
					label="Heading"
					value={piece.headingDeg}
					{...turned}
					min={-360}
					max={360}
					onCommit={(v) => turn({ headingDeg: v })}
				/>
				<NumberLine label="Pitch" value={piece.pitchDeg} {...turned} onCommit={(v) => turn({ pitchDeg: v })} />
				<NumberLine label="Roll" value={piece.rollDeg} {...turned} onCommit={(v) => turn({ rollDeg: v })} />
			</div>
			<YesNo
				label="Stands on"
				value={piece.stands === "ground"}
				yes="the ground"
				no="level zero"
				onPick={(v) => commit({ name: "piece.stand", ids: [piece.id], stands: v ? "ground" : "level" })}
			/>
			<Swatch
				label="Colour"
				value={piece.surface.colour}
				onPreview={(colour) => show(surface({ colour }))}
				onCommit={(colour) => commit(surface({ colour }))}
			/>
			<SurfaceLines surface={piece.surface} onShow={(s) => show(surface(s))} onCommit={(s) => commit(surface(s))} />
			<RepeatLines piece={piece} />
			<YesNo
				label="Shown"
				value={!piece.hidden}
				onPick={(v) => commit({ name: "piece.setHidden", ids: [piece.id], hidden: !v })}
			/>
			<div className="flex gap-2 pt-1">
				<Act onClick={duplicateSelected}>Another</Act>
				<Act onClick={() => commit({ name: "piece.remove", ids: [piece.id] }) && select([])}>Delete</Act>
			</div>
		</div>
	);
}

function RepeatLines({ piece }: { piece: Piece }) {
	const commit = useShot((s) => s.commit);
	const { repeat } = piece;
	const set = (change: Partial<NonNullable<Piece["repeat"]>>) =>
		commit({
			name: "piece.setRepeat",
			id: piece.id,
			repeat: { count: repeat?.count ?? 3, step: repeat?.step ?? [0, Math.max(0.5, piece.size[2] * 2)], ...change },
		});
	return (
		<div>
			<YesNo
				label="Step and repeat"
				value={!!repeat}
				yes={repeat ? `row of ${repeat.count}` : "row"}
				no="single"
				onPick={(v) => (v ? set({}) : commit({ name: "piece.setRepeat", id: piece.id, repeat: null }))}
			/>
			{repeat && (
				<div className="grid grid-cols-2 gap-x-3">
					<NumberLine
						label="Count"
						value={repeat.count}
						min={1}
						max={2000}
						step={1}
						digits={0}
						onCommit={(count) => set({ count: Math.round(count) })}
					/>
					<NumberLine
						label="Each right"
						value={repeat.step[0]}
						unit="m"
						min={-1e5}
						max={1e5}
						onCommit={(v) => set({ step: [v, repeat.step[1]] })}
					/>
					<span />
					<NumberLine
						label="Each away"
						value={repeat.step[1]}
						unit="m"
						min={-1e5}
						max={1e5}
						onCommit={(v) => set({ step: [repeat.step[0], v] })}
					/>
				</div>
			)}
		</div>
	);
}

function Many({ pieces }: { pieces: Piece[] }) {
	const { commit, show } = useShot.getState();
	const select = useStudio((s) => s.select);
	const ids = pieces.map((p) => p.id);
	const surface = (change: Partial<Piece["surface"]>) => ({ name: "piece.setSurface" as const, ids, surface: change });
	return (
		<div className="pt-1">
			<p className="font-title text-[1.15rem] italic">{pieces.length} pieces</p>
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
			<YesNo
				label="Shown"
				value={pieces.every((p) => !p.hidden)}
				onPick={(v) => commit({ name: "piece.setHidden", ids, hidden: !v })}
			/>
			<div className="flex gap-2 pt-1">
				<Act onClick={duplicateSelected}>Another of each</Act>
				<Act onClick={() => commit({ name: "piece.remove", ids }) && select([])}>Delete all</Act>
			</div>
		</div>
	);
}
