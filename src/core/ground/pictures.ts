/**
 * Pictures that tell heights or colours of the land. Like fields (see `field.ts`) they are brought here before heights are asked for,
 * and held by what they are read from.
 */
import { LINEAR_OF_BYTE } from "../colour/linear.ts";
import type { LandPicture, LandPictureAs } from "../formats/landPicture.ts";
import { clamp } from "../maths/functions.ts";
import { landChanged } from "./field.ts";

/** What is read of a file; its name is for messages alone. */
export interface LandRead {
	file: string;
	name: string;
	as: LandPictureAs;
}

/** Bytes of pictures that are held besides those that the newest land needs. */
const MOST_BYTES = 192 * 2 ** 20;

const held = new Map<string, LandPicture>();

export const keyOfRead = ({ file, as }: Pick<LandRead, "file" | "as">): string => `${file} ${as}`;

export const heldPicture = (read: Pick<LandRead, "file" | "as">): LandPicture | null =>
	held.get(keyOfRead(read)) ?? null;

export function holdPicture(read: Pick<LandRead, "file" | "as">, picture: LandPicture): void {
	held.set(keyOfRead(read), picture);
	landChanged();
}

/** Lets pictures go that land with these reads has no need of, the oldest first, where there are too many. */
export function keepPictures(reads: readonly LandRead[]): void {
	const needed = new Set(reads.map(keyOfRead));
	for (const key of needed) {
		const own = held.get(key);
		if (!own) continue;
		held.delete(key);
		held.set(key, own);
	}
	let bytes = 0;
	for (const [key, { values }] of held) if (!needed.has(key)) bytes += values.byteLength;
	for (const [key, { values }] of held) {
		if (bytes <= MOST_BYTES) break;
		if (needed.has(key)) continue;
		held.delete(key);
		bytes -= values.byteLength;
	}
}

/** Weights of a cubic through its points (Keys 1981) at a share of a pixel. */
const keys = (t: number): [number, number, number, number] => [
	0.5 * t * (t * (2 - t) - 1),
	0.5 * (t * t * (3 * t - 5) + 2),
	0.5 * t * (t * (4 - 3 * t) + 1),
	0.5 * t * t * (t - 1),
];

/**
 * Value at shares of a picture from its upper left corner, by a cubic through the middles of its pixels: what has been saved at
 * these is met again, and slopes have no creases.
 */
export function shareIn({ width, height, values }: LandPicture, u: number, v: number): number {
	const [x, y] = [u * width - 0.5, v * height - 0.5];
	const [i, j] = [Math.floor(x), Math.floor(y)];
	const [wx, wy] = [keys(x - i), keys(y - j)];
	let sum = 0;
	for (let b = 0; b < 4; b++) {
		const row = clamp(j + b - 1, 0, height - 1) * width;
		let line = 0;
		for (let a = 0; a < 4; a++) line += wx[a] * values[row + clamp(i + a - 1, 0, width - 1)];
		sum += wy[b] * line;
	}
	return sum;
}

/** Linear colour at shares of a picture of sRGB, evenly between its pixels. */
export function colourOf({ width, height, values }: LandPicture, u: number, v: number): [number, number, number] {
	const [x, y] = [u * width - 0.5, v * height - 0.5];
	const [i, j] = [Math.floor(x), Math.floor(y)];
	const colour: [number, number, number] = [0, 0, 0];
	for (let n = 0; n < 4; n++) {
		const [a, b] = [i + (n & 1), j + (n >> 1)];
		const weight = (n & 1 ? x - i : 1 - x + i) * (n >> 1 ? y - j : 1 - y + j);
		const at = 3 * (clamp(b, 0, height - 1) * width + clamp(a, 0, width - 1));
		for (let c = 0; c < 3; c++) colour[c] += weight * LINEAR_OF_BYTE[values[at + c]];
	}
	return colour;
}
