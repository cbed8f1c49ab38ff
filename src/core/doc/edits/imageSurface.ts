/** Surfaces brought in as pictures. */
import { z } from "zod";
import { filesOfImageSurface } from "../files.ts";
import * as S from "../schema.ts";
import { define, find, put } from "./define.ts";

export const imageSurfaceEdits = {
	"imageSurface.set": define(
		"surface of pictures",
		z.object({ surface: S.ImageSurface }),
		(d, { surface }) => {
			d.imageSurfaces = put(d.imageSurfaces, surface, S.MOST_IMAGE_SURFACES);
		},
		({ surface }) => filesOfImageSurface(surface),
	),
	"imageSurface.remove": define("take out a surface of pictures", z.object({ id: z.string() }), (d, { id }) => {
		find(d.imageSurfaces ?? [], id, "surface of pictures");
		d.imageSurfaces = d.imageSurfaces?.filter((own) => own.id !== id);
		if (!d.imageSurfaces?.length) delete d.imageSurfaces;
	}),
};
