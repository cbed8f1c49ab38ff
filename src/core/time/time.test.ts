import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../doc/defaults.ts";
import { usualMove } from "../doc/edits/move.ts";
import { applyEdit, applyPatches, type Edit } from "../doc/edits.ts";
import { readKeyed } from "../doc/keyedValues.ts";
import { KEYED_NAMES, type Key, keyed, type Leave, Move, RATES, type Rate, ShotDocument } from "../doc/schema.ts";
import { frameOfView } from "../lens/camera.ts";
import { newLamp } from "../light/lamp.ts";
import { atTime } from "./atTime.ts";
import { documentAt, focusOfPiece, withFocusMeasured } from "./documentAt.ts";
import { frameAt, framesOf, framesPerSecond, momentOfFrame, rangeOf, timeOfFrame } from "./frames.ts";
import { lensWay } from "./lensWay.ts";
import { CORNER_HZ, tremorAt } from "./tremor.ts";
import { valueAt } from "./ways.ts";

const keys = (leave: Leave, ...pairs: [number, unknown][]): Key[] =>
	pairs.map(([timeS, value]) => ({ timeS, value, leave }));

const shot = (tracks: Move["tracks"], over: Partial<Move> = {}): ShotDocument => ({
	...blankShot(),
	pieces: [newPiece("cart", "box", { position: [0, 0, -10], size: [2, 2, 2] }), newPiece("post", "cylinder")],
	lamps: [newLamp("lamp", "spot")],
	air: { ...blankShot().air, moon: { on: true, headingDeg: 0, elevationDeg: 10, lit: 1 } },
	move: { ...usualMove(), ...over, tracks },
});

describe("frames", () => {
	it("lie at exact fractions of a second, over ten thousand of them and back", () => {
		for (const rate of Object.keys(RATES) as Rate[]) {
			const [many, seconds] = RATES[rate];
			for (const n of [0, 1, 7, 999, 4321, 10_000]) {
				// Whole numbers as large as these are exact: the quotient is the nearest number there is.
				expect(timeOfFrame(n, rate)).toBe(Number(BigInt(n) * BigInt(seconds)) / many);
			}
			for (let n = 0; n <= 10_000; n++) if (frameAt(timeOfFrame(n, rate), rate) !== n) throw new Error(`${rate} ${n}`);
		}
		expect(timeOfFrame(10_000, "29.97")).toBeCloseTo(333.666_666_666, 6);
		expect(framesPerSecond("23.976")).toBeCloseTo(23.976_023_976, 9);
	});
	it("show the interval that begins with them, as long as the shutter is open", () => {
		expect(momentOfFrame(24, { ...usualMove(), shutter: 0.5 })).toEqual({ timeS: 1, shutterS: 1 / 48 });
	});
	it("are taken from a range, no farther than the move goes", () => {
		expect(rangeOf({ frames: 10, range: { from: 4, to: 40 } })).toEqual({ from: 4, to: 9 });
		expect(framesOf({ from: 4, to: 9 }, 2)).toEqual([4, 6, 8]);
	});
});

