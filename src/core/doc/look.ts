/**
 * How a reference is looked at: its bend taken out, turned by quarters clockwise, then mirrored, then cropped; its colours
 * adjusted. The file stays as it came. Places are pixels from the top-left corner; those of the file are places of its
 * copies, which come without the bend.
 */

import { LUMA } from "../colour/linear.ts";
import { bent, straightened } from "../maths/division.ts";
import { cos, DEG, pow, sin } from "../maths/functions.ts";
import type { Look, Reference } from "./schema.ts";

export const plainLook = (): Look => ({
	crop: null,
	turns: 0,
	mirrored: false,
	brightness: 0,
	contrast: 1,
	hueDeg: 0,
	saturation: 1,
	warmth: 0,
});

type Size = { width: number; height: number };
type Place = readonly [number, number];

/** Size of the picture once it is turned, before it is cropped. */
function turnedSize({ widthPx, heightPx, look }: Reference): Size {
	return look && look.turns % 2 ? { width: heightPx, height: widthPx } : { width: widthPx, height: heightPx };
}

/** Size of what is shown, in pixels of the picture. */
export function shownSize(reference: Reference): Size {
	const size = turnedSize(reference);
	const crop = reference.look?.crop;
	return crop
		? {
				width: Math.max(1, Math.round(size.width * crop.width)),
				height: Math.max(1, Math.round(size.height * crop.height)),
			}
		: size;
}

/** Where a place of the file lies in what is shown. */
export function toShown(reference: Reference, [x, y]: Place): [number, number] {
	const { widthPx: w, heightPx: h, look } = reference;
	if (!look) return [x, y];
	const turned: Place[] = [
		[x, y],
		[h - y, x],
		[w - x, h - y],
		[y, w - x],
	];
	const size = turnedSize(reference);
	const [tx, ty] = turned[look.turns];
	const mx = look.mirrored ? size.width - tx : tx;
	return look.crop ? [mx - look.crop.x * size.width, ty - look.crop.y * size.height] : [mx, ty];
}

/** Where a place of what is shown lies in the file: the inverse of {@link toShown}. */
export function toFile(reference: Reference, [x, y]: Place): [number, number] {
	const { widthPx: w, heightPx: h, look } = reference;
	if (!look) return [x, y];
	const size = turnedSize(reference);
	const cx = x + (look.crop ? look.crop.x * size.width : 0);
	const ty = y + (look.crop ? look.crop.y * size.height : 0);
	const tx = look.mirrored ? size.width - cx : cx;
	const back: [number, number][] = [
		[tx, ty],
		[ty, h - tx],
		[w - tx, h - ty],
		[w - ty, tx],
	];
	return back[look.turns];
}

/** Where a place of the copies of one look lies in those of another, whose bend may be another. */
export function toOtherCopy(
	{ widthPx, heightPx }: Reference,
	[x, y]: Place,
	from: Look | undefined,
	to: Look | undefined,
): [number, number] {
	const [a, b] = [from?.bend ?? 0, to?.bend ?? 0];
	if (a === b) return [x, y];
	const radius = Math.sqrt(widthPx * widthPx + heightPx * heightPx) / 2;
	const [cx, cy] = [widthPx / 2, heightPx / 2];
	const [u, v] = straightened(bent([x - cx, y - cy], a, radius), b, radius);
	return [u + cx, v + cy];
}

/** Whether the shape of what is shown differs between two looks. */
export const sameShape = (a: Look | undefined, b: Look | undefined): boolean => {
	const [p, q] = [a ?? plainLook(), b ?? plainLook()];
	return (
		p.turns === q.turns &&
		p.mirrored === q.mirrored &&
		(p.bend ?? 0) === (q.bend ?? 0) &&
		JSON.stringify(p.crop) === JSON.stringify(q.crop)
	);
};

type Rows = [number[], number[], number[]];
const times = (a: Rows, b: Rows): Rows =>
	a.map((row) =>
		[0, 1, 2, 3].map((c) => row[0] * b[0][c] + row[1] * b[1][c] + row[2] * b[2][c] + (c === 3 ? row[3] : 0)),
	) as Rows;

/**
 * The adjustments as one matrix of three rows (red, green, blue, offset) on sRGB values of 0 to 1: warmth, hue (a turn
 * about grey that keeps luma, as in the CSS filter effects), saturation, contrast about the middle, brightness.
 */
export function colourMatrix(look: Look): Rows {
	const { warmth, hueDeg, saturation: s, contrast, brightness } = look;
	const warm: Rows = [
		[1 + 0.25 * warmth, 0, 0, 0],
		[0, 1, 0, 0],
		[0, 0, 1 - 0.25 * warmth, 0],
	];
	const c = cos(hueDeg * DEG);
	const n = sin(hueDeg * DEG);
	const [R, G, B] = LUMA;
	const hue: Rows = [
		[R + c * (1 - R) - n * R, G - c * G - n * G, B - c * B + n * (1 - B), 0],
		[R - c * R + n * 0.143, G + c * (1 - G) + n * 0.14, B - c * B - n * 0.283, 0],
		[R - c * R - n * (1 - R), G - c * G + n * G, B + c * (1 - B) + n * B, 0],
	];
	const saturation = [0, 1, 2].map((i) => [...LUMA.map((l, j) => l * (1 - s) + (i === j ? s : 0)), 0]) as Rows;
	// A stop doubles light; sRGB values grow by about the 2.2th root of that.
	const gain = pow(2, brightness / 2.2);
	const tone = [0, 1, 2].map((i) =>
		[0, 1, 2].map((j) => (i === j ? contrast * gain : 0)).concat(0.5 * (1 - contrast) * gain),
	) as Rows;
	return times(tone, times(saturation, times(hue, warm)));
}

/** Whether the colours are as they came. */
export const asItCame = (look: Look | undefined): boolean =>
	!look ||
	(look.brightness === 0 && look.contrast === 1 && look.hueDeg === 0 && look.saturation === 1 && look.warmth === 0);

/** Adjusts pixels of four bytes in place. */
export function adjustPixels(pixels: Uint8ClampedArray, look: Look): void {
	if (asItCame(look)) return;
	const [r, g, b] = colourMatrix(look);
	for (let i = 0; i < pixels.length; i += 4) {
		const [x, y, z] = [pixels[i], pixels[i + 1], pixels[i + 2]];
		pixels[i] = r[0] * x + r[1] * y + r[2] * z + r[3] * 255;
		pixels[i + 1] = g[0] * x + g[1] * y + g[2] * z + g[3] * 255;
		pixels[i + 2] = b[0] * x + b[1] * y + b[2] * z + b[3] * 255;
	}
}
