/**
 * The ground as triangles for the lens: halved (see `bisection.ts`) where a frame would see that they are flat. A triangle
 * is halved where the middle of its longest edge lies off the land by more than {@link Fineness.offPx}, where it is large in the frame
 * and its slope or its colour are not those of its corners, and where it is so large that it says nothing yet. The corners
 * lie on one lattice of the world: lenses that see the same land see the same corners.
 */
import type { Ground, Water } from "../doc/schema.ts";
import { smoothstep } from "../maths/functions.ts";
import { type Mesh, tintByte } from "../maths/mesh.ts";
import type { Vec3 } from "../maths/vec.ts";
import { Bisection, Corners, grown } from "./bisection.ts";
import { landHeld } from "./field.ts";
import { grainOf, groundHeight, landPush } from "./height.ts";
import type { Push } from "./ledger/entry.ts";
import type { Grain } from "./ledger/grain.ts";
import { onPlanet, type Planet, planetAbout } from "./planet.ts";
import { footOfWay, type LensFootprint, reachOf, type Sight, sightOf } from "./sight.ts";
import { groundTint } from "./tint.ts";

/** The finest step of the lattice, metres. */
const STEP_M = 1 / 64;
/** The square lies on the lattice by whole multiples of this, metres. */
const SNAP_M = 4096;

/** How closely the mesh keeps to the land, in pixels of a frame as wide as {@link FRAME_PX}. */
export interface Fineness {
	/** Most that the middle of an edge may lie off. */
	offPx: number;
	/** Triangles of no more than so many square pixels are not halved for their slope or colour. */
	areaPx: number;
	/** Longest edge, seen from the side. */
	edgePx: number;
	/** No edge that is shorter is halved. */
	shortPx: number;
	/** Edges may be so many times as long as what entries make is small. */
	grains: number;
	/** The same of what hangs over, which would come to pieces. */
	pushed: number;
	/** The working view's form has all lengths so many times coarser. */
	view: number;
	/** Degrees between headings by which it is told what hides what. */
	lookDeg: number;
	/** The most corners that are looked at; land that has more to show becomes coarser, all of it. */
	most: number;
}

export const FINE: Fineness = {
	offPx: 0.35,
	areaPx: 10,
	edgePx: 72,
	shortPx: 3,
	grains: 1,
	pushed: 1,
	view: 4,
	lookDeg: 0.4,
	most: 200_000,
};
/** What a hand is shown that shapes the land: all of it comes when the hand rests. */
export const IN_HAND: Fineness = {
	offPx: 5,
	areaPx: 500,
	edgePx: 260,
	shortPx: 36,
	grains: 4,
	pushed: 4,
	view: 1,
	lookDeg: 2,
	most: 10_000,
};

/** All lengths so many times coarser. */
const coarser = ({ offPx, areaPx, edgePx, shortPx, grains, ...rest }: Fineness, times: number): Fineness => ({
	...rest,
	offPx: offPx * times,
	areaPx: areaPx * times * times,
	edgePx: edgePx * times,
	shortPx: shortPx * times,
	grains: grains * times,
});

/** Slope by which an edge may differ from the land along it, before it is halved where it is large. */
const SLOPE = 0.04;
/** Share by which a colour may. */
const TINT = 0.07;
/** What a triangle takes over of how far its elder lay off: land that is rough is looked at more closely near by. */
const HANDED_DOWN = 0.4;

/** Outlines are kept more closely than what lies within them, and their edges may be shorter. */
const KEPT = 0.75;
const OUTLINED = 0.5;
/** Triangles of less than a pixel may lie off so many times farther. */
const SMALL = 2.5;

/**
 * How fine it can be is told by looking at it so many times coarser first: triangles that are looked at grow with the fineness to this
 * power (1.2 to 1.6 on seven lands, more where it is rough), and so many of those that may be looked at are hoped for. Where
 * there are too many none the less, all of it is made so many times coarser again.
 */
const FIRST_LOOK = 8;
const GROWS = 1.45;
const HOPED = 0.8;
const AGAIN = 1.35;

const UNKNOWN = Number.NaN;

type Tint = ReturnType<typeof groundTint>;

/** What is meshed for lenses. */
export interface Meshed {
	heightAt: (x: number, z: number) => number;
	/** Its colour and wetness; nothing where it has one alone. `steep` is the sine of its slope. */
	tintAt?: (x: number, y: number, z: number, steep: number) => Tint;
	/** How small what is in it is, where it has to be looked for. */
	grain: Grain | null;
	/** What of it stands aside. */
	push?: Push | null;
	/** What it lies on; null where the world is flat. */
	planet: Planet | null;
}

/** The first corner of a lattice, metres, and the steps of its side. */
interface Square {
	x0: number;
	z0: number;
	side: number;
}

