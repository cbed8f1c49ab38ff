import { type Node, NodeIO } from "@gltf-transform/core";
import { ALL_EXTENSIONS } from "@gltf-transform/extensions";
import fc from "fast-check";
import { decode } from "fast-png";
import { validateBytes } from "gltf-validator";
import { beforeAll, describe, expect, it } from "vitest";
import { packedAtOnce } from "../../makers/sheets/atOnce.ts";
import { blankShot, newPiece, usualMoon } from "../doc/defaults.ts";
import { type ImageSurface, SHAPE_KINDS, type ShotDocument } from "../doc/schema.ts";
import { newCover } from "../dress/plant.ts";
import type { LandPicture } from "../formats/landPicture.ts";
import { LAMPS, newLamp } from "../light/lamp.ts";
import { cameraAxes } from "../maths/axes.ts";
import { meshVolume } from "../maths/mesh.ts";
import { type Mat34, transformPoint, type Vec3 } from "../maths/vec.ts";
import { compile } from "../scene/compile.ts";
import { NO_BLOBS, NO_MAKERS } from "../scene/inputs.ts";
import { PartCache } from "../scene/partCache.ts";
import { usualPiece } from "../shape/handPieces.ts";
import { geometryOf } from "../shape/shapes.ts";
import { laidAsBrought } from "../surface/brought.ts";
import { STILL } from "../time/frames.ts";
import { sceneGlb } from "./sceneGlb.ts";
import { sceneObj } from "./sceneObj.ts";
import { placingOf, quaternionOf } from "./turned.ts";

/** A shot with each kind of shape, turned, mirrored, repeated; lamps, a cover, water. */
function full(): ShotDocument {
	const doc = blankShot("All of it");
	doc.pieces = SHAPE_KINDS.map((kind, i) =>
		usualPiece(kind, kind, {
			name: `The ${kind}`,
			position: [3 * i - 16, 0.5, -20 - i],
			headingDeg: 20 * i,
			pitchDeg: 8 * i - 40,
			rollDeg: 5 * i,
			...(i % 3 === 1 && { mirrored: [true, i % 2 === 0, false] as [boolean, boolean, boolean] }),
		}),
	);
	doc.pieces.push(
		newPiece("posts", "cylinder", {
			name: "Posts",
			position: [0, 0, -12],
			repeat: { kind: "ring", count: 6, centre: [0, 4], arcDeg: 360, turned: true },
		}),
		newPiece("pair", "wedge", { name: "Pair", position: [6, 0, -9], repeat: { kind: "facing", acrossM: 5 } }),
		newPiece("pane", "box", {
			name: "Pane",
			position: [2, 0, -6],
			surface: { ...newPiece("", "box").surface, glass: { index: 1.5, pane: true, depthM: 0.1 } },
		}),
		newPiece("ember", "sphere", {
			name: "Ember",
			position: [-2, 0, -6],
			surface: { ...newPiece("", "box").surface, coat: 0.5, glow: { nits: 300, kelvin: 1900 } },
		}),
	);
	doc.lamps = (Object.keys(LAMPS) as (keyof typeof LAMPS)[]).map((kind) =>
		newLamp(`lamp-${kind}`, kind, { position: [1, 3, -8] }),
	);
	doc.covers = [newCover("grass", "tussock", { densityPerM2: 0.05 })];
	doc.water = { ...doc.water, on: true, levelM: -0.2 };
	doc.camera = { ...doc.camera, shiftMm: [0, 4], headingDeg: 12, pitchDeg: -7, rollDeg: 3 };
	doc.air = { ...doc.air, moon: usualMoon() };
	return doc;
}

const io = new NodeIO().registerExtensions(ALL_EXTENSIONS);
const doc = full();
const scene = compile(doc);

async function faults(bytes: Uint8Array) {
	const { issues } = await validateBytes(bytes, { maxIssues: 50 });
	return issues.messages.filter((m) => m.severity < 2);
}

