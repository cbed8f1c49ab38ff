import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, utimesSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../../core/doc/defaults.ts";
import type { Laid, ShotDocument } from "../../core/doc/schema.ts";
import { compile } from "../../core/scene/compile.ts";
import { NO_BLOBS, NO_MAKERS } from "../../core/scene/inputs.ts";
import { fromAfar, LAYER_NUMBERS, layerRecord, layersOf } from "../../core/scene/layerTable.ts";
import { PartCache } from "../../core/scene/partCache.ts";
import { laidAsMade, laidOver } from "../../core/surface/laying.ts";
import { packSheet, unpackSheet } from "../../core/surface/sheet.ts";
import { STILL } from "../../core/time/frames.ts";
import { keptSheet, keptSheets } from "../../store/sheets.ts";
import { sheetsAtOnce } from "./atOnce.ts";
import { nodeSheets } from "./node.ts";

const WORK = { of: "sand" as const, seed: 4, texels: 64 };

const laidOn = (laid: Laid, ground: Laid | null = null): ShotDocument => {
	const blank = blankShot();
	const box = newPiece("a", "box");
	return { ...blank, groundLaid: ground, pieces: [{ ...box, surface: { ...box.surface, laid } }] };
};

describe("a shot with surfaces", () => {
	const sheet = sheetsAtOnce(16);
	const compiled = (doc: ShotDocument, cache = new PartCache()) =>
		compile(doc, STILL, NO_BLOBS, { ...NO_MAKERS, sheet }, cache);

	it("has each sheet once, however often and however it lies, and asks for it once", () => {
		let asked = 0;
		const makers = {
			...NO_MAKERS,
			sheet: (key: string, of: Parameters<typeof sheet>[1]) => {
				asked++;
				return sheet(key, of);
			},
		};
		const cache = new PartCache();
		const sand = laidAsMade("sand");
		const doc = laidOn({ ...sand, turnDeg: 30, over: [laidOver("moss"), { ...laidOver("sand"), acrossM: 7 }] }, sand);
		const { root, parts } = compile(doc, STILL, NO_BLOBS, makers, cache);
		expect([...parts.values()].filter((p) => p.kind === "sheet")).toHaveLength(2);
		expect(asked).toBe(2);
		expect(layersOf(root.materials).map((l) => [l.acrossM, l.world])).toEqual([
			[sand.acrossM, true],
			[sand.acrossM, false],
			[1.2, false],
			[7, false],
		]);
		compile({ ...doc, title: "Again" }, STILL, NO_BLOBS, makers, cache);
		expect(asked).toBe(2);
	});

	it("leaves out a surface that is not known any more, tells which, and keeps it in the document", () => {
		const doc = laidOn({ ...laidAsMade("sand"), of: "gone with the tide" });
		const { root } = compiled(doc);
		expect(root.unknownSurfaces).toEqual(["gone with the tide"]);
		expect(layersOf(root.materials)).toEqual([]);
		expect(compiled(laidOn(laidAsMade("sand"))).root.unknownSurfaces).toBeUndefined();
	});

	it("is refused in words when its surfaces take too much, and told which takes most", () => {
		const blank = blankShot();
		const pieces = Array.from({ length: 66 }, (_, seed) => {
			const box = newPiece(`b${seed}`, "box");
			return { ...box, surface: { ...box.surface, laid: { ...laidAsMade(seed < 60 ? "sand" : "moss"), seed } } };
		});
		expect(() => compiled({ ...blank, pieces })).toThrow(
			/would take 1,056 MiB; 1,024 are the most. 66 different ones are laid, "sand" from 60 seeds/,
		);
		const once = pieces.map((p) => ({ ...p, surface: { ...p.surface, laid: laidAsMade("sand") } }));
		expect(compiled({ ...blank, pieces: once }).root.draws.length).toBeGreaterThan(66);
	});

	it("is seen by programs that know no sheets in the mean of what lies there", () => {
		const doc = laidOn({ ...laidAsMade("brick"), tint: 0.5 });
		const { root, parts } = compiled(doc);
		const [material] = root.materials.filter((m) => m.layers);
		const [red, green, blue] = fromAfar(material, parts).colour;
		// Half way from the bricks' own red to the piece's pale wood.
		expect(red).toBeGreaterThan(green);
		expect(green).toBeGreaterThan(blue);
		expect(fromAfar(root.materials[0], parts)).toBe(root.materials[0]);
	});

	it("does not mesh its land anew when only what lies on it changes", () => {
		const cache = new PartCache();
		const before = compiled(laidOn(laidAsMade("sand")), cache);
		const after = compiled(laidOn(laidAsMade("sand"), laidAsMade("moss")), cache);
		const ground = ({ root }: typeof before) => {
			const draw = root.draws.find((d) => d.id === 1);
			return draw?.flat ?? draw?.mesh;
		};
		expect(ground(after)).toBe(ground(before));
	});

	it("tells of each layer in a record, steeper where it is deeper or smaller, and counts from the world's own middle", () => {
		const doc = laidOn(laidAsMade("sand"), { ...laidAsMade("sand"), acrossM: 1, reliefMm: 20 });
		const { root, parts } = compiled(doc);
		const [ground, box] = layersOf(root.materials).map((l) =>
			layerRecord(l, parts, [1e6 + 0.25, -0.5, -3], 0, () => 0),
		);
		expect(ground).toHaveLength(LAYER_NUMBERS);
		// Half as wide and twice as deep as it is made.
		expect(ground[8] / box[8]).toBeCloseTo((2 * 20) / laidAsMade("sand").reliefMm, 6);
		expect(ground.slice(12, 15)).toEqual([(1e6 + 0.25) % 4096, -0.5, -3]);
		expect(box.slice(12, 15)).toEqual([0, 0, 0]);
	});
});

