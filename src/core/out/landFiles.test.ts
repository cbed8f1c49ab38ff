import { decode } from "fast-png";
import { strFromU8, unzipSync } from "fflate";
import { describe, expect, it } from "vitest";
import { blankShot } from "../doc/defaults.ts";
import { readExr } from "../formats/exr.ts";
import { LAND_WORDS, landSquare, MASKS } from "../ground/landSquare.ts";
import { LAND_FILES, landZip } from "./landFiles.ts";

const ground = { preset: "river valley" as const, seed: 4, heightM: 90 };
const { water } = blankShot();
const of = { x: 12, z: -40, metres: 320, size: 48 };

function zipOf(words: readonly string[], size = of.size, packed = false) {
	const told: number[] = [];
	const steps = landZip(ground, water, { ...of, size }, words, packed);
	for (;;) {
		const step = steps.next();
		if (step.done) return { told, files: unzipSync(step.value) };
		told.push(step.value);
	}
}

describe("a square of the land as one file", () => {
	it("holds what is asked for, each as it was, and what it is counted in", () => {
		expect(Object.keys(LAND_FILES)).toEqual(LAND_WORDS);
		const { files, told } = zipOf(LAND_WORDS);
		expect(Object.keys(files).sort()).toEqual(
			["land.json", ...Object.values(LAND_FILES).map(({ name }) => name)].sort(),
		);
		const square = landSquare(ground, of);
		const exr = readExr(files["heights.exr"]);
		expect([...(exr.channels[0].data as Float32Array)]).toEqual([...square.heights]);
		const { leastM, mostM, metresPerPixel } = JSON.parse(strFromU8(files["land.json"]));
		expect({ leastM, mostM, metresPerPixel }).toEqual({
			leastM: square.leastM,
			mostM: square.mostM,
			metresPerPixel: square.metresPerPixel,
		});
		const slope = decode(files["slope.png"]);
		expect([slope.width, slope.height, slope.depth, slope.channels]).toEqual([48, 48, 16, 1]);
		const mask = MASKS.slope(square, ground, water);
		slope.data.forEach((v, i) => expect(Math.abs(v / 65_535 - mask[i])).toBeLessThan(1 / 65_535));
		expect(strFromU8(files["land.obj"]).match(/^v /gm)).toHaveLength(48 * 48);
		expect(told).toEqual([...told].sort((a, b) => a - b));
		expect(told[told.length - 1]).toBeCloseTo(1, 9);
	});
	it("packs masks into the channels of pictures, four to one, and tells which is where", () => {
		const { files } = zipOf(["heights", "slope", "hollow", "flow", "wear", "path", "wet"], of.size, true);
		const [first, second] = ["slope, hollow, flow, wear.png", "path, wet.png"];
		expect(Object.keys(files).sort()).toEqual(["heights.exr", "land.json", second, first]);
		expect(JSON.parse(strFromU8(files["land.json"])).packed).toEqual({
			[first]: { red: "slope", green: "hollow", blue: "flow", alpha: "wear" },
			[second]: { red: "path", green: "wet" },
		});
		const square = landSquare(ground, of);
		const four = decode(files[first]);
		expect([four.width, four.height, four.depth, four.channels]).toEqual([48, 48, 16, 4]);
		for (const [c, name] of ["slope", "hollow", "flow", "wear"].entries()) {
			const mask = MASKS[name](square, ground, water);
			mask.forEach((v, i) => expect(Math.abs(four.data[4 * i + c] / 65_535 - v)).toBeLessThan(1 / 65_535));
		}
		const two = decode(files[second]);
		expect([two.channels, two.data[2]]).toEqual([3, 0]);
		expect(Object.keys(zipOf(["slope"], of.size, true).files).sort()).toEqual(["land.json", "slope.png"]);
	});
	it("refuses a mesh of too many corners", () => {
		expect(() => zipOf(["triangles"], 4096)).toThrow("at most 2048 × 2048");
	});
});
