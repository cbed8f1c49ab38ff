/** Bodies shaped by what lies on them: finer triangles, moved along their normals (displacement mapping, Cook 1984). */
import { finer, openPlaces, type TooLong, welded } from "../maths/finer.ts";
import { type Mesh, meshBounds } from "../maths/mesh.ts";
import type { Vec3 } from "../maths/vec.ts";
import { ID_GROUND } from "./ids.ts";
import type { Making } from "./making.ts";
import { type At, Relief } from "./reliefAt.ts";
import { type Lens, look, partedOf } from "./reliefSight.ts";
import type { Draw, Material, MeshPart } from "./scene.ts";
import { isSmall } from "./small.ts";

/** Pixels of a frame 1,920 wide that an edge of a triangle takes at most. */
const EDGE_PX = 3;
/** What stands out by less than this many pixels has triangles that are larger by as much. */
const FINE_PX = 10;
/** What stands out by less than this many pixels is not shaped, and from so many on it is wholly. */
export const LEAST_PX = 0.5;
const WHOLE_PX = 1;
/** Least share of its length that an edge is seen as, however it slants. */
const SLANT = 0.3;
/** Steepest rise over run that makes triangles smaller, where edges are as long as they are meant to be: the less the longer they have to be. */
const STEEPEST = 2;
/** Share of its depth by which ground under water rises at most: the shore stays where it is. */
const UNDER = 0.8;
/** Share of a body's thinnest side that its relief may go into it. */
const INTO = 0.2;

/** What is to be shaped. */
export interface Shaped {
	of: Draw;
	mesh: Mesh;
	layers: NonNullable<Material["layers"]>;
	lenses: readonly Lens[];
	/** How far the layers reach, together. */
	deepM: number;
	/** Edges are no shorter than this: no texel is. */
	leastM: number;
	/** Level of the water under which ground that is under it stays; null of all else. */
	underM: number | null;
	/** Where it ends, another draw of the same body begins: there it stays as it is. */
	pinned: boolean;
}

/** Parts of a metre to which places are rounded, so that sides which meet but for the last bit meet. */
const EXACT = 2 ** 20;

/** The body in its own metres. */
function inMetres(mesh: Mesh, size: Vec3): Mesh {
	const positions = mesh.positions.map((v, i) => Math.round(v * size[i % 3] * EXACT) / EXACT);
	const normals = new Float32Array(mesh.normals.length);
	for (let i = 0; i < normals.length; i += 3) {
		const n = [0, 1, 2].map((c) => mesh.normals[i + c] / size[c]);
		const long = Math.hypot(...n) || 1;
		for (let c = 0; c < 3; c++) normals[i + c] = n[c] / long;
	}
	return { ...mesh, positions, normals };
}

/** Length in metres that is asked for of edges where a pixel covers so much; infinite where nothing is to be shaped. */
function edgeFor({ deepM, leastM }: Shaped, pixelM: number, times: number): number {
	const standsPx = deepM / pixelM;
	if (standsPx < LEAST_PX) return Infinity;
	return times * Math.max(leastM, EDGE_PX * pixelM * Math.max(1, FINE_PX / standsPx));
}

/** Edges that lead away from the lens are seen shorter: they may be longer, up to 1 over {@link SLANT} times. */
const tooLongBy = (shaped: Shaped, times: number): TooLong => {
	const { lenses } = shaped;
	const steepest = ((2 * STEEPEST) / (1 + times)) ** 2;
	return (ax, ay, az, bx, by, bz, lifted) => {
		const ex = bx - ax;
		const ey = by - ay;
		const ez = bz - az;
		const square = ex * ex + ey * ey + ez * ez;
		const { pixelM, x, y, z } = look(lenses, (ax + bx) / 2, (ay + by) / 2, (az + bz) / 2, Math.sqrt(square) / 2);
		const along = (ex * x + ey * y + ez * z) ** 2 / Math.max(1e-12, x * x + y * y + z * z);
		const flat = square - (1 - SLANT * SLANT) * Math.min(square, along);
		return Math.sqrt(flat + Math.min(lifted * lifted, steepest * flat)) / edgeFor(shaped, pixelM, times);
	};
};

/** How many times longer edges are where triangles are counted and not made. */
const COUNTED = 8;

