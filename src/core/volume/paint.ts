/**
 * What strokes of a brush have painted, over space: each covers what its strength says in its radius, fading at its rim, and what it
 * covers is more, or less, than it was. What of it lies in a brick is kept by the strokes that reach it.
 */
import type { MaskStroke } from "../doc/schema.ts";
import { hash32 } from "../maths/hash.ts";
import type { Vec3 } from "../maths/vec.ts";
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

/** Cells in the radius of the finest stroke, where there is room. */
const CELLS_IN_RADIUS = 5;
const MOST_BRICKS = 30_000;

const float = new Float32Array(1);
const bits = new Int32Array(float.buffer);

/** A digest of numbers, in 53 bits. */
function digest(numbers: Iterable<number>): number {
	let [a, b] = [0x243f6a88, 0x85a308d3];
	for (const v of numbers) {
		float[0] = v;
		a = Math.imul(a ^ bits[0], 0x9e3779b1);
		a = (a << 13) | (a >>> 19);
		b = Math.imul(b ^ bits[0], 0x85ebca77) + a;
		b = (b << 15) | (b >>> 17);
	}
	return hash32(a) * 2 ** 21 + (hash32(b) >>> 11);
}

/** How a stroke covers, without where it goes. */
const wayOf = ({ radiusM, strength, soft, away }: MaskStroke): number =>
	digest([radiusM, strength, soft, away ? 1 : 0]);

/** The strokes in one word; the same for the same strokes in the same order. */
export const strokesKey = (strokes: readonly MaskStroke[]): string =>
	strokes.map((stroke) => `${wayOf(stroke)} ${digest(stroke.points.flat())}`).join(" ");

type Segment = readonly [from: Vec3, to: Vec3];

const segmentsOf = ({ points }: MaskStroke): Segment[] =>
	points.length === 1 ? [[points[0], points[0]]] : points.slice(1).map((to, n) => [points[n], to]);

/** Square of the distance from a place to a part of a stroke, metres². */
function square([a, b]: Segment, x: number, y: number, z: number): number {
	const ux = b[0] - a[0];
	const uy = b[1] - a[1];
	const uz = b[2] - a[2];
	const wx = x - a[0];
	const wy = y - a[1];
	const wz = z - a[2];
	const along = (ux * wx + uy * wy + uz * wz) / (ux * ux + uy * uy + uz * uz || 1);
	const t = Math.min(1, Math.max(0, along));
	const dx = wx - t * ux;
	const dy = wy - t * uy;
	const dz = wz - t * uz;
	return dx * dx + dy * dy + dz * dz;
}

/** Bricks that a part of a stroke reaches. */
function bricksOf(segment: Segment, radiusM: number, sideM: number): number[] {
	const [a, b] = segment;
	const [from, to] = [-1, 1].map((sign) =>
		[0, 1, 2].map((c) =>
			Math.floor(((sign < 0 ? Math.min(a[c], b[c]) : Math.max(a[c], b[c])) + sign * radiusM) / sideM),
		),
	);
	const reach = radiusM + (sideM * Math.sqrt(3)) / 2;
	const found: number[] = [];
	for (let k = from[2]; k <= to[2]; k++)
		for (let j = from[1]; j <= to[1]; j++)
			for (let i = from[0]; i <= to[0]; i++)
				if (square(segment, (i + 0.5) * sideM, (j + 0.5) * sideM, (k + 0.5) * sideM) <= reach * reach)
					found.push(brickKey(i, j, k));
	return found;
}

/** About how many bricks strokes reach. */
const estimate = (strokes: readonly MaskStroke[], sideM: number): number =>
	strokes.reduce((sum, stroke) => {
		const across = (2 * stroke.radiusM) / sideM + 1;
		const long = segmentsOf(stroke).reduce((all, [a, b]) => all + Math.hypot(...a.map((v, c) => b[c] - v)) / sideM, 0);
		return sum + across * across * (across + long);
	}, 0);

/** What of the strokes reaches a brick: each by its number, with those of its parts that do, and a digest of these. */
interface Reached {
	strokes: { n: number; segments: Segment[] }[];
	digests: number[];
}

/** A brick as it was painted last: after all strokes, and before the last of them. */
interface Painted {
	digests: readonly number[];
	before: Uint8Array | null;
	samples: Uint8Array;
}

