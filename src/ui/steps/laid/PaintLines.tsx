"use client";
/** The brush of a surface: taken up, how wide, how strong, what it does; and what it has painted, taken away again. */
import { Act, Choice, NumberLine, Rule } from "../../parts/controls.tsx";
import { useShot, useShown } from "../../store/shotStore.ts";
import { useStudioOf } from "../../store/studio.ts";

const WAYS = ["lays it on", "takes it off"] as const;

export function PaintLines({ mask, on }: { mask: string; on?: string }) {
	const { painting, paintRadiusM, paintStrength, paintSoft, paintAway, set } = useStudioOf(
		"painting",
		"paintRadiusM",
		"paintStrength",
		"paintSoft",
		"paintAway",
		"set",
	);
	const commit = useShot((s) => s.commit);
	const strokes = useShown().masks?.find((own) => own.id === mask)?.strokes.length ?? 0;
	const held = painting?.mask === mask;
	return (
		<div className="py-1">
			<div className="flex flex-wrap items-baseline gap-1">
				<Act onClick={() => set({ painting: held ? null : { mask, on: on ?? null } })}>
					{held ? "Lay the brush down" : "Take the brush"}
				</Act>
				{strokes > 0 && <Act onClick={() => commit({ name: "mask.clear", id: mask })}>Clear</Act>}
				<span className="text-second" data-testid="strokes">
					{strokes === 0 ? "nothing painted yet" : strokes === 1 ? "1 stroke" : `${strokes} strokes`}
				</span>
			</div>
			{held && (
				<div className="pt-1">
					<Choice
						small
						label="The brush"
						options={WAYS}
						value={WAYS[paintAway ? 1 : 0]}
						onPick={(way) => set({ paintAway: way === WAYS[1] })}
					/>
					<NumberLine
						label="Radius"
						value={paintRadiusM}
						unit="m"
						min={0.005}
						max={500}
						step={0.05}
						onCommit={(v) => set({ paintRadiusM: v })}
					/>
					{(["paintStrength", "paintSoft"] as const).map((of) => (
						<Rule
							key={of}
							label={of === "paintSoft" ? "Soft rim" : "Strength"}
							value={100 * (of === "paintSoft" ? paintSoft : paintStrength)}
							unit="%"
							min={of === "paintSoft" ? 0 : 1}
							max={100}
							step={1}
							digits={0}
							onPreview={(v) => set({ [of]: v / 100 })}
							onCommit={(v) => set({ [of]: v / 100 })}
						/>
					))}
					<p className="py-1 text-second">
						Draw over it in the frame or a free view. + and − make the brush wider and narrower, with Alt stronger and
						weaker; with Shift it takes off. Esc lays it down.
					</p>
				</div>
			)}
		</div>
	);
}
