import { describe, expect, it } from "vitest";
import { Lamp, LampKind } from "../../doc/schema.ts";
import { meshBounds } from "../../maths/mesh.ts";
import { LAMPS, newLamp } from "../lamp.ts";
import { hasBody, lampStrength } from "../lamps.ts";

describe.each(LampKind.options)("the lamp %s", (kind) => {
	const { aims, areaM2, body, cone, measures, hangsM } = LAMPS[kind];

	it("starts as a lamp of a document", () => {
		const lamp = newLamp("l", kind);
		expect(Lamp.parse(lamp)).toEqual(lamp);
		expect(hangsM).toBeGreaterThan(0);
	});

	it("has a strength in each unit that grows with its value, and none without any", () => {
		for (const unit of ["lumen", "candela", "lux"] as const) {
			const at = (value: number) => lampStrength(newLamp("l", kind, { strength: { value, unit, atM: 2 } }));
			expect(at(0)).toBe(0);
			expect(at(100)).toBeGreaterThan(0);
			expect(at(200)).toBeCloseTo(2 * at(100), 6);
		}
	});

	it("has measures, an area and a body, or is a place without any", () => {
		expect(areaM2([0.4, 0.4]) > 0).toBe(measures > 0);
		expect(hasBody(newLamp("l", kind))).toBe(body !== null);
		if (measures > 0) expect(areaM2([0.8, 0.8])).toBeCloseTo(4 * areaM2([0.4, 0.4]), 9);
		if (cone) expect(aims).toBe(true);
		if (!body) return;
		const bounds = meshBounds(body());
		for (let axis = 0; axis < 3; axis++) {
			expect(bounds[axis]).toBeGreaterThanOrEqual(-1.01);
			expect(bounds[axis + 3]).toBeLessThanOrEqual(1.01);
		}
	});
});