/** A node and all below it in the world: least, most, volume. */
function measured(node: Node) {
	const [low, high] = [
		[Infinity, Infinity, Infinity],
		[-Infinity, -Infinity, -Infinity],
	];
	let volume = 0;
	node.traverse((n) => {
		const m = n.getWorldMatrix();
		const rows: Mat34 = [0, 1, 2].flatMap((r) => [m[r], m[4 + r], m[8 + r], m[12 + r]]);
		for (const primitive of n.getMesh()?.listPrimitives() ?? []) {
			const positions = inWorld(primitive.getAttribute("POSITION")?.getArray() as Float32Array, rows);
			for (const [i, v] of positions.entries()) {
				low[i % 3] = Math.min(low[i % 3], v);
				high[i % 3] = Math.max(high[i % 3], v);
			}
			volume += meshVolume({ positions, indices: primitive.getIndices()?.getArray() as Uint32Array });
		}
	});
	return { low, high, volume };
}

function inWorld(positions: Float32Array, m: Mat34): Float32Array {
	const out = new Float32Array(positions.length);
	for (let i = 0; i < positions.length; i += 3)
		out.set(transformPoint(m, [positions[i], positions[i + 1], positions[i + 2]]), i);
	return out;
}

describe("a set for other programs", () => {
	let read: Awaited<ReturnType<typeof io.readBinary>>;
	const named = (name: string) =>
		read
			.getRoot()
			.listNodes()
			.find((n) => n.getName() === name) as Node;
	beforeAll(async () => {
		read = await io.readBinary(sceneGlb(scene, doc));
	});

	it("has no fault by the standard's own validator, plain and with instances", async () => {
		for (const options of [{}, { instanced: true }]) expect(await faults(sceneGlb(scene, doc, options))).toEqual([]);
	});
	it.each(SHAPE_KINDS)("holds the bounds and the volume of a %s", (kind) => {
		const piece = doc.pieces.find((p) => p.id === kind) as (typeof doc.pieces)[0];
		const out = measured(named(`The ${kind}`));
		// As it is drawn: a body of several surfaces is several, and one far off may be plainer.
		const drawn = scene.root.draws.flatMap((d) => {
			const part = scene.root.ids[d.id].id === kind ? scene.parts.get(d.mesh) : null;
			return part?.kind === "mesh"
				? [{ positions: inWorld(part.mesh.positions, d.transform), indices: part.mesh.indices }]
				: [];
		});
		const positions = Float32Array.from(drawn.flatMap((d) => [...d.positions]));
		const volume = drawn.reduce((sum, d) => sum + meshVolume(d), 0);
		for (let c = 0; c < 3; c++) {
			const own = positions.filter((_, i) => i % 3 === c);
			expect(out.low[c]).toBeCloseTo(Math.min(...own), 3);
			expect(out.high[c]).toBeCloseTo(Math.max(...own), 3);
		}
		expect(out.volume).toBeCloseTo(volume, 3);
		if (geometryOf(piece).closed) expect(out.volume).toBeGreaterThan(0);
	});
	it("shares a mesh among copies, and names each of them", () => {
		const posts = named("Posts, all").listChildren();
		expect(posts.map((n) => n.getName())).toEqual([
			"Posts",
			"Posts, 2",
			"Posts, 3",
			"Posts, 4",
			"Posts, 5",
			"Posts, 6",
		]);
		expect(new Set(posts.map((n) => n.getMesh())).size).toBe(1);
		// What a mirror shows is another body.
		const pair = named("Pair, all").listChildren();
		expect(new Set(pair.map((n) => n.getMesh())).size).toBe(2);
		expect(pair.map((n) => measured(n).volume)).toEqual([expect.closeTo(0.5, 4), expect.closeTo(0.5, 4)]);
	});
	it("holds the lens as it stands, with the shift of its film as a note", () => {
		const node = named("Camera");
		const { right, up, forward } = cameraAxes(12, -7, 3);
		const m = node.getWorldMatrix();
		for (const [axis, column] of [
			[right, 0],
			[up, 4],
			[forward.map((v) => -v), 8],
		] as const)
			for (let c = 0; c < 3; c++) expect(m[column + c]).toBeCloseTo(axis[c], 6);
		expect(node.getTranslation()).toEqual([...doc.camera.position]);
		expect(node.getExtras()).toMatchObject({ filmShiftMm: { right: 0, up: 4 }, focalMm: doc.camera.focalMm });
		const camera = node.getCamera();
		expect(camera?.getAspectRatio()).toBeCloseTo(doc.camera.ratio, 9);
		expect(Math.tan((camera?.getYFov() as number) / 2) * 2 * doc.camera.focalMm).toBeCloseTo(36 / 1.85, 6);
	});
	it("holds the sun in lux and lamps in candela, along the ways they shine", () => {
		const sun = named("Sun");
		const light = sun.getExtension("KHR_lights_punctual") as unknown as {
			getType: () => string;
			getIntensity: () => number;
			getColor: () => number[];
		};
		expect(light.getType()).toBe("directional");
		const { sunLux, sunDirection } = scene.root.dome;
		for (let c = 0; c < 3; c++) expect(light.getColor()[c] * light.getIntensity()).toBeCloseTo(sunLux[c], 2);
		const m = sun.getWorldMatrix();
		for (let c = 0; c < 3; c++) expect(m[8 + c]).toBeCloseTo(sunDirection[c], 6);
		const lamps = read
			.getRoot()
			.listNodes()
			.filter((n) => n !== sun && n.getExtension("KHR_lights_punctual"));
		expect(lamps).toHaveLength(doc.lamps.length);
	});
	it("holds covers as instances, each plant where it stands", () => {
		const grown = read
			.getRoot()
			.listNodes()
			.filter((n) => n.getExtension("EXT_mesh_gpu_instancing"));
		const count = grown.reduce(
			(n, g) =>
				n +
				(
					g.getExtension("EXT_mesh_gpu_instancing") as unknown as {
						getAttribute: (of: string) => { getCount: () => number };
					}
				)
					.getAttribute("TRANSLATION")
					.getCount(),
			0,
		);
		expect(scene.root.covers[0].count).toBeGreaterThan(10);
		expect(count).toBe(scene.root.covers[0].count);
	});
	it("takes turns apart and puts them together", () => {
		const angle = fc.double({ min: -180, max: 180, noNaN: true });
		fc.assert(
			fc.property(angle, angle, angle, (a, b, c) => {
				const { right, up, forward } = cameraAxes(a, b, c);
				const back = forward.map((v) => -v) as unknown as Vec3;
				const [x, y, z, w] = quaternionOf(right, up, back);
				const turned = [
					[1 - 2 * (y * y + z * z), 2 * (x * y + w * z), 2 * (x * z - w * y)],
					[2 * (x * y - w * z), 1 - 2 * (x * x + z * z), 2 * (y * z + w * x)],
					[2 * (x * z + w * y), 2 * (y * z - w * x), 1 - 2 * (x * x + y * y)],
				];
				for (const [i, axis] of [right, up, back].entries())
					for (let k = 0; k < 3; k++) expect(turned[i][k]).toBeCloseTo(axis[k], 9);
			}),
		);
		expect(placingOf([2, 0, 0, 5, 0, 3, 0, 6, 0, 0, 4, 7])).toEqual({
			translation: [5, 6, 7],
			rotation: [0, 0, 0, 1],
			scale: [2, 3, 4],
		});
	});
});

