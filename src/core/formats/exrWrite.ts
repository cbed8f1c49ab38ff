/**
 * Writes OpenEXR by the layout of the open standard ("OpenEXR File Layout", Academy Software Foundation): FLOAT, HALF and
 * UINT channels in scan lines with ZIP, as a whole or block by block, for a large print does not fit in memory.
 */
import { zlibSync } from "fflate";
import { type ExrChannel, type ExrImage, type ExrWindow, FLOAT, HALF, MAGIC, SIZE, UINT } from "./exr.ts";

/** Lines of a block. */
export const BLOCK_ROWS = 16;
/** Rec.709 primaries and D65, as red, green, blue, white in x and y. */
const CHROMATICITIES = [0.64, 0.33, 0.3, 0.6, 0.15, 0.06, 0.3127, 0.329];

const f32 = new Float32Array(1);
const u32 = new Uint32Array(f32.buffer);

/** Half float bits of a number, rounded to nearest even; beyond 65504 infinite. */
export function toHalf(value: number): number {
	f32[0] = value;
	const x = u32[0];
	const sign = (x >>> 16) & 0x8000;
	const e = (x >>> 23) & 0xff;
	const m = x & 0x7fffff;
	if (e === 0xff) return sign | 0x7c00 | (m ? 0x200 : 0);
	const h = e - 112;
	if (h >= 0x1f) return sign | 0x7c00;
	if (h <= 0) {
		if (h < -10) return sign;
		const full = m | 0x800000;
		const shift = 14 - h;
		const rest = full & ((1 << shift) - 1);
		const half = 1 << (shift - 1);
		const v = full >>> shift;
		return sign | (v + (rest > half || (rest === half && v & 1) ? 1 : 0));
	}
	const v = (h << 10) | (m >>> 13);
	const rest = m & 0x1fff;
	return sign | (v + (rest > 0x1000 || (rest === 0x1000 && v & 1) ? 1 : 0));
}

/** The largest number that a half float holds. */
export const MOST_HALF = 65504;

/** {@link toHalf} of light: what is brighter than a half float holds is as bright as it can be, so that no reader meets infinity. */
export const lightToHalf = (value: number): number => toHalf(Math.max(-MOST_HALF, Math.min(MOST_HALF, value)));

/** Interleaves and differences bytes as ZIP compression of the standard wants them. */
function predict(raw: Uint8Array): Uint8Array {
	const out = new Uint8Array(raw.length);
	const half = (raw.length + 1) >> 1;
	for (let i = 0; i < raw.length; i++) out[i & 1 ? half + (i >> 1) : i >> 1] = raw[i];
	let before = out[0];
	for (let i = 1; i < out.length; i++) {
		const now = out[i];
		out[i] = now - before + 384;
		before = now;
	}
	return out;
}

const typeOf = (c: ExrChannel): number => (c.data instanceof Uint32Array ? UINT : c.half ? HALF : FLOAT);

/** Channels in the order of their names, as the standard asks. */
const inOrder = (channels: readonly ExrChannel[]): ExrChannel[] =>
	[...channels].sort((a, b) => (a.name < b.name ? -1 : 1));

/** The picture of a file without its pixels; of its channels only names and types are looked at. */
export interface ExrPlan extends Omit<ExrImage, "window"> {
	window?: ExrWindow;
}

/** Everything before the table of blocks. */
export function exrHead({ width, height, channels, window, text }: ExrPlan): Uint8Array {
	const head = new ByteWriter();
	head.u32(MAGIC).u32(2);
	const list = new ByteWriter();
	for (const c of inOrder(channels)) list.text(c.name).u32(typeOf(c)).u32(0).u32(1).u32(1);
	list.u8(0);
	head.attribute("channels", "chlist", list.bytes());
	head.attribute("chromaticities", "chromaticities", new ByteWriter().floats(CHROMATICITIES).bytes());
	head.attribute("compression", "compression", new Uint8Array([3]));
	const box = (x: number, y: number, w: number, h: number) =>
		new ByteWriter()
			.u32(x)
			.u32(y)
			.u32(x + w - 1)
			.u32(y + h - 1)
			.bytes();
	const whole = window ?? { x: 0, y: 0, width, height };
	head
		.attribute("dataWindow", "box2i", box(whole.x, whole.y, width, height))
		.attribute("displayWindow", "box2i", box(0, 0, whole.width, whole.height));
	head.attribute("lineOrder", "lineOrder", new Uint8Array([0]));
	head.attribute("pixelAspectRatio", "float", new ByteWriter().floats([1]).bytes());
	head.attribute("screenWindowCenter", "v2f", new ByteWriter().floats([0, 0]).bytes());
	head.attribute("screenWindowWidth", "float", new ByteWriter().floats([1]).bytes());
	for (const [k, v] of Object.entries(text)) head.attribute(k, "string", new TextEncoder().encode(v));
	return head.u8(0).bytes();
}

