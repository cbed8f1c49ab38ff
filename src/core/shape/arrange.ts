/** Pieces brought into line with each other, spread evenly, let fall until they rest. */
import type { Edit } from "../doc/edits.ts";
import type { Piece } from "../doc/schema.ts";
import { cameraAxes } from "../maths/axes.ts";
import { millimetres } from "../maths/functions.ts";
import { add, dot, scale, type Vec3 } from "../maths/vec.ts";
import { leanOf } from "./handPieces.ts";
import { footing, outermost, type Standing, supportsOf } from "./place.ts";
import { spotFromAbove } from "./underPoint.ts";

type EditNamed<N extends Edit["name"]> = Extract<Edit, { name: N }>;

/** A line that pieces are brought to, as the piece that stays has it: one of its sides, its middle, its foot or its top. */
export const LINES = ["left", "middle", "right", "near", "away", "foot", "top"] as const;
export type Line = (typeof LINES)[number];

/** Which of a piece's directions a line lies across, and where between its least (0) and its most (1). */
const ACROSS: Record<Line, { way: "right" | "forward" | "up"; at: number }> = {
	left: { way: "right", at: 0 },
	middle: { way: "right", at: 0.5 },
	right: { way: "right", at: 1 },
	near: { way: "forward", at: 0 },
	away: { way: "forward", at: 1 },
	foot: { way: "up", at: 0 },
	top: { way: "up", at: 1 },
};

function extent(piece: Piece, place: Standing, along: Vec3): [number, number] {
	const all = outermost({ ...piece, repeat: null }, place).map((p) => dot(p, along));
	return [Math.min(...all), Math.max(...all)];
}

function moved({ id, position }: Piece, by: Vec3): { id: string; position: Piece["position"] } {
	return { id, position: [0, 1, 2].map((c) => millimetres(position[c] + by[c])) as Piece["position"] };
}

/** Moves pieces so that their line is that of another one, in the directions of its heading. */
export function alignPieces(pieces: readonly Piece[], to: Piece, line: Line, place: Standing): EditNamed<"piece.move"> {
	const { way, at } = ACROSS[line];
	const along = cameraAxes(to.headingDeg, 0, 0)[way];
	const lineOf = (p: Piece) => {
		const [low, high] = extent(p, place, along);
		return low + (high - low) * at;
	};
	const there = lineOf(to);
	const others = pieces.filter((p) => p.id !== to.id);
	return { name: "piece.move", pieces: others.map((p) => moved(p, scale(along, there - lineOf(p)))) };
}

/** Moves those between the two that are farthest from each other so that as much is free between all of them. */
export function spreadPieces(pieces: readonly Piece[], place: Standing): EditNamed<"piece.move"> | null {
	if (pieces.length < 3) return null;
	const [first, last] = farthest(pieces);
	const [dx, dz] = [last.position[0] - first.position[0], last.position[2] - first.position[2]];
	const far = Math.hypot(dx, dz);
	if (far === 0) return null;
	const along: Vec3 = [dx / far, 0, dz / far];
	const sorted = [...pieces].sort((a, b) => dot(a.position, along) - dot(b.position, along));
	const extents = sorted.map((p) => extent(p, place, along));
	const between = sorted.slice(1, -1);
	const filled = extents.slice(1, -1).reduce((sum, [low, high]) => sum + high - low, 0);
	const free = (extents[extents.length - 1][0] - extents[0][1] - filled) / (sorted.length - 1);
	let at = extents[0][1];
	return {
		name: "piece.move",
		pieces: between.map((p, i) => {
			const [low, high] = extents[i + 1];
			const by = at + free - low;
			at += free + high - low;
			return moved(p, scale(along, by));
		}),
	};
}

/** The two pieces whose feet are farthest apart seen from above. */
function farthest(pieces: readonly Piece[]): [Piece, Piece] {
	let best: [Piece, Piece] = [pieces[0], pieces[1]];
	let most = -1;
	for (const [i, a] of pieces.entries())
		for (const b of pieces.slice(i + 1)) {
			const far = Math.hypot(a.position[0] - b.position[0], a.position[2] - b.position[2]);
			if (far > most) [best, most] = [[a, b], far];
		}
	return best;
}

/** Share of its width and depth to both sides of its foot at which is asked what is under a piece. */
const ASKED = 0.4;
/** For what is thinner it is asked farther out, metres. */
const MIN_ASKED_M = 0.05;
/** What is leaned is told in tenths of degrees. */
const TENTHS = 10;

/**
 * Leans pieces as what is under them does: what they stand on, else the ground, by its heights to both sides of each foot. Their
 * headings stay.
 */
export function leanWithUnder(pieces: readonly Piece[], place: Standing): EditNamed<"piece.turn"> {
	const round = (deg: number) => Math.round(deg * TENTHS) / TENTHS || 0;
	return {
		name: "piece.turn",
		pieces: pieces.map((piece) => {
			const { id, headingDeg, position, size } = piece;
			const { right, forward } = cameraAxes(headingDeg, 0, 0);
			const stands = piece.stands === "level" ? "ground" : piece.stands;
			const rise = (way: Vec3, across: number) => {
				const m = Math.max(MIN_ASKED_M, ASKED * Math.abs(across));
				const height = (by: number) =>
					footing({ ...piece, stands }, position[0] + way[0] * by, position[2] + way[2] * by, place);
				return (height(m) - height(-m)) / (2 * m);
			};
			const [r, f] = [rise(right, size[0]), rise(forward, size[2])];
			const { pitchDeg, rollDeg } = leanOf(headingDeg, add([0, 1, 0], add(scale(right, -r), scale(forward, -f))));
			return { id, pitchDeg: round(pitchDeg), rollDeg: round(rollDeg), rests: true };
		}),
	};
}

/** Lets pieces fall, or rise, on what is under their feet: the highest piece that is none of them and does not stand on one, or the ground. */
export function dropPieces(pieces: readonly Piece[], { ground, pieces: all = [] }: Standing): EditNamed<"piece.drop"> {
	const falling = new Set(pieces.map((p) => p.id));
	const others = all.filter((p) => !falling.has(p.id) && !supportsOf(p, all).some((s) => falling.has(s.id)));
	return {
		name: "piece.drop",
		pieces: pieces.map((p) => {
			const [x, y, z] = p.position;
			const foot = y + footing(p, x, z, { ground, pieces: all });
			// What hangs over it does not count: it falls.
			const under = others.filter((o) => !o.hidden && extent(o, { ground, pieces: all }, [0, 1, 0])[0] <= foot + 1e-3);
			const { stands } = spotFromAbove({ ground, pieces: under }, x, z);
			return { id: p.id, stands, position: [x, 0, z], rests: true };
		}),
	};
}
