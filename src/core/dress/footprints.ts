/** What pieces stand over, repeats included, for rules that keep away from them. */
import { isSeen } from "../doc/acts.ts";
import type { Piece } from "../doc/schema.ts";
import { keyOf } from "../maths/hash.ts";
import type { Copy } from "../shape/copies.ts";
import { copiesInWorld, outlinesFromAbove } from "../shape/place.ts";

export interface Footprint {
	x: number;
	z: number;
	/** Outlines of its convex parts beside (x, z): x and z by turns, counter-clockwise. Copies share them. */
	outlines: readonly Float64Array[];
	/** Radius of the circle about it. */
	reach: number;
	/** Digest of the outlines. */
	key: string;
}

const held = new WeakMap<Piece, Footprint[]>();

function footprintsOf(piece: Piece): Footprint[] {
	const [x, , z] = piece.position;
	const alike = new Map<string, Pick<Footprint, "outlines" | "reach" | "key">>();
	return copiesInWorld(piece).map((copy) => {
		const { turnDeg, size, mirrored } = copy;
		const by = `${turnDeg} ${size} ${mirrored}`;
		const as = alike.get(by) ?? footprintOf(piece, copy);
		alike.set(by, as);
		return { x: x + copy.x, z: z + copy.z, ...as };
	});
}

function footprintOf(piece: Piece, copy: Copy): Pick<Footprint, "outlines" | "reach" | "key"> {
	const outlines = outlinesFromAbove(piece, copy).map((outline) => Float64Array.from(outline.flat()));
	const key = keyOf("footprint", ...outlines.map((o) => [...o]));
	let reach = 0;
	for (const o of outlines) for (let i = 0; i < o.length; i += 2) reach = Math.max(reach, Math.hypot(o[i], o[i + 1]));
	return { outlines, reach, key };
}

/** Footprints of all pieces that are shown; those of a piece are made once. */
export function footprints(pieces: readonly Piece[]): Footprint[] {
	return pieces.flatMap((piece) => {
		if (!isSeen(piece)) return [];
		const own = held.get(piece) ?? footprintsOf(piece);
		held.set(piece, own);
		return own;
	});
}

/** Distance in metres from a place to a footprint, 0 over it; `most` when it is farther than that. */
export function distanceTo(f: Footprint, x: number, z: number, most = Infinity): number {
	const dx = x - f.x;
	const dz = z - f.z;
	if (Math.sqrt(dx * dx + dz * dz) - f.reach >= most) return most;
	let nearest = most;
	for (const outline of f.outlines) nearest = Math.min(nearest, distanceToOutline(outline, dx, dz));
	return nearest;
}

/** Distance from a place to a convex outline, 0 inside. */
function distanceToOutline(outline: Float64Array, x: number, y: number): number {
	const n = outline.length;
	let inside = n >= 6;
	let least = Infinity;
	for (let i = 0; i < n; i += 2) {
		const ax = outline[i];
		const ay = outline[i + 1];
		const j = i + 2 < n ? i + 2 : 0;
		const ex = outline[j] - ax;
		const ey = outline[j + 1] - ay;
		const px = x - ax;
		const py = y - ay;
		if (ex * py - ey * px < 0) inside = false;
		const t = Math.max(0, Math.min(1, (px * ex + py * ey) / (ex * ex + ey * ey || 1)));
		least = Math.min(least, (px - t * ex) ** 2 + (py - t * ey) ** 2);
	}
	return inside ? 0 : Math.sqrt(least);
}
