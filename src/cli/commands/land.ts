import { z } from "zod";
import { CHANNELS } from "../../core/formats/greyPng.ts";
import { landSquare, MASKS } from "../../core/ground/landSquare.ts";
import { MOST_MESH_SIDE } from "../../core/out/landFiles.ts";
import { Compiler } from "../../store/inputs.ts";
import { writeHeights, writeMask, writeMesh, writePacked } from "../../store/landFiles.ts";
import { findShot } from "../../store/shots.ts";
import { type Command, checked, Refusal } from "../command.ts";

const Flags = z.object({
	size: z.coerce.number("is asked for: pixels of a side").int().min(2).max(8192),
	metres: z.coerce.number("is asked for: metres of a side").min(0.1).max(200_000),
	at: z
		.string()
		.regex(/^-?[\d.]+,-?[\d.]+$/, "two numbers are asked for, as 12,-40")
		.transform((v) => v.split(",").map(Number))
		.optional(),
	heights: z
		.string()
		.regex(/\.(exr|png)$/, "the name of an .exr or a .png is asked for")
		.optional(),
	mesh: z
		.string()
		.regex(/\.obj$/, "the name of an .obj is asked for")
		.optional(),
	mask: z.array(z.string()).optional(),
});

/** Masks by their files, of words as slope=FILE.png, or slope,flow=FILE.png for several in the channels of one. */
function masksOf(asked: readonly string[]): [name: string, path: string][] {
	return asked.map((word) => {
		const [name, path = ""] = word.split("=");
		const together = name.split(",");
		for (const one of together)
			if (!Object.hasOwn(MASKS, one))
				throw new Refusal("bad-input", `land: there is no mask "${one}"; there are ${Object.keys(MASKS).join(", ")}.`);
		if (together.length > CHANNELS.length)
			throw new Refusal("bad-input", `land: a picture has ${CHANNELS.length} channels, and ${name} are more.`);
		if (!path.endsWith(".png"))
			throw new Refusal("bad-input", `land: the mask ${name} goes to a .png, as ${name}=FILE.png.`);
		return [name, path];
	});
}

/** A square of the land of a shot, for other programs. */
export const land: Command = {
	args: ["SHOT"],
	flags:
		"--size N --metres M [--at X,Z] [--heights FILE.exr|FILE.png] [--mask NAME[,NAME…]=FILE.png]… (height, slope, hollow, flow, wear, laid, path, wet) [--mesh FILE.obj]",
	run: async ({ args: [name], flags, pool }) => {
		const { size, metres, at, heights, mesh, mask = [] } = checked(Flags, flags, "land");
		const masks = masksOf(mask);
		if (mesh && size > MOST_MESH_SIDE)
			throw new Refusal(
				"too-much",
				`land: a mesh has at most ${MOST_MESH_SIDE} × ${MOST_MESH_SIDE} vertices; heights go farther.`,
			);
		const { document } = await findShot(pool, name);
		const { ground, water, camera } = document;
		const [x, z] = at ?? [camera.position[0], camera.position[2]];
		await new Compiler(pool).settle(ground);
		const square = landSquare(ground, { x, z, metres, size });
		if (heights) await writeHeights(heights, square);
		for (const [kind, path] of masks) {
			const own = kind.split(",").map((one) => MASKS[one](square, ground, water));
			if (own.length > 1) writePacked(path, own, square);
			else await writeMask(path, own[0], square);
		}
		if (mesh) writeMesh(mesh, square);
		const { leastM, mostM, metresPerPixel } = square;
		return {
			leastM,
			mostM,
			metresPerPixel,
			at: { x, z },
			metres,
			size,
			heights,
			masks: Object.fromEntries(masks),
			mesh,
		};
	},
};
