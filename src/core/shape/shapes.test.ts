import { describe, expect, it } from "vitest";
import { newPiece } from "../doc/defaults.ts";
import { SHAPE_KINDS, Shape, type ShapeKind } from "../doc/schema.ts";
import type { Mesh } from "../maths/mesh.ts";
import { cross, dot, length, sub, type Vec3 } from "../maths/vec.ts";
import { parallelogram } from "./faces.ts";
import type { Geometry } from "./geometry.ts";
import { outermost, outlinesFromAbove, pieceTransforms } from "./place.ts";
import { geometryOf, makeGeometry } from "./shapes.ts";

const corner = ({ positions }: Mesh, i: number): Vec3 => [positions[3 * i], positions[3 * i + 1], positions[3 * i + 2]];
const triangles = (mesh: Mesh): [number, number, number][] =>
	Array.from({ length: mesh.indices.length / 3 }, (_, t) => [
		mesh.indices[3 * t],
		mesh.indices[3 * t + 1],
		mesh.indices[3 * t + 2],
	]);
const usual = (kind: ShapeKind): Geometry => geometryOf(Shape.parse({ kind }));

/** Signed volume by the divergence theorem: positive when all faces look outwards. */
const volume = (mesh: Mesh): number =>
	triangles(mesh).reduce((v, [a, b, c]) => v + dot(corner(mesh, a), cross(corner(mesh, b), corner(mesh, c))) / 6, 0);

/** How often each edge is run along, by its ends' places. */
function edges(mesh: Mesh): Map<string, number> {
	const place = (i: number) =>
		corner(mesh, i)
			.map((v) => Math.round(v * 1e5) / 1e5 + 0)
			.join();
	const out = new Map<string, number>();
	for (const t of triangles(mesh))
		for (let k = 0; k < 3; k++) {
			const key = `${place(t[k])} ${place(t[(k + 1) % 3])}`;
			out.set(key, (out.get(key) ?? 0) + 1);
		}
	return out;
}

describe.each(SHAPE_KINDS)("the shape %s", (kind) => {
	const geometry = usual(kind);
	const { mesh, faces, coarse, bounds, hulls, closed } = geometry;

	it("has usual measures, and its maker gives the same body again", () => {
		expect(Shape.parse(JSON.parse(JSON.stringify(Shape.parse({ kind }))))).toEqual(Shape.parse({ kind }));
		expect(makeGeometry(Shape.parse({ kind }))).toEqual(geometry);
	});

	it("is closed where it says so, in its coarse form too", () => {
		for (const form of [mesh, ...(coarse ? [coarse] : [])]) {
			const all = edges(form);
			const open = [...all].filter(([key, n]) => all.get(key.split(" ").reverse().join(" ")) !== n);
			if (closed) expect(open).toEqual([]);
			else expect(open.length).toBeGreaterThan(0);
		}
	});

	it("has no triangle without area, and normals on the side of its faces", () => {
		for (const [a, b, c] of triangles(mesh)) {
			const n = cross(sub(corner(mesh, b), corner(mesh, a)), sub(corner(mesh, c), corner(mesh, a)));
			expect(length(n)).toBeGreaterThan(1e-7);
			for (const i of [a, b, c]) {
				const normal = corner({ ...mesh, positions: mesh.normals }, i);
				expect(dot(n, normal)).toBeGreaterThan(0);
				expect(length(normal)).toBeCloseTo(1, 5);
			}
		}
		if (closed) expect(volume(mesh)).toBeGreaterThan(0);
	});

	it("names each of its triangles once, each face by a name of its own", () => {
		expect(faces.map((f) => f.begin)).toEqual([0, ...faces.slice(0, -1).map((f) => f.end)]);
		expect(faces[faces.length - 1].end).toBe(mesh.indices.length / 3);
		expect(faces.every((f) => f.end > f.begin)).toBe(true);
		expect(new Set(faces.map((f) => f.name)).size).toBe(faces.length);
	});

	it("has tight bounds: a metre each way at most, standing on its foot", () => {
		const all = triangles(mesh).flatMap((t) => t.map((i) => corner(mesh, i)));
		for (let c = 0; c < 3; c++) {
			expect(bounds[c]).toBe(Math.min(...all.map((p) => p[c])));
			expect(bounds[c + 3]).toBe(Math.max(...all.map((p) => p[c])));
		}
		expect(bounds[1]).toBeCloseTo(0, 6);
		expect(bounds[4]).toBeCloseTo(1, 6);
		expect(Math.max(bounds[3] - bounds[0], bounds[5] - bounds[2])).toBeCloseTo(1, 6);
	});

	it("lies within its hulls, and they within its bounds", () => {
		for (const p of hulls.flat())
			for (let c = 0; c < 3; c++) {
				expect(p[c]).toBeGreaterThanOrEqual(bounds[c]);
				expect(p[c]).toBeLessThanOrEqual(bounds[c + 3]);
			}
		for (let k = 0; k < 60; k++) {
			const d: Vec3 = [Math.cos(2.4 * k), Math.sin(1.7 * k), Math.cos(0.9 * k + 1)];
			const far = (list: readonly Vec3[]) => Math.max(...list.map((p) => dot(p, d)));
			const most = far(triangles(mesh).flatMap((t) => t.map((i) => corner(mesh, i))));
			expect(far(hulls.flat())).toBeGreaterThan(most - 0.005 * length(d));
		}
	});

	it("has an outline on the ground that encloses it, however it is turned", () => {
		const ground = { preset: "plain" as const, seed: 1, heightM: 0 };
		for (const turn of [{}, { headingDeg: 40 }, { headingDeg: 70, pitchDeg: 50, rollDeg: -20 }]) {
			const piece = newPiece("p", kind, { size: [2, 3, 0.7], ...turn });
			const outlines = outlinesFromAbove(piece);
			const [m] = pieceTransforms(piece, { ground });
			for (const [a, b, c] of triangles(mesh))
				for (const i of [a, b, c]) {
					const p = corner(mesh, i);
					const [x, z] = [m[0] * p[0] + m[1] * p[1] + m[2] * p[2], m[8] * p[0] + m[9] * p[1] + m[10] * p[2]];
					expect(outlines.some((o) => beyond(o, x, z) < 0.015)).toBe(true);
				}
		}
	});

	it("is nearly itself with fewer faces, where it is drawn small", () => {
		if (!coarse) return;
		expect(coarse.indices.length).toBeLessThan(0.5 * mesh.indices.length);
		expect(volume(coarse) / volume(mesh)).toBeGreaterThan(0.93);
		expect(volume(coarse) / volume(mesh)).toBeLessThanOrEqual(1 + 1e-9);
	});
});

