/**
 * Takes the noise out of a picture that comes in strips of rows, from the top, for a large print does not fit in memory.
 * Strips of the planes that are looked at are held: a row's noise is taken out by what lies at most {@link AROUND}
 * rows from it, so that the result is that of the whole picture, bit by bit.
 */
import { type Picture, TILE } from "../core/scene/picture.ts";
import type { Cleaned } from "./clean.ts";
import { D_BORDER, N_GRID, N_HALO } from "./kernel/layout.ts";
import { layersOf } from "./learned.ts";
import { SPECK_REACH } from "./specks.ts";

/** Rows of a strip; the last one may have fewer. */
export const STRIP = TILE;
/**
 * The learned filter looks so far about its part, on its grid, at what is averaged. A speck within the border may be spread over rows twice
 * its reach away; two more tell whether it is one. Of the border's sixteen rows fifteen are looked at, and one more tells how far averages
 * are to be trusted.
 */
const AROUND = N_HALO + N_GRID + D_BORDER + 2 * SPECK_REACH + 2;
/** Strips that are held on each side of the one that is worked on, and all together. */
const BESIDE = Math.ceil(AROUND / STRIP);
const HELD = 2 * BESIDE + 1;

/** The planes that are looked at when noise is taken out. */
export const lookedAt = (p: Picture) => [
	...p.rgb,
	...p.halves,
	...p.albedo,
	...p.normal,
	p.error,
	p.nearness,
	p.counts,
	p.masks[0].cover,
	...layersOf(p).flat(),
];

/** Room for the held strips of the planes that are looked at. */
function room({ width, light }: Picture): Picture {
	const plane = () => new Float32Array(width * HELD * STRIP);
	const three = (): Picture["rgb"] => [plane(), plane(), plane()];
	const none = new Float32Array(0);
	return {
		width,
		height: HELD * STRIP,
		samples: 0,
		rgb: three(),
		halves: three(),
		albedo: three(),
		normal: three(),
		error: plane(),
		nearness: plane(),
		counts: new Uint32Array(width * HELD * STRIP),
		depth: none,
		id: new Uint32Array(0),
		masks: [{ id: new Uint32Array(0), cover: plane() }],
		light: light && {
			lights: light.lights.map(({ name }) => ({ name, rgb: three() })),
			fog: three(),
			openness: none,
		},
	};
}

/** Rows of some strips as a picture, without copying. */
function rowsOf(held: Picture, from: number, to: number): Picture {
	const cut = <T extends Float32Array | Uint32Array>(plane: T): T =>
		plane.subarray(from * held.width, to * held.width) as T;
	const three = (planes: Picture["rgb"]) => planes.map(cut) as Picture["rgb"];
	return {
		...held,
		height: to - from,
		rgb: three(held.rgb),
		halves: three(held.halves),
		albedo: three(held.albedo),
		normal: three(held.normal),
		error: cut(held.error),
		nearness: cut(held.nearness),
		counts: cut(held.counts),
		masks: held.masks.map((m) => ({ ...m, cover: cut(m.cover) })),
		light: held.light && {
			...held.light,
			lights: held.light.lights.map(({ name, rgb }) => ({ name, rgb: three(rgb) })),
			fog: three(held.light.fog),
		},
	};
}

/** A strip and its first row, with the same light without its noise. */
export interface CleanStrip {
	y: number;
	strip: Picture;
	clean: Cleaned;
}

/** Yields each strip once those below it that count are there. `denoise` works on rows [y, y + rows) of a picture. */
export async function* cleanStrips(
	strips: AsyncIterable<Picture>,
	denoise: (picture: Picture, part: { y: number; rows: number }) => Promise<Cleaned>,
): AsyncGenerator<CleanStrip> {
	let held: Picture | null = null;
	/** Rows that are held, and the row of the print that is the first of them. */
	let [rows, top] = [0, 0];
	const waiting: { y: number; strip: Picture }[] = [];
	const first = async (): Promise<CleanStrip> => {
		const one = waiting.shift();
		if (!held || !one) throw new Error("no strip is held");
		const { y, strip } = one;
		return { y, strip, clean: await denoise(rowsOf(held, 0, rows), { y: y - top, rows: strip.height }) };
	};
	for await (const strip of strips) {
		held ??= room(strip);
		if (rows === HELD * STRIP) {
			for (const plane of lookedAt(held)) plane.copyWithin(0, STRIP * strip.width);
			rows -= STRIP;
			top += STRIP;
		}
		const from = lookedAt(strip);
		lookedAt(held).forEach((plane, i) => {
			plane.set(from[i], rows * strip.width);
		});
		waiting.push({ y: top + rows, strip });
		rows += strip.height;
		if (waiting.length > BESIDE) yield first();
	}
	while (waiting.length > 0) yield first();
}
