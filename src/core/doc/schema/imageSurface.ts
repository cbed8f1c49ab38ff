/** Surfaces brought in as pictures. */
import { z } from "zod";
import { LandFile } from "./land.ts";
import { Name, number } from "./numbers.ts";

export const MOST_IMAGE_SURFACES = 40;

/** What a picture tells of a surface. */
export const ImageRole = z.enum(["colour", "normal", "height", "roughness", "metal"]);
export type ImageRole = z.infer<typeof ImageRole>;

/** A picture, and whether it is read as one of grey alone, as heights are, or by its colours. */
export const ImageFile = LandFile.extend({ as: z.enum(["heights", "colours"]) });
export type ImageFile = z.infer<typeof ImageFile>;

/** One that has pictures in place of a recipe. */
export const ImageSurface = z.object({
	/** Short enough to be part of the word that it is laid by. */
	id: z.string().regex(/^[A-Za-z0-9_-]{1,20}$/),
	name: Name,
	/** Side of what its pictures show, metres, and from the lowest to the highest of it, millimetres. */
	sideM: number(0.02, 200),
	depthMm: number(0, 2000),
	/** Whether green of its normals leans up the picture or down it. */
	handed: z.enum(["up", "down"]),
	files: z.object({
		colour: ImageFile,
		normal: ImageFile.optional(),
		height: ImageFile.optional(),
		roughness: ImageFile.optional(),
		metal: ImageFile.optional(),
	}),
});
export type ImageSurface = z.infer<typeof ImageSurface>;
