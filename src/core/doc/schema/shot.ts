/**
 * The shot document as a whole: what a person intends, never what follows from it. These schemas are the one place of
 * limits. Units: metres, degrees, millimetres for film and lens, EV at ISO 100 for exposure; +Y up, heading in degrees
 * clockwise seen from above with 0 along −Z.
 */
import { z } from "zod";
import { Air } from "./air.ts";
import { Camera, Candidate, Guide } from "./camera.ts";
import { Cover } from "./cover.ts";
import { Delivery, MOST_DELIVERIES } from "./delivery.ts";
import { Finish } from "./finish.ts";
import { Ground, Water } from "./ground.ts";
import { Group, MOST_GROUPS } from "./group.ts";
import { ImageSurface, MOST_IMAGE_SURFACES } from "./imageSurface.ts";
import { Lamp } from "./lamp.ts";
import { Match } from "./match.ts";
import { Move } from "./move.ts";
import { Id, number } from "./numbers.ts";
import { Piece } from "./piece.ts";
import { PrintSettings } from "./print.ts";
import { Clip, Reference, ReferenceMode, Target } from "./reference.ts";
import { MOST_SETS, PieceSet } from "./set.ts";
import { Mask, MOST_MASKS, MOST_STAINS, Stain } from "./stain.ts";
import { Laid } from "./surface.ts";

/** Raised when a document of before cannot be read as it is; `../migrations.ts` leads from each to the next. */
export const DOCUMENT_VERSION = 3;

export const ShotDocument = z.object({
	version: z.literal(DOCUMENT_VERSION),
	title: z.string().trim().min(1).max(120),
	idea: z.string().max(400),
	references: z.array(Reference).max(60),
	clips: z.array(Clip).max(20).optional(),
	shown: z.object({
		reference: Id.nullable(),
		mode: ReferenceMode,
		opacity: number(0, 1),
		/** Share of the frame, from its left edge, in which a wipe shows the reference. */
		wipe: number(0, 1).optional(),
	}),
	match: Match,
	camera: Camera,
	candidates: z.array(Candidate).max(24).optional(),
	/** What carries the picture, and its mood, in words. */
	carries: z.array(z.string().trim().min(1).max(120)).max(3).optional(),
	mood: z.array(z.string().trim().min(1).max(40)).max(12).optional(),
	/** Headings of the pin-up sheet in their order. */
	purposes: z.array(z.string().trim().min(1).max(40)).max(12).optional(),
	target: Target.nullable().optional(),
	guides: z.array(Guide).max(6).optional(),
	/** Where the eye should rest, as shares of the frame from its top-left corner. */
	focalPoint: z
		.tuple([number(0, 1), number(0, 1)])
		.nullable()
		.optional(),
	pieces: z.array(Piece).max(5000),
	groups: z.array(Group).max(MOST_GROUPS).optional(),
	sets: z.array(PieceSet).max(MOST_SETS).optional(),
	ground: Ground,
	/** What lies on all of the ground; it is no part of the land's shape. */
	groundLaid: Laid.nullable().optional(),
	imageSurfaces: z.array(ImageSurface).max(MOST_IMAGE_SURFACES).optional(),
	masks: z.array(Mask).max(MOST_MASKS).optional(),
	/** The lowest first. */
	stains: z.array(Stain).max(MOST_STAINS).optional(),
	water: Water,
	covers: z.array(Cover).max(40),
	lamps: z.array(Lamp).max(2000).default([]),
	air: Air,
	finish: Finish,
	print: PrintSettings,
	/** Formats in which it is handed out. */
	deliveries: z.array(Delivery).max(MOST_DELIVERIES).optional(),
	/** How it goes on from the still; without one it stays that. */
	move: Move.nullable().optional(),
});

export type ShotDocument = z.infer<typeof ShotDocument>;
