/** All shapes by their kinds, and the bodies that they make. */
import { measuresOf, type Piece, type Shape, type ShapeKind } from "../doc/schema/piece.ts";
import type { Drawn, Geometry, ShapeInputs, ShapeMaker } from "./geometry.ts";
import * as makers from "./makers.ts";
import { mirrored } from "./mirror.ts";

export const SHAPES: { [K in ShapeKind]: ShapeMaker<Extract<Shape, { kind: K }>> } = makers;

const makerOf = (shape: Shape) => SHAPES[shape.kind] as ShapeMaker;

/** What of a piece its body comes from. */
export type Body = Pick<Piece, "shape" | "size" | "mirrored">;

const NOTHING: ShapeInputs = { blobs: new Map() };

/** All that tells a body of a piece from others: pieces of which this is the same have the same one. */
export function bodyMadeFrom({ shape, size, mirrored: axes }: Body): unknown[] {
	const mirror = axes?.some(Boolean) ? [axes] : [];
	return makerOf(shape).sized?.(shape) ? [shape, size, ...mirror] : [shape, ...mirror];
}

/** Makes the body of a piece. Throws what its maker throws when something that it needs is not among the inputs. */
export function makeGeometry({ shape, size, mirrored: axes }: Body, inputs: ShapeInputs = NOTHING): Geometry {
	const made = makerOf(shape).evaluate(shape, size, inputs);
	return axes?.some(Boolean) ? mirrored(made, axes) : made;
}

/** The same shape with all its lengths a multiple of what they were, as far as they may go. */
export function scaledShape(shape: Shape, by: number): Shape {
	const own = makerOf(shape).scaled?.(shape, by);
	const lengths = measuresOf(shape.kind).flatMap(([field, { of, min, max }]) => {
		const value = (shape as Record<string, unknown>)[field];
		return of === "metres" && typeof value === "number" ? [[field, Math.min(max, Math.max(min, value * by))]] : [];
	});
	return lengths.length || own ? ({ ...shape, ...Object.fromEntries(lengths), ...own } as Shape) : shape;
}

/** What a piece's shape finds by itself for measures of which nothing is said, in metres, by their fields. */
export const foundMeasures = ({ shape, size }: Body): Record<string, number> =>
	makerOf(shape).found?.(shape, size) ?? {};

/** What there is to know of the line of a shape that is drawn point by point; undefined for others. */
export const drawnOf = (shape: Pick<Shape, "kind">): Drawn | undefined => SHAPES[shape.kind].drawn as Drawn | undefined;

/** Whether a shape is a sheet that lies flat, so that its height says nothing. */
export const isFlat = (kind: ShapeKind): boolean => !!SHAPES[kind].flat;

const MOST_HELD = 256;
const held = new Map<string, Geometry>();
/** Of the pieces themselves: of thousands that differ in size, each keeps its own for as long as it is the same. */
const heldBy = new WeakMap<Body, Geometry>();

/** {@link makeGeometry} of a piece whose shape needs no inputs, kept for the next who asks. */
export function geometryOf(body: Body): Geometry {
	const own = heldBy.get(body);
	if (own) return own;
	const key = JSON.stringify(bodyMadeFrom(body));
	let geometry = held.get(key);
	if (!geometry) {
		geometry = makeGeometry(body);
		if (held.size >= MOST_HELD) held.delete(held.keys().next().value as string);
		held.set(key, geometry);
	}
	heldBy.set(body, geometry);
	return geometry;
}
