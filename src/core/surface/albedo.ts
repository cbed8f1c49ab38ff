/**
 * Directional albedo of a bare GGX interface, split as E(F0) = F0·A + B (after Karis 2013), by quadrature over visible
 * normals (Heitz 2018). The tracer gives back with it what single scattering loses (Turquin 2019).
 */
import { cos, sin } from "../maths/functions.ts";

export const ALBEDO_SIZE = 32;
const F0 = 0.04;
const STRATA = 20;

let memo: Float32Array | null = null;

/**
 * ALBEDO_SIZE² pairs (A, B), rows by √alpha and columns by √cosine, then ALBEDO_SIZE mean albedos of a dielectric of
 * index 1.5 by row, the lost part given back.
 */
export function albedoTables(): Float32Array {
	if (memo) return memo;
	const n = ALBEDO_SIZE;
	const out = new Float32Array(n * n * 2 + n);
	for (let j = 0; j < n; j++) {
		const alpha = Math.max(1e-3, (j / (n - 1)) ** 2);
		for (let i = 0; i < n; i++) {
			const [a, b] = split(Math.max(1e-3, (i / (n - 1)) ** 2), alpha);
			out[(j * n + i) * 2] = a;
			out[(j * n + i) * 2 + 1] = b;
		}
		out[n * n * 2 + j] = meanPlain(out, j);
	}
	memo = out;
	return out;
}

const lambda = (z: number, alpha: number) => 0.5 * (Math.sqrt(1 + (alpha * alpha * (1 - z * z)) / (z * z)) - 1);

function split(z: number, alpha: number): [number, number] {
	const x = Math.sqrt(1 - z * z);
	const l = 1 / Math.sqrt(alpha * alpha * x * x + z * z);
	const vx = alpha * x * l;
	const vz = z * l;
	const q = 0.5 * (1 + vz);
	const lo = lambda(z, alpha);
	let sumA = 0;
	let sumB = 0;
	for (let s = 0; s < STRATA; s++) {
		for (let t = 0; t < STRATA; t++) {
			const rad = Math.sqrt((s + 0.5) / STRATA);
			const phi = (2 * Math.PI * (t + 0.5)) / STRATA;
			const p1 = rad * cos(phi);
			const p2 = (1 - q) * Math.sqrt(Math.max(0, 1 - p1 * p1)) + q * rad * sin(phi);
			const p3 = Math.sqrt(Math.max(0, 1 - p1 * p1 - p2 * p2));
			// t1 = (0, 1, 0), t2 = (−vz, 0, vx) for a view in the plane y = 0
			const nx = alpha * (-p2 * vz + p3 * vx);
			const ny = alpha * p1;
			const nz = Math.max(1e-6, p2 * vx + p3 * vz);
			const k = 1 / Math.sqrt(nx * nx + ny * ny + nz * nz);
			const vh = Math.max(0, (x * nx + z * nz) * k);
			const iz = 2 * vh * nz * k - z;
			if (iz <= 0) continue;
			const g = (1 + lo) / (1 + lo + lambda(iz, alpha));
			const f = (1 - vh) ** 5;
			sumA += (1 - f) * g;
			sumB += f * g;
		}
	}
	return [sumA / STRATA ** 2, sumB / STRATA ** 2];
}

/** 2∫E(μ)μ dμ of a plain dielectric in row j, read from the table as the tracer reads it. */
function meanPlain(table: Float32Array, j: number): number {
	const n = ALBEDO_SIZE;
	const steps = 512;
	let sum = 0;
	for (let s = 0; s < steps; s++) {
		const mu = (s + 0.5) / steps;
		const x = Math.sqrt(mu) * (n - 1);
		const i = Math.min(n - 2, Math.floor(x));
		const at = (j * n + i) * 2;
		const a = table[at] + (table[at + 2] - table[at]) * (x - i);
		const b = table[at + 1] + (table[at + 3] - table[at + 1]) * (x - i);
		const e1 = Math.max(1e-3, a + b);
		sum += ((F0 * a + b) * (1 + (F0 * (1 - e1)) / e1) * 2 * mu) / steps;
	}
	return sum;
}
