/**
 * The working view: the compiled scene drawn by three.js with the sky's own tables, sun shadows, closed-form fog and a
 * planar mirror in still water. Everything is placed relative to the shot's lens. It draws into a half-float picture
 * of luminance × 2^−EV; the finish pass brings that, or a proof, to the eye.
 */
import * as THREE from "three";
import { SUN_RADIUS } from "../../core/air/dome.ts";
import { RING } from "../../core/air/skyPicture.ts";
import type { Finish } from "../../core/doc/schema.ts";
import { type FrameOfView, frameOfView } from "../../core/lens/camera.ts";
import { ID_GROUND } from "../../core/scene/ids.ts";
import type { Material, ScenePart, ScenePicture, SceneRoot } from "../../core/scene/scene.ts";
import { aroundTexture, COARSE, halfTexture, programOf, putSurface, trianglesOf } from "./buffers.ts";
import { skyHarmonics, skyWithoutSun } from "./harmonics.ts";
import * as S from "./shaders.ts";

/** Triangles that covers may take in the working view; above it they are thinned by rank. */
export const COVER_BUDGET = 350_000;
/** Turns in which the plants of all cells are listed. */
const TURNS = 8;
/** Copies smaller than this share of their distance are drawn with fewer faces: half a pixel at most at the silhouette. */
const SMALL = 0.05;
const SHADOW_SIZE = 1024;
const SHADOW_REACH_M = 75;

export interface Thinning {
	coverId: string;
	shown: number;
	all: number;
}

export type Look = "surfaces" | "clay" | "silhouette";

export interface ProofPicture {
	width: number;
	height: number;
	/** RGBA rows from the top: cd/m² times `scale`. */
	pixels: Float32Array | Uint16Array;
	scale: number;
	/** Share that it has in the frame; the rest is the drawn view. A young proof grows into it, so that nothing jumps. */
	share: number;
	/** A layer that is shown as it is: no exposure, no curve. */
	plain?: boolean;
	/** Part of the frame that it covers, as shares from the top-left corner; the rest is the drawn view. */
	part?: { x: number; y: number; width: number; height: number };
}

/** What lies around the frame, in display values, and how much of it covers the margin. */
const MAT = [0.804, 0.8, 0.784] as const;

const WHOLE = { x: 0, y: 0, width: 1, height: 1 };

const uniformsOf = <T extends Record<string, THREE.IUniform>>(u: T): T => u;

export class WorkingView {
	private world = new THREE.Scene();
	private skyScene = new THREE.Scene();
	private finishScene = new THREE.Scene();
	private flat = new THREE.OrthographicCamera(-1, 1, 1, -1, 0, 1);
	private camera = new THREE.PerspectiveCamera();
	private mirror = new THREE.PerspectiveCamera();
	private sunCamera = new THREE.OrthographicCamera(-1, 1, 1, -1, 0.1, 1);
	private geometries = new Map<string, THREE.BufferGeometry>();
	private target = new THREE.WebGLRenderTarget(2, 2, { type: THREE.HalfFloatType, samples: 0 });
	private mirrorTarget = new THREE.WebGLRenderTarget(2, 2, { type: THREE.HalfFloatType });
	private shadowTarget = new THREE.WebGLRenderTarget(SHADOW_SIZE, SHADOW_SIZE, {
		depthTexture: new THREE.DepthTexture(SHADOW_SIZE, SHADOW_SIZE, THREE.UnsignedIntType),
	});
	private shadowMaterial = new THREE.MeshBasicMaterial({ side: THREE.DoubleSide, colorWrite: false });
	private shadowStale = true;
	/** Scenes taken so far. */
	private scenes = 0;
	private materials = new Map<string, THREE.ShaderMaterial>();
	private used = new Set<string>();
	private waterMesh: THREE.Mesh | null = null;
	/** Plants of the present scene, and how many of them there are. */
	private plants: { mesh: THREE.InstancedMesh; count: number }[] = [];
	/** Share of the plants that the shadows were drawn with. */
	private shadowShare = 0;
	/** The water of the present scene. */
	private water: THREE.Mesh | null = null;
	private root: SceneRoot | null = null;
	/** Key of the sky picture that is in the graphics memory. */
	private around = "";
	private proofTexture: THREE.DataTexture | null = null;
	private proofScale = 1;
	private proofShare = 1;
	private proofPlain = false;
	private proofPart = WHOLE;
	/** What the drawn view was drawn for. */
	private drawnFor = "";
	/** Share of the pixels' sides that the drawn view has now. */
	drawnScale = 0;
	/** Some of the drawn view is in the frame or around it. */
	showsWorld = false;
	/** How often the world has been drawn. */
	worlds = 0;
	thinning: Thinning[] = [];
	/** How long a frame of all its pixels takes, milliseconds; 0 before it is measured. */
	frameMs = 0;
	/** Told how long a drawing took, and of which share of the pixels' sides it was. */
	onClock: (ms: number, scale: number) => void = () => {};
	/** Told when the first drawing is done, and all programs are made. */
	onWarm: () => void = () => {};
	private timing = false;
	/** Its programs have been made. */
	private warm = false;

