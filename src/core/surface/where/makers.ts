/** What the wheres in `schemas.ts` come to, one line each, under the kinds that documents call them by. */
export { facing } from "./facing/where.ts";
export { high } from "./high/where.ts";
export { patches } from "./patches/where.ts";
