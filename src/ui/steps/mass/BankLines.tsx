"use client";
/** How the ground meets pieces: in an edge, or risen to them, its surface climbing on them. */
import type { Bank, Piece } from "../../../core/doc/schema.ts";
import { NumberLine, YesNo } from "../../parts/controls.tsx";
import { useShot } from "../../store/shotStore.ts";

/** For what is as high as that, metres: the lower it is, the less the ground rises. */
const HIGH_M = 2;

/** What is usual for a piece: a little, widely. */
function usualBank({ size }: Piece): Bank {
	const share = Math.min(1, size[1] / HIGH_M);
	const round = (v: number) => Math.round(100 * v) / 100;
	return { riseM: round(0.02 + 0.08 * share), widthM: round(0.15 + 0.45 * share), blendM: round(0.05 + 0.2 * share) };
}

const LINES = [
	{ of: "riseM", label: "Rises", min: 0, max: 5, step: 0.01 },
	{ of: "widthM", label: "Over", min: 0.05, max: 8, step: 0.05 },
	{ of: "blendM", label: "Climbs", min: 0, max: 8, step: 0.05 },
] as const;

export function BankLines({ pieces }: { pieces: readonly Piece[] }) {
	const commit = useShot((s) => s.commit);
	const ids = pieces.map((p) => p.id);
	const [first] = pieces;
	const { bank } = first;
	const set = (to: Bank | null) => commit({ name: "piece.setBank", ids, bank: to });
	return (
		<section aria-label="Contact" className="mt-1 border-hair border-t pt-1">
			<YesNo
				label="The ground"
				value={!!bank}
				yes="rises to meet it"
				no="meets it in an edge"
				onPick={(on) => set(on ? usualBank(first) : null)}
			/>
			{bank && (
				<div className="grid grid-cols-3 gap-x-3">
					{LINES.map(({ of, ...line }) => (
						<NumberLine key={of} {...line} unit="m" value={bank[of]} onCommit={(v) => set({ ...bank, [of]: v })} />
					))}
				</div>
			)}
		</section>
	);
}