	private light = uniformsOf({
		uSunDir: { value: new THREE.Vector3(0, 1, 0) },
		uSkyDir: { value: new THREE.Vector3(0, 1, 0) },
		uSunLux: { value: new THREE.Vector3() },
		uCloudSun: { value: new THREE.Vector3() },
		uCloudAmbient: { value: new THREE.Vector3() },
		uAir: { value: new THREE.Vector3() },
		uFog: { value: new THREE.Vector4() },
		uFogAlbedo: { value: new THREE.Vector3(1, 1, 1) },
		uSkyClear: { value: 1 },
		uSky: { value: null as THREE.Texture | null },
		uCloud: { value: null as THREE.Texture | null },
		uAroundOn: { value: 0 },
		uAround: { value: null as THREE.Texture | null },
		uRing: { value: null as THREE.Texture | null },
		uAroundIs: { value: new THREE.Vector3(0, 1, 1) },
		uSh: { value: Array.from({ length: 9 }, () => new THREE.Vector3()) },
		uEye: { value: new THREE.Vector3() },
		uClip: { value: -1e9 },
		uShadowMatrix: { value: new THREE.Matrix4() },
		uShadow: { value: this.shadowTarget.depthTexture as THREE.Texture },
		uShadowOn: { value: 1 },
		uLook: { value: 0 },
		uLamps: { value: 0 },
		uLampAt: { value: Array.from({ length: S.LAMPS }, () => new THREE.Vector4()) },
		uLampRgb: { value: Array.from({ length: S.LAMPS }, () => new THREE.Vector4()) },
		uLampAxis: { value: Array.from({ length: S.LAMPS }, () => new THREE.Vector4()) },
		uLampInner: { value: new Array<number>(S.LAMPS).fill(1) },
	});
	private sky = {
		...this.light,
		uAxes: { value: new THREE.Matrix3() },
		uSunCos: { value: Math.cos(SUN_RADIUS) },
		uEyeY: { value: 0 },
	};
	private waves = {
		uWorld: { value: new THREE.Vector2() },
		uMirror: { value: this.mirrorTarget.texture },
		uWave: { value: Array.from({ length: S.WAVES }, () => new THREE.Vector4()) },
		uLength: { value: new Array<number>(S.WAVES).fill(1) },
		uWaves: { value: 0 },
		uPixel: { value: 0.001 },
	};
	private finish = {
		uPicture: { value: null as THREE.Texture | null },
		uView: { value: null as THREE.Texture | null },
		uShare: { value: 1 },
		uViewFactor: { value: 1 },
		uFactor: { value: 1 },
		uContrast: { value: 1 },
		uVignette: { value: 0 },
		uCurve: { value: 0 },
		uGrey: { value: 0 },
		uMirrored: { value: 0 },
		uTopDown: { value: 0 },
		uPlain: { value: 0 },
		uPart: { value: new THREE.Vector4(0, 0, 1, 1) },
		uSize: { value: new THREE.Vector2(1, 1) },
		uBleed: { value: new THREE.Vector2(1, 1) },
		uMat: { value: new THREE.Vector3(...MAT) },
	};

	constructor() {
		const triangle = new THREE.BufferGeometry();
		triangle.setAttribute("position", new THREE.BufferAttribute(new Float32Array([-1, -1, 0, 3, -1, 0, -1, 3, 0]), 3));
		const full = (fragmentShader: string, uniforms: Record<string, THREE.IUniform>) => {
			const mesh = new THREE.Mesh(
				triangle,
				new THREE.ShaderMaterial({
					glslVersion: THREE.GLSL3,
					vertexShader: S.SKY_VERTEX,
					fragmentShader,
					uniforms,
					depthTest: false,
					depthWrite: false,
				}),
			);
			mesh.frustumCulled = false;
			return mesh;
		};
		this.skyScene.add(full(S.SKY_FRAGMENT, this.sky));
		this.finishScene.add(full(S.FINISH_FRAGMENT, this.finish));
		for (const c of [this.camera, this.mirror]) c.matrixWorldAutoUpdate = false;
	}

