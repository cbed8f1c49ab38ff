/** Draws small shots as the working view does and traces them as prints are, side by side in the page. */
import * as THREE from "three";
import { decodeSrgb } from "../src/core/colour/linear.ts";
import { blankShot, newPiece } from "../src/core/doc/defaults.ts";
import { type Piece, Shape, type ShapeKind, type ShotDocument } from "../src/core/doc/schema.ts";
import type { LandPicture } from "../src/core/formats/landPicture.ts";
import { blurMm, frameOfView } from "../src/core/lens/camera.ts";
import { compile, compileWhenMade } from "../src/core/scene/compile.ts";
import { FIRST_PIECE } from "../src/core/scene/ids.ts";
import { NO_BLOBS, NO_MAKERS, type PackWork, type SheetWork } from "../src/core/scene/inputs.ts";
import { PartCache } from "../src/core/scene/partCache.ts";
import { emptyPicture, type Picture, placeTile, type TileSums, tilesOf } from "../src/core/scene/picture.ts";
import type { Scene } from "../src/core/scene/scene.ts";
import { wordOf } from "../src/core/surface/brought.ts";
import { laidAsMade, laidOver } from "../src/core/surface/laying.ts";
import { type SurfaceKind, slugOf } from "../src/core/surface/surfaces.ts";
import { WHERES } from "../src/core/surface/where/wheres.ts";
import { STILL } from "../src/core/time/frames.ts";
import { pageSheets } from "../src/makers/sheets/page.ts";
import { makeKernel, TracerMemory } from "../src/tracer/memory.ts";
import { renderTile, reserveDesk } from "../src/tracer/renderTile.ts";
import { SceneStore } from "../src/tracer/sceneStore.ts";
import type { ProofPicture } from "../src/ui/view/finishPass.ts";
import type { Opening } from "../src/ui/view/lensBlur.ts";
import type { Look } from "../src/ui/view/looks.ts";
import { WorkingView } from "../src/ui/view/workingView.ts";

const WIDTH = 96;
const HEIGHT = 52;
/** What these shots have in common is made once. */
const cache = new PartCache();

const FOGS: Record<string, (doc: ShotDocument) => void> = {
	"thin and even, the sun at the side": ({ air }) => {
		air.fog = { on: true, visibilityM: 1500, belowM: null, forward: 0.5, colour: [0.95, 0.95, 0.95], skyClear: false };
	},
	"low on the ground, under a clear sky": ({ air }) => {
		air.sun = { headingDeg: 70, elevationDeg: 25 };
		air.fog = { on: true, visibilityM: 700, belowM: 10, forward: 0.7, colour: [0.95, 0.93, 0.9], skyClear: true };
	},
	"a deep coloured bank, seen from above": ({ air, camera }) => {
		camera.position = [0, 24, 0];
		camera.pitchDeg = -6;
		air.fog = { on: true, visibilityM: 900, belowM: 16, forward: 0.3, colour: [0.7, 0.8, 0.9], skyClear: false };
	},
};
export const fogs = (): string[] => Object.keys(FOGS);

/** Dark slabs, one behind the other, so that what is seen of them is fog. */
function inFog(name: string): ShotDocument {
	const doc = blankShot();
	doc.pieces = [15, 40, 100, 250, 600].map((away, i) =>
		newPiece(`slab-${i}`, "box", {
			position: [(i - 2) * 0.16 * away, 0, -away],
			size: [0.14 * away, 0.12 * away, 1],
			surface: { colour: [0.04, 0.04, 0.04], roughness: 0.9, metal: 0 },
		}),
	);
	doc.finish = { ...doc.finish, vignette: 0 };
	FOGS[name](doc);
	return doc;
}

/** Pieces of a kind before the sky, turned freely. */
function turned(kind: ShapeKind): ShotDocument {
	const doc = blankShot();
	doc.pieces = [0, 1, 2].map((i) =>
		newPiece(`p${i}`, kind, {
			shape: Shape.parse({ kind }),
			stands: "level",
			position: [3 * (i - 1), 4, -9],
			size: [1.6, 2, 1.2],
			headingDeg: 40 * i + 17,
			pitchDeg: 35 * i - 40,
			// None of them so that a sheet shows its edge alone, which is thinner than anything that is traced.
			rollDeg: 50 * i - 15,
		}),
	);
	doc.camera = { ...doc.camera, pitchDeg: 22 };
	return doc;
}

