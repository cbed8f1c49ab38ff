/** The tracer's linear memory: one shared block for all workers of a process, with a first-fit allocator. */

const PAGE = 65_536;
/** The most that a scene and its pictures may take, MiB. The kernel is built for the same limit. */
export const MEMORY_LIMIT_MIB = 3072;
const FIRST = 65_536;
/** Bytes that the kernel needs for each worker, besides its sums. */
export const SCRATCH = 65_536 + 1024 + 256 + 64;

/** A scene that does not fit: how much was wanted, and what takes most. */
export class MemoryFull extends Error {
	readonly code = "scene-too-large";
}

export class TracerMemory {
	readonly memory: WebAssembly.Memory;
	private free: { at: number; size: number }[] = [];
	private sizes = new Map<number, number>();
	private end = FIRST;
	private views: {
		buffer: ArrayBufferLike;
		u8: Uint8Array;
		u32: Uint32Array;
		f32: Float32Array;
		f64: Float64Array;
	} | null = null;

	private limitMib: number;

	/** `limitMib` is less than the kernel's own limit in tests alone. */
	constructor(limitMib = MEMORY_LIMIT_MIB) {
		this.limitMib = limitMib;
		this.memory = new WebAssembly.Memory({ initial: 64, maximum: (limitMib * 1024 * 1024) / PAGE, shared: true });
	}

	private look() {
		const buffer = this.memory.buffer;
		if (this.views?.buffer !== buffer) {
			this.views = {
				buffer,
				u8: new Uint8Array(buffer),
				u32: new Uint32Array(buffer),
				f32: new Float32Array(buffer),
				f64: new Float64Array(buffer),
			};
		}
		return this.views;
	}

	get u8(): Uint8Array {
		return this.look().u8;
	}
	get u32(): Uint32Array {
		return this.look().u32;
	}
	get f32(): Float32Array {
		return this.look().f32;
	}
	get f64(): Float64Array {
		return this.look().f64;
	}

	/** Bytes in use. */
	get used(): number {
		let sum = 0;
		for (const size of this.sizes.values()) sum += size;
		return sum;
	}

	/** Address of a new block, aligned to 64 bytes. Throws {@link MemoryFull}. */
	allocate(bytes: number): number {
		const size = Math.max(64, Math.ceil(bytes / 64) * 64);
		const i = this.free.findIndex((b) => b.size >= size);
		let at: number;
		if (i >= 0) {
			const block = this.free[i];
			at = block.at;
			if (block.size === size) this.free.splice(i, 1);
			else this.free[i] = { at: block.at + size, size: block.size - size };
		} else {
			at = this.end;
			const need = at + size - this.memory.buffer.byteLength;
			if (need > 0) {
				try {
					this.memory.grow(Math.ceil(need / PAGE));
				} catch {
					throw new MemoryFull(
						`The scene does not fit: ${Math.round((this.used + size) / 1048576).toLocaleString("en")} MiB are wanted, the tracer has ${this.limitMib.toLocaleString("en")} MiB.`,
					);
				}
			}
			this.end += size;
		}
		this.sizes.set(at, size);
		return at;
	}

	/** Gives back the end of a block that turned out larger than needed. */
	shrink(at: number, bytes: number): void {
		const size = this.sizes.get(at) ?? 0;
		const keep = Math.max(64, Math.ceil(bytes / 64) * 64);
		if (keep >= size) return;
		this.sizes.set(at, keep);
		this.giveBack(at + keep, size - keep);
	}

	release(at: number): void {
		const size = this.sizes.get(at);
		if (size === undefined) return;
		this.sizes.delete(at);
		this.giveBack(at, size);
	}

	private giveBack(at: number, size: number): void {
		let i = this.free.findIndex((b) => b.at > at);
		if (i < 0) i = this.free.length;
		this.free.splice(i, 0, { at, size });
		for (const k of [i, i - 1]) {
			const a = this.free[k];
			const b = this.free[k + 1];
			if (a && b && a.at + a.size === b.at) this.free.splice(k, 2, { at: a.at, size: a.size + b.size });
		}
		const last = this.free[this.free.length - 1];
		if (last && last.at + last.size === this.end) {
			this.end = last.at;
			this.free.pop();
		}
	}

	/** Copies an array into a new block. */
	put(data: ArrayBufferView): number {
		const at = this.allocate(data.byteLength);
		this.u8.set(new Uint8Array(data.buffer as ArrayBuffer, data.byteOffset, data.byteLength), at);
		return at;
	}
}

/** The kernel's functions; see `kernel/index.ts` for what they do. */
export interface Kernel {
	referTriangles(positions: number, indices: number, triangles: number, refs: number): void;
	cutRange(begin: number, end: number, work: number): number;
	buildRange(
		positions: number,
		indices: number,
		begin: number,
		end: number,
		room: number,
		work: number,
		out: number,
		shared: number,
	): number;
	buildTop(refs: number, count: number, room: number, work: number, out: number): number;
	builtEnd(): number;
	learned(planes: number, w: number, h: number, weights: number, work: number, abort: number): number;
	learnedAlso(planes: number, colours: number, w: number, h: number, work: number): void;
	learnedRoom(w: number, h: number): number;
	denoiseBand(planes: number, stride: number, rows: number, reach: number, work: number, abort: number): number;
	takeScene(at: number, scratch: number): void;
	rays(): number;
	renderTile(
		x0: number,
		y0: number,
		w: number,
		h: number,
		begin: number,
		end: number,
		sums: number,
		partial: number,
		firsts: number,
		limits: number,
		abort: number,
	): number;
	castRays(from: number, count: number, to: number, anyHit: number): number;
	skyAt(dx: number, dy: number, dz: number, to: number): void;
}

/** Instantiates the compiled kernel over a memory. */
export function makeKernel(module: WebAssembly.Module, memory: WebAssembly.Memory): Kernel {
	const abort = () => {
		throw new Error("the tracing kernel stopped");
	};
	return new WebAssembly.Instance(module, { env: { memory, abort } }).exports as unknown as Kernel;
}
