"use client";
/** The brush: what it does, how wide, how strong. */
import { Stroke } from "../../../core/doc/schema.ts";
import { TOOLS } from "../../../core/ground/ledger/hand/strokes.ts";
import { Act, Choice, NumberLine } from "../../parts/controls.tsx";
import type { Brush } from "../../store/slices/hand.ts";
import { useStudioOf } from "../../store/studio.ts";
import { WEARS } from "./brush.ts";

const KINDS: readonly Brush[] = [...Stroke.shape.tool.options, WEARS];
const actOf = (brush: Brush): string => (brush === WEARS ? "Wear" : TOOLS[brush].act);
const ACTS = KINDS.map(actOf);
const toolOf = (act: string): Brush | null => KINDS.find((brush) => actOf(brush) === act) ?? null;

export function BrushLines() {
	const { brush, brushRadiusM, brushByM, brushWear, skylining, set } = useStudioOf(
		"brush",
		"brushRadiusM",
		"brushByM",
		"brushWear",
		"skylining",
		"set",
	);
	return (
		<div className="border-hair border-b pb-2">
			<p className="pt-2 pb-1 text-second text-small">By hand</p>
			<Choice
				label="Brush over the land"
				columns={3}
				options={ACTS}
				value={brush ? actOf(brush) : ""}
				onPick={(act) => set({ brush: toolOf(act) === brush ? null : toolOf(act), skylining: false })}
			/>
			<div className="pt-2">
				<Act onClick={() => set({ skylining: !skylining, brush: null, landEntry: null })}>
					{skylining ? "Leave it" : "Draw a skyline"}
				</Act>
			</div>
			{skylining && (
				<p className="py-1 text-second text-small">
					Draw a line over the frame, along a ridge of the reference: far land rises to meet it.
				</p>
			)}
			{brush && (
				<>
					<div className="grid grid-cols-2 gap-x-3">
						<NumberLine
							label="Radius"
							value={brushRadiusM}
							unit="m"
							min={0.2}
							max={5000}
							step={0.5}
							digits={1}
							onCommit={(v) => set({ brushRadiusM: v })}
						/>
						{brush === WEARS && (
							<NumberLine
								label="Rain cuts"
								value={brushWear * 100}
								unit="%"
								min={2}
								max={100}
								step={5}
								digits={0}
								onCommit={(v) => set({ brushWear: v / 100 })}
							/>
						)}
						{brush !== WEARS && TOOLS[brush].by && (
							<NumberLine
								label={TOOLS[brush].by}
								value={brushByM}
								unit="m"
								min={0.02}
								max={500}
								step={0.1}
								digits={2}
								onCommit={(v) => set({ brushByM: v })}
							/>
						)}
					</div>
					<p className="py-1 text-second text-small">
						Draw over the land, in the frame or the plan. + and − make the ring wider and narrower, with Alt stronger
						and weaker; while Shift is held its rim follows the pointer, while Alt is held up is stronger. Esc lays the
						brush down.
					</p>
				</>
			)}
		</div>
	);
}
