import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../../core/doc/defaults.ts";
import { applyEdit, type Edit } from "../../core/doc/edits.ts";
import type { ActKind, Piece, ShapeKind, ShotDocument } from "../../core/doc/schema.ts";
import { keyOf } from "../../core/maths/hash.ts";
import { type Mesh, meshBounds, meshVolume } from "../../core/maths/mesh.ts";
import { transformPoint, type Vec3 } from "../../core/maths/vec.ts";
import { compileWhenMade } from "../../core/scene/compile.ts";
import { NO_BLOBS, NO_MAKERS, type Solid } from "../../core/scene/inputs.ts";
import { PartCache } from "../../core/scene/partCache.ts";
import type { Scene } from "../../core/scene/scene.ts";
import { geometryOf } from "../../core/shape/shapes.ts";
import { STILL } from "../../core/time/frames.ts";
import { nodeSolids } from "./node.ts";

const solids = nodeSolids();

/** A body in metres, set down and turned nowhere. */
function solid(kind: ShapeKind, size: Vec3, at: Vec3): Solid {
	const { mesh, faces } = geometryOf(newPiece("", kind, { size: [...size] }));
	const positions = mesh.positions.map((v, i) => v * size[i % 3] + at[i % 3]);
	return { mesh: { ...mesh, positions }, faces };
}
const combine = async (kind: ActKind, base: Solid, ...bodies: Solid[]): Promise<Solid> =>
	solids(keyOf("test", kind, Math.random()), () => ({ base, acts: [{ kind, of: "b", bodies }] }));
const volume = ({ mesh }: Solid) => meshVolume(mesh);

/** How much of a mesh gapes: edges that are run along in one direction more than in the other, by length. */
function gaps({ positions, indices }: Mesh): number {
	const edges = new Map<string, number>();
	const key = (i: number) => [0, 1, 2].map((c) => Math.round(positions[3 * i + c] * 1e4)).join();
	for (let t = 0; t < indices.length; t += 3)
		for (let k = 0; k < 3; k++) {
			const [a, b] = [key(indices[t + k]), key(indices[t + ((k + 1) % 3)])];
			if (a === b) continue;
			edges.set(`${a} ${b}`, (edges.get(`${a} ${b}`) ?? 0) + 1);
			edges.set(`${b} ${a}`, (edges.get(`${b} ${a}`) ?? 0) - 1);
		}
	return [...edges.values()].filter((v) => v !== 0).length;
}

describe("bodies cut, joined and met", () => {
	it("have the volumes that belong together: |A ∪ B| + |A ∩ B| = |A| + |B|, |A − B| = |A| − |A ∩ B|", async () => {
		const place = fc.tuple(
			...([0, 1, 2].map(() => fc.double({ min: -1.2, max: 1.2, noNaN: true })) as [
				fc.Arbitrary<number>,
				fc.Arbitrary<number>,
				fc.Arbitrary<number>,
			]),
		);
		const kind = fc.constantFrom<ShapeKind>(
			"box",
			"sphere",
			"cylinder",
			"wedge",
			"tube",
			"arch",
			"stair",
			"blob",
			"raised",
			"turned",
		);
		await fc.assert(
			fc.asyncProperty(kind, kind, place, async (k1, k2, at) => {
				const [a, b] = [solid(k1, [2, 2, 2], [0, 0, 0]), solid(k2, [1.5, 2, 1.8], at)];
				const [both, common, rest] = await Promise.all([
					combine("join", a, b),
					combine("meet", a, b),
					combine("cut", a, b),
				]);
				const close = (x: number, y: number) => expect(Math.abs(x - y)).toBeLessThan(2e-4);
				close(volume(both) + volume(common), volume(a) + volume(b));
				close(volume(rest), volume(a) - volume(common));
			}),
			{ numRuns: 40, seed: 7 },
		);
	});
	it("keep the names of their faces and normals that look out of them", async () => {
		const cut = await combine("cut", solid("box", [4, 3, 1], [0, 0, 0]), solid("cylinder", [1, 4, 1], [0, -0.5, 0]));
		const names = cut.faces.map((f) => f.name);
		expect(names).toEqual(expect.arrayContaining(["top", "b side"]));
		expect(new Set(names).size).toBe(names.length);
		expect(cut.faces[cut.faces.length - 1].end).toBe(cut.mesh.indices.length / 3);
		const { positions: p, normals: n, indices } = cut.mesh;
		const side = cut.faces.find((f) => f.name === "b side") as { begin: number; end: number };
		for (const i of indices.subarray(3 * side.begin, 3 * side.end)) {
			// Round the hole they look to its axis, smoothly.
			expect(n[3 * i] * p[3 * i] + n[3 * i + 2] * p[3 * i + 2]).toBeLessThan(0);
			expect(Math.hypot(n[3 * i], n[3 * i + 2])).toBeCloseTo(1, 3);
		}
		expect(gaps(cut.mesh)).toBe(0);
	});
	it("are nothing where all is cut away, and what they were where nothing is met", async () => {
		const a = solid("box", [1, 1, 1], [0, 0, 0]);
		expect((await combine("cut", a, solid("box", [3, 3, 3], [0, -1, 0]))).mesh.indices.length).toBe(0);
		expect((await combine("meet", a, solid("box", [1, 1, 1], [9, 0, 0]))).mesh.indices.length).toBe(0);
		expect(volume(await combine("cut", a, solid("box", [1, 1, 1], [9, 0, 0])))).toBeCloseTo(1, 6);
	});
	it("that are not closed are refused in a sentence", async () => {
		await expect(
			combine("cut", solid("box", [1, 1, 1], [0, 0, 0]), solid("plane", [3, 1, 3], [0, 0.5, 0])),
		).rejects.toThrow(/not closed/);
	});
});