/** Number of blocks of a picture. */
export const blocksOf = (height: number): number => Math.ceil(height / BLOCK_ROWS);

/** The table of blocks, from where the first begins and how long each is. */
export function exrTable(begin: number, lengths: readonly number[]): Uint8Array {
	const table = new ByteWriter();
	let offset = begin;
	for (const length of lengths) {
		table.u32(offset % 4294967296).u32(Math.floor(offset / 4294967296));
		offset += length;
	}
	return table.bytes();
}

type Pack = (raw: Uint8Array) => Uint8Array;
const packed: Pack = (raw) => zlibSync(raw, { level: 4 });

/** A block: `rows` lines of channels from line `from` of their planes; `y` is its first line in the whole picture. */
export function exrBlock(
	channels: readonly ExrChannel[],
	width: number,
	from: number,
	rows: number,
	y: number,
	pack: Pack = packed,
): Uint8Array {
	const ordered = inOrder(channels);
	const types = ordered.map(typeOf);
	const raw = new Uint8Array(types.reduce((n: number, t) => n + SIZE[t] * width, 0) * rows);
	const view = new DataView(raw.buffer);
	let at = 0;
	for (let line = from; line < from + rows; line++) {
		ordered.forEach(({ data }, k) => {
			const begin = line * width;
			if (types[k] === HALF)
				for (let x = 0; x < width; x++, at += 2) view.setUint16(at, lightToHalf(data[begin + x]), true);
			else if (types[k] === UINT) for (let x = 0; x < width; x++, at += 4) view.setUint32(at, data[begin + x], true);
			else for (let x = 0; x < width; x++, at += 4) view.setFloat32(at, data[begin + x], true);
		});
	}
	const short = pack(predict(raw));
	const body = short.length < raw.length ? short : raw;
	return new ByteWriter().u32(y).u32(body.length).raw(body).bytes();
}

/** Bytes of an EXR file. */
export function writeExr(image: ExrImage): Uint8Array {
	const { width, height, channels } = image;
	for (const c of channels)
		if (c.data.length !== width * height)
			throw new Error(`channel ${c.name} has ${c.data.length} values for ${width}×${height}`);
	const head = exrHead(image);
	const blocks = Array.from({ length: blocksOf(height) }, (_, b) =>
		exrBlock(
			channels,
			width,
			b * BLOCK_ROWS,
			Math.min(BLOCK_ROWS, height - b * BLOCK_ROWS),
			(image.window?.y ?? 0) + b * BLOCK_ROWS,
		),
	);
	const file = new ByteWriter().raw(head).raw(
		exrTable(
			head.length + 8 * blocks.length,
			blocks.map((b) => b.length),
		),
	);
	for (const b of blocks) file.raw(b);
	return file.bytes();
}

class ByteWriter {
	private pieces: Uint8Array[] = [];
	length = 0;
	raw(b: Uint8Array): this {
		this.pieces.push(b);
		this.length += b.length;
		return this;
	}
	u8(v: number): this {
		return this.raw(new Uint8Array([v]));
	}
	u32(v: number): this {
		return this.raw(new Uint8Array(new Uint32Array([v]).buffer));
	}
	floats(v: number[]): this {
		return this.raw(new Uint8Array(new Float32Array(v).buffer));
	}
	text(s: string): this {
		return this.raw(new TextEncoder().encode(s)).u8(0);
	}
	attribute(name: string, type: string, body: Uint8Array): this {
		return this.text(name).text(type).u32(body.length).raw(body);
	}
	bytes(): Uint8Array {
		const out = new Uint8Array(this.length);
		let at = 0;
		for (const p of this.pieces) {
			out.set(p, at);
			at += p.length;
		}
		return out;
	}
}
