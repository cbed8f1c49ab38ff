/** Pieces that are moved, brought to what is near: sides, middles and corners of others, whole metres. */
import { isSeen } from "../doc/acts.ts";
import type { Edit } from "../doc/edits.ts";
import type { Piece } from "../doc/schema.ts";
import { cameraAxes } from "../maths/axes.ts";
import { add, dot, scale, type Vec3 } from "../maths/vec.ts";
import { outermost, type Standing } from "./place.ts";

type Move = Extract<Edit, { name: "piece.move" }>;

export interface Snapped {
	edit: Move;
	/** What it came to, in words; empty where nothing is near. */
	told: string[];
}

/** What of a body can come to what of another one, as shares between its least and its most along a way. */
const LINES = [
	{ at: 0, words: { right: "left side", away: "near side" } },
	{ at: 0.5, words: { right: "middle", away: "middle" } },
	{ at: 1, words: { right: "right side", away: "away side" } },
] as const;

/** Others are looked at whose feet are within so much more than both are large, metres. */
const BESIDE_M = 4;

const extentOf = (places: readonly Vec3[], way: Vec3): [number, number] => {
	let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
	for (const p of places) {
		const v = dot(p, way);
		low = Math.min(low, v);
		high = Math.max(high, v);
	}
	return [low, high];
};

const size = (p: Piece): number => Math.hypot(...p.size);

/**
 * A move over the ground, brought to what is nearest within a reach in metres: along the right and the away of the first
 * piece that is moved, a side or the middle of what is moved to one of another piece; where none is near, its foot to a whole
 * metre.
 */
export function snapMove(edit: Move, { ground, pieces: all = [] }: Standing, reachM: number): Snapped {
	const to = new Map(edit.pieces.map((p) => [p.id, p.position]));
	const moved = all.flatMap((p): Piece[] => {
		const position = to.get(p.id);
		return position ? [{ ...p, position }] : [];
	});
	const [first] = moved;
	if (!first) return { edit, told: [] };
	const place = { ground, pieces: all };
	const own = moved.flatMap((p) => outermost(p, place));
	const reach = Math.max(...moved.map(size));
	const near = all.filter(
		(p) =>
			!to.has(p.id) &&
			isSeen(p) &&
			Math.hypot(p.position[0] - first.position[0], p.position[2] - first.position[2]) < size(p) + reach + BESIDE_M,
	);
	const places = near.map((p) => outermost({ ...p, repeat: null }, place));
	const axes = cameraAxes(first.headingDeg, 0, 0);
	let by: Vec3 = [0, 0, 0];
	const told: string[] = [];
	for (const [word, way] of [
		["right", axes.right],
		["away", axes.forward],
	] as const) {
		const [low, high] = extentOf(own, way);
		let best: { off: number; words: string } | null = null;
		for (const [i, other] of near.entries()) {
			const [from, end] = extentOf(places[i], way);
			for (const mine of LINES)
				for (const theirs of LINES) {
					const off = from + (end - from) * theirs.at - (low + (high - low) * mine.at);
					if (Math.abs(off) > reachM || (best && Math.abs(best.off) <= Math.abs(off))) continue;
					best = { off, words: `${mine.words[word]} to the ${theirs.words[word]} of ${other.name}` };
				}
		}
		const foot = dot(first.position, way);
		const whole = Math.round(foot);
		if (!best && Math.abs(whole - foot) <= reachM) best = { off: whole - foot, words: `${whole} m ${word}` };
		if (!best) continue;
		by = add(by, scale(way, best.off));
		told.push(best.words);
	}
	const pieces = edit.pieces.map((p) => ({ ...p, position: add(p.position, by) as Piece["position"] }));
	return { edit: { ...edit, pieces }, told };
}
