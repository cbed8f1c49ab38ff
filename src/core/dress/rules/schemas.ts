/** The where rules that a cover may have, one line each. */
export { aboveWater } from "./aboveWater/schema.ts";
export { awayFromPieces } from "./awayFromPieces/schema.ts";
export { besidePaths } from "./besidePaths/schema.ts";
export { betweenHeights } from "./betweenHeights/schema.ts";
export { inHollows } from "./inHollows/schema.ts";
export { inView } from "./inView/schema.ts";
export { laidLand } from "./laidLand/schema.ts";
export { nearLens } from "./nearLens/schema.ts";
export { patches } from "./patches/schema.ts";
export { slope } from "./slope/schema.ts";
export { whereWaterRuns } from "./whereWaterRuns/schema.ts";