describe("baked sheets", () => {
	let folder: string;
	const before = process.env.INQUADRA_DATA_FOLDER;
	beforeEach(() => {
		folder = mkdtempSync(join(tmpdir(), "inquadra-sheets-"));
		process.env.INQUADRA_DATA_FOLDER = folder;
	});
	afterEach(() => {
		rmSync(folder, { recursive: true });
		if (before === undefined) delete process.env.INQUADRA_DATA_FOLDER;
		else process.env.INQUADRA_DATA_FOLDER = before;
	});

	it("are the same after they have been bytes; other bytes are none", async () => {
		const sheet = await nodeSheets().sheet("", WORK);
		const bytes = packSheet(sheet);
		expect(unpackSheet(bytes)).toEqual(sheet);
		// Out of step with words, too short, and of a size that none has.
		const shifted = new Uint8Array(bytes.length + 1);
		shifted.set(bytes, 1);
		expect(unpackSheet(shifted.subarray(1))).toEqual(sheet);
		expect(unpackSheet(bytes.subarray(0, bytes.length - 4))).toBeNull();
		expect(unpackSheet(new Uint8Array(7))).toBeNull();
		expect(unpackSheet(new Uint8Array(64))).toBeNull();
	});

	it("are kept as files, baked anew where one is damaged, and by whom nothing can be kept", async () => {
		const sheet = await keptSheets().sheet("key", WORK);
		const files = () => readdirSync(join(folder, "sheets"));
		expect(files()).toHaveLength(1);
		const [name] = files();
		const at = join(folder, "sheets", name);
		expect(await keptSheet(WORK)).toEqual(packSheet(sheet));
		expect(await keptSheets().sheet("key", WORK)).toEqual(sheet);
		writeFileSync(at, "half a sheet");
		expect(await keptSheets().sheet("key", WORK)).toEqual(sheet);
		expect(unpackSheet(readFileSync(at))).toEqual(sheet);
		process.env.INQUADRA_DATA_FOLDER = join(at, "no folder");
		expect(await keptSheets().sheet("key", WORK)).toEqual(sheet);
		expect(await keptSheet(WORK)).toBeNull();
	});

	it("are forgotten when there are many, those that were made first before others", async () => {
		const within = join(folder, "sheets");
		mkdirSync(within);
		for (let i = 0; i < 100; i++) {
			writeFileSync(join(within, `${i}.sheet`), "old");
			utimesSync(join(within, `${i}.sheet`), 1000 + i, 1000 + i);
		}
		const sheet = await keptSheets().sheet("key", WORK);
		const left = readdirSync(within);
		expect(left).toHaveLength(96);
		expect(left).toContain("99.sheet");
		expect(left).not.toContain("4.sheet");
		expect(await keptSheet(WORK)).toEqual(packSheet(sheet));
	});

	it("are asked for together and baked one after the other, each right; a bake that is given up leaves the next alone", async () => {
		let stop = false;
		const { sheet: maker } = nodeSheets({
			between: async () => {
				if (stop) {
					stop = false;
					throw new Error("given up");
				}
			},
		});
		const alone = await nodeSheets().sheet("", { ...WORK, texels: 256 });
		const [one, two] = await Promise.all([
			maker("a", { ...WORK, texels: 256 }),
			maker("b", { of: "brick", seed: 1, texels: 128 }),
		]);
		expect(one).toEqual(alone);
		expect((two as { size: number }).size).toBe(128);
		stop = true;
		const given = maker("c", { ...WORK, seed: 9 });
		const after = maker("d", { ...WORK, seed: 10 });
		await expect(given).rejects.toThrow("given up");
		expect(await after).toEqual(await nodeSheets().sheet("", { ...WORK, seed: 10 }));
	});
});
