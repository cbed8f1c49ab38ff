/** The camera, and those that are kept to be compared with it. */
import { z } from "zod";
import { BlobHash, degrees, Id, Name, number, Position } from "./numbers.ts";

export const FilmBack = z.object({ widthMm: number(4, 100), heightMm: number(3, 100) });

export const Camera = z.object({
	locked: z.boolean(),
	position: Position,
	headingDeg: degrees,
	pitchDeg: number(-89, 89),
	rollDeg: number(-180, 180),
	film: FilmBack,
	/** Width over height of the frame; a ratio other than the film's crops it and never changes the lens. */
	ratio: number(0.2, 5),
	focalMm: number(4, 1200),
	/** The film's middle off the lens's axis, in millimetres of the picture's right and up: what a shift lens does, or a crop. */
	shiftMm: z.tuple([number(-200, 200), number(-200, 200)]).optional(),
	fStop: number(0.7, 64),
	/** Distance of focus; null focuses at the hyperfocal distance. */
	focusM: number(0.05, 1e5).nullable(),
	/** Piece that the focus follows, whatever `focusM` says; while it is gone that counts again. */
	focusOn: Id.optional(),
	ev100: number(-10, 22),
	/** What the exposure is made of beside the f-stop; `ev100` follows from it, or is held whatever it says. */
	exposure: z
		.object({
			shutterS: number(1e-5, 3600),
			iso: number(1, 1e6),
			compensationEv: number(-8, 8),
			follows: z.boolean(),
		})
		.optional(),
});

/** A camera that is kept to be compared with others. */
export const Candidate = z.object({
	id: Id,
	name: Name,
	thumbnail: BlobHash.nullable(),
	camera: Camera.pick({
		position: true,
		headingDeg: true,
		pitchDeg: true,
		rollDeg: true,
		film: true,
		ratio: true,
		focalMm: true,
		shiftMm: true,
	}),
});

export const Guide = z.enum(["thirds", "golden ratio", "diagonals", "centre", "safe areas", "horizon"]);

export type Camera = z.infer<typeof Camera>;
export type Candidate = z.infer<typeof Candidate>;
export type Guide = z.infer<typeof Guide>;
