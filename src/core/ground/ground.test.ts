import { describe, expect, it } from "vitest";
import { blankShot } from "../doc/defaults.ts";
import { GroundPreset } from "../doc/schema.ts";
import { newCover } from "../dress/plant.ts";
import { compile } from "../scene/compile.ts";
import { ID_GROUND } from "../scene/ids.ts";
import { groundHeight, waterOver } from "./height.ts";

const water = blankShot().water;

describe("ground", () => {
	it("is the same for the same seed and another for another", () => {
		for (const preset of GroundPreset.options) {
			const at = (seed: number) => groundHeight({ preset, seed, heightM: 80 }, 812.5, -4030);
			expect(at(3)).toBe(at(3));
			expect(at(3)).not.toBe(at(4));
		}
	});
	it("lies at its own level, all of it", () => {
		for (const preset of GroundPreset.options) {
			const ground = { preset, seed: 3, heightM: 80 };
			expect(groundHeight({ ...ground, levelM: -1.5 }, 81, -40)).toBeCloseTo(groundHeight(ground, 81, -40) - 1.5, 9);
		}
	});
	it("is not there when it is left out, and nothing grows on it; what stands on it stays", () => {
		const doc = { ...blankShot(), covers: [newCover("c", "tussock")] };
		const without = compile({ ...doc, ground: { ...doc.ground, out: true } }).root;
		expect(without.draws.some((d) => d.id === ID_GROUND)).toBe(false);
		expect(without.covers).toEqual([]);
		const pieces = compile(doc).root.draws.filter((d) => d.id !== ID_GROUND);
		expect(without.draws.map((d) => d.transform)).toEqual(pieces.map((d) => d.transform));
	});
	it("tells a water that lies in it, and one that lies below all of it", () => {
		const plain = { preset: "plain" as const, seed: 1, heightM: 0 };
		const at = [3, 1.6, 9];
		expect(waterOver(plain, { levelM: 0 }, at)).toBe("in the ground");
		expect(waterOver(plain, { levelM: -0.5 }, at)).toBe("below the ground");
		expect(waterOver({ ...plain, levelM: -0.5 }, { levelM: -0.5 }, at)).toBe("in the ground");
		expect(waterOver({ ...plain, levelM: -0.9 }, { levelM: -0.5 }, at)).toBeNull();
		expect(waterOver({ preset: "ridges", seed: 1, heightM: 60 }, { levelM: 0 }, at)).toBeNull();
		// What a new shot's water is given does not lie in its plain.
		expect(waterOver(blankShot().ground, water, at)).toBe("below the ground");
	});
	it("is level where its height is 0", () => {
		expect(groundHeight({ preset: "plain", seed: 3, heightM: 0 }, 5, 9)).toBe(0);
	});
});
