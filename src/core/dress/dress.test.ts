import { describe, expect, it } from "vitest";
import { newPiece } from "../doc/defaults.ts";
import { Species } from "../doc/schema.ts";
import { meshBounds } from "../maths/mesh.ts";
import { distanceTo, footprints, repeatOffsets } from "./footprints.ts";
import { grow, speciesLimit, VARIANTS } from "./grow.ts";

describe("grown plants", () => {
	for (const species of Species.options) {
		it(`of the kind ${species} are about a metre tall, stand in the ground and differ`, () => {
			const seen = new Set<string>();
			for (let v = 0; v < VARIANTS; v++) {
				const mesh = grow(species, v);
				const b = meshBounds(mesh);
				expect(b[1]).toBeLessThan(0);
				expect(b[1]).toBeGreaterThan(-0.15);
				expect(b[4]).toBeGreaterThan(0.6);
				expect(b[4]).toBeLessThan(1.5);
				expect(mesh.indices.length / 3).toBeLessThan(1500);
				expect(Math.max(...mesh.indices)).toBeLessThan(mesh.positions.length / 3);
				for (let i = 0; i < mesh.normals.length; i += 3)
					expect(Math.hypot(mesh.normals[i], mesh.normals[i + 1], mesh.normals[i + 2])).toBeCloseTo(1, 4);
				seen.add(mesh.positions.slice(0, 60).join());
			}
			expect(seen.size).toBe(VARIANTS);
			expect(grow(species, 2)).toEqual(grow(species, 2));
			expect(speciesLimit(species)).toBeGreaterThan(1);
		});
	}
});

describe("footprints", () => {
	it("tell distances to turned boxes and to round pieces", () => {
		const [box] = footprints([newPiece("b", "box", { position: [10, 0, 0], headingDeg: 90, size: [2, 1, 6] })]);
		expect(distanceTo(box, 10, 0)).toBe(0);
		expect(distanceTo(box, 14, 0)).toBeCloseTo(1);
		expect(distanceTo(box, 10, 3)).toBeCloseTo(2);
		const [disc] = footprints([newPiece("c", "cylinder", { size: [4, 1, 4] })]);
		expect(distanceTo(disc, 5, 0)).toBeCloseTo(3);
		expect(distanceTo(disc, 1, 1)).toBe(0);
	});
	it("stand once for each copy and not for what is left out", () => {
		const row = newPiece("r", "box", { headingDeg: 90, repeat: { count: 3, step: [0, 2] } });
		expect(footprints([row])).toHaveLength(3);
		expect(repeatOffsets(row)[2][0]).toBeCloseTo(4);
		expect(footprints([{ ...row, hidden: true }])).toHaveLength(0);
	});
});
