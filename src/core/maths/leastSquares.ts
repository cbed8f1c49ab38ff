/** Least squares in a few unknowns: Levenberg (1944) and Marquardt (1963), with central differences. */

export interface Problem {
	/** Number of residuals. */
	count: number;
	/** Fills `out` with the residuals of the unknowns and returns the sum of their squares. */
	residuals: (unknowns: Float64Array, out: Float64Array) => number;
	/** Step of each unknown for its difference; also the size at which a change no longer matters, times 1e-4. */
	steps: readonly number[];
	/** Brings unknowns back into their limits. */
	limit?: (unknowns: Float64Array) => void;
}

export interface Fit {
	at: Float64Array;
	cost: number;
}

/** Columns of the derivative of the residuals after each free unknown. */
export function jacobian(problem: Problem, at: Float64Array, free: readonly number[]): Float64Array[] {
	const plus = new Float64Array(problem.count);
	const minus = new Float64Array(problem.count);
	const p = at.slice();
	return free.map((k) => {
		const h = problem.steps[k];
		p[k] = at[k] + h;
		problem.residuals(p, plus);
		p[k] = at[k] - h;
		problem.residuals(p, minus);
		p[k] = at[k];
		return plus.map((v, i) => (v - minus[i]) / (2 * h));
	});
}

export function normalMatrix(J: readonly Float64Array[]): number[][] {
	const n = J.length;
	const A = J.map(() => new Array<number>(n).fill(0));
	for (let a = 0; a < n; a++)
		for (let b = a; b < n; b++) {
			let s = 0;
			for (let i = 0; i < J[a].length; i++) s += J[a][i] * J[b][i];
			A[a][b] = s;
			A[b][a] = s;
		}
	return A;
}

/** Inverse of a small symmetric positive matrix by Gauss–Jordan, null when it is singular to working precision. */
export function inverseOf(matrix: readonly (readonly number[])[]): number[][] | null {
	const n = matrix.length;
	const scale = matrix.map((r, i) => Math.sqrt(r[i]) || 1);
	const a = matrix.map((r, i) => [...r.map((v, j) => v / scale[i] / scale[j]), ...r.map((_, j) => (i === j ? 1 : 0))]);
	for (let c = 0; c < n; c++) {
		let p = c;
		for (let r = c + 1; r < n; r++) if (Math.abs(a[r][c]) > Math.abs(a[p][c])) p = r;
		if (!(Math.abs(a[p][c]) > 1e-11)) return null;
		[a[c], a[p]] = [a[p], a[c]];
		const k = a[c][c];
		for (let j = 0; j < 2 * n; j++) a[c][j] /= k;
		for (let r = 0; r < n; r++) {
			if (r === c) continue;
			const m = a[r][c];
			for (let j = 0; j < 2 * n; j++) a[r][j] -= m * a[c][j];
		}
	}
	return a.map((r, i) => r.slice(n).map((v, j) => v / scale[i] / scale[j]));
}

/**
 * Solves A·x = g for a symmetric A with its diagonal raised by `damping` (Cholesky), into `x`. False when A is not positive
 * to working precision. `L` holds n² numbers.
 */
function solveDamped(
	A: readonly (readonly number[])[],
	g: readonly number[],
	damping: number,
	L: Float64Array,
	x: Float64Array,
): boolean {
	const n = g.length;
	for (let i = 0; i < n; i++)
		for (let j = 0; j <= i; j++) {
			let s = i === j ? A[i][i] * (1 + damping) + 1e-12 : A[i][j];
			for (let k = 0; k < j; k++) s -= L[i * n + k] * L[j * n + k];
			if (i !== j) L[i * n + j] = s / L[j * n + j];
			else if (s > 1e-13 * A[i][i]) L[i * n + i] = Math.sqrt(s);
			else return false;
		}
	for (let i = 0; i < n; i++) {
		let s = g[i];
		for (let k = 0; k < i; k++) s -= L[i * n + k] * x[k];
		x[i] = s / L[i * n + i];
	}
	for (let i = n - 1; i >= 0; i--) {
		let s = x[i];
		for (let k = i + 1; k < n; k++) s -= L[k * n + i] * x[k];
		x[i] = s / L[i * n + i];
	}
	return true;
}

/**
 * Least cost from a start, over the free unknowns. With `bound` each residual r counts as bound·√ln(1 + (r/bound)²)
 * (Cauchy's), so that one that is far off hardly pulls; the cost is then the sum of those squares.
 */
export function leastSquares(
	problem: Problem,
	start: Float64Array,
	free: readonly number[],
	most = 40,
	bound = 0,
): Fit {
	const r = new Float64Array(problem.count);
	const trial = new Float64Array(problem.count);
	const soften = (out: Float64Array, sum: number): number => {
		if (!bound) return sum;
		let s = 0;
		for (let i = 0; i < out.length; i++) {
			const q = out[i] / bound;
			s += bound * bound * Math.log1p(q * q);
		}
		return s;
	};
	const L = new Float64Array(free.length * free.length);
	const step = new Float64Array(free.length);
	let at = start.slice();
	let cost = soften(r, problem.residuals(at, r));
	let damping = 1e-3;
	for (let i = 0; i < most && damping < 1e8; i++) {
		const J = jacobian(problem, at, free);
		const weighted = r.slice();
		if (bound)
			for (let k = 0; k < r.length; k++) {
				const w = 1 / (1 + (r[k] / bound) ** 2);
				weighted[k] *= Math.sqrt(w);
				for (const column of J) column[k] *= Math.sqrt(w);
			}
		const A = normalMatrix(J);
		const g = J.map((column) => {
			let s = 0;
			for (let k = 0; k < column.length; k++) s += column[k] * weighted[k];
			return s;
		});
		let moved = false;
		let still = false;
		for (let tries = 0; tries < 8 && !moved; tries++) {
			if (!solveDamped(A, g, damping, L, step)) {
				damping *= 10;
				continue;
			}
			const next = at.slice();
			let size = 0;
			for (let k = 0; k < free.length; k++) {
				size = Math.max(size, Math.abs(step[k]) / problem.steps[free[k]]);
				next[free[k]] -= step[k];
			}
			problem.limit?.(next);
			const now = soften(trial, problem.residuals(next, trial));
			if (now <= cost) {
				still = size < 1e-4 || cost - now < 1e-14 * (1 + cost);
				at = next;
				cost = now;
				r.set(trial);
				damping = Math.max(1e-9, damping * 0.2);
				moved = true;
			} else damping *= 6;
		}
		if (!moved || still) break;
	}
	return { at, cost };
}
