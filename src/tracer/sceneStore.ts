/**
 * Keeps a scene in the tracer's memory. Trees of meshes and of cells of plants are kept by part key; only the small top
 * tree over pieces and cells is built anew for each scene, so moving a stone costs a fraction of a millisecond.
 */

import type { Mesh } from "../core/maths/mesh.ts";
import { boundsOf, invert, type Mat34, type Vec3 } from "../core/maths/vec.ts";
import type { Material, Scene, ScenePart } from "../core/scene/scene.ts";
import { albedoTables } from "../core/surface/albedo.ts";
import { buildAlone, buildTogether, emptyTable, MOST_RANGES, mostTreeBytes, TABLE_BYTES } from "./buildHelp.ts";
import { type Header, type PictureSize, writeHeader, writePictureSize, writeWhite } from "./headerStore.ts";
import * as L from "./kernel/layout.ts";
import { writeLights } from "./lightStore.ts";
import { type Kernel, MemoryFull, SCRATCH, type TracerMemory } from "./memory.ts";
import { fromOrigin, placedBody, sliced } from "./placedBody.ts";
import { boundsOfWay, wayNumbers } from "./ways.ts";

interface HeldMesh {
	record: number;
	blocks: number[];
	bounds: readonly number[];
	bytes: number;
}

interface HeldPlants {
	/** Root of the cell's tree relative to its origin, and where its instance records lie. */
	root: number;
	blocks: number[];
	bounds: readonly number[];
	bytes: number;
	/** The scene's origin that its records count from. */
	origin: Vec3;
	stamp: string;
}

/** What a record says of an instance besides where it is. */
interface InstanceRecord {
	material: number;
	/** Number in the id layer. */
	id: number;
	/** Place in the scene's order, for equal hits. */
	order: number;
	/** Square roots of a colour in bytes. */
	tint?: number;
	/** Several references lead to it. */
	sliced?: boolean;
	/** A picture cuts it out. */
	cut?: boolean;
	/** Address of the way that it goes while the shutter is open. */
	way?: number;
	/** Number of the light that it is the body of, counted from 1. */
	light?: number;
}

/** Threads that build along: `wake` tells them that the table at an address has work. */
export interface BuildHelpers {
	threads: number;
	wake: (table: number) => void;
}

export class SceneStore {
	private meshes = new Map<string, HeldMesh>();
	private plants = new Map<string, HeldPlants>();
	private tables = new Map<string, number>();
	private fixed: { header: number; albedo: number; work: number; probe: number; table: number } | null = null;
	private perScene: number[] = [];
	/** The scene that lies in memory; null while it does not lie there whole. */
	private held: Scene | null = null;

	private memory: TracerMemory;
	private kernel: Kernel;

	private helpers: BuildHelpers | null;

	/** With helpers large meshes are built by several threads; the thread that loads must then be one that may wait. */
	constructor(memory: TracerMemory, kernel: Kernel, helpers: BuildHelpers | null = null) {
		this.memory = memory;
		this.kernel = kernel;
		this.helpers = helpers;
	}

	/** Address of the scene's header. */
	get header(): number {
		return this.base().header;
	}

	/** Scratch of the owner of the memory, for single rays. */
	get scratch(): number {
		return this.base().probe + 256;
	}

	/** 256 bytes before that, for the rays themselves. */
	get probe(): number {
		return this.base().probe;
	}

	private base() {
		if (!this.fixed) {
			const header = this.memory.allocate(L.H_SIZE);
			const albedo = this.memory.put(albedoTables());
			this.fixed = {
				header,
				albedo,
				work: this.memory.allocate(65_536),
				probe: this.memory.allocate(SCRATCH + 256),
				table: this.memory.allocate(TABLE_BYTES),
			};
			emptyTable(this.memory.memory.buffer, this.fixed.table);
		}
		return this.fixed;
	}

	/** The header, and what it needs of the store. */
	private into(): Header {
		const { header, albedo, probe } = this.base();
		return {
			memory: this.memory,
			header,
			albedo,
			probe,
			tableOf: (part) => this.tables.get(part) ?? 0,
			taken: (at) => void this.perScene.push(at),
		};
	}

