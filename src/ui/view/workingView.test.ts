import * as THREE from "three";
import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../../core/doc/defaults.ts";
import type { Cover, Piece, ShapeKind, ShotDocument, Surface } from "../../core/doc/schema.ts";
import { compile } from "../../core/scene/compile.ts";
import { NO_BLOBS, NO_MAKERS } from "../../core/scene/inputs.ts";
import { PartCache } from "../../core/scene/partCache.ts";
import { STILL } from "../../core/time/frames.ts";
import { COVER_BUDGET } from "./bodies.ts";
import { projectionOf, WorkingView } from "./workingView.ts";

const surface = (colour: [number, number, number], over: Partial<Surface> = {}): Surface => ({
	colour,
	roughness: 0.5,
	metal: 0,
	...over,
});

const cache = new PartCache();

/** The copies that a shot is drawn as, the ground's left out. */
function drawn(change: Partial<ShotDocument>): { view: WorkingView; copies: THREE.InstancedMesh[] } {
	const doc = { ...blankShot(), ...change };
	const { root, parts } = compile(doc, STILL, NO_BLOBS, NO_MAKERS, cache);
	const view = new WorkingView();
	view.take(root, parts);
	return {
		view,
		copies: view
			.meshes()
			.filter((m): m is THREE.InstancedMesh => m instanceof THREE.InstancedMesh)
			.slice(1),
	};
}

const near = (id: string, kind: ShapeKind, over: Partial<Piece> = {}) =>
	newPiece(id, kind, { position: [0, 0, -4], ...over });