/** Heights at the corners of a lattice. */
class Land {
	readonly corners = new Corners();
	readonly of: Ground | null;
	private heightAt: Meshed["heightAt"];
	/** Worn land is another one once what has worn it is there. */
	readonly fields = landHeld();
	/** The lattice's first corner. */
	readonly x0: number;
	readonly z0: number;
	/** Steps of a side of the square about the lens. */
	readonly side: number;
	private heights = new Float64Array(2 ** 14).fill(UNKNOWN);

	constructor(of: Ground | null, heightAt: Meshed["heightAt"], { x0, z0, side }: Square) {
		this.of = of;
		this.heightAt = heightAt;
		this.x0 = x0;
		this.z0 = z0;
		this.side = side;
	}

	x = (n: number): number => this.x0 + this.corners.i[n] * STEP_M;
	z = (n: number): number => this.z0 + this.corners.j[n] * STEP_M;

	height(n: number): number {
		if (n >= this.heights.length) {
			const known = this.heights.length;
			this.heights = grown(this.heights, n + 1);
			this.heights.fill(UNKNOWN, known);
		}
		if (Number.isNaN(this.heights[n])) this.heights[n] = this.heightAt(this.x(n), this.z(n));
		return this.heights[n];
	}
}

/** Corners of a land that are kept for its next lens, at most: 32 bytes each. */
const MOST_KEPT = 2_000_000;

/** The land that was meshed last: a lens that goes over it finds most of its heights. They are the land's own, whoever asks. */
let last: Land | null = null;

/** The square of the lattice that lenses see, its side a power of two. */
function squareOf(planet: Planet | null, feet: readonly LensFootprint[]): Square {
	const reach = SNAP_M + Math.max(...feet.map((foot) => reachOf(planet, foot)));
	let side = 1;
	while (side * STEP_M < 2 * reach) side *= 2;
	const [x0, z0] = footOfWay(feet).map((v) => SNAP_M * Math.round(v / SNAP_M) - (side * STEP_M) / 2);
	return { x0, z0, side };
}

function landOf(ground: Ground, square: Square): Land {
	const { x0, z0, side } = square;
	const same = last?.of === ground && last.fields === landHeld();
	const stands = same && last?.x0 === x0 && last.z0 === z0 && last.side === side;
	if (!stands || !last || last.corners.count > MOST_KEPT)
		last = new Land(ground, (px, pz) => groundHeight(ground, px, pz), square);
	return last;
}

/** Colours at the corners of a land, told once, for the slope that was asked for first. */
class Tints {
	private land: Land;
	private tintAt: Meshed["tintAt"];
	private colours = new Float32Array(2 ** 16);
	private known = new Uint8Array(2 ** 14);

	constructor(land: Land, tintAt: Meshed["tintAt"]) {
		this.land = land;
		this.tintAt = tintAt;
	}

	/** Whether the colour or the wetness in the middle of an edge is not what its ends make of it. */
	differ(a: number, b: number, middle: number, steep: number): boolean {
		if (!this.tintAt) return false;
		const [p, q, m] = [this.at(a, steep), this.at(b, steep), this.at(middle, steep)];
		const { colours } = this;
		for (let k = 0; k < 3; k++)
			if (Math.abs(colours[m + k] - 0.5 * (colours[p + k] + colours[q + k])) > TINT * (colours[m + k] + 0.02))
				return true;
		return Math.abs(colours[m + 3] - 0.5 * (colours[p + 3] + colours[q + 3])) > TINT;
	}

	private at(n: number, steep: number): number {
		if (n >= this.known.length) {
			this.known = grown(this.known, n + 1);
			this.colours = grown(this.colours, 4 * this.known.length);
		}
		if (!this.known[n]) {
			this.known[n] = 1;
			const { land } = this;
			const { colour, wet } = (this.tintAt as NonNullable<Meshed["tintAt"]>)(
				land.x(n),
				land.height(n),
				land.z(n),
				steep,
			);
			this.colours.set(colour, 4 * n);
			this.colours[4 * n + 3] = wet;
		}
		return 4 * n;
	}
}

/**
 * What lies off where the land is seen from aside moves an outline; where it faces the lens, or turns its back on it, it moves
 * nothing that is seen.
 */
const facing = (faces: number): number => 1 + 3 * smoothstep(0.15, 0.5, Math.abs(faces));

/** Edges of no more than so many of the shortest are not looked at where their elder lay off by less than this share of what it may. */
const LOOKED = 4;
const NOTHING = 0.3;
/** Triangles that are looked at for one corner of the mesh. */
const LOOKS = 4;
/** As a share of the slope of what is pushed aside, the slope of triangles about a corner that may be. */
const WALLS = 0.5;
/** Told of triangles that are small enough. */
const ENOUGH = -1;

