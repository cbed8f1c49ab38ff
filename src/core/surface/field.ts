/**
 * What surfaces are put together from: numbers over a square that repeats, as a graph of small operations. A graph is built here
 * and worked out elsewhere, strip by strip, by what bakes it.
 */

/** Operations by name; what each does stands with what works it out. */
export type Op =
	/** Right and towards, 0 to 1 over the square. */
	| "right"
	| "towards"
	/** A number everywhere. */
	| "constant"
	/** numbers: factor, addend. */
	| "affine"
	| "add"
	| "subtract"
	| "multiply"
	| "divide"
	| "least"
	| "most"
	/** numbers: the limit. */
	| "atMost"
	| "atLeast"
	| "absolute"
	| "floor"
	| "root"
	/** 3 t² − 2 t³ of what is held between 0 and 1. */
	| "smooth"
	/** cos 2π t. */
	| "wave"
	/** From the first to the second by the third, held between 0 and 1. */
	| "mix"
	/** Sum of gradient noises at a place; numbers: cells across and along, octaves, gain, seed. */
	| "noise"
	/** Points scattered one to a cell (Worley 1996), three results; numbers: cells across and along, how far they stray, seed. */
	| "cells"
	/** A number from 0 to 1 of a pair of whole numbers; numbers: what either repeats after, seed. */
	| "lot"
	/** One of several results; numbers: which. */
	| "result"
	/** The mean about each place, over the whole square; numbers: reach as a share of the square. */
	| "mean";

/** Results of an operation that has several. */
export const RESULTS: Partial<Record<Op, number>> = { cells: 3 };

export type Amount = Field | number;

/** A number at every place of the square. */
export class Field {
	readonly op: Op;
	readonly of: readonly Field[];
	readonly numbers: readonly number[];

	constructor(op: Op, of: readonly Field[] = [], numbers: readonly number[] = []) {
		this.op = op;
		this.of = of;
		this.numbers = numbers;
	}

	private with(op: Op, other: Field): Field {
		return new Field(op, [this, other]);
	}

	plus(x: Amount): Field {
		return typeof x === "number" ? this.line(1, x) : this.with("add", x);
	}

	minus(x: Amount): Field {
		return typeof x === "number" ? this.line(1, -x) : this.with("subtract", x);
	}

	times(x: Amount): Field {
		return typeof x === "number" ? this.line(x, 0) : this.with("multiply", x);
	}

	by(x: Amount): Field {
		return typeof x === "number" ? this.line(1 / x, 0) : this.with("divide", x);
	}

	/** What it lacks of a number. */
	from(x: number): Field {
		return this.line(-1, x);
	}

	/** One line after another is one line. */
	private line(factor: number, addend: number): Field {
		if (this.op !== "affine") return new Field("affine", [this], [factor, addend]);
		const [k, c] = this.numbers;
		return new Field("affine", this.of, [k * factor, c * factor + addend]);
	}

	atMost(x: Amount): Field {
		return typeof x === "number" ? new Field("atMost", [this], [x]) : this.with("least", x);
	}

	atLeast(x: Amount): Field {
		return typeof x === "number" ? new Field("atLeast", [this], [x]) : this.with("most", x);
	}

	/** Held between 0 and 1. */
	get held(): Field {
		return this.atLeast(0).atMost(1);
	}

	get absolute(): Field {
		return new Field("absolute", [this]);
	}

	get floor(): Field {
		return new Field("floor", [this]);
	}

	get root(): Field {
		return new Field("root", [this.atLeast(0)]);
	}

	get squared(): Field {
		return this.times(this);
	}

	/** cos of so many whole turns. */
	get wave(): Field {
		return new Field("wave", [this]);
	}

	/** The height of half a circle over a share of its radius from the rim: 0 at 0, 1 from 1 on. */
	get round(): Field {
		const held = this.held;
		return held.times(held.from(2)).root;
	}

	/** From 0 where it is `a` smoothly to 1 where it is `b`; falling where a is the greater. */
	between(a: Amount, b: Amount): Field {
		const share =
			typeof a === "number" && typeof b === "number" ? this.minus(a).by(b - a) : this.minus(a).by(minus(b, a));
		return new Field("smooth", [share]);
	}

	/** From this to another by a share held between 0 and 1. */
	mixed(other: Amount, share: Field): Field {
		return new Field("mix", [this, field(other), share]);
	}

	/** What is left after so many, never negative. */
	after(period: number): Field {
		return this.minus(this.by(period).floor.times(period));
	}

	/** The mean about each place within a reach, a share of the square: what lies deeper than it is a hollow. */
	meanWithin(reach: number): Field {
		return new Field("mean", [this], [reach]);
	}
}

export const field = (x: Amount): Field => (typeof x === "number" ? new Field("constant", [], [x]) : x);

const minus = (a: Amount, b: Amount): Field => field(a).minus(b);

/** A linear colour at every place. */
export type Rgb = readonly [number, number, number];

export class Paint {
	readonly channels: readonly [Field, Field, Field];

	constructor(channels: readonly [Field, Field, Field]) {
		this.channels = channels;
	}

	private each(make: (channel: Field, c: number) => Field): Paint {
		const [r, g, b] = this.channels;
		return new Paint([make(r, 0), make(g, 1), make(b, 2)]);
	}

	/** Another colour over it, by a share held between 0 and 1. */
	under(colour: Rgb | Paint, share: Field): Paint {
		const channels = colour instanceof Paint ? colour.channels : colour;
		return this.each((channel, c) => channel.mixed(channels[c], share));
	}

	/** Brighter or darker by a factor. */
	times(factor: Field): Paint {
		return this.each((channel) => channel.times(factor));
	}
}

/** From one colour to another by a share held between 0 and 1. */
export function blend(a: Rgb, b: Rgb, share: Field): Paint {
	const held = share.held;
	const channel = (c: number) => held.times(b[c] - a[c]).plus(a[c]);
	return new Paint([channel(0), channel(1), channel(2)]);
}
