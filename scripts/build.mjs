import { buildAll } from "./lib/build.mjs";
import { needPackages } from "./lib/install.mjs";

needPackages();
await buildAll();
