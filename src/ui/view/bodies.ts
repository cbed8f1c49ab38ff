/**
 * Pieces, ground and plants of a scene as copies of meshes. Meshes are kept by key; what a copy is made of stands in the
 * scene's own table of materials, as a texture, so that thousands of pieces of all surfaces are drawn at once.
 */
import * as THREE from "three";
import { ID_GROUND } from "../../core/scene/ids.ts";
import { MATERIAL_NUMBERS, materialTable } from "../../core/scene/materialTable.ts";
import type { MeshPart, ScenePart, SceneRoot } from "../../core/scene/scene.ts";
import * as S from "./shaders.ts";
import { SheetTextures } from "./sheetTextures.ts";

/** Triangles that covers may take in the working view; above it they are thinned by rank. */
export const COVER_BUDGET = 350_000;
/** Turns in which the plants of all cells are listed. */
const TURNS = 8;
/** Copies smaller than this share of their distance are drawn with fewer faces: half a pixel at most at the silhouette. */
const SMALL = 0.05;
/** The layer of three.js on which bodies that are cut out stand: their shadows are drawn by themselves. */
export const CUT_LAYER = 1;
/** Before the key of a mesh: its coarse form. */
const COARSE = "coarse ";

type Parts = ReadonlyMap<string, ScenePart>;
type Draw = SceneRoot["draws"][number];

export interface Thinning {
	coverId: string;
	shown: number;
	all: number;
}

const meshOf = (key: string, parts: Parts): MeshPart => parts.get(key) as MeshPart;

export class Bodies {
	/** What is to be drawn. */
	readonly group = new THREE.Group();
	thinning: Thinning[] = [];
	private geometries = new Map<string, THREE.BufferGeometry>();
	/** Kept from scene to scene: with the last one of a kind its compiled program would go, too. */
	private programs = new Map<string, THREE.ShaderMaterial>();
	private used = new Set<string>();
	private pieces: THREE.InstancedMesh[] = [];
	private plants: { mesh: THREE.InstancedMesh; count: number }[] = [];
	/** The covers whose plants are listed. */
	private coversFor = "";
	private sheets = new SheetTextures();
	/** Sheets lie on something in the scene. */
	private laid = false;
	/** Numbers of the materials on which they do. */
	private laidOn = new Set<number>();
	/** What draws the shadows of bodies that are cut out; null where there are none. */
	cutShadow: THREE.ShaderMaterial | null = null;
	private table = { value: null as THREE.DataTexture | null };
	/** From cd/m² to the picture's values. */
	private scale = { value: 1 };
	private light: Record<string, THREE.IUniform>;

	constructor(light: Record<string, THREE.IUniform>) {
		this.light = light;
	}

	take(root: SceneRoot, parts: Parts): void {
		for (const [key, g] of this.geometries) {
			if (parts.has(key.replace(COARSE, ""))) continue;
			g.dispose();
			this.geometries.delete(key);
		}
		for (const mesh of this.pieces.splice(0)) this.drop(mesh);
		this.used.clear();
		this.takeMaterials(root, parts);
		this.takePieces(root, parts);
		this.takeCovers(root, parts);
		for (const [key, material] of this.programs) {
			if (this.used.has(key)) continue;
			material.dispose();
			this.programs.delete(key);
		}
	}

	/** Shows a share of the plants: few pixels show few of them. */
	showPlants(share: number): void {
		for (const { mesh, count } of this.plants) mesh.count = Math.ceil(count * share);
	}

	private drop(mesh: THREE.InstancedMesh): void {
		this.group.remove(mesh);
		mesh.dispose();
	}

	private takeMaterials(root: SceneRoot, parts: Parts): void {
		this.scale.value = 2 ** -root.camera.ev100;
		const texels = MATERIAL_NUMBERS / 4;
		const rows = Math.ceil(root.materials.length / S.MATERIALS_IN_ROW);
		const data = new Float32Array(rows * S.MATERIALS_IN_ROW * MATERIAL_NUMBERS);
		data.set(materialTable(root.materials));
		this.table.value?.dispose();
		const texture = new THREE.DataTexture(data, S.MATERIALS_IN_ROW * texels, rows, THREE.RGBAFormat, THREE.FloatType);
		texture.needsUpdate = true;
		this.table.value = texture;
		this.sheets.take(root, parts);
		this.laidOn = new Set(root.materials.flatMap((m, n) => (m.layers ? n : [])));
		this.laid = this.laidOn.size > 0;
	}

