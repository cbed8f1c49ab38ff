import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../doc/defaults.ts";
import type { Camera, Cover, Piece } from "../doc/schema.ts";
import { coverCells, placeCell, surroundingsOf } from "./placeCover.ts";
import { newCover } from "./plant.ts";

const doc = { ...blankShot(), ground: { preset: "plain" as const, seed: 4, heightM: 2 } };

function plants(cover: Cover, camera: Camera = doc.camera, pieces: Piece[] = doc.pieces): Map<string, string> {
	const around = surroundingsOf({ ...doc, camera, pieces }, cover);
	const out = new Map<string, string>();
	for (const job of coverCells(around)) {
		const cell = placeCell(job, around);
		for (let i = 0; i < cell.count; i++) {
			const m = Array.from(cell.transforms.subarray(i * 12, i * 12 + 12)).join();
			out.set(
				`${job.cell.x},${job.cell.z},${cell.names[i]}`,
				`${m}|${cell.variants[i]}|${cell.tints.subarray(i * 4, i * 4 + 4)}`,
			);
		}
	}
	return out;
}

function expectSurvivorsSame(a: Map<string, string>, b: Map<string, string>) {
	let both = 0;
	for (const [name, matrix] of b) if (a.has(name) && ++both) expect(a.get(name)).toBe(matrix);
	return both;
}

const cover = newCover("c", "tussock", { densityPerM2: 1 });

describe("cover", () => {
	it("of a lower density is a subset of a higher one", () => {
		const dense = plants(cover);
		const thin = plants({ ...cover, densityPerM2: 0.3 });
		expect(thin.size).toBeGreaterThan(100);
		expect(thin.size).toBeLessThan(dense.size * 0.4);
		for (const [name, matrix] of thin) expect(dense.get(name)).toBe(matrix);
	});
	it("keeps every survivor where it stands when a rule moves", () => {
		const rules = cover.rules.map((r) => (r.kind === "near the lens" ? { ...r, distanceM: 35 } : r));
		expect(expectSurvivorsSame(plants(cover), plants({ ...cover, rules }))).toBeGreaterThan(100);
	});
	it("keeps every survivor where it stands when the camera turns", () => {
		const turned = plants(cover, { ...doc.camera, headingDeg: 20 });
		expect(expectSurvivorsSame(plants(cover), turned)).toBeGreaterThan(100);
	});
	it("makes again only the cells that a moved piece reaches", () => {
		const rock = newPiece("rock", "sphere", { position: [0, 0, -24], size: [3, 2, 3] });
		const cells = (z: number) => {
			const pieces = [...doc.pieces, { ...rock, position: [0, 0, z] as [number, number, number] }];
			return new Set(coverCells(surroundingsOf({ ...doc, pieces }, cover)).map((c) => c.key));
		};
		const before = cells(-24);
		const after = [...cells(-26)].filter((k) => !before.has(k));
		expect(before.size).toBeGreaterThan(20);
		expect(after.length).toBeGreaterThan(0);
		expect(after.length).toBeLessThanOrEqual(4);
	});
	it("leaves out what stands on a piece, under water or outside the frame", () => {
		const slab = newPiece("slab", "box", { position: [0, 0, -12], size: [6, 1, 6] });
		for (const m of plants(cover, doc.camera, [slab]).keys()) expect(m).toBeTruthy();
		const free = plants(cover, doc.camera, []).size;
		const kept = plants(cover, doc.camera, [slab]).size;
		expect(free - kept).toBeGreaterThan(20);
	});
});
