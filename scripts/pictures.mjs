/** `npm run pictures`: renders the check scenes into docs/pictures. */
import { buildPrograms } from "./lib/build.mjs";
import { runBundled } from "./lib/bundled.mjs";
import { needPackages } from "./lib/install.mjs";

await needPackages();
await buildPrograms();
await runBundled("pictures", "demo/pictures.ts");
