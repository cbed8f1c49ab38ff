import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { ciede2000, labOf } from "../colour/difference.ts";
import { decodeSrgb } from "../colour/linear.ts";
import { blankShot, newPiece } from "../doc/defaults.ts";
import type { Vec3 } from "../maths/vec.ts";
import { laidAsMade, laidOfAll, laidOver } from "../surface/laying.ts";
import { ownColour, surfaceTimes } from "../surface/shading.ts";
import { matchColour, takenOver } from "./colourMatch.ts";
import { finishColour, finishPicture } from "./finish.ts";

const { finish, camera } = blankShot();
const ALL = { brightness: true, saturation: true, warmth: true };
const EV = 12;
/** Light of a surface of a colour under so much light, in cd/m². */
const under = (own: Vec3, light: Vec3): Vec3 => [own[0] * light[0], own[1] * light[1], own[2] * light[2]];
const DAY: Vec3 = [4200, 4000, 3700];
const SHADE: Vec3 = [420, 560, 760];

describe("a colour finished at the middle of the frame", () => {
	it("is what the picture has there", () => {
		for (const rgb of [
			[900, 700, 500],
			[30, 90, 200],
			[9000, 12_000, 8000],
		]) {
			const planes = rgb.map((v) => new Float32Array([v])) as [Float32Array, Float32Array, Float32Array];
			const picture = finishPicture(planes, 1, 1, { ...camera, ev100: EV }, { ...finish, vignette: 0 });
			finishColour(rgb, EV, finish).forEach((v, c) => {
				expect(v).toBeCloseTo(decodeSrgb(picture[c] / 255), 2);
			});
		}
	});
});

describe("a colour match", () => {
	it("finds the surface that looks like another in the light that falls on it", () => {
		const colour = fc.tuple(...[0, 1, 2].map(() => fc.double({ min: 0.08, max: 0.5, noNaN: true }))) as fc.Arbitrary<
			[number, number, number]
		>;
		fc.assert(
			fc.property(colour, colour, (own, other) => {
				const of = finishColour(under(other, DAY), EV, finish);
				const { factor, left, tooDark } = matchColour(under(own, DAY), own, of, ALL, EV, finish);
				expect(left).toBeLessThan(0.3);
				expect(tooDark).toBe(false);
				factor.forEach((f, c) => {
					expect(f * own[c]).toBeCloseTo(other[c], 2);
				});
			}),
		);
	});

	it("brings one in the shade to one in the sun only as far as white goes, and says so", () => {
		const own: Vec3 = [0.3, 0.3, 0.3];
		const of = finishColour(under([0.5, 0.45, 0.4], DAY), EV, finish);
		const { factor, left, before, tooDark } = matchColour(under(own, SHADE), own, of, ALL, EV, finish);
		expect(tooDark).toBe(true);
		expect(left).toBeLessThan(before);
		for (const [c, f] of factor.entries()) expect(f * own[c]).toBeLessThanOrEqual(0.951);
		// What remains is what is told: finished again it is as far.
		const reached = labOf(...finishColour(under(under(own, factor), SHADE), EV, finish));
		expect(ciede2000(reached, labOf(...of))).toBeCloseTo(left, 6);
	});

	it("takes over brightness, saturation and hue each by itself", () => {
		const own: Vec3 = [0.4, 0.25, 0.15];
		const of = finishColour(under([0.2, 0.3, 0.35], DAY), EV, finish);
		const chroma = ([, a, b]: readonly number[]) => Math.hypot(a, b);
		const match = (taken: Partial<typeof ALL>) =>
			matchColour(
				under(own, DAY),
				own,
				of,
				{ brightness: false, saturation: false, warmth: false, ...taken },
				EV,
				finish,
			);
		const [aimed] = [labOf(...of)];
		expect(match({}).factor.every((f) => Math.abs(f - 1) < 1e-6)).toBe(true);
		const light = match({ brightness: true });
		expect(light.reached[0]).toBeCloseTo(aimed[0], 1);
		expect(chroma(light.reached)).toBeCloseTo(chroma(light.from), 1);
		const dull = match({ saturation: true });
		expect(chroma(dull.reached)).toBeCloseTo(chroma(aimed), 1);
		expect(dull.reached[0]).toBeCloseTo(dull.from[0], 1);
		const hue = match({ warmth: true });
		expect(Math.atan2(hue.reached[2], hue.reached[1])).toBeCloseTo(Math.atan2(aimed[2], aimed[1]), 1);
		// Grey has no hue to give.
		expect(takenOver([50, 20, 10], [30, 0, 0], ALL)).toEqual([30, 0, 0]);
	});
});

describe("a surface times a colour", () => {
	const bare = { ...newPiece("a", "box").surface, colour: [0.4, 0.3, 0.2] as [number, number, number] };

	it("is its colour, or what lies there with all that is over it, and never more than white", () => {
		expect(surfaceTimes(bare, [0.5, 2, 9])).toEqual({ colour: [0.2, 0.6, 1] });
		const laid = { ...laidAsMade("granite"), over: [laidOver("moss")] };
		const once = surfaceTimes({ ...bare, laid }, [0.5, 2, 1]);
		expect(once.laid?.shade).toEqual([0.5, 2, 1]);
		expect(once.laid?.over?.[0].shade).toEqual([0.5, 2, 1]);
		const twice = surfaceTimes({ ...bare, ...once }, [0.5, 2, 1]);
		expect(twice.laid?.shade).toEqual([0.25, 4, 1]);
		expect(twice.colour).toBeUndefined();
	});

	it("tells the mean colour that it then has", () => {
		const before = ownColour({ ...bare, laid: laidAsMade("granite") });
		const after = ownColour({ ...bare, ...surfaceTimes({ ...bare, laid: laidAsMade("granite") }, [0.5, 1, 2]) });
		expect(after[0] / before[0]).toBeCloseTo(0.5, 4);
		expect(after[2] / before[2]).toBeCloseTo(2, 4);
		expect(ownColour({ ...bare, laid: { ...laidAsMade("granite"), tint: 1 } })).toEqual(bare.colour);
	});

	it("is made wet and rough on all that it lies on at once, each as it is otherwise", () => {
		const of = (id: string, laid: ReturnType<typeof laidAsMade> | null) => ({ id, surface: { ...bare, laid } });
		const all = [of("a", laidAsMade("granite")), of("b", null), of("c", { ...laidAsMade("moss"), wet: 0.2 })];
		const changed = laidOfAll(all, { wet: 0.5 });
		expect(changed.map((one) => [one.id, one.surface.laid.of, one.surface.laid.wet])).toEqual([
			["a", "granite", 0.5],
			["c", "moss", 0.5],
		]);
	});
});
