/**
 * Polygons of a plane, in triangles and in convex parts. Ears are cut (Meisters 1975) such that every corner stays a corner
 * of a triangle, flat ones too: what a library leaves out for being flat would be a crack between a cap and its side.
 */
type Flat = readonly number[];

const turn = (o: Flat, a: Flat, b: Flat) => (a[0] - o[0]) * (b[1] - o[1]) - (a[1] - o[1]) * (b[0] - o[0]);

/** Twice the area: above 0 where a polygon goes round counter-clockwise. */
export const signedArea = (corners: readonly Flat[]): number =>
	corners.reduce((sum, p, i) => {
		const q = corners[(i + 1) % corners.length];
		return sum + p[0] * q[1] - p[1] * q[0];
	}, 0);

/** Corners of a polygon that goes round counter-clockwise and does not cross itself, in triangles by their numbers. */
export function trianglesOf(corners: readonly Flat[]): [number, number, number][] {
	const left = corners.map((_, i) => i);
	const out: [number, number, number][] = [];
	const scale = Math.max(
		...corners.map((p) => Math.max(Math.abs(p[0] - corners[0][0]), Math.abs(p[1] - corners[0][1]))),
	);
	/** What is flatter is no ear, but where nothing else is left. */
	const least = 1e-9 * scale * scale;
	let from = 0;
	while (left.length > 3) {
		const count = left.length;
		let cut = -1;
		for (let k = 0; k < count; k++) {
			const at = (from + k) % count;
			const [a, b, c] = [left[(at + count - 1) % count], left[at], left[(at + 1) % count]];
			if (turn(corners[a], corners[b], corners[c]) <= least) continue;
			const free = left.every(
				(i) => i === a || i === b || i === c || !holds(corners[a], corners[b], corners[c], corners[i]),
			);
			if (!free) continue;
			cut = at;
			break;
		}
		// None is left where corners lie on one line but for rounding: the first that turns the right way is taken.
		if (cut < 0)
			cut = left.findIndex(
				(_, at) =>
					turn(corners[left[(at + count - 1) % count]], corners[left[at]], corners[left[(at + 1) % count]]) > 0,
			);
		if (cut < 0) return out;
		out.push([left[(cut + count - 1) % count], left[cut], left[(cut + 1) % count]]);
		left.splice(cut, 1);
		// Ears are taken from all around, so that triangles do not all meet in one corner.
		from = cut % left.length;
	}
	if (left.length === 3) out.push([left[0], left[1], left[2]]);
	return out;
}

/** Whether a triangle holds a place, its edges included. */
const holds = (a: Flat, b: Flat, c: Flat, p: Flat): boolean =>
	turn(a, b, p) >= 0 && turn(b, c, p) >= 0 && turn(c, a, p) >= 0;

/** The same in convex parts: edges between triangles are taken away wherever they are not needed (Hertel and Mehlhorn 1983). */
export function convexParts(corners: readonly Flat[]): number[][] {
	const parts: (number[] | null)[] = trianglesOf(corners);
	const owners = new Map<string, number>();
	const own = (ring: readonly number[], part: number) => {
		for (const [i, a] of ring.entries()) owners.set(`${a} ${ring[(i + 1) % ring.length]}`, part);
	};
	for (const [i, ring] of parts.entries()) own(ring as number[], i);
	const convexAt = (ring: readonly number[], corner: number) => {
		const at = ring.indexOf(corner);
		const [before, after] = [ring[(at + ring.length - 1) % ring.length], ring[(at + 1) % ring.length]];
		return turn(corners[before], corners[corner], corners[after]) >= 0;
	};
	/** A ring from the end of one of its edges to the beginning of it, all but its last. */
	const opened = (ring: readonly number[], from: number) => {
		const at = ring.indexOf(from);
		return Array.from({ length: ring.length - 1 }, (_, k) => ring[(at + k) % ring.length]);
	};
	for (const edge of [...owners.keys()]) {
		const [a, b] = edge.split(" ").map(Number);
		const [i, j] = [owners.get(edge), owners.get(`${b} ${a}`)];
		if (i === undefined || j === undefined || i === j) continue;
		const ring = [...opened(parts[i] as number[], b), ...opened(parts[j] as number[], a)];
		if (!convexAt(ring, a) || !convexAt(ring, b)) continue;
		parts[i] = ring;
		parts[j] = null;
		owners.delete(edge);
		owners.delete(`${b} ${a}`);
		own(ring, i);
	}
	return parts.filter((ring) => ring !== null);
}