const wall = newPiece("wall", "box", {
	name: "Wall",
	size: [6, 3, 0.4],
	position: [0, 0, -10],
	stands: "level",
	headingDeg: 20,
});
const door = newPiece("door", "box", {
	name: "Door",
	size: [1, 2, 1],
	position: [0, 0, -10],
	stands: "level",
	headingDeg: 20,
});
const shot = (...pieces: Piece[]): ShotDocument => ({ ...blankShot(), pieces });
const done = (doc: ShotDocument, ...edits: Edit[]) => edits.reduce((d, e) => applyEdit(d, e).document, doc);
const cutting = (kind: ActKind, on = "wall"): Edit => ({ name: "piece.setAct", ids: ["door"], act: { kind, on } });
/** What all shots here have in common is made once. */
const common = new PartCache();
const compiled = (doc: ShotDocument, cache = common): Promise<Scene> =>
	compileWhenMade(doc, STILL, NO_BLOBS, { ...NO_MAKERS, solids }, cache);

/** The drawn bodies of a piece in the world. */
function drawn({ root, parts }: Scene, id: string): Mesh[] {
	return root.draws
		.filter((d) => root.ids[d.id].id === id)
		.map((d) => {
			const part = parts.get(d.mesh);
			if (part?.kind !== "mesh") throw new Error("no mesh");
			const positions = new Float32Array(part.mesh.positions.length);
			for (let i = 0; i < positions.length; i += 3)
				positions.set(
					transformPoint(d.transform, [part.mesh.positions[i], part.mesh.positions[i + 1], part.mesh.positions[i + 2]]),
					i,
				);
			return { ...part.mesh, positions };
		});
}

