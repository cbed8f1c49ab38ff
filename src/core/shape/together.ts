/** What hands do with several pieces as one: turned, leaned and sized about a common place, grouped, set there once more. */
import type { Edit } from "../doc/edits.ts";
import { groupOfAll, piecesIn, takenAs } from "../doc/groups.ts";
import type { Group, Piece, ShotDocument } from "../doc/schema.ts";
import { groundHeight } from "../ground/height.ts";
import { anglesOf, cameraAxes } from "../maths/axes.ts";
import { acos, cos, DEG, millimetres, sin, wrapDeg } from "../maths/functions.ts";
import { add, cross, dot, length, scale, sub, type Vec3 } from "../maths/vec.ts";
import { scaledRepeat } from "./copies.ts";
import { footing, pieceFrames, type Standing } from "./place.ts";
import { scaledShape } from "./shapes.ts";

type EditNamed<N extends Edit["name"]> = Extract<Edit, { name: N }>;
type Doc = Pick<ShotDocument, "pieces" | "groups" | "ground">;

/** The middle of pieces' feet, as a place whose height counts from what is below. */
export function middleOfFeet(pieces: readonly Piece[]): Vec3 {
	const mean = (i: 0 | 2) => pieces.reduce((sum, p) => sum + p.position[i], 0) / Math.max(1, pieces.length);
	return [mean(0), 0, mean(2)];
}

/** About which pieces are turned and sized together: the pivot of the group that they are, else the middle of their feet. */
export const pivotOf = (pieces: readonly Piece[], doc: Doc): Vec3 =>
	groupOfAll(pieces, doc)?.pivot ?? middleOfFeet(pieces);

/** A pivot's place in the world. */
export const pivotInWorld = ([x, up, z]: Vec3, { ground }: Pick<Doc, "ground">): Vec3 => [
	x,
	up + groundHeight(ground, x, z),
	z,
];

/** Turns pieces together by degrees, clockwise seen from above, about a place. Turned back, all is as it was. */
export function turnTogether(pieces: readonly Piece[], byDeg: number, [ax, , az]: Vec3): EditNamed<"piece.turn"> {
	const [c, s] = [cos(byDeg * DEG), sin(byDeg * DEG)];
	return {
		name: "piece.turn",
		pieces: pieces.map(({ id, position: [x, y, z], headingDeg }) => ({
			id,
			headingDeg: wrapDeg(headingDeg + byDeg),
			position: [ax + c * (x - ax) - s * (z - az), y, az + s * (x - ax) + c * (z - az)],
		})),
	};
}

/** The turn that brings the upright to a direction of length 1, by the shortest way (Rodrigues' formula). */
function fromUpright(towards: Vec3): (v: Vec3) => Vec3 {
	const axis = cross([0, 1, 0], towards);
	const far = length(axis);
	// Straight up nothing is turned; straight down it is turned about the right.
	const k: Vec3 = far > 1e-9 ? scale(axis, 1 / far) : [1, 0, 0];
	const angle = acos(Math.max(-1, Math.min(1, towards[1])));
	const [c, s] = [cos(angle), sin(angle)];
	return (v) => add(add(scale(v, c), scale(cross(k, v), s)), scale(k, dot(k, v) * (1 - c)));
}

/**
 * Leans pieces together about a place in the world, so that what was upright points along a direction. Each is turned as a
 * body: it rests no more, and stays as high over what it stands on as it comes to be.
 */
export function leanTogether(
	pieces: readonly Piece[],
	about: Vec3,
	towards: Vec3,
	place: Standing,
): EditNamed<"piece.turn"> {
	const turn = fromUpright(towards);
	return {
		name: "piece.turn",
		pieces: pieces.map((p) => {
			const [m] = pieceFrames({ ...p, repeat: null }, place);
			const [x, y, z] = add(about, turn(sub([m[3], m[7], m[11]], about)));
			const { right, up, forward } = cameraAxes(p.headingDeg, p.pitchDeg, p.rollDeg);
			const angles = anglesOf({ right: turn(right), up: turn(up), forward: turn(forward) });
			return {
				id: p.id,
				...angles,
				headingDeg: wrapDeg(angles.headingDeg),
				rests: false,
				position: [x, y - footing(p, x, z, place), z],
			};
		}),
	};
}

