/** The sea to its horizon as a few rings of triangles, for pictures and files that have no surface of their own for it. */
import { cos, sin, TAU } from "../maths/functions.ts";
import type { Mesh } from "../maths/mesh.ts";
import { horizonM, type Planet } from "./planet.ts";

/**
 * The first ring lies under the lens, and none is much farther than the one before it: graphics in single precision lose the
 * depths of a triangle that begins under the lens and ends far away, and draw the bed over the sea.
 */
const FIRST_M = 0.25;
const GROWTH = 4;
/** Between two rings the sea's middle lies over their edges by no more than this share of its distance, a twentieth of a pixel. */
const UNDER = 3e-5;
const SPOKES = 144;
/** On a flat world it ends here; on a planet beyond the horizon of a lens as high as this. */
const FLAT_M = 6_000_000;
const HIGHEST_M = 30_000;

/** Positions count from the place where the planet is level, in the sea's surface there. */
export function seaDisc(planet: Pick<Planet, "radiusM"> | null, levelM: number): Mesh {
	const radius = planet && planet.radiusM + levelM;
	const reach = radius ? 1.1 * horizonM(radius, HIGHEST_M) : FLAT_M;
	const rings: number[] = [];
	for (let r = Math.min(FIRST_M, reach / 8); rings.at(-1) !== reach; ) {
		rings.push(Math.min(r, reach));
		// Over a way w an arc of a radius R rises over its chord by w² / 8 R.
		r = Math.min(r * GROWTH, radius ? r + Math.sqrt(8 * radius * UNDER * r) : Number.POSITIVE_INFINITY);
	}
	const positions = [0, 0, 0];
	const normals = [0, 1, 0];
	const indices: number[] = [];
	const at = (ring: number, spoke: number) => (ring < 0 ? 0 : 1 + ring * SPOKES + (spoke % SPOKES));
	for (const [ring, far] of rings.entries())
		for (let i = 0; i < SPOKES; i++) {
			const [x, z] = [sin((TAU * i) / SPOKES), cos((TAU * i) / SPOKES)];
			const lean = radius ? far / radius : 0;
			const [out, down] = radius ? [radius * sin(lean), 2 * radius * sin(lean / 2) ** 2] : [far, 0];
			positions.push(x * out, -down, z * out);
			normals.push(x * sin(lean), cos(lean), z * sin(lean));
			indices.push(at(ring - 1, i), at(ring, i), at(ring, i + 1));
			if (ring > 0) indices.push(at(ring - 1, i), at(ring, i + 1), at(ring - 1, i + 1));
		}
	return {
		positions: Float32Array.from(positions),
		normals: Float32Array.from(normals),
		indices: Uint32Array.from(indices),
	};
}
