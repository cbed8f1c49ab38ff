/** Pictures that are looked at: references, clips, and what of them is aimed at. */
import { z } from "zod";
import { BlobHash, Id, inside, Name, number, share } from "./numbers.ts";

/** How a reference is looked at. Its file is never touched. */
export const Look = z.object({
	/** Part that is shown, of the picture once turned and mirrored; null shows all of it. */
	crop: share.refine(inside, "The crop goes beyond the picture.").nullable(),
	/** Quarter turns clockwise, before it is mirrored. */
	turns: z.int().min(0).max(3),
	mirrored: z.boolean(),
	/** Brightness in stops. */
	brightness: number(-3, 3),
	contrast: number(0, 3),
	hueDeg: number(-180, 180),
	saturation: number(0, 3),
	/** Warmer above 0. */
	warmth: number(-1, 1),
	/** Bend that is taken out of the file about its middle, of the division model; none shows it as it came. */
	bend: number(-0.8, 0.45).optional(),
});

/** A stroke or words on a reference, in shares of the picture as shown. */
export const Note = z.discriminatedUnion("kind", [
	z.object({
		id: Id,
		kind: z.literal("stroke"),
		points: z
			.array(z.tuple([number(-1, 2), number(-1, 2)]))
			.min(2)
			.max(600),
	}),
	z.object({
		id: Id,
		kind: z.literal("words"),
		at: z.tuple([number(-1, 2), number(-1, 2)]),
		words: z.string().trim().min(1).max(200),
	}),
]);

export const Reference = z.object({
	id: Id,
	name: Name,
	blob: BlobHash,
	widthPx: z.int().min(1).max(100_000),
	heightPx: z.int().min(1).max(100_000),
	caption: z.string().max(300).optional(),
	/** Heading of the pin-up sheet under which it hangs. */
	purpose: z.string().trim().min(1).max(40).optional(),
	look: Look.optional(),
	notes: z.array(Note).max(200).optional(),
	/** Clip that it was pulled from, and the second of it. */
	clip: z.object({ blob: BlobHash, atS: number(0, 1e5) }).optional(),
});

/** A moving picture that stills are pulled from. */
export const Clip = z.object({
	id: Id,
	name: Name,
	blob: BlobHash,
	widthPx: z.int().min(1).max(16_384),
	heightPx: z.int().min(1).max(16_384),
	seconds: number(0, 1e5),
});

export const ReferenceMode = z.enum(["off", "over", "beside", "wipe"]);

/** Colours and values of a reference that the frame is held against. */
export const Target = z.object({
	reference: Id,
	colours: z
		.array(z.object({ colour: z.tuple([number(0, 1), number(0, 1), number(0, 1)]), share: number(0, 1) }))
		.min(1)
		.max(8),
	/** Steps of value from dark to light: L* and share of the picture. */
	values: z
		.array(z.object({ lightness: number(0, 100), share: number(0, 1) }))
		.min(1)
		.max(7),
});

export type Reference = z.infer<typeof Reference>;
export type Clip = z.infer<typeof Clip>;
export type Look = z.infer<typeof Look>;
export type Note = z.infer<typeof Note>;
export type Target = z.infer<typeof Target>;
