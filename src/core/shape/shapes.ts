/** All shapes by their kinds, and the bodies that they make. */
import type { Shape, ShapeKind } from "../doc/schema/piece.ts";
import type { Geometry, ShapeInputs, ShapeMaker } from "./geometry.ts";
import * as makers from "./makers.ts";

export const SHAPES: { [K in ShapeKind]: ShapeMaker<Extract<Shape, { kind: K }>> } = makers;

const NOTHING: ShapeInputs = { blobs: new Map() };

/** Makes the body of a shape. Throws what its maker throws when something that it needs is not among the inputs. */
export const makeGeometry = (shape: Shape, inputs: ShapeInputs = NOTHING): Geometry =>
	(SHAPES[shape.kind] as ShapeMaker).evaluate(shape, inputs);

const MOST_HELD = 256;
const held = new Map<string, Geometry>();

/** {@link makeGeometry} of a shape that needs no inputs, kept for the next who asks. */
export function geometryOf(shape: Shape): Geometry {
	const key = JSON.stringify(shape);
	let geometry = held.get(key);
	if (!geometry) {
		geometry = makeGeometry(shape);
		if (held.size >= MOST_HELD) held.delete(held.keys().next().value as string);
		held.set(key, geometry);
	}
	return geometry;
}
