import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../doc/defaults.ts";
import { corners, type Piece, type Shape, type ShotDocument } from "../doc/schema.ts";
import { compile } from "../scene/compile.ts";
import { NO_BLOBS, NO_MAKERS } from "../scene/inputs.ts";
import { PartCache } from "../scene/partCache.ts";
import { STILL } from "../time/frames.ts";
import { copiesOf } from "./copies.ts";
import { setApart } from "./handPieces.ts";
import { geometryOf, slotOf, variantOf } from "./shapes.ts";
import { housesOf } from "./town/make.ts";

type Building = Extract<Shape, { kind: "building" }>;
type Town = Extract<Shape, { kind: "town" }>;

const house = (over: Partial<Building>, size: Piece["size"] = [12, 12, 8]): Piece =>
	newPiece("house", "building", {
		size,
		position: [0, 0, -30],
		shape: { ...newPiece("", "building").shape, ...over } as Shape,
	});
/** Boxes of twelve triangles under names that end so. */
const boxes = (piece: Piece, ending: string): number =>
	geometryOf(piece)
		.faces.filter((f) => f.name.endsWith(ending))
		.reduce((sum, f) => sum + (f.end - f.begin) / 12, 0);
const lit = (piece: Piece) => boxes(piece, "lit windows");
const dark = (piece: Piece) => boxes(piece, "windows") - lit(piece);

const cache = new PartCache();
const compiled = (...pieces: Piece[]) => {
	const doc: ShotDocument = { ...blankShot(), pieces };
	return compile(doc, STILL, NO_BLOBS, NO_MAKERS, cache);
};

describe("a building", () => {
	it("has a window in each bay of each storey on all sides, but where its doors are", () => {
		// Eaves of 0.3 m: 11.4 m wide and 7.4 m deep, so four bays make three on the sides.
		const piece = house({ storeys: 3, bays: 4, doors: 1 });
		expect(dark(piece)).toBe(3 * (4 + 3 + 4 + 3) - 1);
		expect(boxes(piece, "doors")).toBe(1);
		expect(lit(piece)).toBe(0);
		expect(dark(house({ storeys: 5, bays: 6, doors: 0 }))).toBe(5 * 2 * (6 + 4));
	});
	it("has as many lit windows as its share says, others by another seed, the same by the same", () => {
		const all = house({ storeys: 20, bays: 20, doors: 0, lit: 0.3 }, [60, 70, 60]);
		const windows = lit(all) + dark(all);
		expect(windows).toBe(20 * 80);
		expect(lit(all) / windows).toBeGreaterThan(0.26);
		expect(lit(all) / windows).toBeLessThan(0.34);
		const other = house({ storeys: 20, bays: 20, doors: 0, lit: 0.3, seed: 2 }, [60, 70, 60]);
		expect(geometryOf(other).mesh.positions).not.toEqual(geometryOf(all).mesh.positions);
		expect(lit(house({ lit: 1, doors: 0 }))).toBe(3 * 14);
	});
	it("has each of its roofs in its height, and stays in its box", () => {
		for (const roof of ["flat", "gabled", "hipped", "shed", "barrel"] as const)
			for (const size of [
				[12, 12, 8],
				[8, 12, 12],
				[9, 12, 9],
			] as Piece["size"][]) {
				const { bounds } = geometryOf(house({ roof, ledgeM: 0.2 }, size));
				for (const [i, v] of bounds.entries()) expect(Math.abs(v - [-0.5, 0, -0.5, 0.5, 1, 0.5][i])).toBeLessThan(0.06);
				expect(bounds[4]).toBeCloseTo(1, 5);
			}
	});
	it("is drawn in the piece's surface, in panes, in light, in frames and a roof; its light is one for all windows", () => {
		const scene = compiled(house({ lit: 0.5 }));
		const own = scene.root.draws.filter((d) => scene.root.ids[d.id].id === "house");
		expect(own).toHaveLength(5);
		expect(own.filter((d) => scene.root.materials[d.material].glow)).toHaveLength(1);
		expect(scene.root.lights).toHaveLength(1);
		expect(scene.root.lights[0]).toMatchObject({ shape: "body", scattered: true });
		const parts = own.map((d) => scene.parts.get(d.mesh));
		const triangles = parts.reduce((sum, p) => sum + (p?.kind === "mesh" ? p.mesh.indices.length / 3 : 0), 0);
		expect(triangles).toBe(geometryOf(house({ lit: 0.5 })).mesh.indices.length / 3);
		expect(compiled(house({ lit: 0 })).root.lights).toEqual([]);
	});
	it("is a plainer one with the same windows where its details are too small to be seen", () => {
		const count = (piece: Piece) => {
			const { root, parts } = compiled(piece);
			return root.draws
				.filter((d) => root.ids[d.id].id === "house")
				.reduce((sum, d) => {
					const part = parts.get(d.mesh);
					return sum + (part?.kind === "mesh" ? part.mesh.indices.length / 3 : 0);
				}, 0);
		};
		const far = { ...house({ lit: 0.4 }), position: [0, 0, -9000] as Piece["position"] };
		expect(count(far)).toBeLessThan(0.45 * count(house({ lit: 0.4 })));
		const { root, parts } = compiled(far);
		const light = parts.get(root.draws[root.lights[0].draw].mesh);
		expect(light?.kind === "mesh" && light.mesh.indices.length / 36).toBe(lit(house({ lit: 0.4 })));
	});
	it("has brothers by other seeds in a row, the same when they are set apart", () => {
		const row = {
			kind: "row" as const,
			count: 12,
			step: [15, 0] as [number, number],
			vary: { seed: 3, turnDeg: 0, size: 0, drop: 0, seeds: 4 },
		};
		const piece = { ...house({ lit: 0.5 }), repeat: row };
		const variants = copiesOf(row).map((c) => c.variant);
		expect(variants[0]).toBe(0);
		expect(new Set(variants).size).toBe(4);
		const { root } = compiled(piece);
		expect(new Set(root.draws.filter((d) => root.materials[d.material].glow).map((d) => d.mesh)).size).toBe(4);
		let n = 0;
		const apart = setApart(piece, () => `h${n++}`).pieces;
		expect(apart.map((p) => (p.shape as Building).seed)).toEqual(
			variants.map((v) => (variantOf(piece.shape, v) as Building).seed),
		);
	});
});

