/** Places of an entry of the land's ledger that a hand drags: its own, and those of the wheres that speak of one. */
import type { LandEntry } from "../../doc/schema.ts";

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

/** An entry one of whose places has been moved or made wider. */
export function withPlace(entry: LandEntry, n: number, change: Partial<Placed>): LandEntry {
	if (n < 0) return { ...entry, ...change } as LandEntry;
	return { ...entry, where: entry.where.map((w, i) => (i === n ? { ...w, ...change } : w)) } as LandEntry;
}
