/** Sun, moon, sky, haze, cloud and fog. */
import { z } from "zod";
import { BlobHash, Colour, degrees, Name, number } from "./numbers.ts";

export const Sun = z.object({ headingDeg: degrees, elevationDeg: number(-18, 90) });

export const Moon = z.object({
	on: z.boolean(),
	headingDeg: degrees,
	elevationDeg: number(-18, 90),
	/** Share of its disc that is lit. */
	lit: number(0.02, 1),
});

/** A picture of all directions around that stands for the sky. */
export const SkyPicture = z.object({
	/** The file as it came: HDR, EXR, or a picture of 8 or 16 bits. */
	file: BlobHash,
	name: Name,
	widthPx: z.int().min(1).max(100_000),
	heightPx: z.int().min(1).max(100_000),
	/** Heading of the picture's middle. */
	turnDeg: degrees,
	/** Light of its upper half on level ground, lux. */
	lux: number(0, 200_000),
	saturation: number(0, 2),
	/** Whether sun or moon stand in it, in place of the picture's own sun. */
	sun: z.boolean(),
});

export const Air = z.object({
	sun: Sun,
	/** It shows and gives light once the sun is down. */
	moon: Moon.optional(),
	/** It takes the place of the computed sky and of the cloud. */
	picture: SkyPicture.nullable().optional(),
	/** Haze of the atmosphere as a multiple of a clear day's aerosol. */
	haze: number(0, 20),
	cloud: z.object({ cover: number(0, 1), seed: z.int().min(0).max(99999) }),
	fog: z.object({
		on: z.boolean(),
		visibilityM: number(5, 500_000),
		/** Height above level zero below which the fog lies (5 % of its density is left there); null fills the air evenly. */
		belowM: number(0.5, 20_000).nullable(),
		/** Mean cosine of scattering: towards 0.95 glows about the sun. */
		forward: number(-0.9, 0.95),
		colour: Colour,
		skyClear: z.boolean(),
	}),
});

export type SkyPicture = z.infer<typeof SkyPicture>;
export type Air = z.infer<typeof Air>;
