import { describe, expect, it } from "vitest";
import { meansAround, sumsAround } from "./around.ts";

const [WIDTH, HEIGHT] = [7, 5];
const plane = Float64Array.from({ length: WIDTH * HEIGHT }, (_, i) => (i * 37) % 11);

describe("pixels about each", () => {
	it("are summed over a square, of those that there are", () => {
		for (const reach of [0, 1, 3, 9]) {
			const sums = sumsAround(plane, WIDTH, reach);
			const means = meansAround(plane, WIDTH, reach);
			for (let y = 0; y < HEIGHT; y++)
				for (let x = 0; x < WIDTH; x++) {
					const there: number[] = [];
					for (let j = 0; j < HEIGHT; j++)
						for (let i = 0; i < WIDTH; i++)
							if (Math.abs(i - x) <= reach && Math.abs(j - y) <= reach) there.push(plane[j * WIDTH + i]);
					const sum = there.reduce((s, v) => s + v, 0);
					expect(sums[y * WIDTH + x]).toBe(sum);
					expect(means[y * WIDTH + x]).toBeCloseTo(sum / there.length, 12);
				}
		}
	});
	it("leave the plane as it was", () => {
		const before = plane.slice();
		meansAround(plane, WIDTH, 2);
		expect(plane).toEqual(before);
	});
});
