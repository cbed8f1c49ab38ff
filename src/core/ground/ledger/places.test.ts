import { describe, expect, it } from "vitest";
import { LandEntry, LandWhere } from "../../doc/schema.ts";
import { newEntry } from "./ledger.ts";
import { placesOf, withPlace } from "./places.ts";
import { LAND_WHERES, whereOf } from "./where.ts";

describe("places of an entry", () => {
	const near = LAND_WHERES["near a place"].usual(3, -20);
	const patches = LAND_WHERES["in patches"].usual(0, 0);
	const entry = LandEntry.parse({ ...newEntry("level", "l", 10, -40), where: [patches, near] });

	it("are its own and those of its wheres, each by its number", () => {
		expect(placesOf(entry).map(({ n, x, z }) => [n, x, z])).toEqual([
			[-1, 10, -40],
			[1, 3, -20],
		]);
		expect(placesOf(newEntry("swell", "s", 0, 0))).toEqual([]);
	});
	it("are moved and made wider one by one; the entry stays one that a document takes", () => {
		const moved = withPlace(entry, -1, { x: 12, z: -30 });
		expect(placesOf(moved)[0]).toMatchObject({ x: 12, z: -30, radiusM: 8 });
		expect(placesOf(moved)[1]).toEqual(placesOf(entry)[1]);
		const wider = withPlace(moved, 1, { radiusM: 44 });
		expect(placesOf(wider)[1]).toMatchObject({ x: 3, radiusM: 44 });
		expect(placesOf(wider)[0]).toEqual(placesOf(moved)[0]);
		expect(LandEntry.parse(wider)).toEqual(wider);
		expect(placesOf(entry)[0].x).toBe(10);
	});
	it("are set by numbers that a document holds at both ends", () => {
		for (const kind of Object.keys(LAND_WHERES) as LandWhere["kind"][]) {
			const { usual, fields, sentence } = whereOf({ kind });
			for (const { value, min, max, times = 1 } of fields)
				for (const end of [min, max]) {
					const where = LandWhere.parse({ ...usual(0, 0), [value]: end / times });
					expect(sentence(where)).not.toMatch(/NaN|undefined/);
				}
		}
	});
});
