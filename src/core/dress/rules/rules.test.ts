import { describe, expect, it } from "vitest";
import { nodeLand } from "../../../makers/wear/node.ts";
import { blankShot } from "../../doc/defaults.ts";
import { Ground, Rule } from "../../doc/schema.ts";
import { groundHeight, wornAt } from "../../ground/height.ts";
import { newEntry } from "../../ground/ledger/ledger.ts";
import { settleLand } from "../../scene/compileLand.ts";
import { NO_MAKERS } from "../../scene/inputs.ts";
import { surroundingsOf } from "../placeCover.ts";
import { newCover } from "../plant.ts";
import { CELL_M } from "./rule.ts";
import { RULES, ruleOf, usualRules } from "./rules.ts";

describe.each(Object.keys(RULES) as Rule["kind"][])("the where rule %s", (kind) => {
	const { usual, act, sentence, fields, inCell, usually } = ruleOf({ kind });

	it("is taken in as a rule of a document, in words of its own", () => {
		expect(Rule.parse(usual)).toEqual(usual);
		expect(usual.kind).toBe(kind);
		expect(act).not.toBe("");
		const said = Object.values(RULES).map((rule) => (rule as typeof RULES.slope).act);
		expect(said.filter((other) => other === act)).toHaveLength(1);
	});

	it("is a sentence at both ends of each number that a person sets, and documents hold them", () => {
		expect(sentence(usual)).not.toBe("");
		for (const { value, min, max, times = 1 } of fields)
			for (const end of [min, max])
				expect(sentence(Rule.parse({ ...usual, [value]: end / times }))).not.toMatch(/NaN|undefined/);
	});

	it("weighs between nothing and all, and the same again", () => {
		const doc = blankShot();
		const around = surroundingsOf(doc, newCover("c", "tussock"));
		for (const cell of [
			{ x: 0, z: -1 },
			{ x: 3, z: -5 },
			{ x: -20, z: 4 },
		]) {
			const found = inCell(usual, around, cell);
			if (typeof found === "string") continue;
			const x = cell.x * 16 + 5;
			const z = cell.z * 16 + 9;
			expect(found.weight(x, z)).toBeGreaterThanOrEqual(0);
			expect(found.weight(x, z)).toBeLessThanOrEqual(1);
			const again = inCell(usual, around, cell);
			expect(typeof again === "string" ? null : again.weight(x, z)).toBe(found.weight(x, z));
		}
	});

	it("stands in a new cover where it says so", () => {
		expect(usualRules().some((rule) => rule.kind === kind)).toBe(usually !== null);
	});
});

describe("on what was laid", () => {
	it("lets plants stand where wear has laid something, and nowhere on land that nothing has worn", async () => {
		const doc = blankShot();
		const rain = { ...newEntry("water", "w", 0, -60), radiusM: 60, featherM: 20, fineness: 6, power: 0.8, laying: 1 };
		const ground = Ground.parse({ preset: "ridges", seed: 4, heightM: 90, ledger: [rain] });
		const steps = settleLand(ground, { ...NO_MAKERS, land: nodeLand() });
		for (let step = steps.next(); !step.done; ) step = steps.next(await step.value);
		const rule = ruleOf({ kind: "laid land" });
		const weighed = (of: Ground) => {
			const found = rule.inCell(
				{ ...rule.usual, fromM: 0.02, featherM: 0.02 } as Rule,
				surroundingsOf({ ...doc, ground: of }, newCover("c", "tussock")),
				{
					x: 0,
					z: -4,
				},
			);
			return typeof found === "string" ? () => (found === "all" ? 1 : 0) : found.weight;
		};
		const weight = weighed(ground);
		const worn = wornAt(ground);
		let [stands, bare] = [0, 0];
		for (let i = 0; i < 400; i++) {
			const [x, z] = [((i * 37) % 100) - 50, -20 - ((i * 53) % 90)];
			const { laidM } = worn(x, z);
			if (laidM >= 0.02) stands += weight(x, z) > 0 ? 1 : -1e6;
			else if (laidM === 0) bare += weight(x, z) === 0 ? 1 : -1e6;
		}
		expect(stands).toBeGreaterThan(5);
		expect(bare).toBeGreaterThan(50);
		expect(weighed({ ...ground, ledger: [] })(0, -60)).toBe(0);
	});
});

/** What a rule leaves at places of some land, about which nothing else is. */
function weightsOn(ground: Ground, rule: Rule, places: readonly (readonly [number, number])[]): number[] {
	const around = surroundingsOf({ ...blankShot(), ground }, newCover("c", "tussock"));
	return places.map(([x, z]) => {
		const found = ruleOf(rule).inCell(rule, around, { x: Math.floor(x / CELL_M), z: Math.floor(z / CELL_M) });
		return typeof found === "string" ? (found === "all" ? 1 : 0) : found.weight(x, z);
	});
}

