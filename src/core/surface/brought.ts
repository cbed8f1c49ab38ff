/** Surfaces brought in as pictures: what their files are called, how they are laid, and what of them a sheet is packed from. */
import { LINEAR_OF_BYTE } from "../colour/linear.ts";
import type { ImageRole, ImageSurface, Laid, LaidOver, LaidWhere, ShotDocument } from "../doc/schema.ts";
import type { LandPicture } from "../formats/landPicture.ts";
import { isSurface } from "./laying.ts";
import { SURFACES } from "./surfaces.ts";
import { WHERES } from "./where/wheres.ts";

type Here = Extract<LaidWhere, { kind: "here" }>;

/** What the word begins with that one is laid by; its id follows. */
const BROUGHT = "picture ";

export const wordOf = ({ id }: Pick<ImageSurface, "id">): string => `${BROUGHT}${id}`;

/** The one that a word names; null where it is none, or is not there any more. */
export const broughtBy = (of: string, { imageSurfaces }: Pick<ShotDocument, "imageSurfaces">): ImageSurface | null =>
	of.startsWith(BROUGHT) ? (imageSurfaces?.find((own) => wordOf(own) === of) ?? null) : null;

/** How a picture that stands once lies in a place, as wide as it was brought in. */
export const laidOnce = (
	own: ImageSurface & { highM: number },
	place: Pick<Here, "at" | "headingDeg" | "pitchDeg">,
): LaidOver => ({
	...laidAsBrought(own),
	share: 1,
	where: [{ ...WHERES.here.usual, ...place, wideM: own.sideM, highM: own.highM, deepM: Math.max(0.2, own.sideM) }],
});

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
	["cut", /opacity|alpha|mask|cut.?out/g],
	["normal", /normals?|nrm|nor(?![a-z])/g],
	["roughness", /rough(ness)?|rgh/g],
	["metal", /metal(lic|ness)?|mtl/g],
	["height", /height|depth|displacement|disp(?![a-z])|bump/g],
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
	/** Of what stands once, how much of it is there. */
	metal: Float32Array;
	/** Millimetres. */
	height: Float32Array;
	/** Rise over run, right and towards, where pictures tell it by themselves. */
	across: Float32Array | null;
	along: Float32Array | null;
}

/** What a surface is where no picture tells it. */
const ROUGHNESS = 0.8;
const MIDDLE = 0.5;
/** Least that a normal looks out of its surface: what leans more is a fault. */
const LEAST_OUT = 0.1;

/** What of a picture a sheet has: from a pixel on, so many across and down; where it ends it begins again, or stays. */
interface Window {
	x0: number;
	y0: number;
	across: number;
	down: number;
	repeats: boolean;
}

/** The middle square of what repeats; the whole of what stands once. */
function windowOf({ width, height }: LandPicture, once: boolean): Window {
	if (once) return { x0: 0, y0: 0, across: width, down: height, repeats: false };
	const side = Math.min(width, height);
	return { x0: (width - side) >> 1, y0: (height - side) >> 1, across: side, down: side, repeats: true };
}

/** Pixels that a texel takes along one side, from the first to before the last; between two pixels where these are coarser. */
function taken(i: number, scale: number): { from: number; to: number; share: number } {
	if (scale > 1)
		return {
			from: Math.floor(i * scale),
			to: Math.max(Math.floor(i * scale) + 1, Math.floor((i + 1) * scale)),
			share: 0,
		};
	const u = (i + 0.5) * scale - 0.5;
	return { from: Math.floor(u), to: Math.floor(u) + 2, share: u - Math.floor(u) };
}

/** One channel of a picture in so many texels a side: means where it is finer, between pixels where it is coarser. */
function squared(
	{ width }: LandPicture,
	{ x0, y0, across, down, repeats }: Window,
	texels: number,
	at: (pixel: number) => number,
): Float32Array<ArrayBuffer> {
	const within = (v: number, most: number) => (repeats ? (v + most) % most : Math.min(most - 1, Math.max(0, v)));
	const [scaleX, scaleY] = [across / texels, down / texels];
	const columns = Array.from({ length: texels }, (_, i) => taken(i, scaleX));
	const out = new Float32Array(texels * texels);
	for (let j = 0; j < texels; j++) {
		const rows = taken(j, scaleY);
		for (let i = 0; i < texels; i++) {
			const { from, to, share } = columns[i];
			let sum = 0;
			let all = 0;
			for (let y = rows.from; y < rows.to; y++) {
				const ky = scaleY > 1 ? 1 : y === rows.from ? 1 - rows.share : rows.share;
				const row = (y0 + within(y, down)) * width + x0;
				for (let x = from; x < to; x++) {
					const k = ky * (scaleX > 1 ? 1 : x === from ? 1 - share : share);
					sum += k * at(row + within(x, across));
					all += k;
				}
			}
			out[j * texels + i] = sum / all;
		}
	}
	return out;
}

