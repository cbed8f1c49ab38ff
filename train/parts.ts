/** What made-up shots are put together from. */
import { newPiece } from "../src/core/doc/defaults.ts";
import type { Piece, ShapeKind, Surface } from "../src/core/doc/schema.ts";
import { laidAsMade, laidOver } from "../src/core/surface/laying.ts";
import type { SurfaceKind } from "../src/core/surface/surfaces.ts";

export type Three = [number, number, number];

/** Pieces of one shot, named by their number. */
export function builder(): {
	pieces: Piece[];
	put: (kind: ShapeKind, at: Three, size: Three, over?: Partial<Piece>) => void;
} {
	const pieces: Piece[] = [];
	return {
		pieces,
		put: (kind, position, size, over = {}) => {
			pieces.push(newPiece(`${kind}-${pieces.length}`, kind, { position, size, stands: "level", ...over }));
		},
	};
}

export const plain = (colour: Three, over: Partial<Surface> = {}): Surface => ({
	colour,
	roughness: 0.8,
	metal: 0,
	...over,
});
export const laid = (of: SurfaceKind, ...over: SurfaceKind[]): Surface =>
	plain([0.4, 0.38, 0.35], { laid: { ...laidAsMade(of), ...(over.length > 0 && { over: over.map(laidOver) }) } });
