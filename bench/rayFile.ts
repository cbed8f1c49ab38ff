/** Geometry and rays as the comparison programs read them; little endian, four-byte words. */
import { readFileSync, writeFileSync } from "node:fs";

/** Rays in a chunk; of each chunk the fastest pass counts. */
export const CHUNK = 8192;

export interface RaySet {
	name: string;
	any: boolean;
	/** Origin, direction, farthest distance: seven numbers a ray. */
	rays: Float32Array;
}

export interface PlainMesh {
	positions: Float32Array;
	indices: Uint32Array;
}

export interface PlainInstance {
	mesh: number;
	/** Twelve numbers, rows. */
	transform: ArrayLike<number>;
}

export interface RayFile {
	meshes: PlainMesh[];
	instances: PlainInstance[];
	sets: RaySet[];
}

export function writeRayFile(path: string, { meshes, instances, sets }: RayFile): void {
	const words = (...v: number[]) => Buffer.from(new Uint32Array(v).buffer);
	const bytes = (a: Float32Array | Uint32Array) => new Uint8Array(a.buffer, a.byteOffset, a.byteLength);
	const parts: Uint8Array[] = [words(meshes.length, instances.length, sets.length)];
	for (const m of meshes)
		parts.push(words(m.positions.length / 3, m.indices.length / 3), bytes(m.positions), bytes(m.indices));
	for (const i of instances) parts.push(words(i.mesh), bytes(Float32Array.from(i.transform)));
	for (const s of sets) parts.push(words(s.rays.length / 7, s.any ? 1 : 0), bytes(s.rays));
	writeFileSync(path, Buffer.concat(parts));
}

export function readRayFile(path: string): RayFile {
	const raw = readFileSync(path);
	const buffer = raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.byteLength) as ArrayBuffer;
	let at = 0;
	const words = (n: number) => {
		const w = new Uint32Array(buffer, at, n);
		at += n * 4;
		return w;
	};
	const floats = (n: number) => {
		const f = new Float32Array(buffer, at, n);
		at += n * 4;
		return f;
	};
	const [meshCount, instanceCount, setCount] = words(3);
	const meshes = Array.from({ length: meshCount }, () => {
		const [vertices, triangles] = words(2);
		return { positions: floats(vertices * 3), indices: words(triangles * 3) };
	});
	const instances = Array.from({ length: instanceCount }, () => ({ mesh: words(1)[0], transform: floats(12) }));
	const sets = Array.from({ length: setCount }, (_, i) => {
		const [count, any] = words(2);
		return { name: String(i), any: any !== 0, rays: floats(count * 7) };
	});
	return { meshes, instances, sets };
}
