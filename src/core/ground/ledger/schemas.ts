/** What may happen to the land, one line each. */
export { bed } from "./bed/schema.ts";
export { behind } from "./behind/schema.ts";
export { bench } from "./bench/schema.ts";
export { fold } from "./fold/schema.ts";
export { fracture } from "./fracture/schema.ts";
export { hand } from "./hand/schema.ts";
export { level } from "./level/schema.ts";
export { map } from "./map/schema.ts";
export { path } from "./path/schema.ts";
export { pond } from "./pond/schema.ts";
export { river } from "./river/schema.ts";
export { skyline } from "./skyline/schema.ts";
export { slump } from "./slump/schema.ts";
export { swell } from "./swell/schema.ts";
export { talus } from "./talus/schema.ts";
export { water } from "./water/schema.ts";
export { wind } from "./wind/schema.ts";