	/** Puts a scene into memory for pictures of a size. No worker may trace meanwhile. Throws {@link MemoryFull}. */
	load(scene: Scene, picture: PictureSize): void {
		if (this.held === scene) {
			writePictureSize(this.into(), scene, picture);
			return;
		}
		this.held = null;
		try {
			this.forgetAllBut(scene.parts);
			for (const at of this.perScene.splice(0)) this.memory.release(at);
			for (const part of scene.parts.values()) {
				if ((part.kind === "table" || part.kind === "texels") && !this.tables.has(part.key))
					this.tables.set(part.key, this.memory.put(part.data));
				if (part.kind === "sheet" && !this.tables.has(part.key))
					this.tables.set(part.key, this.memory.put(part.sheet.words));
				if (part.kind === "volume" && !this.tables.has(part.key))
					this.tables.set(part.key, this.memory.put(part.volume.words));
				if (part.kind === "mesh" && !this.meshes.has(part.key)) this.meshes.set(part.key, this.holdMesh(part.mesh));
			}
			writeHeader(this.into(), scene);
			writePictureSize(this.into(), scene, picture);
			this.writeTop(scene);
			writeWhite(this.into(), this.kernel, scene);
			this.held = scene;
		} catch (error) {
			if (error instanceof MemoryFull) throw new MemoryFull(`${error.message} ${this.heaviest()}`);
			throw error;
		}
	}

	private heaviest(): string {
		const sum = (m: Map<string, { bytes: number }>) => [...m.values()].reduce((s, h) => s + h.bytes, 0) / 1048576;
		return `Shapes and ground take ${sum(this.meshes).toFixed(0)} MiB, covers ${sum(this.plants).toFixed(0)} MiB.`;
	}

	private forgetAllBut(parts: Map<string, ScenePart>): void {
		for (const [key, at] of this.tables) {
			if (parts.has(key)) continue;
			this.memory.release(at);
			this.tables.delete(key);
		}
		for (const held of [this.meshes, this.plants] as Map<string, { blocks: number[] }>[]) {
			for (const [key, h] of held) {
				if (parts.has(key.split("|")[0])) continue;
				for (const at of h.blocks) this.memory.release(at);
				held.delete(key);
			}
		}
	}

	private holdMesh(mesh: Mesh): HeldMesh {
		const triangles = mesh.indices.length / 3;
		const m = this.memory;
		const positions = m.put(mesh.positions);
		const indices = m.put(mesh.indices);
		const { root, blocks, bounds, treeBytes } = this.buildMesh(positions, indices, triangles);
		m.release(positions);
		const normals = m.put(mesh.normals);
		const colours = mesh.colours ? m.put(mesh.colours) : 0;
		const under = mesh.under ? m.put(mesh.under) : 0;
		const record = m.allocate(L.M_SIZE);
		m.u32[(record + L.M_ROOT) >> 2] = root;
		m.u32[(record + L.M_INDICES) >> 2] = indices;
		m.u32[(record + L.M_NORMALS) >> 2] = normals;
		m.u32[(record + L.M_COLOURS) >> 2] = colours;
		m.u32[(record + L.M_UNDER) >> 2] = under;
		return {
			record,
			blocks: [indices, ...blocks, normals, record, ...(colours ? [colours] : []), ...(under ? [under] : [])],
			bounds,
			bytes: treeBytes + mesh.indices.byteLength + mesh.normals.byteLength + (mesh.under?.byteLength ?? 0),
		};
	}

