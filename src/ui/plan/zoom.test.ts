import { describe, expect, it } from "vitest";
import { roundMetres, WHOLE, zoomedAt } from "./zoom.ts";

describe("enlarging plan and section", () => {
	it("keeps the place under the pointer, there and back", () => {
		const on = (z: typeof WHOLE, x: number) => x * z.k + z.x;
		const z = zoomedAt(zoomedAt(WHOLE, 3, 120, 40), 2, 60, 90);
		expect(z.k).toBe(6);
		const before = (60 - zoomedAt(WHOLE, 3, 120, 40).x) / 3;
		expect(on(z, before)).toBeCloseTo(60, 9);
		const back = zoomedAt(z, 1 / 6, 60, 90);
		expect(back.k).toBeCloseTo(1, 9);
		expect(zoomedAt(WHOLE, 1e9, 0, 0).k).toBe(200);
		expect(zoomedAt(WHOLE, 0, 0, 0).k).toBe(0.2);
	});
	it("tells round distances", () => {
		expect([0.13, 0.4, 4, 9, 13, 26, 80, 240].map(roundMetres)).toEqual([0.1, 0.5, 5, 10, 10, 20, 100, 200]);
	});
});
