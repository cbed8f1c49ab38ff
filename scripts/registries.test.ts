/** Adds a dummy of each kind of thing to a copy of the tree, as `docs/how-it-is-built.md` says, and asks the copy. */
import { spawnSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { TreeCopy } from "./treeCopy.ts";

const SHAPE = {
	"src/core/shape/slab/schema.ts": `import { z } from "zod";
import { share } from "../../doc/schema/measure.ts";

export const slab = z.object({ kind: z.literal("slab"), thick: share("Thickness", 0.5) });
`,
	"src/core/shape/slab/make.ts": `import type { Shape } from "../../doc/schema/piece.ts";
import { box } from "../box/make.ts";
import { geometryFrom, type ShapeMaker } from "../geometry.ts";

export const slab: ShapeMaker<Extract<Shape, { kind: "slab" }>> = {
	evaluate: ({ thick }, size, inputs) => {
		const { mesh, faces } = box.evaluate({ kind: "box" }, size, inputs);
		const deep = Math.max(0.01, thick);
		return geometryFrom({ ...mesh, positions: mesh.positions.map((v, i) => (i % 3 === 2 ? v * deep : v)) }, faces);
	},
};
`,
};
const RULE = {
	"src/core/dress/rules/eastOf/schema.ts": `import { z } from "zod";
import { number } from "../../../doc/schema/numbers.ts";

export const eastOf = z.object({ kind: z.literal("east of"), out: z.boolean(), xM: number(-1000, 1000) });
`,
	"src/core/dress/rules/eastOf/rule.ts": `import type { Rule } from "../../../doc/schema.ts";
import type { WhereRule } from "../rule.ts";

export const eastOf: WhereRule<Extract<Rule, { kind: "east of" }>> = {
	usual: { kind: "east of", out: false, xM: 0 },
	usually: null,
	act: "East of a line",
	sentence: ({ xM }) => \`east of \${xM.toFixed(0)} m\`,
	fields: [{ label: "Line", value: "xM", unit: "m", min: -1000, max: 1000, step: 1, digits: 0 }],
	inCell: ({ xM }) => ({ madeOf: [], weight: (x) => (x > xM ? 1 : 0) }),
};
`,
};
const PLANT = {
	"src/core/dress/plants/fern.ts": `import type { Plant } from "../plant.ts";
import { shrub } from "./shrub.ts";

export const fern: Plant = { ...shrub, name: "Ferns", act: "Add ferns" };
`,
};
const PRESET = {
	"src/core/ground/presets/dome.ts": `import { smoothstep } from "../../maths/functions.ts";
import { noise2 } from "../../maths/noise.ts";
import type { Preset } from "../preset.ts";
import { EARTH } from "./tones.ts";

export const dome: Preset = {
	height: (x, z, seed, heightM) =>
		heightM * (1 - smoothstep(0, 9000, Math.hypot(x, z))) * (1 + 0.1 * noise2(x / 500, z / 500, seed)),
	colour: () => EARTH,
	mostM: 40,
	stepM: 0.5,
	says: "The crown of the dome.",
	shownM: 9000,
};
`,
};
const SURFACE = {
	"src/core/surface/recipes/chalk.ts": `import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const chalk: Recipe = {
	name: "chalk",
	family: "rock",
	found: "white cliff",
	sideM: 2,
	depthMm: 12,
	grain: "turns",
	made: (p) => {
		const rough = p.cloudy({ cells: 6 });
		return { heightMm: rough.times(12), colour: blend([0.6, 0.59, 0.56], [0.75, 0.74, 0.72], rough.plus(0.5)), roughness: 0.9 };
	},
};
`,
};
const HAPPENED = {
	"src/core/ground/ledger/rise/schema.ts": `import { number } from "../../../doc/schema/numbers.ts";
import { entry } from "../../../doc/schema/land.ts";

export const rise = entry("rise", { byM: number(0, 100) });
`,
	"src/core/ground/ledger/rise/entry.ts": `import type { LandEntry } from "../../../doc/schema.ts";
import type { LandMaker } from "../entry.ts";

export const rise: LandMaker<Extract<LandEntry, { kind: "rise" }>> = {
	usual: () => ({ kind: "rise", byM: 2 }),
	act: "Rise",
	by: "rock",
	sentence: ({ byM }) => \`it rose by \${byM.toFixed(1)} m\`,
	fields: [{ label: "By", value: "byM", unit: "m", min: 0, max: 100, step: 1, digits: 1 }],
	made: ({ byM }) => (before) => before + byM,
};
`,
};
const LAMP = {
	"src/core/light/kinds/panel.ts": `import type { LampMaker } from "../lamp.ts";
import { rectangle } from "./rectangle.ts";

export const panel: LampMaker = { ...rectangle, hangsM: 4 };
`,
};
const STEP = {
	"src/ui/steps/notes/step.ts": `import { FinishBody } from "../finish/FinishBody.tsx";
import type { TicketStep } from "../step.ts";

export const notes: TicketStep = { stands: ({ doc }) => doc.title.slice(0, 40), Body: FinishBody };
`,
};
/** The one line in each list, and the line after which it stands. */
const LINES: [file: string, after: string, line: string][] = [
	[
		"src/core/shape/schemas.ts",
		'import { plane } from "./plane/schema.ts";',
		'import { slab } from "./slab/schema.ts";',
	],
	["src/core/shape/schemas.ts", "\tcone,", "\tslab,"],
	[
		"src/core/shape/makers.ts",
		'export { cylinder } from "./cylinder/make.ts";',
		'export { slab } from "./slab/make.ts";',
	],
	[
		"src/core/dress/rules/schemas.ts",
		'export { inView } from "./inView/schema.ts";',
		'export { eastOf } from "./eastOf/schema.ts";',
	],
	[
		"src/core/dress/rules/makers.ts",
		'export { inView as "in view" } from "./inView/rule.ts";',
		'export { eastOf as "east of" } from "./eastOf/rule.ts";',
	],
	["src/core/doc/schema/cover.ts", '\t"shrub",', '\t"fern",'],
	["src/core/dress/plants/makers.ts", 'export { shrub } from "./shrub.ts";', 'export { fern } from "./fern.ts";'],
	["src/core/doc/schema/land.ts", '\t"ridges",', '\t"dome",'],
	["src/core/ground/presets/makers.ts", 'export { ridges } from "./ridges.ts";', 'export { dome } from "./dome.ts";'],
	[
		"src/core/ground/ledger/schemas.ts",
		'export { level } from "./level/schema.ts";',
		'export { rise } from "./rise/schema.ts";',
	],
	[
		"src/core/ground/ledger/makers.ts",
		'export { level } from "./level/entry.ts";',
		'export { rise } from "./rise/entry.ts";',
	],
	["src/core/doc/schema/lamp.ts", '\t"rectangle",', '\t"panel",'],
	[
		"src/core/light/kinds/makers.ts",
		'export { rectangle } from "./rectangle.ts";',
		'export { panel } from "./panel.ts";',
	],
	[
		"src/core/doc/schema/keyed.ts",
		'\t"water.ripples": field("water", "ripples", "straight", "rippleMm", Water.shape.rippleMm),',
		'\t"water.clarity": field("water", "clarity", "logarithm", "clarityM", Water.shape.clarityM),',
	],
	[
		"src/core/surface/makers.ts",
		'export { brick } from "./recipes/brick.ts";',
		'export { chalk } from "./recipes/chalk.ts";',
	],
	["src/ui/store/slices/names.ts", '\t"Finish",', '\t"Notes",'],
	[
		"src/ui/steps/list.ts",
		'export { finish as Finish } from "./finish/step.ts";',
		'export { notes as Notes } from "./notes/step.ts";',
	],
];
/** The registries' own tests, and how a test of the dummy is called. */
const TESTS: [file: string, title: string][] = [
	["src/core/shape/shapes.test.ts", "the shape slab"],
	["src/core/dress/rules/rules.test.ts", "the where rule east of"],
	["src/core/dress/dress.test.ts", "of the kind fern"],
	["src/core/ground/presets/presets.test.ts", "the ground preset dome"],
	["src/core/ground/ledger/ledger.test.ts", "the entry rise of the land's ledger"],
	["src/makers/sheets/surfaces.test.ts", "the surface chalk"],
	["src/core/light/kinds/kinds.test.ts", "the lamp panel"],
	["src/core/time/time.test.ts", "the keyed value water.clarity"],
	["src/ui/steps/steps.test.ts", "the step Notes"],
];

describe("one file or folder and one line in each list", () => {
	let copy: TreeCopy;
	const run = (...args: string[]) =>
		spawnSync(process.execPath, args, { cwd: copy.folder, encoding: "utf8", maxBuffer: 1 << 28 });
	const add = (file: string, after: string, line: string) => {
		const text = readFileSync(join(copy.folder, file), "utf8");
		expect(text, file).toContain(`${after}\n`);
		copy.write(file, text.replace(`${after}\n`, `${after}\n${line}\n`));
	};

	/** A project of the compiler with some of the files. */
	const project = (...include: string[]) =>
		JSON.stringify({
			extends: "./tsconfig.json",
			compilerOptions: { incremental: false },
			include,
			exclude: ["**/*.test.ts", "src/tracer/kernel", "src/makers/*/kernel"],
		});

	beforeAll(() => {
		copy = new TreeCopy();
		for (const [path, text] of Object.entries({
			...SHAPE,
			...RULE,
			...PLANT,
			...PRESET,
			...SURFACE,
			...HAPPENED,
			...LAMP,
			...STEP,
		}))
			copy.write(path, text);
		for (const line of LINES) add(...line);
	});
	afterAll(() => copy.remove());

	it("make a shape, a where rule, a plant, a preset, a surface, an entry of the ledger, a lamp, a keyed value and a step that the type check takes", () => {
		// Tests and what is beside the application are checked with all else.
		copy.write("added.json", project("next-env.d.ts", "src"));
		const { status, stdout } = run("node_modules/typescript/bin/tsc", "-p", "added.json");
		expect(stdout).toBe("");
		expect(status).toBe(0);
	});

	it("and that pass the registries' own tests", () => {
		const { stdout } = run(
			"node_modules/vitest/vitest.mjs",
			"run",
			"--project=unit",
			"--project=ui",
			"--reporter=json",
			...TESTS.map(([file]) => file),
			// Those of what was added: all others are run by themselves.
			"-t",
			TESTS.map(([, title]) => title.replace(/[.*+?^${}()|[\]\\]/g, "\\$&")).join("|"),
		);
		const { testResults } = JSON.parse(stdout) as {
			testResults: {
				name: string;
				assertionResults: { fullName: string; status: string; failureMessages: string[] }[];
			}[];
		};
		const results = testResults
			.flatMap((file) => file.assertionResults)
			.filter((r) => TESTS.some(([, t]) => r.fullName.includes(t)));
		expect(results.filter((r) => r.status !== "passed").flatMap((r) => [r.fullName, ...r.failureMessages])).toEqual([]);
		for (const [, title] of TESTS) expect(results.some((r) => r.fullName.includes(title))).toBe(true);
	});

	it("keep to the layers", () => {
		const { stdout } = run(
			"node_modules/dependency-cruiser/bin/dependency-cruise.mjs",
			"src",
			"--config",
			".dependency-cruiser.cjs",
		);
		expect(stdout).toContain("no dependency violations found");
	});

	it("break the type check when one of the lines is missing", () => {
		const list = "src/core/dress/plants/makers.ts";
		const text = readFileSync(join(copy.folder, list), "utf8");
		copy.write(list, text.replace('export { fern } from "./fern.ts";\n', ""));
		copy.write("plants.json", project("src/core/dress/plant.ts"));
		expect(run("node_modules/typescript/bin/tsc", "-p", "plants.json").stdout).toContain("'fern' is missing");
		copy.write(list, text);
	});
});
