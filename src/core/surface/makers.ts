/** The surfaces, one line each, under the words that documents and commands call them by. */
export { ashlar } from "./recipes/ashlar.ts";
export { brick } from "./recipes/brick.ts";
export { cobbles } from "./recipes/cobbles.ts";
export { crackedMud as "cracked mud" } from "./recipes/crackedMud.ts";
export { granite } from "./recipes/granite.ts";
export { gravel } from "./recipes/gravel.ts";
export { moss } from "./recipes/moss.ts";
export { planks } from "./recipes/planks.ts";
export { plaster } from "./recipes/plaster.ts";
export { rustedIron as "rusted iron" } from "./recipes/rustedIron.ts";
export { saltCrust as "salt crust" } from "./recipes/saltCrust.ts";
export { sand } from "./recipes/sand.ts";
export { slate } from "./recipes/slate.ts";
