/**
 * A whole scene as binary glTF: ground, pieces, covers, camera, lamps and sun, in world metres, +Y up. Copies are nodes that
 * share a mesh, or, where asked, instances of one node (EXT_mesh_gpu_instancing), as plants always are. What the standard has
 * no word for (the film's shift, the size of a lamp) stands in `extras`.
 */

import type { Camera, ShotDocument } from "../doc/schema.ts";
import { seaDisc } from "../ground/seaDisc.ts";
import { fieldOf, usedFilm } from "../lens/camera.ts";
import type { SceneLight } from "../light/lamps.ts";
import { cameraAxes } from "../maths/axes.ts";
import { cross, normalize, scale, type Vec3 } from "../maths/vec.ts";
import { ID_GROUND } from "../scene/ids.ts";
import { fromAfar } from "../scene/layerTable.ts";
import {
	type CoverDraw,
	type Draw,
	drawsForFiles,
	type Material,
	type MeshPart,
	type Scene,
	type ScenePart,
} from "../scene/scene.ts";
import { GlbBytes } from "./glb.ts";
import { cutOutPng } from "./sheetFiles.ts";
import { placingOf, quaternionOf } from "./turned.ts";

export interface GlbOptions {
	/** Copies of a piece as instances of one node. */
	instanced?: boolean;
}

interface Node {
	name: string;
	[of: string]: unknown;
}

class Writing {
	readonly bytes = new GlbBytes();
	readonly nodes: Node[] = [];
	readonly roots: number[] = [];
	readonly meshes: object[] = [];
	readonly materials: object[] = [];
	readonly lights: object[] = [];
	readonly images: object[] = [];
	readonly textures: object[] = [];
	readonly used = new Set<string>();
	readonly scene: Scene;
	private meshNumbers = new Map<string, number>();
	private pictureNumbers = new Map<string, number>();
	private materialNumbers = new Map<string, number>();
	private primitives = new Map<string, object>();

	constructor(scene: Scene) {
		this.scene = scene;
	}

	root(node: Node): void {
		this.roots.push(this.nodes.push(node) - 1);
	}

	/** A child of a group. @returns Its number. */
	child(node: Node): number {
		return this.nodes.push(node) - 1;
	}

	/** The texture of a picture that cuts out its body, each held once. */
	private cutOut(key: string): number {
		let known = this.pictureNumbers.get(key);
		if (known === undefined) {
			const { sheet } = this.scene.parts.get(key) as Extract<ScenePart, { kind: "sheet" }>;
			const bufferView = this.bytes.held(cutOutPng(sheet));
			const source = this.images.push({ bufferView, mimeType: "image/png" }) - 1;
			known = this.textures.push({ source, sampler: 0 }) - 1;
			this.pictureNumbers.set(key, known);
		}
		return known;
	}

	private material(number: number): number {
		const material = this.scene.root.materials[number];
		const [first] = material.layers ?? [];
		const texture = material.cut && first ? this.cutOut(first.sheet) : null;
		const key = JSON.stringify(materialOf(fromAfar(material, this.scene.parts), this.used, texture));
		let known = this.materialNumbers.get(key);
		if (known === undefined) {
			known = this.materials.push(JSON.parse(key)) - 1;
			this.materialNumbers.set(key, known);
		}
		return known;
	}

	/** Of one that is cut out with where its picture lies: over its front of one by one, rows down. */
	private primitive(part: MeshPart, cut: boolean): object {
		const name = `${part.key} ${cut}`;
		const known = this.primitives.get(name);
		if (known) return known;
		const { positions, normals, indices, colours } = part.mesh;
		const made = {
			attributes: {
				POSITION: this.bytes.vertices(positions, "VEC3", true),
				NORMAL: this.bytes.vertices(normals, "VEC3"),
				...(colours && { COLOR_0: this.bytes.shares(linearShares(colours)) }),
				...(cut && { TEXCOORD_0: this.bytes.vertices(frontPlaces(positions), "VEC2") }),
			},
			indices: this.bytes.indices(indices),
		};
		this.primitives.set(name, made);
		return made;
	}

