/**
 * The ground as triangles, fine near the lens and coarse far off: rings about the lens's foot whose radii grow by a
 * constant factor, and spokes that are dense inside the frame and sparse outside it.
 */
import type { Ground, Water } from "../doc/schema.ts";
import { cos, DEG, sin } from "../maths/functions.ts";
import { type Mesh, tintByte } from "../maths/mesh.ts";
import { fanFor, GROUND_DETAIL, type GroundDetail, type LensFootprint } from "./fan.ts";
import { groundHeight } from "./height.ts";
import { groundTint } from "./tint.ts";

/** Rings and spokes that the coarse form keeps: each so-manieth. */
const COARSE_STEP = 2;

/**
 * Triangles of the ground about a lens, or about all lenses of a way, positions relative to its foot (x, 0, z); see
 * {@link footOfWay}. `coarse` has the same vertices and every {@link COARSE_STEP}th ring and spoke of them, for the working
 * view.
 */
export function groundMeshForLens(
	ground: Ground,
	water: Water,
	feet: readonly LensFootprint[],
	detail: GroundDetail = GROUND_DETAIL,
): { mesh: Mesh; coarse: Mesh } {
	const { radii, headings, ...foot } = fanFor(feet, detail);
	const spokes = headings.length;
	const rings = radii.length;
	const count = rings * spokes + 1;
	const positions = new Float32Array(count * 3);
	const normals = new Float32Array(count * 3);
	const colours = new Uint8Array(count * 4);
	const heights = new Float64Array(count);
	const px = new Float64Array(count);
	const pz = new Float64Array(count);
	heights[0] = groundHeight(ground, foot.x, foot.z);
	for (let k = 0; k < spokes; k++) {
		const a = headings[k] * DEG;
		const dx = sin(a);
		const dz = -cos(a);
		for (let r = 0; r < rings; r++) {
			const at = 1 + r * spokes + k;
			px[at] = dx * radii[r];
			pz[at] = dz * radii[r];
			heights[at] = groundHeight(ground, foot.x + px[at], foot.z + pz[at]);
		}
	}
	for (let i = 0; i < count; i++) {
		positions[i * 3] = px[i];
		positions[i * 3 + 1] = heights[i];
		positions[i * 3 + 2] = pz[i];
	}
	const indices = fanAndRings(rings, spokes);
	accumulateNormals(positions, indices, normals);
	for (let i = 0; i < count; i++) {
		const ny = normals[i * 3 + 1];
		const tint = groundTint(
			ground,
			water,
			foot.x + px[i],
			heights[i],
			foot.z + pz[i],
			Math.sqrt(Math.max(0, 1 - ny * ny)),
		);
		for (let c = 0; c < 3; c++) colours[i * 4 + c] = tintByte(tint.colour[c]);
		colours[i * 4 + 3] = Math.round(tint.wet * 255);
	}
	const vertices = { positions, normals, colours };
	return { mesh: { ...vertices, indices }, coarse: { ...vertices, indices: everySo(rings, spokes, COARSE_STEP) } };
}

/** The same triangles over every `step`th ring and spoke; the last ring stays. */
function everySo(rings: number, spokes: number, step: number): Uint32Array {
	const out: number[] = [];
	for (let k = 0; k < spokes; k += step) {
		const next = k + step >= spokes ? 0 : k + step;
		out.push(0, 1 + next, 1 + k);
		for (let r = 0; r + 1 < rings; r += step) {
			const far = Math.min(rings - 1, r + step);
			const [a, b, c, d] = [1 + r * spokes + k, 1 + r * spokes + next, 1 + far * spokes + k, 1 + far * spokes + next];
			out.push(a, b, c, b, d, c);
		}
	}
	return new Uint32Array(out);
}

function fanAndRings(rings: number, spokes: number): Uint32Array {
	const indices = new Uint32Array(3 * spokes * (1 + 2 * (rings - 1)));
	let n = 0;
	for (let k = 0; k < spokes; k++) {
		const next = (k + 1) % spokes;
		indices.set([0, 1 + next, 1 + k], n);
		n += 3;
		for (let r = 0; r + 1 < rings; r++) {
			const a = 1 + r * spokes + k;
			const b = 1 + r * spokes + next;
			indices.set([a, b, a + spokes, b, b + spokes, a + spokes], n);
			n += 6;
		}
	}
	return indices;
}

/** Smooth normals by area, written into `normals`. */
export function accumulateNormals(positions: Float32Array, indices: Uint32Array, normals: Float32Array): void {
	for (let t = 0; t < indices.length; t += 3) {
		const a = indices[t] * 3;
		const b = indices[t + 1] * 3;
		const c = indices[t + 2] * 3;
		const ux = positions[b] - positions[a];
		const uy = positions[b + 1] - positions[a + 1];
		const uz = positions[b + 2] - positions[a + 2];
		const vx = positions[c] - positions[a];
		const vy = positions[c + 1] - positions[a + 1];
		const vz = positions[c + 2] - positions[a + 2];
		const nx = uy * vz - uz * vy;
		const ny = uz * vx - ux * vz;
		const nz = ux * vy - uy * vx;
		// Weights that fall with the area keep the huge far triangles from ruling their small neighbours.
		const w = 1 / Math.sqrt(Math.sqrt(nx * nx + ny * ny + nz * nz) + 1e-30);
		for (const i of [a, b, c]) {
			normals[i] += nx * w;
			normals[i + 1] += ny * w;
			normals[i + 2] += nz * w;
		}
	}
	for (let i = 0; i < normals.length; i += 3) {
		const l = Math.sqrt(normals[i] ** 2 + normals[i + 1] ** 2 + normals[i + 2] ** 2) || 1;
		normals[i] /= l;
		normals[i + 1] /= l;
		normals[i + 2] /= l;
	}
}