	/** Takes a compiled scene; meshes are kept by key. */
	take(root: SceneRoot, parts: Map<string, ScenePart>): void {
		this.root = root;
		this.scenes++;
		for (const [key, g] of this.geometries) {
			if (parts.has(key.replace(COARSE, ""))) continue;
			g.dispose();
			this.geometries.delete(key);
		}
		for (const child of [...this.world.children]) {
			this.world.remove(child);
			if (child instanceof THREE.InstancedMesh) child.dispose();
		}
		this.water = null;
		this.used.clear();
		this.takeLight(root, parts);
		const lens = root.camera.position;
		const placed = new THREE.Matrix4();
		const groups = new Map<string, SceneRoot["draws"]>();
		for (const draw of root.draws) {
			// Copies of one glowing piece glow alike.
			const key = `${this.isCoarse(draw, parts, lens) ? COARSE : ""}${draw.mesh}|${programOf(root.materials[draw.material])}|${draw.light === undefined ? "" : root.lights[draw.light].rgb}`;
			const group = groups.get(key);
			if (group) group.push(draw);
			else groups.set(key, [draw]);
		}
		for (const [group, draws] of groups) {
			const { mesh, material, light } = draws[0];
			const key = group.startsWith(COARSE) ? COARSE + mesh : mesh;
			const glow =
				light === undefined ? null : root.lights[light].rgb.map((v) => Math.min(60_000, v * 2 ** -root.camera.ev100));
			const instanced = new THREE.InstancedMesh(
				this.geometry(key, parts),
				this.material(root.materials[material], glow),
				draws.length,
			);
			const colours = new Float32Array(3 * draws.length);
			draws.forEach(({ transform: m, material }, i) => {
				instanced.setMatrixAt(
					i,
					placed.set(
						m[0],
						m[1],
						m[2],
						m[3] - lens[0],
						m[4],
						m[5],
						m[6],
						m[7] - lens[1],
						m[8],
						m[9],
						m[10],
						m[11] - lens[2],
						0,
						0,
						0,
						1,
					),
				);
				putSurface(colours, 3 * i, root.materials[material].colour, root.materials[material]);
			});
			instanced.instanceColor = new THREE.InstancedBufferAttribute(colours, 3);
			instanced.frustumCulled = false;
			this.world.add(instanced);
		}
		this.takeCovers(root, parts);
		if (root.water) this.addWater(root);
		for (const [key, material] of this.materials) {
			if (this.used.has(key)) continue;
			material.dispose();
			this.materials.delete(key);
		}
		this.shadowStale = true;
	}

	/** The ground is always drawn coarsely, other bodies where they are small. */
	private isCoarse(
		{ mesh, transform: t, id }: SceneRoot["draws"][number],
		parts: Map<string, ScenePart>,
		lens: readonly number[],
	): boolean {
		const part = parts.get(mesh);
		if (part?.kind !== "mesh" || !part.coarse) return false;
		if (id === ID_GROUND) return true;
		const size = Math.max(...[0, 1, 2].map((c) => Math.hypot(t[c], t[4 + c], t[8 + c])));
		return size < SMALL * Math.hypot(t[3] - lens[0], t[7] - lens[1], t[11] - lens[2]);
	}

	private geometry(key: string, parts: Map<string, ScenePart>): THREE.BufferGeometry {
		let g = this.geometries.get(key);
		if (!g) {
			const small = key.startsWith(COARSE);
			const part = parts.get(small ? key.slice(COARSE.length) : key) as Extract<ScenePart, { kind: "mesh" }>;
			const mesh = (small && part.coarse) || part.mesh;
			g = new THREE.BufferGeometry();
			g.setAttribute("position", new THREE.BufferAttribute(mesh.positions, 3));
			g.setAttribute("normal", new THREE.BufferAttribute(mesh.normals, 3));
			const tint =
				mesh.colours ?? new Uint8Array((mesh.positions.length / 3) * 4).map((_, i) => (i % 4 === 3 ? 0 : 255));
			g.setAttribute("tint", new THREE.BufferAttribute(tint, 4, true));
			g.setIndex(new THREE.BufferAttribute(mesh.indices, 1));
			this.geometries.set(key, g);
		}
		return g;
	}

