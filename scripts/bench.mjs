/** `npm run bench`: builds the bench and runs it. */
import { spawnSync } from "node:child_process";
import { join } from "node:path";
import { buildPrograms, bundle } from "./lib/build.mjs";
import { needDebian, needPackages, ROOT } from "./lib/install.mjs";

needPackages();
needDebian(["chromium", "postgresql"]);
await buildPrograms();
await bundle({ bench: "bench/run.ts", cast: "bench/cast.ts" });
const r = spawnSync(process.execPath, [join(ROOT, "build/bench.mjs"), ...process.argv.slice(2)], { cwd: ROOT, stdio: ["ignore", "inherit", "inherit"] });
process.exit(r.status ?? 1);
