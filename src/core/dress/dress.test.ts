import { describe, expect, it } from "vitest";
import { newPiece } from "../doc/defaults.ts";
import { Species } from "../doc/schema.ts";
import { meshBounds } from "../maths/mesh.ts";
import { copiesInWorld } from "../shape/place.ts";
import { distanceTo, footprints } from "./footprints.ts";
import { PLANTS, VARIANTS } from "./plant.ts";

describe("grown plants", () => {
	for (const species of Species.options) {
		const { grow, limitPerM2, usual } = PLANTS[species];
		it(`of the kind ${species} are about a metre tall, stand in the ground and differ`, () => {
			const seen = new Set<string>();
			for (let v = 0; v < VARIANTS; v++) {
				const mesh = grow(v);
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
			expect(grow(2)).toEqual(grow(2));
			expect(limitPerM2).toBeGreaterThan(usual.densityPerM2);
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
		expect(distanceTo(disc, 5, 0, 2)).toBe(2);
		expect(distanceTo(disc, 1, 1)).toBe(0);
	});
	it("of what leans or lies reach as far as it does", () => {
		// A post of four metres that has fallen to its away side.
		const [post] = footprints([newPiece("p", "cylinder", { size: [0.2, 4, 0.2], pitchDeg: -90 })]);
		expect(distanceTo(post, 0, -3.9)).toBe(0);
		expect(distanceTo(post, 0, -5)).toBeCloseTo(1);
		expect(distanceTo(post, 0, 1)).toBeCloseTo(1);
		expect(distanceTo(post, 1.1, -2)).toBeCloseTo(1, 2);
		// Rolled by a right angle it lies to the right.
		const [rolled] = footprints([newPiece("p", "box", { size: [0.2, 4, 0.2], rollDeg: 90 })]);
		expect(distanceTo(rolled, 3.9, 0)).toBe(0);
		expect(distanceTo(rolled, -1, 0)).toBeCloseTo(1);
	});
	it("stand once for each copy and not for what is left out", () => {
		const row = newPiece("r", "box", { headingDeg: 90, repeat: { kind: "row", count: 3, step: [0, 2] } });
		expect(footprints([row])).toHaveLength(3);
		expect(copiesInWorld(row)[2].x).toBeCloseTo(4);
		expect(footprints([{ ...row, hidden: true }])).toHaveLength(0);
	});
});
