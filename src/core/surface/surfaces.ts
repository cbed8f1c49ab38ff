/** All surfaces by the words for them. */
import * as makers from "./makers.ts";
import type { Recipe } from "./recipe.ts";

export { FAMILIES } from "./recipe.ts";

export type SurfaceKind = keyof typeof makers;

export const SURFACES: Readonly<Record<SurfaceKind, Recipe>> = makers;
/** Its word in names of files and addresses. */
export const slugOf = (kind: SurfaceKind): string => kind.replaceAll(" ", "-");

export const SURFACE_KINDS = Object.keys(SURFACES).sort() as SurfaceKind[];
