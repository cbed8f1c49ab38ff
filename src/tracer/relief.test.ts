import { beforeAll, describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../core/doc/defaults.ts";
import { usualMove } from "../core/doc/edits/move.ts";
import type { Laid, Move, Piece, ShotDocument } from "../core/doc/schema.ts";
import { openPlaces, welded } from "../core/maths/finer.ts";
import { type Mesh, meshBounds } from "../core/maths/mesh.ts";
import type { Vec3 } from "../core/maths/vec.ts";
import { compile, compileSteps } from "../core/scene/compile.ts";
import { NO_BLOBS, NO_MAKERS } from "../core/scene/inputs.ts";
import { PartCache } from "../core/scene/partCache.ts";
import { type At, Relief } from "../core/scene/reliefAt.ts";
import type { Draw, Scene, SceneLayer } from "../core/scene/scene.ts";
import { laidAsMade, laidOver } from "../core/surface/laying.ts";
import { type Sheet, TEXEL_WORDS, texelsOf } from "../core/surface/sheet.ts";
import { SURFACES, type SurfaceKind } from "../core/surface/surfaces.ts";
import { STILL } from "../core/time/frames.ts";
import { bakeSheet, type SheetKernel } from "../makers/sheets/bake.ts";
import { sheetKernelOf } from "../makers/sheets/maker.ts";
import { sheetModule } from "../makers/sheets/node.ts";
import { castAtOnce, traceAtOnce } from "./testing.ts";
import { testScene } from "./testScene.ts";

let kernel: SheetKernel;
beforeAll(async () => {
	kernel = sheetKernelOf(await sheetModule());
});

const SIZE = 256;
const sheets = new Map<SurfaceKind, Sheet>();
const baked = (of: SurfaceKind): Sheet => {
	const sheet = sheets.get(of) ?? bakeSheet(kernel, SURFACES[of], 1, SIZE);
	sheets.set(of, sheet);
	return sheet;
};
const cache = new PartCache();
const makers = { ...NO_MAKERS, sheet: (_: string, { of }: { of: SurfaceKind }) => baked(of) };

const surface = (laid: Laid): Piece["surface"] => ({ colour: [0.5, 0.5, 0.5], roughness: 0.9, metal: 0, laid });

/** A shot of pieces before the lens, with nothing else in it. */
function shot(pieces: Piece[], over: Partial<ShotDocument> = {}): ShotDocument {
	const doc = blankShot();
	return {
		...doc,
		pieces,
		ground: { ...doc.ground, out: true },
		camera: { ...doc.camera, position: [0, 1, 0], headingDeg: 0, pitchDeg: 0, focalMm: 35, ratio: 1 },
		...over,
	};
}
const scene = (doc: ShotDocument): Scene => compile(doc, STILL, NO_BLOBS, makers, cache);
const meshOf = ({ parts }: Scene, key: string | undefined): Mesh => {
	const part = parts.get(key ?? "");
	if (part?.kind !== "mesh") throw new Error("no mesh");
	return part.mesh;
};
const shaped = ({ root }: Scene): Draw[] => root.draws.filter((d) => d.flat);
const mean = (list: ArrayLike<number>) => Array.from(list).reduce((a, b) => a + b, 0) / list.length;

/** Ten metres off: nearer ones are of more triangles than what is asked here needs. */
const box = (laid: Laid, over: Partial<Piece> = {}) =>
	newPiece("one", "box", {
		position: [0, 0.5, -10],
		size: [1, 1, 1],
		stands: "level",
		headingDeg: 30,
		surface: surface(laid),
		...over,
	});

describe("a surface that stands out", () => {
	it("is read as the tracer reads it: heights told as colours, whichever way the sheet lies", () => {
		// A sheet whose grey is its height.
		const own = baked("cobbles");
		const words = own.words.slice();
		for (let n = 0; n < texelsOf(SIZE); n++) {
			const root = Math.round(255 * Math.sqrt((words[TEXEL_WORDS * n + 2] & 0xffff) / 65_535));
			words[TEXEL_WORDS * n] = (root | (root << 8) | (root << 16) | (230 << 24)) >>> 0;
		}
		const sheet = { ...own, words };
		const wall: Vec3 = [0, -50, -10.5];
		for (const lies of [
			{ grain: "turns" as const, turn: 0.4 },
			{ grain: "shifts" as const, world: true },
			{ grain: { blocks: 5 }, seed: 77, acrossM: 2 },
		]) {
			const layer: SceneLayer = {
				...{ sheet: "sheet", grain: "turns", seed: 3, acrossM: 1, turn: 0, depthM: 1, tint: 0, wet: 0, world: false },
				...{ share: 1, where: [], ...lies },
			};
			const material = { colour: [0.5, 0.5, 0.5] as Vec3, roughness: 0.9, layers: [layer] };
			const made = testScene([{ kind: "box", position: wall, size: [100, 100, 1], material }]);
			made.parts.set("sheet", { kind: "sheet", key: "sheet", sheet });
			const { camera } = made.root;
			made.root.camera = { ...camera, focalMm: 360 / 3, ratio: 1, film: { widthMm: 36, heightMm: 36 }, fStop: 1000 };
			const px = 48;
			const { albedo } = traceAtOnce(made, { width: px, height: px, seed: 1, uniformSky: [1, 1, 1] }, 16);
			const relief = new Relief([layer], made.parts, made.root.origin, true);
			const wrong: number[] = [];
			for (let n = 0; n < px * px; n++) {
				let sum = 0;
				for (let k = 0; k < 16; k++) {
					const within = [k % 4, k >> 2].map((v) => (v + 0.5) / 4);
					const [x, down] = [n % px, Math.floor(n / px)].map((v, c) => ((v + within[c]) / px - 0.5) * 3);
					const facing = { nx: 0, ny: 0, nz: 1 };
					const world: At = { x, y: -down, z: -10, ...facing };
					const piece: At = { x: x - wall[0], y: -down - wall[1], z: 0.5, ...facing };
					sum += relief.at(piece, world, 3 / px) / 16;
				}
				wrong.push(Math.abs(sum - albedo[1][n]));
			}
			// Places of a pixel are not the same ones; the root of a byte is a step of a hundredth.
			expect(mean(wrong)).toBeLessThan(0.015);
		}
	});

	it("moves a body by its heights, no side more than they are, and leaves it closed", () => {
		const laid = { ...laidAsMade("cobbles"), reliefMm: 60 };
		const made = scene(shot([box(laid)]));
		const [draw] = shaped(made);
		const mesh = meshOf(made, draw.mesh);
		expect(mesh.indices.length / 3).toBeGreaterThan(8000);
		expect(openPlaces(mesh.indices, welded(mesh.positions)).size).toBe(0);
		const bounds = meshBounds(mesh);
		const flat = meshBounds(meshOf(made, draw.flat));
		for (const c of [0, 1, 2]) {
			expect(bounds[c]).toBeLessThan(flat[c] - 0.01);
			expect(bounds[c]).toBeGreaterThan(flat[c] - 0.06);
			expect(bounds[c + 3]).toBeGreaterThan(flat[c + 3] + 0.01);
			expect(bounds[c + 3]).toBeLessThan(flat[c + 3] + 0.06);
		}
	});

	it("lets no ray through its edges and corners", () => {
		const made = scene(shot([box({ ...laidAsMade("dry stone"), reliefMm: 90 }, { headingDeg: 0 })]));
		const mesh = meshOf(made, shaped(made)[0].mesh);
		const rays: number[] = [];
		let state = 7;
		const random = () => {
			state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
			return state / 2 ** 32;
		};
		for (let n = 0; n < 4000; n++) {
			// To a place well inside, by way of a place on an edge of the body as it was.
			const edge: number[] = [random(), random(), random()].map((v) => (v < 0.5 ? -0.5 : 0.5));
			edge[n % 3] = random() - 0.5;
			const inside = [random(), random(), random()].map((v) => 0.4 * (v - 0.5));
			const way = edge.map((v, c) => inside[c] - v);
			const long = Math.hypot(...way);
			const d = way.map((v) => v / long);
			rays.push(...edge.map((v, c) => v - 2 * d[c] + (c === 1 ? 0.5 : 0)), ...d, 10);
		}
		// Each meets the body on this side of what is inside it.
		const met = castAtOnce(mesh, rays);
		expect(Math.max(...met)).toBeLessThan(2.35);
	});

	it("has an outline and a shadow by its heights", () => {
		const silhouette = (reliefMm: number) => {
			const laid = { ...laidAsMade("cobbles"), reliefMm };
			const made = scene(shot([box(laid, { position: [0, 0.5, -3], headingDeg: 0, size: [1.4, 1, 1] })]));
			const px = 160;
			const { masks } = traceAtOnce(made, { width: px, height: px, seed: 1, uniformSky: [1, 1, 1] }, 8);
			const [{ id, cover }] = masks;
			// The highest row of the body in each column.
			return Array.from({ length: px }, (_, x) => {
				for (let y = 0; y < px; y++) if (id[y * px + x] >= 3 && cover[y * px + x] > 0.5) return y;
				return px;
			}).filter((y) => y < px);
		};
		const spread = (rows: number[]) => Math.max(...rows.slice(8, -8)) - Math.min(...rows.slice(8, -8));
		const [level, rough] = [silhouette(0), silhouette(120)].map(spread);
		expect(level).toBeLessThanOrEqual(2);
		expect(rough).toBeGreaterThanOrEqual(level + 3);
	});

	it("keeps its brightness where it is seen from so far that it is level", () => {
		const laid = { ...laidAsMade("gravel"), reliefMm: 40 };
		const doc = shot([box(laid, { position: [0, 0, -34], size: [12, 12, 1], headingDeg: 0 })], {
			air: { ...blankShot().air, sun: { headingDeg: 140, elevationDeg: 40 } },
		});
		const made = scene(doc);
		expect(shaped(made)).toHaveLength(1);
		const level = {
			...made,
			root: { ...made.root, draws: made.root.draws.map((d) => ({ ...d, mesh: d.flat ?? d.mesh })) },
		};
		const bright = (of: Scene) => {
			const { rgb, masks } = traceAtOnce(of, { width: 40, height: 40, seed: 1 }, 64);
			const [{ id, cover }] = masks;
			return mean(Array.from(rgb[1]).filter((_, i) => id[i] >= 3 && cover[i] > 0.999));
		};
		expect(Math.abs(bright(made) / bright(level) - 1)).toBeLessThan(0.02);
	});

	it("lies thick where it lies over another: over its place by what it is thick, its edges lean, and nothing below", () => {
		const stone = { ...laidAsMade("granite"), reliefMm: 0 };
		const snow = { ...laidOver("snow"), thickMm: 120, reliefMm: 10 };
		const made = scene(shot([box({ ...stone, over: [snow] })]));
		const [draw] = shaped(made);
		const mesh = meshOf(made, draw.mesh);
		const bounds = meshBounds(mesh);
		expect(bounds[4]).toBeGreaterThan(1.11);
		expect(bounds[4]).toBeLessThan(1.14);
		// Its underside is bare, and where it was.
		expect(bounds[1]).toBeCloseTo(0, 6);
		expect(mesh.under).toBeDefined();
		const leans = Array.from({ length: mesh.normals.length / 3 }, (_, v) =>
			[0, 1, 2].reduce((sum, c) => sum + mesh.normals[3 * v + c] * (mesh.under as Float32Array)[3 * v + c], 0),
		);
		expect(leans.reduce((a, b) => Math.min(a, b))).toBeLessThan(0.9);
		expect(leans.filter((v) => v > 0.999).length).toBeGreaterThan(leans.length / 4);
	});

	it("lets standing water lie level at the height to which it fills its hollows", () => {
		const heights = (wet: number) => {
			const made = scene(shot([box({ ...laidAsMade("cobbles"), reliefMm: 80, wet }, { headingDeg: 0 })]));
			const { positions } = meshOf(made, shaped(made)[0].mesh);
			const within = (v: number) => Math.abs(v) < 0.44;
			return [...positions].filter(
				(v, i) => i % 3 === 1 && v > 0.9 && within(positions[i - 1]) && within(positions[i + 1]),
			);
		};
		const [dry, wet] = [heights(0), heights(0.8)];
		const [least, most] = [Math.min, Math.max].map((of) => (all: number[]) => all.reduce((a, b) => of(a, b)));
		const level = least(wet);
		expect(level).toBeGreaterThan(least(dry) + 0.02);
		expect(wet.filter((v) => v < level + 1e-5).length).toBeGreaterThan(wet.length / 10);
		expect(most(wet)).toBeCloseTo(most(dry), 2);
	});

	it("has ground rise over its level alone, so that nothing that stands on it floats", () => {
		const blank = blankShot();
		const doc = shot([], {
			ground: { ...blank.ground, preset: "plain", heightM: 0, ledger: undefined },
			water: { ...blank.water, on: false },
			groundLaid: { ...laidAsMade("cobbles"), reliefMm: 20 },
			camera: { ...blank.camera, position: [0, 4, 0], pitchDeg: -20 },
		});
		const made = scene(doc);
		const [draw] = shaped(made);
		const mesh = meshOf(made, draw.mesh);
		const flat = meshOf(made, draw.flat);
		const count = flat.positions.length / 3;
		for (let v = 0; v < count; v++) {
			const rise = mesh.positions[3 * v + 1] - flat.positions[3 * v + 1];
			expect(rise).toBeGreaterThan(-1e-4);
			expect(rise).toBeLessThan(0.0201);
		}
		expect(mesh.colours?.length).toBe((mesh.positions.length / 3) * 4);
	});

	it("leaves ground that is under water under water", () => {
		const blank = blankShot();
		const at = (levelM: number) => {
			const made = scene(
				shot([], {
					ground: { ...blank.ground, preset: "plain", heightM: 0, ledger: undefined },
					water: { ...blank.water, on: true, levelM },
					groundLaid: { ...laidAsMade("cobbles"), reliefMm: 20 },
					camera: { ...blank.camera, position: [0, 4, 0], pitchDeg: -20 },
				}),
			);
			const { positions } = meshOf(made, shaped(made)[0].mesh);
			return [...positions].filter((_, i) => i % 3 === 1).reduce((a, b) => Math.max(a, b));
		};
		expect(at(0.0075)).toBeLessThan(0.0075);
		expect(at(-1)).toBeGreaterThan(0.0125);
	});

	it("keeps sides of a body on which different surfaces lie together: where they meet, neither moves", () => {
		const laid = { ...laidAsMade("cobbles"), reliefMm: 60 };
		const faces = [{ face: "near", laid: { ...laidAsMade("gravel"), reliefMm: 60 } }];
		const made = scene(shot([box(laid, { surface: { ...surface(laid), faces }, headingDeg: 0 })]));
		const both = shaped(made);
		expect(both).toHaveLength(2);
		for (const { mesh } of both) {
			const { positions } = meshOf(made, mesh);
			let border = 0;
			for (let i = 0; i < positions.length; i += 3) {
				const [x, y, z] = positions.subarray(i, i + 3);
				if (Math.abs(Math.abs(x) - 0.5) > 1e-7 && Math.abs(y) > 1e-7 && Math.abs(y - 1) > 1e-7) continue;
				if (Math.abs(z - 0.5) < 1e-7) border++;
			}
			expect(border).toBeGreaterThan(100);
		}
	});

	it("is left level where it is in hand, far off, and where it has no depth", () => {
		const laid = { ...laidAsMade("cobbles"), reliefMm: 60 };
		const at = (x: number) => shot([box(laid), box(laid, { id: "two", position: [x, 0, -6] })]);
		const drafted = (doc: ShotDocument) => {
			const steps = compileSteps(doc, STILL, NO_BLOBS, makers, cache, true);
			let step = steps.next();
			while (!step.done) step = steps.next();
			return step.value;
		};
		expect(shaped(scene(at(1.3)))).toHaveLength(2);
		const same = drafted(at(1.3));
		expect(shaped(same)).toHaveLength(2);
		expect(same.root.level).toBeUndefined();
		const dragged = drafted(at(1.7));
		expect(shaped(dragged).map((d) => d.id)).toEqual([3]);
		expect(dragged.root.level).toBe(true);
		expect(shaped(scene(shot([box({ ...laidAsMade("cobbles"), reliefMm: 0 })])))).toHaveLength(0);
		const far = box({ ...laidAsMade("cobbles"), reliefMm: 60 }, { position: [0, 0, -400] });
		expect(shaped(scene(shot([far])))).toHaveLength(0);
	});

	it("is level on what goes through a move by itself, and the same in each frame on what stands", () => {
		const laid = { ...laidAsMade("cobbles"), reliefMm: 60 };
		const doc = shot([box(laid), box(laid, { id: "two", position: [1.3, 0, -6] })]);
		const key = (timeS: number, right: number) => ({ timeS, value: [right, 0, -6], leave: "even" as const });
		const tracks: Move["tracks"] = [{ value: "piece.place", of: "two", keys: [key(0, 1.3), key(1, 2)] }];
		const move = { ...usualMove(), tracks };
		const at = (timeS: number) => compile({ ...doc, move }, { timeS, shutterS: 0 }, NO_BLOBS, makers, cache);
		const [first, later] = [at(0.2), at(0.6)].map(shaped);
		expect(first.map((d) => d.id)).toEqual([3]);
		expect(later.map((d) => d.mesh)).toEqual(first.map((d) => d.mesh));
	});

	it("stays the same while the lens moves by little, and keeps to what a shot may have in triangles", () => {
		const doc = shot([box({ ...laidAsMade("cobbles"), reliefMm: 60 })]);
		const key = (position: [number, number, number], headingDeg = 0) =>
			shaped(scene({ ...doc, camera: { ...doc.camera, position, headingDeg } }))[0].mesh;
		expect(key([0.05, 1, 0.05], 1)).toBe(key([0, 1, 0]));
		expect(key([0, 1, -1.5])).not.toBe(key([0, 1, 0]));
		const many = Array.from({ length: 12 }, (_, i) =>
			box(
				{ ...laidAsMade("cobbles"), reliefMm: 60 },
				{ id: `b${i}`, position: [0.3 * i - 1.6, 0, -2.2], size: [0.3, 3, 0.3] },
			),
		);
		const made = scene(shot(many));
		const all = shaped(made).reduce((sum, d) => sum + meshOf(made, d.mesh).indices.length / 3, 0);
		expect(all).toBeGreaterThan(150_000);
		expect(all).toBeLessThan(1_200_000);
	});
});
