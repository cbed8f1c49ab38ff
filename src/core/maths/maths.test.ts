import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { hash01, keyOf, randomStream, stableJson } from "./hash.ts";
import { meshBounds, tintByte } from "./mesh.ts";
import { fractal2, noise2, ridged2 } from "./noise.ts";
import { invert, placement, transformPoint, type Vec3 } from "./vec.ts";

describe("keys of parts", () => {
	it("are the same for the same values in any order of names, and others for others", () => {
		expect(keyOf("a", { x: 1, y: [2, 3] })).toBe(keyOf("a", { y: [2, 3], x: 1 }));
		expect(keyOf("a", { x: 1 })).not.toBe(keyOf("a", { x: 1.0000001 }));
		expect(keyOf("a", 1, 2)).not.toBe(keyOf("a", [1, 2], 0));
		expect(stableJson({ b: undefined, a: null })).toBe('{"a":null}');
	});
	it("do not meet among a hundred thousand", () => {
		const keys = new Set(Array.from({ length: 100_000 }, (_, i) => keyOf("k", i % 317, Math.floor(i / 317))));
		expect(keys.size).toBe(100_000);
	});
});

describe("seeded numbers", () => {
	it("fill 0 to 1 evenly", () => {
		const random = randomStream(4);
		const bins = new Array(10).fill(0);
		for (let i = 0; i < 20_000; i++) bins[Math.floor(random() * 10)]++;
		for (const b of bins) expect(Math.abs(b - 2000)).toBeLessThan(200);
		let sum = 0;
		for (let i = 0; i < 10_000; i++) sum += hash01(i, 7, 3);
		expect(sum / 10_000).toBeCloseTo(0.5, 1);
	});
});

describe("noise", () => {
	it("is continuous, of mean about 0 and bounded", () => {
		let sum = 0;
		for (let i = 0; i < 4000; i++) {
			const x = (i % 63) * 0.37;
			const y = Math.floor(i / 63) * 0.41;
			const v = noise2(x, y, 5);
			sum += v;
			expect(Math.abs(v)).toBeLessThan(1.6);
			expect(Math.abs(noise2(x + 1e-5, y, 5) - v)).toBeLessThan(1e-3);
		}
		expect(Math.abs(sum / 4000)).toBeLessThan(0.05);
	});
	it("repeats with its period, in sums too", () => {
		expect(noise2(0.3, 0.7, 9, 4)).toBeCloseTo(noise2(4.3, -3.3, 9, 4), 12);
		expect(fractal2(0.3, 0.7, 9, 4, 0.5, 3)).toBeCloseTo(fractal2(3.3, 6.7, 9, 4, 0.5, 3), 12);
		expect(ridged2(0.4, 0.2, 1, 5)).toBeGreaterThanOrEqual(0);
	});
});

describe("placements", () => {
	const number = fc.double({ min: -50, max: 50, noNaN: true });
	const size = fc.double({ min: 0.01, max: 20, noNaN: true });
	it("are undone by their inverse", () => {
		fc.assert(
			fc.property(
				number,
				number,
				number,
				fc.double({ min: 0, max: 360, noNaN: true }),
				size,
				size,
				(x, y, z, h, w, d) => {
					const m = placement([x, y, z], h, [w, 1.5, d]);
					const p: Vec3 = [0.3, 0.7, -0.2];
					transformPoint(invert(m), transformPoint(m, p)).forEach((v, i) => void expect(v).toBeCloseTo(p[i], 8));
				},
			),
		);
	});
	it("turn clockwise seen from above and refuse what has no volume", () => {
		const m = placement([0, 0, 0], 90, [1, 1, 1]);
		const ahead = transformPoint(m, [0, 0, -1]);
		expect(ahead[0]).toBeCloseTo(1);
		expect(() => invert(placement([0, 0, 0], 0, [0, 1, 1]))).toThrow(/volume/);
	});
});

describe("meshes", () => {
	it("know their bounds, and tints their bytes", () => {
		expect(
			meshBounds({
				positions: Float32Array.from([1, 2, 3, -1, 5, 0]),
				normals: new Float32Array(6),
				indices: new Uint32Array(0),
			}),
		).toEqual([-1, 2, 0, 1, 5, 3]);
		expect([tintByte(0), tintByte(0.25), tintByte(1), tintByte(9)]).toEqual([0, 128, 255, 255]);
	});
});
