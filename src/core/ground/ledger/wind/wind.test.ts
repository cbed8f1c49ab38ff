import { describe, expect, it } from "vitest";
import { blankShot } from "../../../doc/defaults.ts";
import { LandEntry } from "../../../doc/schema.ts";
import { entryOf, newEntry } from "../ledger.ts";

const drifts = (over: object = {}) => {
	const entry = LandEntry.parse({ ...newEntry("wind", "w", 0, 0), share: 1, sizeM: 20, heightM: 2, ...over });
	const maker = entryOf(entry);
	if (!("made" in maker)) throw new Error("Wind is told by one place.");
	return maker.made(entry, () => 0, blankShot().ground);
};

describe("drifts that wind has heaped", () => {
	it("rise gently with the wind and fall steeply to the lee, whichever way it blew", () => {
		for (const headingDeg of [0, 60, 200]) {
			const at = drifts({ headingDeg });
			const [right, away] = [Math.sin((headingDeg * Math.PI) / 180), Math.cos((headingDeg * Math.PI) / 180)];
			const heights = Array.from({ length: 4000 }, (_, i) => at(0, i * 0.1 * right, -i * 0.1 * away));
			const steps = heights.slice(1).map((h, i) => h - heights[i]);
			const [up, down] = [steps.filter((s) => s > 1e-6), steps.filter((s) => s < -1e-6)];
			expect(up.length).toBeGreaterThan(1.6 * down.length);
			expect(-Math.min(...down)).toBeGreaterThan(1.5 * Math.max(...up));
			expect(Math.max(...heights)).toBeLessThanOrEqual(2.6);
			expect(Math.max(...heights)).toBeGreaterThan(1);
		}
	});
	it("lie on about the share of the land that is told, and only heap up", () => {
		const bare = (share: number) => {
			const at = drifts({ share, sizeM: 6 });
			const all = Array.from({ length: 3000 }, (_, i) => at(0, ((i * 37) % 997) - 500, ((i * 91) % 1009) - 500));
			expect(Math.min(...all)).toBeGreaterThanOrEqual(0);
			return all.filter((h) => h < 1e-9).length / all.length;
		};
		expect(bare(1)).toBeLessThan(0.1);
		expect(bare(0.2)).toBeGreaterThan(bare(0.6) + 0.2);
	});
});
