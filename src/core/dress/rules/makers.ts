/** What the where rules in `schemas.ts` do, one line each, under the kinds that documents call them by. */
export { aboveWater as "above water" } from "./aboveWater/rule.ts";
export { awayFromPieces as "away from pieces" } from "./awayFromPieces/rule.ts";
export { besidePaths as "beside paths" } from "./besidePaths/rule.ts";
export { betweenHeights as "between heights" } from "./betweenHeights/rule.ts";
export { inHollows as "in hollows" } from "./inHollows/rule.ts";
export { inView as "in view" } from "./inView/rule.ts";
export { laidLand as "laid land" } from "./laidLand/rule.ts";
export { nearLens as "near the lens" } from "./nearLens/rule.ts";
export { patches } from "./patches/rule.ts";
export { slope } from "./slope/rule.ts";
export { whereWaterRuns as "where water runs" } from "./whereWaterRuns/rule.ts";
