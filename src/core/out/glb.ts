/**
 * Binary glTF 2.0 (Khronos Group: "glTF 2.0 Specification", 2021, chapters 3.6 and 4.4): one JSON document and one chunk of
 * bytes, in metres, +Y up, colours linear.
 */
export type Floats = "SCALAR" | "VEC2" | "VEC3" | "VEC4";

const PARTS: Record<Floats, number> = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4 };
const FLOAT = 5126;
const UNSIGNED_INT = 5125;
const UNSIGNED_SHORT = 5123;
const VERTICES = 34962;
const INDICES = 34963;

interface Accessor {
	bufferView: number;
	componentType: number;
	count: number;
	type: Floats;
	normalized?: boolean;
	min?: number[];
	max?: number[];
}

/** A glTF document as far as it is written here; its other lists are plain JSON. */
export interface GltfJson {
	[list: string]: unknown;
}

/** Bytes of a glTF, and the accessors that name them. */
export class GlbBytes {
	private chunks: Uint8Array[] = [];
	private length = 0;
	private readonly views: object[] = [];
	private readonly accessors: Accessor[] = [];

	private view(data: ArrayBufferView, target?: number): number {
		const bytes = new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
		const rest = (4 - (bytes.length % 4)) % 4;
		this.views.push({
			buffer: 0,
			byteOffset: this.length,
			byteLength: bytes.length,
			...(target !== undefined && { target }),
		});
		this.chunks.push(bytes, new Uint8Array(rest));
		this.length += bytes.length + rest;
		return this.views.length - 1;
	}

	private accessor(accessor: Accessor): number {
		return this.accessors.push(accessor) - 1;
	}

	/** Numbers of vertices; with their least and most where a reader needs them. @returns The accessor. */
	vertices(data: Float32Array, type: Floats, bounds = false): number {
		const parts = PARTS[type];
		const ends: { min?: number[]; max?: number[] } = {};
		if (bounds) {
			const [min, max] = [new Array(parts).fill(Infinity), new Array(parts).fill(-Infinity)];
			for (let i = 0; i < data.length; i++) {
				const c = i % parts;
				if (data[i] < min[c]) min[c] = data[i];
				if (data[i] > max[c]) max[c] = data[i];
			}
			Object.assign(ends, { min, max });
		}
		const bufferView = this.view(data, VERTICES);
		return this.accessor({ bufferView, componentType: FLOAT, count: data.length / parts, type, ...ends });
	}

	/** Numbers of instances, which are no vertices. */
	instances(data: Float32Array, type: Floats): number {
		return this.accessor({
			bufferView: this.view(data),
			componentType: FLOAT,
			count: data.length / PARTS[type],
			type,
		});
	}

	/** Four parts of 0 to 65,535 each, which stand for 0 to 1. */
	shares(data: Uint16Array): number {
		return this.accessor({
			bufferView: this.view(data, VERTICES),
			componentType: UNSIGNED_SHORT,
			normalized: true,
			count: data.length / 4,
			type: "VEC4",
		});
	}

	/** Bytes of a file that is held in this one. @returns Their view. */
	held(data: Uint8Array): number {
		return this.view(data);
	}

	indices(data: Uint32Array): number {
		return this.accessor({
			bufferView: this.view(data, INDICES),
			componentType: UNSIGNED_INT,
			count: data.length,
			type: "SCALAR",
		});
	}

	/** The whole file. Lists that are empty are left out, as the standard wants them. */
	file(json: GltfJson): Uint8Array {
		const whole = {
			...json,
			accessors: this.accessors,
			bufferViews: this.views,
			buffers: this.length ? [{ byteLength: this.length }] : [],
		};
		const filled = Object.entries(whole).filter(([, v]) => !Array.isArray(v) || v.length > 0);
		const text = new TextEncoder().encode(JSON.stringify(Object.fromEntries(filled)));
		const padded = new Uint8Array(Math.ceil(text.length / 4) * 4).fill(0x20);
		padded.set(text);
		const out = new Uint8Array(12 + 8 + padded.length + (this.length ? 8 + this.length : 0));
		const words = new DataView(out.buffer);
		const put = (at: number, ...values: number[]) => {
			for (const [i, v] of values.entries()) words.setUint32(at + 4 * i, v, true);
		};
		put(0, 0x46546c67, 2, out.length, padded.length, 0x4e4f534a);
		out.set(padded, 20);
		let at = 20 + padded.length;
		if (this.length) put(at, this.length, 0x004e4942);
		at += 8;
		for (const chunk of this.chunks) {
			out.set(chunk, at);
			at += chunk.length;
		}
		return out;
	}
}
