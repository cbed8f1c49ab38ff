/**
 * Right-angled triangles over a square, halved where they are too large, without cracks by construction: the longest-edge
 * bisection of a square lattice (Rivara 1984; "4-8 meshes", Velho and Zorin 2001), its dependencies told by coordinates alone
 * (Lindstrom and Pascucci 2001). A corner is known by its integers (i, j) in steps of the finest lattice; a corner that halves
 * an edge takes the two corners that face that edge with it, and so on up.
 */

const EMPTY = -1;

/** Spreads a key of two integers over a table of 2^bits places. */
const spread = (i: number, j: number, shift: number): number =>
	(Math.imul(i, 0x9e3779b1) ^ Math.imul(j ^ (i >>> 15), 0x85ebca6b)) >>> shift;

/** The same numbers in twice the room, or in as much as is asked for. */
export const grown = <T extends Int32Array | Uint8Array | Float32Array | Float64Array>(list: T, room = 0): T => {
	const more = new (list.constructor as new (n: number) => T)(Math.max(2 * list.length, room));
	more.set(list);
	return more;
};

/** Corners of a lattice, numbered in the order in which they are first asked for. */
export class Corners {
	i: Int32Array;
	j: Int32Array;
	count = 0;
	private table: Int32Array;
	private shift: number;

	constructor(room = 2 ** 14) {
		this.i = new Int32Array(room);
		this.j = new Int32Array(room);
		this.table = new Int32Array(4 * room).fill(EMPTY);
		this.shift = 32 - Math.log2(4 * room);
	}

	/** Its number, or -1 while it has none. */
	find(i: number, j: number): number {
		return this.table[this.place(i, j)];
	}

	number(i: number, j: number): number {
		const at = this.place(i, j);
		const known = this.table[at];
		if (known !== EMPTY) return known;
		const n = this.count++;
		this.i[n] = i;
		this.j[n] = j;
		this.table[at] = n;
		if (this.count === this.i.length) this.grow();
		return n;
	}

	private place(i: number, j: number): number {
		const mask = this.table.length - 1;
		for (let at = spread(i, j, this.shift); ; at = (at + 1) & mask) {
			const n = this.table[at];
			if (n === EMPTY || (this.i[n] === i && this.j[n] === j)) return at;
		}
	}

	private grow(): void {
		this.i = grown(this.i);
		this.j = grown(this.j);
		this.table = new Int32Array(4 * this.i.length).fill(EMPTY);
		this.shift--;
		for (let n = 0; n < this.count; n++) this.table[this.place(this.i[n], this.j[n])] = n;
	}
}

/**
 * Told of a triangle's corners (the last one faces the edge from the first to the second), of the corner that would halve that
 * edge, and of what was told of the triangle that it is a half of. Tells what is to be handed down to its halves, or a
 * negative number where it is small enough.
 */
export type Halve = (a: number, b: number, apex: number, middle: number, told: number) => number;

/** Which corners of a lattice are taken, and the triangles that they make of a square of `side` steps, a power of 2. */
export class Bisection {
	private corners: Corners;
	private side: number;
	private taken = new Uint8Array(2 ** 15);
	private open: number[] = [];
	/** Triangles that are small enough: their corners, and what their elders told. */
	private ends = new Int32Array(2 ** 15);
	private endsTold = new Float64Array(2 ** 15);
	private count = 0;
	/** The one or two of them that a corner would halve, by numbers from 1 on. */
	private waiting = new Int32Array(2 ** 16);
	/** Those that have to be halved for their neighbours' sake. */
	private woken: number[] = [];

	constructor(corners: Corners, side: number) {
		this.corners = corners;
		this.side = side;
		for (const n of this.roots()) this.mark(n);
	}

	/** Corners of the square, once round. */
	private roots(): [number, number, number, number] {
		const { corners, side } = this;
		return [corners.number(0, 0), corners.number(side, 0), corners.number(side, side), corners.number(0, side)];
	}

	private mark(n: number): boolean {
		if (n >= this.taken.length) {
			this.taken = grown(this.taken, n + 1);
			this.waiting = grown(this.waiting, 2 * this.taken.length);
		}
		if (this.taken[n]) return false;
		this.taken[n] = 1;
		for (const slot of [2 * n, 2 * n + 1]) if (this.waiting[slot]) this.woken.push(this.waiting[slot] - 1);
		return true;
	}

