/**
 * A rough form seen from above, as heights that land can take: of all triangles over the middle of a pixel the highest counts. What
 * hangs over open air cannot be land; it is told.
 */
import { clamp } from "../maths/functions.ts";

export interface FormHeights {
	/** Its middle, right and towards, and its side, metres. */
	x: number;
	z: number;
	metres: number;
	size: number;
	/** Metres, rows from −z; no number where there is none of it. */
	tops: Float32Array;
	/** 1 where there is some of it, and about it going over to 0 on a few pixels. */
	mask: Float32Array;
	/** Share of its pixels over which it hangs, and over how much air at most, metres. */
	overhangs: number;
	overhangM: number;
}

/** Raised where there is nothing to see from above. */
export class FormError extends Error {}

/** Pixels about it on each side, and on how many it goes over into the land. */
const MARGIN_PX = 4;
const SOFT_PX = 3;
/** Air under it that counts, as a share of its own size. */
const AIR = 0.02;
/** Pixels of a side at most, and how wide one is at least, metres. */
const MOST_PX = 1024;
const LEAST_PX_M = 0.05;

/**
 * @param corners Three places a triangle, metres.
 * @param landAt What lies under it; without, the lowest of its corners.
 */
export function formFromAbove(
	corners: Float32Array | Float64Array,
	landAt?: (x: number, z: number) => number,
): FormHeights {
	let [x0, x1, z0, z1, low] = [Infinity, -Infinity, Infinity, -Infinity, Infinity];
	for (let i = 0; i < corners.length; i += 3) {
		x0 = Math.min(x0, corners[i]);
		x1 = Math.max(x1, corners[i]);
		low = Math.min(low, corners[i + 1]);
		z0 = Math.min(z0, corners[i + 2]);
		z1 = Math.max(z1, corners[i + 2]);
	}
	const wide = Math.max(x1 - x0, z1 - z0);
	if (!(wide > 0) || !Number.isFinite(wide)) throw new FormError("The form has no faces that are seen from above.");
	const size = Math.round(clamp(wide / LEAST_PX_M, 16, MOST_PX - 2 * MARGIN_PX)) + 2 * MARGIN_PX;
	const step = wide / (size - 2 * MARGIN_PX);
	const [x, z] = [(x0 + x1) / 2, (z0 + z1) / 2];
	const metres = size * step;
	const [left, upper] = [x - metres / 2, z - metres / 2];
	const tops = new Float32Array(size * size).fill(Number.NaN);
	/** The lowest face that looks down. */
	const under = new Float32Array(size * size).fill(Number.POSITIVE_INFINITY);
	for (let t = 0; t + 8 < corners.length; t += 9) {
		const [ax, ay, az, bx, by, bz, cx, cy, cz] = corners.subarray(t, t + 9);
		const area = (bx - ax) * (cz - az) - (cx - ax) * (bz - az);
		if (Math.abs(area) < 1e-12) continue;
		const column = (v: number) => Math.round((v - left) / step - 0.5);
		const row = (v: number) => Math.round((v - upper) / step - 0.5);
		const rows = [row(Math.min(az, bz, cz)) - 1, row(Math.max(az, bz, cz)) + 1];
		const columns = [column(Math.min(ax, bx, cx)) - 1, column(Math.max(ax, bx, cx)) + 1];
		for (let j = Math.max(0, rows[0]); j <= Math.min(size - 1, rows[1]); j++)
			for (let i = Math.max(0, columns[0]); i <= Math.min(size - 1, columns[1]); i++) {
				const [px, pz] = [left + (i + 0.5) * step, upper + (j + 0.5) * step];
				const u = ((bx - px) * (cz - pz) - (cx - px) * (bz - pz)) / area;
				const v = ((cx - px) * (az - pz) - (ax - px) * (cz - pz)) / area;
				if (u < -1e-9 || v < -1e-9 || u + v > 1 + 1e-9) continue;
				const y = u * ay + v * by + (1 - u - v) * cy;
				const at = j * size + i;
				if (!(tops[at] >= y)) tops[at] = y;
				// Seen from above, what looks down turns the other way.
				if (area > 0) under[at] = Math.min(under[at], y);
			}
	}
	const mask = Float32Array.from(tops, (v) => (Number.isNaN(v) ? 0 : 1));
	let [own, hanging, overhangM] = [0, 0, 0];
	for (let at = 0; at < tops.length; at++) {
		if (mask[at] === 0) continue;
		own++;
		const [px, pz] = [left + ((at % size) + 0.5) * step, upper + (Math.floor(at / size) + 0.5) * step];
		const air = under[at] === Number.POSITIVE_INFINITY ? 0 : under[at] - (landAt?.(px, pz) ?? low);
		if (air <= AIR * wide) continue;
		hanging++;
		overhangM = Math.max(overhangM, air);
	}
	if (own === 0) throw new FormError("The form has no faces that are seen from above.");
	return { x, z, metres, size, tops, mask: softened(mask, size), overhangs: hanging / own, overhangM };
}

/** A mask that goes over to nothing about its edges, outwards. */
function softened(mask: Float32Array, size: number): Float32Array {
	let now = mask;
	for (let round = 1; round <= SOFT_PX; round++) {
		const next = now.slice();
		const share = 1 - round / (SOFT_PX + 1);
		for (let j = 1; j + 1 < size; j++)
			for (let i = 1; i + 1 < size; i++) {
				const at = j * size + i;
				if (now[at] > 0) continue;
				if (now[at - 1] > 0 || now[at + 1] > 0 || now[at - size] > 0 || now[at + size] > 0) next[at] = share;
			}
		now = next;
	}
	return now;
}

/** What hangs over, in words; nothing where next to nothing does. */
export function overhangWords({ overhangs, overhangM }: Pick<FormHeights, "overhangs" | "overhangM">): string {
	if (overhangs < 0.01) return "";
	return `${Math.round(100 * overhangs)} % of it hangs over, by up to ${overhangM.toFixed(1)} m: land cannot, so it fills what is under that.`;
}
