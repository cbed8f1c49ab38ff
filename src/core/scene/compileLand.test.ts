import { describe, expect, it } from "vitest";
import { type Ground, LandEntry } from "../doc/schema.ts";
import type { LandWork } from "../ground/field.ts";
import { groundHeight, landNeeds } from "../ground/height.ts";
import { newEntry } from "../ground/ledger/ledger.ts";
import { settleLand } from "./compileLand.ts";
import { NO_MAKERS } from "./inputs.ts";

const place = { x: 0, z: 0, radiusM: 40, featherM: 10, fineness: 6 };
const entry = (kind: LandEntry["kind"], id: string, over: object) =>
	LandEntry.parse({ ...newEntry(kind, id, 0, 0), ...over });

describe("land that is settled", () => {
	it("is made square by square, each of all that came before, whatever was asked of the land until then", () => {
		const ground: Ground = {
			preset: "plain",
			seed: 77,
			heightM: 0,
			ledger: [
				entry("water", "rain", place),
				entry("path", "path", {
					points: [
						[-30, 0],
						[30, 0],
					],
					widthM: 6,
				}),
				entry("talus", "rest", place),
			],
		};
		// Here the path looks at land that has not worn yet, and keeps what it saw.
		expect(groundHeight(ground, 0, 0)).toBeCloseTo(0.12, 6);
		const works: LandWork[] = [];
		const steps = settleLand(ground, {
			...NO_MAKERS,
			land: (_, work) => {
				works.push({ ...work, heightsM: work.heightsM.slice() });
				const { heightsM: __, wear: ___, ...square } = work;
				return { ...square, changeM: new Float32Array(work.heightsM.length).fill(works.length === 1 ? -5 : 0) };
			},
		});
		for (let step = steps.next(); !step.done; ) step = steps.next();
		expect(works.map((w) => w.wear.by)).toEqual(["water", "slope"]);
		const { cells, heightsM } = works[1];
		expect(heightsM[(cells / 2) * cells + cells / 2]).toBeLessThan(-4.5);
		expect(groundHeight(ground, 0, 0)).toBeCloseTo(-5 + 0.12, 6);
		expect(landNeeds(ground)).toHaveLength(2);
	});
});
