import { describe, expect, it } from "vitest";
import { ShotDocument } from "../src/core/doc/schema.ts";
import type { Planes } from "../src/tracer/denoise.ts";
import { detailOf, errorsOf, samplesFor } from "./errors.ts";
import { HELD_OUT } from "./heldOut.ts";

const SIZE = 10_000;
const planes = (of: (i: number, c: number) => number): Planes =>
	[0, 1, 2].map((c) => Float32Array.from({ length: SIZE }, (_, i) => of(i, c))) as Planes;
/** Numbers of no pattern with a mean of 0 and a variance of 1. */
const chance = (i: number, c: number, seed: number) => {
	const of = Math.sin(i * 12.9898 + c * 78.233 + seed * 37.719) * 43758.5453;
	return Math.sqrt(12) * (of - Math.floor(of) - 0.5);
};

describe("errors against the truth", () => {
	it("are none of the truth itself, and that of the noise of a noisy one", () => {
		const truth = planes((i) => 1 + (i % 7));
		expect(errorsOf(truth, truth)).toEqual({ all: 0, most: 0, mean: 1 });
		// A tenth of each value's own size.
		const noisy = planes((i, c) => (1 + (i % 7)) * (1 + 0.1 * chance(i, c, 1)));
		const { all, most, mean } = errorsOf(truth, noisy);
		expect(all).toBeGreaterThan(0.0085);
		expect(all).toBeLessThan(0.0105);
		expect(most).toBeLessThan(all);
		expect(mean).toBeCloseTo(1, 2);
	});

	it("have the worst thousandth of the pixels apart", () => {
		const truth = planes(() => 1);
		const specks = planes((i) => (i % 1250 === 0 ? 1000 : 1));
		const { all, most } = errorsOf(truth, specks);
		expect(all).toBeGreaterThan(700);
		expect(most).toBe(0);
	});

	it("are not told by a sun's disc alone", () => {
		const sun = (v: number) => planes((i) => (i < 10 ? 60_000 : v));
		const { most, mean } = errorsOf(sun(1), sun(1.1));
		expect(most).toBeCloseTo(0.01, 3);
		expect(mean).toBeCloseTo(1.1, 2);
	});

	it("of the mean of two pictures are told by how far it is from one of them", () => {
		const truth = planes(() => 2);
		const [a, b] = [1, 2].map((seed) => planes((i, c) => 2 + 0.2 * chance(i, c, seed)));
		const both = planes((i, c) => (a[c][i] + b[c][i]) / 2);
		expect(errorsOf(both, a).all / errorsOf(truth, both).all).toBeGreaterThan(0.9);
		expect(errorsOf(both, a).all / errorsOf(truth, both).all).toBeLessThan(1.1);
	});
});

describe("fine detail", () => {
	const WIDTH = 100;
	/** A wire over every tenth column of the upper half; nothing below. */
	const wires = (dark: number, below: (i: number, c: number) => number = () => 1) =>
		planes((i, c) => (i >= SIZE / 2 ? below(i, c) : i % 10 === 0 ? dark : 1));
	it("is all there in the truth, and none of it where there is none", () => {
		expect(detailOf(wires(0.2), wires(0.2), WIDTH)).toEqual({ kept: 1, made: 0 });
	});
	it("is kept by as much as its contrast is, in stops", () => {
		// Half as many stops of it.
		expect(detailOf(wires(0.2), wires(Math.sqrt(0.21) - 0.01), WIDTH).kept).toBeCloseTo(0.5, 1);
		expect(
			detailOf(
				wires(0.2),
				planes(() => 1),
				WIDTH,
			).kept,
		).toBeCloseTo(0, 6);
		// Noise neither keeps nor takes it.
		const noisy = wires(0.2).map((p, c) => p.map((v, i) => v * (1 + 0.05 * chance(i, c, 3)))) as Planes;
		expect(detailOf(wires(0.2), noisy, WIDTH).kept).toBeCloseTo(1, 1);
	});
	it("that is not true is told by how far it stands out", () => {
		const made = detailOf(
			wires(0.2),
			wires(0.2, (i, c) => 1 + 0.1 * chance(i, c, 4)),
			WIDTH,
		).made;
		// A tenth is a seventh of a stop; three colours lie apart.
		expect(made).toBeGreaterThan(0.07);
		expect(made).toBeLessThan(0.15);
	});
});

describe("the samples that it takes to be off by so little", () => {
	const row = [4, 8, 16, 32].map((samples) => ({ samples, off: 2 / samples }));

	it("are between two that are known, or on along the last of them", () => {
		expect(samplesFor(row, 0.25)).toBeCloseTo(8, 9);
		expect(samplesFor(row, 2 / 11.3)).toBeCloseTo(11.3, 9);
		expect(samplesFor(row, 2 / 100)).toBeCloseTo(100, 6);
		expect(samplesFor(row, 1)).toBeCloseTo(2, 9);
	});

	it("are not told where more are no nearer", () => {
		expect(samplesFor([...row, { samples: 64, off: 0.1 }], 0.05)).toBeNull();
	});
});

describe("the shots that are held out", () => {
	it("are ten valid ones, each with a picture of its own", () => {
		const shots = Object.entries(HELD_OUT);
		expect(shots).toHaveLength(10);
		for (const [name, make] of shots) expect(ShotDocument.parse(make()), name).toEqual(make());
		expect(new Set(shots.map(([, make]) => make().title)).size).toBe(10);
	});
});
