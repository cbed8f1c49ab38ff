import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../core/doc/defaults.ts";
import { type ImageSurface, type Piece, Shape, type ShotDocument } from "../core/doc/schema.ts";
import type { LandPicture } from "../core/formats/landPicture.ts";
import { compile } from "../core/scene/compile.ts";
import { NO_BLOBS, NO_MAKERS } from "../core/scene/inputs.ts";
import { PartCache } from "../core/scene/partCache.ts";
import type { Scene } from "../core/scene/scene.ts";
import { laidAsBrought, laidOnce } from "../core/surface/brought.ts";
import { STILL } from "../core/time/frames.ts";
import { packedAtOnce } from "../makers/sheets/atOnce.ts";
import { traceAtOnce } from "./testing.ts";

const PX = 64;
const cache = new PartCache();
const file = (name: string, as: "colours" | "cut" | "heights") => ({
	...{ file: { colour: "1", cut: "2", height: "3" }[name]?.repeat(64) ?? "", name, as },
	...{ widthPx: PX, heightPx: PX, bits: 8 },
});
const painted = (at: (x: number, y: number) => readonly number[]): LandPicture => ({
	width: PX,
	height: PX,
	values: Uint8Array.from({ length: 3 * PX * PX }, (_, n) => {
		const p = Math.floor(n / 3);
		return at((p % PX) / PX, Math.floor(p / PX) / PX)[n % 3];
	}),
});
const shares = (at: (x: number, y: number) => number): LandPicture => ({
	width: PX,
	height: PX,
	values: Float32Array.from({ length: PX * PX }, (_, p) => at((p % PX) / PX, Math.floor(p / PX) / PX)),
});

/** Red above, blue below, on the left half of the picture alone. */
const FLAG = {
	colour: painted((_, y) => (y < 0.5 ? [255, 0, 0] : [0, 0, 255])),
	cut: shares((x) => (x < 0.5 ? 1 : 0)),
	height: shares((x, y) => (Math.hypot(x - 0.5, y - 0.5) < 0.2 ? 1 : 0)),
};
const ALL = { colour: file("colour", "colours"), cut: file("cut", "cut") };
const own = (over: Partial<ImageSurface> = {}): ImageSurface & { highM: number } => ({
	...{ id: "flag", name: "Flag", sideM: 2, highM: 2, depthMm: 0, handed: "up", files: ALL },
	...over,
});

/** A scene of pieces that have pictures, with nothing else in it; the lens looks along -Z from 1 m over the level. */
function sceneOf(
	pieces: Piece[],
	surface: ImageSurface,
	pictures: Partial<typeof FLAG> = FLAG,
	over: Partial<ShotDocument> = {},
): Scene {
	const doc = blankShot();
	const makers = {
		...NO_MAKERS,
		packed: packedAtOnce,
		picture: ({ name }: { name: string }) => (pictures as Record<string, LandPicture>)[name],
	};
	return compile(
		{
			...doc,
			...{ pieces, imageSurfaces: [surface], covers: [], ground: { ...doc.ground, out: true } },
			camera: {
				...doc.camera,
				position: [0, 1, 0],
				headingDeg: 0,
				pitchDeg: 0,
				rollDeg: 0,
				focalMm: 36,
				ratio: 1,
				film: { widthMm: 36, heightMm: 36 },
			},
			...over,
		},
		STILL,
		NO_BLOBS,
		makers,
		cache,
	);
}

const black = { colour: [0, 0, 0] as [number, number, number], roughness: 1, metal: 0 };
const card = (surface: ImageSurface, over: Partial<Piece> = {}) =>
	newPiece("card", "card", {
		...{ position: [0, 0, -4], stands: "level", headingDeg: 0, size: [2, 2, 1] },
		surface: { ...black, laid: laidAsBrought(surface) },
		...over,
	});
const body = (shape: "box" | "cylinder") =>
	newPiece("box", shape, {
		...{ position: [0, 0, -4], stands: "level", headingDeg: 0, size: [2, 2, 2] },
		surface: { ...black, laid: null },
	});

const SIDE = 32;
const lit = (scene: Scene, samples = 8) =>
	traceAtOnce(scene, { width: SIDE, height: SIDE, seed: 1, uniformSky: [1, 1, 1] }, samples);
/** Base colour that is seen at a place of the frame, right and down from its left and top in parts of it. */
const colourAt = ({ albedo }: ReturnType<typeof lit>, x: number, y: number) =>
	albedo.map((channel) => channel[Math.floor(y * SIDE) * SIDE + Math.floor(x * SIDE)]);

