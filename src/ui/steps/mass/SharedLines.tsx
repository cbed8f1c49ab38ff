"use client";
/** Shapes that pieces share: how many change together, and the way apart. */
import { sharers } from "../../../core/doc/groups.ts";
import type { Piece } from "../../../core/doc/schema.ts";
import { Act } from "../../parts/controls.tsx";
import { useShot, useShown } from "../../store/shotStore.ts";
import { useStudio } from "../../store/studio.ts";

export function SharedLines({ pieces }: { pieces: readonly Piece[] }) {
	const doc = useShown();
	const commit = useShot((s) => s.commit);
	const { select, selected } = useStudio.getState();
	const chosen = new Set(pieces.map((p) => p.id));
	const ids = [...chosen];
	const [first] = pieces;
	const like = sharers(first, doc.pieces);
	const one = first.shared !== undefined && pieces.every((p) => p.shared === first.shared);
	if (one && like.length > 1)
		return (
			<div data-testid="shared">
				<p className="text-second text-small">{`Shares its shape: what is set of it changes all ${like.length}.`}</p>
				<div className="flex gap-2 py-1">
					<Act onClick={() => commit({ name: "piece.setShared", ids, of: null })}>Set apart</Act>
					{like.some((p) => !chosen.has(p.id)) && (
						<Act onClick={() => select(like.map((p) => p.id))}>{`Select all ${like.length}`}</Act>
					)}
				</div>
			</div>
		);
	const last = pieces.find((p) => p.id === selected[selected.length - 1]) ?? first;
	if (pieces.length < 2) return null;
	return (
		<div className="py-1">
			<Act onClick={() => commit({ name: "piece.setShared", ids, of: last.id })}>
				{`Share the shape of ${last.name}`}
			</Act>
		</div>
	);
}
