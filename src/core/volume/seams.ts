/**
 * How far the nearest other thing is, wherever two things come near each other: on the surface of one body the nearest is that body
 * itself, so that the second nearest is what it meets. One volume of second distances therefore serves all bodies and the land at once,
 * on both sides of each seam. Distances to triangles are exact (Ericson, Real-Time Collision Detection, 2005, 5.1.5); those to the land
 * are its height by its slope. What a body comes to in a brick is kept by the body: an edit of one works out its own bricks alone.
 */
import { type Mat34, transformPoint, type Vec3 } from "../maths/vec.ts";
import {
	BRICK_BYTES,
	BRICK_CELLS,
	BRICK_SAMPLES,
	type Brick,
	brickKey,
	brickOf,
	type Kept,
	packVolume,
	type Volume,
} from "./volume.ts";

export interface SeamBody {
	/** The same for what is the same, there. */
	key: string;
	meshes: readonly { positions: Float32Array; indices: Uint32Array }[];
	/** From its mesh to world metres. */
	transform: Mat34;
	/** In world metres: the least, then the most. */
	bounds: readonly number[];
	/** Whether it has to know what it meets. */
	asks: boolean;
}

export interface SeamLand {
	key: string;
	heightAt: (x: number, z: number) => number;
	asks: boolean;
}

/** Cells in the reach. */
const CELLS_IN_REACH = 6;
/** Bricks of a volume at most: 100 MB. */
export const MOST_BRICKS = 200_000;
const FAR = 255;
/** A cell in bytes of the reach, and how far from what asks samples are wanted: a place on it is read between those of its cell. */
const CELL = FAR / CELLS_IN_REACH;
const SHELL = 1.8 * CELL;

/** The reach, of a few in steps of twice, that holds so many metres. */
export const reachFor = (withinM: number): number => 2 ** Math.ceil(Math.log2(withinM) - 1e-9);

interface Near {
	triangles: Float64Array;
	/** Of each brick, which triangles come near it. */
	bricks: Map<number, number[]>;
}

function trianglesOf({ meshes, transform }: SeamBody): Float64Array {
	const out = new Float64Array(3 * meshes.reduce((n, { indices }) => n + indices.length, 0));
	let at = 0;
	for (const { positions: p, indices } of meshes)
		for (const i of indices) {
			out.set(transformPoint(transform, [p[3 * i], p[3 * i + 1], p[3 * i + 2]]), at);
			at += 3;
		}
	return out;
}

/** Square of the distance from `w`, counted from a corner, to a place of the triangle by its two sides from there. */
function off(t: Float64Array, o: number, wx: number, wy: number, wz: number, s: number, r: number): number {
	const x = wx - s * (t[o + 3] - t[o]) - r * (t[o + 6] - t[o]);
	const y = wy - s * (t[o + 4] - t[o + 1]) - r * (t[o + 7] - t[o + 1]);
	const z = wz - s * (t[o + 5] - t[o + 2]) - r * (t[o + 8] - t[o + 2]);
	return x * x + y * y + z * z;
}

/** Square of the distance from a place to a triangle of a list. Plain numbers alone: it is asked millions of times. */
function square(t: Float64Array, o: number, px: number, py: number, pz: number): number {
	const ax = t[o];
	const ay = t[o + 1];
	const az = t[o + 2];
	const ux = t[o + 3] - ax;
	const uy = t[o + 4] - ay;
	const uz = t[o + 5] - az;
	const vx = t[o + 6] - ax;
	const vy = t[o + 7] - ay;
	const vz = t[o + 8] - az;
	const wx = px - ax;
	const wy = py - ay;
	const wz = pz - az;
	const d1 = ux * wx + uy * wy + uz * wz;
	const d2 = vx * wx + vy * wy + vz * wz;
	if (d1 <= 0 && d2 <= 0) return off(t, o, wx, wy, wz, 0, 0);
	const uv = ux * vx + uy * vy + uz * vz;
	const d3 = d1 - (ux * ux + uy * uy + uz * uz);
	const d4 = d2 - uv;
	if (d3 >= 0 && d4 <= d3) return off(t, o, wx, wy, wz, 1, 0);
	const vc = d1 * d4 - d3 * d2;
	if (vc <= 0 && d1 >= 0 && d3 <= 0) return off(t, o, wx, wy, wz, d1 / (d1 - d3), 0);
	const d5 = d1 - uv;
	const d6 = d2 - (vx * vx + vy * vy + vz * vz);
	if (d6 >= 0 && d5 <= d6) return off(t, o, wx, wy, wz, 0, 1);
	const vb = d5 * d2 - d1 * d6;
	if (vb <= 0 && d2 >= 0 && d6 <= 0) return off(t, o, wx, wy, wz, 0, d2 / (d2 - d6));
	const va = d3 * d6 - d5 * d4;
	if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
		const r = (d4 - d3) / (d4 - d3 + d5 - d6);
		return off(t, o, wx, wy, wz, 1 - r, r);
	}
	const all = va + vb + vc || 1;
	return off(t, o, wx, wy, wz, vb / all, vc / all);
}

