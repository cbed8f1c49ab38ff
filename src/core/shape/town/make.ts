import type { Shape } from "../../doc/schema/piece.ts";
import { placesAlong } from "../../maths/curve.ts";
import { randomStream } from "../../maths/hash.ts";
import type { Vec3 } from "../../maths/vec.ts";
import { Assembly } from "../assembly.ts";
import { LIT, windowSurfaces } from "../building/make.ts";
import { boxOf, inPlan, planDrawn } from "../drawn.ts";
import type { Geometry, ShapeMaker } from "../geometry.ts";
import { fromMetres } from "../metric.ts";

type Town = Extract<Shape, { kind: "town" }>;
/** A rectangle in the plan: lows and highs, right and away. */
type Lot = readonly [x0: number, y0: number, x1: number, y1: number];

const boxFrom = ({ points }: Town) => boxOf(placesAlong(points, true).map(inPlan));

/** Houses of one town at most. */
export const MOST_HOUSES = 20_000;
const STOREY_M = 3.2;
/** A window with light: its width and height, metres, and how far it lies before its wall. */
const WINDOW = { across: 1.1, tall: 1.4, out: 0.03, apart: 2.6 };
/** Lit windows of one house at most. */
const MOST_LIT = 60;

const within = (ring: readonly (readonly number[])[], x: number, y: number): boolean => {
	let is = false;
	for (const [i, a] of ring.entries()) {
		const b = ring[(i + 1) % ring.length];
		if (a[1] > y !== b[1] > y && x < ((b[0] - a[0]) * (y - a[1])) / (b[1] - a[1]) + a[0]) is = !is;
	}
	return is;
};

/** Cuts a rectangle across its longer side until no part is much longer than wanted, with a gap between the two halves. */
function cut([x0, y0, x1, y1]: Lot, wanted: number, gap: number, chance: () => number, into: Lot[]): void {
	const [w, h] = [x1 - x0, y1 - y0];
	const far = Math.max(w, h);
	if (far < wanted * (1.1 + 0.8 * chance()) || far <= gap * 3) {
		into.push([x0, y0, x1, y1]);
		return;
	}
	const at = 0.35 + 0.3 * chance();
	if (w >= h) {
		const x = x0 + w * at;
		cut([x0, y0, x - gap / 2, y1], wanted, gap, chance, into);
		cut([x + gap / 2, y0, x1, y1], wanted, gap, chance, into);
	} else {
		const y = y0 + h * at;
		cut([x0, y0, x1, y - gap / 2], wanted, gap, chance, into);
		cut([x0, y + gap / 2, x1, y1], wanted, gap, chance, into);
	}
}

/** The houses of a town in its own metres: where they stand and how high they are, as a part of the tallest. */
export function housesOf(spec: Town): { lot: Lot; tall: number }[] {
	const ring = placesAlong(spec.points, true);
	const { low, high } = boxFrom(spec);
	const chance = randomStream(spec.seed + 1);
	const blocks: Lot[] = [];
	cut([low[0], -high[2], high[0], -low[2]], spec.blockM, spec.streetM, chance, blocks);
	const out: { lot: Lot; tall: number }[] = [];
	for (const block of blocks) {
		const lots: Lot[] = [];
		cut(block, spec.houseM, 0, chance, lots);
		for (const [x0, y0, x1, y1] of lots) {
			const by = Math.min(spec.backM * chance(), 0.3 * (x1 - x0), 0.3 * (y1 - y0));
			const lot: Lot = [x0 + by, y0 + by, x1 - by, y1 - by];
			const tall = spec.lowest + (1 - spec.lowest) * chance() ** 1.6;
			const inside = [
				[lot[0], lot[1]],
				[lot[2], lot[1]],
				[lot[2], lot[3]],
				[lot[0], lot[3]],
			].every(([x, y]) => within(ring, x, y));
			if (inside) out.push({ lot, tall });
			if (out.length >= MOST_HOUSES) return out;
		}
	}
	// Where there is room for none, there is one.
	if (out.length === 0) out.push({ lot: [low[0], -high[2], high[0], -low[2]], tall: 1 });
	return out;
}

