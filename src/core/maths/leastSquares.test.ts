import { describe, expect, it } from "vitest";
import { inverseOf, jacobian, leastSquares, normalMatrix, type Problem } from "./leastSquares.ts";

/** A problem from a function that fills in residuals. */
const problem = (
	count: number,
	steps: number[],
	fill: (u: Float64Array, out: Float64Array) => void,
	limit?: Problem["limit"],
): Problem => ({
	count,
	steps,
	limit,
	residuals: (u, out) => {
		fill(u, out);
		return out.reduce((s, v) => s + v * v, 0);
	},
});

const XS = [0, 1, 2, 3, 4, 5, 6, 7];
/** y = 2 + 3x with a known bump at one place. */
const line = (bump: number): Problem =>
	problem(XS.length, [1e-4, 1e-4], (u, out) => {
		for (const [i, x] of XS.entries()) out[i] = u[0] + u[1] * x - (2 + 3 * x + (i === 5 ? bump : 0));
	});

describe("least squares in a few unknowns", () => {
	it("finds a line through places in one step, from anywhere", () => {
		for (const start of [
			[0, 0],
			[-1e3, 40],
		]) {
			const { at, cost } = leastSquares(line(0), new Float64Array(start), [0, 1]);
			expect(at[0]).toBeCloseTo(2, 6);
			expect(at[1]).toBeCloseTo(3, 6);
			expect(cost).toBeLessThan(1e-10);
		}
	});

	it("goes down Rosenbrock's valley", () => {
		const valley = problem(2, [1e-5, 1e-5], (u, out) => {
			out[0] = 10 * (u[1] - u[0] * u[0]);
			out[1] = 1 - u[0];
		});
		const { at } = leastSquares(valley, new Float64Array([-1.2, 1]), [0, 1], 200);
		expect(at[0]).toBeCloseTo(1, 4);
		expect(at[1]).toBeCloseTo(1, 4);
	});

	it("leaves alone what is not free, and never costs more than its start", () => {
		const start = new Float64Array([7, 0]);
		const { at, cost } = leastSquares(line(0), start, [1]);
		expect(at[0]).toBe(7);
		expect(start).toEqual(new Float64Array([7, 0]));
		// The best slope through an intercept of 7 by the formula for one unknown.
		const slope = XS.reduce((s, x) => s + x * (2 + 3 * x - 7), 0) / XS.reduce((s, x) => s + x * x, 0);
		expect(at[1]).toBeCloseTo(slope, 6);
		const out = new Float64Array(XS.length);
		expect(cost).toBeLessThan(line(0).residuals(start, out));
	});

	it("keeps unknowns within their limits", () => {
		const low = problem(
			1,
			[1e-4],
			(u, out) => {
				out[0] = u[0] - 5;
			},
			(u) => {
				u[0] = Math.min(3, u[0]);
			},
		);
		expect(leastSquares(low, new Float64Array([0]), [0]).at[0]).toBeCloseTo(3, 6);
	});

	it("hardly heeds one place that is far off when residuals are bounded", () => {
		const pulled = leastSquares(line(50), new Float64Array([2, 3]), [0, 1]).at;
		const bounded = leastSquares(line(50), new Float64Array([2, 3]), [0, 1], 60, 0.5).at;
		expect(Math.abs(pulled[1] - 3)).toBeGreaterThan(1);
		expect(bounded[0]).toBeCloseTo(2, 1);
		expect(bounded[1]).toBeCloseTo(3, 1);
	});

	it("has the covariance of a straight line's fit as the books give it", () => {
		const J = jacobian(line(0), new Float64Array([2, 3]), [0, 1]);
		const C = inverseOf(normalMatrix(J)) as number[][];
		const n = XS.length;
		const mean = XS.reduce((s, x) => s + x, 0) / n;
		const sxx = XS.reduce((s, x) => s + (x - mean) ** 2, 0);
		expect(C[1][1]).toBeCloseTo(1 / sxx, 8);
		expect(C[0][0]).toBeCloseTo(1 / n + (mean * mean) / sxx, 8);
		expect(C[0][1]).toBeCloseTo(-mean / sxx, 8);
		expect(C[1][0]).toBeCloseTo(C[0][1], 14);
	});
});

describe("the inverse of a small matrix", () => {
	it("times the matrix is the unit, for unknowns of very different size", () => {
		const A = [
			[4e8, 200, 3],
			[200, 9, 0.01],
			[3, 0.01, 1e-4],
		];
		const B = inverseOf(A) as number[][];
		for (let i = 0; i < 3; i++)
			for (let j = 0; j < 3; j++) {
				const v = A[i].reduce((s, a, k) => s + a * B[k][j], 0);
				const size = Math.sqrt(A[i][i] / A[j][j]);
				expect(v / size).toBeCloseTo((i === j ? 1 : 0) / size, 6);
			}
	});
	it("is null where the unknowns cannot be told apart", () => {
		expect(
			inverseOf([
				[1, 2],
				[2, 4],
			]),
		).toBeNull();
		expect(inverseOf([[0]])).toBeNull();
	});
});
