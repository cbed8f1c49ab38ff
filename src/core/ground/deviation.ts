/** How far the land has come from a form that it was laid by: in metres, and in pixels of a lens. */
import type { Ground } from "../doc/schema.ts";
import { hash32 } from "../maths/hash.ts";
import { groundHeight } from "./height.ts";
import { entryOf } from "./ledger/ledger.ts";
import { cornersOf, quadOf } from "./ledger/places.ts";

export interface Deviation {
	/** In the mean square, and at most, metres. */
	meanM: number;
	mostM: number;
	/** At most, pixels of the lens at that distance. */
	mostPx: number;
}

const PLACES = 1500;

/** Null where an entry is laid by no form, or what it is laid by has not been read. `pixel` is the share of its distance that a pixel covers. */
export function deviationOf(
	ground: Ground,
	id: string,
	eye: readonly [number, number, number],
	pixel: number,
): Deviation | null {
	const ledger = ground.ledger ?? [];
	const at = ledger.findIndex((e) => e.id === id);
	const entry = ledger[at];
	const quad = entry && !entry.out ? quadOf(entry) : null;
	if (!quad || !("made" in entryOf(entry)) || !("how" in entry)) return null;
	// The land as it was when the form had just been laid, and as it is.
	const then: Ground = { ...ground, ledger: ledger.slice(0, at + 1) };
	const without: Ground = { ...ground, ledger: ledger.slice(0, at) };
	const [a, b, , d] = cornersOf(quad);
	let [squares, count, mostM, mostPx] = [0, 0, 0, 0];
	for (let n = 0; n < PLACES; n++) {
		const [u, v] = [hash32(2 * n) / 2 ** 32, hash32(2 * n + 1) / 2 ** 32];
		const x = a[0] + u * (b[0] - a[0]) + v * (d[0] - a[0]);
		const z = a[1] + u * (b[1] - a[1]) + v * (d[1] - a[1]);
		const laid = groundHeight(then, x, z);
		if (laid === groundHeight(without, x, z)) continue;
		const now = groundHeight(ground, x, z);
		const off = Math.abs(now - laid);
		const far = Math.sqrt((x - eye[0]) ** 2 + (now - eye[1]) ** 2 + (z - eye[2]) ** 2);
		squares += off * off;
		count++;
		mostM = Math.max(mostM, off);
		mostPx = Math.max(mostPx, off / (pixel * Math.max(0.1, far)));
	}
	return count > 0 ? { meanM: Math.sqrt(squares / count), mostM, mostPx } : null;
}
