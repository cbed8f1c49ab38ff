import { describe, expect, it } from "vitest";
import { nodeLand } from "../../../makers/wear/node.ts";
import { blankShot } from "../../doc/defaults.ts";
import { Ground, Rule } from "../../doc/schema.ts";
import { wornAt } from "../../ground/height.ts";
import { newEntry } from "../../ground/ledger/ledger.ts";
import { settleLand } from "../../scene/compileLand.ts";
import { NO_MAKERS } from "../../scene/inputs.ts";
import { surroundingsOf } from "../placeCover.ts";
import { newCover } from "../plant.ts";
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
