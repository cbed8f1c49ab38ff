import fc from "fast-check";
import { describe, expect, it } from "vitest";
import * as own from "./functions.ts";

const near = (a: number, b: number) => expect(Math.abs(a - b)).toBeLessThanOrEqual(1e-14 * Math.max(1, Math.abs(b)));

describe("elementary functions agree with the host's to a few ulp", () => {
	const run = (low: number, high: number, f: (x: number) => void) =>
		fc.assert(
			fc.property(fc.double({ min: low, max: high, noNaN: true }), (x) => void f(x)),
			{ numRuns: 500 },
		);

	it("exp", () => run(-700, 700, (x) => expect(Math.abs(own.exp(x) / Math.exp(x) - 1)).toBeLessThan(1e-14)));
	it("log", () => run(1e-300, 1e300, (x) => near(own.log(x), Math.log(x))));
	it("sin and cos", () => run(-1000, 1000, (x) => (near(own.sin(x), Math.sin(x)), near(own.cos(x), Math.cos(x)))));
	it("atan", () => run(-1e6, 1e6, (x) => near(own.atan(x), Math.atan(x))));
	it("asin", () => run(-1, 1, (x) => near(own.asin(x), Math.asin(x))));
	it("pow", () => run(0.001, 1000, (x) => expect(Math.abs(own.pow(x, 2.4) / x ** 2.4 - 1)).toBeLessThan(1e-13)));
	it("atan2 in all quadrants", () => {
		for (const [y, x] of [
			[1, 1],
			[1, -1],
			[-1, -1],
			[-1, 1],
			[0, -1],
			[1, 0],
			[-1, 0],
		])
			near(own.atan2(y, x), Math.atan2(y, x));
	});
});
