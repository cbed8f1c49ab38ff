/** The presets of the ground, one line each, under the names that documents call them by. */
export { canyon } from "./canyon.ts";
export { cliffs } from "./cliffs.ts";
export { coast } from "./coast.ts";
export { dunes } from "./dunes.ts";
export { islands } from "./islands.ts";
export { moor } from "./moor.ts";
export { plain } from "./plain.ts";
export { quarry } from "./quarry.ts";
export { ridges } from "./ridges.ts";
export { riverValley as "river valley" } from "./riverValley.ts";
export { saltFlat as "salt flat" } from "./saltFlat.ts";
export { terraces } from "./terraces.ts";
