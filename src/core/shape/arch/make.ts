import type { Shape } from "../../doc/schema/piece.ts";
import { asin, atan2, cos, sin } from "../../maths/functions.ts";
import type { Vec3 } from "../../maths/vec.ts";
import { Builder } from "../builder.ts";
import type { ShapeMaker } from "../geometry.ts";
import { RISES } from "../heads.ts";
import { fromMetres, isLength } from "../metric.ts";
import { addSlab, type Lay, type Spot, slabHulls } from "../profile.ts";

type Arch = Extract<Shape, { kind: "arch" }>;

/** Part of the width that the opening takes at most, and part of the height. */
const MOST_OPEN = 0.98;
/** Part of the width that it takes by itself. */
const USUAL_SPAN = 0.7;

const STEPS = 24;

/** The measures of an arch of a size as it is built: what was left to it, and what fits. Metres. */
export function archOf({ spanM, springM, curve }: Arch, [w, h]: Vec3): { span: number; spring: number; rise: number } {
	const span = Math.min(spanM ?? USUAL_SPAN * w, MOST_OPEN * w);
	const most = MOST_OPEN * h;
	const wanted = RISES[curve] * span;
	// By itself as high as leaves as much above its crown as it has at its sides.
	const own = Math.max(0, Math.min(most, h - (w - span) / 2) - wanted);
	const some = (v: number) => (isLength(v) ? v : 0);
	const spring = some(Math.min(springM ?? own, most));
	return { span, spring, rise: some(Math.min(wanted, most - spring)) };
}

/** A stretch of the curve from right to left with its normals, which look down into the opening. */
function bow(a0: number, a1: number, at: (angle: number) => [spot: Spot, normal: Spot]): [Spot, Spot][] {
	return Array.from({ length: STEPS + 1 }, (_, i) => at(a0 + ((a1 - a0) * i) / STEPS));
}

/** The curve above a span about x = 0, from its right spring to its left, in smooth stretches. */
function bows(curve: Arch["curve"], span: number, spring: number, rise: number): [Spot, Spot][][] {
	const half = span / 2;
	if (rise <= 0 || curve === "straight") return [];
	if (curve === "pointed") {
		// Two arcs about the springs' line, each through one spring and the point between them.
		const radius = (half * half + rise * rise) / (2 * half);
		const end = asin(Math.min(1, rise / radius));
		const stretch = Math.max(0.01, end);
		const arc =
			(side: 1 | -1) =>
			(a: number): [Spot, Spot] => [
				[side * (half - radius + radius * cos(a)), spring + radius * sin(a)],
				[-side * cos(a), -sin(a)],
			];
		const right = bow(0, stretch, arc(1));
		right[STEPS][0] = [0, spring + rise];
		const left = bow(0, stretch, arc(-1)).reverse();
		left[0][0] = [0, spring + rise];
		return [right, left];
	}
	if (curve === "low" && rise < half) {
		const radius = (half * half + rise * rise) / (2 * rise);
		const from = atan2(radius - rise, half);
		return [
			bow(from, Math.PI - from, (a) => [
				[radius * cos(a), spring + rise - radius + radius * sin(a)],
				[-cos(a), -sin(a)],
			]),
		];
	}
	return [
		bow(0, Math.PI, (a) => [
			[half * cos(a), spring + rise * sin(a)],
			[-cos(a) * rise, -sin(a) * half],
		]),
	];
}

export const arch: ShapeMaker<Arch> = {
	usual: { tall: 0.9, deep: 0.3 },
	sized: () => true,
	found: (spec, size) => {
		const { span, spring } = archOf(spec, size);
		return { spanM: span, springM: spring };
	},
	evaluate: (spec, size) => {
		const [w, h, d] = size;
		const { span, spring, rise } = archOf(spec, size);
		const half = span / 2;
		const stretches = bows(spec.curve, span, spring, rise);
		// The same ends for all: the springs as they are, and each place of the curve once.
		for (const [i, stretch] of stretches.entries()) {
			if (i === 0) stretch[0][0] = [half, spring];
			if (i === stretches.length - 1) stretch[stretch.length - 1][0] = [-half, spring];
		}
		const curve: Spot[] = stretches.length
			? stretches.flatMap((s, i) => s.slice(i ? 1 : 0).map(([spot]) => spot))
			: [
					[half, spring],
					[-half, spring],
				];
		const up = spring > 0;
		const side = (s: 1 | -1): Spot[] => {
			const inner: Spot[] = [...(up ? [[s * half, 0] as Spot] : []), [s * half, spring], [s * half, h]];
			const outer: Spot[] = [
				[(s * w) / 2, h],
				[(s * w) / 2, 0],
			];
			return s < 0 ? [outer[1], ...inner, outer[0]] : [outer[0], ...inner.reverse(), outer[1]];
		};
		const over = curve.slice(1).map((q, i): Spot[] => [curve[i], [curve[i][0], h], [q[0], h], q]);
		const parts = [side(-1), ...over, side(1)];
		const top: Spot[] = [[w / 2, h], ...curve.map(([x]): Spot => [x, h]), [-w / 2, h]];
		const edge = [
			{
				face: "right",
				spots: [
					[w / 2, 0],
					[w / 2, h],
				] as Spot[],
			},
			{ face: "top", spots: top },
			{
				face: "left",
				spots: [
					[-w / 2, h],
					[-w / 2, 0],
				] as Spot[],
			},
			...(up
				? [
						{
							face: "left jamb",
							spots: [
								[-half, 0],
								[-half, spring],
							] as Spot[],
						},
					]
				: []),
			...(up
				? [
						{
							face: "right jamb",
							spots: [
								[half, spring],
								[half, 0],
							] as Spot[],
						},
					]
				: []),
		];
		const b = new Builder();
		const lay: Lay = (x, y, out) => [x, y, out];
		const under = stretches.length
			? stretches
					.map((s, i) => ({
						face: stretches.length > 1 ? `soffit ${["right", "left"][i]}` : "soffit",
						spots: s.map(([spot]) => spot).reverse(),
						normals: s.map(([, n]) => n).reverse(),
					}))
					.reverse()
			: [{ face: "soffit", spots: [...curve].reverse() }];
		const feet = [
			{
				face: "left foot",
				spots: [
					[-w / 2, 0],
					[-half, 0],
				] as Spot[],
			},
			{
				face: "right foot",
				spots: [
					[half, 0],
					[w / 2, 0],
				] as Spot[],
			},
		];
		addSlab(b, parts, [...edge, ...under, ...feet], d / 2, lay, ["near", "away"]);
		return fromMetres(b, size, { hulls: slabHulls(parts, d / 2, lay) });
	},
};
