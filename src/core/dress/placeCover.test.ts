import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../doc/defaults.ts";
import { type Camera, type Cover, type Ground, LandEntry, type Piece } from "../doc/schema.ts";
import { onPaths } from "../ground/height.ts";
import { newEntry } from "../ground/ledger/ledger.ts";
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
	it("leaves a path bare, and stands elsewhere as it stood", () => {
		const path = LandEntry.parse({
			...newEntry("path", "p", 0, -20),
			points: [
				[-30, -20],
				[30, -22],
			],
			widthM: 4,
		});
		const land: Ground = { ...doc.ground, heightM: 0, ledger: [path] };
		const trodden = onPaths(land);
		const placesOf = (ground: Ground) => {
			const around = surroundingsOf({ ...doc, ground }, cover);
			return coverCells(around).flatMap((job) => {
				const { origin, count, transforms } = placeCell(job, around);
				return Array.from({ length: count }, (_, i) => [
					origin[0] + transforms[12 * i + 3],
					origin[2] + transforms[12 * i + 11],
				]);
			});
		};
		const [bare, all] = [placesOf(land), placesOf({ ...land, ledger: [] })];
		const on = (places: number[][]) => places.filter(([x, z]) => (trodden?.(x, z) ?? 0) > 0.99).length;
		expect(on(all)).toBeGreaterThan(20);
		expect(on(bare)).toBe(0);
		const beside = (places: number[][]) => places.filter(([x, z]) => trodden?.(x, z) === 0).length;
		expect(beside(bare)).toBe(beside(all));
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