	private takePieces(root: SceneRoot, parts: Parts): void {
		const { origin } = root;
		const placed = new THREE.Matrix4();
		const groups = new Map<string, { key: string; pane: boolean; cut: boolean; draws: Draw[] }>();
		for (const draw of root.draws) {
			if (draw.traced) continue;
			const key = `${isCoarse(draw, parts, root.camera.position) ? COARSE : ""}${draw.mesh}`;
			const { glass, cut = false } = root.materials[draw.material];
			// Water in the land is seen through, too.
			const pane = !!glass && (glass.pane || !!glass.water);
			const name = `${key}|${pane}|${cut}`;
			const group = groups.get(name);
			if (group) group.draws.push(draw);
			else groups.set(name, { key, pane, cut, draws: [draw] });
		}
		this.takeCutShadow([...groups.values()].some(({ cut }) => cut));
		for (const { key, pane, cut, draws } of groups.values()) {
			const mesh = new THREE.InstancedMesh(this.geometry(key, parts), this.program(pane), draws.length);
			// The first number of a copy's colour is its material's.
			const numbers = new Float32Array(3 * draws.length);
			draws.forEach(({ transform: m, material }, i) => {
				placed.set(
					...([m[0], m[1], m[2], m[3] - origin[0], m[4], m[5], m[6], m[7] - origin[1]] as const),
					...([m[8], m[9], m[10], m[11] - origin[2], 0, 0, 0, 1] as const),
				);
				mesh.setMatrixAt(i, placed);
				numbers[3 * i] = material;
			});
			mesh.instanceColor = new THREE.InstancedBufferAttribute(numbers, 3);
			mesh.frustumCulled = false;
			if (cut) mesh.layers.set(CUT_LAYER);
			this.group.add(mesh);
			this.pieces.push(mesh);
		}
	}

	private takeCutShadow(needed: boolean): void {
		if (needed === (this.cutShadow !== null)) return;
		this.cutShadow?.dispose();
		this.cutShadow = needed
			? new THREE.ShaderMaterial({
					...{ glslVersion: THREE.GLSL3, vertexShader: S.SURFACE_VERTEX, fragmentShader: S.CUT_SHADOW_FRAGMENT },
					...{ side: THREE.DoubleSide, colorWrite: false },
					uniforms: {
						...{ uMaterials: this.table, uMaterial: { value: S.MATERIAL_BY_COPY } },
						...this.sheets.uniforms,
						uPixelAngle: { value: 0 },
					},
				})
			: null;
	}

	private takeCovers(root: SceneRoot, parts: Parts): void {
		const { origin } = root;
		// While a move is played plants stay where they are: so do their lists.
		const wanted = JSON.stringify([origin, root.covers, root.covers.map((c) => this.laidOn.has(c.material))]);
		if (wanted === this.coversFor) {
			for (const cover of root.covers) this.program(false, cover.coverId, cover.material);
			return;
		}
		this.coversFor = wanted;
		for (const { mesh } of this.plants) this.drop(mesh);
		this.plants = [];
		this.thinning = [];
		const trianglesOf = (key: string) => meshOf(key, parts).mesh.indices.length / 3;
		const triangles = root.covers.reduce((sum, c) => sum + c.count * trianglesOf(c.meshes[0]), 0);
		const share = Math.min(1, COVER_BUDGET / Math.max(1, triangles));
		for (const cover of root.covers) {
			const matrices: number[][] = cover.meshes.map(() => []);
			const tints: number[][] = cover.meshes.map(() => []);
			let shown = 0;
			const cells = cover.cells.map((key) => {
				const { plants } = parts.get(key) as Extract<ScenePart, { kind: "plants" }>;
				const count = share === 1 ? plants.count : Math.floor(plants.count * share);
				shown += count;
				return { plants, count, o: plants.origin.map((v, i) => v - origin[i]) };
			});
			// Turn about from all cells, so that the first so many of them are thinner everywhere.
			for (let turn = 0; turn < TURNS; turn++) {
				for (const { plants, count, o } of cells)
					for (let i = turn; i < count; i += TURNS) {
						const t = plants.transforms.subarray(i * 12, i * 12 + 12);
						const v = plants.variants[i];
						for (let c = 0; c < 3; c++) matrices[v].push(t[c], t[4 + c], t[8 + c], 0);
						matrices[v].push(t[3] + o[0], t[7] + o[1], t[11] + o[2], 1);
						for (let c = 0; c < 3; c++) tints[v].push((plants.tints[i * 4 + c] / 255) ** 2);
					}
			}
			const program = this.program(false, cover.coverId, cover.material);
			cover.meshes.forEach((key, v) => {
				if (matrices[v].length === 0) return;
				const mesh = new THREE.InstancedMesh(this.geometry(key, parts), program, matrices[v].length / 16);
				mesh.instanceMatrix = new THREE.InstancedBufferAttribute(new Float32Array(matrices[v]), 16);
				mesh.instanceColor = new THREE.InstancedBufferAttribute(new Float32Array(tints[v]), 3);
				mesh.frustumCulled = false;
				this.group.add(mesh);
				this.plants.push({ mesh, count: mesh.count });
			});
			this.thinning.push({ coverId: cover.coverId, shown, all: cover.count });
		}
	}

