/** Puts the lights of a scene into the tracer's memory: their records, the tree over them, and the panes that mirror them. */

import { luminance } from "../core/colour/linear.ts";
import type { LightShape } from "../core/light/lamp.ts";
import { triangleAreas } from "../core/light/lampMeshes.ts";
import type { SceneLight } from "../core/light/lamps.ts";
import { buildLightTree, type LightBounds } from "../core/light/lightTree.ts";
import { acos } from "../core/maths/functions.ts";
import type { Mesh } from "../core/maths/mesh.ts";
import {
	add,
	boundsOf,
	cross,
	dot,
	length,
	normalize,
	scale,
	sub,
	transformPoint,
	type Vec3,
} from "../core/maths/vec.ts";
import type { Draw, MeshPart, Scene } from "../core/scene/scene.ts";
import { parallelogram } from "../core/shape/faces.ts";
import * as L from "./kernel/layout.ts";
import type { TracerMemory } from "./memory.ts";

interface BodyTables {
	area: number;
	triangles: number;
	areas: number;
	corners: number;
	indices: number;
}

interface Extent {
	/** Number in the kernel. */
	shape: number;
	/** It shines to one side only. */
	oneSided: boolean;
	/** Area in m², 1 of what has none; radius about its middle; half of its box, by its half measures and axes. */
	area: (w: number, h: number) => number;
	radius: (w: number, h: number) => number;
	reach: (light: SceneLight) => number[];
}

const across = ({ right, up, half: [w, h] }: SceneLight): number[] =>
	right.map((v, c) => Math.abs(v) * w + Math.abs(up[c]) * h);
const noExtent: Pick<Extent, "area" | "radius" | "reach"> = { area: () => 1, radius: () => 0, reach: () => [0, 0, 0] };
const circle = (w: number) => Math.PI * w * w;

/** Lights by their shapes; a body's extent is that of its mesh. */
const EXTENTS: Record<LightShape, Extent> = {
	point: { shape: L.SHAPE_POINT, oneSided: false, ...noExtent },
	spot: { shape: L.SHAPE_SPOT, oneSided: true, ...noExtent },
	sphere: {
		shape: L.SHAPE_SPHERE,
		oneSided: false,
		area: circle,
		radius: (w) => w,
		reach: ({ half: [w] }) => [w, w, w],
	},
	disc: { shape: L.SHAPE_DISC, oneSided: true, area: circle, radius: (w) => w, reach: across },
	rectangle: {
		shape: L.SHAPE_RECTANGLE,
		oneSided: true,
		area: (w, h) => 4 * w * h,
		radius: (w, h) => Math.hypot(w, h),
		reach: across,
	},
	body: { shape: L.SHAPE_BODY, oneSided: false, ...noExtent },
};

/**
 * Writes the lights of a scene, the tree over them and the faces of panes that mirror them, and tells the header where they
 * are. `keep` is told what to release with the scene, `boundsOfMesh` has the box of a mesh by its key.
 */
export function writeLights(
	m: TracerMemory,
	header: number,
	scene: Scene,
	lens: Vec3,
	keep: (at: number) => void,
	boundsOfMesh: (key: string) => readonly number[],
): void {
	const { lights, draws } = scene.root;
	const u = (offset: number, value: number) => {
		m.u32[(header + offset) >> 2] = value;
	};
	u(L.H_LIGHT_COUNT, lights.length);
	u(L.H_MIRROR_COUNT, 0);
	if (lights.length === 0) return;
	const faces = paneFaces(scene, lens);
	if (faces.length > 0 && faces.length <= L.MOST_MIRRORS) {
		const mirrors = m.allocate(faces.length * L.MI_SIZE);
		keep(mirrors);
		faces.forEach((face, i) => {
			m.f32.set(face.numbers, (mirrors + i * L.MI_SIZE) >> 2);
			m.u32[(mirrors + i * L.MI_SIZE + L.MI_MATERIAL) >> 2] = face.material;
		});
		u(L.H_MIRRORS, mirrors);
		u(L.H_MIRROR_COUNT, faces.length);
	}
	const at = m.allocate(lights.length * L.LI_SIZE);
	keep(at);
	const shared = new Map<string, BodyTables>();
	/** Bodies of the same mesh and size share their tables. */
	const tablesOf = (draw: Draw): BodyTables => {
		const { mesh } = scene.parts.get(draw.mesh) as MeshPart;
		const key = `${draw.mesh}|${draw.transform.filter((_, i) => i % 4 !== 3).join()}`;
		const tables = shared.get(key) ?? bodyTables(m, mesh, draw.transform, keep);
		shared.set(key, tables);
		return tables;
	};
	const bounds = lights.map((light, i) =>
		writeLight(m, at + i * L.LI_SIZE, light, light.draw < 0 ? null : draws[light.draw], lens, tablesOf, boundsOfMesh),
	);
	const tree = buildLightTree(bounds);
	lights.forEach((_, i) => {
		m.u32[(at + i * L.LI_SIZE + L.LI_NODE) >> 2] = tree.leafOf[i];
	});
	const nodes = m.put(tree.nodes);
	keep(nodes);
	u(L.H_LIGHTS, at);
	u(L.H_LIGHT_NODES, nodes);
}