	/** Builds the tree of a mesh range by range, so that only the refs of all and the room for one are held besides it. */
	private buildMesh(
		positions: number,
		indices: number,
		triangles: number,
	): { root: number; blocks: number[]; treeBytes: number; bounds: number[] } {
		if (triangles === 0) return { root: 0, blocks: [], treeBytes: 0, bounds: [0, 0, 0, 0, 0, 0] };
		const m = this.memory;
		const { work, table } = this.base();
		const refs = m.allocate(triangles * 32);
		this.kernel.referTriangles(positions, indices, triangles, refs);
		const ranges: [number, number][] = [];
		const cut = (begin: number, end: number): void => {
			if (end - begin <= RANGE * 32) {
				ranges.push([begin, end]);
				return;
			}
			const middle = this.kernel.cutRange(begin, end, work);
			cut(begin, middle);
			cut(middle, end);
		};
		cut(refs, refs + triangles * 32);
		const helpers = ranges.length > 1 ? this.helpers : null;
		const together = Math.min(ranges.length, MOST_RANGES, 1 + (helpers?.threads ?? 0));
		const most = ranges.reduce((n, [begin, end]) => Math.max(n, (end - begin) / 32), 0);
		const rooms = Array.from({ length: together }, (_, i) => ({
			room: m.allocate(most * 96),
			work: i === 0 ? work : m.allocate(65_536),
		}));
		const blocks: number[] = [];
		const roots: { root: number; box: number[] }[] = [];
		let treeBytes = 0;
		for (let first = 0; first < ranges.length; first += together) {
			const batch = ranges.slice(first, first + together).map(([begin, end], i) => ({ begin, end, ...rooms[i] }));
			const tree = m.allocate(
				mostTreeBytes(
					batch.reduce((n, r) => n + (r.end - r.begin) / 32, 0),
					batch.length,
				),
			);
			const built =
				ranges.length === 1
					? buildAlone(this.kernel, { positions, indices }, tree, batch[0])
					: buildTogether(
							this.kernel,
							m.memory.buffer,
							table,
							() => helpers?.wake(table),
							{ positions, indices },
							tree,
							batch,
						);
			m.shrink(tree, built.end - tree);
			blocks.push(tree);
			treeBytes += built.end - tree;
			batch.forEach(({ room }, i) => {
				// The first node in the room is the range's root: its box.
				roots.push({
					root: built.roots[i],
					box: [...m.f32.subarray(room >> 2, (room >> 2) + 3), ...m.f32.subarray((room >> 2) + 4, (room >> 2) + 7)],
				});
			});
		}
		let root = roots[0].root;
		if (roots.length > 1) {
			const top = this.topTree(roots.length, (at) => {
				roots.forEach((r, i) => {
					this.writeReference(at + i * 32, r.box, r.root);
				});
			});
			root = top.root;
			blocks.push(top.tree);
			treeBytes += top.bytes;
		}
		for (const { room } of rooms) m.release(room);
		for (const own of rooms.slice(1)) m.release(own.work);
		m.release(refs);
		const bounds = [1e30, 1e30, 1e30, -1e30, -1e30, -1e30];
		for (const { box } of roots) grow(bounds, box);
		return { root, blocks, treeBytes, bounds };
	}

	/** Writes the record of a placed mesh; `placed` leads from the mesh to the scene's origin. */
	private writeInstance(at: number, placed: ArrayLike<number>, mesh: HeldMesh, record: InstanceRecord): void {
		const { u32 } = this.memory;
		const { material, id, order, tint = 0, sliced = false, cut = false, way = 0, light = 0 } = record;
		this.writePose(at + L.I_INVERSE, placed);
		u32[(at + L.I_ROOT) >> 2] = u32[(mesh.record + L.M_ROOT) >> 2];
		u32[(at + L.I_MESH) >> 2] = mesh.record;
		u32[(at + L.I_MATERIAL) >> 2] = material;
		u32[(at + L.I_ID) >> 2] = id;
		u32[(at + L.I_TINT) >> 2] = tint;
		u32[(at + L.I_ORDER) >> 2] = order;
		u32[(at + L.I_WAY) >> 2] = way | (sliced ? L.WAY_SLICED : 0) | (cut ? L.WAY_CUT : 0);
		u32[(at + L.I_LIGHT) >> 2] = light;
	}

	/** Writes the inverse of a placement as four columns of three and a zero. */
	private writePose(at: number, placed: ArrayLike<number>): void {
		const { f32 } = this.memory;
		const inverse = invert(placed as Mat34);
		for (let c = 0; c < 4; c++) {
			for (let r = 0; r < 3; r++) f32[(at >> 2) + c * 4 + r] = inverse[r * 4 + c];
			f32[(at >> 2) + c * 4 + 3] = 0;
		}
	}

