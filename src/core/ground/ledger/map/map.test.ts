import { describe, expect, it } from "vitest";
import { type Ground, LandEntry } from "../../../doc/schema.ts";
import { readHeights } from "../../../formats/landPicture.ts";
import { hash32 } from "../../../maths/hash.ts";
import { heightsExr, LAND_FILES } from "../../../out/landFiles.ts";
import { groundHeight } from "../../height.ts";
import { type LandSquare, landSquare } from "../../landSquare.ts";
import { holdPicture, keepPictures } from "../../pictures.ts";
import { groundTint } from "../../tint.ts";
import { withFile } from "../fromFile.ts";
import { newEntry } from "../ledger.ts";
import { cornersOf, quadOf, withCorner } from "../places.ts";

const hash = (of: string) => of.repeat(64).slice(0, 64);
const water = { on: false, levelM: 0, rippleMm: 0, clarityM: 1 };
const moor: Ground = { preset: "moor", seed: 5, heightM: 40 };
const flat: Ground = { preset: "plain", seed: 1, heightM: 0 };
type Map = Extract<LandEntry, { kind: "map" }>;

/** An entry laid by the bytes of a file, which is held from now on. */
function laidBy(bytes: Uint8Array, of: string, over: Partial<Map> = {}): Map {
	const { picture, facts } = readHeights(bytes);
	const file = { file: hash(of), name: "saved", widthPx: facts.widthPx, heightPx: facts.heightPx, bits: facts.bits };
	holdPicture({ ...file, as: "heights" }, picture);
	return LandEntry.parse({ ...withFile(newEntry("map", of, 900, 900, 40), "heights", file, facts), ...over }) as Map;
}

const square = landSquare(moor, { x: -30, z: 55, metres: 256, size: 256 });

describe("land that has been saved and is laid again", () => {
	const files: [string, (s: LandSquare) => Uint8Array, number][] = [
		["EXR of floats", heightsExr, 2e-5],
		["PNG of 16 bits", (s) => LAND_FILES["heights as grey"].made(s, moor, water), 0.505 / 65_535],
	];
	it.each(files)("lies where it lay, within half a step of its %s", (_, made, share) => {
		const entry = laidBy(made(square), _[0].toLowerCase() === "e" ? "e" : "b", { featherM: 0 });
		expect(entry).toMatchObject({ x: -30, z: 55, headingDeg: 0, acrossM: 256, how: "instead" });
		const ground = { ...flat, ledger: [entry] };
		const limit = share * (square.mostM - square.leastM);
		for (let n = 0; n < 4000; n++) {
			const [i, j] = [hash32(n) % 256, hash32(n + 9999) % 256];
			const [x, z] = [-30 + i + 0.5 - 128, 55 + j + 0.5 - 128];
			// The outermost pixels lie in the least way on which the map goes over into the land.
			if (Math.min(i, j, 255 - i, 255 - j) < 1) continue;
			expect(Math.abs(groundHeight(ground, x, z) - square.heights[j * 256 + i])).toBeLessThanOrEqual(limit);
		}
		expect(groundHeight(ground, 200, 55)).toBe(groundHeight(flat, 200, 55));
	});
	it("goes over into the land by its feather, and is laid instead, over, or where it is higher", () => {
		const base: Ground = { ...flat, levelM: 0 };
		const own = groundHeight(moor, -30.5, 54.5);
		const at = (over: Partial<Map>, x = -30.5, z = 54.5, ground = base) =>
			groundHeight({ ...ground, ledger: [laidBy(heightsExr(square), "c", over)] }, x, z);
		expect(at({ how: "instead" })).toBeCloseTo(own, 3);
		const hill: Ground = { preset: "moor", seed: 8, heightM: 25 };
		expect(at({ how: "over" }, -30.5, 54.5, hill)).toBeCloseTo(own + groundHeight(hill, -30.5, 54.5), 3);
		expect(at({ how: "higher", leastM: 500, mostM: 501 })).toBeGreaterThan(499);
		expect(at({ how: "higher", leastM: -500, mostM: -499 })).toBe(groundHeight(base, -30.5, 54.5));
		const edge = at({ featherM: 60, how: "instead", leastM: 10, mostM: 10 }, -30 - 128 + 30, 55);
		expect(edge).toBeCloseTo(5, 1);
	});
	it("lies turned by its heading, as wide and as high as it is set", () => {
		const quarter = laidBy(heightsExr(square), "d", { x: 0, z: 0, headingDeg: 90, acrossM: 512, featherM: 0 });
		const ground = { ...flat, ledger: [quarter] };
		// What was 40 m to the right of its middle lies 80 m towards; what was 10 m away from the upper edge lies to the right.
		expect(groundHeight(ground, 0, 80)).toBeCloseTo(
			groundHeight({ ...flat, ledger: [{ ...quarter, headingDeg: 0 }] }, 80, 0),
			9,
		);
		const corners = cornersOf(quadOf(quarter) as NonNullable<ReturnType<typeof quadOf>>);
		expect(corners[0].map(Math.round)).toEqual([256, -256]);
	});
	it("comes only with what has been read of it", () => {
		const entry = laidBy(heightsExr(square), "f");
		const unread = { ...entry, files: { ...entry.files, heights: { ...entry.files.heights, file: hash("9") } } };
		expect(groundHeight({ ...flat, ledger: [unread as Map] }, -30, 55)).toBe(groundHeight(flat, -30, 55));
		// What the land needs is never let go.
		keepPictures([{ file: hash("f"), as: "heights", name: "" }]);
		expect(groundHeight({ ...flat, ledger: [entry] }, -30, 55)).not.toBe(groundHeight(flat, -30, 55));
	});
});