describe("a value between keys", () => {
	it("goes straight when it is even, and not at all when it is held", () => {
		expect(valueAt(keys("even", [0, 10], [2, 30]), "straight", 0.5)).toBe(15);
		const held = keys("hold", [0, 10], [2, 30]);
		expect(valueAt(held, "straight", 1.999)).toBe(10);
		expect(valueAt(held, "straight", 2)).toBe(30);
	});
	it("eased, meets its keys and never goes beyond them", () => {
		const leaves = fc.constantFrom<Leave>("even", "ease", "hold");
		fc.assert(
			fc.property(
				fc.array(
					fc.tuple(
						fc.double({ min: 0.01, max: 3, noNaN: true }),
						fc.double({ min: -50, max: 50, noNaN: true }),
						leaves,
					),
					{
						minLength: 2,
						maxLength: 7,
					},
				),
				(steps) => {
					let t = 0;
					const all = steps.map(([gap, value, leave]) => {
						t += gap;
						return { timeS: t, value, leave };
					});
					for (let i = 0; i + 1 < all.length; i++) {
						const [a, b] = [all[i], all[i + 1]];
						if (valueAt(all, "straight", a.timeS) !== a.value) return false;
						const [low, high] = [Math.min(a.value, b.value), Math.max(a.value, b.value)];
						let last = a.value;
						for (let k = 1; k < 20; k++) {
							const v = valueAt(all, "straight", a.timeS + ((b.timeS - a.timeS) * k) / 20) as number;
							if (v < low - 1e-9 || v > high + 1e-9) return false;
							if ((v - last) * (b.value - a.value) < -1e-9) return false;
							last = v;
						}
					}
					return true;
				},
			),
		);
	});
	it("eased, begins and ends at rest, and passes through the keys between without a halt", () => {
		const eased = keys("ease", [0, 0], [1, 10], [2, 20]);
		const rate = (t: number) =>
			((valueAt(eased, "straight", t + 1e-4) as number) - (valueAt(eased, "straight", t - 1e-4) as number)) / 2e-4;
		expect(rate(0.0002)).toBeLessThan(0.1);
		expect(rate(1)).toBeCloseTo(10, 1);
		expect(rate(1.9998)).toBeLessThan(0.1);
	});
	it("of an angle takes the shorter way", () => {
		const turned = keys("even", [0, { headingDeg: 170 }], [1, { headingDeg: -170 }]);
		expect(valueAt(turned, "angles", 0.5)).toEqual({ headingDeg: -180 });
		expect((valueAt(turned, "angles", 0.75) as { headingDeg: number }).headingDeg).toBeCloseTo(-175, 9);
	});
	it("of a direction follows the great circle", () => {
		const low = { headingDeg: -60, elevationDeg: 40 };
		const at = valueAt(keys("even", [0, low], [1, { headingDeg: 60, elevationDeg: 40 }]), "direction", 0.5);
		expect((at as typeof low).headingDeg).toBeCloseTo(0, 9);
		// Higher than the ends: tan(40°) / cos(60°).
		expect((at as typeof low).elevationDeg).toBeCloseTo(
			(Math.atan(Math.tan((40 * Math.PI) / 180) / 0.5) * 180) / Math.PI,
			6,
		);
	});
	it("of a distance goes by its logarithm", () => {
		expect(valueAt(keys("even", [0, 4], [1, 400]), "logarithm", 0.5)).toBeCloseTo(40, 9);
	});
});

describe("a document at a time", () => {
	it("keeps all objects that are not keyed", () => {
		const doc = shot([{ value: "piece.place", of: "cart", keys: keys("even", [0, [0, 0, -10]], [1, [4, 0, -10]]) }]);
		const now = documentAt(doc, 0.5);
		expect(now.pieces[0].position).toEqual([2, 0, -10]);
		expect(now.pieces[1]).toBe(doc.pieces[1]);
		expect(now.camera).toBe(doc.camera);
		expect(documentAt(doc, 0.5)).toBe(now);
		expect(documentAt(doc, null)).toBe(doc);
	});
	for (const value of KEYED_NAMES) {
		it(`has the keyed value ${value} exactly at its keys, between them where they are alike, and stays a document`, () => {
			const doc = shot([]);
			const ids: Record<string, string> = { piece: "cart", lamp: "lamp" };
			const of = ids[keyed(value).holder];
			const is = readKeyed(doc, value, of);
			const track = { value, ...(of && { of }), keys: keys("ease", [0, is], [1, is]) };
			const own = { ...doc, move: { ...usualMove(), tracks: [track] } };
			expect(ShotDocument.safeParse(own).success).toBe(true);
			const now = documentAt(own, 0.4);
			if (value !== "camera.focus")
				expect(JSON.stringify(readKeyed(now, value, of))).toBe(JSON.stringify(readKeyed(doc, value, of)));
			expect(ShotDocument.safeParse(now).success).toBe(true);
		});
	}
	it("focuses on a piece that it follows, and from a piece to a distance by the logarithm", () => {
		const doc = shot([{ value: "piece.place", of: "cart", keys: keys("even", [0, [0, 0, -10]], [1, [0, 0, -20]]) }]);
		const following = { ...doc, camera: { ...doc.camera, focusOn: "cart" } };
		expect(withFocusMeasured(documentAt(following, 0.5)).camera.focusM).toBeCloseTo(15, 9);
		const pulled = shot([
			{
				value: "camera.focus",
				keys: keys("even", [0, { focusM: null, focusOn: "cart" }], [1, { focusM: 40, focusOn: null }]),
			},
		]);
		expect(documentAt(pulled, 0).camera.focusM).toBeCloseTo(10, 9);
		expect(documentAt(pulled, 0.5).camera.focusM).toBeCloseTo(20, 9);
	});
});