describe("a card with a picture", () => {
	it("is there where its picture is, the right way up, from both sides, and nowhere else", () => {
		const surface = own();
		for (const headingDeg of [0, 180]) {
			const seen = lit(sceneOf([card(surface, { headingDeg })], surface));
			const there = headingDeg === 0 ? 0.4 : 0.6;
			expect(colourAt(seen, there, 0.4)[0]).toBeGreaterThan(0.95);
			expect(colourAt(seen, there, 0.6)[2]).toBeGreaterThan(0.95);
			const ids = [there, 1 - there].map((x) => seen.id[Math.floor(0.4 * SIDE) * SIDE + Math.floor(x * SIDE)]);
			expect(ids[0]).not.toBe(ids[1]);
		}
	});

	it("keeps off as much light as is there of it: half where all of it is half there", () => {
		const floor = newPiece("floor", "box", {
			...{ position: [0, -1, -4], stands: "level", headingDeg: 0, size: [6, 1, 6] },
			surface: { colour: [0.5, 0.5, 0.5], roughness: 1, metal: 0 },
		});
		const down = {
			...blankShot().camera,
			position: [0, 4, -4] as [number, number, number],
			pitchDeg: -90,
			focalMm: 200,
		};
		/** Light on the floor right under a card that lies over it. */
		const light = (much: number) => {
			// Other pictures have other files.
			const surface = own({ files: { ...ALL, cut: { ...ALL.cut, file: `${much}`.repeat(64).slice(0, 64) } } });
			const lid = card(surface, { position: [0, 0.5, -1], pitchDeg: -90, size: [6, 6, 1] });
			const scene = sceneOf(
				[floor, lid],
				surface,
				{ colour: painted(() => [0, 0, 0]), cut: shares(() => much) },
				{ camera: { ...down, position: [0, 0.4, -4], headingDeg: 0, rollDeg: 0, ratio: 1 } },
			);
			const { rgb } = lit(scene, 64);
			return rgb[1].reduce((a, b) => a + b, 0) / rgb[1].length;
		};
		const [none, half, full] = [0, 0.5, 1].map(light);
		expect(full).toBeLessThan(0.5 * none);
		expect(half / ((none + full) / 2)).toBeGreaterThan(0.98);
		expect(half / ((none + full) / 2)).toBeLessThan(1.02);
	});
});

describe("a picture laid in one place", () => {
	const surface = own({ sideM: 1, highM: 1 });
	const place = { at: [0, 1, 1] as [number, number, number], headingDeg: 0, pitchDeg: 0 };

	it("lies where it is put, as much as its cut-out leaves of it, and what it lies on keeps its colour beside it", () => {
		for (const shape of ["box", "cylinder"] as const) {
			const piece = body(shape);
			const laid = { ...laidAsBrought(surface), over: [laidOnce(surface, place)] };
			// Nothing is known of the first, so that what lies over it lies on the piece's own colour.
			const on = {
				...piece,
				surface: { ...black, colour: [0, 1, 0] as [number, number, number], laid: { ...laid, of: "none" } },
			};
			const seen = lit(sceneOf([on], surface));
			// The front stands three metres before the lens, which sees as many.
			const at = (right: number, up: number) => colourAt(seen, 0.5 + right / 3, 0.5 - (up - 1) / 3);
			expect(at(-0.25, 1.3)[0]).toBeGreaterThan(0.9);
			expect(at(-0.25, 0.7)[2]).toBeGreaterThan(0.9);
			for (const [right, up] of [
				[0.25, 1.3],
				[-0.25, 1.75],
				[-0.6, 1],
			])
				expect({ shape, right, up, green: at(right, up)[1] > 0.9 }).toEqual({ shape, right, up, green: true });
			// Not on the back, though the box reaches as far.
			const behind = lit(sceneOf([{ ...on, headingDeg: 180 }], surface));
			expect(colourAt(behind, 0.42, 0.4)[1]).toBeGreaterThan(0.9);
		}
	});

	it("stands out by a picture of depth, in centimetres, on a curved body, and leaves its colour", () => {
		const relief = own({ sideM: 1, highM: 1, depthMm: 80, files: { height: file("height", "heights") } });
		const drum = newPiece("drum", "cylinder", {
			...{ position: [0, 0, -4], stands: "level", headingDeg: 0, size: [2, 2, 2] },
			surface: { ...black, laid: { ...laidAsBrought(relief), of: "none", over: [laidOnce(relief, place)] } },
			shape: Shape.parse({ kind: "cylinder" }),
		});
		const scene = sceneOf([drum], relief);
		const [draw] = scene.root.draws.filter((d) => d.flat);
		const part = scene.parts.get(draw.mesh);
		if (part?.kind !== "mesh") throw new Error("no mesh");
		const { positions } = part.mesh;
		let [most, beside] = [0, 0];
		for (let i = 0; i < positions.length; i += 3) {
			const [x, y, z] = [2 * positions[i], 2 * positions[i + 1], 2 * positions[i + 2]];
			const far = Math.hypot(x, z);
			if (Math.hypot(x, y - 1) < 0.15 && z > 0) most = Math.max(most, far);
			if (Math.hypot(x, y - 1) > 0.3 && z > 0) beside = Math.max(beside, far);
		}
		expect(most).toBeGreaterThan(1.075);
		expect(most).toBeLessThan(1.0805);
		expect(beside).toBeLessThan(1.001);
		expect(colourAt(lit(scene), 0.5, 0.5).every((v) => v < 0.05)).toBe(true);
	});
});
