/** Land laid on other land. */
import type { PickField } from "../../doc/field.ts";
import type { Laying } from "../../doc/schema.ts";

/**
 * Height of both at a place. Where the higher of two counts, they go over into each other within `softM` of a difference (the
 * quadratic of Quilez 2013): no crease, at most a quarter of it higher than either.
 */
export function laid(how: Laying, before: number, own: number, softM: number): number {
	if (how === "instead") return own;
	if (how === "over") return before + own;
	const apart = Math.max(0, softM - Math.abs(before - own));
	return Math.max(before, own) + (softM > 0 ? (apart * apart) / (4 * softM) : 0);
}

const FIELD: PickField<{ how: Laying }> = {
	label: "It lies",
	value: "how",
	options: [
		["instead", "instead of what was there"],
		["over", "on top of it"],
		["higher", "where it is higher"],
	],
};

/** How it is laid is picked alike for every entry that lays land. */
export const layingField = <E extends { how: Laying }>() => FIELD as PickField<unknown> as PickField<E>;
