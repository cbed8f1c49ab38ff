/** `npm run train -- truths [NAME …]`: makes what the filter of noise is judged by. */
import { buildPrograms } from "./lib/build.mjs";
import { runBundled } from "./lib/bundled.mjs";
import { needPackages } from "./lib/install.mjs";

await needPackages();
await buildPrograms();
await runBundled("train", "train/main.ts");
