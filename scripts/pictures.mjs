/** `npm run pictures`: renders the check scenes into docs/pictures. */
import { spawnSync } from "node:child_process";
import { join } from "node:path";
import { buildPrograms, bundle } from "./lib/build.mjs";
import { needPackages, ROOT } from "./lib/install.mjs";

await needPackages();
await buildPrograms();
await bundle({ pictures: "demo/pictures.ts" });
const r = spawnSync(process.execPath, [join(ROOT, "build/pictures.mjs"), ...process.argv.slice(2)], {
	cwd: ROOT,
	stdio: ["ignore", "inherit", "inherit"],
});
process.exit(r.status ?? 1);
