/** A line drawn over a frame, as an eye sees it: headings and rises. */
import { type FrameOfView, rayThrough } from "../../../lens/camera.ts";
import { atan2, DEG } from "../../../maths/functions.ts";
import type { Point } from "../../underPoint.ts";

/** How far a line may go astray where points of it are left out, as a share of the frame's height; and how near headings may lie. */
const ASTRAY = 0.0004;
const LEAST_DEG = 0.01;
/** Of the frame's width. */
const LEAST_WIDE = 0.03;

/** Points of a drawn line that tell it: the others lie near enough to it (Ramer 1972; Douglas and Peucker 1973). */
export function fewerPoints(points: readonly Point[], astray = ASTRAY): Point[] {
	if (points.length < 3) return [...points];
	const [a, b] = [points[0], points[points.length - 1]];
	const [ex, ey] = [b.x - a.x, b.y - a.y];
	const long = Math.hypot(ex, ey) || 1e-12;
	let [worst, at] = [0, 0];
	for (let i = 1; i + 1 < points.length; i++) {
		const off = Math.abs(ex * (points[i].y - a.y) - ey * (points[i].x - a.x)) / long;
		if (off > worst) [worst, at] = [off, i];
	}
	if (worst <= astray) return [a, b];
	return [...fewerPoints(points.slice(0, at + 1), astray).slice(0, -1), ...fewerPoints(points.slice(at), astray)];
}

/** A direction's heading in degrees about another one, and its rise over run. */
function seen([x, y, z]: readonly number[], aboutDeg: number): [number, number] {
	const heading = atan2(x, -z) / DEG;
	const off = ((((heading - aboutDeg + 180) % 360) + 360) % 360) - 180;
	return [aboutDeg + off, y / Math.max(1e-9, Math.hypot(x, z))];
}

/**
 * The line of a stroke over a frame, left to right; of places one over the other the highest. Null where it is too short to be one.
 */
export function skylineOf(view: FrameOfView, stroke: readonly Point[], most: number): [number, number][] | null {
	const xs = stroke.map((p) => p.x);
	if (Math.max(...xs) - Math.min(...xs) < LEAST_WIDE) return null;
	const aboutDeg = atan2(view.forward[0], -view.forward[2]) / DEG;
	const sorted = fewerPoints(stroke)
		.map(({ x, y }) => seen(rayThrough(view, x, y), aboutDeg))
		.sort(([a], [b]) => a - b);
	const line: [number, number][] = [];
	for (const [heading, rise] of sorted) {
		const last = line[line.length - 1];
		if (last && heading - last[0] < LEAST_DEG) last[1] = Math.max(last[1], rise);
		else line.push([heading, rise]);
	}
	if (line.length < 2) return null;
	const every = Math.ceil(line.length / most);
	return line.filter((_, i) => i % every === 0 || i === line.length - 1).slice(0, most);
}