async function makeTracer() {
	const wasm = await (await fetch("/kernel.wasm")).arrayBuffer();
	const memory = new TracerMemory();
	const kernel = makeKernel(await WebAssembly.compile(wasm), memory.memory);
	return { memory, kernel, store: new SceneStore(memory, kernel), desk: reserveDesk(memory) };
}
let tracer: ReturnType<typeof makeTracer> | null = null;

async function trace(scene: Scene, samples: number): Promise<Picture> {
	tracer ??= makeTracer();
	const { memory, kernel, store, desk } = await tracer;
	store.load(scene, { width: WIDTH, height: HEIGHT, seed: 3 });
	const picture = emptyPicture(WIDTH, HEIGHT);
	for (const tile of tilesOf(WIDTH, HEIGHT))
		placeTile(
			picture,
			tile,
			renderTile(kernel, memory.memory.buffer, store.header, desk, tile, 0, samples) as TileSums,
		);
	return picture;
}

/** The one view of all shots: its programs are made once. */
function makeView() {
	const canvas = document.createElement("canvas");
	[canvas.width, canvas.height] = [WIDTH, HEIGHT];
	const gl = new THREE.WebGLRenderer({ canvas, antialias: false, logarithmicDepthBuffer: true });
	gl.toneMapping = THREE.NoToneMapping;
	gl.outputColorSpace = THREE.LinearSRGBColorSpace;
	gl.setSize(WIDTH, HEIGHT, false);
	return { gl, view: new WorkingView() };
}
let drawer: ReturnType<typeof makeView> | null = null;

/** Shows a shot in the view, with a picture in its place or without: display values, top row first. */
function shower(doc: ShotDocument, scene: Scene, look: Look, opening: Opening | null = null) {
	drawer ??= makeView();
	const { gl, view } = drawer;
	view.setLook(look);
	view.take(scene.root, scene.parts);
	return (proof: ProofPicture | null): number[] => {
		view.setProof(proof);
		view.render(gl, frameOfView(doc.camera), doc.finish, doc.camera.ev100, {
			grey: false,
			mirrored: false,
			width: WIDTH,
			height: HEIGHT,
			bleed: 0,
			opening,
		});
		const c = gl.getContext();
		const bytes = new Uint8Array(WIDTH * HEIGHT * 4);
		c.readPixels(0, 0, WIDTH, HEIGHT, c.RGBA, c.UNSIGNED_BYTE, bytes);
		const rows = Array.from({ length: HEIGHT }, (_, y) =>
			bytes.subarray((HEIGHT - 1 - y) * WIDTH * 4, (HEIGHT - y) * WIDTH * 4),
		);
		return rows.flatMap((row) => [...row]);
	};
}

/** A traced picture, or one whose pixels are the means of so many of its own each way, as the view takes it. */
function proofOf({ rgb }: Picture, of = 1): ProofPicture {
	const [width, height] = [WIDTH / of, HEIGHT / of];
	const pixels = new Float32Array(width * height * 4).fill(1);
	for (let i = 0; i < width * height; i++)
		for (let c = 0; c < 3; c++) {
			let sum = 0;
			for (let k = 0; k < of * of; k++) {
				const [x, y] = [(i % width) * of + (k % of), Math.floor(i / width) * of + Math.floor(k / of)];
				sum += rgb[c][y * WIDTH + x];
			}
			pixels[4 * i + c] = sum / (of * of);
		}
	return { width, height, pixels, scale: 1, share: 1 };
}

/** Display values of the drawn view; and those of a traced picture through the very same finish. */
function draw(
	doc: ShotDocument,
	scene: Scene,
	look: Look,
	traced: Picture,
	opening: Opening | null = null,
): { drawn: number[]; traced: number[] } {
	const shown = shower(doc, scene, look, opening);
	const drawn = shown(null);
	// Graphics that have died answer with nothing at all.
	if (!drawn.some((v, i) => i % 4 === 3 && v > 0)) throw new Error("Nothing was drawn.");
	return { drawn, traced: shown(proofOf(traced)) };
}

