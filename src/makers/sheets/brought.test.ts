import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../../core/doc/defaults.ts";
import type { ImageSurface } from "../../core/doc/schema.ts";
import type { LandPicture } from "../../core/formats/landPicture.ts";
import { compile } from "../../core/scene/compile.ts";
import { NO_BLOBS, NO_MAKERS } from "../../core/scene/inputs.ts";
import { PartCache } from "../../core/scene/partCache.ts";
import {
	broughtBy,
	handedOf,
	laidAsBrought,
	planesOf,
	roleOf,
	surfaceSays,
	wordOf,
} from "../../core/surface/brought.ts";
import { firstTexel, meanOf, texelAt } from "../../core/surface/sheet.ts";
import { SURFACES } from "../../core/surface/surfaces.ts";
import { STILL } from "../../core/time/frames.ts";
import { packedAtOnce, type sheetsAtOnce } from "./atOnce.ts";

const SIDE = 64;
const picture = (values: Float32Array | Uint8Array, width: number, height: number): LandPicture => ({
	width,
	height,
	values,
});
/** Colours of a picture by its pixels, a byte each. */
const colours = (width: number, height: number, at: (x: number, y: number) => readonly number[]) =>
	picture(
		Uint8Array.from({ length: 3 * width * height }, (_, n) => {
			const p = Math.floor(n / 3);
			return at(p % width, Math.floor(p / width))[n % 3];
		}),
		width,
		height,
	);
const greys = (width: number, height: number, at: (x: number, y: number) => number) =>
	picture(
		Float32Array.from({ length: width * height }, (_, n) => at(n % width, Math.floor(n / width))),
		width,
		height,
	);

const file = { file: "4".repeat(64), name: "wall", widthPx: SIDE, heightPx: SIDE, bits: 8, as: "colours" as const };
const WALL: ImageSurface = {
	...{ id: "wall", name: "Wall", sideM: 1, depthMm: 100, handed: "up" },
	files: { colour: file },
};
const packed = (own: Partial<ImageSurface>, pictures: Parameters<typeof planesOf>[1], texels = SIDE) =>
	packedAtOnce("", { sideM: 1, texels, planes: () => planesOf({ ...WALL, ...own }, pictures, texels) }) as ReturnType<
		ReturnType<typeof sheetsAtOnce>
	> & { words: Uint32Array } & Parameters<typeof meanOf>[0];

const GREY = colours(SIDE, SIDE, () => [128, 128, 128]);

describe("files of a surface", () => {
	it("are known by the words that their names have", () => {
		const told = [
			["old_wall_basecolor.png", "colour"],
			["old-wall Albedo.jpg", "colour"],
			["wall_diff_2k.png", "colour"],
			["wall_Normal_GL.png", "normal"],
			["wall_nor_dx.exr", "normal"],
			["wall_disp_4k.exr", "height"],
			["wall-height.png", "height"],
			["wall_Roughness.png", "roughness"],
			["wall_rough_2k.png", "roughness"],
			["wall_metallic.png", "metal"],
			["metal plate rough basecolor.png", "colour"],
			["bumpy_metal_normal.png", "normal"],
			["wall.png", null],
			["north side.png", null],
		] as const;
		for (const [name, role] of told) expect(roleOf(name), name).toBe(role);
		expect(handedOf("wall_Normal_GL.png")).toBe("up");
		expect(handedOf("wall_nor_dx.exr")).toBe("down");
		expect(handedOf("wall_normal.png")).toBeNull();
	});
});

describe("what lies there", () => {
	it("is called by its recipe's name, by that of its pictures, or by its word where neither is there", () => {
		const doc = { imageSurfaces: [WALL] };
		expect(surfaceSays("granite", doc)).toBe(SURFACES.granite.name);
		expect(surfaceSays(wordOf(WALL), doc)).toBe("Wall");
		expect(surfaceSays(wordOf(WALL), {})).toBe('"picture wall", which is not known any more,');
		expect(surfaceSays("lunar dust", doc)).toContain("lunar dust");
	});
});

