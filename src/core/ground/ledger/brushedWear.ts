/** Wear along strokes of a brush: an entry that wears by water within a place about all of its lines, and holds along them. */
import { LandEntry, MOST_LINES } from "../../doc/schema.ts";
import { millimetres } from "../../maths/functions.ts";
import { newEntry } from "./ledger.ts";

type Rain = Extract<LandEntry, { kind: "water" }>;
type Lines = Extract<LandEntry["where"][number], { kind: "along lines" }>;
type Spot = [number, number];

/** Of the brush's radius: how far it wears with all its strength; the rest goes over. */
const WHOLE = 0.55;
/** Cells over its radius, and how fine and coarse the square about its lines may be. */
const CELLS = 9;
const [COARSEST, FINEST] = [6, 10];
/** The land about the lines that rain comes down from, as a share of the radius; at least so many metres. */
const ABOUT = 1;
const LEAST_M = 5;
/** How unlike the radius of another stroke may be. */
const UNLIKE = 0.2;

const linesOf = (entry: LandEntry): Lines | null => {
	const { where } = entry;
	return where.length === 1 && where[0].kind === "along lines" && !where[0].not ? where[0] : null;
};

/** The circle about places, and a square's fineness for a brush. */
function placeFor(points: readonly Spot[], radiusM: number) {
	const range = (k: 0 | 1) => [Math.min(...points.map((p) => p[k])), Math.max(...points.map((p) => p[k]))];
	const [[x0, x1], [z0, z1]] = [range(0), range(1)];
	const [x, z] = [(x0 + x1) / 2, (z0 + z1) / 2];
	const reach = Math.max(...points.map((p) => Math.sqrt((p[0] - x) ** 2 + (p[1] - z) ** 2))) + (1 + ABOUT) * radiusM;
	const across = 2 * (Math.max(LEAST_M, reach) + Math.max(1, ABOUT * radiusM));
	return { x, z, reach, fineness: Math.ceil(Math.log2((CELLS * across) / radiusM)) };
}

/** Whether another stroke of a brush goes to an entry: it is one of strokes as wide and as strong, and its square stays fine enough. */
export function wornFurther(entry: LandEntry, radiusM: number, power: number): boolean {
	const lines = linesOf(entry);
	if (entry.kind !== "water" || entry.out || !lines || lines.lines.length >= MOST_LINES) return false;
	const own = lines.radiusM / WHOLE;
	return Math.abs(own / radiusM - 1) < UNLIKE && entry.power === power && entry.fineness < FINEST;
}

/** The entry with one line more; a new one of an id where there is none. */
export function wornAlong(
	entry: LandEntry | null,
	id: string,
	line: Spot[],
	radiusM: number,
	power: number,
): LandEntry {
	const before = entry && linesOf(entry);
	const lines = [...(before?.lines ?? []), line];
	const wide = before ? before.radiusM / WHOLE : radiusM;
	const { x, z, reach, fineness } = placeFor(lines.flat(), wide);
	const own: Partial<Rain> = {
		x: millimetres(x),
		z: millimetres(z),
		radiusM: Math.max(LEAST_M, millimetres(reach)),
		featherM: Math.max(1, millimetres(ABOUT * wide)),
		fineness: Math.min(FINEST, Math.max(COARSEST, fineness)),
		power,
		where: [
			{
				kind: "along lines",
				not: false,
				lines,
				radiusM: millimetres(WHOLE * wide),
				featherM: millimetres((1 - WHOLE) * wide),
			},
		],
	};
	return LandEntry.parse({ ...(entry ?? newEntry("water", id, x, z)), ...own });
}