	/**
	 * Materials are kept from scene to scene: with the last one of a kind its compiled program would go, too. Colour,
	 * roughness, metal and translucency are not theirs but each copy's, so that thousands of pieces are drawn at once.
	 */
	private material(m: Material, glow: readonly number[] | null = null): THREE.ShaderMaterial {
		const key = `${programOf(m)}|${glow}`;
		this.used.add(key);
		const known = this.materials.get(key);
		if (known) return known;
		const material = new THREE.ShaderMaterial({
			glslVersion: THREE.GLSL3,
			vertexShader: S.SURFACE_VERTEX,
			fragmentShader: S.SURFACE_FRAGMENT,
			side: THREE.DoubleSide,
			...(m.glass?.pane && {
				transparent: true,
				depthWrite: false,
				blending: THREE.CustomBlending,
				blendSrc: THREE.OneFactor,
				blendDst: THREE.OneMinusSrcAlphaFactor,
			}),
			uniforms: {
				...this.light,
				uGlow: { value: new THREE.Vector3(...(glow ?? [0, 0, 0])) },
				uCoat: { value: m.coat ?? 0 },
				uGlass: { value: m.glass ? (m.glass.pane ? 2 : 1) : 0 },
				uIndex: { value: m.glass?.index ?? 1.5 },
			},
		});
		this.materials.set(key, material);
		return material;
	}

	private takeCovers(root: SceneRoot, parts: Map<string, ScenePart>): void {
		const lens = root.camera.position;
		this.plants = [];
		const triangles = root.covers.reduce((sum, c) => sum + c.count * trianglesOf(c.meshes[0], parts), 0);
		const share = Math.min(1, COVER_BUDGET / Math.max(1, triangles));
		this.thinning = [];
		for (const cover of root.covers) {
			const matrices: number[][] = cover.meshes.map(() => []);
			const colours: number[][] = cover.meshes.map(() => []);
			const material = root.materials[cover.material];
			const colour: [number, number, number] = [0, 0, 0];
			let shown = 0;
			const cells = cover.cells.map((key) => {
				const { plants } = parts.get(key) as Extract<ScenePart, { kind: "plants" }>;
				const count = share === 1 ? plants.count : Math.floor(plants.count * share);
				shown += count;
				return { plants, count, o: plants.origin.map((v, i) => v - lens[i]) };
			});
			// Turn about from all cells, so that the first so many of them are thinner everywhere.
			for (let turn = 0; turn < TURNS; turn++) {
				for (const { plants, count, o } of cells)
					for (let i = turn; i < count; i += TURNS) {
						const t = plants.transforms.subarray(i * 12, i * 12 + 12);
						const v = plants.variants[i];
						matrices[v].push(
							t[0],
							t[4],
							t[8],
							0,
							t[1],
							t[5],
							t[9],
							0,
							t[2],
							t[6],
							t[10],
							0,
							t[3] + o[0],
							t[7] + o[1],
							t[11] + o[2],
							1,
						);
						for (let c = 0; c < 3; c++) colour[c] = material.colour[c] * (plants.tints[i * 4 + c] / 255) ** 2;
						putSurface(colours[v], colours[v].length, colour, material);
					}
			}
			cover.meshes.forEach((key, v) => {
				if (matrices[v].length === 0) return;
				const mesh = new THREE.InstancedMesh(
					this.geometry(key, parts),
					this.material(material),
					matrices[v].length / 16,
				);
				mesh.instanceMatrix = new THREE.InstancedBufferAttribute(new Float32Array(matrices[v]), 16);
				mesh.instanceColor = new THREE.InstancedBufferAttribute(new Float32Array(colours[v]), 3);
				mesh.frustumCulled = false;
				this.world.add(mesh);
				this.plants.push({ mesh, count: mesh.count });
			});
			this.thinning.push({ coverId: cover.coverId, shown, all: cover.count });
		}
	}

