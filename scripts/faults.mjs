/** `npm run faults`: builds the application and tries it under kills and damaged files. */
import { buildAll } from "./lib/build.mjs";
import { runBundled } from "./lib/bundled.mjs";
import { needDebian, needPackages } from "./lib/install.mjs";

await needDebian(["postgresql", "ffmpeg"]);
await needPackages();
await buildAll();
await runBundled("faults", "faults/run.ts");
