/** Where an entry makes what is so small that it has to be looked for: lines about which something happens. */

type Spot = readonly [number, number];

/** Metres of the smallest that is made within a radius of a place; infinite where nothing is. */
export type Grain = (x: number, z: number, radiusM: number) => number;

/** Boxes about ever shorter parts of a line. */
interface Part {
	x0: number;
	z0: number;
	x1: number;
	z1: number;
	halves: readonly [Part, Part] | null;
}

function partOf(line: readonly Spot[], from: number, to: number): Part {
	if (to - from <= 1) {
		const [[ax, az], [bx, bz]] = [line[from], line[to]];
		return { x0: Math.min(ax, bx), z0: Math.min(az, bz), x1: Math.max(ax, bx), z1: Math.max(az, bz), halves: null };
	}
	const middle = (from + to) >> 1;
	const [a, b] = [partOf(line, from, middle), partOf(line, middle, to)];
	return {
		x0: Math.min(a.x0, b.x0),
		z0: Math.min(a.z0, b.z0),
		x1: Math.max(a.x1, b.x1),
		z1: Math.max(a.z1, b.z1),
		halves: [a, b],
	};
}

function within({ x0, z0, x1, z1, halves }: Part, x: number, z: number, far: number): boolean {
	const [dx, dz] = [Math.max(x0 - x, 0, x - x1), Math.max(z0 - z, 0, z - z1)];
	if (dx * dx + dz * dz > far * far) return false;
	return !halves || within(halves[0], x, z, far) || within(halves[1], x, z, far);
}

/** What is `metres` small up to `reachM` from a line through spots. */
export function grainAlong(line: readonly Spot[], reachM: number, metres: number): Grain {
	const all = partOf(line, 0, line.length - 1);
	return (x, z, radiusM) => (within(all, x, z, reachM + radiusM) ? metres : Number.POSITIVE_INFINITY);
}

/** The smallest of several; null of none. */
export function smallest(grains: readonly Grain[]): Grain | null {
	if (grains.length < 2) return grains[0] ?? null;
	return (x, z, radiusM) => {
		let least = Number.POSITIVE_INFINITY;
		for (const grain of grains) least = Math.min(least, grain(x, z, radiusM));
		return least;
	};
}
