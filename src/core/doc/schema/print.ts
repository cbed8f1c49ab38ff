/** How a print is made. */
import { z } from "zod";
import { inside, number, share } from "./numbers.ts";

/** Part of the frame, as shares of it from the top-left corner. */
export const FramePart = share.refine(inside, "The part of the frame goes beyond it.");

/** How a print's samples are given out: all pixels as many, or more where the noise is. */
export const SPREADS = ["even", "noise"] as const;
export type Spread = (typeof SPREADS)[number];

export const PrintSettings = z.object({
	widthPx: z.int().min(16).max(16_384),
	samples: z
		.int()
		.min(4)
		.max(65_536)
		.refine((n) => n % 16 === 0 || n === 4 || n === 8, "Samples are 4, 8, 16 or a multiple of 16."),
	seed: z.int().min(0).max(99999),
	/** Relative standard error in percent at which a tile takes no more samples; null or nothing takes all of them. */
	noisePercent: z.number().min(0.1).max(50).nullable().optional(),
	/** Where samples go when all of them are taken: everywhere alike, or where the noise is. */
	spread: z.enum(SPREADS).optional(),
	/** Each light, fog and openness as layers of their own. */
	layers: z.boolean().optional(),
	/** Frames of the move that are printed, as "0-95", "0-95:4" or "3, 17"; null or nothing prints the still. */
	frames: z.string().max(400).nullable().optional(),
	/** All frames have the same noise, for those who take it out by themselves. */
	steadyNoise: z.boolean().optional(),
	/** What is traced and kept beyond the frame on each side, as a share of its width and height. */
	overscan: number(0, 0.25).optional(),
	/** Null or nothing prints all of the frame. */
	part: FramePart.nullable().optional(),
});

export type FramePart = z.infer<typeof FramePart>;
export type PrintSettings = z.infer<typeof PrintSettings>;
