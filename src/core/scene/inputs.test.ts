import { describe, expect, it } from "vitest";
import { makeSkyTable } from "../air/skyPicture.ts";
import { blankShot } from "../doc/defaults.ts";
import { STILL } from "../time/frames.ts";
import { compile, compileWhenMade } from "./compile.ts";
import { heldMaker, loadBlobs, type Makers, NO_BLOBS, NO_MAKERS, needs } from "./inputs.ts";
import { PartCache } from "./partCache.ts";

const table = makeSkyTable(8, 4, new Float32Array(96).fill(0.5)).table;
const hung = () => {
	const blank = blankShot();
	const doc = { ...blank, ground: { ...blank.ground, out: true } };
	const picture = { file: "0".repeat(64), name: "dusk", widthPx: 8, heightPx: 4, turnDeg: 0, lux: 900, saturation: 1 };
	doc.air.picture = { ...picture, sun: false };
	return doc;
};

describe("what a compile takes in", () => {
	it("is made by its host: at once where it is at hand, else waited for, with the same scene", async () => {
		const at: Makers = { ...NO_MAKERS, sky: () => table };
		const later: Makers = { ...NO_MAKERS, sky: async () => table };
		const now = compile(hung(), STILL, NO_BLOBS, at);
		const then = await compileWhenMade(hung(), STILL, NO_BLOBS, later, new PartCache());
		expect([...then.parts.keys()]).toEqual([...now.parts.keys()]);
		expect(then.root).toEqual(now.root);
		expect(() => compile(hung(), STILL, NO_BLOBS, later)).toThrow(/has to be made/);
	});
	it("is named when it is missing", () => {
		expect(() => compile(hung())).toThrow(/"dusk" has not been read/);
	});
	it("has no files for shots of plain shapes", async () => {
		expect(needs(blankShot())).toEqual([]);
		const bring = () => Promise.reject(new Error("nothing is to be brought"));
		expect(await loadBlobs(blankShot(), bring)).toBe(NO_BLOBS);
	});
});

describe("things held by a host", () => {
	it("are made once while they are asked for, and the last so many are held", async () => {
		const made: string[] = [];
		const maker = heldMaker(async (key) => {
			made.push(key);
			return key.toUpperCase();
		}, 2);
		expect(await Promise.all([maker("a", ""), maker("a", "")])).toEqual(["A", "A"]);
		expect(maker("a", "")).toBe("A");
		await maker("b", "");
		maker("a", "");
		await maker("c", "");
		expect([maker("a", ""), maker("c", "")]).toEqual(["A", "C"]);
		expect(await maker("b", "")).toBe("B");
		expect(made).toEqual(["a", "b", "c", "b"]);
	});
	it("that could not be made are tried again", async () => {
		let tries = 0;
		const maker = heldMaker(async () => {
			if (++tries === 1) throw new Error("away");
			return 7;
		}, 2);
		await expect(maker("a", "")).rejects.toThrow("away");
		expect(await maker("a", "")).toBe(7);
	});
});
