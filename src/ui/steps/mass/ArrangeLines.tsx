"use client";
/** Pieces brought into line with the one that was picked last, spread evenly, dropped, held. */
import type { Piece } from "../../../core/doc/schema.ts";
import { alignPieces, dropPieces, LINES, type Line, leanWithUnder, spreadPieces } from "../../../core/shape/arrange.ts";
import { Act, PickLine, YesNo } from "../../parts/controls.tsx";
import { useShot } from "../../store/shotStore.ts";
import { useStudio } from "../../store/studio.ts";

const WORDS: Record<Line, string> = {
	left: "left sides",
	middle: "middles",
	right: "right sides",
	near: "near sides",
	away: "away sides",
	foot: "feet",
	top: "tops",
};

export function ArrangeLines({ pieces }: { pieces: readonly Piece[] }) {
	const doc = useShot((s) => s.document);
	const { commit, say } = useShot.getState();
	const selected = useStudio((s) => s.selected);
	const to = pieces.find((p) => p.id === selected[selected.length - 1]);
	const free = pieces.filter((p) => !p.held);
	const spread = () => {
		const edit = spreadPieces(pieces, doc);
		if (edit) commit(edit);
		else say("They all stand on one place: there is no way to spread them along.");
	};
	return (
		<div>
			{to && pieces.length > 1 && (
				<PickLine
					label={`In line with ${to.name}`}
					options={LINES.map((line) => [line, WORDS[line]])}
					value={null}
					empty="by their …"
					onPick={(line) => commit(alignPieces(pieces, to, line, doc))}
				/>
			)}
			<YesNo
				label="Held"
				value={free.length === 0}
				yes="cannot be moved or picked"
				no="free"
				onPick={(held) => commit({ name: "piece.setHeld", ids: pieces.map((p) => p.id), held })}
			/>
			<div className="flex flex-wrap gap-2 pt-1">
				<Act disabled={free.length < pieces.length} onClick={() => commit(dropPieces(pieces, doc))}>
					Drop
				</Act>
				<Act disabled={free.length < pieces.length} onClick={() => commit(leanWithUnder(pieces, doc))}>
					Lean as what is under it
				</Act>
				{pieces.length > 2 && <Act onClick={spread}>Spread evenly</Act>}
			</div>
		</div>
	);
}
