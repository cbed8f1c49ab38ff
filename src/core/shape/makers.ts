/** What makes the bodies of the kinds in `schemas.ts`, one line each. */

export { arch } from "./arch/make.ts";
export { blob } from "./blob/make.ts";
export { box } from "./box/make.ts";
export { building } from "./building/make.ts";
export { card } from "./card/make.ts";
export { cone } from "./cone/make.ts";
export { cylinder } from "./cylinder/make.ts";
export { disc } from "./disc/make.ts";
export { dome } from "./dome/make.ts";
export { plane } from "./plane/make.ts";
export { rail } from "./rail/make.ts";
export { raised } from "./raised/make.ts";
export { sphere } from "./sphere/make.ts";
export { stair } from "./stair/make.ts";
export { town } from "./town/make.ts";
export { tube } from "./tube/make.ts";
export { turned } from "./turned/make.ts";
export { wall } from "./wall/make.ts";
export { wedge } from "./wedge/make.ts";
