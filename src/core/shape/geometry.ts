/**
 * The body of a piece, as every part of the house reads it: pictures, marks in the frame, plan, section, ribbon, what
 * covers keep away from, mirrors, lights. Nobody guesses a box from a size.
 */
import type { NamedFile } from "../doc/files.ts";
import type { Shape } from "../doc/schema/piece.ts";
import type { Surface } from "../doc/schema/surface.ts";
import { type Mesh, meshBounds } from "../maths/mesh.ts";
import type { Vec3 } from "../maths/vec.ts";
import { farthestPoints } from "./hull.ts";

/** Triangles of a body that belong together under a name which lasts through later acts on the shape. */
export interface Face {
	name: string;
	/** Which of the piece's surfaces it has. */
	slot: number;
	/** Its triangles: from, and up to. */
	begin: number;
	end: number;
}

/**
 * A body of a footprint of one metre about the origin that stands on y = 0 and is one metre high; a piece's size
 * stretches it.
 */
export interface Geometry {
	mesh: Mesh;
	faces: readonly Face[];
	/** The same body with fewer faces, for copies that are small in the working view; null where it has few. */
	coarse: Mesh | null;
	/** Three lows and three highs. */
	bounds: readonly number[];
	/** Places whose convex hulls together hold the body, one list for each convex part of it. */
	hulls: readonly (readonly Vec3[])[];
	/** Each of its edges belongs to two triangles that run along it in opposite ways. */
	closed: boolean;
	/** It is put together of bodies that lie in and against each other: nothing is cut out of it as out of one. */
	assembled?: boolean;
}

/** What making a shape may read besides its own numbers. */
export interface ShapeInputs {
	/** Files by their hash. */
	blobs: ReadonlyMap<string, Uint8Array>;
}

export interface ShapeMaker<S extends Shape = Shape> {
	/** Files whose bytes it reads; none when it has no such function. */
	needs?: (shape: S) => NamedFile[];
	/** Whether its body is another one at another size, for it has measures in metres; it is not when there is no such function. */
	sized?: (shape: S) => boolean;
	/** What it is by itself: its height and its depth as parts of its width, 1 without. */
	usual?: { tall?: number; deep?: number };
	/** As a hand draws it, it is as high as it is wide. */
	even?: boolean;
	/** What it finds by itself where nothing is said of a measure, in metres. */
	found?: (shape: S, size: Vec3) => Record<string, number>;
	/** Surfaces of its faces' slots after the first, which has the piece's own. */
	surfaces?: (shape: S) => Surface[];
	/** What stands for it where its details are too small to be seen: see {@link ShapeMaker.detailM}. */
	far?: (shape: S, size: Vec3) => Geometry;
	/** How large a detail of it is, metres. */
	detailM?: (shape: S, size: Vec3) => number;
	/** A sheet that lies flat, of no height. */
	flat?: boolean;
	/** It is its front alone, upright and seen from both sides, which a picture fills and may cut out. */
	front?: true;
	/** Whether it turns its front to the lens, wherever that is; it does not when there is no such function. */
	toLens?: (shape: S) => boolean;
	/** What there is to know of its line, where hands draw it point by point. */
	drawn?: Drawn<S>;
	/** Fields with their lengths a multiple of what they were, where more than its measures are lengths. */
	scaled?: (shape: S, by: number) => object;
	/** `size` is the piece's, in metres; what is made is a body of a metre all the same. */
	evaluate: (shape: S, size: Vec3, inputs: ShapeInputs) => Geometry;
}

/** A body as its line was drawn: how its points are stretched so that it has a size, and what it takes up then. Metres. */
export interface Fit {
	by: Vec3;
	low: Vec3;
	high: Vec3;
}

/** How the points of a drawn line lie in a body. */
export interface Drawn<S extends Shape = Shape> {
	/** Whether it ends where it begins. */
	closed: (shape: S) => boolean;
	/** Points that it needs. */
	least: number;
	/** How it is drawn: upright before the lens; without, on what lies under the pointer. */
	upright?: boolean;
	/** It cannot stand in an upright plane. */
	lies?: boolean;
	/** Its points have heights of their own. */
	inSpace?: boolean;
	/** Its height as it is drawn first, metres; without, a part of how far it goes. */
	heightM?: number;
	/** Where a point lies beside others, in metres to the right, up and towards; and the way back. */
	place: (at: readonly number[]) => Vec3;
	at: (place: Vec3) => number[];
	fit: (shape: S, size: Vec3) => Fit;
	/** The size of the body that points make by themselves, of a height where they tell none. */
	own: (shape: S, heightM: number) => Vec3;
}

/** A body from its mesh: bounds and hull are read off it. */
export const geometryFrom = (
	mesh: Mesh,
	faces: readonly Face[],
	{
		coarse = null,
		closed = true,
		hulls,
		assembled,
	}: Partial<Pick<Geometry, "coarse" | "closed" | "hulls" | "assembled">> = {},
): Geometry => ({
	mesh,
	faces,
	coarse,
	bounds: meshBounds(mesh),
	hulls: hulls ?? [farthestPoints(mesh.positions)],
	closed,
	...(assembled && { assembled }),
});
