/** The plants that covers are of, one line each, under the names that documents call them by. */
export { shrub } from "./shrub.ts";
export { tussock } from "./tussock.ts";
