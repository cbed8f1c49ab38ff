/** Pieces: bodies that stand in the place. */
import { z } from "zod";
import * as shapes from "../../shape/schemas.ts";
import { degrees, Id, metres, Name, number, Position } from "./numbers.ts";
import { Surface } from "./surface.ts";

type AnyShape = (typeof shapes)[keyof typeof shapes];

/** What a piece's body is: its kind and its own measures. Kinds are listed in `core/shape/schemas.ts`. */
export const Shape = z.discriminatedUnion("kind", Object.values(shapes) as [AnyShape, ...AnyShape[]]);
export type Shape = z.infer<typeof Shape>;
export type ShapeKind = Shape["kind"];

/** The kinds of shapes, in the order in which they are offered. */
export const SHAPE_KINDS = Object.keys(shapes) as ShapeKind[];

export const Repeat = z.object({
	count: z.int().min(1).max(2000),
	/** Step from one copy to the next in the piece's own directions: right, away (metres). */
	step: z.tuple([metres, metres]),
});

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
	surface: Surface,
	hidden: z.boolean(),
	repeat: Repeat.nullable(),
});

export type Stands = Piece["stands"];
export type Repeat = z.infer<typeof Repeat>;
export type Piece = z.infer<typeof Piece>;