	private addWater(root: SceneRoot): void {
		const water = root.water as NonNullable<SceneRoot["water"]>;
		const lens = root.camera.position;
		this.waterMesh ??= new THREE.Mesh(
			new THREE.CircleGeometry(60_000, 64).rotateX(-Math.PI / 2),
			new THREE.ShaderMaterial({
				glslVersion: THREE.GLSL3,
				vertexShader: S.WATER_VERTEX,
				fragmentShader: S.WATER_FRAGMENT,
				side: THREE.DoubleSide,
				transparent: true,
				depthWrite: false,
				blending: THREE.CustomBlending,
				blendSrc: THREE.OneFactor,
				blendDst: THREE.OneMinusSrcAlphaFactor,
				uniforms: { ...this.light, ...this.waves },
			}),
		);
		const mesh = this.waterMesh;
		mesh.position.y = water.levelM - lens[1];
		mesh.frustumCulled = false;
		this.waves.uWorld.value.set(lens[0], lens[2]);
		this.waves.uWaves.value = Math.min(S.WAVES, water.waves.length);
		water.waves.slice(0, S.WAVES).forEach((w, i) => {
			const turn = w.phase + w.kx * lens[0] + w.kz * lens[2];
			this.waves.uWave.value[i].set(w.kx, w.kz, turn - Math.floor(turn / (2 * Math.PI)) * 2 * Math.PI, w.slope);
			this.waves.uLength.value[i] = w.lengthM;
		});
		this.water = mesh;
		this.world.add(mesh);
	}

	private takeLight(root: SceneRoot, parts: Map<string, ScenePart>): void {
		const { dome, fog, camera } = root;
		const k = 2 ** -camera.ev100;
		const table = (key: string) => (parts.get(key) as Extract<ScenePart, { kind: "table" }>).data;
		const u = this.light;
		u.uSunDir.value.set(...dome.sunDirection);
		u.uSkyDir.value.set(...dome.skyDirection);
		u.uSunLux.value.set(...dome.sunLux).multiplyScalar(k);
		u.uCloudSun.value.set(...dome.cloudSun).multiplyScalar(k);
		u.uCloudAmbient.value.set(...dome.cloudAmbient).multiplyScalar(k);
		u.uAir.value.set(...dome.airPerM);
		u.uFog.value.set(fog.sigma0, fog.y0 - camera.position[1], Number.isFinite(fog.scaleM) ? fog.scaleM : 0, fog.g);
		u.uFogAlbedo.value.set(...fog.albedo);
		u.uSkyClear.value = fog.skyClear ? 1 : 0;
		this.takeTable(u.uSky, `${dome.sky}|${k}`, () => halfTexture(table(dome.sky), 64, 96, 3, k, false));
		this.takeTable(u.uCloud, dome.cloud, () => halfTexture(table(dome.cloud), 512, 512, 1, 1, true));
		this.takeLamps(root, k);
		this.takeAround(dome.picture, parts, k);
		const harmonics = skyHarmonics(skyWithoutSun(dome, parts), dome, root.water);
		harmonics.forEach((h, i) => u.uSh.value[i].set(h[0] * k, h[1] * k, h[2] * k));
	}

	/** A table as a texture, made again only when it is another. */
	private takeTable(uniform: THREE.IUniform<THREE.Texture | null>, key: string, make: () => THREE.Texture): void {
		if (uniform.value?.name === key) return;
		uniform.value?.dispose();
		uniform.value = make();
		uniform.value.name = key;
	}

	/** A sky picture, at most 2048 texels wide. It stays in the graphics memory until another hangs. */
	private takeAround(p: ScenePicture | null, parts: Map<string, ScenePart>, k: number): void {
		const u = this.light;
		u.uAroundOn.value = p ? 1 : 0;
		if (p) u.uAroundIs.value.set(p.turn, p.gain * k, p.saturation);
		if ((p?.texels ?? "") === this.around) return;
		u.uAround.value?.dispose();
		u.uRing.value?.dispose();
		u.uAround.value = u.uRing.value = null;
		this.around = p?.texels ?? "";
		if (!p) return;
		const { data } = parts.get(p.texels) as Extract<ScenePart, { kind: "texels" }>;
		const ring = (parts.get(p.ring) as Extract<ScenePart, { kind: "table" }>).data;
		u.uAround.value = aroundTexture({ width: p.width, height: p.height, texels: data });
		u.uRing.value = halfTexture(ring, RING, 1, 3, 1, true);
	}

