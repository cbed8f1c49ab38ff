/** Surfaces brought in as pictures. */
import { z } from "zod";
import { LandFile } from "./land.ts";
import { Name, number } from "./numbers.ts";

export const MOST_IMAGE_SURFACES = 40;

/** What a picture tells of a surface; `cut` is how much of it is there at all. */
export const ImageRole = z.enum(["colour", "normal", "height", "roughness", "metal", "cut"]);
export type ImageRole = z.infer<typeof ImageRole>;

/** A picture, and whether it is read as one of grey alone, as heights are, by its colours, or by what of it is seen through. */
export const ImageFile = LandFile.extend({ as: z.enum(["heights", "colours", "cut"]) });
export type ImageFile = z.infer<typeof ImageFile>;

/** Frames of a sequence at most. */
export const MOST_SEQUENCE = 600;

/** Pictures that follow the first one after the other, and then begin again. */
export const ImageSequence = z.object({
	perS: number(0.1, 120),
	frames: z
		.array(z.object({ colour: ImageFile, cut: ImageFile.optional() }))
		.min(1)
		.max(MOST_SEQUENCE),
});
export type ImageSequence = z.infer<typeof ImageSequence>;

/** One that has pictures in place of a recipe. */
export const ImageSurface = z
	.object({
		/** Short enough to be part of the word that it is laid by. */
		id: z.string().regex(/^[A-Za-z0-9_-]{1,20}$/),
		name: Name,
		/** Side of what its pictures show, metres, and from the lowest to the highest of it, millimetres. */
		sideM: number(0.02, 200),
		/** Height of it, metres, where the whole picture stands once; without, its middle square repeats. */
		highM: number(0.02, 200).optional(),
		depthMm: number(0, 2000),
		/** Whether green of its normals leans up the picture or down it. */
		handed: z.enum(["up", "down"]),
		files: z.object({
			/** Without it, what it lies on keeps its own: a picture of heights alone is relief. */
			colour: ImageFile.optional(),
			normal: ImageFile.optional(),
			height: ImageFile.optional(),
			roughness: ImageFile.optional(),
			metal: ImageFile.optional(),
			cut: ImageFile.optional(),
		}),
		sequence: ImageSequence.optional(),
	})
	.refine(
		({ files, highM }) => files.colour || (files.height && highM !== undefined),
		"One of its pictures tells the colour; of what stands once, the height is enough.",
	)
	.refine(
		({ files, highM, sequence }) => !sequence || (files.colour && highM !== undefined),
		"A sequence stands once, and has a colour.",
	);
export type ImageSurface = z.infer<typeof ImageSurface>;
