/** Slabs of surfaces in a raking sun: one for a slip, and all of them as a wall of samples. */
import { blankShot, newPiece } from "../src/core/doc/defaults.ts";
import type { Piece, ShotDocument } from "../src/core/doc/schema.ts";
import { laidAsMade } from "../src/core/surface/laying.ts";
import { FAMILIES, SURFACE_KINDS, SURFACES, type SurfaceKind, slugOf } from "../src/core/surface/surfaces.ts";

/** Side of a slab, metres; each shows one square of its surface, reduced to it. */
const SIDE_M = 1;
const THICK_M = 0.14;
/** From the middle of a slab to that of the next. */
const APART_M = 1.12;

function slab(kind: SurfaceKind, right: number, up: number): Piece {
	const laid = laidAsMade(kind);
	const scale = SIDE_M / laid.acrossM;
	return newPiece(slugOf(kind), "box", {
		name: kind,
		position: [right, up, -THICK_M],
		size: [SIDE_M, SIDE_M, THICK_M],
		stands: "level",
		surface: {
			colour: [0.4, 0.4, 0.4],
			roughness: 0.8,
			metal: 0,
			laid: { ...laid, acrossM: SIDE_M, reliefMm: laid.reliefMm * scale },
		},
	});
}

/** The wall that they hang on, and a sun that grazes it from the upper left. */
function wall(title: string, pieces: Piece[], wide: number, high: number, filled: number): ShotDocument {
	const blank = blankShot(title);
	const back = newPiece("wall", "box", {
		name: "Wall",
		position: [0, -20, -0.6 - THICK_M],
		size: [80, 60, 0.2],
		stands: "level",
		surface: { colour: [0.33, 0.32, 0.3], roughness: 0.9, metal: 0 },
	});
	const far = 2.2 * Math.max(wide, high);
	return {
		...blank,
		pieces: [back, ...pieces],
		ground: { ...blank.ground, out: true },
		air: { ...blank.air, sun: { headingDeg: 248, elevationDeg: 30 }, cloud: { cover: 0, seed: 1 } },
		camera: {
			...blank.camera,
			position: [0, high / 2, far],
			ratio: wide / high,
			focalMm: (filled * 36 * far) / wide,
			fStop: 22,
			ev100: 14,
		},
		finish: { ...blank.finish, vignette: 0 },
	};
}

export function slabDocument(kind: SurfaceKind): ShotDocument {
	const edge = (APART_M - SIDE_M) / 2;
	return wall(SURFACES[kind].name, [slab(kind, 0, edge)], APART_M, APART_M, 0.98);
}

const COLUMNS = 10;

/** Surfaces by family on two walls, one above the other: all of them are more than one shot has room for. */
export function slabWalls(): [upper: ShotDocument, lower: ShotDocument] {
	const place = (kind: SurfaceKind) => FAMILIES.indexOf(SURFACES[kind].family);
	const kinds = [...SURFACE_KINDS].sort(
		(a, b) => place(a) - place(b) || (SURFACES[a].name < SURFACES[b].name ? -1 : 1),
	);
	const inUpper = COLUMNS * Math.ceil(kinds.length / COLUMNS / 2);
	const wallOf = (own: readonly SurfaceKind[]) => {
		const rows = Math.ceil(own.length / COLUMNS);
		const pieces = own.map((kind, i) =>
			slab(
				kind,
				((i % COLUMNS) - (COLUMNS - 1) / 2) * APART_M,
				(rows - 1 - Math.floor(i / COLUMNS)) * APART_M + (APART_M - SIDE_M) / 2,
			),
		);
		return wall("All surfaces", pieces, COLUMNS * APART_M, rows * APART_M, 0.98);
	};
	return [wallOf(kinds.slice(0, inUpper)), wallOf(kinds.slice(inUpper))];
}