/** A traced picture, and one of a sixteenth of its pixels in its place: with the drawn view behind it, alone, and as it is. */
export async function fewPixelsShown() {
	const doc = turned("box");
	const scene = compile(doc, STILL, NO_BLOBS, NO_MAKERS, cache);
	const picture = await trace(scene, 64);
	const { drawn, traced } = draw(doc, scene, "surfaces", picture);
	const shown = shower(doc, scene, "surfaces");
	const few = { ...proofOf(picture, 4), coarse: true };
	// What covers the frame wholly has no drawn view behind it.
	return {
		drawn,
		traced,
		guided: shown({ ...few, share: 0.9999 }),
		alone: shown(few),
		pixels: shown({ ...few, coarse: false }),
	};
}

/** A lens wide open, focused at 4 m. */
const FOCUS_M = 4;
const OPEN = { focalMm: 85, fStop: 1, focusM: FOCUS_M };
const CURVE = { exposureEv: 0, curve: "straight" as const, contrast: 1, vignette: 0 };

/** A small bright ball before a dark wall that is as far. */
function ballAt(away: number): ShotDocument {
	const doc = blankShot();
	doc.camera = {
		...doc.camera,
		...OPEN,
		position: [0, 1000, 0],
		film: { widthMm: 36, heightMm: 24 },
		ratio: WIDTH / HEIGHT,
	};
	const pixel = (36 / OPEN.focalMm / WIDTH) * away;
	const black = { colour: [0, 0, 0] as [number, number, number], roughness: 1, metal: 0 };
	doc.pieces = [
		newPiece("wall", "box", {
			stands: "level",
			position: [0, 1000 - away, -1.02 * away - 0.05],
			size: [4 * away, 2 * away, 0.1],
			surface: black,
		}),
		newPiece("ball", "sphere", {
			stands: "level",
			position: [0, 1000 - pixel, -away],
			size: [2 * pixel, 2 * pixel, 2 * pixel],
			surface: { ...black, glow: { nits: 1e7, kelvin: 6500 } },
		}),
	];
	doc.finish = CURVE;
	return doc;
}

/** Share of the brightest below which light is that of the wall. */
const WALL = 0.1;

/** Radius of a disc by how far its light lies from its middle, pixels: of an even one the mean square is half of its own. */
function discRadius(of: (i: number) => number): number {
	let [sum, x, y, most] = [0, 0, 0, 0];
	for (let i = 0; i < WIDTH * HEIGHT; i++) most = Math.max(most, of(i));
	const light = (i: number) => Math.max(0, of(i) - WALL * most);
	const at = (i: number) => [(i % WIDTH) + 0.5, Math.floor(i / WIDTH) + 0.5];
	for (let i = 0; i < WIDTH * HEIGHT; i++) {
		sum += light(i);
		x += light(i) * at(i)[0];
		y += light(i) * at(i)[1];
	}
	let square = 0;
	for (let i = 0; i < WIDTH * HEIGHT; i++) square += light(i) * ((at(i)[0] - x / sum) ** 2 + (at(i)[1] - y / sum) ** 2);
	return Math.sqrt((2 * square) / sum);
}

/** How large a point is blurred at a distance, pixels of radius: as the working view draws it, as it is traced, as the lens says. */
export async function blurDrawnAndTraced(away: number) {
	const doc = ballAt(away);
	const light = (ev: number) => ({ ...doc, camera: { ...doc.camera, ev100: ev } });
	const scene = compile(doc, STILL, NO_BLOBS, NO_MAKERS, cache);
	const picture = await trace(scene, 256);
	const brightest = picture.rgb[1].reduce((a, b) => Math.max(a, b), 0);
	// So exposed that the brightest is a little less than white.
	const exposed = light(Math.log2(brightest / 1.2 / 0.7));
	const { drawn, traced } = draw(exposed, scene, "surfaces", picture, {
		radiusM: OPEN.focalMm / OPEN.fStop / 2000,
		focusM: FOCUS_M,
	});
	const linear = (bytes: number[]) => (i: number) => decodeSrgb(bytes[4 * i + 1] / 255);
	const lens = blurMm(doc.camera, away) / 36;
	return { drawn: discRadius(linear(drawn)), traced: discRadius(linear(traced)), lens: (lens * WIDTH) / 2 };
}

