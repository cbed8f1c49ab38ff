/**
 * A triangle mesh with more triangles where more are asked for, without cracks: an edge is halved by its two ends alone, so that the
 * triangles on either side of it agree, and each half is looked at anew (edge-based refinement, as Requicha and Voelcker's faceters and
 * Ruprecht and Müller 1998 do it). Places of both sides of a sharp edge stay the same to the last bit.
 */
import type { Mesh } from "./mesh.ts";

/** How many times too long an edge is, by its two ends and by how far apart they are lifted; the same from either of them. */
export type TooLong = (
	ax: number,
	ay: number,
	az: number,
	bx: number,
	by: number,
	bz: number,
	lifted: number,
) => number;

const FIRST = 1 << 12;

/** Numbers by two whole numbers, in open addresses. */
class Pairs {
	private keys = new Int32Array(2 * FIRST).fill(-1);
	private values = new Int32Array(FIRST);
	private count = 0;

	/** Where a pair stands, or would stand. */
	private slot(a: number, b: number): number {
		const mask = this.values.length - 1;
		let at = (Math.imul(a, 0x9e3779b1) ^ Math.imul(b, 0x85ebca77)) >>> 0;
		at = (at ^ (at >>> 15)) & mask;
		while (this.keys[2 * at] !== -1 && (this.keys[2 * at] !== a || this.keys[2 * at + 1] !== b)) at = (at + 1) & mask;
		return at;
	}

	/** The number of a pair; −1 where it has none yet. */
	get(a: number, b: number): number {
		const at = this.slot(a, b);
		return this.keys[2 * at] === -1 ? -1 : this.values[at];
	}

	set(a: number, b: number, value: number): void {
		if (2 * ++this.count > this.values.length) this.grow();
		const at = this.slot(a, b);
		this.keys[2 * at] = a;
		this.keys[2 * at + 1] = b;
		this.values[at] = value;
	}

	private grow(): void {
		const { keys, values } = this;
		this.keys = new Int32Array(2 * keys.length).fill(-1);
		this.values = new Int32Array(2 * values.length);
		for (let n = 0; n < values.length; n++) {
			if (keys[2 * n] === -1) continue;
			const at = this.slot(keys[2 * n], keys[2 * n + 1]);
			this.keys[2 * at] = keys[2 * n];
			this.keys[2 * at + 1] = keys[2 * n + 1];
			this.values[at] = values[n];
		}
	}
}

/** Numbers that grow in place. */
class Growing<A extends Float32Array | Uint8Array | Uint32Array> {
	array: A;
	length: number;

	constructor(first: A) {
		this.array = first;
		this.length = first.length;
	}

	/** Room for so many more. */
	reserve(more: number): void {
		if (this.length + more <= this.array.length) return;
		const wider = new (this.array.constructor as new (n: number) => A)(2 * (this.length + more) + FIRST);
		wider.set(this.array);
		this.array = wider;
	}

	whole(): A {
		return this.array.slice(0, this.length) as A;
	}
}

/** Places at the middle of edges of a mesh, made when they are asked for. */
class Middles {
	readonly positions: Growing<Float32Array>;
	readonly normals: Growing<Float32Array>;
	readonly colours: Growing<Uint8Array> | null;
	readonly lifts: Growing<Float32Array> | null;
	private known = new Pairs();

	constructor({ positions, normals, colours }: Mesh, lifts: Float32Array | null) {
		this.lifts = lifts && new Growing(lifts);
		this.positions = new Growing(positions);
		this.normals = new Growing(normals);
		this.colours = colours ? new Growing(colours) : null;
	}

	of(a: number, b: number): number {
		const [low, high] = a < b ? [a, b] : [b, a];
		const known = this.known.get(low, high);
		if (known !== -1) return known;
		const made = this.positions.length / 3;
		this.known.set(low, high, made);
		for (const all of [this.positions, this.normals]) {
			all.reserve(3);
			const { array } = all;
			for (let c = 0; c < 3; c++) array[3 * made + c] = (array[3 * a + c] + array[3 * b + c]) / 2;
			all.length += 3;
		}
		const { array: n } = this.normals;
		const long = Math.sqrt(n[3 * made] ** 2 + n[3 * made + 1] ** 2 + n[3 * made + 2] ** 2) || 1;
		for (let c = 0; c < 3; c++) n[3 * made + c] /= long;
		if (this.lifts) {
			this.lifts.reserve(1);
			const { array } = this.lifts;
			array[made] = (array[a] + array[b]) / 2;
			this.lifts.length++;
		}
		if (this.colours) {
			this.colours.reserve(4);
			const { array } = this.colours;
			for (let c = 0; c < 4; c++) array[4 * made + c] = (array[4 * a + c] + array[4 * b + c] + 1) >> 1;
			this.colours.length += 4;
		}
		return made;
	}
}

/** Halvings of one edge at most. */
const DEEPEST = 24;

