/** A baked surface as pictures for other programs. */
import { encode } from "fast-png";
import { encodeSrgb } from "../colour/linear.ts";
import { writeExr } from "../formats/exrWrite.ts";
import { greyPng, packedPng } from "../formats/greyPng.ts";
import type { Sheet } from "../surface/sheet.ts";

/** Heights of the finest texels, millimetres over the middle of the surface. */
const heightsMm = ({ levels: [{ height }], leastMm, mostMm }: Sheet): Float32Array =>
	Float32Array.from(height, (h) => leastMm + (h / 65_535) * (mostMm - leastMm));

/** What a surface may be taken as, by the words for them. Rows go downward, columns right; all repeat after their edges. */
export const SHEET_FILES = {
	/** Base colour, 8 bits, sRGB. */
	colour: ({ levels: [{ size, colour }] }: Sheet): Uint8Array => {
		const data = new Uint8Array(3 * size * size);
		for (let n = 0; n < size * size; n++)
			for (let c = 0; c < 3; c++) data[3 * n + c] = Math.round(255 * encodeSrgb((colour[4 * n + c] / 255) ** 2));
		return encode({ width: size, height: size, data, channels: 3, depth: 8 });
	},
	/** Grey of 16 bits between the least and the most, which are told in it. */
	height: ({ levels: [{ size, height }], leastMm, mostMm, sideM }: Sheet): Uint8Array =>
		greyPng(
			Float64Array.from(height, (h) => h / 65_535),
			size,
			size,
			{ unit: "millimetres", least: String(leastMm), most: String(mostMm), metresAcross: String(sideM) },
		),
	/** 16 bits: right, up and out of the surface, 0 to 1 for -1 to 1. */
	normal: (sheet: Sheet): Uint8Array => {
		const [{ size }] = sheet.levels;
		const heights = heightsMm(sheet);
		const run = (2 * 1000 * sheet.sideM) / size;
		const [right, up, out] = [0, 1, 2].map(() => new Float32Array(size * size));
		for (let j = 0; j < size; j++)
			for (let i = 0; i < size; i++) {
				const at = (di: number, dj: number) => heights[((j + dj + size) % size) * size + ((i + di + size) % size)];
				const [dx, dy] = [(at(1, 0) - at(-1, 0)) / run, (at(0, -1) - at(0, 1)) / run];
				const k = 1 / Math.sqrt(dx * dx + dy * dy + 1);
				const n = j * size + i;
				right[n] = 0.5 - 0.5 * dx * k;
				up[n] = 0.5 - 0.5 * dy * k;
				out[n] = 0.5 + 0.5 * k;
			}
		return packedPng([right, up, out], size, size);
	},
	/** Grey of 16 bits, 0 to 1. */
	roughness: ({ levels: [{ size, colour }] }: Sheet): Uint8Array =>
		greyPng(
			Float64Array.from({ length: size * size }, (_, n) => colour[4 * n + 3] / 255),
			size,
			size,
		),
};

/** Heights in metres as 32-bit floats. */
export const sheetExr = (sheet: Sheet): Uint8Array => {
	const [{ size }] = sheet.levels;
	const data = heightsMm(sheet).map((mm) => mm / 1000);
	return writeExr({
		width: size,
		height: size,
		channels: [{ name: "Y", data }],
		text: { unit: "metres", metresAcross: String(sheet.sideM) },
	});
};
