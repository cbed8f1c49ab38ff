import { describe, expect, it } from "vitest";
import { ShotDocument } from "../src/core/doc/schema.ts";
import { groundHeight } from "../src/core/ground/height.ts";
import { HELD_OUT } from "./heldOut.ts";
import { madeUpShot } from "./shots.ts";

const SEEDS = Array.from({ length: 120 }, (_, i) => i + 1);

describe("made-up shots", () => {
	const shots = SEEDS.map(madeUpShot);

	it("are valid, the same for the same seed, and no two alike", () => {
		for (const doc of shots) expect(ShotDocument.parse(doc), doc.title).toEqual(doc);
		expect(madeUpShot(7)).toEqual(shots[6]);
		expect(new Set(shots.map((doc) => JSON.stringify({ ...doc, title: "" }))).size).toBe(SEEDS.length);
	});

	it("hold what is hard: half of them thin things under the open sky, others water, glass, lamps and things that grow", () => {
		const share = (has: (doc: ShotDocument) => boolean) => shots.filter(has).length / shots.length;
		const thin = ({ pieces }: ShotDocument) =>
			pieces.filter(({ size: [w, h, d] }) => Math.max(w, h, d) > 8 * Math.min(w, h)).length >= 3;
		expect(share(thin)).toBeGreaterThan(0.45);
		expect(share(({ water }) => water.on)).toBeGreaterThan(0.2);
		expect(share(({ pieces }) => pieces.some((p) => p.surface.glass))).toBeGreaterThan(0.1);
		expect(share(({ lamps, pieces }) => lamps.length > 0 || pieces.some((p) => p.surface.glow))).toBeGreaterThan(0.2);
		expect(share(({ covers }) => covers.length > 0)).toBeGreaterThan(0.1);
	});

	it("are seen from over the ground and the water", () => {
		for (const { camera, ground, water, title } of shots) {
			const [x, y, z] = camera.position;
			expect(y, title).toBeGreaterThan(Math.min(0, groundHeight(ground, x, z)));
			if (water.on) expect(y, title).toBeGreaterThan(water.levelM);
		}
	});

	it("are none of those by which the filter is judged", () => {
		const judged = new Set(
			Object.values(HELD_OUT).flatMap((make) => make().pieces.map((p) => JSON.stringify(p.position))),
		);
		const common = shots.flatMap((doc) => doc.pieces.filter((p) => judged.has(JSON.stringify(p.position))));
		expect(common).toEqual([]);
	});
});
