import { describe, expect, it } from "vitest";
import { GroundPreset } from "../../doc/schema.ts";
import { hash32 } from "../../maths/hash.ts";
import { groundHeight } from "../height.ts";
import { PRESETS } from "../preset.ts";

const places = Array.from({ length: 400 }, (_, i) =>
	[hash32(i) % 16000, hash32(i + 7777) % 16000].map((v) => v - 8000),
);

describe.each(GroundPreset.options)("the ground preset %s", (preset) => {
	const { height, colour, mostM, stepM, says } = PRESETS[preset];

	it("is nearly level at height 0, rises with its height and is the same for the same seed", () => {
		const spread = (heightM: number, seed = 3) => {
			const all = places.map(([x, z]) => groundHeight({ preset, seed, heightM }, x, z));
			return Math.max(...all) - Math.min(...all);
		};
		expect(spread(0)).toBeLessThan(0.1);
		expect(spread(mostM)).toBeGreaterThan(spread(mostM / 4));
		expect(spread(mostM)).toBeLessThan(3 * mostM);
		expect(height(812.5, -403, 3, mostM)).toBe(height(812.5, -403, 3, mostM));
		expect(spread(mostM, 4)).not.toBe(spread(mostM, 3));
	});

	it("is smooth enough to be meshed: no steps between places a millimetre apart", () => {
		for (const [x, z] of places) {
			const step = Math.abs(height(x, z, 3, mostM) - height(x + 0.001, z, 3, mostM));
			expect(step).toBeLessThan(0.02);
		}
	});

	it("has colours that a ground can have", () => {
		for (const [x, z] of places)
			for (const v of colour(x, height(x, z, 3, mostM), z, 3, 0.3)) {
				expect(v).toBeGreaterThan(0);
				expect(v).toBeLessThan(0.9);
			}
	});

	it("is told to a person in words and steps", () => {
		expect(says).toMatch(/\.$/);
		expect(stepM).toBeGreaterThan(0);
		expect(mostM).toBeGreaterThan(stepM);
	});
});
