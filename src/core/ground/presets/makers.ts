/** The presets of the ground, one line each, under the names that documents call them by. */
export { plain } from "./plain.ts";
export { ridges } from "./ridges.ts";
export { saltFlat as "salt flat" } from "./saltFlat.ts";
