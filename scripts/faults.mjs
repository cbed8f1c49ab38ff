/** `npm run faults`: builds the application and tries it under kills and damaged files. */
import { spawnSync } from "node:child_process";
import { join } from "node:path";
import { buildAll, bundle } from "./lib/build.mjs";
import { needDebian, needPackages, ROOT } from "./lib/install.mjs";

await needDebian(["postgresql", "ffmpeg"]);
await needPackages();
await buildAll();
await bundle({ faults: "faults/run.ts" });
const r = spawnSync(process.execPath, [join(ROOT, "build/faults.mjs"), ...process.argv.slice(2)], {
	cwd: ROOT,
	stdio: ["ignore", "inherit", "inherit"],
});
process.exit(r.status ?? 1);
