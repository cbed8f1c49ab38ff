/** Surfaces brought in as pictures: what their files are called, how they are laid, and what of them a sheet is packed from. */
import { LINEAR_OF_BYTE } from "../colour/linear.ts";
import type { ImageRole, ImageSurface, Laid, ShotDocument } from "../doc/schema.ts";
import type { LandPicture } from "../formats/landPicture.ts";
import { isSurface } from "./laying.ts";
import { SURFACES } from "./surfaces.ts";

/** What the word begins with that one is laid by; its id follows. */
const BROUGHT = "picture ";

export const wordOf = ({ id }: Pick<ImageSurface, "id">): string => `${BROUGHT}${id}`;

/** The one that a word names; null where it is none, or is not there any more. */
export const broughtBy = (of: string, { imageSurfaces }: Pick<ShotDocument, "imageSurfaces">): ImageSurface | null =>
	of.startsWith(BROUGHT) ? (imageSurfaces?.find((own) => wordOf(own) === of) ?? null) : null;

export const laidAsBrought = (own: ImageSurface): Laid => ({
	...{ of: wordOf(own), seed: 0, turnDeg: 0, tint: 0, wet: 0 },
	acrossM: own.sideM,
	reliefMm: own.depthMm,
});

/** What lies there is called, in a shot that may have surfaces of pictures. */
export function surfaceSays(of: string, doc: Pick<ShotDocument, "imageSurfaces">): string {
	if (isSurface(of)) return SURFACES[of].name;
	return broughtBy(of, doc)?.name ?? `"${of}", which is not known any more,`;
}

/** Words in names of files, by which their pictures are known. What a thing is made of may stand before: the last of them counts. */
const CALLED: readonly [ImageRole, RegExp][] = [
	["normal", /normals?|nrm|nor(?![a-z])/g],
	["roughness", /rough(ness)?|rgh/g],
	["metal", /metal(lic|ness)?|mtl/g],
	["height", /height|displacement|disp(?![a-z])|bump/g],
	["colour", /base.?colou?r|albedo|diffuse|diff(?![a-z])|colou?r|col(?![a-z])/g],
];

/** What a file of this name tells; null where its name says nothing. */
export function roleOf(fileName: string): ImageRole | null {
	const name = fileName.toLowerCase().replace(/\.[a-z0-9]+$/, "");
	const told = CALLED.flatMap(([role, called]) => [...name.matchAll(called)].map(({ index }) => ({ role, index })));
	return told.sort((a, b) => b.index - a.index)[0]?.role ?? null;
}

/** Which way green of normals leans, where the file's name says so by what draws them so. */
export function handedOf(fileName: string): ImageSurface["handed"] | null {
	const name = fileName.toLowerCase();
	if (/gl(?![a-z])/.test(name)) return "up";
	return /dx(?![a-z])|directx/.test(name) ? "down" : null;
}

/** Numbers of a sheet's finest texels, row by row, each of all of them. */
export interface SheetPlanes {
	/** Linear. */
	red: Float32Array;
	green: Float32Array;
	blue: Float32Array;
	roughness: Float32Array;
	metal: Float32Array;
	/** Millimetres. */
	height: Float32Array;
	/** Rise over run, right and towards, where pictures tell it by themselves. */
	across: Float32Array | null;
	along: Float32Array | null;
}

/** What a surface is where no picture tells it. */
const ROUGHNESS = 0.8;
/** Least that a normal looks out of its surface: what leans more is a fault. */
const LEAST_OUT = 0.1;

/** The middle square of a picture in so many texels a side, one channel of it: means where it is finer, between pixels where it is coarser. */
function squared(
	{ width, height }: LandPicture,
	texels: number,
	at: (pixel: number) => number,
): Float32Array<ArrayBuffer> {
	const side = Math.min(width, height);
	const [x0, y0] = [(width - side) >> 1, (height - side) >> 1];
	const scale = side / texels;
	const pixel = (x: number, y: number) => at((y0 + ((y + side) % side)) * width + x0 + ((x + side) % side));
	const out = new Float32Array(texels * texels);
	for (let j = 0; j < texels; j++)
		for (let i = 0; i < texels; i++) {
			if (scale > 1) {
				let sum = 0;
				const [xa, xb] = [Math.floor(i * scale), Math.max(Math.floor(i * scale) + 1, Math.floor((i + 1) * scale))];
				const [ya, yb] = [Math.floor(j * scale), Math.max(Math.floor(j * scale) + 1, Math.floor((j + 1) * scale))];
				for (let y = ya; y < yb; y++) for (let x = xa; x < xb; x++) sum += pixel(x, y);
				out[j * texels + i] = sum / ((xb - xa) * (yb - ya));
				continue;
			}
			const [u, v] = [(i + 0.5) * scale - 0.5, (j + 0.5) * scale - 0.5];
			const [x, y] = [Math.floor(u), Math.floor(v)];
			const [a, b] = [u - x, v - y];
			out[j * texels + i] =
				(pixel(x, y) * (1 - a) + pixel(x + 1, y) * a) * (1 - b) +
				(pixel(x, y + 1) * (1 - a) + pixel(x + 1, y + 1) * a) * b;
		}
	return out;
}

/** Numbers of the finest texels. Pictures that are not square are taken by their middle square. */
export function planesOf(
	{ depthMm, handed }: Pick<ImageSurface, "depthMm" | "handed">,
	pictures: Partial<Record<ImageRole, LandPicture>> & { colour: LandPicture },
	texels: number,
): SheetPlanes {
	const { colour, normal, height, roughness, metal } = pictures;
	const constant = (v: number) => new Float32Array(texels * texels).fill(v);
	const linear = (c: number) => squared(colour, texels, (n) => LINEAR_OF_BYTE[colour.values[3 * n + c]]);
	const share = (picture: LandPicture | undefined, otherwise: number) =>
		!picture
			? constant(otherwise)
			: picture.values instanceof Float32Array
				? squared(picture, texels, (n) => picture.values[n])
				: squared(picture, texels, (n) => picture.values[3 * n] / 255);
	const leans = (c: number, sign: number) =>
		normal
			? squared(normal, texels, (n) => {
					const out = Math.max(LEAST_OUT, normal.values[3 * n + 2] / 127.5 - 1);
					// A surface rises against what its normal leans to.
					return (-sign * (normal.values[3 * n + c] / 127.5 - 1)) / out;
				})
			: null;
	return {
		...{ red: linear(0), green: linear(1), blue: linear(2) },
		roughness: share(roughness, ROUGHNESS),
		metal: share(metal, 0),
		height: share(height, 0.5).map((v) => v * depthMm),
		across: leans(0, 1),
		along: leans(1, handed === "up" ? -1 : 1),
	};
}
