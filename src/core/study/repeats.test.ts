import { describe, expect, it } from "vitest";
import { hash01 } from "../maths/hash.ts";
import { repeatsOf } from "./repeats.ts";

const W = 120;
const H = 80;
const picture = (at: (x: number, y: number) => number) =>
	Float64Array.from({ length: W * H }, (_, i) => at(i % W, Math.floor(i / W)));

describe("how much a picture repeats itself", () => {
	it("is all of it, by its own period, where a tile comes again and again", () => {
		const { share, right, down } = repeatsOf(
			picture((x, y) => hash01(x % 24, y % 24)),
			W,
			H,
		);
		expect(share).toBeGreaterThan(0.95);
		expect(right % 24).toBe(0);
		expect(down % 24).toBe(0);
	});

	it("is next to nothing where nothing comes again, and light that changes slowly is no repeat", () => {
		const noise = (x: number, y: number) => hash01(x, y);
		expect(repeatsOf(picture(noise), W, H).share).toBeLessThan(0.15);
		expect(
			repeatsOf(
				picture((x, y) => noise(x, y) + 5 * (x / W) + 3 * (y / H) ** 2),
				W,
				H,
			).share,
		).toBeLessThan(0.25);
	});

	it("is as much of it as comes again", () => {
		const mixed = (k: number) => picture((x, y) => k * hash01(x % 30, y % 30) + (1 - k) * hash01(x, y, 7));
		const [half, most] = [0.5, 0.8].map((k) => repeatsOf(mixed(k), W, H).share);
		expect(half).toBeGreaterThan(0.4);
		expect(half).toBeLessThan(0.6);
		expect(most).toBeGreaterThan(half + 0.2);
	});
});
