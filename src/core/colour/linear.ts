/** Scene-linear colour: weights of luminance, and the coding of sRGB (IEC 61966-2-1). The same bits on every engine. */
import { pow } from "../maths/functions.ts";

/** Weights of red, green and blue in luminance (Rec. 709). */
export const LUMA = [0.2126, 0.7152, 0.0722] as const;

/** Luminance of a linear colour; of a list of them, of the one that begins at `at`. */
export const luminance = (rgb: ArrayLike<number>, at = 0): number =>
	0.2126 * rgb[at] + 0.7152 * rgb[at + 1] + 0.0722 * rgb[at + 2];

/** Luminance of red, green and blue told apart. */
export const luminanceOf = (r: number, g: number, b: number): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;

/** A linear value from 0 to 1 as sRGB codes it, 0 to 1. */
export const encodeSrgb = (x: number): number => (x <= 0.0031308 ? 12.92 * x : 1.055 * pow(x, 1 / 2.4) - 0.055);

/** The linear value of an sRGB code, both from 0 to 1. */
export const decodeSrgb = (x: number): number => (x <= 0.04045 ? x / 12.92 : pow((x + 0.055) / 1.055, 2.4));

/** Linear values of the codes of a byte. */
export const LINEAR_OF_BYTE = Float64Array.from({ length: 256 }, (_, i) => decodeSrgb(i / 255));