/** How far a place lies outside a convex outline that runs counter-clockwise; below 0 inside. */
const beyond = (outline: [number, number][], x: number, z: number): number =>
	Math.max(
		...outline.map(([ax, az], i) => {
			const [bx, bz] = outline[(i + 1) % outline.length];
			return -((bx - ax) * (z - az) - (bz - az) * (x - ax)) / Math.hypot(bx - ax, bz - az);
		}),
	);

describe("bodies", () => {
	it("have the volume of their solid", () => {
		const pi = Math.PI;
		const known: Partial<Record<ShapeKind, number>> = {
			box: 1,
			wedge: 0.5,
			cylinder: pi / 4,
			cone: pi / 12,
			sphere: pi / 6,
		};
		for (const [kind, v] of Object.entries(known))
			expect(volume(usual(kind as ShapeKind).mesh) / v).toBeCloseTo(1, 1.5);
	});
	it("tell which of their faces are parallelograms", () => {
		const flat = (kind: ShapeKind) =>
			usual(kind).faces.flatMap((f) => (parallelogram(usual(kind).mesh, f) ? f.name : []));
		expect(flat("box")).toEqual(["near", "away", "right", "left", "top", "foot"]);
		expect(flat("wedge")).toEqual(["ramp", "away", "foot"]);
		expect(flat("sphere")).toEqual([]);
	});
	it("turn by their heading, then their pitch, then their roll", () => {
		const ground = { preset: "plain" as const, seed: 1, heightM: 0 };
		const top = (turn: object) => {
			const [m] = pieceTransforms(newPiece("p", "box", turn), { ground });
			return [m[1], m[5], m[9]].map((v) => Math.round(v * 1000) / 1000 + 0);
		};
		// Its pitch lifts the away side, so that the top comes nearer; its roll lowers the right side.
		expect(top({ pitchDeg: 90 })).toEqual([0, 0, 1]);
		expect(top({ rollDeg: 90 })).toEqual([1, 0, 0]);
		expect(top({ headingDeg: 90, pitchDeg: 90 })).toEqual([-1, 0, 0]);
		expect(top({ headingDeg: 90, pitchDeg: 90, rollDeg: 90 })).toEqual([0, 0, 1]);
		expect(top({ pitchDeg: 180 })).toEqual([0, -1, 0]);
	});
	it("are outermost where all of their copies reach", () => {
		const ground = { preset: "plain" as const, seed: 1, heightM: 0 };
		const row = newPiece("r", "box", { repeat: { count: 4, step: [2, 0] } });
		const xs = outermost(row, { ground }).map((p) => p[0]);
		expect([Math.min(...xs), Math.max(...xs)]).toEqual([-0.5, 6.5]);
	});
});
