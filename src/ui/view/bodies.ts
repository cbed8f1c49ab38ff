/**
 * Pieces, ground and plants of a scene as copies of meshes. Meshes are kept by key; where a copy lies and what it is made of stand in
 * textures, so that thousands of pieces of all surfaces are drawn at once, and can be lit by what was seen of them.
 */
import * as THREE from "three";
import type { Vec3 } from "../../core/maths/vec.ts";
import { ID_GROUND } from "../../core/scene/ids.ts";
import { MATERIAL_NUMBERS, materialTable } from "../../core/scene/materialTable.ts";
import type { MeshPart, ScenePart, SceneRoot } from "../../core/scene/scene.ts";
import { isSmall } from "../../core/scene/small.ts";
import { SheetTextures } from "./sheetTextures.ts";
import * as S from "./solidShaders.ts";

/** Triangles that covers may take in the working view; above it they are thinned by rank. */
export const COVER_BUDGET = 350_000;
/** Turns in which the plants of all cells are listed. */
const TURNS = 8;
/** The layers of three.js: of bodies that are cut out, whose shadows are drawn by themselves; of what is seen through. */
export const CUT_LAYER = 1;
export const PANE_LAYER = 2;
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

/** How copies are drawn. */
type Drawn = "solid" | "cut" | "pane" | "laid pane";
type PlantsPart = Extract<ScenePart, { kind: "plants" }>;
type Plants = PlantsPart["plants"];
const COPY_TABLES = ["uMaterials", "uPieces", "uPlants"] as const;
type CopyTable = (typeof COPY_TABLES)[number];
const COPIES_WIDTH = S.COPIES_IN_ROW * S.COPY_TEXELS;
const COPY_NUMBERS = 4 * S.COPY_TEXELS;

/** Copies one after the other, as their texture has them. */
class Copies {
	count = 0;
	readonly texels: Float32Array;

	constructor(most: number) {
		this.texels = new Float32Array(Math.max(1, Math.ceil(most / S.COPIES_IN_ROW)) * S.COPIES_IN_ROW * COPY_NUMBERS);
	}

	/** Three rows of a matrix, then the material's number and a tint. */
	add(...numbers: readonly number[]): void {
		this.texels.set(numbers, COPY_NUMBERS * this.count++);
	}

	material(number: number): number {
		return this.texels[COPY_NUMBERS * number + 12];
	}

	/** The matrices of the copies from a number on, column by column. */
	matrices(first: number): Float32Array {
		const to = new Float32Array(16 * (this.count - first));
		for (let i = 0; i < to.length; i++) {
			const [column, row] = [(i >> 2) & 3, i & 3];
			to[i] = row < 3 ? this.texels[COPY_NUMBERS * (first + (i >> 4)) + 4 * row + column] : column === 3 ? 1 : 0;
		}
		return to;
	}
}

export class Bodies {
	/** What is to be drawn. */
	readonly group = new THREE.Group();
	thinning: Thinning[] = [];
	private geometries = new Map<string, THREE.BufferGeometry>();
	/** Kept from scene to scene: with the last one of a kind its compiled program would go, too. */
	private programs = new Map<Drawn, THREE.ShaderMaterial>();
	private pieces: THREE.InstancedMesh[] = [];
	private plants: { mesh: THREE.InstancedMesh; count: number }[] = [];
	/** The covers whose plants are listed. */
	private coversFor = "";
	private sheets = new SheetTextures();
	/** Sheets lie on something in the scene. */
	laid = false;
	/** Numbers of the materials on which they do. */
	private laidOn = new Set<number>();
	/** What draws the shadows of bodies that are cut out; null where there are none. */
	cutShadow: THREE.ShaderMaterial | null = null;
	/** What a body's surface is read by. */
	readonly uniforms: Record<string, THREE.IUniform> & Record<CopyTable, THREE.IUniform<THREE.DataTexture | null>>;

	constructor(light: Record<string, THREE.IUniform>) {
		this.uniforms = {
			...light,
			...this.sheets.uniforms,
			uMaterials: { value: null },
			uPieces: { value: null },
			uPlants: { value: null },
			/** From cd/m² to the picture's values. */
			uScale: { value: 1 },
		};
	}

