/** What all entries of the land's ledger have. */
import { z } from "zod";
import { BlobHash, Id, metres, Name, number } from "./numbers.ts";

/** Presets of the ground, one line each; what they are stands in `core/ground/presets`. */
export const GroundPreset = z.enum([
	"salt flat", //
	"plain",
	"moor",
	"dunes",
	"river valley",
	"terraces",
	"ridges",
	"cliffs",
	"canyon",
	"quarry",
	"coast",
	"islands",
]);
export type GroundPreset = z.infer<typeof GroundPreset>;

/** How other land is laid on what lay there before: in its place, on top of it, or where it is the higher of the two. */
export const Laying = z.enum(["instead", "over", "higher"]);
export type Laying = z.infer<typeof Laying>;

/** A picture that tells something of the land; `bits` are those of a value of it. */
export const LandFile = z.object({
	file: BlobHash,
	name: Name,
	widthPx: z.int().min(2).max(16_384),
	heightPx: z.int().min(2).max(16_384),
	bits: z.int().min(1).max(32),
});
export type LandFile = z.infer<typeof LandFile>;

/** Lines of a sentence at most, and places of one. */
export const MOST_LINES = 40;
export const MOST_LINE_POINTS = 200;

/** Where an entry holds: `not` turns the sentence round. */
export const LandWhere = z.discriminatedUnion("kind", [
	z.object({
		kind: z.literal("between heights"),
		not: z.boolean(),
		fromM: number(-1000, 4000),
		toM: number(-1000, 4000),
		featherM: number(0, 500),
	}),
	z.object({
		kind: z.literal("near a place"),
		not: z.boolean(),
		x: metres,
		z: metres,
		radiusM: number(0.5, 50_000),
		featherM: number(0, 20_000),
	}),
	z.object({
		kind: z.literal("on slopes"),
		not: z.boolean(),
		fromDeg: number(0, 90),
		toDeg: number(0, 90),
		featherDeg: number(0, 90),
		/** Slopes over less than this do not count, metres. */
		overM: number(0.05, 500),
	}),
	z.object({
		kind: z.literal("beside paths"),
		not: z.boolean(),
		fromM: number(0, 200),
		toM: number(0, 200),
		featherM: number(0, 200),
	}),
	z.object({
		kind: z.literal("along lines"),
		not: z.boolean(),
		/** Lines through places, right and towards. */
		lines: z
			.array(
				z
					.array(z.tuple([metres, metres]))
					.min(1)
					.max(MOST_LINE_POINTS),
			)
			.min(1)
			.max(MOST_LINES),
		radiusM: number(0.1, 20_000),
		featherM: number(0, 20_000),
	}),
	z.object({
		kind: z.literal("in patches"),
		not: z.boolean(),
		sizeM: number(1, 10_000),
		share: number(0.02, 1),
		seed: z.int().min(0).max(99999),
	}),
]);

export type LandWhere = z.infer<typeof LandWhere>;

export const MOST_WHERES = 6;

/** The schema of an entry: what it is called, what all have, and its own numbers. */
export const entry = <K extends string, F extends z.ZodRawShape>(kind: K, fields: F) =>
	z.object({
		kind: z.literal(kind),
		id: Id,
		/** Struck through: it did not happen. */
		out: z.boolean(),
		where: z.array(LandWhere).max(MOST_WHERES),
		...fields,
	});

/** What entries have that wear the land within a place, in a square of 2 to the power of `fineness` cells a side about it. */
export const worn = {
	x: metres,
	z: metres,
	radiusM: number(5, 20_000),
	featherM: number(1, 10_000),
	fineness: z.int().min(6).max(11),
};

export const seed = z.int().min(0).max(99999);