/** Bytes of a distance that has not been asked for yet. */
const UNKNOWN = -1;

interface BodyInBrick {
	triangles: Float64Array;
	/** Triangles that may be nearest, and how far each is at the least; the nearest to the middle first. */
	list: Int32Array;
	least: Float64Array;
	bytes: Int16Array;
}

const overlap = (a: readonly number[], b: readonly number[], by: number): boolean =>
	[0, 1, 2].every((c) => a[c] - by <= b[c + 3] && b[c] - by <= a[c + 3]);

class Seams {
	private readonly cellM: number;
	private readonly sideM: number;
	/** Heights over a brick's foot, and the least and most of them. */
	private readonly columns: Map<number, { heights: Float64Array; least: number; most: number }>;

	private readonly bodies: readonly SeamBody[];
	private readonly land: SeamLand | null;
	private readonly reachM: number;
	private readonly anchor: Vec3;
	private readonly kept: Kept;

	constructor(bodies: readonly SeamBody[], land: SeamLand | null, reachM: number, anchor: Vec3, kept: Kept) {
		this.bodies = bodies;
		this.land = land;
		this.reachM = reachM;
		this.anchor = anchor;
		this.kept = kept;
		this.cellM = reachM / CELLS_IN_REACH;
		this.sideM = this.cellM * BRICK_CELLS;
		this.columns = land ? kept(`land of seams ${this.way(land.key)}`, () => new Map()) : new Map();
	}

	private way(key: string): string {
		return `${key} ${this.reachM} ${this.anchor}`;
	}

	/** Heights over a brick's foot, one place more on each side. */
	private column(i: number, k: number) {
		const known = this.columns.get(brickKey(i, 0, k));
		if (known) return known;
		const wide = BRICK_SAMPLES + 2;
		const heights = new Float64Array(wide * wide);
		const { heightAt } = this.land as SeamLand;
		for (let n = 0; n < heights.length; n++) {
			const x = this.anchor[0] + i * this.sideM + ((n % wide) - 1) * this.cellM;
			const z = this.anchor[2] + k * this.sideM + (Math.floor(n / wide) - 1) * this.cellM;
			heights[n] = heightAt(x, z);
		}
		const column = {
			heights,
			least: heights.reduce((a, b) => Math.min(a, b)),
			most: heights.reduce((a, b) => Math.max(a, b)),
		};
		this.columns.set(brickKey(i, 0, k), column);
		return column;
	}

	private nearLand(i: number, j: number, k: number): boolean {
		const { least, most } = this.column(i, k);
		const low = this.anchor[1] + j * this.sideM;
		return low <= most + this.reachM && low + this.sideM >= least - this.reachM;
	}

	/** Boxes in which each body may meet another where one of them asks; the last for the land alone. */
	private meetings(): { boxes: number[][]; ground: boolean }[] {
		const { bodies, land, reachM } = this;
		const found = bodies.map(({ asks }) => ({ boxes: [] as number[][], ground: !!land && (asks || land.asks) }));
		const order = bodies.map((_, i) => i).sort((a, b) => bodies[a].bounds[0] - bodies[b].bounds[0]);
		for (const [n, a] of order.entries())
			for (let m = n + 1; m < order.length; m++) {
				const b = order[m];
				const [of, by] = [bodies[a], bodies[b]];
				if (by.bounds[0] - of.bounds[3] > 2 * reachM) break;
				if (!(of.asks || by.asks) || !overlap(of.bounds, by.bounds, reachM)) continue;
				const box = of.bounds.map((v, c) =>
					c < 3 ? Math.max(v, by.bounds[c]) - reachM : Math.min(v, by.bounds[c]) + reachM,
				);
				found[a].boxes.push(box);
				found[b].boxes.push(box);
			}
		return found;
	}

