/** The kinds of shapes that a document may hold, one line each. Each has defaults for all of its own measures. */
export { box } from "./box/schema.ts";
export { cone } from "./cone/schema.ts";
export { cylinder } from "./cylinder/schema.ts";
export { sphere } from "./sphere/schema.ts";
export { wedge } from "./wedge/schema.ts";
