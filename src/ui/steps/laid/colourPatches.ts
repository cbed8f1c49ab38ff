/** Patches of the frame and of a reference, read for their colours. */
import { LINEAR_OF_BYTE } from "../../../core/colour/linear.ts";
import { shownSize } from "../../../core/doc/look.ts";
import type { Reference } from "../../../core/doc/schema.ts";
import { frameOfView, straightPlace } from "../../../core/lens/camera.ts";
import type { Vec3 } from "../../../core/maths/vec.ts";
import { referencePixels } from "../../reference/pixels.ts";
import type { ProofState } from "../../stage/messages.ts";
import { shownDocument } from "../../store/shotStore.ts";

/** Half the side of a patch, as a share of the frame's width. */
export const PATCH = 0.009;

type Place = readonly [x: number, y: number];

/** Mean of what `at` tells of the pixels about a place, which is given in pixels; null outside. */
function mean(
	[x, y]: Place,
	half: number,
	width: number,
	height: number,
	at: (i: number) => readonly number[],
): Vec3 | null {
	const sum = [0, 0, 0];
	let n = 0;
	for (let j = Math.max(0, Math.floor(y - half)); j <= Math.min(height - 1, y + half); j++)
		for (let i = Math.max(0, Math.floor(x - half)); i <= Math.min(width - 1, x + half); i++) {
			at(j * width + i).forEach((v, c) => {
				sum[c] += v;
			});
			n++;
		}
	return n === 0 ? null : [sum[0] / n, sum[1] / n, sum[2] / n];
}

/** Light of a patch of the frame, cd/m²; null before a proof shows it. */
export function lightOf(proof: ProofState | null, place: Place): Vec3 | null {
	if (!proof?.pixels) return null;
	const { pixels, part, width, height } = proof;
	const { camera } = shownDocument();
	const straight = straightPlace(frameOfView(camera), ...place);
	const x = ((straight.x - part.x) / part.width) * width - 0.5;
	const y = ((straight.y - part.y) / part.height) * height - 0.5;
	const half = (PATCH / part.width) * width;
	return mean([x, y], half, width, height, (i) => pixels.subarray(4 * i, 4 * i + 3) as unknown as number[]);
}

const read = new Map<string, Promise<ImageData>>();

/** The pixels of a reference, and where a place of a frame of a ratio lies in them when it lies over that; pixels in a frame's width. */
async function under(reference: Reference, place: Place, ratio: number) {
	const key = JSON.stringify([reference.blob, reference.look]);
	if (read.size > 8) read.clear();
	const coming = read.get(key) ?? referencePixels(reference);
	read.set(key, coming);
	const image = await coming.catch((error) => {
		read.delete(key);
		throw error;
	});
	// As wide as the frame, or as high: whichever it fills first.
	const size = shownSize(reference);
	const own = size.width / size.height;
	const [w, h] = own > ratio ? [1, ratio / own] : [own / ratio, 1];
	const at: Place = [
		((place[0] - (1 - w) / 2) / w) * image.width - 0.5,
		((place[1] - (1 - h) / 2) / h) * image.height - 0.5,
	];
	return { image, at, frame: image.width / w };
}

const linear = ({ data }: ImageData, i: number) => [0, 1, 2].map((c) => LINEAR_OF_BYTE[data[4 * i + c]]);

/** Colour of a patch of a reference where it lies over a frame of a ratio: linear; null beside it. */
export async function colourOf(reference: Reference, place: Place, ratio: number): Promise<Vec3 | null> {
	const { image, at, frame } = await under(reference, place, ratio);
	return mean(at, PATCH * frame, image.width, image.height, (i) => linear(image, i));
}

/** Half the side of a patch whose grain is looked at, as a share of the frame's width. */
export const GRAIN_PATCH = 0.04;

/** Pixels of a larger patch of it, linear, row by row; null where less than a few of them lie on it. */
export async function patchOf(
	reference: Reference,
	place: Place,
	ratio: number,
): Promise<{ colours: Vec3[]; width: number } | null> {
	const { image, at, frame } = await under(reference, place, ratio);
	const half = GRAIN_PATCH * frame;
	const span = (middle: number, most: number): [number, number] => [
		Math.max(0, Math.round(middle - half)),
		Math.min(most, Math.round(middle + half)),
	];
	const [x0, x1] = span(at[0], image.width);
	const [y0, y1] = span(at[1], image.height);
	if (x1 - x0 < 8 || y1 - y0 < 8) return null;
	const colours: Vec3[] = [];
	for (let y = y0; y < y1; y++)
		for (let x = x0; x < x1; x++) colours.push(linear(image, y * image.width + x) as unknown as Vec3);
	return { colours, width: x1 - x0 };
}
