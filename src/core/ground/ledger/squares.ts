/** Things over the land, found by the squares that they reach into. */

const NONE: readonly number[] = [];

/** Numbers of things by squares of a side, metres. */
export class Squares {
	private of = new Map<number, number[]>();
	private side: number;

	constructor(sideM: number) {
		this.side = sideM;
	}

	private number(i: number, j: number): number {
		return i * 0x200000 + j;
	}

	/** Puts in a thing that reaches from one corner to the other; numbers of a square stand in the order in which they came. */
	add(thing: number, x0: number, z0: number, x1: number, z1: number): void {
		const square = (v: number) => Math.floor(v / this.side);
		for (let i = square(x0); i <= square(x1); i++)
			for (let j = square(z0); j <= square(z1); j++) {
				const at = this.number(i, j);
				const own = this.of.get(at);
				if (own) own.push(thing);
				else this.of.set(at, [thing]);
			}
	}

	about(x: number, z: number): readonly number[] {
		return this.of.get(this.number(Math.floor(x / this.side), Math.floor(z / this.side))) ?? NONE;
	}
}
