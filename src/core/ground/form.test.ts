import { describe, expect, it } from "vitest";
import { newPiece } from "../doc/defaults.ts";
import { type Ground, LandEntry } from "../doc/schema.ts";
import { geometryOf } from "../shape/shapes.ts";
import { deviationOf } from "./deviation.ts";
import { FormError, formFromAbove, overhangWords } from "./form.ts";
import { groundHeight } from "./height.ts";
import { newEntry } from "./ledger/ledger.ts";
import { holdPicture } from "./pictures.ts";

/** Triangles of a shape of a size, at a place. */
function corners(kind: "box" | "cone" | "sphere", [w, h, d]: number[], [x, y, z]: number[]): number[] {
	const { positions, indices } = geometryOf(newPiece("a", kind)).mesh;
	return [...indices].flatMap((i) => [
		positions[3 * i] * w + x,
		positions[3 * i + 1] * h + y,
		positions[3 * i + 2] * d + z,
	]);
}
const seen = (...all: number[][]) => formFromAbove(Float64Array.from(all.flat()));

describe("a form from above", () => {
	it("has the heights of a cone, and none beside it", () => {
		const { x, z, metres, size, tops, overhangs } = seen(corners("cone", [20, 8, 20], [5, 1, -30]));
		expect([x, z]).toEqual([5, -30].map((v) => expect.closeTo(v, 6)));
		const step = metres / size;
		for (let n = 0; n < size * size; n += 37) {
			const [px, pz] = [(n % size) + 0.5, Math.floor(n / size) + 0.5].map((v) => v * step - metres / 2);
			const r = Math.hypot(px, pz);
			if (r < 9.5) expect(Math.abs(tops[n] - (1 + 8 * (1 - r / 10)))).toBeLessThan(0.15);
			else if (r > 10.5) expect(tops[n]).toBeNaN();
		}
		expect(overhangs).toBe(0);
	});
	it("tells what hangs over, and by how much", () => {
		// A slab on a post: four fifths of it hang in the air.
		const form = seen(corners("box", [10, 1, 10], [0, 6, 0]), corners("box", [2, 6, 2], [0, 0, 0]));
		expect(form.overhangs).toBeGreaterThan(0.9);
		expect(form.overhangM).toBeCloseTo(6, 3);
		expect(overhangWords(form)).toMatch(/^9\d % of it hangs over, by up to 6\.0 m: land cannot/);
		expect(overhangWords({ overhangs: 0.001, overhangM: 3 })).toBe("");
	});
	it("that has no faces is refused", () => {
		expect(() => seen([])).toThrow(FormError);
		expect(() => seen([0, 0, 0, 0, 1, 0, 0, 2, 0])).toThrow(/no faces/);
	});
});

describe("land by a form", () => {
	const form = seen(corners("sphere", [60, 24, 60], [0, -12, -80]));
	const file = { file: "8".repeat(64), name: "form", widthPx: form.size, heightPx: form.size, bits: 32 };
	const most = form.tops.filter((v) => !Number.isNaN(v)).reduce((m, v) => Math.max(m, v));
	holdPicture(
		{ ...file, as: "heights" },
		{ width: form.size, height: form.size, values: form.tops.map((v) => (Number.isNaN(v) ? 0 : v / most)) },
	);
	const laid = LandEntry.parse({
		...newEntry("map", "form", form.x, form.z),
		...{ files: { heights: file, colours: null, mask: null }, x: form.x, z: form.z, acrossM: form.metres },
		...{ leastM: 0, mostM: most, featherM: 0, how: "higher", headingDeg: 0 },
	});
	const flat: Ground = { preset: "plain", seed: 1, heightM: 0, ledger: [laid] };
	const eye = [0, 2, 0] as const;
	it("keeps to it, and tells how far what happened since has moved it", () => {
		expect(groundHeight(flat, 0, -80)).toBeCloseTo(12, 0);
		expect(deviationOf(flat, "form", eye, 6e-4)).toEqual({ meanM: 0, mostM: 0, mostPx: 0 });
		const swell = LandEntry.parse({ ...newEntry("swell", "s", 0, 0), heightM: 1, sizeM: 8, rough: 0.5 });
		const rough = deviationOf({ ...flat, ledger: [laid, swell] }, "form", eye, 6e-4);
		expect(rough?.mostM).toBeGreaterThan(0.2);
		expect(rough?.mostM).toBeLessThan(1.5);
		expect(rough?.meanM).toBeLessThan(rough?.mostM as number);
		expect(rough?.mostPx).toBeGreaterThan((rough?.mostM as number) / (6e-4 * 120));
		expect(deviationOf(flat, "none", eye, 6e-4)).toBeNull();
	});
});
