/**
 * A piece pushed along its own line of sight. Kept in the frame, it is scaled about the lens as a whole (a homothety), so
 * that its picture stays exactly where and as large as it is; its foot then leaves the ground's height. Kept in metres, its
 * foot goes along the line in plan and stands on the ground there, or on its level, as before.
 */
import type { Camera, Piece } from "../doc/schema.ts";
import { scaledRepeat } from "../shape/copies.ts";
import { footing, type Standing } from "../shape/place.ts";
import { scaledShape } from "../shape/shapes.ts";

export type KeptSize = "in metres" | "in the frame";

export type Pushed = Pick<Piece, "id" | "position" | "size" | "shape" | "repeat">;

const of = ({ id, size, shape, repeat }: Piece) => ({ id, size, shape, repeat });

/** The piece at `factor` times its distance from the lens. */
export function pushAlongSight(
	piece: Piece,
	doc: Standing,
	camera: Pick<Camera, "position">,
	factor: number,
	keep: KeptSize,
): Pushed {
	const [lx, ly, lz] = camera.position;
	const [x, y, z] = piece.position;
	const there: [number, number] = [lx + (x - lx) * factor, lz + (z - lz) * factor];
	if (keep === "in metres") return { ...of(piece), position: [there[0], y, there[1]] };
	const base = (px: number, pz: number) => footing(piece, px, pz, doc);
	const up = ly + (base(x, z) + y - ly) * factor - base(...there);
	const [w, h, d] = piece.size.map((s) => Math.min(1e5, Math.max(0.001, s * factor)));
	const repeat = scaledRepeat(piece.repeat, factor);
	return {
		...of(piece),
		position: [there[0], up, there[1]],
		size: [w, h, d],
		shape: scaledShape(piece.shape, factor),
		repeat,
	};
}
