/** Places of an entry of the land's ledger that a hand drags: its own, and those of the wheres that speak of one. */
import type { LandEntry } from "../../doc/schema.ts";
import { atan2, cos, DEG, millimetres, sin } from "../../maths/functions.ts";
import { deepM } from "./map/entry.ts";

/** A place and how far about it something holds, metres. */
export interface LandPlace {
	/** −1 is the entry's own; others count its wheres. */
	n: number;
	x: number;
	z: number;
	radiusM: number;
	featherM: number;
}

type Placed = Omit<LandPlace, "n">;

const hasPlace = (of: object): of is Placed => "radiusM" in of && "x" in of && "z" in of;

export function placesOf(entry: LandEntry): LandPlace[] {
	const all: [number, object][] = [[-1, entry], ...entry.where.map((w, n): [number, object] => [n, w])];
	return all.flatMap(([n, of]) => {
		if (!hasPlace(of)) return [];
		const { x, z, radiusM, featherM } = of;
		return [{ n, x, z, radiusM, featherM }];
	});
}

type Spot = readonly [number, number];

/** Places that an entry leads from one to the next, right and towards; null where it has none. */
export const lineOf = (entry: LandEntry): readonly Spot[] | null => ("points" in entry ? entry.points : null);

/** An entry that leads by other places. */
export const withLine = (entry: LandEntry, points: readonly Spot[]): LandEntry =>
	({ ...entry, points: points.map(([x, z]) => [millimetres(x), millimetres(z)]) }) as LandEntry;

/** An entry one of whose places has been moved or made wider. */
export function withPlace(entry: LandEntry, n: number, change: Partial<Placed>): LandEntry {
	if (n < 0) return { ...entry, ...change } as LandEntry;
	return { ...entry, where: entry.where.map((w, i) => (i === n ? { ...w, ...change } : w)) } as LandEntry;
}

/** A rectangle of the land whose upper edge lies along a heading, metres. */
export interface LandQuad {
	x: number;
	z: number;
	headingDeg: number;
	acrossM: number;
	deepM: number;
}

/** The rectangle that an entry is laid over; null where it has none. */
export const quadOf = (entry: LandEntry): LandQuad | null =>
	"acrossM" in entry ? { ...entry, deepM: deepM(entry) } : null;

/** Corners of a rectangle in turn, from its upper left one. */
export function cornersOf({ x, z, headingDeg, acrossM, deepM: deep }: LandQuad): Spot[] {
	const [c, s] = [cos(headingDeg * DEG), sin(headingDeg * DEG)];
	return [
		[-1, -1],
		[1, -1],
		[1, 1],
		[-1, 1],
	].map(([a, b]) => {
		const [right, down] = [(a * acrossM) / 2, (b * deep) / 2];
		return [x + right * c - down * s, z + right * s + down * c];
	});
}

/** An entry whose rectangle has been led by a corner to a place: about its middle, larger or smaller, and turned. */
export function withCorner(entry: LandEntry, corner: number, [tx, tz]: Spot): LandEntry {
	const quad = quadOf(entry);
	if (!quad || !("acrossM" in entry)) return entry;
	const [cx, cz] = cornersOf(quad)[corner];
	const [ax, az, bx, bz] = [cx - quad.x, cz - quad.z, tx - quad.x, tz - quad.z];
	const times = Math.sqrt((bx * bx + bz * bz) / (ax * ax + az * az));
	const turn = (atan2(bz, bx) - atan2(az, ax)) / DEG;
	const headingDeg = Math.round(10 * (((quad.headingDeg + turn + 540) % 360) - 180)) / 10;
	const acrossM = Math.min(1e6, Math.max(1, Math.round(10 * entry.acrossM * times) / 10));
	return { ...entry, acrossM, headingDeg };
}
