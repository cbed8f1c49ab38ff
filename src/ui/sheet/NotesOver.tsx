/** Strokes and words that are written on a reference. */
import type { Note } from "../../core/doc/schema.ts";

export function NotesOver({
	notes,
	large,
	chosen,
	onDown,
}: {
	notes: readonly Note[];
	large?: boolean;
	chosen?: string | null;
	onDown?: (id: string, e: React.PointerEvent) => void;
}) {
	if (notes.length === 0) return null;
	return (
		<svg
			aria-hidden
			className="absolute inset-0 h-full w-full overflow-visible"
			style={{ pointerEvents: onDown ? "auto" : "none" }}
		>
			{notes.map((note) => {
				const grab = onDown && {
					onPointerDown: (e: React.PointerEvent) => onDown(note.id, e),
					style: { cursor: "move" },
				};
				if (note.kind === "words")
					return (
						<text
							key={note.id}
							x={`${note.at[0] * 100}%`}
							y={`${note.at[1] * 100}%`}
							fontSize={large ? 18 : 10}
							fill="#1d1c1a"
							stroke="#f3f1ec"
							strokeWidth={large ? 4 : 2.5}
							paintOrder="stroke"
							strokeLinejoin="round"
							fontStyle="italic"
							textDecoration={chosen === note.id ? "underline" : undefined}
							{...grab}
						>
							{note.words}
						</text>
					);
				const d = note.points
					.map(([x, y], i) => `${i ? "L" : "M"}${(x * 1000).toFixed(1)} ${(y * 1000).toFixed(1)}`)
					.join("");
				return (
					<svg
						key={note.id}
						aria-hidden
						viewBox="0 0 1000 1000"
						preserveAspectRatio="none"
						width="100%"
						height="100%"
						className="overflow-visible"
					>
						{[
							["#000", large ? 5 : 3],
							["#fff", large ? (chosen === note.id ? 4 : 2.2) : 1.4],
						].map(([stroke, width]) => (
							<path
								key={stroke}
								d={d}
								fill="none"
								stroke={stroke as string}
								strokeWidth={width}
								vectorEffect="non-scaling-stroke"
								strokeLinecap="round"
								strokeLinejoin="round"
								{...grab}
							/>
						))}
					</svg>
				);
			})}
		</svg>
	);
}
