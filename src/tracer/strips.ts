/**
 * Takes the noise out of a picture that comes in strips of rows, from the top, for a large print does not fit in memory.
 * Three strips of the planes that are looked at are held: a row's noise is taken out by what lies at most {@link AROUND}
 * rows from it, which is no more than a strip, so that the result is that of the whole picture, bit by bit.
 */
import { type Picture, TILE } from "../core/scene/picture.ts";
import type { Planes } from "./denoise.ts";
import { D_BORDER } from "./kernel/layout.ts";
import { SPECK_REACH } from "./specks.ts";

/** Rows of a strip; the last one may have fewer. */
export const STRIP = TILE;
/**
 * A speck within the border may be spread over rows twice its reach away; two more tell whether it is one. Of the border's
 * sixteen rows fifteen are looked at, and one more tells how far averages are to be trusted.
 */
const AROUND = D_BORDER + 2 * SPECK_REACH + 2;
if (AROUND > STRIP) throw new Error("specks are spread further than a strip is high");

/** The planes that are looked at. */
const lookedAt = (p: Picture) => [...p.rgb, ...p.halves, ...p.albedo, ...p.normal, p.error, p.nearness, p.counts];

/** Room for three strips of the planes that are looked at. */
function room(width: number): Picture {
	const plane = () => new Float32Array(width * 3 * STRIP);
	const three = (): Picture["rgb"] => [plane(), plane(), plane()];
	const none = new Float32Array(0);
	return {
		width,
		height: 3 * STRIP,
		samples: 0,
		rgb: three(),
		halves: three(),
		albedo: three(),
		normal: three(),
		error: plane(),
		nearness: plane(),
		counts: new Uint32Array(width * 3 * STRIP),
		depth: none,
		id: new Uint32Array(0),
		masks: [],
		light: null,
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
	};
}

/** A strip and its first row, with the same light without its noise. */
export interface CleanStrip {
	y: number;
	strip: Picture;
	clean: Planes;
}

/** Yields each strip once the one below it is there. `denoise` works on rows [y, y + rows) of a picture. */
export async function* cleanStrips(
	strips: AsyncIterable<Picture>,
	denoise: (picture: Picture, part: { y: number; rows: number }) => Promise<Planes>,
): AsyncGenerator<CleanStrip> {
	let held: Picture | null = null;
	let rows = 0;
	let waiting: { y: number; strip: Picture } | null = null;
	const finish = async ({ y, strip }: { y: number; strip: Picture }, below: number): Promise<CleanStrip> => {
		if (!held) throw new Error("no strip is held");
		const at = rows - below - strip.height;
		return { y, strip, clean: await denoise(rowsOf(held, 0, rows), { y: at, rows: strip.height }) };
	};
	let next = 0;
	for await (const strip of strips) {
		held ??= room(strip.width);
		if (rows === 3 * STRIP) {
			for (const plane of lookedAt(held)) plane.copyWithin(0, STRIP * strip.width);
			rows -= STRIP;
		}
		const from = lookedAt(strip);
		lookedAt(held).forEach((plane, i) => {
			plane.set(from[i], rows * strip.width);
		});
		rows += strip.height;
		if (waiting) yield finish(waiting, strip.height);
		waiting = { y: next, strip };
		next += strip.height;
	}
	if (waiting) yield finish(waiting, 0);
}
