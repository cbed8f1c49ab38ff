/** `npm run bench`: builds the bench and runs it. */
import { spawnSync } from "node:child_process";
import { join } from "node:path";
import { buildPrograms } from "./lib/build.mjs";
import { needPackages, ROOT } from "./lib/install.mjs";

needPackages();
await buildPrograms();
const { build } = await import("esbuild");
await build({
	absWorkingDir: ROOT,
	entryPoints: ["bench/run.ts"],
	outfile: "build/bench.mjs",
	bundle: true,
	platform: "node",
	format: "esm",
	target: "node20",
	packages: "external",
	logLevel: "warning",
});
const r = spawnSync(process.execPath, [join(ROOT, "build/bench.mjs"), ...process.argv.slice(2)], { cwd: ROOT, stdio: ["ignore", "inherit", "inherit"] });
process.exit(r.status ?? 1);
