/** Where a surface lies over another, one line each. */
export { beside } from "./beside/schema.ts";
export { edges } from "./edges/schema.ts";
export { facing } from "./facing/schema.ts";
export { here } from "./here/schema.ts";
export { high } from "./high/schema.ts";
export { hollows } from "./hollows/schema.ts";
export { painted } from "./painted/schema.ts";
export { patches } from "./patches/schema.ts";
export { rain } from "./rain/schema.ts";
export { runs } from "./runs/schema.ts";
export { touching } from "./touching/schema.ts";
