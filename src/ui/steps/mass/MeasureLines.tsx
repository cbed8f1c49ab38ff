"use client";
/** The measures that a shape has of its own. */
import type { Edit } from "../../../core/doc/edits.ts";
import { measuresOf, type Piece } from "../../../core/doc/schema.ts";
import { foundMeasures } from "../../../core/shape/shapes.ts";
import { NumberLine, PickLine } from "../../parts/controls.tsx";
import { useShot } from "../../store/shotStore.ts";
import { EditRule } from "../EditRule.tsx";

/** What a document says of a measure; nothing where it is as usual. */
type Said = number | string | null | undefined;

/** What all of them are; not a number where they differ. */
const common = (all: readonly Said[]): Said => (all.every((v) => v === all[0]) ? all[0] : Number.NaN);

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
				const said = common(pieces.map((p) => (p.shape as Record<string, unknown>)[field] as Said));
				if (options)
					return (
						<PickLine
							key={field}
							label={word}
							options={options.map((o) => [o, o])}
							value={typeof said === "string" ? said : null}
							empty="several"
							onPick={(v) => commit(edit(field, v))}
						/>
					);
				if (of === "share")
					return (
						<div key={field} className="col-span-2">
							<EditRule
								label={word}
								value={typeof said === "number" ? said : Number(usual)}
								min={min}
								max={max}
								edit={(v) => edit(field, v)}
							/>
						</div>
					);
				const own = usual === null && said === null;
				const value = own ? common(pieces.map((p) => foundMeasures(p)[field])) : said === undefined ? usual : said;
				const whole = of !== "metres";
				return (
					<div key={field}>
						<NumberLine
							label={word}
							value={typeof value === "number" ? value : Number.NaN}
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
