/** Sections that are led along a line, each counter-clockwise as one sees it who looks along the line: right and up. */
import type { FlatPoint } from "../../doc/schema/curve.ts";
import type { Shape } from "../../doc/schema/piece.ts";
import { placesAlong } from "../../maths/curve.ts";
import { cos, sin, TAU } from "../../maths/functions.ts";
import { boxOf, counterClockwise } from "../drawn.ts";
import type { Spot } from "../profile.ts";

type Rail = Extract<Shape, { kind: "rail" }>;

/** A smooth stretch of a section's edge: its places, and which way it looks at each of them. */
export interface SectionEdge {
	name: string;
	spots: readonly Spot[];
	normals: readonly Spot[];
}

const SIDES = 16;

/** Places of the half of a section to the right of its middle, from the foot up; parts of its half width and of its height. */
const HALVES: Record<"rail" | "moulding", readonly Spot[]> = {
	rail: [
		[1, 0],
		[1, 0.12],
		[0.25, 0.22],
		[0.18, 0.68],
		[0.55, 0.76],
		[0.55, 0.95],
		[0.42, 1],
	],
	moulding: [
		[1, 0],
		[1, 0.16],
		[0.86, 0.2],
		[0.8, 0.36],
		[0.62, 0.52],
		[0.4, 0.62],
		[0.34, 0.8],
		[0.46, 0.86],
		[0.46, 1],
	],
};

const BOX: readonly Spot[] = [
	[-0.5, -0.5],
	[0.5, -0.5],
	[0.5, 0.5],
	[-0.5, 0.5],
];

/** An outline of straight edges, each looking its own way. */
const straightEdges = (ring: readonly Spot[]): SectionEdge[] =>
	ring.map((p, i) => {
		const q = ring[(i + 1) % ring.length];
		const out: Spot = [q[1] - p[1], p[0] - q[0]];
		return { name: `side ${i}`, spots: [p, q], normals: [out, out] };
	});

function ownEdges(outline: readonly FlatPoint[]): SectionEdge[] {
	const { low, high } = boxOf(placesAlong(outline, true).map(([x, y]) => [x, y, 0]));
	const [w, h] = [high[0] - low[0], high[1] - low[1]];
	return counterClockwise(outline).map(({ n, spots, ways }) => ({
		name: `side ${n}`,
		spots: spots.map(([x, y]): Spot => [(x - low[0]) / w - 0.5, (y - low[1]) / h - 0.5]),
		normals: ways.map(([x, y]): Spot => [y / h, -x / w]),
	}));
}

/** The section of a rail in metres about its line, as edges. */
export function sectionOf({ section, acrossM, tallM, outline }: Rail): SectionEdge[] {
	const edges = (): SectionEdge[] => {
		if (section === "round") {
			const at = (i: number): Spot => [0.5 * cos(((i % SIDES) / SIDES) * TAU), 0.5 * sin(((i % SIDES) / SIDES) * TAU)];
			const all = Array.from({ length: SIDES + 1 }, (_, i) => at(i));
			return [{ name: "side", spots: all, normals: all }];
		}
		if (section === "own" && outline) return ownEdges(outline);
		if (section === "rail" || section === "moulding") {
			const half = HALVES[section].map(([x, y]): Spot => [x / 2, y - 0.5]);
			return straightEdges([...half, ...half.map(([x, y]): Spot => [-x, y]).reverse()]);
		}
		return straightEdges(BOX);
	};
	return edges().map(({ name, spots, normals }) => ({
		name,
		spots: spots.map(([x, y]): Spot => [x * acrossM, y * tallM]),
		normals: normals.map(([x, y]): Spot => [x / acrossM, y / tallM]),
	}));
}
