import { readFileSync, writeFileSync } from "node:fs";
import { decode } from "fast-png";
import { z } from "zod";
import { decodeSrgb } from "../../core/colour/linear.ts";
import { SHEET_FILES, sheetExr } from "../../core/out/sheetFiles.ts";
import type { Rgb } from "../../core/surface/field.ts";
import { foundBy } from "../../core/surface/finding.ts";
import { likest, looksOf } from "../../core/surface/likeness.ts";
import { LEAST_TEXELS, MOST_TEXELS } from "../../core/surface/sheet.ts";
import { SURFACE_KINDS, SURFACES, type SurfaceKind } from "../../core/surface/surfaces.ts";
import { bakedSheet } from "../../store/sheets.ts";
import { type Command, checked, Refusal } from "../command.ts";

const png = z
	.string()
	.regex(/\.png$/, "the name of a .png is asked for")
	.optional();

const Flags = z.object({
	size: z.coerce
		.number()
		.int()
		.min(LEAST_TEXELS)
		.max(MOST_TEXELS)
		.refine((n) => Number.isInteger(Math.log2(n)), "a power of two is asked for")
		.default(1024),
	seed: z.coerce.number().int().min(0).max(99_999).default(1),
	colour: png,
	height: z
		.string()
		.regex(/\.(exr|png)$/, "the name of an .exr or a .png is asked for")
		.optional(),
	normal: png,
	roughness: png,
	metal: png,
});

const LikeFlags = z.object({ like: png, find: z.string().max(60).default("") });

/** Linear colours of a PNG's pixels; what is fourth there is no colour. Throws in words. */
function pixelsOf(path: string): { pixels: Rgb[]; width: number } {
	try {
		const { data, width, height, channels, depth } = decode(readFileSync(path));
		const most = 2 ** depth - 1;
		const at = (n: number, c: number) => decodeSrgb(data[n * channels + (channels < 3 ? 0 : c)] / most);
		const pixels = Array.from({ length: width * height }, (_, n): Rgb => [at(n, 0), at(n, 1), at(n, 2)]);
		return { pixels, width };
	} catch (error) {
		throw new Refusal("bad-input", `surfaces: ${path} cannot be read as a PNG: ${(error as Error).message}`);
	}
}

/** All surfaces, or those that words find; in the order in which they look like a picture, where one is given. */
export const surfaces: Command = {
	args: [],
	flags: "[--find WORDS] [--like FILE.png]",
	alone: true,
	run: ({ flags }) => {
		const { like, find } = checked(LikeFlags, flags, "surfaces");
		const kinds = foundBy(find);
		if (!like) return kinds.map((kind) => ({ kind, ...told(kind) }));
		const { pixels, width } = pixelsOf(like);
		return likest(kinds, looksOf(pixels, width)).map(({ kind, far }) => ({
			kind,
			...told(kind),
			apart: Number(far.toFixed(2)),
		}));
	},
};

const told = (kind: SurfaceKind) => {
	const { name, family, sideM } = SURFACES[kind];
	return { name, family, metresAcross: sideM };
};

/** A surface as pictures that repeat, for other programs. */
export const surface: Command = {
	args: ["KIND"],
	flags:
		"[--size N] [--seed N] [--colour FILE.png] [--height FILE.png|FILE.exr] [--normal FILE.png] [--roughness FILE.png] [--metal FILE.png]",
	alone: true,
	run: async ({ args: [kind], flags }) => {
		if (!Object.hasOwn(SURFACES, kind))
			throw new Refusal("bad-input", `surface: there is no "${kind}"; there are ${SURFACE_KINDS.join(", ")}.`);
		const { size, seed, ...files } = checked(Flags, flags, "surface");
		const sheet = await bakedSheet({ of: kind as SurfaceKind, seed, texels: size });
		for (const [what, path] of Object.entries(files))
			if (path)
				writeFileSync(
					path,
					path.endsWith(".exr") ? sheetExr(sheet) : SHEET_FILES[what as keyof typeof SHEET_FILES](sheet),
				);
		const { leastMm, mostMm } = sheet;
		return { kind, ...told(kind as SurfaceKind), size, seed, leastMm, mostMm, ...files };
	},
};
