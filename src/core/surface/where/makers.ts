/** What the wheres in `schemas.ts` come to, one line each, under the kinds that documents call them by. */
export { beside } from "./beside/where.ts";
export { edges } from "./edges/where.ts";
export { facing } from "./facing/where.ts";
export { here } from "./here/where.ts";
export { high } from "./high/where.ts";
export { hollows } from "./hollows/where.ts";
export { painted } from "./painted/where.ts";
export { patches } from "./patches/where.ts";
export { rain } from "./rain/where.ts";
export { runs } from "./runs/where.ts";
export { touching } from "./touching/where.ts";
