import { describe, expect, it } from "vitest";
import { randomStream } from "../maths/hash.ts";
import { cameraAxes } from "./camera.ts";
import { type Axis, PerspectiveError, type Segment, solvePerspective } from "./solvePerspective.ts";

const image = { width: 1920, height: 1080 };
const film = { widthMm: 36 };
const random = randomStream(20);
const between = (a: number, b: number) => a + (b - a) * random();
const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());

interface Truth {
	focalMm: number;
	pitchDeg: number;
	rollDeg: number;
	headingDeg: number;
}

const draw = (): Truth => ({ focalMm: between(18, 70), pitchDeg: between(-8, 8), rollDeg: between(-2, 2), headingDeg: between(12, 78) });

/** A segment of a direction through a random place of the picture, 120 to 900 px long, both ends inside. */
function segment(axis: Axis, t: Truth, noise: number): Segment {
	const axes = cameraAxes(t.headingDeg, t.pitchDeg, t.rollDeg);
	const f = (t.focalMm / 36) * image.width;
	const c = axis === "x" ? 0 : axis === "y" ? 1 : 2;
	const V = [axes.right[c] * f, axes.up[c] * f, axes.forward[c]];
	for (;;) {
		const x = between(0, image.width) - image.width / 2;
		const y = image.height / 2 - between(0, image.height);
		let dx = V[0] - V[2] * x;
		let dy = V[1] - V[2] * y;
		const l = Math.hypot(dx, dy);
		dx /= l;
		dy /= l;
		const half = between(120, 900) / 2;
		const ends = [x - dx * half, y - dy * half, x + dx * half, y + dy * half];
		if (Math.abs(ends[0]) > 960 || Math.abs(ends[2]) > 960 || Math.abs(ends[1]) > 540 || Math.abs(ends[3]) > 540) continue;
		const n = () => noise * normal();
		return [ends[0] + 960 + n(), 540 - ends[1] + n(), ends[2] + 960 + n(), 540 - ends[3] + n()];
	}
}

const directions = (axes: Axis[], t: Truth, noise: number, count = 3) => axes.map((axis) => ({ axis, segments: Array.from({ length: count }, () => segment(axis, t, noise)) }));
const median = (v: number[]) => v.sort((a, b) => a - b)[Math.floor(v.length / 2)];
const turn = (a: number, b: number) => Math.abs(((((a - b) % 180) + 270) % 180) - 90);

describe("perspective from drawn lines", () => {
	it("recovers the truth exactly from exact lines", () => {
		for (let i = 0; i < 40; i++) {
			const t = draw();
			const s = solvePerspective({ image, film, directions: directions(i % 2 ? ["z", "x"] : ["z", "x", "y"], t, 0) });
			expect(s.focalMm / t.focalMm).toBeCloseTo(1, 4);
			expect(Math.abs(s.pitchDeg - t.pitchDeg)).toBeLessThan(0.005);
			expect(Math.abs(s.rollDeg - t.rollDeg)).toBeLessThan(0.005);
			expect(turn(s.headingDeg, t.headingDeg)).toBeLessThan(0.01);
			expect(Math.max(...s.residualsPx.flat())).toBeLessThan(0.01);
		}
	});

	for (const [axes, focalError, pitchError] of [
		[["z", "x"], 0.03, 0.22],
		[["z", "x", "y"], 0.016, 0.11],
	] as [Axis[], number, number][]) {
		it(`is about as good as the likeliest fit for ${axes.join(" + ")} at half a pixel of noise, and honest about its spread`, () => {
			const focal: number[] = [];
			const pitch: number[] = [];
			const within = { focal: 0, pitch: 0, roll: 0, heading: 0 };
			let solved = 0;
			for (let i = 0; i < 500; i++) {
				const t = draw();
				const d = directions(axes, t, 0.5);
				try {
					const s = solvePerspective({ image, film, directions: d });
					solved++;
					focal.push(Math.abs(s.focalMm / t.focalMm - 1));
					pitch.push(Math.abs(s.pitchDeg - t.pitchDeg));
					within.focal += Number(Math.abs(s.focalMm - t.focalMm) <= 2 * s.focalMmSd);
					within.pitch += Number(Math.abs(s.pitchDeg - t.pitchDeg) <= 2 * s.pitchDegSd);
					within.roll += Number(Math.abs(s.rollDeg - t.rollDeg) <= 2 * s.rollDegSd);
					within.heading += Number(turn(s.headingDeg, t.headingDeg) <= 2 * s.headingDegSd);
				} catch (error) {
					expect((error as PerspectiveError).code).toBe("not-determined");
				}
			}
			expect(solved).toBeGreaterThan(450);
			expect(median(focal)).toBeLessThan(focalError);
			expect(median(pitch)).toBeLessThan(pitchError);
			for (const share of Object.values(within)) {
				expect(share / solved).toBeGreaterThan(0.9);
				expect(share / solved).toBeLessThanOrEqual(0.99);
			}
		});
	}

	it("needs one direction when the focal length is given, and says that roll is taken as level", () => {
		const t = { focalMm: 35, pitchDeg: 3, rollDeg: 0, headingDeg: 30 };
		const s = solvePerspective({ image, film, focalMm: 35, directions: directions(["z"], t, 0) });
		expect(s.pitchDeg).toBeCloseTo(3, 3);
		expect(s.headingDeg).toBeCloseTo(30, 2);
		expect(s.focalMmSd).toBe(0);
		expect(s.warnings.join()).toMatch(/taken as level/);
	});

	it("puts the horizon where the meeting points of level directions lie", () => {
		const t = draw();
		const s = solvePerspective({ image, film, directions: directions(["z", "x"], t, 0) });
		for (const m of s.meeting) {
			const at = s.horizon.yLeft + ((s.horizon.yRight - s.horizon.yLeft) * (m?.x ?? 0)) / image.width;
			expect(Math.abs((m?.y ?? 0) - at)).toBeLessThan(1);
		}
	});

	it("refuses in plain words what the lines do not determine", () => {
		const ahead = { focalMm: 35, pitchDeg: 1, rollDeg: 0, headingDeg: 0.01 };
		expect(() => solvePerspective({ image, film, directions: directions(["z", "x"], ahead, 0.5) })).toThrow(/could be \d+ or \d+ mm/);
		expect(() => solvePerspective({ image, film, directions: directions(["z"], draw(), 0) })).toThrow(/second direction/);
		expect(() => solvePerspective({ image, film, directions: [] })).toThrow(PerspectiveError);
		expect(() =>
			solvePerspective({
				image,
				film,
				directions: [
					{
						axis: "z",
						segments: [
							[5, 5, 5, 5],
							[0, 0, 9, 9],
						],
					},
				],
			}),
		).toThrow(/no length/);
		expect(() => solvePerspective({ image, film, directions: [{ axis: "z", segments: [[5, Number.NaN, 5, 5]] }] })).toThrow(/not a number/);
	});
});
