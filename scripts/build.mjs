import { buildAll } from "./lib/build.mjs";
import { needPackages } from "./lib/install.mjs";

await needPackages();
await buildAll();