describe("a town", () => {
	const plan = corners<[number, number]>([0, 0], [900, 100], [800, 900], [100, 700]);
	const town = (over: Partial<Town> = {}): Town => ({ ...(newPiece("", "town").shape as Town), points: plan, ...over });
	const spec = town();
	const houses = housesOf(spec);

	it("is cut by streets into uneven blocks, its houses inside its outline and none over another", () => {
		expect(houses.length).toBeGreaterThan(1000);
		const areas = houses.map(({ lot: [x0, y0, x1, y1] }) => (x1 - x0) * (y1 - y0));
		expect(Math.max(...areas) / Math.min(...areas)).toBeGreaterThan(3);
		const sorted = [...houses].sort((a, b) => a.lot[0] - b.lot[0]);
		for (const [i, { lot: a }] of sorted.entries()) {
			for (let j = i + 1; j < sorted.length && sorted[j].lot[0] < a[2]; j++) {
				const b = sorted[j].lot;
				if (b[1] < a[3] && a[1] < b[3]) expect([a, b]).toBe("apart");
			}
		}
	});
	it("has streets as wide as it is told: no house is nearer to that of another block", () => {
		const wide = housesOf(town({ streetM: 30, backM: 0 }));
		const narrow = housesOf(town({ streetM: 6, backM: 0 }));
		const built = (all: typeof wide) => all.reduce((sum, { lot: [x0, y0, x1, y1] }) => sum + (x1 - x0) * (y1 - y0), 0);
		expect(built(wide)).toBeLessThan(0.85 * built(narrow));
	});
	it("has houses between its lowest and its tallest, and light in a share of their windows, of no cost as lights", () => {
		expect(Math.min(...houses.map((h) => h.tall))).toBeGreaterThanOrEqual(0.35);
		expect(Math.max(...houses.map((h) => h.tall))).toBeLessThanOrEqual(1);
		const piece = newPiece("town", "town", { shape: town({ lit: 0.1 }), size: [900, 24, 900], position: [0, 0, -900] });
		const windows = slotOf(geometryOf(piece), 2).mesh.indices.length / 6;
		expect(windows).toBeGreaterThan(1500);
		const { root } = compiled(piece);
		expect(root.lights).toHaveLength(1);
		expect(geometryOf({ ...piece, shape: town({ lit: 0 }) }).closed).toBe(true);
	});
	it("too small for a house has one all the same", () => {
		expect(housesOf(town({ points: corners<[number, number]>([0, 0], [2, 0], [0, 2]) }))).toHaveLength(1);
	});
});
