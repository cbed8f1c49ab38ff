/** Pieces: bodies that stand in the place. */
import { z } from "zod";
import { SCHEMAS } from "../../shape/schemas.ts";
import { Act } from "./act.ts";
import { type Measure, measuresIn } from "./measure.ts";
import { degrees, Id, Name, number, Position } from "./numbers.ts";
import { Repeat } from "./repeat.ts";
import { Surface } from "./surface.ts";

type AnyShape = (typeof SCHEMAS)[keyof typeof SCHEMAS];

/** What a piece's body is: its kind and its own measures. Kinds are listed in `core/shape/schemas.ts`. */
export const Shape = z.discriminatedUnion("kind", Object.values(SCHEMAS) as [AnyShape, ...AnyShape[]]);
export type Shape = z.infer<typeof Shape>;
export type ShapeKind = Shape["kind"];

/** The kinds of shapes, in the order in which they are offered. */
export const SHAPE_KINDS = Object.keys(SCHEMAS) as ShapeKind[];

/** The measures of a kind's own, by their fields. */
export const measuresOf = (kind: ShapeKind): [field: string, measure: Measure][] => measuresIn(SCHEMAS[kind]);

/** How the ground meets what stands on it. */
export const Bank = z.object({
	/** Metres that it rises at the body, and over how many it falls off. */
	riseM: number(0, 5),
	widthM: number(0.05, 8),
	/** Metres over the ground within which its surface lies on the body; 0 for none. */
	blendM: number(0, 8),
});
export type Bank = z.infer<typeof Bank>;

export const Piece = z.object({
	id: Id,
	name: Name,
	shape: Shape,
	/** Foot of the piece: right, up, towards. `up` counts from what it stands on. */
	position: Position,
	/** The ground below it, level zero, or another piece: the highest of it over the foot. */
	stands: z.union([z.enum(["ground", "level"]), z.object({ on: Id })]),
	/**
	 * How it is turned about its foot: first its heading, clockwise seen from above; then its pitch about its own width,
	 * which lifts its away side; then its roll about its own depth, which lowers its right side.
	 */
	headingDeg: degrees,
	pitchDeg: number(-180, 180),
	rollDeg: number(-180, 180),
	/** Leaned, it rests with its lowest place on what it stands on; without, it is turned about its foot and may sink in. */
	rests: z.boolean().optional(),
	/** Width, height, depth in metres. */
	size: z.tuple([number(0.001, 1e5), number(0.001, 1e5), number(0.001, 1e5)]),
	/** Which of its width, height and depth a mirror turns round. */
	mirrored: z.tuple([z.boolean(), z.boolean(), z.boolean()]).optional(),
	surface: Surface,
	hidden: z.boolean(),
	/** It can be neither moved nor picked in the picture. */
	held: z.boolean().optional(),
	repeat: Repeat.nullable(),
	/** The group that it is in. */
	group: Id.optional(),
	/** Pieces of which this is the same share their shape, its measures and its surface: an edit of one is one of all. */
	shared: Id.optional(),
	/** The ground rises to meet it; without, they meet in an edge. */
	bank: Bank.nullable().optional(),
	/** What it does to another piece, or to those of a group. */
	act: Act.optional(),
});

export type Stands = Piece["stands"];
export type Piece = z.infer<typeof Piece>;