/** Halves the land's triangles for lenses; null where that takes more corners than it may. */
function bisect(
	land: Land,
	tints: Tints,
	sight: Sight,
	{ grain, push, planet }: Meshed,
	{ offPx, areaPx, edgePx, shortPx, grains, pushed, most }: Fineness,
): { bisection: Bisection; looks: number } | null {
	const leastPx = areaPx / 8;
	const { corners } = land;
	const bisection = new Bisection(corners, land.side);
	// What a planet sinks by over a metre, and over the square of metres from a lens.
	const sinks = planet ? 0.5 / planet.radiusM : 0;
	let count = 0;
	bisection.refine(HANDED_DOWN, (a, b, apex, middle, told) => {
		if (++count > LOOKS * most) return ENOUGH;
		const [ax, az, bx, bz] = [land.x(a), land.z(a), land.x(b), land.z(b)];
		const [x, z] = [land.x(middle), land.z(middle)];
		const [ha, hb] = [land.height(a), land.height(b)];
		const half = 0.5 * Math.sqrt((ax - bx) ** 2 + (az - bz) ** 2);
		const mean = 0.5 * (ha + hb);
		const { metresPerPixel, inView, outline, foot } = sight(
			x,
			mean,
			z,
			half,
			Math.max(ha, hb, land.height(apex)) + 2 * told,
		);
		// What is pushed aside shows on walls: they are as large as they rise.
		const rise = push ? Math.max(ha, hb, land.height(apex)) - Math.min(ha, hb, land.height(apex)) : 0;
		const edge = rise ? Math.sqrt(4 * half * half + rise * rise) : 2 * half;
		const long = edge / metresPerPixel;
		const off = () => Math.max(Math.abs(land.height(middle) - mean + sinks * half * half), HANDED_DOWN * told);
		if (long > edgePx) return off();
		if (long < (outline ? OUTLINED : 1) * shortPx) return ENOUGH;
		if (!inView) {
			const lies = off();
			return lies > offPx * metresPerPixel ? lies : ENOUGH;
		}
		if (grain && 2 * half > grains * grain(x, z, half)) return off();
		if (push && rise > push.least * half && edge > pushed * push.grain(x, z)) return off();
		// The triangle's normal, twice its area long, and the square pixels of the lens that it fills.
		const [cx, cz, hc] = [land.x(apex), land.z(apex), land.height(apex)];
		const sunk = (px: number, pz: number) => sinks * ((px - foot.x) ** 2 + (pz - foot.z) ** 2);
		const own = hc - sunk(cx, cz);
		const [ya, yb] = [ha - sunk(ax, az), hb - sunk(bx, bz)];
		const [ux, uy, uz, vx, vy, vz] = [ax - cx, ya - own, az - cz, bx - cx, yb - own, bz - cz];
		const [nx, ny, nz] = [uz * vy - uy * vz, ux * vz - uz * vx, uy * vx - ux * vy];
		const [sx, sy, sz] = [foot.x - x, foot.y - 0.5 * (ya + yb), foot.z - z];
		const away = Math.sqrt(sx * sx + sy * sy + sz * sz);
		const area = Math.sqrt(nx * nx + ny * ny + nz * nz);
		const faces = (Math.sign(ny) * (nx * sx + ny * sy + nz * sz)) / (area * away);
		const fills = (faces * area) / (2 * (away * foot.pixel) ** 2);
		const least = offPx * metresPerPixel * (outline ? KEPT : (fills < leastPx ? SMALL : 1) * facing(faces));
		// Where its elder lay off by next to nothing, so does it.
		const level = told > 0 && long < LOOKED * shortPx && told < NOTHING * Math.min(least, SLOPE * half);
		const lies = level ? HANDED_DOWN * told : off();
		if (lies > least) return lies;
		if (fills < areaPx) return ENOUGH;
		if (lies > SLOPE * half) return lies;
		const steep = Math.sqrt((nx * nx + nz * nz) / (nx * nx + ny * ny + nz * nz));
		return tints.differ(a, b, middle, steep) ? lies : ENOUGH;
	});
	return count > LOOKS * most ? null : { bisection, looks: count };
}

/**
 * Triangles of the ground about a lens, or about all lenses of a way, positions relative to the middle of their feet
 * (x, 0, z); see {@link footOfWay}. `coarse` has the same corners and a part of them alone, for the working view.
 */
export function groundMeshForLens(
	ground: Ground,
	water: Water,
	feet: readonly LensFootprint[],
	fineness: Fineness = FINE,
): { mesh: Mesh; coarse: Mesh } {
	const tintAt: Meshed["tintAt"] = (x, y, z, steep) => groundTint(ground, water, x, y, z, steep);
	const heightAt: Meshed["heightAt"] = (x, z) => groundHeight(ground, x, z);
	const planet = planetAbout(ground, ...footOfWay(feet));
	const of = { heightAt, tintAt, grain: grainOf(ground), push: landPush(ground), planet };
	return meshOf(of, landOf(ground, squareOf(planet, feet)), feet, fineness);
}

