"use client";
/** Stains: surfaces that lie over several things, and the ground, as if they were one. */
import { useState } from "react";
import { type Laid, MOST_STAINS, type Stain } from "../../../core/doc/schema.ts";
import { surfaceSays } from "../../../core/surface/brought.ts";
import { whereWords } from "../../../core/surface/where/wheres.ts";
import { Act, YesNo } from "../../parts/controls.tsx";
import { newId } from "../../parts/words.ts";
import { useShot, useShown } from "../../store/shotStore.ts";
import { OverOne } from "./OverLines.tsx";
import { Slips } from "./Slips.tsx";
import { overAsLaid } from "./seenPlace.ts";

/** Those that lie on one of these pieces, or on the ground where none are given. */
const lyingOn = (stains: readonly Stain[], pieces: readonly string[] | null): Stain[] =>
	stains.filter((stain) => (pieces ? stain.pieces.some((id) => pieces.includes(id)) : stain.ground));

function saysOn({ pieces, ground }: Stain): string {
	const many = pieces.length === 1 ? "one piece" : `${pieces.length} pieces`;
	return pieces.length === 0 ? "the ground" : ground ? `${many} and the ground` : many;
}

/** `pieces` are those selected; null asks for those of the ground. */
export function StainLines({ pieces }: { pieces: readonly string[] | null }) {
	const shown = useShown();
	const stains = shown.stains ?? [];
	const { commit, show } = useShot.getState();
	const [open, setOpen] = useState<string | null>(null);
	/** The id of one that is tried, while slips are open. */
	const [trying, setTrying] = useState<string | null>(null);
	const set = (stain: Stain) => ({ name: "stain.set" as const, stain });
	const fresh = (id: string, laid: Laid): Stain => ({
		id,
		pieces: [...(pieces ?? [])],
		ground: pieces === null,
		laid: overAsLaid(laid, null),
	});
	// One that is tried is no line yet.
	const kept = useShot((s) => s.document.stains);
	const own = lyingOn(stains, pieces).filter((stain) => kept?.some((k) => k.id === stain.id));
	return (
		<section aria-label="Stains" className="mt-1 border-hair border-t pt-1 text-small">
			<ol aria-label="Over them all">
				{own.map((stain) => (
					<li key={stain.id} className="border-hair border-b py-1">
						<div className="flex items-baseline justify-between gap-2">
							<button
								type="button"
								aria-expanded={open === stain.id}
								className="min-w-0 text-left underline-offset-4 hover:underline"
								onClick={() => setOpen(open === stain.id ? null : stain.id)}
							>
								<span className="text-second">{`over ${saysOn(stain)} `}</span>
								{surfaceSays(stain.laid.of, shown)} <span className="text-second">{whereWords(stain.laid.where)}</span>
							</button>
							<span className="shrink-0">
								<Act onClick={() => commit({ name: "stain.remove", id: stain.id })}>Take off</Act>
							</span>
						</div>
						{open === stain.id && (
							<>
								{pieces && (
									<YesNo
										label="On the ground, too"
										value={stain.ground}
										onPick={(ground) => commit(set({ ...stain, ground }))}
									/>
								)}
								{pieces?.some((id) => !stain.pieces.includes(id)) && (
									<Act onClick={() => commit(set({ ...stain, pieces: [...new Set([...stain.pieces, ...pieces])] }))}>
										Over all that are selected
									</Act>
								)}
								<OverOne
									laid={stain.laid}
									tintOf="In their colours"
									onShow={(laid) => show(laid ? set({ ...stain, laid }) : null)}
									onCommit={(laid) => commit(set({ ...stain, laid }))}
								/>
							</>
						)}
					</li>
				))}
			</ol>
			{stains.length < MOST_STAINS && (
				<div className="py-1">
					<Act onClick={() => setTrying(trying ? null : newId())}>
						{trying
							? "Close"
							: pieces === null
								? "Stain the ground"
								: pieces.length > 1
									? "Stain them together"
									: "Stain it"}
					</Act>
					{trying && (
						<Slips
							picked={null}
							onShow={(laid) => show(laid ? set(fresh(trying, laid)) : null)}
							onPick={(laid) => {
								commit(set(fresh(trying, laid)));
								setOpen(trying);
								setTrying(null);
							}}
						/>
					)}
				</div>
			)}
		</section>
	);
}
