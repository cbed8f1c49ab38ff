/** Places of an entry of the land's ledger that a hand drags: its own, and those of the wheres that speak of one. */
import type { LandEntry } from "../../doc/schema.ts";
import { millimetres } from "../../maths/functions.ts";

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
