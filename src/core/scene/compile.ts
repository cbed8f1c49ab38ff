/**
 * Turns a shot document into the scene that every picture is made from. Pure and deterministic: the same document gives
 * the same bytes in browser and Node. Parts already made are taken from the cache by key.
 */
import { type AtmosphereTables, atmosphereTables } from "../air/atmosphere.ts";
import { cloudTile } from "../air/cloud.ts";
import { type Dome, makeDome, outsideLight, skyFor, skyGrid, skyLuminance, sunDirection } from "../air/dome.ts";
import { fogShape } from "../air/fog.ts";
import { readSky, type SkyReading, type SkyTable } from "../air/skyPicture.ts";
import type { Cover, Lamp, Piece, ShotDocument, SkyPicture, Surface } from "../doc/schema.ts";
import { footprints, repeatOffsets } from "../dress/footprints.ts";
import { grow, VARIANTS } from "../dress/grow.ts";
import { type CellPlants, coverCells, placeCell } from "../dress/placeCover.ts";
import { groundHeight } from "../ground/height.ts";
import { groundMeshForLens } from "../ground/meshForLens.ts";
import { ripples } from "../ground/ripples.ts";
import { frameOfView } from "../lens/camera.ts";
import { blackbody } from "../light/blackbody.ts";
import { lampMesh } from "../light/lampMeshes.ts";
import { coneCosines, lampColour, lampPlaces, lampStrength, type SceneLight, shining } from "../light/lamps.ts";
import { GLOW_LAYER, lightLayers } from "../light/layers.ts";
import { atan, cos, DEG, log, sin } from "../maths/functions.ts";
import { keyOf } from "../maths/hash.ts";
import type { Mat34, Vec3 } from "../maths/vec.ts";
import { isRound, primitiveMesh } from "../shape/primitives.ts";
import type { CoverDraw, Draw, Material, Scene, ScenePart, ScenePicture } from "./scene.ts";

/** Raised when the meaning of parts changes, so that no old part is taken for a new one. */
const CODE = 1;

/** Parts by key, kept while one of the last compiles has used them. */
export class PartCache {
	private parts = new Map<string, ScenePart>();
	private lastUse = new Map<string, number>();
	private generation = 0;
	private skies = new Map<string, SkyReading & Pick<SkyTable, "width" | "height">>();
	private atmospheres = new Map<number, AtmosphereTables>();
	/** Parts made anew since the counter was last set to 0, by kind of key. */
	made: string[] = [];

	begin(): void {
		this.generation++;
	}

	take<K extends ScenePart["kind"]>(
		kind: K,
		key: string,
		make: () => Omit<Extract<ScenePart, { kind: K }>, "kind" | "key">,
	): Extract<ScenePart, { kind: K }> {
		let part = this.parts.get(key);
		if (!part) {
			part = { kind, key, ...make() } as unknown as ScenePart;
			this.parts.set(key, part);
			this.made.push(key);
		}
		this.lastUse.set(key, this.generation);
		return part as Extract<ScenePart, { kind: K }>;
	}

	has(key: string): boolean {
		return this.parts.has(key);
	}

	atmosphere(haze: number): AtmosphereTables {
		let tables = this.atmospheres.get(haze);
		if (!tables) {
			if (this.atmospheres.size > 4) this.atmospheres.clear();
			tables = atmosphereTables(haze);
			this.atmospheres.set(haze, tables);
		}
		return tables;
	}

	/** Keeps the prepared table of a sky picture; the two that came last are held. */
	keepSky(file: string, table: SkyTable): void {
		this.skies.delete(file);
		this.skies.set(file, { width: table.width, height: table.height, ...readSky(table) });
		for (const old of this.skies.keys()) if (this.skies.size > 2) this.skies.delete(old);
	}

	sky(file: string): (SkyReading & Pick<SkyTable, "width" | "height">) | undefined {
		return this.skies.get(file);
	}

	/** Drops parts that the last `keep` compiles have not used. */
	end(keep = 6): void {
		for (const [key, use] of this.lastUse) {
			if (use > this.generation - keep) continue;
			this.parts.delete(key);
			this.lastUse.delete(key);
		}
	}
}

