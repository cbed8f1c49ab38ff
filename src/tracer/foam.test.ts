import { describe, expect, it } from "vitest";
import { ID_WATER } from "../core/scene/ids.ts";
import { traceAtOnce } from "./testing.ts";
import { testScene } from "./testScene.ts";

/** A still sea under a bright sky, white in a share of it. */
function seaOf(share: number | null) {
	const scene = testScene([], { camera: { position: [0, 3, 0], pitchDeg: -40 } });
	const fan = { columns: 8, rows: 8, x: 0, z: 0, firstRad: -2, stepRad: 4 / 7, firstM: 0.5, growth: 1 };
	if (share !== null) scene.parts.set("foam", { kind: "table", key: "foam", data: new Float32Array(64).fill(share) });
	scene.root.water = {
		levelM: 0,
		waves: [],
		absorbPerM: [9, 9, 9],
		...(share !== null && { foam: { ...fan, shares: "foam" } }),
	};
	const p = traceAtOnce(scene, { width: 48, height: 48, seed: 3, uniformSky: [1, 1, 1] }, 32);
	expect(p.id.every((id) => id === ID_WATER)).toBe(true);
	const mean = (plane: Float32Array) => plane.reduce((s, v) => s + v, 0) / plane.length;
	const { rgb, albedo } = p;
	const deviation = Math.sqrt(mean(albedo[0].map((v) => (v - mean(albedo[0])) ** 2)));
	return { light: mean(rgb[1]), white: mean(albedo[1]), deviation };
}

describe("foam in a traced picture", () => {
	it("sends back what a rough white does, all over where all of the sea is foam", () => {
		const { light, white, deviation } = seaOf(1);
		expect(light / 0.78).toBeGreaterThan(0.97);
		expect(light / 0.78).toBeLessThan(1.04);
		expect(white / 0.78).toBeGreaterThan(0.97);
		expect(deviation).toBeLessThan(0.06);
	});
	it("is lace that covers about its share, and no white where there is none", () => {
		const [none, half] = [seaOf(null), seaOf(0.5)];
		// Water without foam has the colour of what it mirrors of the sky.
		expect(none.white).toBeGreaterThan(0.02);
		expect(none.white).toBeLessThan(0.1);
		expect(half.white / 0.78).toBeGreaterThan(0.35);
		expect(half.white / 0.78).toBeLessThan(0.65);
		expect(half.deviation).toBeGreaterThan(0.15);
		expect(seaOf(0)).toEqual(none);
	});
});
