import { beforeAll, describe, expect, it } from "vitest";
import type { Vec3 } from "../core/maths/vec.ts";
import type { Material, Scene, SceneLayer } from "../core/scene/scene.ts";
import { repeatsOf } from "../core/study/repeats.ts";
import { DIRT_RED } from "../core/surface/reading.ts";
import { firstTexel, meanOf, type Sheet, SLOPE_UNIT, TEXEL_WORDS, texelAt, texelsOf } from "../core/surface/sheet.ts";
import { SURFACE_KINDS, SURFACES, type SurfaceKind } from "../core/surface/surfaces.ts";
import { packVolume, volumeAt } from "../core/volume/volume.ts";
import { bakeSheet, type SheetKernel } from "../makers/sheets/bake.ts";
import { sheetKernelOf } from "../makers/sheets/maker.ts";
import { sheetModule } from "../makers/sheets/node.ts";
import { traceAtOnce } from "./testing.ts";
import { type Body, testScene } from "./testScene.ts";

let kernel: SheetKernel;
beforeAll(async () => {
	kernel = sheetKernelOf(await sheetModule());
});

const SIZE = 64;
const baked = (kind: SurfaceKind): Sheet => bakeSheet(kernel, SURFACES[kind], 2, SIZE);

/** A sheet of one texel again and again in all levels, or of what `of` tells of a place in its finest. */
function plainSheet(
	of: (i: number, j: number) => { paint: number; slopes?: [number, number]; height?: number },
): Sheet {
	const words = new Uint32Array(TEXEL_WORDS * texelsOf(SIZE));
	for (let level = 0; SIZE >> level >= 1; level++) {
		const side = SIZE >> level;
		for (let j = 0; j < side; j++)
			for (let i = 0; i < side; i++) {
				const { paint, slopes = [0, 0], height = 0.5 } = of(i << level, j << level);
				const n = TEXEL_WORDS * (firstTexel(SIZE, level) + j * side + i);
				const bits = slopes.map((s) => Math.round(s * SLOPE_UNIT) & 0xffff);
				words.set([paint >>> 0, (bits[0] | (bits[1] << 16)) >>> 0, Math.round(65_535 * height)], n);
			}
	}
	return { sideM: 1, size: SIZE, leastMm: 0, mostMm: 100, words };
}
/** Roots of a grey and a roughness as bytes. */
const paintOf = (grey: number, roughness = 0.9) => {
	const root = Math.round(255 * Math.sqrt(grey));
	return (root | (root << 8) | (root << 16) | (Math.round(255 * roughness) << 24)) >>> 0;
};

const LIES: SceneLayer = {
	sheet: "sheet 0",
	grain: "shifts",
	seed: 3,
	acrossM: 1,
	turn: 0,
	depthM: 0.1,
	tint: 0,
	wet: 0,
	world: false,
	share: 1,
	where: [],
};

/** Bodies on which the same sheets lie, one for each layer. */
function laid(bodies: Omit<Body, "material">[], sheets: Sheet[], over: Partial<SceneLayer>[]): Scene {
	const layers = over.map((o, i) => ({ ...LIES, sheet: `sheet ${i}`, ...o }));
	const material: Partial<Material> = { colour: [0.5, 0.5, 0.5], roughness: 0.9, metal: 0, translucency: 0, layers };
	const scene = testScene(bodies.map((body) => ({ ...body, material })));
	for (const [i, sheet] of sheets.entries()) scene.parts.set(`sheet ${i}`, { kind: "sheet", key: `sheet ${i}`, sheet });
	return scene;
}

/** A wall that faces the lens, 10 m away; its near face fills a frame of so many metres. */
const WALL = { kind: "box" as const, position: [0, -50, -10.5] as Vec3, size: [100, 100, 1] as Vec3 };
function look(scene: Scene, px: number, wideM: number, samples = 1) {
	scene.root.camera = {
		...scene.root.camera,
		focalMm: 360 / wideM,
		ratio: 1,
		film: { widthMm: 36, heightMm: 36 },
		fStop: 1000,
	};
	return traceAtOnce(scene, { width: px, height: px, seed: 1, uniformSky: [1, 1, 1] }, samples);
}
const mean = (list: ArrayLike<number>) => Array.from(list).reduce((a, b) => a + b, 0) / list.length;
const spreadOf = (list: ArrayLike<number>) => {
	const m = mean(list);
	return Math.sqrt(mean(Array.from(list, (v) => (v - m) ** 2)));
};

