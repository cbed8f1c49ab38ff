/** Pivots of groups go with their pieces: a group that is moved, turned or sized as a whole takes its own along. */
import { isDraft, original } from "immer";
import { cameraAxes } from "../../maths/axes.ts";
import { add, dot, scale, sub, type Vec3 } from "../../maths/vec.ts";
import { isIn } from "../groups.ts";
import type * as S from "../schema.ts";
import type { Doc } from "./define.ts";

type Placed = Pick<S.Piece, "position" | "headingDeg" | "pitchDeg" | "rollDeg" | "size">;

/** Where the pieces of a group that has a pivot stand, by their places in the list. */
interface Grouped {
	group: string;
	pieces: readonly (readonly [at: number, placed: Placed])[];
}

/** Distance within which a piece has gone the way of the others, metres. */
const NEAR_M = 0.02;

export function placesOfGrouped(doc: Doc): Grouped[] {
	const { groups, pieces } = (isDraft(doc) ? original(doc) : doc) as S.ShotDocument;
	return (groups ?? []).flatMap(({ id, pivot }) =>
		pivot ? [{ group: id, pieces: pieces.flatMap((p, at) => (isIn(p, id, groups) ? [[at, p] as const] : [])) }] : [],
	);
}

/** The way that a piece has gone, as it takes another place along. */
function wayOf(before: Placed, after: Placed): (place: Vec3) => Vec3 {
	const [from, to] = [before, after].map((p) => cameraAxes(p.headingDeg, p.pitchDeg, p.rollDeg));
	const by = after.size[0] / before.size[0];
	return (place) => {
		const out = sub(place, before.position);
		const turned = add(
			add(scale(to.right, dot(out, from.right)), scale(to.up, dot(out, from.up))),
			scale(to.forward, dot(out, from.forward)),
		);
		return add(after.position, scale(turned, by));
	};
}

export function carryPivots(doc: Doc, before: readonly Grouped[]): void {
	for (const { group: id, pieces } of before) {
		const group = doc.groups?.find((g) => g.id === id);
		if (!group?.pivot || pieces.length === 0) continue;
		const [[at, first]] = pieces;
		const way = wayOf(first, doc.pieces[at]);
		const together = pieces.every(([i, p]) => {
			// What stands on uneven ground goes up and down by itself.
			const [x, , z] = way(p.position);
			const there = doc.pieces[i].position;
			return Math.hypot(x - there[0], z - there[2]) < NEAR_M;
		});
		if (together) group.pivot = [...way(group.pivot)];
	}
}