/** Both pictures of a fog as RGBA display values, and the number of what alone is seen in a pixel. */
export async function fogDrawnAndTraced(name: string) {
	const doc = inFog(name);
	const scene = compile(doc, STILL, NO_BLOBS, NO_MAKERS, cache);
	const picture = await trace(scene, 512);
	const [{ id, cover }] = picture.masks;
	const only = Array.from(id, (number, i) => (cover[i] > 0.99 ? number : null));
	return { only, ...draw(doc, scene, "surfaces", picture) };
}

/** A level look over the open sea by day. */
export interface OverSea {
	focalMm: number;
	eyeM: number;
	/** There is ground 40 m under it; else nothing is. */
	bed: boolean;
}

/** Display values of the rows of a view over the sea, as drawn and as traced: the mean of each. */
export async function seaDrawnAndTraced({ focalMm, eyeM, bed }: OverSea) {
	const doc = blankShot();
	doc.camera = { ...doc.camera, focalMm, position: [0, eyeM, 0], ratio: WIDTH / HEIGHT };
	doc.ground = { ...doc.ground, levelM: -40, out: !bed };
	doc.water = { ...doc.water, on: true, levelM: 0 };
	doc.finish = { ...doc.finish, vignette: 0 };
	const scene = compile(doc, STILL, NO_BLOBS, NO_MAKERS, cache);
	const { drawn, traced } = draw(doc, scene, "surfaces", await trace(scene, 64));
	const rows = (bytes: number[]) =>
		Array.from({ length: HEIGHT }, (_, y) => {
			let sum = 0;
			for (let x = 0; x < WIDTH; x++) sum += bytes[4 * (y * WIDTH + x) + 1];
			return sum / WIDTH;
		});
	return { drawn: rows(drawn), traced: rows(traced) };
}

/** Pixels in which drawing and tracing differ about whether a piece of the kind stands there, and those it covers. */
export async function shapeDrawnAndTraced(kind: ShapeKind) {
	const doc = turned(kind);
	const scene = compile(doc, STILL, NO_BLOBS, NO_MAKERS, cache);
	return outlines(doc, scene, await trace(scene, 64));
}

/** How much of a picture is covered by pieces, and where their outlines are drawn wrongly. */
function outlines(doc: ShotDocument, scene: Scene, picture: Picture) {
	const { drawn } = draw(doc, scene, "silhouette", picture);
	const covers = Array.from({ length: WIDTH * HEIGHT }, (_, i) =>
		picture.masks.reduce((sum, mask) => sum + (mask.id[i] >= FIRST_PIECE ? mask.cover[i] : 0), 0),
	);
	/** Where a pixel is drawn wrongly: x, y, and the part of it that was traced as covered. */
	const wrong: [number, number, number][] = [];
	for (const [i, cover] of covers.entries()) {
		const dark = drawn[4 * i] < 128;
		if ((cover > 0.97 && !dark) || (cover < 0.03 && dark)) wrong.push([i % WIDTH, Math.floor(i / WIDTH), cover]);
	}
	return { covered: covers.reduce((sum, c) => sum + c, 0), wrong };
}

