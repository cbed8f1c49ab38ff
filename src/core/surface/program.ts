/**
 * A recipe as a list of operations over strips: what each reads and writes, in places that are used again when nothing needs what
 * stands in them. What takes in the whole square (a mean about a place) parts the list into passes.
 */
import { type Field, field, type Op, RESULTS } from "./field.ts";
import { Patterns } from "./patterns.ts";
import type { Recipe } from "./recipe.ts";

export interface Step {
	op: Op;
	/** Places that it reads and writes. */
	from: readonly number[];
	to: readonly number[];
	numbers: readonly number[];
	/** Both of its places are those of the square itself, row by row. */
	straight: boolean;
}

/** Steps that are done strip by strip, then fields that are kept for the whole square. */
export interface Pass {
	steps: readonly Step[];
	/** From a strip's place to a whole square's, by its number. */
	kept: readonly { from: number; square: number }[];
	/** Means that are then made of squares, each in its own. */
	means: readonly { square: number; reach: number }[];
}

export interface Program {
	passes: readonly Pass[];
	/** Places that strips need, and squares. */
	places: number;
	squares: number;
}

/** What a program leaves in its first squares. */
export const OUTPUTS = ["heightMm", "red", "green", "blue", "roughness", "metal"] as const;

/** Fields of a recipe, in the order of {@link OUTPUTS}. */
export function outputsOf({ made }: Recipe, seed: number): Field[] {
	const { heightMm, colour, roughness, metal = 0 } = made(new Patterns(seed));
	return [heightMm, ...colour.channels, field(roughness), field(metal)];
}

/** All fields that a field needs before it within a pass, itself last; a mean made before is taken as it is. */
function orderOf(wanted: readonly Field[], ready: ReadonlySet<Field>): Field[] {
	const order: Field[] = [];
	const known = new Set<Field>();
	const visit = (f: Field): void => {
		if (known.has(f)) return;
		known.add(f);
		if (!ready.has(f)) for (const before of f.of) visit(before);
		order.push(f);
	};
	for (const f of wanted) visit(f);
	return order;
}

/** Means over the square, those that others need first. */
function meansOf(wanted: readonly Field[]): Field[] {
	return orderOf(wanted, new Set()).filter((f) => f.op === "mean");
}

export function programOf(recipe: Recipe, seed: number): Program {
	const outputs = outputsOf(recipe, seed);
	const means = meansOf(outputs);
	const squareOf = new Map<Field, number>(means.map((f, i) => [f, OUTPUTS.length + i]));
	const ready = new Set<Field>();
	const passes: Pass[] = [];
	let places = 0;
	const add = (wanted: readonly Field[], squares: readonly number[], reach: number | null): void => {
		const made = stepsOf(wanted, ready, squareOf);
		places = Math.max(places, made.places);
		const kept = wanted.map((f, i) => ({ from: made.placeOf(f), square: squares[i] }));
		passes.push({ steps: made.steps, kept, means: reach === null ? [] : [{ square: squares[0], reach }] });
	};
	for (const mean of means) {
		add(mean.of, [squareOf.get(mean) as number], mean.numbers[0]);
		ready.add(mean);
	}
	add(
		outputs,
		outputs.map((_, i) => i),
		null,
	);
	return { passes, places, squares: OUTPUTS.length + means.length };
}

function stepsOf(wanted: readonly Field[], ready: ReadonlySet<Field>, squareOf: ReadonlyMap<Field, number>) {
	const order = orderOf(wanted, ready);
	const last = new Map<Field, number>();
	for (const [n, f] of order.entries()) if (!ready.has(f)) for (const before of f.of) last.set(before, n);
	for (const f of wanted) last.set(f, order.length);
	// One of several results is read where all of them stand.
	for (const f of order) if (f.op === "result") last.set(f.of[0], Math.max(last.get(f.of[0]) ?? 0, last.get(f) ?? 0));
	const free: number[] = [];
	let places = 0;
	const take = () => free.pop() ?? places++;
	const at = new Map<Field, number[]>();
	const steps: Step[] = [];
	for (const [n, f] of order.entries()) {
		if (f.op === "result") {
			const [all] = f.of;
			at.set(f, [(at.get(all) as number[])[f.numbers[0]]]);
		} else {
			const to = Array.from({ length: RESULTS[f.op] ?? 1 }, take);
			at.set(f, to);
			const made = ready.has(f);
			const from = made ? [] : f.of.map((before) => (at.get(before) as number[])[0]);
			const straight = f.of[0]?.op === "right" && f.of[1]?.op === "towards";
			steps.push({ op: f.op, from, to, numbers: made ? [squareOf.get(f) as number] : f.numbers, straight });
		}
		if (ready.has(f)) continue;
		for (const before of new Set(f.of.map((b) => (b.op === "result" ? b.of[0] : b))))
			if (last.get(before) === n) free.push(...(at.get(before) as number[]));
	}
	return { steps, places, placeOf: (f: Field) => (at.get(f) as number[])[0] };
}
