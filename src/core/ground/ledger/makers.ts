/** What the entries in `schemas.ts` do, one line each, under the kinds that documents call them by. */
export { bed } from "./bed/entry.ts";
export { behind } from "./behind/entry.ts";
export { bench } from "./bench/entry.ts";
export { fold } from "./fold/entry.ts";
export { fracture } from "./fracture/entry.ts";
export { hand } from "./hand/entry.ts";
export { level } from "./level/entry.ts";
export { map } from "./map/entry.ts";
export { path } from "./path/entry.ts";
export { pond } from "./pond/entry.ts";
export { river } from "./river/entry.ts";
export { skyline } from "./skyline/entry.ts";
export { slump } from "./slump/entry.ts";
export { swell } from "./swell/entry.ts";
export { talus } from "./talus/entry.ts";
export { water } from "./water/entry.ts";
export { wind } from "./wind/entry.ts";