/** What the houses take up of the plan, in the town's own metres. */
function boxOfHouses(houses: ReturnType<typeof housesOf>): { low: Vec3; high: Vec3 } {
	return boxOf(
		houses.flatMap(({ lot: [x0, y0, x1, y1] }): Vec3[] => [
			[x0, 0, -y0],
			[x1, 0, -y1],
		]),
	);
}

const known = new WeakMap<Town, ReturnType<typeof housesOf>>();

/** The houses of a town, kept for all who ask. */
function housesKept(spec: Town): ReturnType<typeof housesOf> {
	let houses = known.get(spec);
	if (!houses) {
		houses = housesOf(spec);
		known.set(spec, houses);
	}
	return houses;
}

function build(spec: Town, size: Vec3): Geometry {
	const houses = housesKept(spec);
	const { low, high } = boxOfHouses(houses);
	const by: Vec3 = [size[0] / (high[0] - low[0]), 1, size[2] / (high[2] - low[2])];
	const [cx, cz] = [(low[0] + high[0]) / 2, (low[2] + high[2]) / 2];
	const most = Math.max(...houses.map((h) => h.tall));
	const chance = randomStream(spec.seed + 7);
	const into = new Assembly();
	const hulls: Vec3[][] = [];
	let lit = 0;
	for (const { lot, tall } of houses) {
		const h = (size[1] * tall) / most;
		const [left, right] = [lot[0], lot[2]].map((v) => (v - cx) * by[0]);
		const [back, front] = [lot[3], lot[1]].map((v) => (-v - cz) * by[2]);
		into.box("houses", 0, [left, 0, back], [right, h, front]);
		hulls.push([left, right].flatMap((x) => [back, front].flatMap((z) => [0, h].map((y): Vec3 => [x, y, z]))));
		const walls: [along: number, at: (s: number, y: number) => Vec3][] = [
			[right - left, (s, y) => [left + s, y, front + WINDOW.out]],
			[right - left, (s, y) => [right - s, y, back - WINDOW.out]],
			[front - back, (s, y) => [right + WINDOW.out, y, front - s]],
			[front - back, (s, y) => [left - WINDOW.out, y, back + s]],
		];
		const panes = walls.flatMap(([wide, at]) => panesOf(wide, h, spec.lit, chance, at)).slice(0, MOST_LIT);
		if (panes.length) into.faces("lit windows", LIT, panes);
		lit += panes.length;
	}
	return fromMetres(into.built(), size, { hulls, closed: lit === 0, assembled: true });
}

/** The windows with light in one wall: `at` lays a place along it and up. */
function panesOf(
	wide: number,
	h: number,
	share: number,
	chance: () => number,
	at: (s: number, y: number) => Vec3,
): Vec3[][] {
	const bays = Math.floor(wide / WINDOW.apart);
	return Array.from({ length: Math.max(1, Math.floor(h / STOREY_M)) * bays }, (_, k): Vec3[] => {
		const lit = chance() < share;
		const x = (((k % bays) + 0.5) * wide) / bays - WINDOW.across / 2;
		const y = Math.min(h - WINDOW.tall, Math.floor(k / bays) * STOREY_M + 0.9);
		if (!lit || y < 0.1) return [];
		const [right, top] = [x + WINDOW.across, y + WINDOW.tall];
		return [at(x, y), at(right, y), at(right, top), at(x, top)];
	}).filter((pane) => pane.length > 0);
}

export const town: ShapeMaker<Town> = {
	usual: { tall: 0.12 },
	drawn: {
		...planDrawn((shape: Town) => boxOfHouses(housesKept(shape))),
		lies: true,
		heightM: 14,
	},
	sized: () => true,
	surfaces: windowSurfaces,
	evaluate: build,
};