	/** The mesh of a body, of one part for each of its materials; bodies that differ in material alone share their bytes. */
	mesh(parts: readonly Pick<Draw, "mesh" | "material">[], name: string): number {
		const own = parts.map(({ mesh, material }) => ({
			...{ mesh, material: this.material(material) },
			cut: this.scene.root.materials[material].cut ?? false,
		}));
		const by = own.map(({ mesh, material }) => `${mesh} ${material}`).join();
		let known = this.meshNumbers.get(by);
		if (known === undefined) {
			const primitives = own.map(({ mesh, material, cut }) => ({
				...this.primitive(this.scene.parts.get(mesh) as MeshPart, cut),
				material,
			}));
			known = this.meshes.push({ name, primitives }) - 1;
			this.meshNumbers.set(by, known);
		}
		return known;
	}
}

/** Square roots of linear colour in bytes, as linear shares; what is fourth there is no colour. */
function linearShares(colours: Uint8Array): Uint16Array {
	const out = new Uint16Array(colours.length);
	for (let i = 0; i < colours.length; i++) out[i] = i % 4 === 3 ? 65_535 : Math.round((colours[i] / 255) ** 2 * 65_535);
	return out;
}

/** Where a front of one by one lies in its picture, whose rows go down. */
const frontPlaces = (positions: Float32Array): Float32Array =>
	Float32Array.from({ length: (2 * positions.length) / 3 }, (_, n) =>
		n % 2 ? 1 - positions[3 * (n >> 1) + 1] : positions[3 * (n >> 1)] + 0.5,
	);

function materialOf(m: Material, used: Set<string>, texture: number | null = null): object {
	const extensions: Record<string, object> = {};
	const { glass, glow } = m;
	if (m.coat)
		extensions.KHR_materials_clearcoat = { clearcoatFactor: m.coat, clearcoatRoughnessFactor: m.coatRoughness ?? 0 };
	if (glass) {
		extensions.KHR_materials_transmission = { transmissionFactor: 1 };
		extensions.KHR_materials_ior = { ior: glass.index };
	}
	let emissive = {};
	if (glow) {
		const most = Math.max(...glow);
		emissive = { emissiveFactor: glow.map((v) => v / most) };
		extensions.KHR_materials_emissive_strength = { emissiveStrength: most };
	}
	for (const name of Object.keys(extensions)) used.add(name);
	const colour = glass?.pane ? glass.tint : m.colour;
	return {
		pbrMetallicRoughness: {
			baseColorFactor: texture === null ? [...colour, 1] : [1, 1, 1, 1],
			...(texture !== null && { baseColorTexture: { index: texture } }),
			metallicFactor: m.metal,
			roughnessFactor: m.roughness,
		},
		doubleSided: true,
		...(texture !== null && { alphaMode: "MASK", alphaCutoff: 0.5 }),
		...emissive,
		...(Object.keys(extensions).length && { extensions }),
	};
}

function grouped<T, K>(list: readonly T[], by: (item: T) => K): Map<K, T[]> {
	const out = new Map<K, T[]>();
	for (const item of list) {
		const alike = out.get(by(item));
		if (alike) alike.push(item);
		else out.set(by(item), [item]);
	}
	return out;
}

/** Pieces, ground and what lamps are seen as: a node a copy, or one of instances. */
function addDraws(w: Writing, draws: readonly Draw[], { instanced }: GlbOptions): void {
	const names = w.scene.root.ids;
	for (const [id, drawn] of grouped(draws, (d) => d.id)) {
		const { name } = names[id];
		// A body of several surfaces is drawn several times in one place.
		const own = [...grouped(drawn, (d) => d.transform).values()];
		const node = (copy: readonly Draw[], called: string): Node => ({
			name: called,
			mesh: w.mesh(copy, name),
			...placingOf(copy[0].transform),
		});
		if (own.length === 1) w.root(node(own[0], id === ID_GROUND ? "Ground" : name));
		else if (!instanced) {
			const children = own.map((d, i) => w.child(node(d, i ? `${name}, ${i + 1}` : name)));
			w.root({ name: `${name}, all`, children });
		} else {
			for (const alike of grouped(own, (copy) => copy.map((d) => d.mesh).join()).values()) {
				const mesh = w.mesh(alike[0], name);
				addInstances(w, name, mesh, alike.length, (i) => placingOf(alike[i][0].transform));
			}
		}
	}
}