	/** Triangles of a body by the bricks that they come near, in these boxes, or near the land. */
	private near(body: SeamBody, { boxes, ground }: { boxes: readonly number[][]; ground: boolean }): Near {
		const triangles = this.kept(`triangles of ${body.key}`, () => trianglesOf(body));
		const bricks = new Map<number, number[]>();
		const { anchor, sideM, reachM } = this;
		const everywhere = [-1e9, -1e9, -1e9, 1e9, 1e9, 1e9];
		const reach = reachM + (sideM * Math.sqrt(3)) / 2;
		for (let o = 0; o < triangles.length; o += 9) {
			const low = [0, 1, 2].map((c) => Math.min(triangles[o + c], triangles[o + 3 + c], triangles[o + 6 + c]) - reachM);
			const high = [0, 1, 2].map(
				(c) => Math.max(triangles[o + c], triangles[o + 3 + c], triangles[o + 6 + c]) + reachM,
			);
			const [ux, uy, uz, vx, vy, vz] = [3, 4, 5, 6, 7, 8].map((c) => triangles[o + c] - triangles[o + (c % 3)]);
			let [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
			const l = Math.hypot(nx, ny, nz);
			if (l === 0) continue;
			[nx, ny, nz] = [nx / l, ny / l, nz / l];
			const level = nx * triangles[o] + ny * triangles[o + 1] + nz * triangles[o + 2];
			for (const [n, box] of [...boxes, ...(ground ? [everywhere] : [])].entries()) {
				const onLand = n === boxes.length;
				const from = low.map((v, c) => Math.floor((Math.max(v, box[c]) - anchor[c]) / sideM));
				const to = high.map((v, c) => Math.floor((Math.min(v, box[c + 3]) - anchor[c]) / sideM));
				for (let k = from[2]; k <= to[2]; k++)
					for (let j = from[1]; j <= to[1]; j++)
						for (let i = from[0]; i <= to[0]; i++) {
							const off =
								nx * (anchor[0] + (i + 0.5) * sideM) +
								ny * (anchor[1] + (j + 0.5) * sideM) +
								nz * (anchor[2] + (k + 0.5) * sideM) -
								level;
							if (Math.abs(off) > reach || (onLand && !this.nearLand(i, j, k))) continue;
							const key = brickKey(i, j, k);
							const list = bricks.get(key);
							if (!list) bricks.set(key, [o]);
							else if (list[list.length - 1] !== o) list.push(o);
						}
			}
		}
		return { triangles, bricks };
	}

	/** A body in a brick, whose distances to its samples are worked out as they are asked for. */
	private bodyIn(body: SeamBody, { triangles, bricks }: Near, key: number): BodyInBrick {
		const known = this.kept(`seams of ${this.way(body.key)}`, () => new Map<number, BodyInBrick>());
		let own = known.get(key);
		if (own) return own;
		const { anchor, sideM, reachM } = this;
		const [x, y, z] = brickOf(key).map((v, c) => anchor[c] + (v + 0.5) * sideM);
		const half = (sideM * Math.sqrt(3)) / 2;
		// Nearest to the middle first. What is farther from it than the nearest by the brick's width is nearest nowhere in it.
		const from = (bricks.get(key) ?? []).map((o) => ({ o, away: Math.sqrt(square(triangles, o, x, y, z)) }));
		const nearest = from.reduce((least, { away }) => Math.min(least, away), reachM + half);
		const list = from
			.filter(({ away }) => away < reachM + half && away <= nearest + 2 * half)
			.sort((p, q) => p.away - q.away);
		own = {
			triangles,
			list: Int32Array.from(list, ({ o }) => o),
			least: Float64Array.from(list, ({ away }) => away - half),
			bytes: new Int16Array(BRICK_BYTES).fill(UNKNOWN),
		};
		known.set(key, own);
		return own;
	}

	/** How far a body is from a sample of a brick, as a byte of the reach. */
	private distance({ triangles, list, least, bytes }: BodyInBrick, n: number, x: number, y: number, z: number): number {
		const known = bytes[n];
		if (known !== UNKNOWN) return known;
		const { cellM, reachM } = this;
		const px = x + (n % BRICK_SAMPLES) * cellM;
		const py = y + ((n >> 3) % BRICK_SAMPLES) * cellM;
		const pz = z + (n >> 6) * cellM;
		let best = reachM * reachM;
		for (let i = 0; i < list.length; i++) {
			if (least[i] > 0 && least[i] * least[i] >= best) break;
			const own = square(triangles, list[i], px, py, pz);
			if (own < best) best = own;
		}
		const byte = Math.round((FAR * Math.sqrt(best)) / reachM);
		bytes[n] = byte;
		return byte;
	}

	private distancesToLand(key: number): Uint8Array {
		const { anchor, cellM, sideM, reachM } = this;
		const [i, j, k] = brickOf(key);
		const { heights } = this.column(i, k);
		const wide = BRICK_SAMPLES + 2;
		const samples = new Uint8Array(BRICK_BYTES);
		for (let n = 0; n < BRICK_BYTES; n++) {
			const at = (Math.floor(n / BRICK_SAMPLES ** 2) + 1) * wide + (n % BRICK_SAMPLES) + 1;
			const y = anchor[1] + j * sideM + (Math.floor(n / BRICK_SAMPLES) % BRICK_SAMPLES) * cellM;
			const dx = (heights[at + 1] - heights[at - 1]) / (2 * cellM);
			const dz = (heights[at + wide] - heights[at - wide]) / (2 * cellM);
			const d = Math.abs(y - heights[at]) / Math.sqrt(1 + dx * dx + dz * dz);
			samples[n] = Math.min(FAR, Math.round((FAR * d) / reachM));
		}
		return samples;
	}

	/** Of second distances, or of those to the land alone, about what asks. */
	volume(toLand: boolean): Volume {
		const meet = this.meetings();
		const near = this.bodies.map((body, n) =>
			meet[n].boxes.length || meet[n].ground ? this.near(body, meet[n]) : null,
		);
		const whose = new Map<number, number[]>();
		for (const [n, one] of near.entries())
			for (const key of one?.bricks.keys() ?? []) {
				const list = whose.get(key);
				if (list) list.push(n);
				else whose.set(key, [n]);
			}
		const bricks: Brick[] = [];
		for (const [key, list] of whose) {
			const at = brickOf(key);
			const asked = list.some((n) => this.bodies[n].asks);
			const ground = !!this.land && (asked || this.land.asks) && this.nearLand(...at);
			if (list.length + (ground ? 1 : 0) < 2 || !(asked || (ground && this.land?.asks))) continue;
			const toGround = ground ? this.distancesToLand(key) : null;
			const samples = toLand ? toGround : this.second(key, list, near, toGround);
			if (samples) bricks.push({ at, samples });
			if (bricks.length > MOST_BRICKS)
				throw new Error(
					`What blends where it touches does so along more seams than fit, at ${this.reachM} m about each. A smaller width takes less: half of it an eighth.`,
				);
		}
		return packVolume(this.cellM, this.anchor, bricks);
	}

	/** The second least distances of a brick where something that asks passes near; far elsewhere. Null where nothing does, or all are far. */
	private second(
		key: number,
		list: readonly number[],
		near: readonly (Near | null)[],
		toGround: Uint8Array | null,
	): Uint8Array | null {
		const { anchor, sideM, bodies } = this;
		const [x, y, z] = brickOf(key).map((v, c) => anchor[c] + v * sideM);
		const all = list.map((n) => this.bodyIn(bodies[n], near[n] as Near, key));
		const wanted = new Uint8Array(BRICK_BYTES);
		let any = false;
		const want = (n: number) => {
			wanted[n] = 1;
			any = true;
		};
		if (toGround && this.land?.asks) toGround.forEach((d, n) => d <= SHELL && want(n));
		for (const [i, n] of list.entries()) {
			if (!bodies[n].asks) continue;
			// A distance changes by a cell at most from one sample to the next: what is far is stepped over.
			for (let row = 0; row < BRICK_BYTES; row += BRICK_SAMPLES)
				for (let k = 0; k < BRICK_SAMPLES; ) {
					const d = this.distance(all[i], row + k, x, y, z);
					if (d <= SHELL) want(row + k);
					k += Math.max(1, Math.floor((d - SHELL) / CELL));
				}
		}
		if (!any) return null;
		const out = new Uint8Array(BRICK_BYTES).fill(FAR);
		let nearest = FAR;
		for (let n = 0; n < BRICK_BYTES; n++) {
			if (!wanted[n]) continue;
			let least = toGround ? toGround[n] : FAR;
			let next = FAR;
			for (const own of all) {
				const v = this.distance(own, n, x, y, z);
				if (v < least) {
					next = least;
					least = v;
				} else if (v < next) next = v;
			}
			out[n] = next;
			if (next < nearest) nearest = next;
		}
		return nearest < FAR ? out : null;
	}
}

/**
 * Distances to the second nearest of bodies and land, metres over the reach, about all seams of those that ask. Throws in words when there
 * are too many.
 */
export const seamVolume = (
	bodies: readonly SeamBody[],
	land: SeamLand | null,
	reachM: number,
	anchor: Vec3 = [0, 0, 0],
	kept: Kept = (_, make) => make(),
): Volume => new Seams(bodies, land, reachM, anchor, kept).volume(false);

/** The same of distances to the land alone, about those bodies that ask. */
export const landVolume = (
	bodies: readonly SeamBody[],
	land: SeamLand,
	reachM: number,
	anchor: Vec3 = [0, 0, 0],
	kept: Kept = (_, make) => make(),
): Volume =>
	new Seams(
		bodies.filter((body) => body.asks),
		land,
		reachM,
		anchor,
		kept,
	).volume(true);