/** The same of another surface over all of the world, whose corners are kept for no other lens. */
export function meshForLens(of: Meshed, feet: readonly LensFootprint[], fineness: Fineness = FINE) {
	return meshOf(of, new Land(null, of.heightAt, squareOf(null, feet)), feet, fineness);
}

function meshOf(
	of: Meshed,
	land: Land,
	feet: readonly LensFootprint[],
	fineness: Fineness,
): { mesh: Mesh; coarse: Mesh } {
	const { heightAt, tintAt, push, planet } = of;
	const [footX, footZ] = footOfWay(feet);
	const tints = new Tints(land, tintAt);
	const { corners } = land;
	const sight = sightOf(feet, fineness.lookDeg, heightAt, planet);
	const glance = bisect(land, tints, sight, of, coarser(fineness, FIRST_LOOK));
	const hoped = glance ? (glance.looks / (HOPED * LOOKS * fineness.most)) ** (1 / GROWS) * FIRST_LOOK : FIRST_LOOK;
	let own = coarser(fineness, Math.max(1, hoped));
	let made = bisect(land, tints, sight, of, own);
	while (!made) {
		own = coarser(own, AGAIN);
		made = bisect(land, tints, sight, of, own);
	}
	const triangles = made.bisection.triangles();
	const few = own.view > 1 ? bisect(land, tints, sight, of, coarser(own, own.view))?.bisection : null;
	// Corners that triangles have, in the order in which they are met.
	const places = new Int32Array(corners.count).fill(-1);
	const met: number[] = [];
	const indexed = (list: Int32Array) => {
		const indices = new Uint32Array(list.length);
		for (let k = 0; k < list.length; k++) {
			const n = list[k];
			if (places[n] < 0) places[n] = met.push(n) - 1;
			indices[k] = places[n];
		}
		return indices;
	};
	const [indices, coarse] = [indexed(triangles), indexed(few?.triangles() ?? triangles)];
	const positions = new Float32Array(met.length * 3);
	const normals = new Float32Array(met.length * 3);
	const colours = new Uint8Array(tintAt ? met.length * 4 : 0);
	const walls = push && steepest(land, triangles, places, met.length);
	met.forEach((n, at) => {
		const height = land.height(n);
		const aside = push && walls && walls[at] > WALLS * push.least ? push.at(land.x(n), height, land.z(n)) : null;
		const lies: Vec3 = [land.x(n) + (aside?.x ?? 0), height, land.z(n) + (aside?.z ?? 0)];
		const [x, y, z] = planet ? onPlanet(planet, lies) : lies;
		positions[at * 3] = x - footX;
		positions[at * 3 + 1] = y;
		positions[at * 3 + 2] = z - footZ;
	});
	accumulateNormals(positions, indices, normals);
	if (!tintAt) {
		const vertices = { positions, normals };
		return { mesh: { ...vertices, indices }, coarse: { ...vertices, indices: coarse } };
	}
	met.forEach((n, at) => {
		const ny = normals[at * 3 + 1];
		const steep = Math.sqrt(Math.max(0, 1 - ny * ny));
		const tint = tintAt(land.x(n), land.height(n), land.z(n), steep);
		for (let c = 0; c < 3; c++) colours[at * 4 + c] = tintByte(tint.colour[c]);
		colours[at * 4 + 3] = Math.round(tint.wet * 255);
	});
	const vertices = { positions, normals, colours };
	return { mesh: { ...vertices, indices }, coarse: { ...vertices, indices: coarse } };
}

/** Rise over run of the steepest triangle about each corner, by the corners' places. */
function steepest(land: Land, triangles: Int32Array, places: Int32Array, count: number): Float64Array {
	const slopes = new Float64Array(count);
	for (let t = 0; t < triangles.length; t += 3) {
		const [a, b, c] = triangles.subarray(t, t + 3);
		const [ux, uy, uz] = [land.x(b) - land.x(a), land.height(b) - land.height(a), land.z(b) - land.z(a)];
		const [vx, vy, vz] = [land.x(c) - land.x(a), land.height(c) - land.height(a), land.z(c) - land.z(a)];
		const ny = uz * vx - ux * vz;
		const [nx, nz] = [uy * vz - uz * vy, ux * vy - uy * vx];
		const slope = Math.sqrt(nx * nx + nz * nz) / Math.abs(ny);
		for (const n of [a, b, c]) slopes[places[n]] = Math.max(slopes[places[n]], slope);
	}
	return slopes;
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