/** About how many triangles there will be besides its own: of each larger one as many as its edges are cut into parts. */
export function counted(shaped: Shaped): number {
	const { size } = partedOf(shaped.of.transform);
	const { positions: p, indices } = finer(inMetres(shaped.mesh, size), tooLongBy(shaped, COUNTED));
	const tooLong = tooLongBy(shaped, 1);
	const parts = (a: number, b: number): number => {
		const long = tooLong(p[a], p[a + 1], p[a + 2], p[b], p[b + 1], p[b + 2], 0);
		return 2 ** Math.max(0, Math.ceil(Math.log2(long)));
	};
	let count = 0;
	for (let t = 0; t < indices.length; t += 3) {
		const [a, b, c] = [3 * indices[t], 3 * indices[t + 1], 3 * indices[t + 2]];
		const [ab, bc, ca] = [parts(a, b), parts(b, c), parts(c, a)];
		count += (ab * bc + bc * ca + ca * ab) / 3;
	}
	return count - shaped.mesh.indices.length / 3;
}

/** How a mesh is lifted: for each vertex the number of its place, and of each place how far, where to, and how far all that is thick lifts it. */
interface Lifted {
	places: Uint32Array;
	lifts: Float32Array;
	moves: Float32Array;
	thick: Float32Array | null;
}

/**
 * How far the surface of what is shaped lifts a mesh of it, in its own metres. `before` is what is known of a coarser mesh, whose places come
 * first in this one: they are lifted as they were.
 */
function lift(
	mesh: Mesh,
	relief: Relief,
	shaped: Shaped,
	into: number,
	times: number,
	before: Lifted | null = null,
): Lifted {
	const { of, lenses, layers, deepM, underM } = shaped;
	const { positions: p, normals: n } = mesh;
	const places = welded(p);
	// Normals of all sides that meet at a place: it moves along their mean.
	const means = new Float32Array(p.length);
	for (let v = 0; v < places.length; v++) {
		const to = 3 * places[v];
		means[to] += n[3 * v];
		means[to + 1] += n[3 * v + 1];
		means[to + 2] += n[3 * v + 2];
	}
	const ends = shaped.pinned ? openPlaces(mesh.indices, places) : null;
	const lifts = new Float32Array(places.length);
	const moves = new Float32Array(p.length);
	const thick = layers.some(({ thickM }) => thickM) ? new Float32Array(places.length) : null;
	const own: At = { x: 0, y: 0, z: 0, nx: 0, ny: 0, nz: 0 };
	const world: At = { ...own };
	const m = of.transform;
	const [tx, ty, tz] = partedOf(m).turn;
	if (before) {
		lifts.set(before.lifts);
		moves.set(before.moves);
		if (before.thick) thick?.set(before.thick);
	}
	for (let v = before?.places.length ?? 0; v < places.length; v++) {
		if (places[v] !== v || ends?.has(v)) continue;
		const at = 3 * v;
		const long = Math.sqrt(means[at] ** 2 + means[at + 1] ** 2 + means[at + 2] ** 2);
		if (long < 1e-3) continue;
		const [x, y, z] = [p[at], p[at + 1], p[at + 2]];
		const { pixelM } = look(lenses, x, y, z, 0);
		const fades = Math.min(1, Math.max(0, (deepM / pixelM - LEAST_PX) / (WHOLE_PX - LEAST_PX)));
		if (fades === 0) continue;
		const [nx, ny, nz] = [means[at] / long, means[at + 1] / long, means[at + 2] / long];
		own.x = x;
		own.y = y;
		own.z = z;
		own.nx = nx;
		own.ny = ny;
		own.nz = nz;
		world.x = tx[0] * x + ty[0] * y + tz[0] * z + m[3];
		world.y = tx[1] * x + ty[1] * y + tz[1] * z + m[7];
		world.z = tx[2] * x + ty[2] * y + tz[2] * z + m[11];
		world.nx = tx[0] * nx + ty[0] * ny + tz[0] * nz;
		world.ny = tx[1] * nx + ty[1] * ny + tz[1] * nz;
		world.nz = tx[2] * nx + ty[2] * ny + tz[2] * nz;
		lifts[v] = fades * Math.max(-into, relief.at(own, world, edgeFor(shaped, pixelM, times)));
		if (underM !== null && world.y < underM) lifts[v] = Math.min(lifts[v], UNDER * (underM - world.y));
		if (thick) thick[v] = fades * relief.thickM;
		// Where sides meet, each of them moves as far: along their mean by more.
		const far = lifts[v] / Math.max(0.5, nx * n[at] + ny * n[at + 1] + nz * n[at + 2]);
		moves[at] = far * nx;
		moves[at + 1] = far * ny;
		moves[at + 2] = far * nz;
	}
	for (let v = 0; v < places.length; v++) lifts[v] = lifts[places[v]];
	return { places, lifts, moves, thick };
}