describe("a piece whose size is kept", () => {
	it("is as large in the frame at all times, within half a pixel of 1920, while what lies far behind it shrinks", () => {
		const way = [
			{ value: "camera.place" as const, keys: keys("ease", [0, [0, 1, 0]], [2, [0.6, 1.2, -6]]) },
			{
				value: "camera.direction" as const,
				keys: keys(
					"ease",
					[0, { headingDeg: 0, pitchDeg: 0, rollDeg: 0 }],
					[2, { headingDeg: 4, pitchDeg: 0, rollDeg: 0 }],
				),
			},
		];
		const doc = shot(way, { keepsSizeOf: "cart", tremor: { amountDeg: 0.2, speed: 1, seed: 2 } });
		const widthPx = (at: ShotDocument, depthM: number, sizeM: number) =>
			((sizeM / depthM) * at.camera.focalMm * 1920) / at.camera.film.widthMm;
		const first = documentAt(doc, 0);
		const own = (at: ShotDocument) => focusOfPiece(at, "cart") as number;
		for (let t = 0; t <= 2; t += 0.1) {
			const at = documentAt(doc, t);
			// The tremor turns the camera after its lens is set; it does not change the size that a lens gives at a distance.
			const calm = documentAt({ ...doc, move: { ...usualMove(), ...doc.move, tremor: null } as Move }, t);
			expect(Math.abs(widthPx(calm, own(calm), 2) - widthPx(first, own(first), 2))).toBeLessThan(0.5);
			expect(at.camera.focalMm).toBeCloseTo(calm.camera.focalMm, 9);
		}
		const last = documentAt(doc, 2);
		expect(last.camera.focalMm).toBeLessThan(0.5 * first.camera.focalMm);
		expect(widthPx(last, 100, 2)).toBeLessThan(widthPx(first, 100, 2));
	});
	it("lets the lens be where it is gone", () => {
		const doc = shot([], { keepsSizeOf: "none" });
		expect(documentAt(doc, 1).camera.focalMm).toBe(doc.camera.focalMm);
	});
	it("is forgotten with the piece, and known again when that is undone", () => {
		const doc = shot([], { keepsSizeOf: "cart" });
		const { document, inverse } = applyEdit(doc, { name: "piece.remove", ids: ["cart"] });
		expect(document.move?.keepsSizeOf).toBeNull();
		expect(applyPatches(document, inverse)).toEqual(doc);
	});
});

