/** A square of the land as files, all of them together in one. */
import { strToU8, zipSync } from "fflate";
import type { Ground, Water } from "../doc/schema.ts";
import { writeExr } from "../formats/exrWrite.ts";
import { greyPng } from "../formats/greyPng.ts";
import { type LandSquare, landSteps, MASK_WORDS, MASKS, type SquareOf, squareObj } from "../ground/landSquare.ts";

/** What heights are counted in, and where they lie, as words that go into their files: by these they come back to their place. */
export const heightsText = ({ leastM, mostM, metresPerPixel, x, z }: LandSquare): Record<string, string> => ({
	unit: "metres",
	leastM: String(leastM),
	mostM: String(mostM),
	metresPerPixel: String(metresPerPixel),
	x: String(x),
	z: String(z),
});

/** Heights in metres as 32-bit floats. */
export const heightsExr = (square: LandSquare): Uint8Array =>
	writeExr({
		width: square.size,
		height: square.size,
		channels: [{ name: "Y", data: square.heights }],
		text: heightsText(square),
	});

/** Triangles of a square at most: pixels of its side. */
export const MOST_MESH_SIDE = 2048;

type File = (square: LandSquare, ground: Ground, water: Water) => Uint8Array;

/** Files that a square may be taken as, by the words for them, and their names. */
export const LAND_FILES: Record<string, { name: string; made: File }> = {
	heights: { name: "heights.exr", made: heightsExr },
	triangles: { name: "land.obj", made: (square) => strToU8([...squareObj(square)].join("")) },
	...Object.fromEntries(
		Object.entries(MASKS).map(([word, mask]) => [
			MASK_WORDS[word],
			{
				name: `${word}.png`,
				made: (square: LandSquare, ground: Ground, water: Water) =>
					greyPng(
						mask(square, ground, water),
						square.size,
						square.size,
						word === "height" ? heightsText(square) : undefined,
					),
			},
		]),
	),
};

/** Share of the work that heights are; files are the rest. */
const HEIGHTS = 0.7;

/** Tells now and then how far it is; its outcome is a zip of all files that are asked for, and of what they are counted in. */
export function* landZip(
	ground: Ground,
	water: Water,
	of: SquareOf,
	words: readonly string[],
): Generator<number, Uint8Array> {
	if (words.includes("triangles") && of.size > MOST_MESH_SIDE)
		throw new Error(`A mesh has at most ${MOST_MESH_SIDE} × ${MOST_MESH_SIDE} corners; heights go farther.`);
	const steps = landSteps(ground, of);
	let step = steps.next();
	for (; !step.done; step = steps.next()) yield HEIGHTS * step.value;
	const square = step.value;
	const { leastM, mostM, metresPerPixel, x, z, metres, size } = square;
	const told = { leastM, mostM, metresPerPixel, at: { x, z }, metres, size };
	const files: Record<string, Uint8Array> = { "land.json": strToU8(`${JSON.stringify(told, null, "\t")}\n`) };
	for (const [i, word] of words.entries()) {
		const { name, made } = LAND_FILES[word];
		files[name] = made(square, ground, water);
		yield HEIGHTS + ((1 - HEIGHTS) * (i + 1)) / words.length;
	}
	// What is packed already is not packed again.
	return zipSync(files, { level: 1 });
}
