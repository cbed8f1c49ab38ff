/** What is drawn for a match, moved by pixels of the picture. */
import type { Edit } from "../doc/edits.ts";
import type { Match } from "../doc/schema.ts";

/** Moves an end of a line; null when there is no such line. */
export function nudgeLineEnd({ lines }: Match, id: string, end: 1 | 2, dx: number, dy: number): Edit | null {
	const line = lines.find((l) => l.id === id);
	if (!line) return null;
	const moved =
		end === 1 ? { ...line, x1: line.x1 + dx, y1: line.y1 + dy } : { ...line, x2: line.x2 + dx, y2: line.y2 + dy };
	return { name: "match.changeLine", line: moved };
}

/** Moves the top of a known size, so that its height is trimmed; a circle whole; the horizon up, or about its middle. */
export function nudgeMark({ measures, circles, horizon }: Match, id: string, dx: number, dy: number): Edit | null {
	const measure = measures?.find((m) => m.id === id);
	if (measure) return { name: "match.putMeasure", measure: { ...measure, x2: measure.x2 + dx, y2: measure.y2 + dy } };
	const circle = circles?.find((c) => c.id === id);
	if (circle) return { name: "match.putCircle", circle: { ...circle, x: circle.x + dx, y: circle.y + dy } };
	if (id !== "horizon" || !horizon) return null;
	const { yLeft, yRight } = horizon;
	return { name: "match.setHorizon", horizon: { yLeft: yLeft + dy + dx, yRight: yRight + dy - dx } };
}
