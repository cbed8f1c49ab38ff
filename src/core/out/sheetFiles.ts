/** A baked surface as pictures for other programs. */
import { encode } from "fast-png";
import { encodeSrgb } from "../colour/linear.ts";
import { writeExr } from "../formats/exrWrite.ts";
import { greyPng, packedPng } from "../formats/greyPng.ts";
import { type Sheet, type SheetTexel, texelAt } from "../surface/sheet.ts";

/** The finest texels in order. */
function* texels(sheet: Sheet): Generator<[SheetTexel, number]> {
	for (let n = 0; n < sheet.size ** 2; n++) yield [texelAt(sheet, n), n];
}

/** A value of each of the finest texels. */
function valuesOf<T extends Float32Array | Float64Array>(sheet: Sheet, into: T, of: (t: SheetTexel) => number): T {
	for (const [texel, n] of texels(sheet)) into[n] = of(texel);
	return into;
}

const plane = (sheet: Sheet, of: (t: SheetTexel) => number): Float32Array =>
	valuesOf(sheet, new Float32Array(sheet.size ** 2), of);

const exact = (sheet: Sheet, of: (t: SheetTexel) => number): Float64Array =>
	valuesOf(sheet, new Float64Array(sheet.size ** 2), of);

/** What a surface may be taken as, by the words for them. Rows go downward, columns right; all repeat after their edges. */
export const SHEET_FILES = {
	/** Base colour, 8 bits, sRGB. */
	colour: (sheet: Sheet): Uint8Array => {
		const { size } = sheet;
		const data = new Uint8Array(3 * size * size);
		for (const [{ colour }, n] of texels(sheet))
			for (const [c, v] of colour.entries()) data[3 * n + c] = Math.round(255 * encodeSrgb(v));
		return encode({ width: size, height: size, data, channels: 3, depth: 8 });
	},
	/** Grey of 16 bits between the least and the most, which are told in it. */
	height: (sheet: Sheet): Uint8Array => {
		const { size, leastMm, mostMm, sideM } = sheet;
		return greyPng(
			exact(sheet, ({ heightMm }) => (heightMm - leastMm) / (mostMm - leastMm || 1)),
			size,
			size,
			{ unit: "millimetres", least: String(leastMm), most: String(mostMm), metresAcross: String(sideM) },
		);
	},
	/** 16 bits: right, up and out of the surface, 0 to 1 for -1 to 1. */
	normal: (sheet: Sheet): Uint8Array => {
		const { size } = sheet;
		const long = ({ slope: [dx, dy] }: SheetTexel) => 0.5 / Math.sqrt(dx * dx + dy * dy + 1);
		const right = plane(sheet, (t) => 0.5 - t.slope[0] * long(t));
		// The picture's up is away, its rows go towards.
		const up = plane(sheet, (t) => 0.5 + t.slope[1] * long(t));
		const out = plane(sheet, (t) => 0.5 + long(t));
		return packedPng([right, up, out], size, size);
	},
	/** Grey of 16 bits, 0 to 1. */
	roughness: (sheet: Sheet): Uint8Array =>
		greyPng(
			exact(sheet, (t) => t.roughness),
			sheet.size,
			sheet.size,
		),
	/** Grey of 16 bits: how much it is metal, 0 to 1. */
	metal: (sheet: Sheet): Uint8Array =>
		greyPng(
			exact(sheet, (t) => t.metal),
			sheet.size,
			sheet.size,
		),
};

/** Heights in metres as 32-bit floats. */
export const sheetExr = (sheet: Sheet): Uint8Array =>
	writeExr({
		width: sheet.size,
		height: sheet.size,
		channels: [{ name: "Y", data: plane(sheet, ({ heightMm }) => heightMm / 1000) }],
		text: { unit: "metres", metresAcross: String(sheet.sideM) },
	});

/** Base colour, and how much of it is there: 8 bits each, sRGB, of a sheet that stands once. */
export function cutOutPng(sheet: Sheet): Uint8Array {
	const { size } = sheet;
	const data = new Uint8Array(4 * size * size);
	for (const [{ colour, metal }, n] of texels(sheet)) {
		for (const [c, v] of colour.entries()) data[4 * n + c] = Math.round(255 * encodeSrgb(v));
		data[4 * n + 3] = Math.round(255 * metal);
	}
	return encode({ width: size, height: size, data, channels: 4, depth: 8 });
}
