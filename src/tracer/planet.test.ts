import { describe, expect, it } from "vitest";
import { blankShot } from "../core/doc/defaults.ts";
import { dipOf, EARTH_M } from "../core/ground/planet.ts";
import { compile } from "../core/scene/compile.ts";
import { ID_GROUND, ID_SKY, ID_WATER } from "../core/scene/ids.ts";
import { meet } from "./meet.ts";
import { traceAtOnce, tracerForTest } from "./testing.ts";
import { testScene } from "./testScene.ts";

/** A level lens at a height, whose frame shows twice the dip of its horizon below the level. */
function over(heightM: number, sea: boolean) {
	const doc = { ...blankShot(), pieces: [] };
	const dip = dipOf(EARTH_M, heightM);
	doc.ground = { ...doc.ground, preset: "plain", heightM: 0, ...(sea && { out: true }) };
	doc.water = { ...doc.water, on: sea, levelM: 0, rippleMm: 0 };
	doc.camera = {
		...doc.camera,
		position: [30, heightM, 12],
		pitchDeg: 0,
		rollDeg: 0,
		ratio: 1,
		film: { widthMm: 24, heightMm: 24 },
		focalMm: 12 / Math.tan(2 * dip),
		fStop: 64,
		focusM: null,
	};
	return { scene: compile(doc), dip, doc };
}
const SIDE = 800;

describe("the horizon in a traced picture", () => {
	for (const heightM of [2, 100, 10_000])
		for (const sea of heightM === 100 ? [false, true] : [true])
			it(`of ${sea ? "a sea" : "land"} from ${heightM} m lies at its dip, within 1 %`, () => {
				const { scene, dip } = over(heightM, sea);
				const area = { x: SIDE / 2, y: 0, width: 1, height: SIDE };
				const p = traceAtOnce(scene, { width: SIDE, height: SIDE, seed: 1 }, 4, [], area);
				const first = p.id.indexOf(sea ? ID_WATER : ID_GROUND);
				expect(first).toBeGreaterThan(0);
				expect(p.id[first - 1]).toBe(ID_SKY);
				const below = Math.atan(((first - SIDE / 2) / (SIDE / 2)) * Math.tan(2 * dip));
				expect(below / dip).toBeGreaterThan(0.99);
				expect(below / dip).toBeLessThan(1.01);
				// What single rays meet is the same.
				const t = tracerForTest();
				t.store.load(scene, { width: SIDE, height: SIDE, seed: 1 });
				const met = meet(t, scene, [0.5, (first - 5) / SIDE, 0.5, (first + 6) / SIDE]);
				expect([...met.ids]).toEqual([ID_SKY, sea ? ID_WATER : ID_GROUND]);
				expect(met.distancesM[1] / Math.sqrt(2 * EARTH_M * heightM)).toBeGreaterThan(0.7);
			});
});

describe("fog over a planet", () => {
	const FOG = { sigma0: 2e-4, y0: 0, scaleM: 60, g: 0 };
	/** Optical depth along a ray from a height, summed up in small steps. */
	function summed(heightM: number, rise: number, upTo = 2e6): number {
		let sum = 0;
		const n = 400_000;
		for (let i = 0; i < n; i++) {
			// Finer where it begins.
			const [a, b] = [i / n, (i + 1) / n].map((v) => upTo * v * v);
			const t = (a + b) / 2;
			const r = EARTH_M + heightM;
			const h = Math.sqrt(r * r + 2 * r * rise * t + t * t) - EARTH_M;
			sum += (b - a) * FOG.sigma0 * (h <= 0 ? 1 : Math.exp(-h / FOG.scaleM));
		}
		return sum;
	}
	/** What black fog leaves of a bright sky in a direction. */
	function left(heightM: number, rise: number): number {
		const camera = {
			position: [0, heightM, 0] as [number, number, number],
			pitchDeg: (Math.asin(rise) * 180) / Math.PI,
			focalMm: 1e5,
			fStop: 1e6,
		};
		const scene = testScene([], { camera });
		scene.root.fog = { ...scene.root.fog, ...FOG, albedo: [0, 0, 0], skyClear: false };
		scene.root.planet = { radiusM: EARTH_M, x: 0, z: 0 };
		const p = traceAtOnce(scene, { width: 3, height: 3, seed: 1, uniformSky: [1, 1, 1] }, 64);
		return p.rgb[1][4];
	}
	it("thins with the height over its sea: level, upwards, and from high above through it and out again", () => {
		for (const [heightM, rise] of [
			[2, 0],
			[2, 0.004],
			[30, 0.02],
			[300, 0],
			// Past the ground by some tens of metres at its lowest.
			[400, -Math.sqrt((2 * 370) / EARTH_M)],
			[3000, -Math.sqrt((2 * 2900) / EARTH_M)],
		]) {
			const depth = summed(heightM, rise);
			expect(Math.abs(-Math.log(left(heightM, rise)) / depth - 1), `${heightM} m, ${rise}`).toBeLessThan(0.01);
		}
	});
	it("is one of a flat world where that is so", () => {
		const scene = testScene([], { camera: { position: [0, 2, 0], pitchDeg: 3, focalMm: 1000 } });
		scene.root.fog = { ...scene.root.fog, ...FOG, albedo: [0, 0, 0], skyClear: false };
		const p = traceAtOnce(scene, { width: 3, height: 3, seed: 1, uniformSky: [1, 1, 1] }, 64);
		const depth = (FOG.sigma0 * FOG.scaleM * Math.exp(-2 / FOG.scaleM)) / Math.sin((3 * Math.PI) / 180);
		expect(p.rgb[1][4]).toBeCloseTo(Math.exp(-depth), 2);
	});
});