/** A body of finer triangles, moved as its surface has it; in the units that its transform takes. */
function shapedMesh(making: Making, origin: Vec3, shaped: Shaped, times: number): Mesh {
	const { of, layers } = shaped;
	const { size } = partedOf(of.transform);
	const relief = new Relief(layers, making.parts, origin, of.id === ID_GROUND);
	const bounds = meshBounds(shaped.mesh);
	const thin = Math.min(...size.map((s, c) => s * (bounds[c + 3] - bounds[c])));
	const into = of.id === ID_GROUND ? Infinity : INTO * thin;
	const tooLong = tooLongBy(shaped, times);
	// Evenly at first; then by how steep that has become.
	const even = finer(inMetres(shaped.mesh, size), tooLong);
	const lifted = lift(even, relief, shaped, into, times);
	const mesh = finer(even, tooLong, lifted.lifts);
	const { places, moves, thick } = lift(mesh, relief, shaped, into, times, lifted);
	const { positions: p, normals: n } = mesh;
	const positions = new Float32Array(p.length);
	for (let i = 0; i < p.length; i++)
		positions[i] = (p[i] + moves[3 * places[(i - (i % 3)) / 3] + (i % 3)]) / size[i % 3];
	const back = (all: Float32Array): Float32Array => {
		for (let i = 0; i < all.length; i += 3) {
			const [nx, ny, nz] = [all[i] * size[0], all[i + 1] * size[1], all[i + 2] * size[2]];
			const long = Math.sqrt(nx * nx + ny * ny + nz * nz) || 1;
			all[i] = nx / long;
			all[i + 1] = ny / long;
			all[i + 2] = nz / long;
		}
		return all;
	};
	const leans = thick && leaning(mesh, places, thick);
	return leans
		? { ...mesh, positions, normals: back(leans), under: back(n) }
		: { ...mesh, positions, normals: back(n) };
}

/** How many times coarser the working view's form of what has one of its own is. */
const VIEW_COARSER = 2;

/** The part of what is shaped. */
export function shapedParts(
	making: Making,
	origin: Vec3,
	shaped: Shaped,
	times: number,
): Pick<MeshPart, "mesh" | "coarse"> {
	const mesh = shapedMesh(making, origin, shaped, times);
	const { of } = shaped;
	const part = making.parts.get(of.mesh);
	const coarse = part?.kind === "mesh" ? part.coarse : undefined;
	const shown = of.id === ID_GROUND || making.way.some(({ position }) => isSmall(of.transform, position));
	if (!coarse || !shown) return { mesh };
	return { mesh, coarse: shapedMesh(making, origin, { ...shaped, mesh: coarse }, VIEW_COARSER * times) };
}

/** Normals of a mesh that lean as its triangles do where its places are lifted along these normals. */
function leaning({ positions: p, normals: n, indices }: Mesh, places: Uint32Array, lifts: Float32Array): Float32Array {
	const lean = new Float32Array(n.length);
	const q = new Float32Array(9);
	const facing = (flat: boolean, t: number, out: Float32Array) => {
		for (let k = 0; k < 3; k++) {
			const v = indices[t + k];
			const lift = flat ? 0 : lifts[places[v]];
			for (let c = 0; c < 3; c++) q[3 * k + c] = p[3 * v + c] + lift * n[3 * v + c];
		}
		const [ux, uy, uz] = [q[3] - q[0], q[4] - q[1], q[5] - q[2]];
		const [vx, vy, vz] = [q[6] - q[0], q[7] - q[1], q[8] - q[2]];
		out[0] = uy * vz - uz * vy;
		out[1] = uz * vx - ux * vz;
		out[2] = ux * vy - uy * vx;
		const long = Math.hypot(out[0], out[1], out[2]) || 1;
		for (let c = 0; c < 3; c++) out[c] /= long;
	};
	const [flat, lifted] = [new Float32Array(3), new Float32Array(3)];
	const counts = new Uint8Array(places.length);
	for (let t = 0; t < indices.length; t += 3) {
		const [a, b, c] = [lifts[places[indices[t]]], lifts[places[indices[t + 1]]], lifts[places[indices[t + 2]]]];
		facing(true, t, flat);
		if (a === b && b === c) lifted.set(flat);
		else facing(false, t, lifted);
		for (let k = 0; k < 3; k++) {
			const v = indices[t + k];
			counts[v]++;
			for (let d = 0; d < 3; d++) lean[3 * v + d] += lifted[d] - flat[d];
		}
	}
	for (let i = 0; i < n.length; i++) lean[i] = n[i] + lean[i] / (counts[(i - (i % 3)) / 3] || 1);
	return lean;
}
