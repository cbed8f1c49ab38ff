/** All wheres by their kinds. */
import type { LaidWhere } from "../../doc/schema.ts";
import * as makers from "./makers.ts";
import type { WhereMaker } from "./where.ts";

export const WHERES: { readonly [K in LaidWhere["kind"]]: WhereMaker<Extract<LaidWhere, { kind: K }>> } = makers;

export const whereOf = ({ kind }: Pick<LaidWhere, "kind">): WhereMaker => WHERES[kind] as unknown as WhereMaker;

/** Acts that take one in, on plants or on anything else, with what is taken in under a name of its own. */
export const takenOn = (plants: boolean): readonly { act: string; taken: (newId: string) => LaidWhere }[] =>
	(Object.values(WHERES) as unknown as WhereMaker[])
		.filter(({ notOnPlants }) => !(plants && notOnPlants))
		.map(({ act, taken, usual }) => ({ act, taken: (newId) => taken?.(newId) ?? usual }));

/** Where it lies, in words. */
export const whereWords = (wheres: readonly LaidWhere[]): string =>
	wheres.length === 0 ? "everywhere" : wheres.map((where) => whereOf(where).sentence(where)).join(", ");