/**
 * Fills channels where a picture is cut out with the colour of what of it is near, so that no halving and no edge mixes in what is not
 * there: means by what is there, level by level, and back (Gortler and others 1996, pull and push).
 */
export function fillCut(channels: readonly Float32Array[], cut: Float32Array, size: number): void {
	if (size === 1) return;
	const half = size / 2;
	const there = new Float32Array(half * half);
	for (let j = 0; j < half; j++)
		for (let i = 0; i < half; i++) {
			const n = 2 * j * size + 2 * i;
			there[j * half + i] = cut[n] + cut[n + 1] + cut[n + size] + cut[n + size + 1];
		}
	const means = channels.map((channel) => {
		const mean = new Float32Array(half * half);
		for (let j = 0; j < half; j++)
			for (let i = 0; i < half; i++) {
				const [at, n] = [j * half + i, 2 * j * size + 2 * i];
				if (there[at] === 0) continue;
				const upper = cut[n] * channel[n] + cut[n + 1] * channel[n + 1];
				const lower = cut[n + size] * channel[n + size] + cut[n + size + 1] * channel[n + size + 1];
				mean[at] = (upper + lower) / there[at];
			}
		return mean;
	});
	for (let n = 0; n < there.length; n++) there[n] = Math.min(1, there[n]);
	fillCut(means, there, half);
	for (let j = 0; j < size; j++)
		for (let i = 0; i < size; i++) {
			const n = j * size + i;
			const rest = 1 - cut[n];
			if (rest <= 0) continue;
			const from = (j >> 1) * half + (i >> 1);
			for (let c = 0; c < channels.length; c++) channels[c][n] += rest * (means[c][from] - channels[c][n]);
		}
}

/**
 * Numbers of the finest texels. Pictures that repeat are taken by their middle square. One that stands once is taken whole, and is no metal:
 * how much of it is there stands in the place of that.
 */
export function planesOf(
	{ depthMm, handed, highM }: Pick<ImageSurface, "depthMm" | "handed" | "highM">,
	pictures: Partial<Record<ImageRole, LandPicture>>,
	texels: number,
): SheetPlanes {
	const { colour, normal, height, roughness, metal, cut } = pictures;
	const once = highM !== undefined;
	const constant = (v: number) => new Float32Array(texels * texels).fill(v);
	const read = (picture: LandPicture, at: (pixel: number) => number) =>
		squared(picture, windowOf(picture, once), texels, at);
	const linear = (c: number) =>
		colour ? read(colour, (n) => LINEAR_OF_BYTE[colour.values[3 * n + c]]) : constant(MIDDLE);
	const share = (picture: LandPicture | undefined, otherwise: number) =>
		!picture
			? constant(otherwise)
			: picture.values instanceof Float32Array
				? read(picture, (n) => picture.values[n])
				: read(picture, (n) => picture.values[3 * n] / 255);
	const leans = (c: number, sign: number) =>
		normal
			? read(normal, (n) => {
					const out = Math.max(LEAST_OUT, normal.values[3 * n + 2] / 127.5 - 1);
					// A surface rises against what its normal leans to.
					return (-sign * (normal.values[3 * n + c] / 127.5 - 1)) / out;
				})
			: null;
	const [red, green, blue] = [linear(0), linear(1), linear(2)];
	const there = once ? share(cut, 1) : null;
	if (there && cut) fillCut([red, green, blue], there, texels);
	return {
		...{ red, green, blue },
		roughness: share(roughness, ROUGHNESS),
		metal: there ?? share(metal, 0),
		height: share(height, 0.5).map((v) => v * depthMm),
		across: leans(0, 1),
		along: leans(1, handed === "up" ? -1 : 1),
	};
}