	/** Takes a corner, and all that it takes with it. */
	private take(n: number): void {
		const { corners, open } = this;
		open.push(n);
		for (let at = open.pop(); at !== undefined; at = open.pop()) {
			if (!this.mark(at)) continue;
			const [i, j] = [corners.i[at], corners.j[at]];
			const s = (i | j) & -(i | j);
			if (i & s && j & s) {
				// The middle of a square: of its corners the two that came last face the edge that it halves.
				const odd = (((i - s) ^ (j - s)) & (2 * s)) !== 0;
				this.want(i - s, odd ? j - s : j + s);
				this.want(i + s, odd ? j + s : j - s);
			} else if (i & s) {
				this.want(i, j - s);
				this.want(i, j + s);
			} else {
				this.want(i - s, j);
				this.want(i + s, j);
			}
		}
	}

	private want(i: number, j: number): void {
		if (i >= 0 && j >= 0 && i <= this.side && j <= this.side) this.open.push(this.corners.number(i, j));
	}

	/**
	 * Halves triangles until none is to be halved any more. What is halved for its neighbours' sake alone hands down a `share` of
	 * what was told of its elder.
	 */
	refine(share: number, halve: Halve): void {
		const { corners } = this;
		const down = (a: number, b: number, apex: number, told: number): void => {
			const [i, j] = [corners.i[a] + corners.i[b], corners.j[a] + corners.j[b]];
			if (i & 1 || j & 1) return;
			const middle = corners.number(i / 2, j / 2);
			let more = halve(a, b, apex, middle, told);
			if (more < 0) {
				if (!this.taken[middle]) {
					this.end(a, b, apex, middle, told);
					return;
				}
				more = share * told;
			} else this.take(middle);
			down(apex, a, middle, more);
			down(b, apex, middle, more);
		};
		const [p, q, r, s] = this.roots();
		down(p, r, q, 0);
		down(r, p, s, 0);
		for (let at = this.woken.pop(); at !== undefined; at = this.woken.pop()) {
			const [a, b, apex] = this.ends.subarray(3 * at, 3 * at + 3);
			const middle = corners.number((corners.i[a] + corners.i[b]) / 2, (corners.j[a] + corners.j[b]) / 2);
			const told = share * this.endsTold[at];
			down(apex, a, middle, told);
			down(b, apex, middle, told);
		}
	}

	/** Keeps a triangle that is small enough. */
	private end(a: number, b: number, apex: number, middle: number, told: number): void {
		const at = this.count++;
		if (3 * this.count > this.ends.length) this.ends = grown(this.ends, 3 * this.count);
		if (this.count > this.endsTold.length) this.endsTold = grown(this.endsTold, this.count);
		this.ends[3 * at] = a;
		this.ends[3 * at + 1] = b;
		this.ends[3 * at + 2] = apex;
		this.endsTold[at] = told;
		if (2 * middle + 1 >= this.waiting.length) this.waiting = grown(this.waiting, 2 * middle + 2);
		const slot = this.waiting[2 * middle] ? 2 * middle + 1 : 2 * middle;
		this.waiting[slot] = at + 1;
	}

	/** All triangles, three numbers of corners each, facing up where i goes right and j towards. */
	triangles(): Int32Array {
		const { corners, taken } = this;
		let out = new Int32Array(2 ** 15);
		let n = 0;
		const down = (a: number, b: number, apex: number): void => {
			const [i, j] = [corners.i[a] + corners.i[b], corners.j[a] + corners.j[b]];
			const middle = i & 1 || j & 1 ? EMPTY : corners.find(i / 2, j / 2);
			if (middle >= 0 && taken[middle]) {
				down(apex, a, middle);
				down(b, apex, middle);
				return;
			}
			if (n + 3 > out.length) out = grown(out, n + 3);
			out[n++] = a;
			out[n++] = b;
			out[n++] = apex;
		};
		const [p, q, r, s] = this.roots();
		down(p, r, q);
		down(r, p, s);
		return out.slice(0, n);
	}
}
