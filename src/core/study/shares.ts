/** What the frame truly shows of each thing: shares of its area, counted by what rays through it meet first. */
import type { ShotDocument } from "../doc/schema.ts";
import { usedFilm } from "../lens/camera.ts";
import { hash01 } from "../maths/hash.ts";

export interface Share {
	/** As in a print's layer `id`. */
	number: number;
	id: string;
	name: string;
	/** Part of the frame in percent; all together 100. */
	percent: number;
	/** Metres to the nearest of what is seen of it, by the places that were asked; infinite for what is not. */
	nearM: number;
}

/** Rays across the frame. */
const ACROSS = 1280;

/**
 * Places of the frame (x and y by turns, 0 to 1 from its top-left corner), one in each cell of an even grid of about square
 * cells, shifted within it by a hash of its number, so that what lies in rows does not fall between them.
 */
export function placesOverFrame({ camera }: Pick<ShotDocument, "camera">, across = ACROSS): Float64Array {
	const film = usedFilm(camera.film, camera.ratio);
	const down = Math.max(1, Math.round((across * film.heightMm) / film.widthMm));
	const out = new Float64Array(2 * across * down);
	for (let i = 0; i < across * down; i++) {
		out[2 * i] = ((i % across) + hash01(i, 1)) / across;
		out[2 * i + 1] = (Math.floor(i / across) + hash01(i, 2)) / down;
	}
	return out;
}

/**
 * Shares of all things by the numbers that were met at places spread evenly over the frame. `names` are those of the
 * numbers, `distancesM` metres along each ray.
 */
export function sharesOf(
	names: readonly { id: string; name: string }[],
	met: ArrayLike<number>,
	distancesM: ArrayLike<number> = [],
): Share[] {
	const counts = new Float64Array(names.length);
	const nearest = new Float64Array(names.length).fill(Number.POSITIVE_INFINITY);
	for (let i = 0; i < met.length; i++) {
		counts[met[i]]++;
		if (distancesM[i] < nearest[met[i]]) nearest[met[i]] = distancesM[i];
	}
	return names.map(({ id, name }, number) => ({
		number,
		id,
		name,
		percent: met.length ? (100 * counts[number]) / met.length : 0,
		nearM: nearest[number],
	}));
}
