"use client";
/** The measures that a shape has of its own. */
import { useId } from "react";
import type { Edit } from "../../../core/doc/edits.ts";
import { measuresOf, type Piece } from "../../../core/doc/schema.ts";
import { foundMeasures } from "../../../core/shape/shapes.ts";
import { NumberLine } from "../../parts/controls.tsx";
import { useShot } from "../../store/shotStore.ts";
import { EditRule } from "../EditRule.tsx";

/** Of pieces of one kind. */
export function MeasureLines({ pieces }: { pieces: readonly Piece[] }) {
	const commit = useShot((s) => s.commit);
	const [first] = pieces;
	const ids = pieces.map((p) => p.id);
	const edit = (field: string, value: number | string | null): Extract<Edit, { name: "piece.setMeasures" }> => ({
		name: "piece.setMeasures",
		ids,
		measures: { [field]: value },
	});
	return (
		<div className="grid grid-cols-2 gap-x-3">
			{measuresOf(first.shape.kind).map(([field, { word, of, usual, min, max, options }]) => {
				const said = (first.shape as Record<string, unknown>)[field] as number | string | null | undefined;
				if (options)
					return (
						<OneOf
							key={field}
							word={word}
							options={options}
							value={said as string}
							pick={(v) => commit(edit(field, v))}
						/>
					);
				if (of === "share")
					return (
						<div key={field} className="col-span-2">
							<EditRule
								label={word}
								value={(said ?? usual) as number}
								min={min}
								max={max}
								edit={(v) => edit(field, v)}
							/>
						</div>
					);
				const own = usual === null && said === null;
				const value = own ? (foundMeasures(first)[field] ?? Number.NaN) : ((said ?? usual) as number);
				const whole = of !== "metres";
				return (
					<div key={field}>
						<NumberLine
							label={word}
							value={value}
							unit={whole ? "" : "m"}
							min={min}
							max={max}
							step={whole ? 1 : 0.05}
							digits={whole ? 0 : 2}
							onCommit={(v) => commit(edit(field, whole ? Math.round(v) : v))}
						/>
						{usual === null && (
							<button
								type="button"
								className="block w-full text-right text-second text-small underline decoration-hair underline-offset-4 disabled:no-underline"
								disabled={own}
								onClick={() => commit(edit(field, null))}
							>
								{own ? "by itself" : "leave to itself"}
							</button>
						)}
					</div>
				);
			})}
		</div>
	);
}

function OneOf({
	word,
	options,
	value,
	pick,
}: {
	word: string;
	options: readonly string[];
	value: string;
	pick: (value: string) => void;
}) {
	const id = useId();
	return (
		<div className="flex items-baseline justify-between gap-2 py-[3px]">
			<label htmlFor={id} className="text-second text-small">
				{word}
			</label>
			<select
				id={id}
				className="rounded-[3px] border border-ink/45 bg-paper text-small"
				value={value}
				onChange={(e) => pick(e.target.value)}
			>
				{options.map((o) => (
					<option key={o}>{o}</option>
				))}
			</select>
		</div>
	);
}
