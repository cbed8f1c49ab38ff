import { describe, expect, it } from "vitest";
import { randomStream } from "../core/maths/hash.ts";
import { emptyPicture, type Picture } from "../core/scene/picture.ts";
import { spreadSpecks } from "./specks.ts";

/** An even wall of light 10 with a little noise. */
function wall(size = 64): Picture {
	const random = randomStream(3);
	const p = emptyPicture(size, size);
	for (let i = 0; i < size * size; i++) {
		for (let c = 0; c < 3; c++) {
			p.rgb[c][i] = 10;
			p.halves[c][i] = random() - 0.5;
			p.albedo[c][i] = 0.5;
		}
		p.normal[2][i] = 1;
		p.nearness[i] = 0.2;
		p.error[i] = 0.4;
		p.counts[i] = 64;
	}
	return p;
}
const sum = (a: Float32Array) => a.reduce((s, v) => s + v, 0);
const put = (p: Picture, i: number, mean: number, half: number) => {
	for (let c = 0; c < 3; c++) {
		p.rgb[c][i] = mean;
		p.halves[c][i] = half;
	}
};

describe("specks", () => {
	it("are spread about them, and no light is lost", () => {
		const p = wall();
		put(p, 64 * 20 + 30, 1500, 1490);
		put(p, 64 * 40 + 12, 800, -790);
		const out = spreadSpecks(p);
		expect(Math.max(...out.rgb[0])).toBeLessThan(25);
		expect(sum(out.rgb[0]) / sum(p.rgb[0])).toBeCloseTo(1, 4);
		expect(sum(out.halves[1])).toBeCloseTo(sum(p.halves[1]), 0);
		expect(p.rgb[0][64 * 20 + 30]).toBe(1500);
	});
	it("are no glow of their own where one path is as bright as all others together", () => {
		const spread = (light: number) => {
			const p = wall(160);
			put(p, 160 * 80 + 80, light, light - 10);
			return spreadSpecks(p).rgb[0];
		};
		const risen = (rgb: Float32Array, x: number, y: number) => rgb[160 * y + x] / 10 - 1;
		// Half of the light is in one half, whose rise is twice that of the mean. What is more is given all the less.
		const [some, more, far] = [2e3, 4e3, 4e6].map(spread);
		expect(Math.max(...far)).toBeLessThan(10 * 1.6);
		for (const [x, y] of [
			[84, 80],
			[80, 95],
			[60, 60],
		]) {
			expect(risen(some, x, y)).toBeLessThan(0.05);
			expect(risen(more, x, y)).toBeLessThan(0.05);
			expect(risen(far, x, y)).toBeLessThan(0.001);
		}
		expect(risen(some, 84, 80)).toBeGreaterThan(0.005);
		expect(risen(more, 84, 80)).toBeGreaterThan(0.005);
	});

	it("are not lights that shine in both halves", () => {
		const p = wall();
		put(p, 64 * 20 + 30, 2000, 100);
		expect(spreadSpecks(p)).toBe(p);
	});
	it("are not the edge of a lamp that a few samples have met in one half", () => {
		const p = wall();
		for (let j = 20; j < 26; j++) for (let i = 30; i < 33; i++) put(p, 64 * j + i, 3000, i === 32 ? 2990 : 40);
		expect(spreadSpecks(p)).toBe(p);
	});
	it("do not spill over an edge onto what lies far behind", () => {
		const p = wall();
		for (let i = 0; i < 64 * 64; i++) if (i % 64 >= 32) p.nearness[i] = 0.001;
		put(p, 64 * 30 + 30, 2000, 1990);
		const out = spreadSpecks(p);
		const gain = (from: number, to: number) => {
			let s = 0;
			out.rgb[0].forEach((v, i) => {
				if (i % 64 >= from && i % 64 < to && i !== 64 * 30 + 30) s += v - p.rgb[0][i];
			});
			return s;
		};
		expect(gain(32, 64)).toBeLessThan(0.05 * gain(0, 32));
	});
});