	/** The lamps that count most at the lens, as points with a shape. */
	private takeLamps(root: SceneRoot, k: number): void {
		const u = this.light;
		const [lx, ly, lz] = root.camera.position;
		const lamps = root.lights.map((light) => {
			const [w, h] = light.half;
			const draw = light.draw >= 0 ? root.draws[light.draw] : null;
			// A glowing piece as a ball about its middle.
			const t = draw && light.shape === "body" ? draw.transform : null;
			const size = t ? [0, 1, 2].map((c) => Math.hypot(t[c], t[4 + c], t[8 + c])) : [0, 0, 0];
			const at = t
				? [t[3] + t[1] / 2 - lx, t[7] + t[5] / 2 - ly, t[11] + t[9] / 2 - lz]
				: [light.position[0] - lx, light.position[1] - ly, light.position[2] - lz];
			const radius = t
				? Math.cbrt(size[0] * size[1] * size[2]) / 2
				: light.shape === "point" || light.shape === "spot"
					? 0.02
					: Math.sqrt(w * h);
			const area = t
				? Math.PI * radius * radius
				: light.shape === "rectangle"
					? 4 * w * h
					: light.shape === "point" || light.shape === "spot"
						? 1
						: Math.PI * w * w;
			const kind = light.shape === "disc" || light.shape === "rectangle" ? 1 : light.shape === "spot" ? 2 : 0;
			const strength = (light.rgb[1] * area) / (at[0] * at[0] + at[1] * at[1] + at[2] * at[2] + 4);
			return { light, at, radius, area, kind, strength };
		});
		lamps.sort((a, b) => b.strength - a.strength);
		u.uLamps.value = Math.min(S.LAMPS, lamps.length);
		lamps.slice(0, S.LAMPS).forEach(({ light, at, radius, area, kind }, i) => {
			u.uLampAt.value[i].set(at[0], at[1], at[2], radius);
			u.uLampRgb.value[i].set(light.rgb[0] * area * k, light.rgb[1] * area * k, light.rgb[2] * area * k, kind);
			u.uLampAxis.value[i].set(...light.axis, light.cosOuter);
			u.uLampInner.value[i] = light.cosInner;
		});
	}

	/** A proof or a print to be shown in place of the drawn view; null goes back to it. */
	setProof(proof: ProofPicture | null): void {
		if (!proof) {
			this.proofTexture?.dispose();
			this.proofTexture = null;
			return;
		}
		const type = proof.pixels instanceof Float32Array ? THREE.FloatType : THREE.HalfFloatType;
		const image = this.proofTexture?.image as { width: number; height: number } | undefined;
		if (
			!this.proofTexture ||
			image?.width !== proof.width ||
			image?.height !== proof.height ||
			this.proofTexture.type !== type
		) {
			this.proofTexture?.dispose();
			this.proofTexture = new THREE.DataTexture(
				proof.pixels as Float32Array<ArrayBuffer>,
				proof.width,
				proof.height,
				THREE.RGBAFormat,
				type,
			);
			this.proofTexture.minFilter = this.proofTexture.magFilter =
				type === THREE.HalfFloatType ? THREE.LinearFilter : THREE.NearestFilter;
		} else {
			(this.proofTexture.image as { data: unknown }).data = proof.pixels;
		}
		this.proofScale = proof.scale;
		this.proofShare = proof.share;
		this.proofPlain = proof.plain ?? false;
		this.proofPart = proof.part ?? WHOLE;
		this.proofTexture.needsUpdate = true;
	}

	setLook(look: Look): void {
		this.light.uLook.value = look === "clay" ? 1 : look === "silhouette" ? 2 : 0;
	}

