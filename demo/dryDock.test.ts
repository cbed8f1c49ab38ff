import { describe, expect, it } from "vitest";
import { applyEdit } from "../src/core/doc/edits.ts";
import { ShotDocument } from "../src/core/doc/schema.ts";
import { frameOfView, project } from "../src/core/lens/camera.ts";
import { outermost } from "../src/core/shape/place.ts";
import { dryDockDocument, gaugeEdits } from "./dryDock.ts";

const doc = dryDockDocument();
const of = (name: string) => doc.pieces.filter((p) => p.name.startsWith(name));
const placesOf = (name: string) => of(name).flatMap((p) => outermost(p, doc));

describe("the dry dock", () => {
	it("has its gauge over all steps of one wall, upright, as high as the quay", () => {
		const file = (as: "colours" | "cut") => ({
			...{ file: (as === "cut" ? "c" : "d").repeat(64), name: "Gauge", widthPx: 336, heightPx: 1024, bits: 8, as },
		});
		const edits = gaugeEdits({ colour: file("colours"), cut: file("cut") });
		const painted = edits.reduce((now, edit) => applyEdit(now, edit).document, doc);
		const gauge = painted.stains?.find(({ id }) => id === "gauge");
		expect(gauge?.pieces).toHaveLength(5);
		const names = new Set(painted.pieces.filter((p) => gauge?.pieces.includes(p.id)).map((p) => p.name.slice(0, 16)));
		expect([...names]).toEqual(["Dock wall, right"]);
		const [here] = gauge?.laid.where ?? [];
		expect(here).toMatchObject({ kind: "here", highM: 8, headingDeg: 90, turnDeg: 0 });
		expect(ShotDocument.parse(painted)).toEqual(painted);
	});
	it("is a document whose pieces are all in a group with a name", () => {
		expect(ShotDocument.parse(doc)).toEqual(doc);
		const groups = new Set(doc.groups?.map((g) => g.id));
		expect(doc.pieces.filter((p) => !p.group || !groups.has(p.group))).toEqual([]);
	});
	it("has nothing that floats: blocks and figures stand on the floor, the keel on its blocks, lamps in their globes", () => {
		for (const name of ["Keel blocks", "Figure, coat", "Dock wall"])
			expect(Math.min(...placesOf(name).map((p) => p[1])), name).toBeCloseTo(0, 2);
		const top = Math.max(...placesOf("Keel blocks").map((p) => p[1]));
		const keel = Math.min(...outermost(doc.pieces.find((p) => p.name === "Keel") as never, doc).map((p) => p[1]));
		expect(Math.abs(keel - top)).toBeLessThan(0.08);
		for (const lamp of doc.lamps.filter((l) => l.name === "Quay lamp")) {
			const near = of("Quay lamp, globe").map((p) =>
				Math.hypot(p.position[0] - lamp.position[0], p.position[2] - lamp.position[2]),
			);
			expect(Math.min(...near)).toBeLessThan(0.01);
		}
	});
	it("has its wales reach the sternpost, and its shores the hull", () => {
		const post = of("Sternpost")[0];
		for (const wale of of("Wale")) {
			const nearest = Math.max(...outermost(wale, doc).map((p) => p[2]));
			expect(nearest, wale.name).toBeGreaterThan(post.position[2] - 1.2);
		}
		const ribs = placesOf("Rib");
		for (const shore of of("Shore")) {
			const tip = outermost(shore, doc).reduce((a, b) => (b[1] > a[1] ? b : a));
			expect(Math.min(...ribs.map((p) => Math.hypot(p[0] - tip[0], p[2] - tip[2]))), shore.id).toBeLessThan(3.2);
		}
	});
	it("shows hull, figures and the lamp that is being lit in its frame", () => {
		const view = frameOfView(doc.camera);
		const inside = (p: readonly [number, number, number]) => {
			const q = project(view, p);
			return q.depthM > 0 && q.x > 0 && q.x < 1 && q.y > 0 && q.y < 1;
		};
		for (const name of ["Rib", "Wale", "Sternpost", "Figure", "Crane, cabin"]) {
			const places = placesOf(name);
			expect(places.filter(inside).length / places.length, name).toBeGreaterThan(0.95);
		}
		const lantern = doc.lamps.find((l) => l.id === "lantern");
		expect(lantern && inside(lantern.position)).toBe(true);
	});
});
