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

/** Bodies whose directions differ by more, degrees, meet with an edge, not with a side. */
const TURNED_DEG = 0.5;

/** How far the directions of two headings are from each other, degrees; a quarter turn is none. */
const turnedBy = (a: number, b: number): number => {
	const off = (((a - b) % 90) + 90) % 90;
	return Math.min(off, 90 - off);
};

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

/** A body of a heading that is in the way. */
interface Other {
	name: string;
	headingDeg: number;
	places: readonly Vec3[];
}

/** What a move comes to along one way. */
interface Found {
	off: number;
	words: string;
}

/** The nearest of others along a way of a heading, for what is moved with a heading of its own. */
function nearest(
	others: readonly Other[],
	own: readonly Vec3[],
	ownDeg: number,
	wayDeg: number,
	word: "right" | "away",
	reachM: number,
): Found | null {
	const { right, forward } = cameraAxes(wayDeg, 0, 0);
	const way = word === "right" ? right : forward;
	const [low, high] = extentOf(own, way);
	const edge = turnedBy(ownDeg, wayDeg) > TURNED_DEG;
	let best: Found | null = null;
	for (const other of others) {
		const [from, end] = extentOf(other.places, way);
		// Of one that is turned against the way only the middle is in line with anything.
		const lines = LINES.filter((l) => l.at === 0.5 || turnedBy(other.headingDeg, wayDeg) <= TURNED_DEG);
		for (const mine of LINES)
			for (const theirs of lines) {
				const off = from + (end - from) * theirs.at - (low + (high - low) * mine.at);
				if (Math.abs(off) > reachM || (best && Math.abs(best.off) <= Math.abs(off))) continue;
				best = {
					off,
					words: `${edge && mine.at !== 0.5 ? "edge" : mine.words[word]} to the ${theirs.words[word]} of ${other.name}`,
				};
			}
	}
	return best;
}

/**
 * A move over the ground, brought to what is nearest within a reach in metres: a side, an edge or the middle of what is
 * moved to one of another piece, along the right and the away of the first piece that is moved or, where that is nearer,
 * along those of a piece that is turned against it; where none is near, its foot to a whole metre.
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
	const others = near.map(
		(p): Other => ({ name: p.name, headingDeg: p.headingDeg, places: outermost({ ...p, repeat: null }, place) }),
	);
	const turned = others.filter((o) => turnedBy(o.headingDeg, first.headingDeg) > TURNED_DEG);
	const words = ["right", "away"] as const;
	const along = (wayDeg: number, among: readonly Other[]) => ({
		wayDeg,
		found: words.map((word) => nearest(among, own, first.headingDeg, wayDeg, word, reachM)),
	});
	const off = ({ found }: ReturnType<typeof along>) =>
		Math.min(...found.map((f) => (f ? Math.abs(f.off) : reachM * 2)));
	const ways = [along(first.headingDeg, others), ...turned.map((o) => along(o.headingDeg, [o]))];
	const { wayDeg, found } = ways.reduce((a, b) => (off(b) < off(a) ? b : a));
	const axes = cameraAxes(wayDeg, 0, 0);
	let by: Vec3 = [0, 0, 0];
	const told: string[] = [];
	for (const [i, word] of words.entries()) {
		const way = word === "right" ? axes.right : axes.forward;
		const foot = dot(first.position, way);
		const whole = Math.round(foot);
		let best = found[i];
		// Metres are counted along its own directions.
		if (!best && wayDeg === first.headingDeg && Math.abs(whole - foot) <= reachM)
			best = { off: whole - foot, words: `${whole} m ${word}` };
		if (!best) continue;
		by = add(by, scale(way, best.off));
		told.push(best.words);
	}
	const pieces = edit.pieces.map((p) => ({ ...p, position: add(p.position, by) as Piece["position"] }));
	return { edit: { ...edit, pieces }, told };
}