	private geometry(key: string, parts: Parts): THREE.BufferGeometry {
		let g = this.geometries.get(key);
		if (!g) {
			const small = key.startsWith(COARSE);
			const part = meshOf(small ? key.slice(COARSE.length) : key, parts);
			const mesh = (small && part.coarse) || part.mesh;
			g = new THREE.BufferGeometry();
			g.setAttribute("position", new THREE.BufferAttribute(mesh.positions, 3));
			g.setAttribute("normal", new THREE.BufferAttribute(mesh.normals, 3));
			if (mesh.under) g.setAttribute("under", new THREE.BufferAttribute(mesh.under, 3));
			const tint =
				mesh.colours ?? new Uint8Array((mesh.positions.length / 3) * 4).map((_, i) => (i % 4 === 3 ? 0 : 255));
			g.setAttribute("tint", new THREE.BufferAttribute(tint, 4, true));
			g.setIndex(new THREE.BufferAttribute(mesh.indices, 1));
			this.geometries.set(key, g);
		}
		return g;
	}

	/** What draws copies: of pieces, whose materials differ from copy to copy, or of one cover, whose tints do. */
	private program(pane: boolean, cover = "", material = S.MATERIAL_BY_COPY): THREE.ShaderMaterial {
		// What draws sheets is long: it is made where some lie.
		const laid = cover === "" ? this.laid : this.laidOn.has(material);
		const key = `${pane}|${cover}|${laid}`;
		this.used.add(key);
		const known = this.programs.get(key);
		if (known) {
			known.uniforms.uMaterial.value = material;
			return known;
		}
		const made = new THREE.ShaderMaterial({
			glslVersion: THREE.GLSL3,
			defines: laid ? { LAID: 1 } : {},
			vertexShader: S.SURFACE_VERTEX,
			fragmentShader: S.SURFACE_FRAGMENT,
			side: THREE.DoubleSide,
			...(pane && {
				transparent: true,
				depthWrite: false,
				blending: THREE.CustomBlending,
				blendSrc: THREE.OneFactor,
				blendDst: THREE.OneMinusSrcAlphaFactor,
			}),
			uniforms: {
				...this.light,
				uMaterials: this.table,
				uScale: this.scale,
				uMaterial: { value: material },
				...this.sheets.uniforms,
			},
		});
		this.programs.set(key, made);
		return made;
	}

	dispose(): void {
		for (const mesh of [...this.pieces, ...this.plants.map((p) => p.mesh)]) this.drop(mesh);
		for (const g of this.geometries.values()) g.dispose();
		for (const m of this.programs.values()) m.dispose();
		this.geometries.clear();
		this.programs.clear();
		this.takeCutShadow(false);
		this.table.value?.dispose();
		this.table.value = null;
		this.sheets.dispose();
	}
}

/** The ground is always drawn coarsely, other bodies where they are small. */
function isCoarse({ mesh, transform: t, id }: Draw, parts: Parts, lens: readonly number[]): boolean {
	const part = parts.get(mesh);
	if (part?.kind !== "mesh" || !part.coarse) return false;
	if (id === ID_GROUND) return true;
	const size = Math.max(...[0, 1, 2].map((c) => Math.hypot(t[c], t[4 + c], t[8 + c])));
	return size < SMALL * Math.hypot(t[3] - lens[0], t[7] - lens[1], t[11] - lens[2]);
}
