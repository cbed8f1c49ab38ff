import { describe, expect, it } from "vitest";
import { blankShot } from "../../core/doc/defaults.ts";
import { characterOf } from "../../core/lens/character.ts";
import { guidePath } from "./Guides.tsx";
import { shownView } from "./geometry.ts";

const camera = { ...blankShot().camera, pitchDeg: 8, rollDeg: 0 };
const finish = blankShot().finish;
const bent = (bend: number) => ({ lens: { ...characterOf(finish), bend } });
const places = (path: string) =>
	path
		.slice(1)
		.split("L")
		.map((p) => p.split(" ").map(Number));

describe("the horizon among the guides", () => {
	it("is one straight line through a straight lens", () => {
		const line = places(guidePath("horizon", 1000, 540, shownView(camera, finish, null)));
		expect(line).toHaveLength(2);
		expect(line[0][1]).toBeCloseTo(line[1][1], 6);
	});

	it("is bent with the picture: away from the middle like a barrel, towards it like a cushion", () => {
		const straight = places(guidePath("horizon", 1000, 540, shownView(camera, finish, null)))[0][1];
		expect(straight).toBeGreaterThan(270);
		for (const bend of [-0.1, 0.1]) {
			const line = places(guidePath("horizon", 1000, 540, shownView(camera, bent(bend), null)));
			const inFrame = line.filter(([x]) => x >= 0 && x <= 1000);
			const middle = line.reduce((a, b) => (Math.abs(a[0] - 500) < Math.abs(b[0] - 500) ? a : b));
			const end = inFrame.reduce((a, b) => (a[0] < b[0] ? a : b));
			// Below the middle a barrel brings the ends of a level line up again.
			if (bend < 0) expect(end[1]).toBeLessThan(middle[1] - 3);
			else expect(end[1]).toBeGreaterThan(middle[1] + 3);
			// It goes on to both sides of the frame.
			expect(line[0][0]).toBeLessThan(1);
			expect(line[line.length - 1][0]).toBeGreaterThan(999);
		}
	});

	it("is nothing for a lens that looks straight down, and thirds are thirds", () => {
		const down = { ...shownView(camera, finish, null), up: [0, 0, -1] as [number, number, number] };
		expect(guidePath("horizon", 900, 600, down)).toBe("");
		expect(guidePath("thirds", 900, 600, shownView(camera, finish, null))).toContain("M300 0V600");
		expect(guidePath("centre", 900, 600, shownView(camera, finish, null))).toContain("M450 286");
	});
});

describe("the view that the frame shows", () => {
	it("is bent as its finish bends, and by nothing else", () => {
		expect(shownView(camera, finish, null).bend).toBeUndefined();
		expect(shownView(camera, bent(0), null).bend).toBeUndefined();
		expect(shownView(camera, bent(-0.1), null).bend).toBe(-0.1);
		const free = { position: [1, 2, 3] as [number, number, number], headingDeg: 5, pitchDeg: 0 };
		expect(shownView(camera, bent(-0.1), free)).toMatchObject({ bend: -0.1, position: [1, 2, 3] });
	});
});
