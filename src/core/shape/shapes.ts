/** All shapes by their kinds, and the bodies that they make. */
import { measuresOf, type Piece, type Shape, type ShapeKind } from "../doc/schema/piece.ts";
import type { Surface } from "../doc/schema/surface.ts";
import type { Mesh } from "../maths/mesh.ts";
import type { Drawn, Face, Geometry, ShapeInputs, ShapeMaker } from "./geometry.ts";
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

/** What stands for a body where its details are too small to be seen. */
export function makeFar({ shape, size, mirrored: axes }: Body, inputs: ShapeInputs = NOTHING): Geometry {
	const { far, evaluate } = makerOf(shape);
	const made = far?.(shape, size) ?? evaluate(shape, size, inputs);
	return axes?.some(Boolean) ? mirrored(made, axes) : made;
}

/** How large the details of a body are, metres; null where nothing stands for it. */
export const detailOf = ({ shape, size }: Body): number | null => {
	const { far, detailM } = makerOf(shape);
	return far && detailM ? detailM(shape, size) : null;
};

/** Whether a body is its front alone. */
export const isFront = (shape: Shape): boolean => makerOf(shape).front ?? false;

export const turnsToLens = (shape: Shape): boolean => makerOf(shape).toLens?.(shape) ?? false;

/** Surfaces of a shape's faces, after the piece's own. */
export const surfacesOf = (shape: Shape): Surface[] => makerOf(shape).surfaces?.(shape) ?? [];

/** The faces of a body that have one of its surfaces, as a body. */
export function slotOf({ mesh, faces }: Pick<Geometry, "mesh" | "faces">, slot: number): { mesh: Mesh; faces: Face[] } {
	const own = faces.filter((f) => f.slot === slot);
	const count = own.reduce((sum, f) => sum + f.end - f.begin, 0);
	const indices = new Uint32Array(3 * count);
	const renamed = new Map<number, number>();
	const out: Face[] = [];
	let at = 0;
	for (const face of own) {
		out.push({ ...face, slot: 0, begin: at, end: at + face.end - face.begin });
		for (let i = 3 * face.begin; i < 3 * face.end; i++) {
			const from = mesh.indices[i];
			let to = renamed.get(from);
			if (to === undefined) {
				to = renamed.size;
				renamed.set(from, to);
			}
			indices[3 * at + i - 3 * face.begin] = to;
		}
		at += face.end - face.begin;
	}
	const positions = new Float32Array(3 * renamed.size);
	const normals = new Float32Array(3 * renamed.size);
	for (const [from, to] of renamed) {
		positions.set(mesh.positions.subarray(3 * from, 3 * from + 3), 3 * to);
		normals.set(mesh.normals.subarray(3 * from, 3 * from + 3), 3 * to);
	}
	return { mesh: { positions, normals, indices }, faces: out };
}

/** The same shape by another seed, where it has one; 0 leaves it as it is. */
export function variantOf(shape: Shape, variant: number): Shape {
	const [field, measure] = variant ? (measuresOf(shape.kind).find(([, m]) => m.of === "seed") ?? []) : [];
	if (!field || !measure) return shape;
	const seed = (shape as Record<string, unknown>)[field] as number;
	return { ...shape, [field]: (seed + variant * SEEDS_APART) % (measure.max + 1) } as Shape;
}

/** From the seed of one variant to that of the next. */
const SEEDS_APART = 1237;

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
