import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { describe, expect, it } from "vitest";

const root = fileURLToPath(new URL("..", import.meta.url));
const cruise = () => {
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
		{
			cwd: root,
			encoding: "utf8",
			maxBuffer: 1 << 28,
		},
	);
	const { summary } = JSON.parse(r.stdout) as {
		summary: {
			totalCruised: number;
			totalDependenciesCruised: number;
			violations: { from: string; to: string; rule: { name: string } }[];
		};
	};
	return summary;
};

describe("the rooms", () => {
	it("lean on each other only as drawn", () => {
		const summary = cruise();
		expect(summary.totalDependenciesCruised).toBeGreaterThan(200);
		expect(summary.violations.map((v) => `${v.rule.name}: ${v.from} → ${v.to}`)).toEqual([]);
	});

	it("would be told apart if one leaned the wrong way", () => {
		const folder = mkdtempSync(join(root, "src/core/maths/planted-"));
		try {
			writeFileSync(
				join(folder, "wrong.ts"),
				'import { groundHeight } from "../../ground/height.ts";\nimport { openPool } from "../../../store/database.ts";\nexport const wrong = [groundHeight, openPool];\n',
			);
			const names = cruise().violations.map((v) => v.rule.name);
			expect(names).toContain("core-maths");
			expect(names).toContain("core-leans-on-nothing");
		} finally {
			rmSync(folder, { recursive: true, force: true });
		}
	});
});
