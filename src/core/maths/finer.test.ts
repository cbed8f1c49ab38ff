import { describe, expect, it } from "vitest";
import { newPiece } from "../doc/defaults.ts";
import { geometryOf } from "../shape/shapes.ts";
import { finer, openPlaces, type TooLong, welded } from "./finer.ts";
import { type Mesh, meshVolume } from "./mesh.ts";

const KINDS = ["box", "sphere", "cylinder", "wedge", "cone"] as const;
/** Its places rounded, so that seams meet to the last bit. */
function body(kind: (typeof KINDS)[number]): Mesh {
	const { mesh } = geometryOf(newPiece("", kind));
	return { ...mesh, positions: mesh.positions.map((v) => Math.round(v * 2 ** 20) / 2 ** 20) };
}

/** Finer about a corner: edges of a twentieth of how far they are from it. */
const aboutCorner: TooLong = (ax, ay, az, bx, by, bz) => {
	const long = Math.hypot(ax - bx, ay - by, az - bz);
	return long / (0.004 + 0.04 * Math.hypot((ax + bx) / 2 - 0.5, (ay + by) / 2, (az + bz) / 2 - 0.5));
};

const open = ({ positions, indices }: Mesh): number => openPlaces(indices, welded(positions)).size;

describe("a finer mesh", () => {
	it.each(KINDS)("is as closed as it was, as large, and has no edge that is too long: %s", (kind) => {
		const mesh = body(kind);
		const fine = finer(mesh, aboutCorner);
		expect(fine.indices.length).toBeGreaterThan(mesh.indices.length);
		expect(open(mesh)).toBe(0);
		expect(open(fine)).toBe(0);
		expect(meshVolume(fine)).toBeCloseTo(meshVolume(mesh), 5);
		const { positions: p, indices } = fine;
		let worst = 0;
		for (let t = 0; t < indices.length; t++) {
			const [a, b] = [3 * indices[t], 3 * indices[t % 3 === 2 ? t - 2 : t + 1]];
			worst = Math.max(worst, aboutCorner(p[a], p[a + 1], p[a + 2], p[b], p[b + 1], p[b + 2], 0));
		}
		expect(worst).toBeLessThanOrEqual(1);
	});

	it("tells the places at which a mesh is open", () => {
		const { positions, indices } = body("box");
		expect(openPlaces(indices.slice(3), welded(positions)).size).toBe(3);
	});

	it("has normals of one and tints between those of the ends, and is what it was where nothing is too long", () => {
		const mesh = body("sphere");
		const colours = Uint8Array.from({ length: (mesh.positions.length / 3) * 4 }, (_, i) => (i % 4 === 3 ? 0 : i % 200));
		const fine = finer({ ...mesh, colours }, aboutCorner);
		expect(fine.colours?.length).toBe((fine.positions.length / 3) * 4);
		for (let i = 0; i < fine.normals.length; i += 3)
			expect(Math.hypot(fine.normals[i], fine.normals[i + 1], fine.normals[i + 2])).toBeCloseTo(1, 5);
		const same = finer(mesh, () => 0);
		expect(same.indices).toEqual(mesh.indices);
		expect(same.positions).toEqual(mesh.positions);
	});

	it("is finer where what is lifted is steep", () => {
		const mesh = finer(body("box"), (ax, ay, az, bx, by, bz) => Math.hypot(ax - bx, ay - by, az - bz) / 0.2);
		const count = mesh.positions.length / 3;
		// A step across the middle.
		const lifts = Float32Array.from({ length: count }, (_, v) => (mesh.positions[3 * v] > 0.01 ? 0.3 : 0));
		const fine = finer(
			mesh,
			(ax, ay, az, bx, by, bz, lifted) => Math.hypot(ax - bx, ay - by, az - bz, lifted) / 0.2,
			lifts,
		);
		expect(open(fine)).toBe(0);
		const added = [...fine.positions.slice(3 * count)].filter((_, i) => i % 3 === 0);
		expect(added.length).toBeGreaterThan(0);
		for (const x of added) expect(Math.abs(x)).toBeLessThan(0.26);
	});
});