function addInstances(
	w: Writing,
	name: string,
	mesh: number,
	count: number,
	at: (i: number) => ReturnType<typeof placingOf>,
): void {
	const places = new Float32Array(3 * count);
	const turns = new Float32Array(4 * count);
	const sizes = new Float32Array(3 * count);
	// Beside a place of their own, so that single precision is enough far from the middle of the world.
	const origin = at(0).translation;
	for (let i = 0; i < count; i++) {
		const { translation, rotation, scale: size } = at(i);
		places.set(
			translation.map((v, c) => v - origin[c]),
			3 * i,
		);
		turns.set(rotation, 4 * i);
		sizes.set(size, 3 * i);
	}
	w.used.add("EXT_mesh_gpu_instancing");
	const attributes = {
		TRANSLATION: w.bytes.instances(places, "VEC3"),
		ROTATION: w.bytes.instances(turns, "VEC4"),
		SCALE: w.bytes.instances(sizes, "VEC3"),
	};
	w.root({ name, mesh, translation: origin, extensions: { EXT_mesh_gpu_instancing: { attributes } } });
}

function addCover(w: Writing, { cells, meshes, material, id }: CoverDraw): void {
	const { name } = w.scene.root.ids[id];
	for (const [variant, key] of meshes.entries()) {
		const own: { origin: readonly number[]; m: Float32Array }[] = [];
		for (const cell of cells) {
			const part = w.scene.parts.get(cell);
			if (part?.kind !== "plants") continue;
			const { count, origin, transforms, variants } = part.plants;
			for (let i = 0; i < count; i++)
				if (variants[i] === variant) own.push({ origin, m: transforms.subarray(12 * i, 12 * i + 12) });
		}
		if (own.length === 0) continue;
		const mesh = w.mesh([{ mesh: key, material }], `${name}, form ${variant + 1}`);
		addInstances(w, `${name}, form ${variant + 1}`, mesh, own.length, (i) => {
			const { origin, m } = own[i];
			const placing = placingOf(m as unknown as number[]);
			for (let c = 0; c < 3; c++) placing.translation[c] += origin[c];
			return placing;
		});
	}
}

/** A node whose −Z looks along a direction. */
function lookingAlong(forward: Vec3): { rotation: ReturnType<typeof quaternionOf> } {
	const z = scale(normalize(forward), -1);
	const x = normalize(cross(Math.abs(z[1]) < 0.99 ? [0, 1, 0] : [1, 0, 0], z));
	return { rotation: quaternionOf(x, cross(z, x), z) };
}

const LIGHTS = "KHR_lights_punctual";

function addLight(w: Writing, name: string, rgb: Vec3, light: object, node: object): void {
	const intensity = Math.max(...rgb);
	if (!(intensity > 0)) return;
	w.used.add(LIGHTS);
	const number = w.lights.push({ name, color: rgb.map((v) => v / intensity), intensity, ...light }) - 1;
	w.root({ name, extensions: { [LIGHTS]: { light: number } }, ...node });
}

/** Square metres as they are seen from straight before them, by which what has a size is a point of so many candela. */
const AREAS: Partial<Record<SceneLight["shape"], (half: readonly [number, number]) => number>> = {
	sphere: ([r]) => Math.PI * r * r,
	disc: ([r]) => Math.PI * r * r,
	rectangle: ([w, h]) => 4 * w * h,
};

function addLamps(w: Writing): void {
	const { lights, ids } = w.scene.root;
	for (const light of lights) {
		// What glows sends its light out of its own material.
		if (light.shape === "body") continue;
		const area = AREAS[light.shape]?.(light.half);
		const spot = light.shape === "spot";
		const cone = (cos: number) => Math.acos(Math.min(1, Math.max(0, cos)));
		const outer = Math.min(Math.PI / 2, Math.max(0.01, cone(light.cosOuter)));
		addLight(
			w,
			ids[light.id].name,
			area === undefined ? light.rgb : scale(light.rgb, area),
			spot
				? {
						type: "spot",
						spot: { innerConeAngle: Math.min(cone(light.cosInner), outer * 0.999), outerConeAngle: outer },
					}
				: { type: "point" },
			{
				translation: [...light.position],
				...(light.shape !== "sphere" && lookingAlong(light.axis)),
				...(area !== undefined && { extras: { shape: light.shape, halfMetres: light.half, candelaPerM2: light.rgb } }),
			},
		);
	}
}