describe("what the working view draws", () => {
	it("draws boxes of all colours and surfaces at once, each with its own", () => {
		const pieces = Array.from({ length: 60 }, (_, i) =>
			near(`p${i}`, "box", {
				position: [i, 0, -9],
				surface: surface([i / 60, 0.25, 1], { roughness: i / 59, metal: i % 2 }),
			}),
		);
		const { copies } = drawn({ pieces });
		expect(copies).toHaveLength(1);
		const [boxes] = copies;
		expect(boxes.count).toBe(60);
		const numbers = boxes.instanceColor as THREE.InstancedBufferAttribute;
		const { uMaterials, uPieces } = (boxes.material as THREE.ShaderMaterial).uniforms;
		for (let i = 0; i < 60; i++) {
			const copy = (uPieces.value.image.data as Float32Array).subarray(16 * numbers.getX(i));
			expect([copy[3], copy[12]]).toEqual([boxes.instanceMatrix.array[16 * i + 12], expect.any(Number)]);
			const record = (uMaterials.value.image.data as Float32Array).subarray(20 * copy[12]);
			expect(record[0]).toBeCloseTo(i / 60, 6);
			expect([record[1], record[2]]).toEqual([0.25, 1]);
			expect(record[3]).toBeCloseTo(i / 59, 6);
			expect(record[4]).toBe(i % 2);
		}
	});

	it("draws coats, glows and bodies of glass with the rest, panes apart, and keeps programs from scene to scene", () => {
		const pane = { pane: true, index: 1.5, depthM: 1 };
		const pieces = [
			near("a", "box"),
			near("b", "box", { surface: surface([1, 1, 1], { glass: pane }) }),
			near("c", "box", { surface: surface([1, 1, 1], { coat: 0.8, coatRoughness: 0.1 }) }),
			near("d", "box", { surface: surface([1, 1, 1], { glow: { nits: 500, kelvin: 3000 } }) }),
			near("e", "box", { surface: surface([0, 1, 0], { glow: { nits: 500, kelvin: 3000 } }) }),
		];
		const { view, copies } = drawn({ pieces });
		expect(copies.map((c) => c.count).sort()).toEqual([1, 4]);
		const before = new Set(copies.map((c) => c.material));
		const { root, parts } = compile(
			{ ...blankShot(), pieces: pieces.map((p) => ({ ...p, position: [1, 0, -6] as [number, number, number] })) },
			STILL,
			NO_BLOBS,
			NO_MAKERS,
			cache,
		);
		view.take(root, parts);
		const after = view
			.meshes()
			.filter((m): m is THREE.InstancedMesh => m instanceof THREE.InstancedMesh)
			.slice(1);
		expect(after.every((m) => before.has(m.material))).toBe(true);
	});

	it("stands each copy relative to the lens, repeats included", () => {
		const camera = { ...blankShot().camera, position: [10, 2, 3] as [number, number, number] };
		const { copies } = drawn({
			camera,
			pieces: [
				near("a", "box", { position: [12, 0, -4], size: [2, 3, 4], repeat: { kind: "row", count: 3, step: [5, 0] } }),
			],
		});
		const [row] = copies;
		expect(row.count).toBe(3);
		const m = new THREE.Matrix4();
		const places = [0, 1, 2].map((i) => {
			row.getMatrixAt(i, m);
			return [m.elements[12], m.elements[14]];
		});
		expect(places.map(([x]) => Math.round(x)).sort((a, b) => a - b)).toEqual([2, 7, 12]);
		expect(places.every(([, z]) => Math.abs(z + 7) < 1e-4)).toBe(true);
		expect([m.elements[0], m.elements[5], m.elements[10]].map((v) => Math.round(v))).toEqual([2, 3, 4]);
	});

	it("draws balls with fewer faces where they are small in the frame, and with all where they are not", () => {
		const { copies } = drawn({ pieces: [near("near", "sphere"), near("far", "sphere", { position: [0, 0, -400] })] });
		const faces = copies.map((c) => (c.geometry.index?.count ?? 0) / 3).sort((a, b) => a - b);
		expect(faces).toHaveLength(2);
		expect(faces[0]).toBeLessThan(400);
		expect(faces[1]).toBeGreaterThan(3000);
	});

	it("thins plants to what can be drawn, evenly over all cells, and says how many", () => {
		const cover: Cover = {
			id: "grass",
			name: "Grass",
			species: "tussock",
			densityPerM2: 8,
			sizeM: [0.3, 0.5],
			seed: 3,
			colour: [0.3, 0.35, 0.1],
			hidden: false,
			rules: [{ kind: "near the lens", out: false, distanceM: 60, featherM: 5 }],
		};
		const { view, copies } = drawn({ covers: [cover], pieces: [] });
		const [told] = view.thinning;
		expect(told.shown).toBeLessThan(told.all);
		expect(told.shown).toBe(copies.reduce((s, c) => s + c.count, 0));
		const triangles = copies.reduce((s, c) => s + (c.count * (c.geometry.index?.count ?? 0)) / 3, 0);
		expect(triangles).toBeLessThanOrEqual(COVER_BUDGET * 1.02);
		expect(triangles).toBeGreaterThan(COVER_BUDGET * 0.8);
		// The first quarter of them stands as far and as wide as all of them.
		const spread = (mesh: THREE.InstancedMesh, count: number) => {
			let [near, far] = [0, 0];
			for (let i = 0; i < count; i++) {
				const [x, z] = [mesh.instanceMatrix.array[16 * i + 12], mesh.instanceMatrix.array[16 * i + 14]];
				if (Math.hypot(x, z) < 30) near++;
				else far++;
			}
			return near / (near + far);
		};
		for (const mesh of copies)
			expect(Math.abs(spread(mesh, mesh.count) - spread(mesh, Math.floor(mesh.count / 4)))).toBeLessThan(0.15);
		view.dispose();
	});

	it("gives back all that it has taken of the graphics", () => {
		const disposed: string[] = [];
		const spied = [THREE.BufferGeometry, THREE.Material, THREE.Texture, THREE.RenderTarget, THREE.InstancedMesh].map(
			(c) => {
				const own = c.prototype as { dispose: () => void };
				const { dispose } = own;
				own.dispose = function (this: { constructor: { name: string } }) {
					disposed.push(this.constructor.name);
					dispose.call(this);
				};
				return () => {
					own.dispose = dispose;
				};
			},
		);
		const { view } = drawn({ pieces: [near("a", "box")], water: { ...blankShot().water, on: true, levelM: -1 } });
		disposed.length = 0;
		view.dispose();
		for (const restore of spied) restore();
		const count = (name: string) => disposed.filter((n) => n === name).length;
		// Sky, cloud, tables of materials, pieces, plants and layers, volumes, sheets; depths of shadow, view and mirror; two each of view and
		// mirror, shadow, four of the blur; sky, two that light what is seen, finish, water, pieces, shadow, four of the blur.
		expect(count("DataTexture")).toBe(7);
		expect(count("DataArrayTexture")).toBe(1);
		expect(count("DepthTexture")).toBe(3);
		expect(count("WebGLRenderTarget")).toBe(9);
		expect(count("ShaderMaterial") + count("MeshBasicMaterial")).toBe(11);
		expect(count("InstancedMesh")).toBe(2);
	});
});

describe("the working view's depths", () => {
	it("cut nothing away from 2 cm before the lens to a planet's horizon, and tell apart what lies behind what", () => {
		const { elements: m } = projectionOf({ shiftX: 0.1, shiftY: -0.05, tanX: 0.6, tanY: 0.3 });
		const f = Math.fround;
		let last = -1;
		for (let depth = 0.02; depth < 2e7; depth *= 1.001) {
			// As graphics compute it, in floats of 32 bits.
			const z = f(f(f(m[10]) * f(-depth)) + f(m[14]));
			expect(z).toBeLessThan(f(depth));
			expect(z).toBeGreaterThan(-f(depth));
			const stored = Math.floor((2 ** 24 - 1) * (Math.log2(1 + depth) / Math.log2(1 + 1e8)));
			expect(stored).toBeGreaterThan(last);
			last = stored;
		}
		// The sides are those of the view: its middle beside the axis by the shift.
		const across = (x: number) => (m[0] * x + m[8] * -1) / 1;
		expect(across(0.1 + 0.6)).toBeCloseTo(1, 6);
		expect(across(0.1 - 0.6)).toBeCloseTo(-1, 6);
	});
});
