import { describe, expect, it } from "vitest";
import { nodeLand } from "../../../makers/wear/node.ts";
import { blankShot } from "../../doc/defaults.ts";
import { applyEdit } from "../../doc/edits.ts";
import type { Ground, LandEntry } from "../../doc/schema.ts";
import { settleLand } from "../../scene/compileLand.ts";
import { NO_MAKERS } from "../../scene/inputs.ts";
import { groundHeight } from "../height.ts";
import { wornAlong, wornFurther } from "./brushedWear.ts";
import { newEntry } from "./ledger.ts";

type Rain = Extract<LandEntry, { kind: "water" }>;
const slope: Ground = { preset: "ridges", seed: 4, heightM: 90 };
const line: [number, number][] = [
	[0, -60],
	[10, -75],
	[24, -82],
];

async function settled(ground: Ground): Promise<Ground> {
	const steps = settleLand(ground, { ...NO_MAKERS, land: nodeLand() });
	let made: unknown;
	for (;;) {
		const step = steps.next(made);
		if (step.done) return ground;
		made = await step.value;
	}
}

describe("the wearing brush", () => {
	it("wears the land along its line and leaves it alone beyond the ring", async () => {
		const entry = wornAlong(null, "w", line, 8, 0.8);
		const worn = await settled({ ...slope, ledger: [entry] });
		let [within, beyond] = [0, 0];
		for (let i = 0; i < 600; i++) {
			const [x, z] = [((i * 37) % 90) - 35, -((i * 53) % 90) - 30];
			const by = Math.abs(groundHeight(worn, x, z) - groundHeight(slope, x, z));
			const far = Math.min(
				...line.slice(1).map(([bx, bz], k) => {
					const [ax, az] = line[k];
					const t = Math.max(
						0,
						Math.min(1, ((x - ax) * (bx - ax) + (z - az) * (bz - az)) / ((bx - ax) ** 2 + (bz - az) ** 2)),
					);
					return Math.hypot(x - ax - t * (bx - ax), z - az - t * (bz - az));
				}),
			);
			if (far > 8) beyond = Math.max(beyond, by);
			else within = Math.max(within, by);
		}
		expect(beyond).toBe(0);
		expect(within).toBeGreaterThan(0.2);
	});
	it("has cells for its ring, and a place that holds all of its strokes", () => {
		const first = wornAlong(null, "w", line, 8, 0.4) as Rain;
		const second = wornAlong(first, "w", [[60, -40]], 8.4, 0.4) as Rain;
		expect(second.where[0]).toMatchObject({ kind: "along lines", lines: [line, [[60, -40]]] });
		for (const { x, z, radiusM, featherM, fineness } of [first, second]) {
			expect((2 * (radiusM + featherM)) / 2 ** fineness).toBeLessThan(8 / 4);
			expect(Math.hypot(line[0][0] - x, line[0][1] - z) + 8).toBeLessThan(radiusM + 1e-6);
		}
		expect(Math.hypot(60 - second.x, -40 - second.z)).toBeLessThan(second.radiusM);
		expect(wornAlong(null, "w", [[3, 4]], 0.5, 0.4)).toMatchObject({ radiusM: 5, fineness: 8 });
	});
	it("goes on with the entry that is as wide and as strong, and with no other", () => {
		const entry = wornAlong(null, "w", line, 8, 0.4);
		expect(wornFurther(entry, 8.5, 0.4)).toBe(true);
		expect(wornFurther(entry, 16, 0.4)).toBe(false);
		expect(wornFurther(entry, 8, 0.6)).toBe(false);
		expect(wornFurther({ ...entry, out: true }, 8, 0.4)).toBe(false);
		expect(wornFurther(newEntry("water", "w", 0, 0), 8, 0.4)).toBe(false);
		expect(wornFurther(newEntry("hand", "h", 0, 0), 8, 0.4)).toBe(false);
	});
	it("is an edit like any other", () => {
		const entry = wornAlong(null, "w", line, 8, 0.4);
		const doc = applyEdit(blankShot(), { name: "ground.addEntry", entry }).document;
		const again = applyEdit(doc, { name: "ground.setEntry", entry: wornAlong(entry, "w", [[2, 2]], 8, 0.4) });
		expect(again.document.ground.ledger).toHaveLength(1);
	});
});
