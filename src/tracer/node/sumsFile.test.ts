import { readdirSync } from "node:fs";
import { tmpdir } from "node:os";
import { describe, expect, it } from "vitest";
import { CHANNELS, firstsBytes, type Tile, type TileSums } from "../../core/scene/picture.ts";
import { SumsFile } from "./sumsFile.ts";

const tile = (x: number, y: number, side = 3): Tile => ({ x, y, width: side, height: side });
const sums = (of: Tile, seed: number): TileSums => {
	const firsts = new Uint8Array(firstsBytes(of)).map((_, i) => (i * 7 + seed) % 256);
	return {
		sums: new Float64Array(of.width * of.height * CHANNELS).map((_, i) => Math.sin(i * seed)),
		firsts: firsts.buffer as ArrayBuffer,
		samples: 16,
	};
};

describe("sums of tiles in a file", () => {
	it("come back as they were put, in any order, also beyond the frame's edges", () => {
		const file = new SumsFile();
		const tiles = [tile(0, 0), tile(-32, 0, 2), tile(32, -64), tile(0, 32, 5)];
		for (const [k, t] of tiles.entries()) file.put(t, sums(t, k + 1));
		for (const [k, t] of [...tiles.entries()].reverse()) expect(file.take(t)).toEqual(sums(t, k + 1));
		file.close();
	});
	it("are those that were put last", () => {
		const file = new SumsFile();
		file.put(tile(0, 0), sums(tile(0, 0), 1));
		file.put(tile(0, 0), sums(tile(0, 0), 2));
		expect(file.take(tile(0, 0)).sums).toEqual(sums(tile(0, 0), 2).sums);
		file.close();
	});
	it("say which tile is not there, and take none within a block", () => {
		const file = new SumsFile();
		expect(() => file.take(tile(4, 8))).toThrow(/4, 8 is not kept/);
		const half = sums(tile(0, 0), 1);
		expect(() => file.put(tile(0, 0), { ...half, partial: half.sums })).toThrow(/within a block/);
		file.close();
	});
	it("leave nothing on the disk", () => {
		const left = () => readdirSync(tmpdir()).filter((name) => name.startsWith("inquadra-sums-")).length;
		const before = left();
		const file = new SumsFile();
		file.put(tile(0, 0), sums(tile(0, 0), 1));
		expect(left()).toBe(before);
		file.close();
	});
});