	/**
	 * Draws the frame into the canvas. `view` may be another than the shot's lens (a free view). The canvas is wider and
	 * higher than the frame by `bleed` pixels on each side: there the drawn view goes on, dimmed. `scale` below 1 draws
	 * fewer pixels, for machines that are slow while hands move.
	 */
	render(
		gl: THREE.WebGLRenderer,
		view: FrameOfView,
		finish: Finish,
		ev100: number,
		how: { grey: boolean; mirrored: boolean; width: number; height: number; bleed: number; scale?: number },
	): void {
		const { width, height, bleed, scale = 1 } = how;
		const over = { x: width / (width - 2 * bleed), y: height / (height - 2 * bleed) };
		const f = this.finish;
		const share = this.proofTexture ? this.proofShare : 0;
		const part = this.proofTexture ? this.proofPart : WHOLE;
		f.uPart.value.set(part.x, part.y, part.width, part.height);
		this.showsWorld = share < 1 || bleed > 0 || part.width < 1 || part.height < 1;
		if (this.showsWorld)
			this.drawWorld(gl, { ...view, tanX: view.tanX * over.x, tanY: view.tanY * over.y }, width, height, scale);
		f.uPicture.value = this.proofTexture ?? this.target.texture;
		f.uTopDown.value = this.proofTexture ? 1 : 0;
		const captured = this.proofTexture ? this.proofScale : 2 ** -(this.root?.camera.ev100 ?? ev100);
		f.uFactor.value = 2 ** (finish.exposureEv - ev100) / 1.2 / captured;
		f.uView.value = this.target.texture;
		f.uShare.value = this.proofTexture ? share : 1;
		f.uViewFactor.value = 2 ** (finish.exposureEv - ev100) / 1.2 / 2 ** -(this.root?.camera.ev100 ?? ev100);
		f.uContrast.value = finish.contrast;
		f.uVignette.value = finish.vignette;
		f.uCurve.value = finish.curve === "straight" ? 1 : 0;
		f.uPlain.value = this.proofTexture && this.proofPlain ? 1 : 0;
		f.uGrey.value = how.grey ? 1 : 0;
		f.uMirrored.value = how.mirrored ? 1 : 0;
		f.uSize.value.set(width - 2 * bleed, height - 2 * bleed);
		f.uBleed.value.set(over.x, over.y);
		gl.setRenderTarget(null);
		gl.render(this.finishScene, this.flat);
	}

	private drawWorld(
		gl: THREE.WebGLRenderer,
		view: FrameOfView,
		fullWidth: number,
		fullHeight: number,
		scale: number,
	): void {
		if (!this.root) return;
		const wanted = JSON.stringify([this.scenes, this.light.uLook.value, view, fullWidth, fullHeight]);
		if (wanted === this.drawnFor && this.drawnScale >= scale) return;
		this.worlds++;
		this.drawnFor = wanted;
		this.drawnScale = scale;
		const width = Math.max(2, Math.round(fullWidth * scale));
		const height = Math.max(2, Math.round(fullHeight * scale));
		if (this.target.width !== width || this.target.height !== height) {
			this.target.setSize(width, height);
			this.mirrorTarget.setSize(Math.ceil(width / 2), Math.ceil(height / 2));
		}
		const lens = this.root.camera.position;
		const eye = new THREE.Vector3(view.position[0] - lens[0], view.position[1] - lens[1], view.position[2] - lens[2]);
		this.aim(this.camera, view, eye);
		this.light.uEye.value.copy(eye);
		this.sky.uEyeY.value = eye.y;
		this.waves.uPixel.value = (2 * view.tanX) / width;
		// Few pixels show few plants: where those are drawn slowly, so are these.
		for (const { mesh, count } of this.plants) mesh.count = Math.ceil(count * scale);
		if (this.shadowStale || this.shadowShare < scale) {
			this.drawShadow(gl);
			this.shadowShare = scale;
		}
		gl.autoClear = false;
		if (this.water) {
			this.water.visible = false;
			const level = this.water.position.y;
			const flip = new THREE.Matrix4().set(1, 0, 0, 0, 0, -1, 0, 2 * level, 0, 0, 1, 0, 0, 0, 0, 1);
			this.mirror.projectionMatrix.copy(this.camera.projectionMatrix);
			this.mirror.projectionMatrixInverse.copy(this.camera.projectionMatrixInverse);
			this.mirror.matrixWorld.multiplyMatrices(flip, this.camera.matrixWorld);
			this.mirror.matrixWorldInverse.copy(this.mirror.matrixWorld).invert();
			this.light.uEye.value.set(eye.x, 2 * level - eye.y, eye.z);
			this.light.uClip.value = level;
			this.setAxes(view, true);
			this.pass(gl, this.mirrorTarget, this.mirror);
			this.light.uClip.value = -1e9;
			this.light.uEye.value.copy(eye);
			this.water.visible = true;
		}
		this.setAxes(view, false);
		this.pass(gl, this.target, this.camera);
		this.clock(gl, scale);
	}

