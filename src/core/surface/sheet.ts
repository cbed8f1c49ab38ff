/**
 * A surface baked: its recipe over a square, once, with all halvings down to one texel. What a halving cannot show of its
 * slopes any more it keeps as their variance, by which the surface is rougher from afar (Toksvig 2005).
 */

export interface Sheet {
	sideM: number;
	/** Texels of a side at its finest; a power of two. */
	size: number;
	leastMm: number;
	mostMm: number;
	/**
	 * Texels of {@link TEXEL_WORDS} words, the finest level first, row by row: towards, right within. Words: roots of the linear red,
	 * green and blue, and the roughness, a byte each; slopes right and towards (rise over run), 16 bits each, {@link SLOPE_UNIT} a unit;
	 * the height of 16 bits from the least to the most, the root of the slopes' lost variance over {@link MOST_LOST}, and how much it is
	 * metal, a byte each.
	 */
	words: Uint32Array;
}

export const TEXEL_WORDS = 3;
export const SLOPE_UNIT = 4096;
/** Root of the most variance of slopes that is kept. */
export const MOST_LOST = 2;

/** Texels of a side at most and at least; a power of two. */
export const MOST_TEXELS = 4096;
export const LEAST_TEXELS = 4;
/** Texels of a side that shots have their surfaces in. */
export const SHOT_TEXELS = 1024;

export const levelsOf = (size: number): number => Math.log2(size) + 1;

/** First texel of a level, 0 the finest, among those of all. */
export function firstTexel(size: number, level: number): number {
	let first = 0;
	for (let l = 0; l < level; l++) first += (size >> l) ** 2;
	return first;
}

export const texelsOf = (size: number): number => firstTexel(size, levelsOf(size));

/** Bytes of a sheet with all its halvings. */
export const sheetBytes = ({ words }: Sheet): number => words.byteLength;

/** A texel of a sheet in numbers. */
export interface SheetTexel {
	/** Linear. */
	colour: [number, number, number];
	roughness: number;
	/** Rise over run, right and towards. */
	slope: [number, number];
	heightMm: number;
	/** Variance of the slope within the texel, both ways together. */
	variance: number;
	metal: number;
}

const signed = (bits: number): number => (bits << 16) >> 16;

/** The texel of a number, counted as {@link firstTexel} counts. */
export function texelAt({ words, leastMm, mostMm }: Sheet, n: number): SheetTexel {
	const [paint, slopes, rest] = words.subarray(TEXEL_WORDS * n, TEXEL_WORDS * n + TEXEL_WORDS);
	const root = (byte: number) => (byte / 255) ** 2;
	return {
		colour: [root(paint & 255), root((paint >>> 8) & 255), root((paint >>> 16) & 255)],
		roughness: (paint >>> 24) / 255,
		slope: [signed(slopes & 0xffff) / SLOPE_UNIT, signed(slopes >>> 16) / SLOPE_UNIT],
		heightMm: leastMm + ((rest & 0xffff) / 65_535) * (mostMm - leastMm),
		variance: (MOST_LOST * (((rest >>> 16) & 255) / 255)) ** 2,
		metal: (rest >>> 24) / 255,
	};
}

/** What the whole of a sheet comes to. */
export const meanOf = (sheet: Sheet): SheetTexel => texelAt(sheet, texelsOf(sheet.size) - 1);

/** Refuses sizes that no sheet has. */
export function checkTexels(size: number): void {
	if (!(size >= LEAST_TEXELS && size <= MOST_TEXELS && Number.isInteger(Math.log2(size))))
		throw new Error(`A sheet has ${LEAST_TEXELS} to ${MOST_TEXELS} texels a side, a power of two, not ${size}.`);
}

const HEAD_BYTES = 32;

/** A sheet as bytes: side in metres, texels of a side, least and most as doubles, then its words; all little-endian. */
export function packSheet({ sideM, size, leastMm, mostMm, words }: Sheet): Uint8Array<ArrayBuffer> {
	const bytes = new Uint8Array(HEAD_BYTES + words.byteLength);
	new Float64Array(bytes.buffer, 0, 4).set([sideM, size, leastMm, mostMm]);
	new Uint32Array(bytes.buffer, HEAD_BYTES).set(words);
	return bytes;
}

/** The sheet that bytes tell of; null where they are of another length than they say. */
export function unpackSheet(bytes: Uint8Array): Sheet | null {
	if (bytes.byteLength < HEAD_BYTES || bytes.byteLength % 4 !== 0) return null;
	const head = new DataView(bytes.buffer, bytes.byteOffset);
	const [sideM, size, leastMm, mostMm] = [0, 8, 16, 24].map((at) => head.getFloat64(at, true));
	if (!(size >= LEAST_TEXELS && size <= MOST_TEXELS && Number.isInteger(Math.log2(size)))) return null;
	// Words lie at multiples of four; what does not is copied to where it does.
	const { buffer, byteOffset, byteLength } = bytes.byteOffset % 4 === 0 ? bytes : bytes.slice();
	const words = new Uint32Array(buffer, byteOffset + HEAD_BYTES, (byteLength - HEAD_BYTES) / 4);
	return words.length === TEXEL_WORDS * texelsOf(size) ? { sideM, size, leastMm, mostMm, words } : null;
}
