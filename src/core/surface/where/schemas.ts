/** Where a surface lies over another, one line each. */
export { facing } from "./facing/schema.ts";
export { high } from "./high/schema.ts";
export { patches } from "./patches/schema.ts";
