/** The surfaces and the measures of the dry dock. */
import type { Surface } from "../../src/core/doc/schema.ts";
import { covered, overIt } from "../parts.ts";

/** Weed hangs from the joints up to where the tide stands when the gate is open. */
const WEED = overIt(
	"seaweed",
	[
		{ kind: "high", fromM: -10, toM: 1.3, softM: 0.7 },
		{ kind: "patches", sizeM: 1.1, share: 0.55, soft: 0.5, seed: 5 },
	],
	{ share: 0.9 },
);

export const STONE: Surface = covered({ colour: [0.17, 0.155, 0.14], roughness: 0.85, metal: 0 }, "ashlar", {
	wet: 0.15,
	over: [overIt("moss", [{ kind: "patches", sizeM: 2.5, share: 0.25, soft: 0.4, seed: 3 }], { share: 0.45 })],
});
export const WET: Surface = covered({ colour: [0.095, 0.088, 0.084], roughness: 0.3, metal: 0 }, "ashlar", {
	seed: 2,
	wet: 0.45,
	over: [WEED],
});
/** The dock's floor: what runs together on it stands in puddles, in which silt has settled. */
export const FLOOR: Surface = covered({ colour: [0.095, 0.088, 0.084], roughness: 0.3, metal: 0 }, "flagstones", {
	wet: 0.5,
	over: [
		overIt("wet mud", [{ kind: "patches", sizeM: 3.4, share: 0.62, soft: 0.22, seed: 9 }], {
			tint: 0.8,
			wet: 1,
			reliefMm: 6,
		}),
	],
});
/** Lime that water has carried out of the walls. */
export const RUNS = overIt(
	"lime runs",
	[
		{ kind: "facing", fromDeg: 60, toDeg: 120, softDeg: 20 },
		{ kind: "runs", widthM: 0.3, long: 12, share: 0.3, soft: 0.5, seed: 4 },
	],
	{ share: 0.6, tint: 0.7 },
);
export const TIMBER: Surface = covered({ colour: [0.13, 0.092, 0.062], roughness: 0.75, metal: 0 }, "beam");
export const PALE: Surface = covered({ colour: [0.26, 0.205, 0.15], roughness: 0.8, metal: 0 }, "planks");
/** Blocks under the keel: their edges are crushed pale, silt has dried on them over the floor. */
export const BLOCKS: Surface = covered({ colour: [0.26, 0.205, 0.15], roughness: 0.8, metal: 0 }, "planks", {
	over: [
		overIt("sand", [{ kind: "edges", sizeM: 0.16, soft: 0.7 }], { share: 0.5 }),
		overIt("wet mud", [{ kind: "touching", withinM: 0.45 }], { tint: 0.6, wet: 0.5 }),
	],
});
export const IRON: Surface = covered({ colour: [0.05, 0.047, 0.046], roughness: 0.5, metal: 0 }, "rail");
export const GLASS: Surface = { colour: [0.3, 0.29, 0.27], roughness: 0.15, metal: 0 };
export const BRICK: Surface = covered({ colour: [0.2, 0.11, 0.085], roughness: 0.85, metal: 0 }, "brick");
export const TOWN: Surface = covered({ colour: [0.12, 0.105, 0.1], roughness: 0.9, metal: 0 }, "lime runs");
export const CLOTH: Surface = { colour: [0.11, 0.085, 0.075], roughness: 0.9, metal: 0 };
export const SKIN: Surface = { colour: [0.35, 0.22, 0.16], roughness: 0.6, metal: 0 };

/** Height of the quay over the dock's floor, and how the walls step back to it. */
export const QUAY_M = 8;
export const STEPS = 5;
export const STEP_BACK = 1.5;
export const HALF_FLOOR = 11;
export const HEAD_Z = -112;
