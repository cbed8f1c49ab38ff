import type { Shape } from "../../doc/schema/piece.ts";
import { Builder } from "../builder.ts";
import type { ShapeMaker } from "../geometry.ts";
import { fromMetres } from "../metric.ts";
import { addSlab, type Lay, type Spot, slabHulls } from "../profile.ts";

/** Seen from its right side: away to the right, up upwards, the foot's near edge at 0. */
export const stair: ShapeMaker<Extract<Shape, { kind: "stair" }>> = {
	usual: { tall: 0.7, deep: 1.4 },
	sized: ({ flightM }) => flightM !== null,
	evaluate: ({ steps, flightM }, size) => {
		const [w, h, d] = flightM === null ? [1, 1, 1] : size;
		const own = [w, h, d] as const;
		const at = (i: number) => (i / steps) * d;
		const up = (i: number) => (i / steps) * h;
		/** Where the underside leaves the foot, and its height beyond: a line as far below the steps' inner corners as the flight is thick. */
		const leaves = flightM === null ? d : Math.min(d, (flightM / h) * d);
		const low = (z: number) => (flightM === null || z <= leaves ? 0 : (z / d) * h - flightM);
		const parts: Spot[][] = [];
		const under: Spot[] = [[0, 0]];
		for (let i = 0; i < steps; i++) {
			const [z0, z1] = [at(i), at(i + 1)];
			const below: Spot[] = [[z0, low(z0)]];
			// A corner where it leaves, unless that is at a step's own.
			if (leaves > z0 + 1e-6 * d && leaves < z1 - 1e-6 * d) below.push([leaves, 0]);
			below.push([z1, low(z1)]);
			under.push(...below.slice(1));
			const back: Spot[] = i > 0 ? [[z0, up(i)]] : [];
			parts.push([[z1, up(i + 1)], [z0, up(i + 1)], ...back, ...below]);
		}
		const treads: Spot[] = [];
		for (let i = steps; i > 0; i--) treads.push([at(i), up(i)], [at(i - 1), up(i)]);
		const foot = under.filter(([z], i) => low(z) === 0 && (i === 0 || low(under[i - 1][0]) === 0));
		const soffit = under.slice(foot.length - 1);
		const b = new Builder();
		const lay: Lay = (z, y, out) => [out, y, d / 2 - z];
		addSlab(
			b,
			parts,
			[
				{
					face: "away",
					spots: [
						[d, low(d)],
						[d, h],
					],
				},
				...treads.slice(1).map((spot, i) => ({
					face: `${i % 2 ? "riser" : "tread"} ${steps - (i >> 1)}`,
					spots: [treads[i], spot],
				})),
				{ face: "riser 1", spots: [treads[treads.length - 1], [0, 0]] },
				...(foot.length > 1 ? [{ face: "foot", spots: foot }] : []),
				...(soffit.length > 1 ? [{ face: "soffit", spots: soffit }] : []),
			],
			w / 2,
			lay,
			["right", "left"],
		);
		return fromMetres(b, own, { hulls: slabHulls(parts, w / 2, lay) });
	},
};