/** What strokes have painted, 0 to 1; nothing is known, and nothing painted, where there is no brick. */
export function paintVolume(strokes: readonly MaskStroke[], kept: Kept = (_, make) => make()): Volume {
	let cellM = 2 ** Math.round(Math.log2(Math.min(...strokes.map((s) => s.radiusM)) / CELLS_IN_RADIUS));
	while (estimate(strokes, cellM * BRICK_CELLS) > MOST_BRICKS) cellM *= 2;
	const sideM = cellM * BRICK_CELLS;
	const ways = kept(`bricks of strokes ${cellM}`, () => new Map<number, number[]>());
	const drawn = kept(`painted bricks ${cellM}`, () => new Map<number, Painted>());
	const reached = new Map<number, Reached>();
	for (const [n, stroke] of strokes.entries()) {
		const way = wayOf(stroke);
		for (const segment of segmentsOf(stroke)) {
			const own = digest([...segment[0], ...segment[1], stroke.radiusM]);
			let bricks = ways.get(own);
			if (!bricks) {
				bricks = bricksOf(segment, stroke.radiusM, sideM);
				ways.set(own, bricks);
			}
			for (const key of bricks) {
				let all = reached.get(key);
				if (!all) {
					all = { strokes: [], digests: [] };
					reached.set(key, all);
				}
				const last = all.strokes.length - 1;
				if (last >= 0 && all.strokes[last].n === n) {
					all.strokes[last].segments.push(segment);
					all.digests[last] = (all.digests[last] * 31 + own) % 2 ** 53;
				} else {
					all.strokes.push({ n, segments: [segment] });
					all.digests.push((way * 31 + own) % 2 ** 53);
				}
			}
		}
	}
	const bricks: Brick[] = [];
	for (const [key, all] of reached) {
		const now = paintedAnew(drawn.get(key), all, strokes, key, cellM);
		drawn.set(key, now);
		bricks.push({ at: brickOf(key), samples: now.samples });
	}
	return packVolume(cellM, [0, 0, 0], bricks);
}

/** A brick painted; from what is kept of it where all but the last stroke are as they were. */
function paintedAnew(
	known: Painted | undefined,
	{ strokes: reached, digests }: Reached,
	strokes: readonly MaskStroke[],
	key: number,
	cellM: number,
): Painted {
	const same = (count: number) =>
		known !== undefined && digests.slice(0, count).every((d, i) => d === known.digests[i]);
	const last = digests.length - 1;
	if (known && known.digests.length === digests.length && same(digests.length)) return known;
	let before: Uint8Array | null = null;
	let from = 0;
	if (known && same(last) && (known.digests.length === last || known.digests.length === last + 1)) {
		before = known.digests.length === last ? known.samples : known.before;
		from = last;
	}
	let samples = before;
	for (let s = from; s <= last; s++) {
		before = samples;
		samples = painted(before, strokes[reached[s].n], reached[s].segments, key, cellM);
	}
	return { digests, before, samples: samples as Uint8Array };
}

/** A brick's samples after one more stroke. */
function painted(
	before: Uint8Array | null,
	{ radiusM, strength, soft, away }: MaskStroke,
	segments: readonly Segment[],
	key: number,
	cellM: number,
): Uint8Array {
	const samples = new Uint8Array(BRICK_BYTES);
	const [i, j, k] = brickOf(key).map((v) => v * BRICK_CELLS * cellM);
	const fades = Math.max(1e-3, soft);
	for (let n = 0; n < BRICK_BYTES; n++) {
		const x = i + (n % BRICK_SAMPLES) * cellM;
		const y = j + (Math.floor(n / BRICK_SAMPLES) % BRICK_SAMPLES) * cellM;
		const z = k + Math.floor(n / BRICK_SAMPLES ** 2) * cellM;
		let least = Number.POSITIVE_INFINITY;
		for (const segment of segments) least = Math.min(least, square(segment, x, y, z));
		const t = Math.min(1, Math.max(0, (1 - Math.sqrt(least) / radiusM) / fades));
		const share = strength * t * t * (3 - 2 * t);
		const was = before ? before[n] : 0;
		samples[n] = Math.round(away ? was * (1 - share) : was + (255 - was) * share);
	}
	return samples;
}
