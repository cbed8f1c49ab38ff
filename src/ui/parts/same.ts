/** Lists that stay the same object while all that is in them does. */
import { useRef } from "react";

/** The list of the render before, if it holds the very same things in the same order. */
export function useSame<T>(list: readonly T[]): readonly T[] {
	const last = useRef(list);
	if (last.current.length !== list.length || list.some((item, i) => item !== last.current[i])) last.current = list;
	return last.current;
}

/** What is made of a thing and of one more value, kept while both are the same; things that are gone are forgotten. */
export function keptBy<K extends object, V, R>(make: (thing: K, by: V) => R): (thing: K, by: V) => R {
	const kept = new WeakMap<K, { by: V; made: R }>();
	return (thing, by) => {
		const held = kept.get(thing);
		if (held && held.by === by) return held.made;
		const made = make(thing, by);
		kept.set(thing, { by, made });
		return made;
	};
}