describe("a surface of pictures", () => {
	it("has at each texel the colour and the roughness that its pictures have there, and their mean from afar", () => {
		const of = colours(SIDE, SIDE, (x, y) => [4 * x, 4 * y, 200]);
		const sheet = packed({}, { colour: of, roughness: greys(SIDE, SIDE, (x) => (x < SIDE / 2 ? 0.2 : 0.6)) });
		const linear = (byte: number) => {
			const s = byte / 255;
			return s <= 0.04045 ? s / 12.92 : ((s + 0.055) / 1.055) ** 2.4;
		};
		for (const [x, y] of [
			[3, 5],
			[40, 20],
			[63, 63],
			[0, 31],
		]) {
			const { colour, roughness, metal } = texelAt(sheet, y * SIDE + x);
			expect(colour[0]).toBeCloseTo(linear(4 * x), 2);
			expect(colour[1]).toBeCloseTo(linear(4 * y), 2);
			expect(roughness).toBeCloseTo(x < SIDE / 2 ? 0.2 : 0.6, 2);
			expect(metal).toBe(0);
		}
		const mean = Array.from({ length: SIDE }, (_, n) => linear(4 * n)).reduce((a, b) => a + b) / SIDE;
		expect(meanOf(sheet).colour[0]).toBeCloseTo(mean, 2);
		expect(meanOf(sheet).roughness).toBeCloseTo(0.4, 2);
		// One of colours that is to tell of one thing alone does so by its first.
		expect(meanOf(packed({}, { colour: GREY, metal: of })).metal).toBeCloseTo(126 / 255, 2);
	});

	it("is as deep as it is told, and slopes as its heights do", () => {
		// A wave along the picture, from 0 to 100 mm.
		const height = greys(SIDE, SIDE, (x) => 0.5 + 0.5 * Math.sin((2 * Math.PI * (x + 0.5)) / SIDE));
		const sheet = packed({}, { colour: GREY, height });
		expect(sheet.mostMm - sheet.leastMm).toBeCloseTo(100, 0);
		// Steepest where it passes its middle: half of 100 mm times 2π over a metre.
		const { slope } = texelAt(sheet, 0);
		expect(slope[0]).toBeCloseTo(0.05 * 2 * Math.PI, 2);
		expect(slope[1]).toBeCloseTo(0, 3);
	});

	it("takes its normals as they lean, up the picture or down it as it is told", () => {
		// Leans to the right, and by green either up or down.
		const n = 1 / Math.hypot(0.3, 0.4, 1);
		const byte = (v: number) => Math.round(127.5 * (v + 1));
		const normal = colours(SIDE, SIDE, () => [byte(0.3 * n), byte(0.4 * n), byte(n)]);
		for (const [handed, along] of [
			["up", 0.4],
			["down", -0.4],
		] as const) {
			const { slope } = texelAt(packed({ handed }, { colour: GREY, normal }), 100);
			// What looks to the right falls to the right. What looks up the picture rises towards its lower edge.
			expect(slope[0]).toBeCloseTo(-0.3, 1);
			expect(slope[1]).toBeCloseTo(along, 1);
		}
		// The same hill by its heights and by its normals.
		const sin = (x: number) => Math.sin((2 * Math.PI * (x + 0.5)) / SIDE);
		const cos = (x: number) => 0.05 * 2 * Math.PI * Math.cos((2 * Math.PI * (x + 0.5)) / SIDE);
		const height = greys(SIDE, SIDE, (_, y) => 0.5 + 0.5 * sin(y));
		const leans = colours(SIDE, SIDE, (_, y) => {
			const l = 1 / Math.hypot(1, cos(y));
			// The picture's rows go down: what rises downwards looks up.
			return [128, byte(cos(y) * l), byte(l)];
		});
		const [byHeight, byNormal] = [packed({}, { colour: GREY, height }), packed({}, { colour: GREY, normal: leans })];
		for (const y of [0, 10, 25, 50]) {
			const [a, b] = [texelAt(byHeight, y * SIDE), texelAt(byNormal, y * SIDE)];
			expect(Math.abs(a.slope[1] - b.slope[1])).toBeLessThan(0.02);
		}
	});

	it("is taken by its middle square where it is not square, of any size, and keeps its mean when it is halved", () => {
		const wide = colours(150, 70, (x) => [x < 40 || x >= 110 ? 255 : 0, 90, 90]);
		const sheet = packed({}, { colour: wide });
		expect(meanOf(sheet).colour[0]).toBe(0);
		const fine = colours(500, 500, (x, y) => [(x + y) % 2 ? 255 : 0, 90, 90]);
		expect(meanOf(packed({}, { colour: fine })).colour[0]).toBeCloseTo(0.5, 1);
		const small = packed({}, { colour: colours(2, 2, (x) => [x ? 255 : 0, 0, 0]) }, 16);
		expect(texelAt(small, firstTexel(16, 0)).colour[0]).toBeGreaterThan(0.1);
	});

	it("lies in a shot by its word; without its pictures it is told as unknown, and one without a colour is refused", () => {
		const laid = laidAsBrought(WALL);
		const wall = newPiece("p", "box", { surface: { ...newPiece("", "box").surface, laid } });
		const doc = { ...blankShot(), covers: [], pieces: [wall], imageSurfaces: [WALL] };
		const makers = { ...NO_MAKERS, packed: packedAtOnce, picture: () => GREY };
		const cache = new PartCache();
		const { root, parts } = compile(doc, STILL, NO_BLOBS, makers, cache);
		const [layer] = root.materials[1].layers ?? [];
		expect(layer).toMatchObject({ acrossM: 1, depthM: 0.1, grain: { blocks: 1 } });
		expect(parts.get(layer.sheet)?.kind).toBe("sheet");
		expect(root.unknownSurfaces).toBeUndefined();
		expect(broughtBy(wordOf(WALL), doc)).toBe(WALL);
		const away = compile({ ...doc, imageSurfaces: undefined }, STILL, NO_BLOBS, makers, cache).root;
		expect(away.unknownSurfaces).toEqual([wordOf(WALL)]);
		expect(away.materials[1].layers ?? []).toHaveLength(0);
		const gone = {
			...makers,
			picture: () => {
				throw new Error("The file of the land picture is gone.");
			},
		};
		expect(() => compile({ ...doc, imageSurfaces: [{ ...WALL, depthMm: 20 }] }, STILL, NO_BLOBS, gone, cache)).toThrow(
			/gone/,
		);
	});
});