/** Blocks of a surface each, turned so that three of their faces are seen; two more surfaces lie over the last. */
function blocks(kinds: readonly SurfaceKind[], sideM: number): ShotDocument {
	const doc = blankShot();
	const columns = 6;
	doc.ground = { ...doc.ground, out: true };
	const apart = 1.6 * sideM;
	const away = 7 * apart;
	doc.camera = {
		...doc.camera,
		position: [0, 500, 0],
		ratio: WIDTH / HEIGHT,
		focalMm: (36 * away) / (6.6 * apart),
		fStop: 22,
	};
	doc.finish = { ...doc.finish, ...CURVE, exposureEv: 0.2 };
	doc.pieces = kinds.map((kind, i) =>
		newPiece(slugOf(kind), "box", {
			stands: "level",
			position: [((i % columns) - 2.5) * apart, 500 + (1 - Math.floor(i / columns)) * 0.86 * apart, -away],
			size: [sideM, sideM, sideM],
			headingDeg: 35,
			pitchDeg: 20,
			surface: {
				colour: [0.5, 0.3, 0.2],
				roughness: 0.8,
				metal: 0,
				laid: {
					...laidAsMade(kind, 5),
					turnDeg: 10 * i,
					// Some are tinted, some wet, and over some of them others lie.
					tint: i % 3 === 1 ? 0.7 : 0,
					wet: i % 4 === 2 ? 0.7 : 0,
					...(i % 8 === 5 && { worn: 0.5 }),
					...(i % 8 === 6 && { dirt: 0.5 }),
					...(i % 6 === 3 && { shade: [0.6, 1.1, 0.9], rougher: 0.1 }),
					...(i % 5 === 4 && {
						over: [
							{ ...laidOver("sand"), where: [{ ...WHERES.patches.usual, sizeM: 0.3 * sideM }] },
							{
								...laidOver("moss"),
								where: [{ ...WHERES.high.usual, fromM: 0.3 * sideM, toM: 2 * sideM, softM: 0.4 * sideM }],
							},
							{ ...laidOver("brick"), where: [{ kind: "painted", mask: slugOf(kind) }] },
						],
					}),
				},
			},
		}),
	);
	// A stroke about an edge of some, and a stain that runs down several by the world's metres.
	const stroke = {
		points: [-0.5, 0.5].map((x): [number, number, number] => [x * sideM, sideM, 0.5 * sideM]),
		...{ radiusM: 0.5 * sideM, strength: 1, soft: 0.5, away: false },
	};
	doc.masks = doc.pieces.filter((p) => p.surface.laid?.over).map(({ id }) => ({ id, on: id, strokes: [stroke] }));
	const runs = { ...WHERES.runs.usual, widthM: 0.15 * sideM, long: 5 };
	const stained = doc.pieces.filter((_, i) => i % 7 === 5).map((p) => p.id);
	doc.stains = [{ id: "rust", pieces: stained, ground: false, laid: { ...laidOver("rusted iron"), where: [runs] } }];
	return doc;
}

/** Texels of a side: as many as such small pictures can show. */
const BLOCK_TEXELS = 256;
const { sheet: bakes, packed: packs } = pageSheets({});

/**
 * Base colours of a shot as they are drawn and traced: display values of the pixels that show one piece alone, and its number, RGB. And where
 * outlines are drawn wrongly.
 */
async function coloursDrawnAndTraced(doc: ShotDocument, pictures: typeof PICTURES = {}) {
	const makers = {
		...NO_MAKERS,
		sheet: (key: string, of: SheetWork) => bakes(key, { ...of, texels: BLOCK_TEXELS }),
		packed: (key: string, of: PackWork) => packs(key, of),
		picture: ({ name }: { name: string }) => pictures[name],
	};
	const scene = await compileWhenMade(doc, STILL, NO_BLOBS, makers, new PartCache());
	const picture = await trace(scene, 32);
	const exposed = 2 ** doc.camera.ev100;
	for (const c of [0, 1, 2]) picture.rgb[c] = picture.albedo[c].map((v) => v * exposed);
	const [{ id, cover }] = picture.masks;
	const { wrong } = outlines(doc, scene, picture);
	const { drawn, traced } = draw(doc, scene, "colours", picture);
	const pixels = Array.from(id, (n, at) => ({ piece: n - FIRST_PIECE, at }))
		.filter(({ piece, at }) => piece >= 0 && cover[at] > 0.999)
		.map(({ piece, at }) => ({
			...{ piece, drawn: drawn.slice(4 * at, 4 * at + 3), traced: traced.slice(4 * at, 4 * at + 3) },
		}));
	return { pixels, wrong };
}

/** Pixels of blocks of surfaces, of each those that show it alone. */
export async function blocksDrawnAndTraced(kinds: readonly SurfaceKind[], sideM: number) {
	const { pixels, wrong } = await coloursDrawnAndTraced(blocks(kinds, sideM));
	const all = kinds.map((kind, i) => {
		const own = pixels.filter(({ piece }) => piece === i);
		return { kind, drawn: own.map((p) => p.drawn), traced: own.map((p) => p.traced) };
	});
	return { all, wrong };
}

