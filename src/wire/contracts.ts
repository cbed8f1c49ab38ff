/** What the page and the server say to each other. */
import { z } from "zod";
import { bendSteps, COPY_WIDTHS } from "../core/brief/copies.ts";
import { BlobHash, Id, KeyTime, PrintSettings, type Reference, ShotDocument } from "../core/doc/schema.ts";
import type { LandPictureAs, LandPictureFacts } from "../core/formats/landPicture.ts";

export const NewShotBody = z.object({ title: ShotDocument.shape.title });
export const EditBody = z.object({ clientId: z.uuid(), sequence: z.int().min(0), edit: z.unknown() });
export const HeadBody = z.object({
	clientId: z.uuid(),
	sequence: z.int().min(0),
	move: z.union([z.enum(["undo", "redo"]), z.object({ open: z.int().min(0) })]),
});
export const CheckpointBody = z.object({ name: z.string().trim().min(1).max(80), thumbnail: BlobHash.nullable() });
export const LeftBody = z.object({ revision: z.int().min(1), thumbnail: BlobHash });
export const PauseBody = z.object({ paused: z.boolean() });
/** An order; `timeS` is the moment of the move that a still shows, `delivery` which of the shot's deliveries it is. */
export const PrintBody = PrintSettings.extend({ timeS: KeyTime.nullable().optional(), delivery: Id.optional() });

export interface ErrorBody {
	error: { code: string; message: string; state?: unknown };
}

/** What an event stream carries: something changed; ids only. */
export const StreamEvent = z.object({
	kind: z.enum(["shot", "print", "work", "gap"]),
	id: z.string(),
	sequence: z.number().optional(),
});
export type StreamEvent = z.infer<typeof StreamEvent>;

export interface KeptPicture {
	blob: string;
	widthPx: number;
	heightPx: number;
}

export interface KeptSky {
	file: string;
	widthPx: number;
	heightPx: number;
	/** Values that were no numbers, infinite or below zero, and have been set right. */
	mended: number;
}

export type KeptLandPicture = LandPictureFacts & { file: string };

/** What a picture of land is read as. */
export const LandPictureAsWord = z.enum(["heights", "smoothed", "colours", "cut"]) satisfies z.ZodType<LandPictureAs>;

/** Address of what is read of a picture of land. */
export const landPictureAddress = ({ file, as }: { file: string; as: LandPictureAs }): string =>
	`/api/land/${file}?as=${as}`;

/** The cookie that names the shot that was open last. */
export const LAST_SHOT = "inquadra-last-shot";

/** Largest file that may be brought in. */
export const MOST_BYTES = 200 * 1024 * 1024;

/** Address of the smallest copy of a picture that is at least so wide, without the bend of its lens. */
export const copyAddress = ({ blob, look }: Pick<Reference, "blob" | "look">, widthPx: number): string =>
	`/api/copies/${blob}?width=${COPY_WIDTHS.find((w) => w >= widthPx) ?? COPY_WIDTHS[COPY_WIDTHS.length - 1]}${look?.bend ? `&bend=${bendSteps(look.bend)}` : ""}`;