/** The mesh with each edge halved until none is too long. `lifts` tells of each vertex how far it will be lifted; what is between two by their mean. */
export function finer(mesh: Mesh, tooLong: TooLong, lifts: Float32Array | null = null): Mesh {
	const middles = new Middles(mesh, lifts);
	const done = new Growing(new Uint32Array(0));
	const cuts = (a: number, b: number, deep: number): boolean => {
		if (deep >= DEEPEST) return false;
		const p = middles.positions.array;
		const l = middles.lifts?.array;
		const lifted = l ? l[a] - l[b] : 0;
		return tooLong(p[3 * a], p[3 * a + 1], p[3 * a + 2], p[3 * b], p[3 * b + 1], p[3 * b + 2], lifted) > 1;
	};
	// Triangles that wait, four numbers each: of one, no more than three wait at each depth.
	const stack = new Int32Array(16 * (DEEPEST + 2));
	let top = 0;
	const wait = (a: number, b: number, c: number, deep: number) => {
		stack[top] = a;
		stack[top + 1] = b;
		stack[top + 2] = c;
		stack[top + 3] = deep;
		top += 4;
	};
	for (let t = 0; t < mesh.indices.length; t += 3) {
		wait(mesh.indices[t], mesh.indices[t + 1], mesh.indices[t + 2], 0);
		while (top > 0) {
			top -= 4;
			let a = stack[top];
			let b = stack[top + 1];
			let c = stack[top + 2];
			const deep = stack[top + 3];
			let ab = cuts(a, b, deep);
			let bc = cuts(b, c, deep);
			let ca = cuts(c, a, deep);
			const cut = Number(ab) + Number(bc) + Number(ca);
			if (cut === 0) {
				done.reserve(3);
				const { array, length } = done;
				array[length] = a;
				array[length + 1] = b;
				array[length + 2] = c;
				done.length += 3;
				continue;
			}
			// Turned so that the one that is cut alone, or the one that is not, is the first.
			while (cut === 1 ? !ab : cut === 2 && ab) {
				[a, b, c] = [b, c, a];
				[ab, bc, ca] = [bc, ca, ab];
			}
			if (cut === 1) {
				const m = middles.of(a, b);
				wait(a, m, c, deep + 1);
				wait(m, b, c, deep + 1);
			} else if (cut === 2) {
				const m = middles.of(b, c);
				const n = middles.of(c, a);
				wait(n, m, c, deep + 1);
				wait(a, b, m, deep + 1);
				wait(a, m, n, deep + 1);
			} else {
				const l = middles.of(a, b);
				const m = middles.of(b, c);
				const n = middles.of(c, a);
				wait(a, l, n, deep + 1);
				wait(l, b, m, deep + 1);
				wait(n, m, c, deep + 1);
				wait(l, m, n, deep + 1);
			}
		}
	}
	return {
		positions: middles.positions.whole(),
		normals: middles.normals.whole(),
		indices: done.whole(),
		...(middles.colours && { colours: middles.colours.whole() }),
	};
}

/** One number for each vertex of a mesh: that of the first at the same place. */
export function welded(positions: Float32Array): Uint32Array {
	const count = positions.length / 3;
	const bits = new Int32Array(positions.buffer, positions.byteOffset, positions.length);
	let capacity = FIRST;
	while (capacity < 2 * count) capacity *= 2;
	const table = new Int32Array(capacity).fill(-1);
	const out = new Uint32Array(count);
	// A zero below and one above are one place.
	const bit = (n: number) => (positions[n] === 0 ? 0 : bits[n]);
	for (let v = 0; v < count; v++) {
		const [x, y, z] = [bit(3 * v), bit(3 * v + 1), bit(3 * v + 2)];
		let at = Math.imul(x, 0x9e3779b1) ^ Math.imul(y, 0x85ebca77) ^ Math.imul(z, 0xc2b2ae3d);
		at = (at ^ (at >>> 15) ^ (at >>> 7)) & (capacity - 1);
		for (;;) {
			const w = table[at];
			if (w === -1) {
				table[at] = v;
				out[v] = v;
				break;
			}
			if (bit(3 * w) === x && bit(3 * w + 1) === y && bit(3 * w + 2) === z) {
				out[v] = w;
				break;
			}
			at = (at + 1) & (capacity - 1);
		}
	}
	return out;
}

/** Places, by the numbers of {@link welded}, on edges that are not run along once in either way: none of a closed mesh. */
export function openPlaces(indices: Uint32Array, places: Uint32Array): Set<number> {
	const ways = new Map<number, number>();
	const each = (use: (a: number, b: number, edge: number) => void) => {
		for (let t = 0; t < indices.length; t++) {
			const [a, b] = [places[indices[t]], places[indices[t % 3 === 2 ? t - 2 : t + 1]]];
			use(a, b, Math.min(a, b) * places.length + Math.max(a, b));
		}
	};
	each((a, b, edge) => ways.set(edge, (ways.get(edge) ?? 0) + (a < b ? 1 : -1)));
	const open = new Set<number>();
	each((a, b, edge) => {
		if (ways.get(edge) !== 0) open.add(a).add(b);
	});
	return open;
}