	take(root: SceneRoot, parts: Parts): void {
		for (const [key, g] of this.geometries) {
			if (parts.has(key.replace(COARSE, ""))) continue;
			g.dispose();
			this.geometries.delete(key);
		}
		for (const mesh of this.pieces.splice(0)) this.drop(mesh);
		this.takeMaterials(root, parts);
		this.takePieces(root, parts);
		this.takeCovers(root, parts);
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
		this.uniforms.uScale.value = 2 ** -root.camera.ev100;
		const rows = Math.ceil(root.materials.length / S.MATERIALS_IN_ROW);
		const data = new Float32Array(rows * S.MATERIALS_IN_ROW * MATERIAL_NUMBERS);
		data.set(materialTable(root.materials));
		this.takeTable("uMaterials", data, (S.MATERIALS_IN_ROW * MATERIAL_NUMBERS) / 4);
		this.sheets.take(root, parts);
		this.laidOn = new Set(root.materials.flatMap((m, n) => (m.layers ? n : [])));
		this.laid = this.laidOn.size > 0;
	}

	private takeTable(name: CopyTable, data: Float32Array, width: number): void {
		const uniform = this.uniforms[name];
		uniform.value?.dispose();
		uniform.value = new THREE.DataTexture(data, width, data.length / 4 / width, THREE.RGBAFormat, THREE.FloatType);
		uniform.value.needsUpdate = true;
	}

	private takePieces(root: SceneRoot, parts: Parts): void {
		const { origin } = root;
		const copies = new Copies(root.draws.length);
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
		// What draws sheets is long: it is made where some lie.
		const panes = this.laid ? "laid pane" : "pane";
		for (const { key, pane, cut, draws } of groups.values()) {
			const first = copies.count;
			for (const { transform: m, material } of draws)
				copies.add(
					...([m[0], m[1], m[2], m[3] - origin[0], m[4], m[5], m[6], m[7] - origin[1]] as const),
					...([m[8], m[9], m[10], m[11] - origin[2], material, 1, 1, 1] as const),
				);
			const mesh = this.copied(key, parts, pane ? panes : cut ? "cut" : "solid", copies, first, false);
			if (cut) mesh.layers.set(CUT_LAYER);
			if (pane) mesh.layers.set(PANE_LAYER);
			this.pieces.push(mesh);
		}
		this.takeTable("uPieces", copies.texels, COPIES_WIDTH);
	}

	/** Copies of a mesh from a number on. */
	private copied(key: string, parts: Parts, drawn: Drawn, copies: Copies, first: number, plant: boolean) {
		const count = copies.count - first;
		const mesh = new THREE.InstancedMesh(this.geometry(key, parts), this.program(drawn), count);
		mesh.instanceMatrix = new THREE.InstancedBufferAttribute(copies.matrices(first), 16);
		const told = new Float32Array(3 * count);
		for (let i = 0; i < count; i++)
			told.set([first + i, plant ? 1 : 0, this.laidOn.has(copies.material(first + i)) ? 1 : 0], 3 * i);
		mesh.instanceColor = new THREE.InstancedBufferAttribute(told, 3);
		mesh.frustumCulled = false;
		this.group.add(mesh);
		return mesh;
	}

	private takeCutShadow(needed: boolean): void {
		if (needed === (this.cutShadow !== null)) return;
		this.cutShadow?.dispose();
		this.cutShadow = needed
			? new THREE.ShaderMaterial({
					...{ glslVersion: THREE.GLSL3, vertexShader: S.SOLID_VERTEX, fragmentShader: S.CUT_SHADOW_FRAGMENT },
					...{ side: THREE.DoubleSide, colorWrite: false },
					uniforms: this.uniforms,
				})
			: null;
	}

