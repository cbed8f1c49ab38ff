/** What makes the bodies of the kinds in `schemas.ts`, one line each. */
export { box } from "./box/make.ts";
export { cone } from "./cone/make.ts";
export { cylinder } from "./cylinder/make.ts";
export { sphere } from "./sphere/make.ts";
export { wedge } from "./wedge/make.ts";
