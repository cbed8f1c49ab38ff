import { describe, expect, it } from "vitest";
import { blankShot } from "../doc/defaults.ts";
import { namesOfIds } from "../scene/ids.ts";
import { placesOverFrame, sharesOf } from "./shares.ts";

describe("shares of the frame", () => {
	it("are counts over all places, and 100 together", () => {
		const doc = { ...blankShot(), pieces: blankShot().pieces.slice(0, 2) };
		const shares = sharesOf(namesOfIds(doc), [0, 0, 1, 4, 4, 4, 4, 1], [Infinity, Infinity, 3, 9, 8, 7, 9, 5]);
		expect(shares.map((s) => s.percent)).toEqual([25, 25, 0, 0, 50]);
		expect(shares[4]).toMatchObject({ number: 4, id: "staff-1", name: "Staff, 1 to 2 m", nearM: 7 });
		expect(shares.map((s) => s.nearM)).toEqual([Infinity, 3, Infinity, Infinity, 7]);
	});
	it("are asked at places that lie evenly over the frame, one to a cell", () => {
		const places = placesOverFrame(blankShot(), 40);
		const down = places.length / 2 / 40;
		expect(down).toBe(Math.round(40 / 1.85));
		const cells = new Set<number>();
		for (let i = 0; i < places.length; i += 2) {
			expect(places[i]).toBeGreaterThanOrEqual(0);
			expect(places[i]).toBeLessThan(1);
			cells.add(Math.floor(places[i] * 40) + 40 * Math.floor(places[i + 1] * down));
		}
		expect(cells.size).toBe(40 * down);
	});
});