/** Placement of a piece's copies in the world: heading, lean, size, foot on the ground where it stands on it. */
export function pieceTransforms(piece: Piece, doc: Pick<ShotDocument, "ground">): Mat34[] {
	const ch = cos(piece.headingDeg * DEG);
	const sh = sin(piece.headingDeg * DEG);
	const cl = cos(piece.leanDeg * DEG);
	const sl = sin(piece.leanDeg * DEG);
	const [w, h, d] = piece.size;
	return repeatOffsets(piece).map(([ox, oz]) => {
		const x = piece.position[0] + ox;
		const z = piece.position[2] + oz;
		const y = piece.position[1] + (piece.stands === "ground" ? groundHeight(doc.ground, x, z) : 0);
		// lean about the own right axis (up goes towards away = −z), then heading clockwise about the vertical
		const up: Vec3 = [0, cl, -sl];
		const back: Vec3 = [0, sl, cl];
		const turn = (v: Vec3): Vec3 => [ch * v[0] - sh * v[2], v[1], sh * v[0] + ch * v[2]];
		const r = turn([1, 0, 0]);
		const u = turn(up);
		const b = turn(back);
		return [r[0] * w, u[0] * h, b[0] * d, x, r[1] * w, u[1] * h, b[1] * d, y, r[2] * w, u[2] * h, b[2] * d, z];
	});
}

const GROUND_MATERIAL: Material = { colour: [1, 1, 1], roughness: 0.85, metal: 0, translucency: 0 };

/** What all glowing pieces have in common as lights; their draw tells their shape. */
const BODY: Pick<SceneLight, "layer" | "shape" | "axis" | "right" | "up" | "half" | "cosInner" | "cosOuter"> = {
	layer: GLOW_LAYER,
	shape: "body",
	axis: [0, 1, 0],
	right: [1, 0, 0],
	up: [0, 1, 0],
	half: [0, 0],
	cosInner: 1,
	cosOuter: -1,
};

/** Number of the first piece in the id layer; sky, ground and water come before it. */
const FIRST_PIECE = 3;

/** What the numbers of the id layer stand for: sky, ground, water, pieces, covers, in the order of the document. */
export function namesOfIds(doc: ShotDocument): { id: string; name: string }[] {
	const fixed = ["Sky", "Ground", "Water"].map((name) => ({ id: name.toLowerCase(), name }));
	return [...fixed, ...[...doc.pieces, ...doc.covers, ...doc.lamps].map(({ id, name }) => ({ id, name }))];
}

function materialOf(s: Surface): Material {
	const { colour, roughness, metal, coat, coatRoughness, glass } = s;
	const plain = { colour, roughness, metal, translucency: 0, coat, coatRoughness };
	if (!glass) return plain;
	const tint = colour.map((c) => (glass.pane ? c : -log(Math.max(1e-4, c)) / glass.depthM)) as unknown as Vec3;
	return { ...plain, glass: { pane: glass.pane, index: glass.index, tint } };
}

/** More lights than this would take the tree over them longer to build than a person waits. */
const MOST_LIGHTS = 100_000;

/** Lamps with their bodies. */
function compileLamps(
	doc: ShotDocument,
	keep: (kind: "sphere" | "disc" | "rectangle") => string,
	draws: Draw[],
	lights: SceneLight[],
	materials: Material[],
): void {
	const black = materials.length;
	const shown = new Set(shining(doc.lamps));
	const { ofLamp } = lightLayers(doc);
	if (shown.size > 0) materials.push({ colour: [0, 0, 0], roughness: 1, metal: 1, translucency: 0 });
	for (const [i, lamp] of doc.lamps.entries()) {
		if (!shown.has(lamp) || lamp.strength.value === 0) continue;
		const carrier = doc.pieces.find((p) => p.id === lamp.carriedBy);
		if (carrier?.hidden) continue;
		const id = FIRST_PIECE + doc.pieces.length + doc.covers.length + i;
		const colour = lampColour(lamp);
		const strength = lampStrength(lamp);
		const half: [number, number] = [lamp.sizeM[0] / 2, (lamp.kind === "rectangle" ? lamp.sizeM[1] : lamp.sizeM[0]) / 2];
		for (const place of lampPlaces(lamp, doc, carrier ? pieceTransforms({ ...carrier, size: [1, 1, 1] }, doc) : [])) {
			const draw = hasBody(lamp) ? draws.length : -1;
			const rgb: Vec3 = [colour[0] * strength, colour[1] * strength, colour[2] * strength];
			lights.push({
				shape: lamp.kind,
				layer: ofLamp.get(lamp.id) ?? 0,
				...place,
				half,
				...coneCosines(lamp),
				rgb,
				id,
				draw,
			});
			if (draw < 0) continue;
			const { position: p, axis: a, right: r, up: u } = place;
			const d = lamp.kind === "sphere" ? half[0] : 1;
			const transform = [0, 1, 2].flatMap((c) => [r[c] * half[0], u[c] * half[1], -a[c] * d, p[c]]);
			draws.push({ mesh: keep(lamp.kind as "sphere"), transform, material: black, id, light: lights.length - 1 });
		}
	}
	if (lights.length > MOST_LIGHTS)
		throw new Error(
			`There are ${lights.length.toLocaleString("en")} lights with all repeats; a shot may have ${MOST_LIGHTS.toLocaleString("en")}. Let fewer copies carry lamps or glow.`,
		);
}

