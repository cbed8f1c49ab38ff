import { writeFileSync } from "node:fs";
import { z } from "zod";
import { SHEET_FILES, sheetExr } from "../../core/out/sheetFiles.ts";
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

/** All surfaces. */
export const surfaces: Command = {
	args: [],
	alone: true,
	run: () => SURFACE_KINDS.map((kind) => ({ kind, ...told(kind) })),
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
