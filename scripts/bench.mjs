/** `npm run bench`: builds the bench and runs it. */
import { spawnSync } from "node:child_process";
import { rmSync } from "node:fs";
import { join } from "node:path";
import { buildPrograms, bundle } from "./lib/build.mjs";
import { needDebian, needPackages, ROOT } from "./lib/install.mjs";
import { startPostgres } from "./lib/postgres.mjs";

await needPackages();
await needDebian(["chromium", "postgresql", "ffmpeg"]);
await buildPrograms();
await bundle({ bench: "bench/run.ts", cast: "bench/cast.ts" });
const folder = join(ROOT, `.data/bench-${process.pid}`);
const only = process.argv[process.argv.indexOf("--only") + 1];
const database =
	!process.argv.includes("--only") || ["large", "move"].includes(only)
		? await startPostgres(folder, { durable: false })
		: null;
const r = spawnSync(process.execPath, [join(ROOT, "build/bench.mjs"), ...process.argv.slice(2)], {
	cwd: ROOT,
	stdio: ["ignore", "inherit", "inherit"],
	env: { ...process.env, ...(database ? { DATABASE_URL: database.url } : {}) },
});
database?.stop();
rmSync(folder, { recursive: true, force: true });
process.exit(r.status ?? 1);
