/** Lists that stay the same object while all that is in them does. */
import { useRef } from "react";

/** The list of the render before, if it holds the very same things in the same order. */
export function useSame<T>(list: readonly T[]): readonly T[] {
	const last = useRef(list);
	if (last.current.length !== list.length || list.some((item, i) => item !== last.current[i])) last.current = list;
	return last.current;
}

/** Things, what was made of each of them by what, and which of them lean on others. */
interface Made<T, R> {
	things: readonly T[];
	by: readonly unknown[];
	each: readonly (R | null)[];
	leaning: Uint8Array;
}

/** What is made of each thing of a list; what stands where it stood when it was `last` made is not made again. */
export function madeOfEach<T, R>(
	last: Made<T, R> | null,
	things: readonly T[],
	make: (thing: T) => R | null,
	by: readonly unknown[],
	leans: (thing: T) => boolean,
): Made<T, R> {
	const held = last?.by.every((v, i) => v === by[i]) ? last : null;
	const each: (R | null)[] = new Array(things.length);
	const leaning = new Uint8Array(things.length);
	for (let i = 0; i < things.length; i++) {
		const same = held && held.things[i] === things[i];
		leaning[i] = same ? held.leaning[i] : Number(leans(things[i]));
		each[i] = same && !leaning[i] ? held.each[i] : make(things[i]);
	}
	return { things, by, each, leaning };
}

const never = () => false;

/**
 * What is made of each thing of a list, in its order, without those of which nothing is made. While `by` is the same, only
 * what has changed is made again, and what `leans` on others: of thousands a drag changes one.
 */
export function useEach<T, R>(
	things: readonly T[],
	make: (thing: T) => R | null,
	by: readonly unknown[],
	leans: (thing: T) => boolean = never,
): readonly R[] {
	const last = useRef<Made<T, R>>(null);
	last.current = madeOfEach(last.current, things, make, by, leans);
	const out: R[] = [];
	for (const made of last.current.each) if (made !== null) out.push(made);
	return out;
}

/** Those for which something holds, and the others. */
export function halves<T>(list: readonly T[], holds: (item: T) => boolean): [T[], T[]] {
	const both: [T[], T[]] = [[], []];
	for (const item of list) both[holds(item) ? 0 : 1].push(item);
	return both;
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
