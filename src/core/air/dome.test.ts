import { describe, expect, it } from "vitest";
import { luminance } from "../colour/linear.ts";
import { blankShot } from "../doc/defaults.ts";
import { DEG } from "../maths/functions.ts";
import type { Vec3 } from "../maths/vec.ts";
import { airExtinction, atmosphereTables, sunTransmittance } from "./atmosphere.ts";
import { cloudTile } from "./cloud.ts";
import { GRID_HEIGHT, GRID_WIDTH, makeDome, skyFor, skyGrid, skyLuminance, sunDirection } from "./dome.ts";

const still = { ...blankShot().air, cloud: { cover: 0, seed: 1 } };
const none = cloudTile(0, 1);
const clear = atmosphereTables(1);
const hazy = atmosphereTables(6);
const domeAt = (elevationDeg: number, headingDeg = 0, tables = clear) =>
	makeDome({ ...still, sun: { headingDeg, elevationDeg } }, tables, skyFor(tables, elevationDeg), none);
const way = (headingDeg: number, elevationDeg: number): Vec3 => sunDirection({ headingDeg, elevationDeg });

describe("the sun's direction", () => {
	it("counts headings clockwise from −Z and heights from the horizon", () => {
		const near = (d: Vec3, e: Vec3) => d.forEach((v, i) => expect(v).toBeCloseTo(e[i], 9));
		near(way(0, 0), [0, 0, -1]);
		near(way(90, 0), [1, 0, 0]);
		near(way(123, 90), [0, 1, 0]);
		for (let h = 0; h < 360; h += 37) expect(Math.hypot(...way(h, 21))).toBeCloseTo(1, 9);
	});
});

describe("the light of the sun through the air", () => {
	it("never grows as the sun sinks, and blue goes before red", () => {
		let before = sunTransmittance(clear, Math.PI / 2);
		let ratio = before[2] / before[0];
		for (let e = 80; e >= 1; e -= 3) {
			const now = sunTransmittance(clear, e * DEG);
			now.forEach((v, c) => expect(v).toBeLessThanOrEqual(before[c] + 1e-6));
			expect(now[2] / now[0]).toBeLessThanOrEqual(ratio + 1e-6);
			before = now;
			ratio = now[2] / now[0];
		}
	});
	it("is less in haze", () => {
		for (const e of [3, 20, 70])
			expect(luminance(sunTransmittance(hazy, e * DEG))).toBeLessThan(luminance(sunTransmittance(clear, e * DEG)));
		airExtinction(6).forEach((v, c) => expect(v).toBeGreaterThan(airExtinction(1)[c]));
	});
});

describe("the sky", () => {
	it("is the same on both sides of the sun", () => {
		const dome = domeAt(14, 40);
		for (const [turn, e] of [
			[20, 5],
			[75, 30],
			[140, 12],
		])
			skyLuminance(dome, way(40 + turn, e)).forEach((v, c) =>
				expect(v / skyLuminance(dome, way(40 - turn, e))[c]).toBeCloseTo(1, 4),
			);
	});
	it("turns with the sun and with nothing else", () => {
		const [a, b] = [domeAt(20, 0), domeAt(20, 115)];
		for (const [h, e] of [
			[10, 4],
			[90, 40],
			[200, 15],
		])
			skyLuminance(a, way(h, e)).forEach((v, c) => expect(skyLuminance(b, way(h + 115, e))[c] / v).toBeCloseTo(1, 3));
	});
	it("glows about the sun, more so in haze, and is darkest well away from it", () => {
		const glow = (tables: typeof clear) => {
			const dome = domeAt(25, 0, tables);
			return luminance(skyLuminance(dome, way(0, 29))) / luminance(skyLuminance(dome, way(180, 65)));
		};
		expect(glow(clear)).toBeGreaterThan(2);
		expect(glow(hazy)).toBeGreaterThan(glow(clear));
	});
	it("dims through twilight and keeps no light from below the horizon's sun", () => {
		let before = Infinity;
		for (const e of [8, 2, -2, -6, -10, -16]) {
			const now = luminance(skyLuminance(domeAt(e), way(0, 20)));
			expect(now).toBeLessThan(before);
			expect(now).toBeGreaterThanOrEqual(0);
			before = now;
		}
		expect(domeAt(-3).sunLux).toEqual([0, 0, 0]);
	});
	it("is never negative or unknown, wherever the sun stands", () => {
		for (const sun of [-18, -1, 0, 3, 45, 90]) {
			const dome = domeAt(sun);
			for (let h = 0; h < 360; h += 30)
				for (const e of [0.01, 1, 20, 89])
					for (const v of skyLuminance(dome, way(h, e))) {
						expect(Number.isFinite(v)).toBe(true);
						expect(v).toBeGreaterThanOrEqual(0);
					}
		}
	});
});

describe("cloud", () => {
	it("covers as much as it is told, and none when it is told none", () => {
		const covered = (cover: number) => cloudTile(cover, 3).reduce((n, v) => n + 1 - Math.exp(-v), 0) / none.length;
		expect(covered(0)).toBe(0);
		let before = 0;
		for (const cover of [0.2, 0.4, 0.6, 0.8, 1]) {
			expect(covered(cover)).toBeGreaterThan(before);
			before = covered(cover);
		}
	});
	it("repeats without a seam", () => {
		const tile = cloudTile(0.7, 5);
		const side = Math.sqrt(tile.length);
		let seam = 0;
		let inner = 0;
		for (let i = 0; i < side; i++) {
			seam += Math.abs(tile[i * side] - tile[i * side + side - 1]) + Math.abs(tile[i] - tile[(side - 1) * side + i]);
			inner +=
				Math.abs(tile[i * side + 100] - tile[i * side + 99]) + Math.abs(tile[100 * side + i] - tile[99 * side + i]);
		}
		expect(seam).toBeLessThan(inner * 1.6 + 0.5);
	});
});

describe("the grid by which the sky is chosen", () => {
	it("has rising sums in each row, ends at one, and gives each row what it shines", () => {
		const dome = domeAt(12, 70);
		const grid = skyGrid((d) => skyLuminance(dome, d));
		expect(grid).toHaveLength(GRID_HEIGHT * (GRID_WIDTH + 1));
		for (let j = 0; j < GRID_HEIGHT; j++) {
			const row = grid.subarray(GRID_HEIGHT + j * GRID_WIDTH, GRID_HEIGHT + (j + 1) * GRID_WIDTH);
			expect(row[GRID_WIDTH - 1]).toBe(1);
			for (let i = 1; i < GRID_WIDTH; i++) expect(row[i]).toBeGreaterThanOrEqual(row[i - 1]);
		}
		expect(grid[GRID_HEIGHT - 1]).toBe(1);
	});
	it("is usable under a sky without light", () => {
		const grid = skyGrid(() => [0, 0, 0]);
		expect(grid.every((v) => Number.isFinite(v))).toBe(true);
		expect(grid[GRID_HEIGHT - 1]).toBe(1);
	});
});