const PICTURE_PX = 128;

/** A picture of stripes, cut out round. */
const across = (p: number) => (p % PICTURE_PX) / PICTURE_PX - 0.5;
const down = (p: number) => Math.floor(p / PICTURE_PX) / PICTURE_PX - 0.5;
const striped = (p: number) => across(p) + 0.4 * down(p) > 0 !== down(p) > 0.15;
const PICTURES: Record<string, LandPicture> = {
	colour: {
		...{ width: PICTURE_PX, height: PICTURE_PX },
		values: Uint8Array.from({ length: 3 * PICTURE_PX ** 2 }, (_, n) => {
			const stripe = striped(Math.floor(n / 3));
			return [stripe ? 220 : 30, stripe ? 120 : 60, stripe ? 20 : 200][n % 3];
		}),
	},
	cut: {
		...{ width: PICTURE_PX, height: PICTURE_PX },
		values: Float32Array.from({ length: PICTURE_PX ** 2 }, (_, p) => (Math.hypot(across(p), down(p)) < 0.42 ? 1 : 0)),
	},
};

/** Things that have pictures which stand once: a card, curved bodies and flat ones, one by the world over two of them. */
function pictured(): ShotDocument {
	const doc = blankShot();
	const file = (name: "colour" | "cut") => ({
		...{ file: (name === "cut" ? "8" : "7").repeat(64), name, widthPx: PICTURE_PX, heightPx: PICTURE_PX, bits: 8 },
		as: name === "cut" ? ("cut" as const) : ("colours" as const),
	});
	const own = { id: "own", name: "Own", sideM: 1.4, highM: 1, depthMm: 0, handed: "up" as const };
	doc.imageSurfaces = [{ ...own, files: { colour: file("colour"), cut: file("cut") } }];
	const [brought] = doc.imageSurfaces;
	const of = wordOf(brought);
	const lies = { of, seed: 0, turnDeg: 0, acrossM: 1, reliefMm: 0, tint: 0, wet: 0 };
	const here = { ...WHERES.here.usual, wideM: 1.4, highM: 1, turnDeg: 20 };
	const over = (where: Partial<typeof here>) => ({ ...lies, share: 1, where: [{ ...here, ...where }] });
	const body = (id: string, kind: ShapeKind, x: number, laid: Piece["surface"]["laid"], headingDeg = 15) =>
		newPiece(id, kind, {
			...{ stands: "level", position: [x, 500, -7], size: [1.6, 2, 1.6], headingDeg },
			surface: { colour: [0.5, 0.5, 0.5], roughness: 0.8, metal: 0, laid },
		});
	const plaster = laidAsMade("plaster", 2);
	doc.pieces = [
		body("card", "card", -3, lies, -20),
		body("back", "card", -3, lies, 170),
		body("drum", "cylinder", -0.9, { ...plaster, over: [over({ at: [0.1, 1, 0.8], soft: 0.4 })] }),
		body("block", "box", 1.1, {
			...plaster,
			over: [over({ at: [-0.1, 0.9, 0.8] }), over({ at: [0, 2, 0], pitchDeg: -90 })],
		}),
		body("ball", "sphere", 3.1, plaster),
	];
	doc.pieces[1].position = [-2.6, 502.2, -7];
	doc.stains = [
		{
			id: "over both",
			pieces: ["block", "ball"],
			ground: false,
			laid: over({ at: [2.2, 501, -6.3], wideM: 2.2, highM: 1.6, turnDeg: 0 }),
		},
	];
	doc.ground = { ...doc.ground, out: true };
	doc.camera = { ...doc.camera, position: [0, 501.6, 0], ratio: WIDTH / HEIGHT, focalMm: 30, fStop: 22 };
	doc.finish = { ...doc.finish, ...CURVE, exposureEv: 0.2 };
	return doc;
}

/** Pixels of things with pictures. */
export const picturesDrawnAndTraced = () => coloursDrawnAndTraced(pictured(), PICTURES);
