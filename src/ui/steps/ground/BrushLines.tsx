"use client";
/** The brush: what it does, how wide, how strong. */
import { Stroke, type StrokeTool } from "../../../core/doc/schema.ts";
import { TOOLS } from "../../../core/ground/ledger/hand/strokes.ts";
import { Act, Choice, NumberLine } from "../../parts/controls.tsx";
import { useStudioOf } from "../../store/studio.ts";

const KINDS = Stroke.shape.tool.options;
const ACTS = KINDS.map((tool) => TOOLS[tool].act);
const toolOf = (act: string): StrokeTool | null => KINDS.find((tool) => TOOLS[tool].act === act) ?? null;

export function BrushLines() {
	const { brush, brushRadiusM, brushByM, skylining, set } = useStudioOf(
		"brush",
		"brushRadiusM",
		"brushByM",
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
				value={brush ? TOOLS[brush].act : ""}
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
						{TOOLS[brush].by && (
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
						and weaker. Esc lays the brush down.
					</p>
				</>
			)}
		</div>
	);
}