describe("a sheet on a surface", () => {
	it.each(["gravel", "granite", "moss", "cracked mud", "rusted iron"] as SurfaceKind[])(
		"keeps its mean and its contrast where its repeats are broken up: %s",
		(kind) => {
			const sheet = baked(kind);
			// A pixel is a little less than a texel, and the frame is eight sheets wide.
			const px = Math.ceil((8 * SIZE) / 0.9);
			const { albedo } = look(laid([WALL], [sheet], [{ grain: SURFACES[kind].grain, acrossM: 0.5 }]), px, 4);
			// The sheet itself, read between its texels at as many places.
			let state = 1;
			const random = () => {
				state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
				return state / 2 ** 32;
			};
			const own = [0, 1, 2].map(() => [] as number[]);
			for (let k = 0; k < 60_000; k++) {
				const [x, y] = [random() * SIZE, random() * SIZE];
				const [i, j, a, b] = [Math.floor(x), Math.floor(y), x % 1, y % 1];
				const at = (di: number, dj: number) => texelAt(sheet, ((j + dj) % SIZE) * SIZE + ((i + di) % SIZE)).colour;
				const four = [at(0, 0), at(1, 0), at(0, 1), at(1, 1)];
				const w = [(1 - a) * (1 - b), a * (1 - b), (1 - a) * b, a * b];
				for (const c of [0, 1, 2]) own[c].push(four.reduce((sum, t, n) => sum + w[n] * t[c], 0));
			}
			const total = own.reduce((sum, list) => sum + mean(list), 0);
			for (const c of [0, 1, 2]) {
				expect(Math.abs(mean(albedo[c]) - mean(own[c])) / (total / 3)).toBeLessThan(0.02);
				expect(Math.abs(spreadOf(albedo[c]) / spreadOf(own[c]) - 1)).toBeLessThan(0.02);
			}
		},
		120_000,
	);

	it.each(["gravel", "moss", "cracked mud", "leaf litter"] as SurfaceKind[])(
		"does not repeat itself in the frame as the same sheet does where it is laid plainly: %s",
		(kind) => {
			const sheet = baked(kind);
			const px = 128;
			const seen = (grain: SceneLayer["grain"]) => {
				const { albedo } = look(laid([WALL], [sheet], [{ grain, acrossM: 1 }]), px, 5, 2);
				return repeatsOf(albedo[1], px, px).share;
			};
			const plain = seen({ blocks: 1 });
			expect(plain).toBeGreaterThan(0.7);
			expect(seen(SURFACES[kind].grain)).toBeLessThan(0.5 * plain);
		},
	);

	it("is stretched on no face of any size: what lies on a long one lies on a short one, too", () => {
		const sheet = baked("granite");
		// A narrow tall body shows the very same as a wide low one where both are, both standing on their feet.
		const see = (size: Vec3) =>
			look(
				laid([{ kind: "box", position: [0, -1, -10 - size[2] / 2], size }], [sheet], [{ grain: "turns" }]),
				80,
				0.9,
				4,
			);
		const [tall, wide] = [see([1, 30, 1]), see([12, 2, 5])];
		// Own metres count from the middle across: depths differ, but not what the lens sees of the near face.
		const differ = Array.from(tall.albedo[1], (v, i) => Math.abs(v - wide.albedo[1][i]));
		expect(mean(differ)).toBeLessThan(0.002 * mean(tall.albedo[1]) + 1e-4);
		expect(spreadOf(tall.albedo[1])).toBeGreaterThan(0.02);
	});

	it("bends normals as its slopes have it, whichever way it lies", () => {
		const sheet = plainSheet(() => ({ paint: paintOf(0.5), slopes: [0.3, 0.1] }));
		for (const turn of [0, 0.5, 2]) {
			// As deep as it was baked, on a sheet of one metre.
			const { normal } = look(laid([WALL], [sheet], [{ turn }]), 24, 2);
			// Across is right, along is down; turned clockwise as it is looked at.
			const [c, s] = [Math.cos(turn), Math.sin(turn)];
			const [right, down] = [c * 0.3 - s * 0.1, s * 0.3 + c * 0.1];
			const l = Math.hypot(right, down, 1);
			// Where one cell lies alone; between cells a slope that is the same everywhere, as no surface's is, grows.
			const alone = Array.from(normal[2], (z, i) => [z, i]).sort((a, b) => b[0] - a[0]);
			const some = alone.slice(0, alone.length / 8).map(([, i]) => i);
			for (const [axis, wanted] of [-right / l, down / l, 1 / l].entries())
				expect(mean(some.map((i) => normal[axis][i]))).toBeCloseTo(wanted, 2);
		}
	});

	it("is darker when it is wet, as a film of water makes it (Lekner and Dorf 1988)", () => {
		for (const grey of [0.1, 0.4, 0.8]) {
			const sheet = plainSheet(() => ({ paint: paintOf(grey) }));
			const dry = mean(look(laid([WALL], [sheet], [{}]), 16, 2).albedo[0]);
			const wet = mean(look(laid([WALL], [sheet], [{ wet: 0.5 }]), 16, 2).albedo[0]);
			expect(Math.abs(dry - grey)).toBeLessThan(0.005);
			const inside = 1 - (1 - 0.066) / 1.33 ** 2;
			expect(Math.abs(wet - (dry * (1 - inside)) / (1 - inside * dry))).toBeLessThan(0.004);
		}
	});

	it("takes the colour of what it lies on by its tint, and keeps its own pattern", () => {
		const sheet = plainSheet((i) => ({ paint: paintOf(i < SIZE / 2 ? 0.2 : 0.4) }));
		const own = meanOf(sheet).colour[0];
		const tinted = look(laid([WALL], [sheet], [{ tint: 1 }]), 64, 8);
		const plain = look(laid([WALL], [sheet], [{}]), 64, 8);
		expect(mean(tinted.albedo[0]) / mean(plain.albedo[0])).toBeCloseTo(0.5 / own, 1);
		expect(spreadOf(tinted.albedo[0]) / mean(tinted.albedo[0])).toBeCloseTo(
			spreadOf(plain.albedo[0]) / mean(plain.albedo[0]),
			1,
		);
	});

	it("is shaded channel by channel, and made rougher and smoother within what can be", () => {
		const sheet = plainSheet(() => ({ paint: paintOf(0.3) }));
		const shaded = look(laid([WALL], [sheet], [{ shade: [0.5, 1, 2] }]), 16, 2).albedo.map(mean);
		expect(shaded[0]).toBeCloseTo(0.15, 2);
		expect(shaded[1]).toBeCloseTo(0.3, 2);
		expect(shaded[2]).toBeCloseTo(0.6, 2);
		expect(look(laid([WALL], [sheet], [{ shade: [9, 9, 9] }]), 16, 2).albedo.map(mean)[0]).toBeCloseTo(1, 3);
		// A sun behind the lens is mirrored back into it: the smoother, the brighter.
		const mirrored = (rougher: number) => {
			const scene = laid([WALL], [sheet], [{ rougher }]);
			Object.assign(scene.root.dome, { sunLux: [1e4, 1e4, 1e4], sunDirection: [0, 0, 1] });
			return mean(look(scene, 8, 0.2, 16).rgb[0]);
		};
		const bright = [-1, -0.4, 0, 0.5].map(mirrored);
		expect(bright[0]).toBeGreaterThan(2 * bright[1]);
		expect(bright[1]).toBeGreaterThan(1.05 * bright[2]);
		expect(bright[2]).toBeGreaterThan(bright[3]);
	});

	it("lets water fill what lies lowest, to a level, and stand there smooth", () => {
		const sheet = plainSheet((i) => ({ paint: paintOf(0.4), slopes: [0.4, 0], height: i < SIZE / 2 ? 0.1 : 0.9 }));
		const { normal } = look(laid([WALL], [sheet], [{ wet: 0.75, grain: "shifts" }]), 96, 8);
		const flat = Array.from(normal[2]).filter((z) => z > 0.999).length / normal[2].length;
		expect(flat).toBeGreaterThan(0.35);
		expect(flat).toBeLessThan(0.65);
	});

	it("is worn from the top and filled with dirt from the bottom, each to a level, and is as made without", () => {
		const sheet = plainSheet((i) => ({ paint: paintOf(0.4), slopes: [0.4, 0], height: i < SIZE / 2 ? 0.1 : 0.9 }));
		const told = (layer: Partial<SceneLayer>) => {
			const { albedo, normal } = look(laid([WALL], [sheet], [layer]), 96, 8);
			const share = (list: ArrayLike<number>, is: (v: number) => boolean) =>
				Array.from(list).filter(is).length / list.length;
			return {
				flat: share(normal[2], (z) => z > 0.999),
				pale: share(albedo[0], (v) => v > 0.45),
				dirty: share(albedo[0], (v) => Math.abs(v - DIRT_RED) < 0.02),
				kept: share(albedo[0], (v) => Math.abs(v - 0.4) < 0.01),
			};
		};
		expect(told({})).toMatchObject({ flat: 0, pale: 0, dirty: 0 });
		const worn = told({ worn: 0.5 });
		for (const share of [worn.flat, worn.pale, worn.kept]) {
			expect(share).toBeGreaterThan(0.35);
			expect(share).toBeLessThan(0.65);
		}
		expect(told({ worn: 1 }).flat).toBe(1);
		const dirty = told({ dirt: 0.4 });
		expect(dirty.dirty).toBeGreaterThan(0.35);
		expect(dirty.dirty).toBeLessThan(0.65);
		expect(told({ dirt: 1 }).dirty).toBe(1);
	});

	it("lies over another where its bands have it, and where there is little of it in what lies lowest", () => {
		const under = plainSheet((i) => ({ paint: paintOf(0.2), height: i < SIZE / 2 ? 0.05 : 0.95 }));
		const over = plainSheet(() => ({ paint: paintOf(0.8) }));
		const share = (layer: Partial<SceneLayer>) => {
			const { albedo } = look(laid([WALL], [under, over], [{}, layer]), 96, 12);
			return Array.from(albedo[0]).filter((v) => v > 0.5).length / albedo[0].length;
		};
		expect(share({})).toBeGreaterThan(0.99);
		expect(share({ share: 0 })).toBe(0);
		expect(share({ share: 0.5 })).toBeGreaterThan(0.35);
		expect(share({ share: 0.5 })).toBeLessThan(0.65);
		// The wall stands upright: half of what leans from a right angle on, all of less, nothing of what faces up.
		expect(share({ where: [{ of: "lean", rises: [0.5, 0.6], falls: [1.5, 1.6] }] })).toBeGreaterThan(0.99);
		expect(share({ where: [{ of: "lean", rises: [-2, -1], falls: [0.2, 0.3] }] })).toBe(0);
		// The frame shows 4 m of it about 50 m over its foot.
		const half = share({ where: [{ of: "height", rises: [49.99, 50.01], falls: [1e9, 2e9] }] });
		expect(half).toBeGreaterThan(0.45);
		expect(half).toBeLessThan(0.55);
		const clouds = share({ where: [{ of: "clouds", rises: [0.49, 0.51], falls: [1e9, 2e9], sizeM: 0.1, seed: 4 }] });
		expect(clouds).toBeGreaterThan(0.4);
		expect(clouds).toBeLessThan(0.6);
	});

	it("lies where a volume has it, by the world's metres and by the piece's own", () => {
		const over = plainSheet(() => ({ paint: paintOf(0.8) }));
		// The near face of the wall: 4 m of it, 50 m over its foot, half a metre before its middle.
		const middles: [world: boolean, middle: Vec3][] = [
			[true, [0, 0, -10]],
			[false, [0, 50, 0.5]],
		];
		for (const [world, middle] of middles) {
			const anchor = middle.map((v) => v - 0.7) as unknown as Vec3;
			const samples = new Uint8Array(512).map((_, n) => 36 * (n % 8));
			const volume = packVolume(0.2, anchor, [{ at: [0, 0, 0], samples }]);
			const scene = (missing: number) => {
				const band = { of: "volume" as const, rises: [0.5, 0.51] as const, falls: [1e9, 2e9] as const };
				const made = laid(
					[WALL],
					[over],
					[{ bare: true, where: [{ ...band, volume: { part: "volume", missing, world } }] }],
				);
				made.parts.set("volume", { kind: "volume", key: "volume", volume });
				return made;
			};
			const px = 80;
			const wrong = (missing: number) => {
				const { albedo } = look(scene(missing), px, 4, 1);
				let off = 0;
				for (let n = 0; n < px * px; n++) {
					const [x, y] = [n % px, Math.floor(n / px)].map((v) => ((v + 0.5) / px - 0.5) * 4);
					const there = volumeAt(volume, [middle[0] + x, middle[1] - y, middle[2]], missing) > 0.505;
					if (albedo[0][n] > 0.65 !== there) off++;
				}
				return off / px ** 2;
			};
			// One column of pixels is half on either side.
			expect(wrong(0)).toBeLessThan(0.03);
			expect(wrong(1)).toBeLessThan(0.03);
		}
	});

	it("lies by the world's metres over what lies by the piece's, turned as each of them is", () => {
		const under = plainSheet(() => ({ paint: paintOf(0.2) }));
		const over = plainSheet((i) => ({ paint: paintOf(0.6), slopes: [0.3, 0], height: i / SIZE }));
		const body = { ...WALL, kind: "box" as const };
		const bent = (world: boolean) => {
			const scene = laid([body], [under, over], [{}, { world }]);
			// Turned by a quarter about the line of sight: its own right is the world's up.
			for (const draw of scene.root.draws) {
				const [x, y, z] = [3, 7, 11].map((n) => draw.transform[n]);
				draw.transform = [0, -100, 0, x + 50, 100, 0, 0, y, 0, 0, 1, z];
			}
			const { normal } = look(scene, 24, 2);
			return [mean(normal[0]), mean(normal[1])];
		};
		const [own, world] = [bent(false), bent(true)];
		expect(Math.abs(own[1])).toBeGreaterThan(0.1);
		expect(Math.abs(own[0])).toBeLessThan(0.01);
		expect(Math.abs(world[0])).toBeCloseTo(Math.abs(own[1]), 2);
		expect(Math.abs(world[1])).toBeLessThan(0.01);
	});

	it("gives back all light of an even sky where its colour is white, whatever its relief", () => {
		for (const kind of SURFACE_KINDS) {
			const sheet = baked(kind);
			const words = sheet.words.map((w, n) =>
				n % TEXEL_WORDS === 0 ? (w | 0xffffff) >>> 0 : n % TEXEL_WORDS === 2 ? w & 0xffffff : w,
			);
			const { acrossM, depthM } = { acrossM: sheet.sideM, depthM: (sheet.mostMm - sheet.leastMm) / 1000 };
			const body = { kind: "sphere" as const, position: [0, -1, -10] as Vec3, size: [2, 2, 2] as Vec3 };
			const scene = laid([body], [{ ...sheet, words }], [{ acrossM, depthM, grain: SURFACES[kind].grain }]);
			const { rgb, masks } = look(scene, 12, 2.2, 128);
			const [{ id, cover }] = masks;
			const own = Array.from(rgb[1]).filter((_, i) => id[i] >= 3 && cover[i] > 0.999);
			expect(mean(own), kind).toBeGreaterThan(0.985);
			expect(mean(own), kind).toBeLessThan(1.004);
		}
	});
});