function addCamera(w: Writing, camera: Camera): object {
	const { right, up, forward } = cameraAxes(camera.headingDeg, camera.pitchDeg, camera.rollDeg);
	const film = usedFilm(camera.film, camera.ratio);
	const { tanY } = fieldOf(camera);
	const [x, y] = camera.shiftMm ?? [0, 0];
	w.root({
		name: "Camera",
		camera: 0,
		translation: [...camera.position],
		rotation: quaternionOf(right, up, scale(forward, -1)),
		extras: {
			focalMm: camera.focalMm,
			film: { widthMm: film.widthMm, heightMm: film.heightMm },
			filmShiftMm: { right: x, up: y },
			note: "The film is shifted by filmShiftMm; glTF knows no shift, so yfov is that of the film unshifted.",
			fStop: camera.fStop,
			focusM: camera.focusM,
			ev100: camera.ev100,
		},
	});
	return {
		name: "Camera",
		type: "perspective",
		perspective: { yfov: 2 * Math.atan(tanY), aspectRatio: film.widthMm / film.heightMm, znear: 0.02 },
	};
}

function addWater(w: Writing): void {
	const { water, camera, planet } = w.scene.root;
	if (!water || water.levelM === null) return;
	const [x, z] = planet ? [planet.x, planet.z] : [camera.position[0], camera.position[2]];
	const mesh = seaDisc(planet, water.levelM);
	const material: Material = {
		colour: [1, 1, 1],
		roughness: 0,
		metal: 0,
		translucency: 0,
		glass: { pane: true, index: 1.333, tint: [0.9, 0.95, 1] },
	};
	for (const name of ["KHR_materials_transmission", "KHR_materials_ior"]) w.used.add(name);
	const own = w.materials.push(materialOf(material, w.used)) - 1;
	const attributes = {
		POSITION: w.bytes.vertices(mesh.positions, "VEC3", true),
		NORMAL: w.bytes.vertices(mesh.normals, "VEC3"),
	};
	const primitives = [{ attributes, indices: w.bytes.indices(mesh.indices), material: own }];
	const number = w.meshes.push({ name: "Water", primitives }) - 1;
	w.root({ name: "Water", mesh: number, translation: [x, water.levelM, z] });
}

/** The file of a scene. `doc` is the document that it was compiled from. */
export function sceneGlb(scene: Scene, doc: Pick<ShotDocument, "title">, options: GlbOptions = {}): Uint8Array {
	const { root } = scene;
	const w = new Writing(scene);
	addDraws(w, drawsForFiles(root), options);
	for (const cover of root.covers) addCover(w, cover);
	addWater(w);
	const camera = addCamera(w, root.camera);
	addLamps(w);
	addLight(w, "Sun", root.dome.sunLux, { type: "directional" }, lookingAlong(scale(root.dome.sunDirection, -1)));
	const extensionsUsed = [...w.used].sort();
	return w.bytes.file({
		asset: { version: "2.0", generator: "Inquadra", extras: { title: doc.title, unit: "metre", up: "+Y" } },
		scene: 0,
		scenes: [{ name: doc.title, nodes: w.roots }],
		nodes: w.nodes,
		meshes: w.meshes,
		materials: w.materials,
		images: w.images,
		textures: w.textures,
		// Between texels, and none from the other edge.
		samplers: w.textures.length ? [{ magFilter: 9729, minFilter: 9987, wrapS: 33071, wrapT: 33071 }] : [],
		cameras: [camera],
		...(w.lights.length && { extensions: { [LIGHTS]: { lights: w.lights } } }),
		extensionsUsed,
		// Readers that do not know instances would show one of many.
		extensionsRequired: extensionsUsed.filter((name) => name === "EXT_mesh_gpu_instancing"),
	});
}
