import { describe, expect, it } from "vitest";
import { blankShot } from "../doc/defaults.ts";
import type { Ground } from "../doc/schema.ts";
import { frameOfView, project } from "../lens/camera.ts";
import { groundHeight } from "./height.ts";
import { newEntry } from "./ledger/ledger.ts";
import { EARTH_M } from "./planet.ts";
import { groundUnder } from "./underPoint.ts";

const level: Ground = { preset: "plain", seed: 1, heightM: 0, planetKm: null };
const lens = (over: object = {}) => frameOfView({ ...blankShot().camera, position: [0, 2, 0], pitchDeg: 0, ...over });
/** A mound 12 m high, 60 m before the lens, that hides what is behind it. */
const mound: Ground = {
	...level,
	ledger: [{ ...newEntry("level", "mound", 0, -60), radiusM: 6, featherM: 20, atM: 12 } as never],
};

describe("the ground under a place of the frame", () => {
	it("is where the lens sees it, on a plain to a millimetre at ten metres and to its horizon", () => {
		const view = lens();
		for (const z of [-3, -10, -80, -900]) {
			const at = project(view, [0.4, 0, z]);
			const found = groundUnder(view, level, at);
			expect(found?.[2]).toBeCloseTo(z, z > -20 ? 3 : 1);
			expect(found?.[0]).toBeCloseTo(0.4, 3);
		}
		expect(groundUnder(view, level, { x: 0.5, y: 0.2 })).toBeNull();
		// On a planet it has sunk there.
		const sunk = project(view, [0.4, -(900 ** 2) / 2 / EARTH_M, -900]);
		expect(groundUnder(view, { ...level, planetKm: undefined }, sunk)?.[2]).toBeCloseTo(-900, 0);
	});
	it("is the near side of a hill that rises before what lies behind it", () => {
		const view = lens();
		const behind = project(view, [0, 0, -140]);
		const found = groundUnder(view, mound, behind);
		expect(found?.[2]).toBeGreaterThan(-60);
		expect(found?.[2]).toBeLessThan(-34);
		expect(found?.[1]).toBeCloseTo(groundHeight(mound, found?.[0] ?? 0, found?.[2] ?? 0), 9);
		// Above the horizon there is its crest, and above the crest there is none.
		expect(groundUnder(view, mound, project(view, [0, 8, -60]))?.[1]).toBeGreaterThan(4);
		expect(groundUnder(view, mound, project(view, [0, 20, -60]))).toBeNull();
	});
	it("is none for a lens that is below it", () => {
		expect(groundUnder(lens({ position: [0, -1, 0] }), level, { x: 0.5, y: 0.9 })).toBeNull();
	});
	it("is met from above as from the side, however the land is folded", () => {
		const folded: Ground = { ...level, ledger: [newEntry("fold", "f", 0, 0), newEntry("fracture", "g", 0, 0)] };
		const view = lens({ position: [0, 400, 0], pitchDeg: -80 });
		for (const [x, y] of [
			[0.2, 0.3],
			[0.5, 0.5],
			[0.8, 0.9],
		]) {
			const found = groundUnder(view, folded, { x, y });
			if (!found) throw new Error("no ground");
			const back = project(view, found);
			expect([back.x, back.y]).toEqual([expect.closeTo(x, 4), expect.closeTo(y, 4)]);
		}
	});
});
