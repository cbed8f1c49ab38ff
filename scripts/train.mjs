/** `npm run train -- truths [NAME …]`: makes what the filter of noise is judged by. */
import { spawnSync } from "node:child_process";
import { join } from "node:path";
import { buildPrograms, bundle } from "./lib/build.mjs";
import { needPackages, ROOT } from "./lib/install.mjs";

await needPackages();
await buildPrograms();
await bundle({ train: "train/main.ts" });
const r = spawnSync(process.execPath, [join(ROOT, "build/train.mjs"), ...process.argv.slice(2)], {
	cwd: ROOT,
	stdio: ["ignore", "inherit", "inherit"],
});
process.exit(r.status ?? 1);
