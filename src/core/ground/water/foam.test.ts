import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../../doc/defaults.ts";
import type { Ground } from "../../doc/schema.ts";
import { compileFoam } from "../../scene/compileWaters.ts";
import { NO_BLOBS, NO_MAKERS } from "../../scene/inputs.ts";
import { Making } from "../../scene/making.ts";
import { PartCache } from "../../scene/partCache.ts";
import { STILL } from "../../time/frames.ts";
import { groundHeight } from "../height.ts";
import { footOver } from "../testing.ts";
import { seaOf, windWaves } from "../waves.ts";
import { above, fanBefore, foamOf, whitecaps } from "./foam.ts";

const wind = { windMs: 7, fetchM: 3000 };
const sea = { levelM: 0, windMs: 7, heightM: seaOf(wind).heightM, waves: [] };
/** Land that rises to the right by 1 in 20, its shore before the lens. */
const beach: Ground = {
	preset: "plain",
	seed: 1,
	heightM: 0,
	levelM: -2,
	ledger: [
		{
			kind: "hand",
			id: "h",
			out: false,
			where: [],
			strokes: [
				{ tool: "pull", points: [[90, -400] as [number, number], [90, 400] as [number, number]], radiusM: 90, byM: 6 },
			],
		},
	],
};
const fan = fanBefore({ ...footOver(beach, 4, { x: 40, z: 0 }), headingDeg: 0 });
const placeOf = (n: number): [number, number] => {
	const heading = fan.firstRad + (n % fan.columns) * fan.stepRad;
	const far = fan.firstM * Math.exp(Math.floor(n / fan.columns) * fan.growth);
	return [fan.x + Math.sin(heading) * far, fan.z - Math.cos(heading) * far];
};

describe("foam on the sea", () => {
	it("lies where the water is no deeper than waves that break, and none on land or far out", () => {
		const shares = foamOf(beach, sea, [], fan);
		const [breaks, seen] = [sea.heightM / 0.78, { shore: 0, out: 0, land: 0 }];
		shares.forEach((share, n) => {
			const depth = -groundHeight(beach, ...placeOf(n));
			expect(share).toBeGreaterThanOrEqual(0);
			expect(share).toBeLessThanOrEqual(1);
			if (depth <= 0) {
				seen.land++;
				expect(share).toBe(0);
			} else if (depth > breaks) {
				seen.out++;
				expect(share).toBe(0);
			} else if (depth < 0.1 * breaks) {
				seen.shore++;
				expect(share).toBeGreaterThan(0.9);
			}
		});
		for (const count of Object.values(seen)) expect(count).toBeGreaterThan(50);
	});
	it("is white about what stands in it, as wide as its waves are high", () => {
		const post = {
			x: 42,
			z: -12,
			reachM: 0.3,
			farM: (x: number, z: number) => Math.max(0, Math.hypot(x - 42, z + 12) - 0.3),
		};
		const shares = foamOf(null, sea, [post], fan);
		const around = 0.1 + 0.5 * sea.heightM;
		let white = 0;
		shares.forEach((share, n) => {
			const [x, z] = placeOf(n);
			const far = post.farM(x, z);
			if (far >= around) expect(share).toBe(0);
			else if (far < 0.1 * around) white += share > 0.8 ? 1 : 0;
		});
		expect(white).toBeGreaterThan(3);
	});
	it("is on as much of the open sea as a wind makes white", () => {
		// The share of the law at 10 m/s is about 1 %, at 20 m/s about 10 %.
		expect(whitecaps(10)).toBeCloseTo(0.00987, 3);
		expect(whitecaps(20)).toBeGreaterThan(0.09);
		for (const [share, z] of [
			[0.5, 0],
			[0.1587, 1],
			[0.02275, 2],
			[0.00135, 3],
		])
			expect(above(share)).toBeCloseTo(z, 1);
		const windMs = 17;
		const of = { windMs, fetchM: 8000 };
		let [sum, n] = [0, 0];
		for (let timeS = 0; timeS < 60; timeS += 15) {
			const waves = windWaves(of, 5, timeS, 40);
			const shares = foamOf(null, { levelM: 0, windMs, heightM: seaOf(of).heightM, waves }, [], fan);
			// By area: places of the fan lie ever farther apart.
			for (let k = 0; k < shares.length; k += 7) {
				const far = Math.exp(Math.floor(k / fan.columns) * fan.growth);
				sum += shares[k] * far * far;
				n += far * far;
			}
		}
		expect(sum / n / whitecaps(windMs)).toBeGreaterThan(0.4);
		expect(sum / n / whitecaps(windMs)).toBeLessThan(2.5);
	});
	it("comes into the scene with a wind, for what stands in the sea", () => {
		const doc = { ...blankShot(), ground: { ...beach, ledger: [] } };
		doc.water = { ...doc.water, on: true, levelM: 0, ...wind };
		doc.pieces = [newPiece("post", "box", { position: [0, -2, -14], stands: "level", size: [0.4, 4, 0.4] })];
		const tableOf = (of: typeof doc) => {
			const making = new Making(of, STILL, NO_BLOBS, NO_MAKERS, new PartCache());
			const foam = compileFoam(making, [], () => footOver(of.ground, 4));
			const part = foam && making.parts.get(foam.shares);
			return part?.kind === "table" ? part.data : null;
		};
		const sum = (t: Float32Array | null) => t?.reduce((s, v) => s + v, 0) ?? 0;
		expect(sum(tableOf(doc))).toBeGreaterThan(sum(tableOf({ ...doc, pieces: [] })));
		expect(tableOf({ ...doc, water: { ...doc.water, windMs: 0 } })).toBeNull();
		expect(tableOf({ ...doc, water: { ...doc.water, windMs: 0.5, fetchM: 20 } })).toBeNull();
	});
});
