/** Pictures of one channel. */
import { encode } from "fast-png";

/** Shares of 0 to 1 as grey of 16 bits; what lies beyond is black or white. */
export const grey16 = (shares: ArrayLike<number>): Uint16Array =>
	Uint16Array.from(shares, (v) => Math.round(65_535 * Math.min(1, Math.max(0, v))));

/** Shares as a PNG (ISO/IEC 15948) of 16 bits with words in it, wherever it runs; a server has a swifter one beside its threads. */
export const greyPng = (
	shares: ArrayLike<number>,
	width: number,
	height: number,
	text: Record<string, string> = {},
): Uint8Array => encode({ width, height, data: grey16(shares), channels: 1, depth: 16, text });
