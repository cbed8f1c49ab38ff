/** The commands of the command line, by their names. */
export { export, import } from "./commands/files.ts";
export { land } from "./commands/land.ts";
export { match } from "./commands/match.ts";
export { print } from "./commands/print.ts";
export { schema } from "./commands/schema.ts";
export { edit, keep, new, shots } from "./commands/shots.ts";
export { demo, migrate } from "./commands/start.ts";
export { study } from "./commands/study.ts";
export { surface, surfaces } from "./commands/surfaces.ts";