/** Makes pieces together larger or smaller about a place, all their lengths a multiple of what they were. */
export function scaleTogether(pieces: readonly Piece[], by: number, about: Vec3): EditNamed<"piece.scale"> {
	return {
		name: "piece.scale",
		pieces: pieces.map((p) => ({
			id: p.id,
			position: [0, 1, 2].map((c) => about[c] + (p.position[c] - about[c]) * by) as Piece["position"],
			size: p.size.map((v) => Math.max(0.001, v * by)) as Piece["size"],
			repeat: scaledRepeat(p.repeat, by),
			shape: scaledShape(p.shape, by),
		})),
	};
}

/** Pieces as a group of one who stands in a group that was entered, or in none; groups of them are groups in it. */
export function groupPieces(
	pieces: readonly Piece[],
	{ groups = [] }: Pick<ShotDocument, "groups">,
	entered: string | null,
	id: string,
): EditNamed<"group.make"> {
	const taken = pieces.map((p) => takenAs(p, entered, groups));
	const inner = new Set(taken.flatMap((g) => g?.id ?? []));
	const numbered = new Set(groups.map((g) => g.name));
	let number = groups.length + 1;
	while (numbered.has(`Group ${number}`)) number++;
	return {
		name: "group.make",
		group: { id, name: `Group ${number}`, ...(entered !== null && { group: entered }) },
		pieces: pieces.filter((_, i) => !taken[i]).map((p) => p.id),
		groups: [...inner],
	};
}

/** Between what stands there and what is set beside it once more, as a part of its width. */
const GAP = 0.2;

/**
 * Each of some pieces once more, to the right of them, with the groups that they are; what stood on one of them stands on
 * its like. They may share the shapes of those that they are like.
 */
export function onceMore(
	pieces: readonly Piece[],
	doc: Doc,
	shared: boolean,
	newId: () => string,
): EditNamed<"piece.add"> {
	const chosen = new Set(pieces.map((p) => p.id));
	const whole = (doc.groups ?? []).filter((g) => {
		const own = piecesIn(doc, g.id);
		return own.length > 0 && own.every((p) => chosen.has(p.id));
	});
	const ids = new Map([...pieces, ...whole].map(({ id }) => [id, newId()]));
	const like = (id: string | undefined) => (id === undefined ? undefined : (ids.get(id) ?? id));
	const aside = asideOf(pieces);
	const groups = whole.map((g): Group => {
		const group = like(g.group);
		const { group: _, pivot, ...rest } = g;
		const moved = pivot && ([pivot[0] + aside, pivot[1], pivot[2]] satisfies Group["pivot"]);
		return {
			...rest,
			id: ids.get(g.id) as string,
			...(group !== undefined && { group }),
			...(moved && { pivot: moved }),
		};
	});
	return {
		name: "piece.add",
		pieces: pieces.map((p): Piece => {
			const { shared: before, group, ...rest } = p;
			const [x, y, z] = p.position;
			return {
				...rest,
				id: ids.get(p.id) as string,
				position: [millimetres(x + aside), y, z],
				stands: typeof p.stands === "string" ? p.stands : { on: like(p.stands.on) as string },
				...(group !== undefined && { group: like(group) }),
				...(shared && { shared: before ?? p.id }),
			};
		}),
		...(groups.length > 0 && { groups }),
	};
}

function asideOf(pieces: readonly Piece[]): number {
	if (pieces.length === 1) return pieces[0].size[0] * (1 + GAP);
	const reach = (p: Piece) => Math.max(p.size[0], p.size[2]) / 2;
	const low = Math.min(...pieces.map((p) => p.position[0] - reach(p)));
	const high = Math.max(...pieces.map((p) => p.position[0] + reach(p)));
	return (high - low) * (1 + GAP);
}
