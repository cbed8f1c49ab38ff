import { spawnSync } from "node:child_process";
import { createRequire } from "node:module";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { TreeCopy } from "./treeCopy.ts";

interface Violation {
	from: string;
	to: string;
	rule: { name: string };
}

function cruise(folder: string): { violations: Violation[]; totalDependenciesCruised: number } {
	const r = spawnSync(
		process.execPath,
		[
			"node_modules/dependency-cruiser/bin/dependency-cruise.mjs",
			"src",
			"--config",
			".dependency-cruiser.cjs",
			"--output-type",
			"json",
		],
		{ cwd: folder, encoding: "utf8", maxBuffer: 1 << 28 },
	);
	return JSON.parse(r.stdout).summary;
}

/** What would lean the wrong way, for each room: the rule that tells it apart, where it is planted, what it asks for. */
const PLANTED: [rule: string, where: string, asks: string][] = [
	["core-maths", "core/maths", "core/ground/height.ts"],
	["core-colour", "core/colour", "core/doc/schema.ts"],
	["core-doc", "core/doc", "core/shape/shapes.ts"],
	["core-schemas", "core/shape/box/schema.ts", "core/shape/geometry.ts"],
	["core-schemas", "core/dress/rules/slope/schema.ts", "core/ground/height.ts"],
	["core-schemas", "core/ground/ledger/bed/schema.ts", "core/ground/height.ts"],
	["core-lens", "core/lens", "core/shape/shapes.ts"],
	["core-air", "core/air", "core/ground/height.ts"],
	["core-match", "core/match", "core/shape/place.ts"],
	["core-brief", "core/brief", "core/scene/compile.ts"],
	["core-study", "core/study", "core/out/glb.ts"],
	["core-ground", "core/ground", "core/light/lamp.ts"],
	["core-shape", "core/shape", "core/dress/plant.ts"],
	["core-volume", "core/volume", "core/shape/place.ts"],
	["core-surface", "core/surface", "core/dress/plant.ts"],
	["core-light", "core/light", "core/scene/compile.ts"],
	["core-dress", "core/dress", "core/scene/compile.ts"],
	["core-scene", "core/scene", "core/study/shares.ts"],
	["core-leans-on-nothing", "core/study", "tracer/meet.ts"],
	["core-finish", "core/finish", "core/scene/compile.ts"],
	["core-formats", "core/formats", "core/scene/compile.ts"],
	["core-time", "core/time", "core/scene/compile.ts"],
	["core-has-no-other-room", "core/attic", "core/maths/vec.ts"],
	["core-is-pure", "core/maths", "pg"],
	["tracer-leans-on-core", "tracer", "store/database.ts"],
	["makers-leans-on-core", "makers", "store/database.ts"],
	["store-leans-on-core-makers", "store", "tracer/meet.ts"],
	["wire-leans-on-core", "wire", "store/database.ts"],
	["server-leans-on-store-wire-core", "server", "tracer/meet.ts"],
	["press-leans-on-store-tracer-core", "press", "ui/store/studio.ts"],
	["cli-leans-on-store-tracer-core", "cli", "ui/store/studio.ts"],
	["ui-leans-on-tracer-makers-wire-core", "ui/parts", "store/database.ts"],
	["app-leans-on-ui-server-store-wire-core", "app", "tracer/meet.ts"],
	["ui-parts", "ui/parts", "ui/store/studio.ts"],
	["ui-stage", "ui/stage", "ui/store/studio.ts"],
	["ui-view", "ui/view", "ui/store/studio.ts"],
	["ui-store", "ui/store", "ui/reference/match.ts"],
	["ui-reference", "ui/reference", "ui/frame/marks.ts"],
	["ui-frame", "ui/frame", "ui/plan/Plan.tsx"],
	["ui-plan", "ui/plan", "ui/steps/steps.ts"],
	["ui-ribbon", "ui/ribbon", "ui/steps/steps.ts"],
	["ui-sheet", "ui/sheet", "ui/steps/steps.ts"],
	["ui-strip", "ui/strip", "ui/steps/steps.ts"],
	["ui-steps", "ui/steps", "ui/room/keys.ts"],
];

describe("the rooms", () => {
	it("lean on each other only as drawn", () => {
		const summary = cruise(".");
		expect(summary.totalDependenciesCruised).toBeGreaterThan(200);
		expect(summary.violations.map((v) => `${v.rule.name}: ${v.from} → ${v.to}`)).toEqual([]);
	});

	describe("would be told apart if one leaned the wrong way:", () => {
		let copy: TreeCopy;
		let violations: Violation[];

		beforeAll(() => {
			copy = new TreeCopy();
			PLANTED.forEach(([, where, asks], i) => {
				const path = where.endsWith(".ts") ? `src/${where}` : `src/${where}/planted${i}.ts`;
				const up = "../".repeat(path.split("/").length - 2);
				const to = asks.includes("/") ? `${up}${asks}` : asks;
				copy.write(path, `import * as planted from "${to}";\nexport const wrong = planted;\n`);
			});
			violations = cruise(copy.folder).violations;
		});
		afterAll(() => copy.remove());

		it.each(PLANTED)("%s, planted in %s, that asks for %s", (rule, where, asks) => {
			const told = violations.filter(
				(v) => v.from.includes(`src/${where}`) && v.to.includes(asks) && v.rule.name === rule,
			);
			expect(told.length).toBeGreaterThan(0);
		});

		it("and nothing that leans as drawn is told", () => {
			const planted = new Set(PLANTED.map(([rule]) => rule));
			const others = violations.filter((v) => !planted.has(v.rule.name) && v.rule.name !== "no-circles");
			expect(others).toEqual([]);
		});

		it("with every rule planted but the one room that may lean on all others", () => {
			const rules = (
				createRequire(import.meta.url)(`${copy.folder}/.dependency-cruiser.cjs`) as { forbidden: { name: string }[] }
			).forbidden;
			const untouched = rules.map((r) => r.name).filter((name) => !PLANTED.some(([rule]) => rule === name));
			expect(untouched).toEqual(["no-circles", "core-out", "ui-room"]);
		});
	});
});
