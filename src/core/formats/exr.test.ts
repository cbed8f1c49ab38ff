import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { randomStream } from "../maths/hash.ts";
import { ExrError, fromHalf, readExr } from "./exr.ts";
import { lightToHalf, toHalf, writeExr } from "./exrWrite.ts";

const image = () => {
	const random = randomStream(4);
	const plane = () => Float32Array.from({ length: 37 * 41 }, () => (random() - 0.3) * 1e4);
	return {
		width: 37,
		height: 41,
		channels: [
			{ name: "R", data: plane() },
			{ name: "Z", data: plane() },
			{ name: "id", data: Uint32Array.from({ length: 37 * 41 }, (_, i) => i * 3) },
		],
		text: { title: "Salt works" },
	};
};

describe("EXR", () => {
	it("reads back what it wrote, bit for bit", () => expect(readExr(writeExr(image()))).toEqual(image()));
	it("rounds halves to nearest and back", () => {
		fc.assert(
			fc.property(fc.float({ min: -60000, max: 60000, noNaN: true }), (x) => {
				expect(Math.abs(fromHalf(toHalf(x)) - x)).toBeLessThanOrEqual(Math.max(Math.abs(x) * 2 ** -11, 2 ** -25));
			}),
		);
		expect(toHalf(1)).toBe(0x3c00);
		// A sun of 1.6e9 cd/m² is as bright as a half float can be, in files as well.
		expect([1.6e9, Infinity, -1e6, 65519].map((v) => fromHalf(lightToHalf(v)))).toEqual([65504, 65504, -65504, 65504]);
		const sun = { name: "R", data: new Float32Array([1.6e9]), half: true };
		expect(readExr(writeExr({ width: 1, height: 1, channels: [sun], text: {} })).channels[0].data[0]).toBe(65504);
		expect(fromHalf(0x7c00)).toBe(Infinity);
	});
	it("answers a damaged file with an error, never a crash", () => {
		const good = writeExr(image());
		const random = randomStream(11);
		for (let k = 0; k < 500; k++) {
			const bad = good.slice(0, random() < 0.3 ? Math.floor(random() * good.length) : good.length);
			for (let i = 0; i < 4 && bad.length; i++)
				bad[Math.floor(random() * Math.min(bad.length, random() < 0.5 ? 400 : bad.length))] = Math.floor(
					random() * 256,
				);
			try {
				readExr(bad, 1_000_000);
			} catch (error) {
				expect(error).toBeInstanceOf(ExrError);
			}
		}
	});
});