	/** Writes a reference (bounds of a transformed box, payload) for the builder. */
	private writeReference(at: number, bounds: ArrayLike<number>, payload: number): void {
		const { f32, u32 } = this.memory;
		const i = at >> 2;
		for (let c = 0; c < 3; c++) {
			f32[i + c] = bounds[c];
			f32[i + 4 + c] = bounds[c + 3];
		}
		u32[i + 3] = payload;
		u32[i + 7] = 0;
	}

	/** Builds the tree over references that `write` puts down. What only the build needs is given back. */
	private topTree(count: number, write: (refs: number) => void): { root: number; tree: number; bytes: number } {
		const m = this.memory;
		const some = Math.max(1, count);
		const refs = m.allocate(some * 32);
		const room = m.allocate(some * 96);
		const tree = m.allocate(some * 224 + 4096);
		write(refs);
		const root = this.kernel.buildTop(refs, count, room, this.base().work, tree);
		const bytes = this.kernel.builtEnd() - tree;
		m.shrink(tree, bytes);
		m.release(room);
		m.release(refs);
		return { root, tree, bytes };
	}

	private holdPlants(
		key: string,
		scene: Scene,
		cover: Scene["root"]["covers"][number],
		origin: Vec3,
		order: number,
	): HeldPlants {
		const stamp = `${cover.material},${cover.id},${order}`;
		const held = this.plants.get(`${key}|${cover.coverId}`);
		if (held && held.stamp === stamp && held.origin.every((v, i) => v === origin[i])) return held;
		if (held) for (const at of held.blocks) this.memory.release(at);
		const part = scene.parts.get(key) as Extract<ScenePart, { kind: "plants" }>;
		const { plants } = part;
		const m = this.memory;
		const records = m.allocate(plants.count * L.I_SIZE);
		const all = [1e30, 1e30, 1e30, -1e30, -1e30, -1e30];
		const offset = [0, 1, 2].map((c) => plants.origin[c] - origin[c]);
		const meshes = cover.meshes.map((k) => this.meshes.get(k) as HeldMesh);
		const matrix = new Float64Array(12);
		const tints = new Uint32Array(plants.tints.buffer, plants.tints.byteOffset, plants.count);
		const { root, tree, bytes } = this.topTree(plants.count, (refs) => {
			for (let i = 0; i < plants.count; i++) {
				for (let k = 0; k < 12; k++) matrix[k] = plants.transforms[i * 12 + k];
				for (let k = 0; k < 3; k++) matrix[k * 4 + 3] += offset[k];
				const mesh = meshes[plants.variants[i]];
				const at = records + i * L.I_SIZE;
				this.writeInstance(at, matrix, mesh, {
					material: cover.material,
					id: cover.id,
					tint: tints[i],
					order: order + i,
				});
				const bounds = boundsOf(matrix, mesh.bounds);
				grow(all, bounds);
				this.writeReference(refs + i * 32, bounds, at | L.TAG_INSTANCE);
			}
		});
		const now = { root, blocks: [records, tree], bounds: all, bytes: bytes + plants.count * L.I_SIZE, origin, stamp };
		this.plants.set(`${key}|${cover.coverId}`, now);
		return now;
	}

	/** Holds bare meshes and places them, for picking of rays without a scene: the bench and tests. Without instances the first mesh is the top. */
	holdForCasting(
		meshes: readonly Pick<Mesh, "positions" | "indices">[],
		instances: readonly { mesh: number; transform: ArrayLike<number> }[],
	): number {
		const m = this.memory;
		const { header } = this.base();
		const held = meshes.map((mesh) => this.holdMesh({ ...mesh, normals: new Float32Array(3) }));
		let top = m.u32[(held[0].record + L.M_ROOT) >> 2];
		if (instances.length > 0) {
			const records = m.allocate(instances.length * L.I_SIZE);
			const placed = instances.map(({ mesh, transform }) =>
				sliced(transform, held[mesh].bounds).map((part) => boundsOf(transform, part)),
			);
			const count = placed.reduce((n, boxes) => n + boxes.length, 0);
			let slot = 0;
			top = this.topTree(count, (refs) => {
				instances.forEach(({ mesh, transform }, i) => {
					const at = records + i * L.I_SIZE;
					this.writeInstance(at, transform, held[mesh], {
						material: 0,
						id: i,
						order: i,
						sliced: placed[i].length > 1,
					});
					for (const box of placed[i]) this.writeReference(refs + slot++ * 32, box, at | L.TAG_INSTANCE);
				});
			}).root;
		}
		m.u32[(header + L.H_TOP) >> 2] = top;
		return top;
	}

