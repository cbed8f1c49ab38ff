/** The surfaces and the measures of the dry dock. */
import type { Surface } from "../../src/core/doc/schema.ts";

export const STONE: Surface = { colour: [0.17, 0.155, 0.14], roughness: 0.85, metal: 0 };
export const WET: Surface = { colour: [0.075, 0.07, 0.067], roughness: 0.3, metal: 0 };
export const TIMBER: Surface = { colour: [0.13, 0.092, 0.062], roughness: 0.75, metal: 0 };
export const PALE: Surface = { colour: [0.26, 0.205, 0.15], roughness: 0.8, metal: 0 };
export const IRON: Surface = { colour: [0.05, 0.047, 0.046], roughness: 0.5, metal: 0.4 };
export const GLASS: Surface = { colour: [0.3, 0.29, 0.27], roughness: 0.15, metal: 0 };
export const BRICK: Surface = { colour: [0.2, 0.11, 0.085], roughness: 0.85, metal: 0 };
export const TOWN: Surface = { colour: [0.12, 0.105, 0.1], roughness: 0.9, metal: 0 };
export const CLOTH: Surface = { colour: [0.11, 0.085, 0.075], roughness: 0.9, metal: 0 };
export const SKIN: Surface = { colour: [0.35, 0.22, 0.16], roughness: 0.6, metal: 0 };

/** Height of the quay over the dock's floor, and how the walls step back to it. */
export const QUAY_M = 8;
export const STEPS = 5;
export const STEP_BACK = 1.5;
export const HALF_FLOOR = 11;
export const HEAD_Z = -112;
