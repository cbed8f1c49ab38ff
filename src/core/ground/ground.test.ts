import { describe, expect, it } from "vitest";
import { blankShot } from "../doc/defaults.ts";
import { GroundPreset } from "../doc/schema.ts";
import { groundHeight } from "./height.ts";
import { groundMeshForLens } from "./meshForLens.ts";

const water = blankShot().water;

describe("ground", () => {
	it("is the same for the same seed and another for another", () => {
		for (const preset of GroundPreset.options) {
			const at = (seed: number) => groundHeight({ preset, seed, heightM: 80 }, 812.5, -4030);
			expect(at(3)).toBe(at(3));
			expect(at(3)).not.toBe(at(4));
		}
	});
	it("is level where its height is 0", () => {
		expect(groundHeight({ preset: "plain", seed: 3, heightM: 0 }, 5, 9)).toBe(0);
	});
	it("meshes with all faces up, its vertices on the height field and finer towards the lens", () => {
		const ground = { preset: "plain" as const, seed: 2, heightM: 3 };
		const { mesh: m } = groundMeshForLens(
			ground,
			water,
			{ x: 10, z: -4, headingDeg: 30, halfFieldDeg: 35 },
			{ rings: 60, spokesInView: 40, spokesOutside: 12 },
		);
		for (let i = 0; i < m.positions.length; i += 3) {
			expect(m.normals[i + 1]).toBeGreaterThan(0);
			const y = groundHeight(ground, 10 + m.positions[i], -4 + m.positions[i + 2]);
			expect(Math.abs(m.positions[i + 1] - y)).toBeLessThan(0.01 + Math.abs(m.positions[i]) * 1e-4);
		}
	});
});