describe("the way of a lens", () => {
	const pan = (frames: number, headingDeg: number) => {
		const looking = (deg: number) => ({ headingDeg: deg, pitchDeg: 0, rollDeg: 0 });
		const lengthS = timeOfFrame(frames - 1, "24");
		return shot(
			[
				{
					value: "camera.direction",
					keys: [0, 1, 2].map((k) => ({
						timeS: (lengthS * k) / 2,
						value: looking((headingDeg * k) / 2),
						leave: "even" as const,
					})),
				},
			],
			{ rate: "24", frames },
		);
	};
	it("is the still's own where nothing of the lens is keyed", () => {
		const doc = shot([]);
		expect(lensWay(doc)).toEqual([doc.camera]);
	});
	it("is noted so densely that what lies between is seen from the noted ones, to the end of a long move", () => {
		for (const [frames, headingDeg] of [
			[96, 170],
			[14_400, 170],
		]) {
			const way = lensWay(pan(frames, headingDeg));
			expect(way.length).toBeGreaterThan(20);
			expect(way.length).toBeLessThanOrEqual(240);
			const { tanX } = frameOfView(way[0]);
			for (let i = 1; i < way.length; i++)
				expect(Math.tan(((way[i].headingDeg - way[i - 1].headingDeg) * Math.PI) / 180)).toBeLessThan(0.5 * tanX);
			expect(way.at(-1)?.headingDeg).toBeCloseTo(headingDeg, 6);
		}
		const restless = lensWay({
			...pan(14_400, 170),
			move: { ...(pan(14_400, 170).move as Move), tremor: { amountDeg: 5, speed: 5, seed: 1 } },
		});
		expect(restless.length).toBeLessThanOrEqual(240);
		const turns = restless.map((c) => c.headingDeg);
		for (let deg = 0; deg <= 170; deg += 10) expect(turns.some((t) => Math.abs(t - deg) < 12)).toBe(true);
	});
});

describe("an edit at a time", () => {
	const doc = shot([{ value: "piece.place", of: "cart", keys: keys("even", [0, [0, 0, -10]], [1, [4, 0, -10]]) }]);
	const there: Edit = { name: "piece.move", pieces: [{ id: "cart", position: [9, 0, -10] }] };
	it("goes into the key of what is keyed, and leaves the still as it was", () => {
		const edit = atTime(doc, there, 0.5);
		const { document, inverse } = applyEdit(doc, edit);
		expect(documentAt(document, 0.5).pieces[0].position).toEqual([9, 0, -10]);
		expect(documentAt(document, 1).pieces[0].position).toEqual([4, 0, -10]);
		expect(document.pieces[0].position).toEqual([0, 0, -10]);
		expect(applyPatches(document, inverse)).toEqual(doc);
	});
	it("stays as it is where nothing keyed is touched, and in the still", () => {
		const other: Edit = { name: "piece.move", pieces: [{ id: "post", position: [9, 0, -10] }] };
		expect(atTime(doc, other, 0.5)).toBe(other);
		expect(atTime(doc, there, null)).toBe(there);
	});
	it("does all else that it does as ever", () => {
		const both: Edit = { name: "piece.move", pieces: [...there.pieces, { id: "post", position: [1, 0, 1] }] };
		const { document } = applyEdit(doc, atTime(doc, both, 0.5));
		expect(document.pieces[1].position).toEqual([1, 0, 1]);
		expect(document.pieces[0].position).toEqual([0, 0, -10]);
	});
	it("keeps no tremor in a key", () => {
		const shaking = {
			...shot([{ value: "camera.direction", keys: keys("even", [0, { headingDeg: 0, pitchDeg: 0, rollDeg: 0 }]) }], {
				tremor: { amountDeg: 1, speed: 1, seed: 3 },
			}),
		};
		const edit = atTime(shaking, { name: "camera.place", headingDeg: 20 }, 0.3);
		const { document } = applyEdit(shaking, edit);
		expect(document.move?.tracks[0].keys[1].value).toEqual({ headingDeg: 20, pitchDeg: 0, rollDeg: 0 });
	});
});

