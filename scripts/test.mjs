/**
 * `npm test`: brings what is missing, then style, types, layers, unit tests, tests with a private PostgreSQL, and the
 * whole job in a real Chromium. The very last line counts all suites together.
 */
import { existsSync, mkdirSync, readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import { buildPrograms, buildWeb } from "./lib/build.mjs";
import { endPrograms, needDebian, needPackages, ROOT, runProgram, say } from "./lib/install.mjs";
import { startPostgres } from "./lib/postgres.mjs";

let passed = 0;
let failed = 0;
/** What failed, told once more at the end. */
const failures = [];
const only = process.argv[2];
const folder = join(ROOT, `.data/test-${process.pid}`);

/** Lets the page, whose tests wait for it, go before what only computes. */
const BEHIND = 10;

async function step(name, args, env = {}, nice = 0) {
	if (ending) throw new Error("The tests were ended.");
	const at = Date.now();
	say(`\n== ${name}`);
	const ok = await runProgram(process.execPath, args, { env: { ...process.env, ...env }, nice });
	say(`== ${name}: ${ok ? "passed" : "FAILED"} in ${((Date.now() - at) / 1000).toFixed(0)} s`);
	return ok;
}

async function check(name, args) {
	if (await step(name, args, {}, BEHIND)) passed++;
	else {
		failed++;
		failures.push(name);
	}
}

async function count(name, args, report, env, read, nice = 0) {
	rmSync(report, { force: true });
	const ok = await step(name, args, env, nice);
	const counts = existsSync(report)
		? read(JSON.parse(readFileSync(report, "utf8")))
		: { passed: 0, failed: 1, failures: ["nothing was reported"] };
	passed += counts.passed;
	failed += counts.failed;
	failures.push(...counts.failures.map((what) => `${name}: ${what}`));
	if (!ok && counts.failed === 0) {
		failed++;
		failures.push(`${name} did not end well`);
	}
}

const firstLine = (text) => String(text ?? "").split("\n", 1)[0];
const fromVitest = (r) => ({
	passed: r.numPassedTests,
	failures: r.testResults.flatMap((file) =>
		file.status !== "failed"
			? []
			: [
					...(file.assertionResults.length ? [] : [`${file.name}: ${firstLine(file.message)}`]),
					...file.assertionResults
						.filter((t) => t.status === "failed")
						.map((t) => `${t.fullName}: ${firstLine(t.failureMessages[0])}`),
				],
	),
	failed:
		r.numFailedTests + r.testResults.filter((t) => t.status === "failed" && t.assertionResults.length === 0).length,
});
const specsOf = (suite) => [...(suite.specs ?? []), ...(suite.suites ?? []).flatMap(specsOf)];
const fromPlaywright = (r) => ({
	passed: r.stats.expected + r.stats.flaky,
	failed: r.stats.unexpected,
	failures: specsOf(r)
		.filter((spec) => !spec.ok)
		.map((spec) => `${spec.title}: ${firstLine(spec.tests[0]?.results.at(-1)?.error?.message)}`),
});

/** Ends with npm, or when it is told to: what runs now is ended, and nothing more is begun. */
let ending = false;
const parent = process.ppid;
function end() {
	ending = true;
	endPrograms("SIGINT");
}
setInterval(() => process.ppid !== parent && !ending && end(), 400).unref();
for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, end);

async function main() {
	await needDebian(["postgresql", "chromium", "ffmpeg", "openexr", "openimageio-tools"]);
	await needPackages();
	await buildPrograms();
	mkdirSync(folder, { recursive: true });
	const checks = async () => {
		await check("style", ["node_modules/@biomejs/biome/bin/biome", "check", "."]);
		await check("types", ["node_modules/typescript/bin/tsc", "--noEmit"]);
	};
	const vitest = (projects, report) => [
		"node_modules/vitest/vitest.mjs",
		"run",
		...projects.flatMap((project) => ["--project", project]),
		"--reporter=default",
		"--reporter=json",
		`--outputFile.json=${report}`,
	];
	const units = async () => {
		const report = join(folder, "unit.json");
		await count("unit tests", vitest(["unit", "ui"], report), report, {}, fromVitest, BEHIND);
	};
	const database = async () => {
		const server = await startPostgres(join(folder, "database"), { durable: false });
		const report = join(folder, "database.json");
		try {
			await count(
				"tests with the database",
				vitest(["database"], report),
				report,
				{ DATABASE_URL: server.url },
				fromVitest,
			);
		} finally {
			server.stop();
		}
	};
	const page = async () => {
		const report = join(folder, "page.json");
		await count(
			"the page in Chromium",
			["node_modules/@playwright/test/cli.js", "test", "--reporter=list,json"],
			report,
			{ PLAYWRIGHT_JSON_OUTPUT_NAME: report, INQUADRA_TEST_DATA: join(folder, "page") },
			fromPlaywright,
		);
	};
	if (only === "unit") return units();
	const web = buildWeb();
	// Types are of what is served as well.
	if (only === "check") await web.then(checks);
	if (only === "database") await web.then(database);
	if (only === "page") await web.then(page);
	// The page takes longest, the database waits half of its time; what only computes takes what both leave, and begins while the page is built.
	if (!only) await Promise.all([web.then(page), web.then(database), units().then(() => web.then(checks))]);
}

main()
	.catch((error) => {
		say(error.stack);
		failed++;
		failures.push(firstLine(error.message));
		// The page may not have been built while other tests already run.
		if (!ending) end();
	})
	.finally(() => {
		rmSync(folder, { recursive: true, force: true });
		for (const what of failures) say(`FAILED ${what}`);
		process.stdout.write(`${passed} passed, ${failed} failed\n`, () => process.exit(failed ? 1 : 0));
	});
