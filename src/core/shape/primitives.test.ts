import { describe, expect, it } from "vitest";
import { PieceKind } from "../doc/schema.ts";
import { isRound, primitiveMesh } from "./primitives.ts";

/** Signed volume by the divergence theorem: positive when all faces look outwards. */
function volume(kind: PieceKind, coarse = false): number {
	const m = primitiveMesh(kind, coarse);
	let v = 0;
	for (let t = 0; t < m.indices.length; t += 3) {
		const [a, b, c] = [0, 1, 2].map((k) => m.positions.subarray(m.indices[t + k] * 3, m.indices[t + k] * 3 + 3));
		v += a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0]);
	}
	return v / 6;
}

describe("primitives", () => {
	it("are closed, look outwards and have the volume of their solid", () => {
		const pi = Math.PI;
		const known: Record<PieceKind, number> = { box: 1, wedge: 0.5, cylinder: pi / 4, cone: pi / 12, sphere: pi / 6 };
		for (const kind of PieceKind.options) expect(volume(kind) / known[kind]).toBeCloseTo(1, 1.5);
	});
	it("are nearly that of few faces, where they are drawn small", () => {
		for (const kind of PieceKind.options) {
			expect(volume(kind, true) / volume(kind)).toBeGreaterThan(isRound(kind) ? 0.93 : 0.999);
			expect(volume(kind, true) / volume(kind)).toBeLessThanOrEqual(1 + 1e-9);
			if (isRound(kind))
				expect(primitiveMesh(kind, true).indices.length).toBeLessThan(0.5 * primitiveMesh(kind).indices.length);
		}
	});
	it("have normals on the side of their faces", () => {
		for (const kind of PieceKind.options) {
			const m = primitiveMesh(kind);
			for (let t = 0; t < m.indices.length; t += 3) {
				const p = [0, 1, 2].map((k) =>
					Array.from(m.positions.subarray(m.indices[t + k] * 3, m.indices[t + k] * 3 + 3)),
				);
				const u = p[1].map((x, i) => x - p[0][i]);
				const v = p[2].map((x, i) => x - p[0][i]);
				const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
				const s = m.normals.subarray(m.indices[t] * 3, m.indices[t] * 3 + 3);
				expect(n[0] * s[0] + n[1] * s[1] + n[2] * s[2]).toBeGreaterThan(0);
			}
		}
	});
});
