import { describe, expect, it } from "vitest";
import { blankShot } from "../../core/doc/defaults.ts";
import { compile } from "../../core/scene/compile.ts";
import { skyHarmonics, skyWithoutSun } from "./harmonics.ts";

type Direction = [number, number, number];

/** Irradiance on a plane from nine coefficients, by the convolution weights of the method's source. */
function irradiance(sh: number[][], [x, y, z]: Direction): number {
	const L = sh.map((c) => c[1]);
	return (
		Math.PI * 0.282095 * L[0] +
		((2 * Math.PI) / 3) * 0.488603 * (y * L[1] + z * L[2] + x * L[3]) +
		(Math.PI / 4) *
			(1.092548 * (x * y * L[4] + y * z * L[5] + x * z * L[7]) +
				0.315392 * (3 * z * z - 1) * L[6] +
				0.546274 * (x * x - y * y) * L[8])
	);
}

const noSun = { sunDirection: [0, 1, 0] as Direction, sunLux: [0, 0, 0] as Direction };

describe("the sky's light in nine numbers", () => {
	it("of an even sky lights a plane that looks up by π, one that looks down by what the ground sends back", () => {
		const sh = skyHarmonics(() => [1, 1, 1], noSun, null);
		expect(irradiance(sh, [0, 1, 0])).toBeGreaterThan(0.93 * Math.PI);
		expect(irradiance(sh, [0, 1, 0])).toBeLessThan(1.05 * Math.PI);
		// A ground of albedo 0.3 under an irradiance of π sends a luminance of 0.3 back.
		expect(irradiance(sh, [0, -1, 0]) / (0.3 * Math.PI)).toBeGreaterThan(0.7);
		expect(irradiance(sh, [0, -1, 0]) / (0.3 * Math.PI)).toBeLessThan(1.3);
	});

	it("of a sky that is brighter on one side light what faces it, within a tenth of the sum over the sky", () => {
		const sky = (d: readonly number[]) => {
			const L = 1 + 0.8 * d[0];
			return [L, L, L];
		};
		const sh = skyHarmonics(sky, noSun, null);
		for (const n of [
			[0, 1, 0],
			[0.6, 0.8, 0],
			[-0.6, 0.8, 0],
			[0, 0.8, 0.6],
		] as Direction[]) {
			let want = 0;
			const rows = 200;
			const columns = 400;
			for (let j = 0; j < rows; j++)
				for (let i = 0; i < columns; i++) {
					const y = 1 - (2 * (j + 0.5)) / rows;
					const s = Math.sqrt(1 - y * y);
					const a = (2 * Math.PI * (i + 0.5)) / columns;
					const d = [s * Math.sin(a), y, -s * Math.cos(a)];
					const c = d[0] * n[0] + d[1] * n[1] + d[2] * n[2];
					if (c > 0) want += (y > 0 ? sky(d)[1] : 0.3) * c * ((4 * Math.PI) / (rows * columns));
				}
			expect(irradiance(sh, n) / want).toBeGreaterThan(0.9);
			expect(irradiance(sh, n) / want).toBeLessThan(1.1);
		}
	});

	it("take in the sun as what the ground sends back of it, and what water mirrors of the sky", () => {
		const dark = () => [0, 0, 0];
		const lit = skyHarmonics(dark, { sunDirection: [0, 1, 0], sunLux: [1000, 1000, 1000] }, null);
		expect(irradiance(lit, [0, -1, 0])).toBeGreaterThan(200);
		expect(irradiance(lit, [0, -1, 0])).toBeLessThan(400);
		const wet = skyHarmonics(() => [1, 1, 1], noSun, { levelM: 0, waves: [], absorbPerM: [0, 0, 0] });
		expect(irradiance(wet, [0, -1, 0])).toBeGreaterThan(0.3 * Math.PI);
	});

	it("are read from a compiled scene without its sun: bright up, never below zero", () => {
		const { root, parts } = compile(blankShot());
		const sky = skyWithoutSun(root.dome, parts);
		for (let i = 0; i < 50; i++) {
			const y = (i + 0.5) / 50;
			const s = Math.sqrt(1 - y * y);
			const L = sky([s * Math.sin(i), y, s * Math.cos(i)]);
			expect(L.every((v) => v >= 0 && Number.isFinite(v))).toBe(true);
		}
		const sh = skyHarmonics(sky, root.dome, root.water);
		expect(irradiance(sh, [0, 1, 0])).toBeGreaterThan(1000);
	});
});
