import { describe, expect, it } from "vitest";
import { ShotDocument } from "../src/core/doc/schema.ts";
import { entryTold, groundHeight, watersOf } from "../src/core/ground/height.ts";
import { frameOfView, project } from "../src/core/lens/camera.ts";
import { outermost } from "../src/core/shape/place.ts";
import { FOOT, HEAD } from "./slateIncline/land.ts";
import { slateInclineDocument } from "./slateIncline.ts";

const doc = slateInclineDocument();
const of = (name: string) => doc.pieces.filter((p) => p.name.startsWith(name));
const placesOf = (name: string) => of(name).flatMap((p) => outermost(p, doc));
const land = (x: number, z: number) => groundHeight(doc.ground, x, z);

describe("the slate incline", () => {
	it("is a document whose pieces are all in a group with a name", () => {
		expect(ShotDocument.parse(doc)).toEqual(doc);
		const groups = new Set(doc.groups?.map((g) => g.id));
		expect(doc.pieces.filter((p) => !p.group || !groups.has(p.group))).toEqual([]);
	});
	it("has a pond on its floor, and an incline as straight as its line up to the winding house", () => {
		expect(entryTold(doc.ground, "pond")).toMatch(/^One pond, about 3\d m across/);
		expect([...watersOf(doc.ground).keys()]).toEqual(["pond"]);
		let steepest = 0;
		const at = (t: number) => land(FOOT[0] + (HEAD[0] - FOOT[0]) * t, FOOT[1] + (HEAD[1] - FOOT[1]) * t);
		const long = Math.hypot(HEAD[0] - FOOT[0], HEAD[1] - FOOT[1]);
		// Over lengths of several sleepers.
		for (let t = 0.02; t < 0.97; t += 0.01)
			steepest = Math.max(steepest, Math.abs(at(t + 0.02) - at(t)) / (0.02 * long));
		expect(steepest).toBeLessThan(0.84);
		expect(at(0.99) - at(0)).toBeGreaterThan(125);
	});
	it("has nothing that floats: rails lie on their sleepers, slabs and the foreman on the land, the house on its landing", () => {
		for (const rail of of("Incline"))
			for (const p of outermost(rail, doc)) {
				const over = p[1] - land(p[0], p[2]);
				expect(over).toBeLessThan(0.5);
				expect(over).toBeGreaterThan(-0.4);
			}
		for (const name of ["Slab", "Foreman, coat", "Winding house, drum wall", "Roofless shed"]) {
			for (const piece of of(name)) {
				const lowest = outermost(piece, doc).reduce((a, b) => (b[1] < a[1] ? b : a));
				expect(lowest[1] - land(lowest[0], lowest[2]), piece.id).toBeLessThan(0.25);
			}
		}
		const { position } = doc.camera;
		expect(position[1] - land(position[0], position[2])).toBeCloseTo(1.7, 2);
	});
	it("shows incline, winding house, wagon and foreman in its frame", () => {
		const view = frameOfView(doc.camera);
		const inside = (p: readonly [number, number, number]) => {
			const q = project(view, p);
			return q.depthM > 0 && q.x > 0 && q.x < 1 && q.y > 0 && q.y < 1;
		};
		for (const name of ["Incline", "Wagon", "Winding house", "Foreman"]) {
			const places = placesOf(name);
			expect(places.length).toBeGreaterThan(0);
			expect(places.filter(inside).length / places.length, name).toBeGreaterThan(0.95);
		}
	});
});