describe("a door that is cut out of a wall", () => {
	it("leaves the wall its volume without it, and is not seen itself", async () => {
		const doc = done(shot(wall, door), cutting("cut"));
		const scene = await compiled(doc);
		const [body, ...more] = drawn(scene, "wall");
		expect(more).toEqual([]);
		expect(drawn(scene, "door")).toEqual([]);
		expect(meshVolume(body)).toBeCloseTo(6 * 3 * 0.4 - 1 * 2 * 0.4, 3);
		expect(gaps(body)).toBe(0);
	});
	it("cuts anew where it is moved to, and no more when it is let go or deleted", async () => {
		const cache = new PartCache();
		const doc = done(shot(wall, door), cutting("cut"));
		const one = drawn(await compiled(doc, cache), "wall")[0];
		const moved = done(doc, { name: "piece.move", pieces: [{ id: "door", position: [1.4, 0, -9.5] }] });
		const two = drawn(await compiled(moved, cache), "wall")[0];
		expect(meshVolume(two)).toBeCloseTo(meshVolume(one), 3);
		expect([...two.positions]).not.toEqual([...one.positions]);
		// Both moved together cut the same body, which is not made again.
		const both = done(doc, {
			name: "piece.move",
			pieces: [
				{ id: "wall", position: [5, 0, -10] },
				{ id: "door", position: [5, 0, -10] },
			],
		});
		cache.made.length = 0;
		await compiled(both, cache);
		expect(cache.made.filter((k) => k.startsWith("solid"))).toEqual([]);
		const gone = done(doc, { name: "piece.remove", ids: ["wall"] });
		expect(gone.pieces[0].act).toBeUndefined();
		const alone = done(doc, { name: "piece.setAct", ids: ["door"], act: null });
		expect(drawn(await compiled(alone), "door").length).toBe(1);
		expect(meshVolume(drawn(await compiled(alone), "wall")[0])).toBeCloseTo(7.2, 3);
	});
	it("is cut by each of its copies, out of each piece of a group, and out of what a mirror shows", async () => {
		const two = { ...door, repeat: { kind: "row" as const, count: 2, step: [2, 0] as [number, number] } };
		const other = { ...wall, id: "other", position: [0, 0, -10.6] as Piece["position"] };
		const grouped = done(
			shot(wall, other, { ...two, size: [1, 2, 4] }),
			{ name: "group.make", group: { id: "walls", name: "Walls" }, pieces: ["wall", "other"], groups: [] },
			cutting("cut", "walls"),
		);
		const scene = await compiled(grouped);
		for (const id of ["wall", "other"]) expect(meshVolume(drawn(scene, id)[0])).toBeCloseTo(7.2 - 2 * 0.8, 2);
		const facing = done(
			shot({ ...wall, repeat: { kind: "facing", acrossM: 9 } }, { ...door, position: [1.2, 0, -9.6] }),
			cutting("cut"),
		);
		const [left, right] = drawn(await compiled(facing), "wall");
		expect(meshVolume(right)).toBeCloseTo(meshVolume(left), 3);
		expect(meshVolume(right)).toBeGreaterThan(0);
		const middle = (m: Mesh) => {
			const b = meshBounds(m);
			return (b[0] + b[3]) / 2;
		};
		expect(middle(right)).not.toBeCloseTo(middle(left), 1);
	});
	it("leaves copies of other seeds, and one that a mirror shows alone, looking outwards where they stand", async () => {
		const vary = { seed: 1, turnDeg: 0, size: 0, drop: 0, seeds: 4 };
		const rocks = newPiece("wall", "blob", {
			size: [3, 3, 3],
			position: [0, 0, -10],
			stands: "level",
			repeat: { kind: "row", count: 8, step: [5, 0], vary },
		});
		const row = drawn(await compiled(done(shot(rocks, door), cutting("cut"))), "wall");
		expect(row).toHaveLength(8);
		for (const [i, m] of row.entries()) {
			const b = meshBounds(m);
			expect((b[0] + b[3]) / 2).toBeCloseTo((meshBounds(row[0])[0] + meshBounds(row[0])[3]) / 2 + 5 * i, 3);
			expect(meshVolume(m)).toBeCloseTo(meshVolume(row[0]), 3);
		}
		const facing = { kind: "facing" as const, acrossM: 9, singles: [{ copy: 0, out: true }] };
		const alone = drawn(
			await compiled(done(shot({ ...wall, repeat: facing }, { ...door, position: [1.2, 0, -9.6] }), cutting("cut"))),
			"wall",
		);
		const both = drawn(
			await compiled(
				done(
					shot({ ...wall, repeat: { kind: "facing", acrossM: 9 } }, { ...door, position: [1.2, 0, -9.6] }),
					cutting("cut"),
				),
			),
			"wall",
		);
		expect(alone).toHaveLength(1);
		expect(alone[0].positions).toEqual(both[1].positions);
	});
	it("may itself be cut, joined or met, as deep as that goes, but never by itself", async () => {
		const pin = newPiece("pin", "box", { size: [0.2, 0.5, 2], position: [0, 1, -10], stands: "level", headingDeg: 20 });
		const doc = done(shot(wall, door, pin), cutting("cut"), {
			name: "piece.setAct",
			ids: ["pin"],
			act: { kind: "cut", on: "door" },
		});
		// What is cut out of the door stays in the wall.
		expect(meshVolume(drawn(await compiled(doc), "wall")[0])).toBeCloseTo(7.2 - 0.8 + 0.2 * 0.5 * 0.4, 3);
		expect(() => done(doc, { name: "piece.setAct", ids: ["wall"], act: { kind: "cut", on: "pin" } })).toThrow(
			/act on itself/,
		);
	});
	it("is told where nothing is left, and all is joined and met", async () => {
		const large = { ...door, size: [20, 20, 20] as Piece["size"], position: [0, -5, -10] as Piece["position"] };
		const nothing = await compiled(done(shot(wall, large), cutting("cut")));
		expect(nothing.root.gone).toEqual(["wall"]);
		expect(drawn(nothing, "wall")).toEqual([]);
		// What has nothing in common with anything leaves nothing of what it meets.
		const around = newPiece("pin", "box", { size: [30, 30, 30], position: [0, -9, -10], stands: "level" });
		const none = done(shot(wall, door, around), cutting("meet"), {
			name: "piece.setAct",
			ids: ["pin"],
			act: { kind: "cut", on: "door" },
		});
		expect((await compiled(none)).root.gone).toEqual(["wall"]);
		const met = await compiled(done(shot(wall, door), cutting("meet")));
		expect(meshVolume(drawn(met, "wall")[0])).toBeCloseTo(0.8, 3);
		const joined = await compiled(done(shot(wall, door), cutting("join")));
		expect(meshVolume(drawn(joined, "wall")[0])).toBeCloseTo(7.2 + 2 - 0.8, 3);
	});
});