const hasBody = (lamp: Lamp): boolean => lamp.seen && lamp.kind !== "point" && lamp.kind !== "spot";

/** The file of the sky picture that a compile of this shot needs and the cache has not, or null. */
export function skyNeeded(doc: Pick<ShotDocument, "air">, cache: PartCache): string | null {
	const file = doc.air.picture?.file;
	return file && !cache.sky(file) ? file : null;
}

/** A picture in place of the sky. Its own sun, when it has one, becomes the sun of the dome, unless another shall stand there. */
function compilePicture(
	picture: SkyPicture,
	dome: Dome,
	cache: PartCache,
	keep: (part: ScenePart) => ScenePart,
): { picture: ScenePicture; grid: string } {
	const reading = cache.sky(picture.file);
	if (!reading) throw new Error(`The sky picture "${picture.name}" has not been read.`);
	const key = (what: string) => keyOf(`picture ${what}`, CODE, picture.file);
	const part = (what: string, data: Float32Array) => keep(cache.take("table", key(what), () => ({ data }))).key;
	const gain = reading.level > 0 ? picture.lux / reading.level : 1;
	const sun = picture.sun ? null : reading.sun;
	if (!picture.sun) dome.sunLux = [0, 0, 0];
	if (sun) {
		dome.sunDirection = sunDirection({ headingDeg: sun.headingDeg + picture.turnDeg, elevationDeg: sun.elevationDeg });
		dome.sunLux = [sun.rgb[0] * gain, sun.rgb[1] * gain, sun.rgb[2] * gain];
	}
	return {
		grid: part("sums", reading.sums),
		picture: {
			texels: keep(cache.take("texels", key("texels"), () => ({ data: reading.texels }))).key,
			nodes: part("nodes", reading.nodes),
			ring: part("ring", reading.ring),
			small: part("small", reading.small),
			width: reading.width,
			height: reading.height,
			columns: reading.columns,
			rows: reading.rows,
			turn: picture.turnDeg / 360,
			gain,
			saturation: picture.saturation,
			ownSun: sun !== null,
		},
	};
}

