import { describe, expect, it } from "vitest";
import { inWords } from "./PrintReader.tsx";

const facts = {
	name: "Tool shed",
	rgb: [1, 1, 1] as [number, number, number],
	luminance: 1234.5,
	depthM: 53.21,
	normal: null,
	albedo: null,
	id: 9,
	shares: [],
	samples: null,
	noise: null,
};

describe("what lies under the pointer, in words", () => {
	it("begins with what it is, how far and how bright", () => {
		expect(inWords(facts)).toBe("Tool shed · 53.2 m · 1,235 cd/m²");
	});
	it("tells colour, samples and how sure it is where the file knows", () => {
		expect(inWords({ ...facts, luminance: 0.01234, albedo: [0.4, 0.3, 0.2], samples: 64, noise: 0.034 })).toBe(
			"Tool shed · 53.2 m · 0.0123 cd/m² · albedo 0.40 0.30 0.20 · 64 samples · ± 3.4 %",
		);
		expect(inWords({ ...facts, noise: 0.25 })).toContain("± 25 %");
	});
	it("names both sides of an outline with their shares", () => {
		const shares = [
			{ id: 9, share: 0.7, name: "Tool shed" },
			{ id: 0, share: 0.3, name: "Sky" },
		];
		expect(inWords({ ...facts, shares })).toMatch(/^Tool shed 70 % and Sky 30 % · 53/);
		expect(inWords({ ...facts, shares: shares.slice(0, 1) })).toMatch(/^Tool shed · /);
	});
	it("leaves out the distance of the sky, and numbers what has no name any more", () => {
		expect(inWords({ ...facts, name: "Sky", depthM: null })).toBe("Sky · 1,235 cd/m²");
		expect(inWords({ ...facts, name: null })).toMatch(/^piece 9 /);
	});
});
