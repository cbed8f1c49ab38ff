"use client";
/** Pieces cut out of others, joined to them, met with them: said as a sentence, shown before it is done. */
import { useEffect, useMemo, useRef, useState } from "react";
import { actors } from "../../../core/doc/acts.ts";
import type { Edit } from "../../../core/doc/edits.ts";
import { isIn, piecesIn } from "../../../core/doc/groups.ts";
import { ACT_KINDS, type ActKind, type Piece, type ShotDocument } from "../../../core/doc/schema.ts";
import { boundsOf } from "../../../core/maths/vec.ts";
import { pieceTransforms, type Standing } from "../../../core/shape/place.ts";
import { geometryOf } from "../../../core/shape/shapes.ts";
import { Act, PickLine } from "../../parts/controls.tsx";
import { useShot, useShown } from "../../store/shotStore.ts";
import { useStudioOf } from "../../store/studio.ts";

const WORDS: Record<ActKind, string> = {
	cut: "cut it out of",
	join: "join it to",
	meet: "leave what it has in common with",
};
const DONE: Record<ActKind, string> = { cut: "cut out of", join: "joined to", meet: "what is left of" };

/** The box about all copies of a piece, in the world. */
function boxOf(piece: Piece, place: Standing): number[] {
	const { bounds } = geometryOf(piece);
	const boxes = pieceTransforms(piece, place).map((m) => boundsOf(m, bounds));
	return [0, 1, 2, 3, 4, 5].map((c) => (c < 3 ? Math.min : Math.max)(...boxes.map((b) => b[c])));
}

const touch = (a: readonly number[], b: readonly number[]) =>
	[0, 1, 2].every((c) => a[c] <= b[c + 3] && b[c] <= a[c + 3]);

/** Whether a piece is one closed body. */
const isOne = (piece: Piece): boolean => geometryOf(piece).closed && !geometryOf(piece).assembled;

/** Pieces and groups that the pieces of some ids reach into, by their ids and names; none where those are not each one body. */
function reached(own: ReadonlySet<string>, doc: ShotDocument): [id: string, name: string][] {
	const pieces = doc.pieces.filter((p) => own.has(p.id));
	if (!pieces.every(isOne)) return [];
	const boxes = pieces.map((p) => boxOf(p, doc));
	const touched = (p: Piece) => {
		const box = boxOf(p, doc);
		return boxes.some((b) => touch(b, box));
	};
	const others = doc.pieces.filter((p) => !own.has(p.id) && !p.hidden && isOne(p) && touched(p));
	const groups = (doc.groups ?? []).filter(
		(g) => others.some((p) => isIn(p, g.id, doc.groups)) && !piecesIn(doc, g.id).some((p) => own.has(p.id)),
	);
	return [...groups, ...others].map(({ id, name }) => [id, name]);
}

/** What is done to a piece, by which others, and what it does itself; or what could be. */
export function ActLines({ pieces }: { pieces: readonly Piece[] }) {
	const doc = useShown();
	const { commit, show } = useShot.getState();
	const { root, select, set } = useStudioOf("root", "select", "set");
	const [kind, setKind] = useState<ActKind>("cut");
	const [on, setOn] = useState<string | null>(null);
	const previewed = useRef(false);
	const ids = pieces.map((p) => p.id);
	const chosen = ids.join();
	// biome-ignore lint/correctness/useExhaustiveDependencies: other pieces are another sentence
	useEffect(() => {
		setOn(null);
		return () => {
			// What another hand shows by now is its own.
			if (previewed.current) useShot.getState().show(null);
			previewed.current = false;
		};
	}, [chosen]);
	const nameOf = (id: string) => [...doc.pieces, ...(doc.groups ?? [])].find((p) => p.id === id)?.name ?? "";
	const edit = (act: { kind: ActKind; on: string } | null): Edit => ({ name: "piece.setAct", ids, act });
	const standing = useShot((s) => s.document);
	const by = pieces.length === 1 ? (actors(standing).get(pieces[0].id) ?? []) : [];
	const acting = standing.pieces.find((p) => p.id === ids[0])?.act;
	// Of what stands: while something is dragged, nobody picks.
	const targets = useMemo(() => reached(new Set(chosen.split(",")), standing), [chosen, standing]);
	if (acting)
		return (
			<div className="flex items-baseline justify-between gap-2 py-1" data-testid="acting">
				<span className="min-w-0 text-small">{`It is ${DONE[acting.kind]} ${nameOf(acting.on)}.`}</span>
				<Act onClick={() => commit(edit(null))}>Let it stand by itself</Act>
			</div>
		);
	const gone =
		on && root?.gone?.some((id) => id === on || doc.pieces.some((p) => p.id === id && isIn(p, on, doc.groups)));
	const preview = (k: ActKind, to: string | null) => {
		setKind(k);
		setOn(to);
		previewed.current = to !== null;
		show(to === null ? null : edit({ kind: k, on: to }));
	};
	return (
		<div data-testid="acts">
			{by.length > 0 && (
				<p className="text-small">
					{"Done to it: "}
					{by.map((p, i) => (
						<span key={p.id}>
							{i > 0 && ", "}
							<button
								type="button"
								className="underline decoration-hair underline-offset-4"
								onClick={() => {
									select([p.id]);
									set({ step: "Mass" });
								}}
							>
								{`${p.name} (${p.act?.kind})`}
							</button>
						</span>
					))}
				</p>
			)}
			{targets.length > 0 && (
				<>
					<PickLine
						label={pieces.length > 1 ? "With these" : "With this"}
						options={ACT_KINDS.map((k) => [k, WORDS[k]])}
						value={kind}
						onPick={(k) => preview(k, on)}
					/>
					<PickLine label="which of them" options={targets} value={on} empty="…" onPick={(to) => preview(kind, to)} />
					{on && (
						<div className="flex items-baseline justify-between gap-2 py-1">
							<span className="min-w-0 text-small">
								{gone ? `Nothing would be left of ${nameOf(on)}.` : "The frame shows what would be."}
							</span>
							<span className="flex gap-2">
								<Act
									disabled={!!gone}
									onClick={() => {
										previewed.current = false;
										if (commit(edit({ kind, on }))) setOn(null);
									}}
								>
									Do it
								</Act>
								<Act onClick={() => preview(kind, null)}>Leave it</Act>
							</span>
						</div>
					)}
				</>
			)}
		</div>
	);
}