describe("a set as OBJ", () => {
	const { obj, mtl } = sceneObj(scene, "set.mtl");
	const text = obj.join("");
	it("holds every triangle in metres, by name and material", () => {
		const lines = text.split("\n");
		expect(lines).toContain("mtllib set.mtl");
		expect(lines.filter((l) => l.startsWith("o Posts"))).toHaveLength(6);
		const numbers = (start: string, among: string[]) =>
			among
				.filter((l) => l.startsWith(start))
				.flatMap((l) =>
					l
						.split(" ")
						.slice(1)
						.map((v) => Number.parseFloat(v)),
				);
		const start = lines.indexOf("o The_box");
		const end = lines.findIndex((l, i) => i > start && l.startsWith("o "));
		const indices = Uint32Array.from(numbers("f ", lines.slice(start, end)), (i) => i - 1);
		expect(indices).toHaveLength(36);
		expect(meshVolume({ positions: Float32Array.from(numbers("v ", lines)), indices })).toBeCloseTo(1, 3);
		for (const used of new Set(lines.filter((l) => l.startsWith("usemtl ")).map((l) => l.slice(7))))
			expect(mtl).toContain(`newmtl ${used}\n`);
	});
});

describe("cards in a glTF", () => {
	it("are cut out by a picture that is held once, the right way up, valid and read back", async () => {
		const [W, H] = [32, 16];
		// Red above, and nothing there on the right.
		const pictures: Record<string, LandPicture> = {
			colour: {
				...{ width: W, height: H },
				values: Uint8Array.from({ length: 3 * W * H }, (_, n) => (n / 3 < (W * H) / 2 === (n % 3 === 0) ? 255 : 0)),
			},
			cut: { width: W, height: H, values: Float32Array.from({ length: W * H }, (_, n) => (n % W < W / 2 ? 1 : 0)) },
		};
		const file = (name: "colour" | "cut") => ({
			...{ file: (name === "cut" ? "a" : "b").repeat(64), name, widthPx: W, heightPx: H, bits: 8 },
			as: name === "cut" ? ("cut" as const) : ("colours" as const),
		});
		const sign: ImageSurface = {
			...{ id: "sign", name: "Sign", sideM: 2, highM: 1, depthMm: 0, handed: "up" },
			files: { colour: file("colour"), cut: file("cut") },
		};
		const surface = { ...newPiece("", "box").surface, laid: laidAsBrought(sign) };
		const cards = ["one", "two"].map((id, i) =>
			newPiece(id, "card", { name: id, position: [3 * i, 0, -8], size: [2, 1, 1], surface }),
		);
		const makers = { ...NO_MAKERS, packed: packedAtOnce, picture: ({ name }: { name: string }) => pictures[name] };
		const blank = blankShot();
		const shot = { ...blank, ground: { ...blank.ground, out: true }, pieces: cards, imageSurfaces: [sign] };
		const bytes = sceneGlb(compile(shot, STILL, NO_BLOBS, makers, new PartCache()), shot);
		expect(await faults(bytes)).toEqual([]);
		const root = (await io.readBinary(bytes)).getRoot();
		const [texture] = root.listTextures();
		expect(root.listTextures()).toHaveLength(1);
		const { width, height, data, channels } = decode(texture.getImage() as Uint8Array);
		expect(channels).toBe(4);
		const at = (x: number, y: number) => Array.from(data.subarray(4 * (y * width + x), 4 * (y * width + x) + 4));
		const [left, right] = [Math.floor(width / 4), Math.floor((3 * width) / 4)];
		expect(at(left, Math.floor(height / 8))).toEqual([255, 0, 0, 255]);
		expect(at(left, Math.floor((7 * height) / 8))).toEqual([0, 255, 255, 255]);
		expect(at(right, Math.floor(height / 8))[3]).toBe(0);
		const card = root.listNodes().find((node) => node.getName() === "one");
		const [primitive] = card?.getMesh()?.listPrimitives() ?? [];
		expect(primitive.getMaterial()?.getAlphaMode()).toBe("MASK");
		const [places, positions] = ["TEXCOORD_0", "POSITION"].map((name) => primitive.getAttribute(name));
		for (let i = 0; i < 4; i++) {
			const [u, v] = places?.getElement(i, [] as number[]) ?? [];
			const [x, y] = positions?.getElement(i, [] as number[]) ?? [];
			expect([u, v]).toEqual([x + 0.5, 1 - y]);
		}
	});
});