describe("pictures beside the heights", () => {
	const entry = laidBy(heightsExr(square), "1", { featherM: 0 });
	const own = { name: "beside", widthPx: 2, heightPx: 2, bits: 8 };
	const laid = (files: Partial<Map["files"]>): Ground => ({
		...flat,
		ledger: [{ ...entry, files: { ...entry.files, ...files } }],
	});
	it("colour the land where they lie, and nothing beyond", () => {
		holdPicture(
			{ file: hash("2"), as: "colours" },
			{ width: 2, height: 2, values: Uint8Array.from([255, 0, 0, 0, 255, 0, 0, 0, 255, 255, 255, 255]) },
		);
		const ground = laid({ colours: { ...own, file: hash("2") } });
		const tint = (x: number, z: number) => groundTint(ground, water, x, 0, z, 0).colour;
		expect(tint(-30 - 64, 55 - 64)).toEqual([1, 0, 0]);
		expect(tint(-30 + 64, 55 - 64)).toEqual([0, 1, 0]);
		expect(tint(-30 - 64, 55 + 64)).toEqual([0, 0, 1]);
		expect(tint(-30, 55).map((v) => Math.round(100 * v))).toEqual([50, 50, 50]);
		expect(tint(400, 0)).toEqual(groundTint(flat, water, 400, 0, 0, 0).colour);
	});
	it("tell where the map holds", () => {
		holdPicture({ file: hash("3"), as: "heights" }, { width: 2, height: 2, values: Float32Array.from([0, 1, 0, 1]) });
		const ground = laid({ mask: { ...own, file: hash("3") } });
		expect(groundHeight(ground, -30 - 64, 55)).toBe(groundHeight(flat, -30 - 64, 55));
		expect(groundHeight(ground, -30 + 64, 55)).toBeCloseTo(groundHeight({ ...flat, ledger: [entry] }, -30 + 64, 55), 9);
	});
});

describe("the rectangle of a map", () => {
	const entry = laidBy(heightsExr(square), "4");
	it("follows its corner about its middle", () => {
		const quad = quadOf(entry) as NonNullable<ReturnType<typeof quadOf>>;
		for (const n of [0, 1, 2, 3]) {
			const to: [number, number] = [entry.x + 300, entry.z - 120];
			const led = withCorner(entry, n, to) as Map;
			const [x, z] = cornersOf(quadOf(led) as typeof quad)[n];
			expect(Math.hypot(x - to[0], z - to[1])).toBeLessThan(1);
			expect([led.x, led.z]).toEqual([entry.x, entry.z]);
		}
	});
});
