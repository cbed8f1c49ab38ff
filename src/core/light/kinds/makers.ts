/** The kinds of lamps, one line each, under the names that documents call them by. */
export { disc } from "./disc.ts";
export { point } from "./point.ts";
export { rectangle } from "./rectangle.ts";
export { sphere } from "./sphere.ts";
export { spot } from "./spot.ts";