describe("bad keys", () => {
	const track = (timeS: number[]) => ({
		...usualMove(),
		tracks: [{ value: "camera.focal", keys: timeS.map((t) => ({ timeS: t, value: 35, leave: "even" })) }],
	});
	const refused = (move: unknown) => Move.safeParse(move).error?.issues[0].message;
	it("at equal, falling and negative times are refused in words", () => {
		expect(refused(track([0, 0]))).toMatch(/at one time/);
		expect(refused(track([1, 0]))).toMatch(/wrong order/);
		expect(refused(track([-1, 0]))).toMatch(/>=0/);
	});
	it("of which there are too many are refused, and those that are there stay", () => {
		expect(refused(track(Array.from({ length: 10_000 }, (_, i) => i / 10)))).toBeTruthy();
		let doc = shot([]);
		const some = (from: number) =>
			Array.from({ length: 1000 }, (_, i) => ({ value: "camera.focal" as const, timeS: from + i / 10, is: 35 }));
		doc = applyEdit(doc, { name: "move.key", keys: some(0) }).document;
		expect(() => applyEdit(doc, { name: "move.key", keys: [{ value: "camera.focal", timeS: 0.05, is: 35 }] })).toThrow(
			/at most 1,000 keys/,
		);
		expect(doc.move?.tracks[0].keys).toHaveLength(1000);
	});
	it("go with the piece that they are of, and come back with it", () => {
		const doc = shot([{ value: "piece.place", of: "cart", keys: keys("even", [0, [0, 0, -10]], [1, [4, 0, -10]]) }]);
		const { document, inverse } = applyEdit(doc, { name: "piece.remove", ids: ["cart"] });
		expect(document.move?.tracks).toEqual([]);
		expect(applyPatches(document, inverse)).toEqual(doc);
	});
});

describe("the tremor of a hand", () => {
	const tremor = { amountDeg: 0.4, speed: 1, seed: 5 };
	const rate = 60;
	const turns = Array.from({ length: 200 * rate }, (_, i) => tremorAt(tremor, i / rate));
	it("is as large as is said, right and up together", () => {
		const square = turns.reduce((sum, [r, u]) => sum + r * r + u * u, 0) / turns.length;
		expect(Math.sqrt(square)).toBeGreaterThan(0.36);
		expect(Math.sqrt(square)).toBeLessThan(0.44);
	});
	it("is even below a cycle a second and falls with the fourth power of the frequency, as power, above", () => {
		const some = turns.slice(0, 50 * rate);
		/** Power in an octave about a frequency, by a plain transform. */
		const power = (hz: number): number => {
			let sum = 0;
			for (let f = hz / Math.SQRT2; f < hz * Math.SQRT2; f += 0.02) {
				let [re, im] = [0, 0];
				some.forEach(([r], i) => {
					const w = Math.sin((Math.PI * i) / some.length) ** 2;
					re += w * r * Math.cos((2 * Math.PI * f * i) / rate);
					im += w * r * Math.sin((2 * Math.PI * f * i) / rate);
				});
				sum += re * re + im * im;
			}
			return sum;
		};
		const falls = Math.log2(power(4 * CORNER_HZ) / power(8 * CORNER_HZ));
		expect(falls).toBeGreaterThan(2);
		expect(power(0.5)).toBeGreaterThan(8 * power(4));
	});
	it("does not come back to where it was: no loop", () => {
		for (const lag of [2, 4, 5, 8, 10, 20, 60]) {
			let [same, all] = [0, 0];
			for (let i = 0; i + lag * rate < turns.length; i++) {
				same += turns[i][0] * turns[i + lag * rate][0];
				all += turns[i][0] ** 2;
			}
			expect(Math.abs(same / all)).toBeLessThan(0.6);
		}
	});
	it("is the same for the same seed, and none when there is none", () => {
		expect(tremorAt(tremor, 1.25)).toEqual(tremorAt({ ...tremor }, 1.25));
		const doc = shot([], { tremor: { ...tremor, amountDeg: 0 } });
		expect(documentAt(doc, 1).camera).toBe(doc.camera);
	});
});
