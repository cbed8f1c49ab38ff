"use client";
/** Pieces brought into line with the one that was picked last, spread evenly, dropped, held. */
import { useId } from "react";
import type { Piece } from "../../../core/doc/schema.ts";
import { alignPieces, dropPieces, LINES, type Line, spreadPieces } from "../../../core/shape/arrange.ts";
import { Act, YesNo } from "../../parts/controls.tsx";
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
	const { commit } = useShot.getState();
	const selected = useStudio((s) => s.selected);
	const id = useId();
	const to = pieces.find((p) => p.id === selected[selected.length - 1]);
	const free = pieces.filter((p) => !p.held);
	const spread = () => {
		const edit = spreadPieces(pieces, doc);
		if (edit) commit(edit);
	};
	return (
		<div>
			{to && pieces.length > 1 && (
				<div className="flex items-baseline justify-between gap-2 py-1">
					<label htmlFor={id} className="min-w-0 truncate text-second text-small">
						In line with {to.name}
					</label>
					<select
						id={id}
						className="rounded-[3px] border border-ink/45 bg-paper text-small"
						value=""
						onChange={(e) => commit(alignPieces(pieces, to, e.target.value as Line, doc))}
					>
						<option value="" disabled>
							by their …
						</option>
						{LINES.map((line) => (
							<option key={line} value={line}>
								{WORDS[line]}
							</option>
						))}
					</select>
				</div>
			)}
			<YesNo
				label="Held"
				value={free.length === 0}
				yes="cannot be moved or picked"
				no="free"
				onPick={(held) => commit({ name: "piece.setHeld", ids: pieces.map((p) => p.id), held })}
			/>
			<div className="flex gap-2 pt-1">
				<Act disabled={free.length < pieces.length} onClick={() => commit(dropPieces(pieces, doc))}>
					Drop
				</Act>
				{pieces.length > 2 && <Act onClick={spread}>Spread evenly</Act>}
			</div>
		</div>
	);
}