describe("by the form of the land", () => {
	const ridges = Ground.parse({ preset: "ridges", seed: 4, heightM: 90 });
	const places = Array.from({ length: 400 }, (_, i): [number, number] => [
		((i * 37) % 280) - 140,
		((i * 53) % 280) - 140,
	]);

	it("between heights lets plants stand there alone", () => {
		const heights = places.map(([x, z]) => groundHeight(ridges, x, z));
		const rule: Rule = { kind: "between heights", out: false, fromM: 10, toM: 30, featherM: 2 };
		for (const [n, weight] of weightsOn(ridges, rule, places).entries()) {
			if (heights[n] >= 10 && heights[n] <= 30) expect(weight).toBe(1);
			if (heights[n] < 8 || heights[n] > 32) expect(weight).toBe(0);
		}
	});

	it("in hollows lets them stand on the floor of a bowl, not on its rim and not on level land", () => {
		const dug = (depth: number) => ({
			...newEntry("level", "l", 0, 0),
			atM: depth,
			radiusM: 4,
			featherM: 6,
		});
		const rule: Rule = { kind: "in hollows", out: false, deepM: 0.5, aboutM: 9, featherM: 0.1 };
		const on = (depth: number) =>
			weightsOn(Ground.parse({ preset: "plain", seed: 1, heightM: 0, ledger: [dug(depth)] }), rule, [
				[0, 0],
				[60, 0],
				[11, 0],
			]);
		expect(on(-3)).toEqual([1, 0, 0]);
		expect(on(3).slice(0, 2)).toEqual([0, 0]);
		expect(on(-0.3)).toEqual([0, 0, 0]);
	});

	it("where water runs lets them stand where the rain of so much land comes by, within its square", () => {
		const rule: Rule = { kind: "where water runs", out: false, fromM2: 400, x: 0, z: 0, withinM: 150 };
		const weights = weightsOn(ridges, rule, places);
		const stands = places.filter((_, n) => weights[n] === 1);
		expect(stands.length).toBeGreaterThan(5);
		expect(stands.length).toBeLessThan(120);
		// It lies lower than what is about it, across the way that the water takes.
		const lower = stands.filter(([x, z]) => {
			const about = [0, 1, 2, 3, 4, 5, 6, 7].map((k) =>
				groundHeight(ridges, x + 8 * Math.cos((k * Math.PI) / 4), z + 8 * Math.sin((k * Math.PI) / 4)),
			);
			return about.reduce((sum, y) => sum + y, 0) / 8 > groundHeight(ridges, x, z);
		});
		expect(lower.length / stands.length).toBeGreaterThan(0.8);
		expect(weightsOn(ridges, { ...rule, fromM2: 4000 }, places).filter((w) => w === 1).length).toBeLessThan(
			stands.length,
		);
		expect(weightsOn(ridges, rule, [[400, 0]])).toEqual([0]);
		// A hand begins it before its lens.
		const { camera } = blankShot();
		const begun = RULES["where water runs"].begun?.({ ...camera, position: [1000, 2, -500], headingDeg: 90 });
		expect(begun).toMatchObject({ x: 1120, z: -500, withinM: 150 });
	});
});

describe("beside paths", () => {
	const path = {
		...newEntry("path", "p", 0, 0),
		points: [
			[5, 200],
			[5, -200],
		],
		widthM: 4,
		out: false,
	};
	const around = surroundingsOf(
		{ ...blankShot(), ground: Ground.parse({ preset: "plain", seed: 1, heightM: 0, ledger: [path] }) },
		newCover("c", "tussock"),
	);
	const rule = { kind: "beside paths" as const, out: false, fromM: 1, toM: 6, featherM: 0 };
	const { inCell } = ruleOf(rule);

	it("lets plants stand along them alone", () => {
		const found = inCell(rule, around, { x: 0, z: -2 });
		if (typeof found === "string") throw new Error("The path runs through that cell.");
		for (const [x, weight] of [
			[5, 0],
			[7.5, 0],
			[9, 1],
			[12, 1],
			[14, 0],
		])
			expect(found.weight(x, -20), `at ${x}`).toBe(weight);
		expect(inCell(rule, around, { x: 3, z: -2 })).toBe("none");
	});
	it("lets nothing stand where there is no path", () => {
		const without = surroundingsOf(blankShot(), newCover("c", "tussock"));
		expect(inCell(rule, without, { x: 0, z: 0 })).toBe("none");
	});
});
