import { describe, expect, it } from "vitest";
import { luminance } from "../colour/linear.ts";
import { blankShot } from "../doc/defaults.ts";
import { atmosphereTables, SUN_LUX, sunTransmittance } from "./atmosphere.ts";
import { cloudTile } from "./cloud.ts";
import { makeDome, outsideLight, skyFor, skyGrid, skyLuminance } from "./dome.ts";

const air = { ...blankShot().air, cloud: { cover: 0, seed: 1 } };
const tables = atmosphereTables(1);

const lux = (elevationDeg: number) => {
	const dome = makeDome(
		{ ...air, sun: { headingDeg: 20, elevationDeg } },
		tables,
		skyFor(tables, elevationDeg),
		cloudTile(0, 1),
	);
	let sky = 0;
	const n = 60;
	for (let j = 0; j < n; j++)
		for (let i = 0; i < 4 * n; i++) {
			const y = (j + 0.5) / n;
			const a = ((i + 0.5) / (4 * n)) * 2 * Math.PI;
			const s = Math.sqrt(1 - y * y);
			sky += (skyLuminance(dome, [s * Math.sin(a), y, s * Math.cos(a)])[1] * y * 2 * Math.PI) / n / (4 * n);
		}
	return { sun: dome.sunLux[1], sky, dome };
};

describe("sky", () => {
	it("gives about 100,000 lx of clear noon sun and a blue sky of a tenth to a fifth of it", () => {
		const noon = lux(60);
		expect(noon.sun).toBeGreaterThan(85_000);
		expect(noon.sun).toBeLessThan(SUN_LUX);
		expect(noon.sky / noon.sun).toBeGreaterThan(0.05);
		expect(noon.sky / noon.sun).toBeLessThan(0.3);
		const up = skyLuminance(noon.dome, [0, 1, 0]);
		expect(up[2]).toBeGreaterThan(1.5 * up[0]);
	});
	it("reddens the sun as it sinks and takes it away below the horizon", () => {
		const high = sunTransmittance(tables, 1);
		const low = sunTransmittance(tables, 0.05);
		expect(low[2] / low[0]).toBeLessThan(0.5 * (high[2] / high[0]));
		expect(sunTransmittance(tables, -0.02)).toEqual([0, 0, 0]);
		expect(lux(-4).sky).toBeLessThan(lux(2).sky * 0.3);
	});
	it("offers a grid of running sums that end at 1 and favour the bright side", () => {
		const { dome } = lux(10);
		const grid = skyGrid((d) => skyLuminance(dome, d));
		expect(grid[47]).toBe(1);
		for (let i = 1; i < 48; i++) expect(grid[i]).toBeGreaterThan(grid[i - 1]);
	});
});

describe("the moon", () => {
	const moon = { on: true, headingDeg: 300, elevationDeg: 40, lit: 1 };
	const night = (sunDeg: number, over = {}) => {
		const sky = { ...air, sun: { headingDeg: 20, elevationDeg: sunDeg }, moon: { ...moon, ...over } };
		const { sky: source, share } = outsideLight(sky);
		return makeDome(sky, tables, skyFor(tables, source.elevationDeg, share), cloudTile(0, 1));
	};
	it("gives a quarter of a lux when it is full and high, a tenth of that when half of it is lit", () => {
		expect(luminance(night(-30).sunLux)).toBeGreaterThan(0.2);
		expect(luminance(night(-30).sunLux)).toBeLessThan(0.3);
		expect(luminance(night(-30, { lit: 0.5 }).sunLux) / luminance(night(-30).sunLux)).toBeCloseTo(0.11, 2);
	});
	it("does not count while the sun is up, is the disc at dusk, and lights the sky at night", () => {
		expect(luminance(night(5).sunLux)).toBeGreaterThan(100);
		const dusk = night(-5);
		expect(dusk.sunDirection).not.toEqual(dusk.skyDirection);
		const dark = night(-18);
		expect(dark.sunDirection).toEqual(dark.skyDirection);
		const up = (d: ReturnType<typeof night>) => luminance(skyLuminance(d, [0, 1, 0]));
		expect(up(dusk)).toBeGreaterThan(20 * up(dark));
		expect(up(dark)).toBeGreaterThan(1e-5);
		expect(luminance(night(-18, { elevationDeg: -10 }).sunLux)).toBe(0);
	});
});
