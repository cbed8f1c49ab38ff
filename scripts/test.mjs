/**
 * `npm test`: brings what is missing, then style, types, layers, unit tests, tests with a private PostgreSQL, and the
 * whole job in a real Chromium. The very last line counts all suites together.
 */
import { spawnSync } from "node:child_process";
import { existsSync, mkdirSync, readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import { buildAll } from "./lib/build.mjs";
import { needDebian, needPackages, ROOT, say } from "./lib/install.mjs";
import { startPostgres } from "./lib/postgres.mjs";

let passed = 0;
let failed = 0;
const only = process.argv[2];
const folder = join(ROOT, `.data/test-${process.pid}`);

function step(name, args, env = {}) {
	const at = Date.now();
	say(`\n== ${name}`);
	const r = spawnSync(process.execPath, args, { cwd: ROOT, stdio: ["ignore", 2, 2], env: { ...process.env, ...env } });
	const ok = r.status === 0;
	say(`== ${name}: ${ok ? "passed" : "FAILED"} in ${((Date.now() - at) / 1000).toFixed(0)} s`);
	return ok;
}

function check(name, args) {
	if (step(name, args)) passed++;
	else failed++;
}

function count(name, args, report, env, read) {
	rmSync(report, { force: true });
	const ok = step(name, args, env);
	const counts = existsSync(report) ? read(JSON.parse(readFileSync(report, "utf8"))) : { passed: 0, failed: 1 };
	passed += counts.passed;
	failed += counts.failed;
	if (!ok && counts.failed === 0) failed++;
}

const fromVitest = (r) => ({
	passed: r.numPassedTests,
	failed:
		r.numFailedTests + r.testResults.filter((t) => t.status === "failed" && t.assertionResults.length === 0).length,
});
const fromPlaywright = (r) => ({ passed: r.stats.expected + r.stats.flaky, failed: r.stats.unexpected });

async function main() {
	needDebian(["postgresql", "chromium", "openexr", "openimageio-tools"]);
	needPackages();
	await buildAll();
	mkdirSync(folder, { recursive: true });
	if (!only || only === "check") {
		check("style", ["node_modules/@biomejs/biome/bin/biome", "check", "."]);
		check("types", ["node_modules/typescript/bin/tsc", "--noEmit"]);
	}
	const vitest = (project, report) => [
		"node_modules/vitest/vitest.mjs",
		"run",
		"--project",
		project,
		"--reporter=default",
		"--reporter=json",
		`--outputFile.json=${report}`,
	];
	if (!only || only === "unit")
		count("unit tests", vitest("unit", join(folder, "unit.json")), join(folder, "unit.json"), {}, fromVitest);
	if (!only || only === "database") {
		const database = await startPostgres(join(folder, "database"), { durable: false });
		try {
			count(
				"tests with the database",
				vitest("database", join(folder, "database.json")),
				join(folder, "database.json"),
				{ DATABASE_URL: database.url },
				fromVitest,
			);
		} finally {
			database.stop();
		}
	}
	if (!only || only === "page") {
		const report = join(folder, "page.json");
		count(
			"the page in Chromium",
			["node_modules/@playwright/test/cli.js", "test", "--reporter=list,json"],
			report,
			{ PLAYWRIGHT_JSON_OUTPUT_NAME: report, INQUADRA_TEST_DATA: join(folder, "page") },
			fromPlaywright,
		);
	}
}

main()
	.catch((error) => {
		say(error.stack);
		failed++;
	})
	.finally(() => {
		rmSync(folder, { recursive: true, force: true });
		process.stdout.write(`${passed} passed, ${failed} failed\n`, () => process.exit(failed ? 1 : 0));
	});
