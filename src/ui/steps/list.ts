/** The steps of the ticket, one line each, under the names of `STEPS`. */
export { air as Air } from "./air/step.ts";
export { brief as Brief } from "./brief/step.ts";
export { dress as Dress } from "./dress/step.ts";
export { finish as Finish } from "./finish/step.ts";
export { ground as Ground } from "./ground/step.ts";
export { light as Light } from "./light/step.ts";
export { mass as Mass } from "./mass/step.ts";
export { match as Match } from "./match/step.ts";
export { print as Print } from "./print/step.ts";
