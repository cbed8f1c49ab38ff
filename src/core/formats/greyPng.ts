/** Pictures of one channel. */
import { encode } from "fast-png";

/** Shares of 0 to 1 as grey of 16 bits in a PNG (ISO/IEC 15948); what lies beyond is black or white. */
export function greyPng(shares: ArrayLike<number>, width: number, height: number): Uint8Array {
	const data = Uint16Array.from(shares, (v) => Math.round(65_535 * Math.min(1, Math.max(0, v))));
	return encode({ width, height, data, channels: 1, depth: 16 });
}