	private takeCovers(root: SceneRoot, parts: Parts): void {
		const { origin } = root;
		// While a move is played plants stay where they are: so do their lists.
		const wanted = JSON.stringify([origin, root.covers, root.covers.map((c) => this.laidOn.has(c.material))]);
		if (wanted === this.coversFor) return;
		this.coversFor = wanted;
		for (const { mesh } of this.plants) this.drop(mesh);
		this.plants = [];
		this.thinning = [];
		const trianglesOf = (key: string) => meshOf(key, parts).mesh.indices.length / 3;
		const triangles = root.covers.reduce((sum, c) => sum + c.count * trianglesOf(c.meshes[0]), 0);
		const share = Math.min(1, COVER_BUDGET / Math.max(1, triangles));
		const copies = new Copies(root.covers.reduce((sum, c) => sum + Math.ceil(c.count * share), 0));
		for (const cover of root.covers) {
			const places: { plants: Plants; i: number; o: number[] }[][] = cover.meshes.map(() => []);
			let shown = 0;
			const cells = cover.cells.map((key) => {
				const { plants } = parts.get(key) as PlantsPart;
				const count = share === 1 ? plants.count : Math.floor(plants.count * share);
				shown += count;
				return { plants, count, o: plants.origin.map((v, i) => v - origin[i]) };
			});
			// Turn about from all cells, so that the first so many of them are thinner everywhere.
			for (let turn = 0; turn < TURNS; turn++) {
				for (const { plants, count, o } of cells)
					for (let i = turn; i < count; i += TURNS) places[plants.variants[i]].push({ plants, i, o });
			}
			cover.meshes.forEach((key, v) => {
				if (places[v].length === 0) return;
				const first = copies.count;
				for (const { plants, i, o } of places[v]) {
					const t = plants.transforms.subarray(i * 12, i * 12 + 12);
					const [r, g, b] = [0, 1, 2].map((c) => (plants.tints[i * 4 + c] / 255) ** 2);
					copies.add(
						...([t[0], t[1], t[2], t[3] + o[0], t[4], t[5], t[6], t[7] + o[1]] as const),
						...([t[8], t[9], t[10], t[11] + o[2], cover.material, r, g, b] as const),
					);
				}
				const mesh = this.copied(key, parts, "solid", copies, first, true);
				this.plants.push({ mesh, count: mesh.count });
			});
			this.thinning.push({ coverId: cover.coverId, shown, all: cover.count });
		}
		this.takeTable("uPlants", copies.texels, COPIES_WIDTH);
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

	/** What draws copies. */
	private program(drawn: Drawn): THREE.ShaderMaterial {
		const known = this.programs.get(drawn);
		if (known) return known;
		const pane = drawn === "pane" || drawn === "laid pane";
		const made = new THREE.ShaderMaterial({
			glslVersion: THREE.GLSL3,
			defines: drawn === "cut" ? { CUT: 1 } : drawn === "laid pane" ? { LAID: 1 } : {},
			vertexShader: S.SOLID_VERTEX,
			fragmentShader: pane ? S.PANE_FRAGMENT : S.SOLID_FRAGMENT,
			side: THREE.DoubleSide,
			...(pane && {
				transparent: true,
				depthWrite: false,
				blending: THREE.CustomBlending,
				blendSrc: THREE.OneFactor,
				blendDst: THREE.OneMinusSrcAlphaFactor,
			}),
			uniforms: this.uniforms,
		});
		this.programs.set(drawn, made);
		return made;
	}

	dispose(): void {
		for (const mesh of [...this.pieces, ...this.plants.map((p) => p.mesh)]) this.drop(mesh);
		for (const g of this.geometries.values()) g.dispose();
		for (const m of this.programs.values()) m.dispose();
		this.geometries.clear();
		this.programs.clear();
		this.takeCutShadow(false);
		for (const name of COPY_TABLES) {
			this.uniforms[name].value?.dispose();
			this.uniforms[name].value = null;
		}
		this.sheets.dispose();
	}
}

/** The ground is always drawn coarsely, other bodies where they are small. */
function isCoarse({ mesh, transform: t, id }: Draw, parts: Parts, lens: Vec3): boolean {
	const part = parts.get(mesh);
	if (part?.kind !== "mesh" || !part.coarse) return false;
	if (id === ID_GROUND) return true;
	return isSmall(t, lens);
}