	/** Measures how long the drawing takes where it is done, without waiting for it. */
	private clock(gl: THREE.WebGLRenderer, scale: number): void {
		if (this.timing) return;
		const c = gl.getContext() as WebGL2RenderingContext;
		const fence = c.fenceSync(c.SYNC_GPU_COMMANDS_COMPLETE, 0);
		// Graphics that cannot tell when they are done keep nobody waiting.
		if (!fence) {
			this.onWarm();
			return;
		}
		c.flush();
		this.timing = true;
		const at = performance.now();
		const look = () => {
			if (c.clientWaitSync(fence, 0, 0) === c.TIMEOUT_EXPIRED) return void setTimeout(look, 4);
			c.deleteSync(fence);
			this.timing = false;
			// The first drawing makes the programs, too: it is drawn once more to be measured.
			if (!this.warm) {
				this.warm = true;
				this.drawnFor = "";
				return this.onWarm();
			}
			const ms = performance.now() - at;
			// Of a frame with few pixels more goes into its vertices: it grows with the sides rather than the pixels.
			this.frameMs = ms / scale;
			this.onClock(ms, scale);
		};
		look();
	}

	private pass(gl: THREE.WebGLRenderer, target: THREE.WebGLRenderTarget, camera: THREE.Camera): void {
		gl.setRenderTarget(target);
		gl.clear();
		gl.render(this.skyScene, this.flat);
		gl.render(this.world, camera);
	}

	private setAxes(view: FrameOfView, mirrored: boolean): void {
		const y = mirrored ? -1 : 1;
		const { right: r, up: u, middle: w, tanX, tanY } = view;
		this.sky.uAxes.value.set(
			r[0] * tanX,
			u[0] * tanY,
			w[0],
			r[1] * tanX * y,
			u[1] * tanY * y,
			w[1] * y,
			r[2] * tanX,
			u[2] * tanY,
			w[2],
		);
	}

	private aim(camera: THREE.PerspectiveCamera, view: FrameOfView, eye: THREE.Vector3): void {
		const near = 0.05;
		camera.near = near;
		camera.far = 80_000;
		const [x, y] = [view.shiftX, view.shiftY];
		camera.projectionMatrix.makePerspective(
			near * (x - view.tanX),
			near * (x + view.tanX),
			near * (y + view.tanY),
			near * (y - view.tanY),
			near,
			camera.far,
		);
		camera.projectionMatrixInverse.copy(camera.projectionMatrix).invert();
		const { right: r, up: u, forward: w } = view;
		camera.matrixWorld.set(r[0], u[0], -w[0], eye.x, r[1], u[1], -w[1], eye.y, r[2], u[2], -w[2], eye.z, 0, 0, 0, 1);
		camera.matrixWorldInverse.copy(camera.matrixWorld).invert();
	}

	private drawShadow(gl: THREE.WebGLRenderer): void {
		this.shadowStale = false;
		const sun = this.light.uSunDir.value;
		this.light.uShadowOn.value = this.light.uSunLux.value.length() > 0 ? 1 : 0;
		if (!this.light.uShadowOn.value || !this.root) return;
		const view = frameOfView(this.root.camera);
		const middle = new THREE.Vector3(view.forward[0], 0, view.forward[2])
			.normalize()
			.multiplyScalar(SHADOW_REACH_M * 0.62);
		const c = this.sunCamera;
		const half = SHADOW_REACH_M;
		Object.assign(c, { left: -half, right: half, top: half * 0.5, bottom: -half * 0.5, near: 1, far: 700 });
		c.updateProjectionMatrix();
		c.position.copy(middle).addScaledVector(sun, 350);
		c.lookAt(middle);
		c.updateMatrixWorld();
		this.light.uShadowMatrix.value.multiplyMatrices(c.projectionMatrix, c.matrixWorldInverse);
		if (this.water) this.water.visible = false;
		this.world.overrideMaterial = this.shadowMaterial;
		gl.setRenderTarget(this.shadowTarget);
		gl.clear();
		gl.render(this.world, c);
		this.world.overrideMaterial = null;
		if (this.water) this.water.visible = true;
	}

	/** What is drawn, for the bench. */
	meshes(): THREE.Mesh[] {
		return this.world.children as THREE.Mesh[];
	}

	dispose(): void {
		for (const g of this.geometries.values()) g.dispose();
		for (const m of this.materials.values()) m.dispose();
		this.waterMesh?.geometry.dispose();
		(this.waterMesh?.material as THREE.Material | undefined)?.dispose();
		for (const t of [this.target, this.mirrorTarget, this.shadowTarget]) t.dispose();
		this.proofTexture?.dispose();
	}
}
