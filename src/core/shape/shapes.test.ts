import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { newPiece } from "../doc/defaults.ts";
import { measuresOf, type Piece, SHAPE_KINDS, Shape, type ShapeKind } from "../doc/schema.ts";
import { type Mesh, meshVolume } from "../maths/mesh.ts";
import { cross, dot, length, sub, type Vec3 } from "../maths/vec.ts";
import { parallelogram } from "./faces.ts";
import type { Geometry } from "./geometry.ts";
import { mirrored } from "./mirror.ts";
import { outermost, outlinesFromAbove, pieceTransforms } from "./place.ts";
import { geometryOf, isFlat, makeGeometry, scaledShape } from "./shapes.ts";

const corner = ({ positions }: Mesh, i: number): Vec3 => [positions[3 * i], positions[3 * i + 1], positions[3 * i + 2]];
const triangles = (mesh: Mesh): [number, number, number][] =>
	Array.from({ length: mesh.indices.length / 3 }, (_, t) => [
		mesh.indices[3 * t],
		mesh.indices[3 * t + 1],
		mesh.indices[3 * t + 2],
	]);
const usual = (kind: ShapeKind): Geometry => geometryOf(newPiece("", kind));

const area = (mesh: Mesh): number =>
	triangles(mesh).reduce((sum, [a, b, c]) => {
		const p = corner(mesh, a);
		return sum + length(cross(sub(corner(mesh, b), p), sub(corner(mesh, c), p))) / 2;
	}, 0);

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
		expect(makeGeometry(newPiece("", kind))).toEqual(geometry);
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
				if (!(dot(n, normal) > 0) || Math.abs(length(normal) - 1) > 1e-5) expect({ n, normal }).toBe("outward");
			}
		}
		// A section wider than its line is long laps over itself: hardly anything is left of it.
		if (closed) expect(meshVolume(mesh)).toBeGreaterThan(-1e-6);
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
		expect(bounds[4]).toBeCloseTo(isFlat(kind) ? 0 : 1, 6);
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
			expect(far(hulls.flat())).toBeGreaterThan(most - 0.006 * length(d));
		}
	});

	it("has an outline on the ground that encloses it, however it is turned", () => {
		const ground = { preset: "plain" as const, seed: 1, heightM: 0 };
		for (const turn of [{}, { headingDeg: 40 }, { headingDeg: 70, pitchDeg: 50, rollDeg: -20 }]) {
			const piece = newPiece("p", kind, { size: [2, 3, 0.7], ...turn });
			const outlines = outlinesFromAbove(piece);
			const [m] = pieceTransforms(piece, { ground });
			const { positions } = geometryOf(piece).mesh;
			for (let i = 0; i < positions.length / 3; i++) {
				const p = corner({ positions } as Mesh, i);
				const [x, z] = [m[0] * p[0] + m[1] * p[1] + m[2] * p[2], m[8] * p[0] + m[9] * p[1] + m[10] * p[2]];
				if (!outlines.some((o) => beyond(o, x, z) < 0.015)) expect([x, z]).toBe("inside");
			}
		}
	});

	it("is nearly itself with fewer faces, where it is drawn small", () => {
		if (!coarse) return;
		expect(coarse.indices.length).toBeLessThan(0.5 * mesh.indices.length);
		const much = closed ? meshVolume : area;
		expect(much(coarse) / much(mesh)).toBeGreaterThan(0.93);
		expect(much(coarse) / much(mesh)).toBeLessThanOrEqual(1 + 1e-9);
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

/** Storeys times bays times sides are many faces: more of each tell nothing new. */
const MOST_OF_EACH = 12;

/** A shape of a kind with any of its measures. */
const anyShape = (kind: ShapeKind): fc.Arbitrary<Shape> =>
	fc
		.record(
			Object.fromEntries(
				measuresOf(kind).map(([field, { of, usual, min, max, options }]) => {
					const most = of === "metres" ? Math.min(max, 12) : max;
					const value: fc.Arbitrary<number | string> = options
						? fc.constantFrom(...options)
						: of === "metres" || of === "share"
							? fc.double({ min, max: most, noNaN: true })
							: fc.integer({ min, max: Math.min(most, MOST_OF_EACH) });
					return [field, usual === null ? fc.option(value) : value];
				}),
			),
		)
		.map((measures) => Shape.parse({ kind, ...measures }));

const long = fc.double({ min: 0.2, max: 20, noNaN: true });

describe.each(SHAPE_KINDS)("any %s", (kind) => {
	it("is closed where it says so, looks outwards, stands on its foot and stays in its box", () => {
		fc.assert(
			fc.property(anyShape(kind), fc.tuple(long, long, long), (shape, size) => {
				const { mesh, bounds, closed, hulls } = geometryOf(newPiece("", kind, { shape, size }));
				const all = edges(mesh);
				const open = [...all].filter(([key, n]) => all.get(key.split(" ").reverse().join(" ")) !== n);
				if (closed) expect(open).toEqual([]);
				// A section as wide as its line is long laps over itself, and what it holds means nothing.
				const laps = shape.kind === "rail" && 4 * Math.max(shape.acrossM, shape.tallM) > Math.min(...size);
				if (closed && !laps) expect(meshVolume(mesh)).toBeGreaterThan(0);
				expect(bounds[1]).toBeCloseTo(0, 5);
				expect(bounds[4]).toBeCloseTo(isFlat(kind) ? 0 : 1, 5);
				for (const v of [bounds[3], bounds[5], -bounds[0], -bounds[2]]) expect(v).toBeLessThan(0.5 + 1e-5);
				expect(hulls.flat(2).every(Number.isFinite)).toBe(true);
				expect(mesh.normals.every(Number.isFinite)).toBe(true);
			}),
			{ numRuns: 15, seed: 5, endOnFailure: true },
		);
	});
});

describe("bodies with measures of their own", () => {
	const pi = Math.PI;
	/** Cubic metres of a shape of a size. */
	const metres = (shape: object, size: [number, number, number]) =>
		meshVolume(geometryOf(newPiece("", "box", { shape: Shape.parse(shape), size })).mesh) * size[0] * size[1] * size[2];

	it.each<[string, object, [number, number, number], number]>([
		["a tube", { kind: "tube", wallM: 0.25 }, [2, 3, 2], pi * (1 - 0.75 ** 2) * 3],
		["an oval tube", { kind: "tube", wallM: 0.25 }, [2, 3, 4], pi * (2 - 0.75 * 1.75) * 3],
		["a round arch", { kind: "arch", spanM: 2, springM: 2 }, [4, 5, 1.5], 1.5 * (20 - 4 - pi / 2)],
		["a straight arch", { kind: "arch", spanM: 2, springM: 2, curve: "straight" }, [4, 5, 1.5], 1.5 * (20 - 4)],
		[
			"a pointed arch",
			{ kind: "arch", spanM: 2, springM: 1, curve: "pointed" },
			[4, 5, 1],
			20 - 2 - 4 * (pi / 3 - Math.sqrt(3) / 4),
		],
		["a stair", { kind: "stair", steps: 9 }, [1.2, 1.8, 3], (1.2 * 1.8 * 3 * 10) / 18],
		["a dome", { kind: "dome" }, [4, 3, 2], (2 / 3) * pi * 2 * 3 * 1],
		["a shell", { kind: "dome", wallM: 0.2 }, [4, 2, 4], (2 / 3) * pi * (8 - 1.8 ** 3)],
		["a cut cone", { kind: "cone", top: 0.5 }, [2, 3, 2], (pi * 3 * 4 * 1.75) / 12],
		[
			"a round box",
			{ kind: "box", roundM: 0.25 },
			[2, 3, 4],
			1.5 * 2.5 * 3.5 + 0.5 * (3.75 + 5.25 + 8.75) + pi * 0.0625 * 7.5 + (4 / 3) * pi * 0.25 ** 3,
		],
	])("%s has its volume", (_, shape, size, known) => {
		expect(metres(shape, size) / known).toBeGreaterThan(0.992);
		expect(metres(shape, size) / known).toBeLessThan(1.002);
	});
	it("a flight of stairs has the thickness of its flight under every step", () => {
		const full = metres({ kind: "stair", steps: 10 }, [1, 2, 4]);
		// What is taken away below: a triangle from where the underside leaves the foot.
		const leaves = 0.3 / 0.5;
		expect(full - metres({ kind: "stair", steps: 10, flightM: 0.3 }, [1, 2, 4])).toBeCloseTo(
			(0.5 * (4 - leaves) ** 2) / 2,
			4,
		);
	});
	it("a disc and a blob are as large as they say", () => {
		const disc = geometryOf(newPiece("", "disc", { shape: Shape.parse({ kind: "disc", hole: 0.5 }) }));
		expect(area(disc.mesh) / ((pi / 4) * 0.75)).toBeCloseTo(1, 2);
		const blob = (seed: number) => geometryOf(newPiece("", "blob", { shape: Shape.parse({ kind: "blob", seed }) }));
		expect(meshVolume(blob(1).mesh)).toBeGreaterThan(0.35);
		expect(blob(1).mesh.positions).not.toEqual(blob(2).mesh.positions);
	});
	it("keep their lengths in metres at any size, and take them along where all of it is scaled", () => {
		const pipe = newPiece("", "tube", { size: [2, 1, 2] });
		const inside = (p: Piece) =>
			Math.min(
				...triangles(geometryOf(p).mesh)
					.flat()
					.map((i) =>
						Math.hypot(corner(geometryOf(p).mesh, i)[0] * p.size[0], corner(geometryOf(p).mesh, i)[2] * p.size[2]),
					),
			);
		expect(inside(pipe)).toBeCloseTo(0.9, 4);
		expect(inside({ ...pipe, size: [6, 1, 6] })).toBeCloseTo(2.9, 4);
		expect(scaledShape(pipe.shape, 3)).toMatchObject({ wallM: expect.closeTo(0.3, 9) });
		expect(scaledShape(newPiece("", "stair").shape, 3)).toEqual(newPiece("", "stair").shape);
	});
	it("mirrored twice are the same, and once have the same volume outwards", () => {
		for (const kind of SHAPE_KINDS) {
			const geometry = usual(kind);
			const once = mirrored(geometry, [true, false, true]);
			const thrice = mirrored(geometry, [true, true, true]);
			if (geometry.closed) expect(meshVolume(thrice.mesh)).toBeCloseTo(meshVolume(geometry.mesh), 5);
			const back = mirrored(once, [true, false, true]);
			expect(back.mesh.indices).toEqual(geometry.mesh.indices);
			for (let i = 0; i < geometry.mesh.positions.length; i++)
				if (Math.abs(back.mesh.positions[i] - geometry.mesh.positions[i]) > 1e-6) throw new Error(`${kind} ${i}`);
		}
		const upside = geometryOf(newPiece("", "wedge", { mirrored: [false, true, false] }));
		expect(meshVolume(upside.mesh)).toBeCloseTo(0.5, 5);
		expect(upside.bounds.map((v) => v + 0)).toEqual(usual("wedge").bounds);
	});
});

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
			expect(meshVolume(usual(kind as ShapeKind).mesh) / v).toBeCloseTo(1, 1.5);
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
		const row = newPiece("r", "box", { repeat: { kind: "row", count: 4, step: [2, 0] } });
		const xs = outermost(row, { ground }).map((p) => p[0]);
		expect([Math.min(...xs), Math.max(...xs)]).toEqual([-0.5, 6.5]);
	});
});
