/** A square of the land as files, all of them together in one. */
import { strToU8, zipSync } from "fflate";
import type { Ground, Water } from "../doc/schema.ts";
import { writeExr } from "../formats/exrWrite.ts";
import { CHANNELS, greyPng, packedPng } from "../formats/greyPng.ts";
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

/** Masks by the words for them. */
const MASK_OF = new Map(Object.entries(MASK_WORDS).map(([mask, word]) => [word, mask]));

/** Which of the words' masks go into which picture together, four to one, by the picture's name; those that are left alone do not. */
export function packedBy(words: readonly string[]): ReadonlyMap<string, readonly string[]> {
	const masks = words.flatMap((word) => MASK_OF.get(word) ?? []);
	const packed = new Map<string, readonly string[]>();
	for (let from = 0; from < masks.length; from += CHANNELS.length) {
		const together = masks.slice(from, from + CHANNELS.length);
		if (together.length > 1) packed.set(`${together.join(", ")}.png`, together);
	}
	return packed;
}

/** Share of the work that heights are; files are the rest. */
const HEIGHTS = 0.7;

/** Tells now and then how far it is; its outcome is a zip of all files that are asked for, and of what they are counted in. */
export function* landZip(
	ground: Ground,
	water: Water,
	of: SquareOf,
	words: readonly string[],
	packed = false,
): Generator<number, Uint8Array> {
	if (words.includes("triangles") && of.size > MOST_MESH_SIDE)
		throw new Error(`A mesh has at most ${MOST_MESH_SIDE} × ${MOST_MESH_SIDE} corners; heights go farther.`);
	const steps = landSteps(ground, of);
	let step = steps.next();
	for (; !step.done; step = steps.next()) yield HEIGHTS * step.value;
	const square = step.value;
	const { leastM, mostM, metresPerPixel, x, z, metres, size } = square;
	const together = packed ? packedBy(words) : new Map<string, readonly string[]>();
	const inside = new Set([...together.values()].flat().map((mask) => MASK_WORDS[mask]));
	const channels = [...together].map(([name, masks]) => [
		name,
		Object.fromEntries(masks.map((mask, c) => [CHANNELS[c], mask])),
	]);
	const told = {
		...{ leastM, mostM, metresPerPixel, at: { x, z }, metres, size },
		...(channels.length && { packed: Object.fromEntries(channels) }),
	};
	const files: Record<string, Uint8Array> = { "land.json": strToU8(`${JSON.stringify(told, null, "\t")}\n`) };
	const makers = new Map<string, () => Uint8Array>();
	for (const word of words.filter((w) => !inside.has(w)))
		makers.set(LAND_FILES[word].name, () => LAND_FILES[word].made(square, ground, water));
	for (const [name, masks] of together)
		makers.set(name, () =>
			packedPng(
				masks.map((mask) => MASKS[mask](square, ground, water)),
				size,
				size,
			),
		);
	let made = 0;
	for (const [name, file] of makers) {
		files[name] = file();
		yield HEIGHTS + ((1 - HEIGHTS) * ++made) / makers.size;
	}
	// What is packed already is not packed again.
	return zipSync(files, { level: 1 });
}