/** Writes a light's record; its bounds for the tree. */
function writeLight(
	m: TracerMemory,
	at: number,
	light: SceneLight,
	draw: Draw | null,
	lens: Vec3,
	tablesOf: (draw: Draw) => BodyTables,
	boundsOfMesh: (key: string) => readonly number[],
): LightBounds {
	// A body's tables come first: they may move the memory's views.
	const tables = light.shape === "body" && draw ? tablesOf(draw) : null;
	const { f32, u32 } = m;
	const f = (offset: number, ...values: number[]) => f32.set(values, (at + offset) >> 2);
	const place = light.position.map((v, c) => v - lens[c]);
	const [w, h] = light.half;
	const extent = EXTENTS[light.shape];
	const brightness = luminance(light.rgb);
	u32[(at + L.LI_SHAPE) >> 2] = extent.shape;
	u32[(at + L.LI_MET) >> 2] = draw ? 1 : 0;
	u32[(at + L.LI_LAYER) >> 2] = light.layer;
	f(L.LI_AXIS, ...light.axis, light.cosOuter);
	f(L.LI_RIGHT, ...light.right.map((v) => v * w));
	f(L.LI_UP, ...light.up.map((v) => v * h));
	f(L.LI_RGB, ...light.rgb);
	const reach = extent.reach(light);
	let area = extent.area(w, h);
	let radius = extent.radius(w, h);
	let strength = brightness * area;
	if (tables && draw) {
		u32.set([tables.triangles, tables.areas, tables.corners, tables.indices], (at + L.LI_TRIANGLES) >> 2);
		const t = draw.transform.slice() as number[];
		for (let k = 0; k < 3; k++) t[k * 4 + 3] -= lens[k];
		f(L.LI_MATRIX, ...t);
		const box = boundsOf(t, boundsOfMesh(draw.mesh));
		for (let c = 0; c < 3; c++) {
			place[c] = (box[c] + box[c + 3]) / 2;
			reach[c] = (box[c + 3] - box[c]) / 2;
		}
		area = tables.area;
		radius = Math.hypot(...reach);
		strength = (brightness * area) / 4;
	}
	f(L.LI_AREA, area);
	f(L.LI_POSITION, ...place, light.cosInner);
	f(L.LI_RADIUS, radius);
	return {
		low: [place[0] - reach[0], place[1] - reach[1], place[2] - reach[2]],
		high: [place[0] + reach[0], place[1] + reach[1], place[2] + reach[2]],
		axis: light.axis,
		spread: extent.oneSided ? 0 : Math.PI,
		emission: light.shape === "spot" ? acos(light.cosOuter) : Math.PI / 2,
		strength: Math.max(1e-12, strength),
	};
}

function bodyTables(m: TracerMemory, mesh: Mesh, transform: ArrayLike<number>, keep: (at: number) => void): BodyTables {
	const each = triangleAreas(mesh, transform);
	const area = each.reduce((s, a) => s + a, 0);
	let sum = 0;
	const running = Float32Array.from(each, (a) => {
		sum += a / area;
		return sum;
	});
	running[running.length - 1] = 1;
	const tables = {
		area,
		triangles: each.length,
		areas: m.put(running),
		corners: m.put(mesh.positions),
		indices: m.put(mesh.indices),
	};
	for (const at of [tables.areas, tables.corners, tables.indices]) keep(at);
	return tables;
}

/** The large flat faces of smooth panes, as the kernel's records of mirrors: those that are parallelograms. */
function paneFaces(scene: Scene, lens: Vec3): { numbers: number[]; material: number }[] {
	const out: { numbers: number[]; material: number }[] = [];
	for (const draw of scene.root.draws) {
		const { glass, roughness } = scene.root.materials[draw.material];
		if (!glass?.pane || roughness >= L.GLASS_SMOOTH) continue;
		const { mesh, faces: named = [] } = scene.parts.get(draw.mesh) as MeshPart;
		const faces = named.flatMap((face) => {
			const corners = parallelogram(mesh, face);
			if (!corners) return [];
			const [a, b, c, d] = corners.map((p) => transformPoint(draw.transform, p));
			const [u, v] = [scale(sub(b, a), 0.5), scale(sub(d, a), 0.5)];
			const n = cross(u, v);
			return { centre: sub(scale(add(a, c), 0.5), lens), u, v, n: normalize(n), area: 4 * length(n) };
		});
		const largest = Math.max(...faces.map((f) => f.area));
		for (const { centre, u, v, n, area } of faces) {
			if (area < 0.5 * largest) continue;
			const ease = (w: Vec3) => scale(w, 1 / dot(w, w));
			out.push({ numbers: [...centre, 0, ...n, area, ...ease(u), 0, ...ease(v), 0], material: draw.material });
		}
	}
	return out;
}
