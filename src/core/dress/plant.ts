/** A species: how its individuals grow, and what a cover of it starts with. */
import type { Cover, Species } from "../doc/schema.ts";
import type { Mesh } from "../maths/mesh.ts";
import * as makers from "./plants/makers.ts";
import { usualRules } from "./rules/rules.ts";

/** Individuals of a species that differ. */
export const VARIANTS = 6;

export interface Plant {
	/** What a cover of it is called at first, and the act that adds one. */
	name: string;
	act: string;
	usual: Pick<Cover, "densityPerM2" | "sizeM" | "colour">;
	/** The most of them that can stand on a square metre: the scale of its ranks. */
	limitPerM2: number;
	roughness: number;
	/** Share of light that comes through a leaf. */
	translucency: number;
	/** One of {@link VARIANTS} individuals, one metre high, rooted at y = 0. */
	grow: (variant: number) => Mesh;
}

export const PLANTS: Record<Species, Plant> = makers;

/** A new cover of a species with its usual rules. `over` replaces what is given. */
export const newCover = (id: string, species: Species, over: Partial<Cover> = {}): Cover => ({
	id,
	name: PLANTS[species].name,
	species,
	...PLANTS[species].usual,
	seed: 1,
	hidden: false,
	rules: usualRules(),
	...over,
});