/** Steps of a compile; each `next` does one part's work, so that a caller can stop when something newer waits. */
export function* compileSteps(doc: ShotDocument, cache: PartCache): Generator<void, Scene> {
	cache.begin();
	const parts = new Map<string, ScenePart>();
	const keep = <P extends ScenePart>(part: P): P => {
		parts.set(part.key, part);
		return part;
	};
	const { camera, air, ground, water } = doc;

	const cloud = keep(
		cache.take("table", keyOf("cloud", CODE, air.cloud), () => ({ data: cloudTile(air.cloud.cover, air.cloud.seed) })),
	);
	yield;
	const { sky: source, share } = outsideLight(air);
	const sky = keep(
		cache.take("table", keyOf("sky", CODE, air.haze, source.elevationDeg, share), () => ({
			data: skyFor(cache.atmosphere(air.haze), source.elevationDeg, share),
		})),
	);
	yield;
	const dome = makeDome(air, cache.atmosphere(air.haze), sky.data, cloud.data);
	const hung = air.picture ? compilePicture(air.picture, dome, cache, keep) : null;
	const gridKey =
		hung?.grid ??
		keep(
			cache.take("table", keyOf("grid", sky.key, cloud.key, source), () => ({
				data: skyGrid((d) => skyLuminance(dome, d)),
			})),
		).key;
	yield;

	const ids = namesOfIds(doc);
	const materials: Material[] = [GROUND_MATERIAL];
	const draws: Draw[] = [];
	const lights: SceneLight[] = [];

	const view = frameOfView(camera);
	const foot = {
		x: camera.position[0],
		z: camera.position[2],
		headingDeg: camera.headingDeg,
		halfFieldDeg: atan(Math.hypot(view.tanX + Math.abs(view.shiftX), view.tanY + Math.abs(view.shiftY))) / DEG + 4,
	};
	const wet = water.on ? water : { ...water, levelM: 0 };
	const land = keep(
		cache.take("mesh", keyOf("ground", CODE, ground, water.on, wet.levelM, foot), () => ({
			mesh: groundMeshForLens(ground, water, foot),
		})),
	);
	draws.push({ mesh: land.key, transform: [1, 0, 0, foot.x, 0, 1, 0, 0, 0, 0, 1, foot.z], material: 0, id: 1 });
	yield;

	for (const [i, piece] of doc.pieces.entries()) {
		const id = FIRST_PIECE + i;
		if (piece.hidden) continue;
		const mesh = keep(
			cache.take("mesh", keyOf("primitive", CODE, piece.kind), () => ({
				mesh: primitiveMesh(piece.kind),
				...(isRound(piece.kind) && { coarse: primitiveMesh(piece.kind, true) }),
			})),
		);
		materials.push(materialOf(piece.surface));
		const { glow } = piece.surface;
		const rgb = glow && glow.nits > 0 ? (blackbody(glow.kelvin).map((v) => v * glow.nits) as unknown as Vec3) : null;
		for (const transform of pieceTransforms(piece, doc)) {
			if (rgb)
				lights.push({ ...BODY, position: [transform[3], transform[7], transform[11]], rgb, id, draw: draws.length });
			draws.push({
				mesh: mesh.key,
				transform,
				material: materials.length - 1,
				id,
				...(rgb && { light: lights.length - 1 }),
			});
		}
	}
	const lampPart = (kind: "sphere" | "disc" | "rectangle") =>
		keep(cache.take("mesh", keyOf("lamp", CODE, kind), () => ({ mesh: lampMesh(kind) }))).key;
	compileLamps(doc, lampPart, draws, lights, materials);

	const outlines = footprints(doc.pieces);
	const covers: CoverDraw[] = [];
	for (const [i, cover] of doc.covers.entries()) {
		const id = FIRST_PIECE + doc.pieces.length + i;
		if (cover.hidden) continue;
		covers.push(yield* compileCover(cover, doc, outlines, cache, keep, materials, id));
	}
	cache.end();

	const { sky: _s, cloud: _c, ...outside } = dome;
	const clarity = 3.912 / water.clarityM;
	return {
		root: {
			camera,
			finish: doc.finish,
			dome: { ...outside, sky: sky.key, cloud: cloud.key, grid: gridKey, picture: hung?.picture ?? null },
			fog: { ...fogShape(air.fog), g: air.fog.forward, albedo: air.fog.colour, skyClear: air.fog.skyClear },
			water: water.on
				? {
						levelM: water.levelM,
						waves: ripples(water.rippleMm, ground.seed),
						absorbPerM: [clarity * 1.5, clarity * 0.85, clarity],
					}
				: null,
			materials,
			draws,
			lights,
			covers,
			ids,
		},
		parts,
	};
}

function* compileCover(
	cover: Cover,
	doc: ShotDocument,
	outlines: ReturnType<typeof footprints>,
	cache: PartCache,
	keep: <P extends ScenePart>(part: P) => P,
	materials: Material[],
	id: number,
): Generator<void, CoverDraw> {
	const meshes: string[] = [];
	for (let v = 0; v < VARIANTS; v++) {
		meshes.push(
			keep(cache.take("mesh", keyOf("plant", CODE, cover.species, v), () => ({ mesh: grow(cover.species, v) }))).key,
		);
	}
	materials.push({
		colour: [1, 1, 1],
		roughness: 0.7,
		metal: 0,
		translucency: cover.species === "tussock" ? 0.35 : 0.3,
	});
	const around = { cover, camera: doc.camera, ground: doc.ground, water: doc.water, footprints: outlines };
	const cells: string[] = [];
	let count = 0;
	for (const job of coverCells(around)) {
		const fresh = !cache.has(job.key);
		const part = cache.take("plants", job.key, (): { plants: CellPlants } => ({ plants: placeCell(job, around) }));
		if (fresh) yield;
		if (part.plants.count === 0) continue;
		keep(part);
		cells.push(part.key);
		count += part.plants.count;
	}
	return { coverId: cover.id, cells, meshes, material: materials.length - 1, id, count };
}

/** The whole compile at once. */
export function compile(doc: ShotDocument, cache = new PartCache()): Scene {
	const steps = compileSteps(doc, cache);
	for (;;) {
		const step = steps.next();
		if (step.done) return step.value;
	}
}