	private writeTop(scene: Scene): void {
		const m = this.memory;
		const { draws, covers, origin, materials } = scene.root;
		const records = m.allocate(Math.max(1, draws.length) * L.I_SIZE);
		this.perScene.push(records);
		const placed = draws.map((draw, i) => {
			const mesh = this.meshes.get(draw.mesh) as HeldMesh;
			const { placed, parts, boxes: still } = placedBody(draw, mesh.bounds, origin);
			let way = 0;
			let boxes = still;
			if (draw.way) {
				const [opening, closing] = draw.way.map((t) => fromOrigin(t, origin));
				const { numbers, half } = wayNumbers(opening, closing);
				boxes = parts.map((part) => boundsOfWay(opening, closing, half, part));
				way = m.allocate(L.WAY_SIZE);
				this.perScene.push(way);
				m.f32.set(numbers, way >> 2);
			}
			const at = records + i * L.I_SIZE;
			const { [draw.material]: material } = materials;
			this.writeInstance(at, placed, mesh, {
				material: draw.material,
				id: draw.id,
				order: i,
				sliced: boxes.length > 1,
				cut: material.cut ?? false,
				way,
				light: (draw.light ?? -1) + 1,
			});
			return { payload: at | L.TAG_INSTANCE, boxes, clear: isClear(material), water: !!material.glass?.water };
		});
		let order = draws.length;
		for (const cover of covers) {
			for (const key of cover.cells) {
				const held = this.holdPlants(key, scene, cover, origin, order);
				order += (scene.parts.get(key) as Extract<ScenePart, { kind: "plants" }>).plants.count;
				placed.push({ payload: held.root, boxes: [held.bounds as number[]], clear: false, water: false });
			}
		}
		const treeOver = (some: typeof placed): number => {
			const { root, tree } = this.topTree(
				some.reduce((n, p) => n + p.boxes.length, 0),
				(refs) => {
					let slot = 0;
					for (const { payload, boxes } of some)
						for (const box of boxes) this.writeReference(refs + slot++ * 32, box, payload);
				},
			);
			this.perScene.push(tree);
			return root;
		};
		const all = treeOver(placed);
		const clear = placed.filter((p) => p.clear);
		m.u32[(this.header + L.H_TOP) >> 2] = all;
		m.u32[(this.header + L.H_TOP_CLEAR) >> 2] = clear.length > 0 ? treeOver(clear) : 0;
		// Light that goes through a surface of water is joined where it bends: it neither blocks nor lets straight through.
		const opaque = placed.filter((p) => !p.clear && !p.water);
		m.u32[(this.header + L.H_TOP_OPAQUE) >> 2] = opaque.length < placed.length ? treeOver(opaque) : all;
		writeLights(
			m,
			this.header,
			scene,
			origin,
			(at) => void this.perScene.push(at),
			(key) => (this.meshes.get(key) as HeldMesh).bounds,
		);
	}
}

/** Glass that light is joined through. A rough pane only stops it, but must not be in the way of what it lets through itself. */
const isClear = ({ glass, roughness }: Material): boolean =>
	!!glass && !glass.water && (glass.pane || roughness < L.GLASS_SMOOTH);

/** Triangles in a range of a mesh's tree that is built at a time. */
const RANGE = 131_072;
function grow(all: number[], b: readonly number[]): void {
	for (let c = 0; c < 3; c++) {
		all[c] = Math.min(all[c], b[c]);
		all[c + 3] = Math.max(all[c + 3], b[c + 3]);
	}
}
