"use client";
/** What is set of something in the document: words to pick, numbers that are dragged on thin rules, the others side by side. */
import type { Edit } from "../../core/doc/edits.ts";
import type { NumberField, PickField } from "../../core/doc/field.ts";
import { NumberLine, PickLine } from "../parts/controls.tsx";
import { useShot } from "../store/shotStore.ts";
import { EditRule } from "./EditRule.tsx";

export function FieldLines<T extends object>({
	of,
	fields,
	picks = [],
	edit,
}: {
	of: T;
	fields: readonly NumberField<T>[];
	picks?: readonly PickField<T>[];
	edit: (changed: T) => Edit;
}) {
	const { commit } = useShot.getState();
	const values = of as unknown as Record<string, number | undefined>;
	const words = of as unknown as Record<string, string | undefined>;
	const lines = fields.map(({ value, times = 1, whole, ruled, logarithmic, ...line }) => {
		const name = String(value);
		return {
			line: { ...line, value: (values[name] ?? 0) * times },
			name,
			ruled,
			logarithmic,
			edit: (v: number) => edit({ ...of, [name]: whole ? Math.round(v) : v / times }),
		};
	});
	return (
		<>
			{picks
				.filter(({ matters }) => matters?.(of) ?? true)
				.map(({ label, value, options }) => (
					<PickLine
						key={String(value)}
						label={label}
						options={options}
						value={words[String(value)] ?? options[0][0]}
						onPick={(word) => commit(edit({ ...of, [value]: word }))}
					/>
				))}
			{lines.map(
				({ name, line, ruled, logarithmic, edit }) =>
					ruled && <EditRule key={name} {...line} logarithmic={logarithmic} edit={edit} />,
			)}
			<div className="grid grid-cols-2 gap-x-3">
				{lines.map(
					({ name, line, ruled, edit }) =>
						!ruled && <NumberLine key={name} {...line} onCommit={(v) => commit(edit(v))} />,
				)}
			</div>
		</>
	);
}
