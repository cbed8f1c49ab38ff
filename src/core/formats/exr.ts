/**
 * Reads OpenEXR by the layout of the open standard ("OpenEXR File Layout", Academy Software Foundation): scan lines and tiles (the largest of several levels) with NO, RLE, ZIPS, ZIP,
 * PIZ or PXR24 compression. A file is taken as hostile: sizes are checked before anything is reserved.
 */
import { unzlibSync } from "fflate";
import { PizError, unpackPiz } from "./exrPiz.ts";

export interface ExrChannel {
	name: string;
	data: Float32Array | Uint32Array;
	/** Store a Float32Array as half float. */
	half?: boolean;
}

export interface ExrImage {
	width: number;
	height: number;
	channels: ExrChannel[];
	/** Text attributes of the header. */
	text: Record<string, string>;
	/** Where the pixels lie in a larger picture, and its size; nothing when they are all of it. */
	window?: ExrWindow;
}

export interface ExrWindow {
	x: number;
	y: number;
	width: number;
	height: number;
}

/** A file of a picture that cannot be read: what is wrong and where. */
export class PictureFileError extends Error {
	readonly code: string = "bad-picture";
}

/** A file that is not an EXR picture that can be read: what is wrong and where. */
export class ExrError extends PictureFileError {
	override readonly code = "bad-exr";
}

export const MAGIC = 20000630;
export const UINT = 0;
export const HALF = 1;
export const FLOAT = 2;
/** Bytes of a value by its type. */
export const SIZE: readonly number[] = [4, 2, 4];

/** The number that half float bits stand for. */
export function fromHalf(h: number): number {
	const s = h & 0x8000 ? -1 : 1;
	const e = (h >>> 10) & 31;
	const m = h & 1023;
	if (e === 0) return s * m * 2 ** -24;
	if (e === 31) return m ? Number.NaN : s * Infinity;
	return s * (1 + m / 1024) * 2 ** (e - 15);
}

function unpredict(coded: Uint8Array): Uint8Array {
	for (let i = 1; i < coded.length; i++) coded[i] = coded[i - 1] + coded[i] - 128;
	const out = new Uint8Array(coded.length);
	const half = (coded.length + 1) >> 1;
	for (let i = 0; i < out.length; i++) out[i] = coded[i & 1 ? half + (i >> 1) : i >> 1];
	return out;
}

/** Reads a whole EXR file. Throws {@link ExrError}. `mostPixels` bounds what is reserved. */
export function readExr(file: Uint8Array, mostPixels = 100_000_000): ExrImage {
	const exr = openExr(file, mostPixels);
	const { width, height, text, window } = exr;
	return { width, height, channels: exr.planes(exr.names), text, ...(window ? { window } : {}) };
}

/** Pixels that the header of an EXR file claims. Throws {@link ExrError}. */
export function exrPixels(file: Uint8Array): number {
	const { width, height } = readHead(new ByteReader(file), Number.MAX_SAFE_INTEGER / 1024, file.length);
	return width * height;
}

/** An EXR file whose channels are unpacked when they are asked for. */
export interface ExrFile extends Pick<ExrImage, "width" | "height" | "text" | "window"> {
	/** Names of its channels, in order. */
	names: string[];
	/** Whole channels by name; names that the file has not are left out. */
	planes(names: readonly string[]): ExrChannel[];
	/** All channels of one line, by name. Only the block that holds it is unpacked. */
	line(y: number): Map<string, Float32Array | Uint32Array>;
}

interface Listed {
	name: string;
	type: number;
	/** Bytes of a pixel of the channels before it: with the block's width, where it begins in a line. */
	before: number;
}

/** Size of tiles and how levels of them are made: 0 one level, 1 halved both ways, 2 halved each way. */
interface Tiling {
	width: number;
	height: number;
	levels: number;
	roundUp: boolean;
}

/** A block unpacked: where it lies, and its bytes line by line. */
interface Block {
	x: number;
	y: number;
	width: number;
	height: number;
	view: DataView;
}

/** What the header of a file says. */
interface Head {
	width: number;
	height: number;
	/** First line of the pixels in the file's own numbers. */
	top: number;
	text: Record<string, string>;
	window?: ExrWindow;
	list: Listed[];
	/** Bytes of a pixel of all channels. */
	pixelBytes: number;
	compression: number;
	/** Lines of a block. */
	rows: number;
	tiling: Tiling | null;
}

/** No packing here makes more bytes of one than this: a run of deflate makes 1,032. */
const MOST_UNPACKED = 1100;

/** Reads a header of a file of so many bytes. Throws {@link ExrError}. */
function readHead(r: ByteReader, mostPixels: number, fileBytes: number): Head {
	if (r.u32() !== MAGIC) throw new ExrError("This is not an EXR file: its first four bytes are others.");
	const version = r.u32();
	if (version & ~0xff & ~(LONG_NAMES | TILED))
		throw new ExrError("Only flat EXR files of one part can be read, not deep or multi-part ones.");
	const text: Record<string, string> = {};
	let found: { name: string; type: number }[] | null = null;
	let compression = -1;
	let data: number[] | null = null;
	let display: number[] | null = null;
	let tiling: Tiling | null = null;
	for (let count = 0; ; count++) {
		const name = r.text();
		if (name === "") break;
		if (count > 4096) throw new ExrError("The header of the EXR file does not end.");
		const type = r.text();
		const body = new ByteReader(r.take(r.u32()));
		if (name === "channels") found = readChannels(body);
		else if (name === "compression") compression = body.u8();
		else if (name === "dataWindow") data = [body.i32(), body.i32(), body.i32(), body.i32()];
		else if (name === "displayWindow") display = [body.i32(), body.i32(), body.i32(), body.i32()];
		else if (name === "tiles" && version & TILED) tiling = readTiling(body);
		else if (type === "string") text[name] = new TextDecoder().decode(body.rest());
	}
	if (!found || !data) throw new ExrError("The EXR file lacks its channels or its data window.");
	const width = data[2] - data[0] + 1;
	const height = data[3] - data[1] + 1;
	if (!(width > 0 && height > 0 && width * height <= mostPixels))
		throw new ExrError(`The EXR file claims ${width} × ${height} pixels.`);
	const rows = LINES_OF[compression];
	if (!rows)
		throw new ExrError(
			`The EXR file is compressed by ${NAMES_OF[compression] ?? "a way"}, which cannot be read here; use ZIP, PIZ, PXR24, RLE or none.`,
		);
	if (version & TILED && !tiling) throw new ExrError("The EXR file is tiled, and does not say how.");
	let pixelBytes = 0;
	const list: Listed[] = found.map((c) => {
		pixelBytes += SIZE[c.type];
		return { ...c, before: pixelBytes - SIZE[c.type] };
	});
	if (list.length > 1024 || pixelBytes * width * height > 16 * mostPixels * 4)
		throw new ExrError("The EXR file claims more channels than can be read.");
	if (pixelBytes * width * height > MOST_UNPACKED * fileBytes)
		throw new ExrError(`The EXR file claims ${width} × ${height} pixels, more than its ${fileBytes} bytes can hold.`);
	const [left, top, right, low] = display ?? data;
	const whole = { x: data[0] - left, y: data[1] - top, width: right - left + 1, height: low - top + 1 };
	const isPart = whole.x !== 0 || whole.y !== 0 || whole.width !== width || whole.height !== height;
	return {
		width,
		height,
		top: data[1],
		text,
		...(isPart ? { window: whole } : {}),
		list,
		pixelBytes,
		compression,
		rows,
		tiling,
	};
}

const empty = ({ type }: Listed, size: number): Float32Array | Uint32Array =>
	type === UINT ? new Uint32Array(size) : new Float32Array(size);

/** Copies a channel of one line of a block, `line` from its top. */
function copyLine(
	{ view, width: n }: Block,
	line: number,
	{ type, before }: Listed,
	pixelBytes: number,
	to: Float32Array | Uint32Array,
	at: number,
): void {
	const from = (line * pixelBytes + before) * n;
	if (type === UINT) for (let x = 0; x < n; x++) to[at + x] = view.getUint32(from + x * 4, true);
	else if (type === FLOAT) for (let x = 0; x < n; x++) to[at + x] = view.getFloat32(from + x * 4, true);
	else for (let x = 0; x < n; x++) to[at + x] = fromHalf(view.getUint16(from + x * 2, true));
}

/** A block's bytes, unpacked. */
function unpackBlock(
	head: Head,
	body: Uint8Array,
	x: number,
	y: number,
	width: number,
	height: number,
	where: string,
): Block {
	const raw = unpack(
		body,
		{ width, height, types: head.list.map((c) => c.type), bytes: head.pixelBytes * width * height },
		where,
		head.compression,
	);
	return { x, y, width, height, view: new DataView(raw.buffer, raw.byteOffset, raw.byteLength) };
}

/** A file in scan lines of which only a few are read at a time, for it is larger than memory. */
export interface ExrLines extends Pick<ExrImage, "width" | "height" | "text" | "window"> {
	names: string[];
	/** Names of those that are kept as half floats. */
	halves: string[];
	/** Lines of a block. */
	rows: number;
	/** Where the bytes of a block begin and end in the file. */
	range(block: number): [number, number];
	/** Channels of a block by name, from its bytes; those that the file has not are left out. Throws {@link ExrError}. */
	unpack(block: number, bytes: Uint8Array, names: readonly string[]): Map<string, Float32Array | Uint32Array>;
}

/** Opens a file by its beginning, which must hold the header and the table of blocks, and its size in bytes. Throws {@link ExrError}. */
export function openExrLines(start: Uint8Array, size: number, mostPixels: number): ExrLines {
	const r = new ByteReader(start);
	const head = readHead(r, mostPixels, size);
	const { width, height, rows, list } = head;
	if (head.tiling) throw new ExrError("The EXR file is in tiles and cannot be read line by line.");
	const begins = Array.from({ length: Math.ceil(height / rows) }, () => r.u32() + r.u32() * 4294967296);
	if (begins.some((b, i) => b + 8 > (begins[i + 1] ?? size)))
		throw new ExrError("The table of lines of the EXR file is not in order.");
	return {
		width,
		height,
		text: head.text,
		...(head.window ? { window: head.window } : {}),
		names: list.map((c) => c.name),
		halves: list.filter((c) => c.type === HALF).map((c) => c.name),
		rows,
		range: (block) => [begins[block], begins[block + 1] ?? size],
		unpack(block, bytes, names) {
			const own = new ByteReader(bytes);
			const y = own.i32() - head.top;
			if (y !== block * rows)
				throw new ExrError(`A block of the EXR file claims line ${y} instead of ${block * rows}.`);
			const count = Math.min(rows, height - y);
			const b = unpackBlock(head, own.take(own.u32()), 0, y, width, count, `line ${y}`);
			return new Map(
				list
					.filter((c) => names.includes(c.name))
					.map((c) => {
						const values = empty(c, width * count);
						for (let line = 0; line < count; line++) copyLine(b, line, c, head.pixelBytes, values, line * width);
						return [c.name, values];
					}),
			);
		},
	};
}

/** Opens an EXR file: its header and where its blocks lie. Throws {@link ExrError}, also when a damaged block is unpacked. */
export function openExr(file: Uint8Array, mostPixels = 100_000_000): ExrFile {
	const r = new ByteReader(file);
	const head = readHead(r, mostPixels, file.length);
	const { width, height, text, window, list, pixelBytes, rows, tiling } = head;
	const side = tiling ?? { width, height: rows };
	const columns = Math.ceil(width / side.width);
	const lines = Math.ceil(height / side.height);
	const count = tiling ? tilesOfLevels(tiling, width, height) : lines;
	if (file.length < r.at + 8 * count)
		throw new ExrError(`The EXR file ends before its table of ${tiling ? "tiles" : "lines"}.`);
	r.take(8 * count);
	const bodies = new Map<number, Uint8Array>();
	for (let b = 0; b < count; b++) {
		const column = tiling ? r.i32() : 0;
		const y = tiling ? r.i32() : (r.i32() - head.top) / rows;
		const level = tiling ? [r.i32(), r.i32()] : [0, 0];
		const body = r.take(r.u32());
		// Smaller levels of the picture are not looked at.
		if (level[0] !== 0 || level[1] !== 0) continue;
		if (!(Number.isInteger(y) && y >= 0 && y < lines && column >= 0 && column < columns))
			throw new ExrError(
				tiling
					? `A tile of the EXR file claims place ${column}, ${y} of ${columns} × ${lines}.`
					: `A block of the EXR file claims line ${y * rows} of ${height}.`,
			);
		bodies.set(y * columns + column, body);
	}
	if (bodies.size === 0)
		throw new ExrError(`The EXR file holds nothing of its ${width} × ${height} pixels, only smaller levels of them.`);
	const block = (column: number, line: number): Block | null => {
		const body = bodies.get(line * columns + column);
		if (!body) return null;
		const [x, y] = [column * side.width, line * side.height];
		return unpackBlock(
			head,
			body,
			x,
			y,
			Math.min(side.width, width - x),
			Math.min(side.height, height - y),
			`${tiling ? `tile ${column}, ` : "line "}${tiling ? line : y}`,
		);
	};
	return {
		width,
		height,
		text,
		...(window ? { window } : {}),
		names: list.map((c) => c.name),
		planes(names) {
			const wanted = list.filter((c) => names.includes(c.name));
			const channels = wanted.map((c) => ({
				name: c.name,
				data: empty(c, width * height),
				...(c.type === HALF ? { half: true } : {}),
			}));
			for (let line = 0; line < lines; line++)
				for (let column = 0; column < columns; column++) {
					const b = block(column, line);
					for (let y = 0; b && y < b.height; y++)
						wanted.forEach((c, k) => void copyLine(b, y, c, pixelBytes, channels[k].data, (b.y + y) * width + b.x));
				}
			return channels;
		},
		line(y) {
			const line = Math.floor(y / side.height);
			const blocks = Array.from({ length: columns }, (_, column) => block(column, line));
			return new Map(
				list.map((c) => {
					const values = empty(c, width);
					for (const b of blocks) if (b) copyLine(b, y - b.y, c, pixelBytes, values, b.x);
					return [c.name, values];
				}),
			);
		},
	};
}

/** How many tiles there are in all levels. */
function tilesOfLevels({ width: w, height: h, levels, roundUp }: Tiling, width: number, height: number): number {
	const sizes = (size: number) => {
		const out = [size];
		while (levels > 0 && out[out.length - 1] > 1)
			out.push(roundUp ? Math.ceil(size / 2 ** out.length) : Math.max(1, Math.floor(size / 2 ** out.length)));
		return out;
	};
	const [across, down] = [sizes(width), sizes(height)];
	const tiles = (a: number, b: number) => Math.ceil(a / w) * Math.ceil(b / h);
	if (levels !== 1) return across.reduce((n, a) => n + down.reduce((m, b) => m + tiles(a, b), 0), 0);
	// Halved both ways until the longer side is one pixel.
	return Array.from({ length: Math.max(across.length, down.length) }, (_, i) =>
		tiles(across[i] ?? 1, down[i] ?? 1),
	).reduce((n, m) => n + m, 0);
}

function readTiling(r: ByteReader): Tiling {
	const [width, height, mode] = [r.u32(), r.u32(), r.u8()];
	if (!(width > 0 && height > 0 && width <= 65_536 && height <= 65_536))
		throw new ExrError(`The EXR file claims tiles of ${width} × ${height} pixels.`);
	if ((mode & 15) > 2) throw new ExrError("The EXR file has levels of an unknown kind.");
	return { width, height, levels: mode & 15, roundUp: mode >> 4 === 1 };
}

const LONG_NAMES = 0x400;
const TILED = 0x200;

const NO = 0;
const RLE = 1;
const PIZ = 4;
const PXR24 = 5;
/** Lines in a block by the number of the compression, and the names of those that cannot be read. */
const LINES_OF: Record<number, number | undefined> = { [NO]: 1, [RLE]: 1, 2: 1, 3: 16, [PIZ]: 32, [PXR24]: 16 };
const NAMES_OF: Record<number, string | undefined> = { 6: "B44", 7: "B44A", 8: "DWAA", 9: "DWAB" };

/** What a block unpacks to. */
interface Wanted {
	width: number;
	height: number;
	types: number[];
	bytes: number;
}

function unpack(
	body: Uint8Array,
	{ width, height, types, bytes }: Wanted,
	where: string,
	compression: number,
): Uint8Array {
	if (body.length === bytes) return body.slice();
	let out: Uint8Array;
	try {
		if (compression === PIZ)
			return unpackPiz(
				body,
				width,
				height,
				types.map((t) => SIZE[t] / 2),
			);
		if (compression === PXR24) return unpackPxr24(body, width, height, types);
		out = compression === RLE ? unrun(body, bytes) : unzlibSync(body, { out: new Uint8Array(bytes) });
	} catch (error) {
		throw new ExrError(`The EXR file is damaged at ${where}${error instanceof PizError ? `: ${error.message}` : ""}.`);
	}
	if (out.length !== bytes)
		throw new ExrError(`The EXR file is damaged at ${where}: ${out.length} bytes instead of ${bytes}.`);
	return unpredict(out);
}

/**
 * PXR24: of each line of a channel the differences from pixel to pixel, their most significant bytes first, then the next;
 * floats have lost their last eight bits.
 */
function unpackPxr24(body: Uint8Array, width: number, height: number, types: readonly number[]): Uint8Array {
	const stored = types.map((t) => (t === FLOAT ? 3 : SIZE[t]));
	const size = stored.reduce((n, v) => n + v, 0) * width * height;
	const from = unzlibSync(body, { out: new Uint8Array(size) });
	if (from.length !== size) throw new Error("too short");
	const out = new Uint8Array(types.reduce((n, t) => n + SIZE[t], 0) * width * height);
	const view = new DataView(out.buffer);
	let [at, to] = [0, 0];
	for (let y = 0; y < height; y++)
		for (const [c, type] of types.entries()) {
			let value = 0;
			for (let x = 0; x < width; x++) {
				let difference = 0;
				for (let k = 0; k < stored[c]; k++) difference = (difference << 8) | from[at + k * width + x];
				value += type === FLOAT ? difference << 8 : difference;
				if (type === HALF) view.setUint16(to, value & 0xffff, true);
				else view.setUint32(to, value >>> 0, true);
				value |= 0;
				to += SIZE[type];
			}
			at += stored[c] * width;
		}
	return out;
}

/** Runs of RLE: a count below zero copies as many bytes, others repeat one. */
function unrun(body: Uint8Array, size: number): Uint8Array {
	const out = new Uint8Array(size);
	let to = 0;
	for (let at = 0; at < body.length; ) {
		const count = (body[at++] << 24) >> 24;
		const n = count < 0 ? -count : count + 1;
		if (to + n > size) throw new Error("too long");
		if (count < 0) {
			if (at + n > body.length) throw new Error("too short");
			out.set(body.subarray(at, at + n), to);
			at += n;
		} else {
			if (at >= body.length) throw new Error("too short");
			out.fill(body[at++], to, to + n);
		}
		to += n;
	}
	return out.subarray(0, to);
}

function readChannels(r: ByteReader): { name: string; type: number }[] {
	const out: { name: string; type: number }[] = [];
	for (;;) {
		const name = r.text();
		if (name === "") return out;
		const type = r.u32();
		if (type > 2) throw new ExrError(`Channel ${name} of the EXR file has an unknown type.`);
		r.u32();
		if (r.u32() !== 1 || r.u32() !== 1)
			throw new ExrError(`Channel ${name} of the EXR file is sub-sampled, which cannot be read here.`);
		out.push({ name, type });
	}
}

class ByteReader {
	at = 0;
	private file: Uint8Array;
	private view: DataView;
	constructor(file: Uint8Array) {
		this.file = file;
		this.view = new DataView(file.buffer, file.byteOffset, file.byteLength);
	}
	private need(n: number): void {
		if (this.at + n > this.file.length) throw new ExrError(`The EXR file ends early, at byte ${this.file.length}.`);
	}
	u8(): number {
		this.need(1);
		return this.file[this.at++];
	}
	u32(): number {
		this.need(4);
		this.at += 4;
		return this.view.getUint32(this.at - 4, true);
	}
	i32(): number {
		return this.u32() | 0;
	}
	take(n: number): Uint8Array {
		this.need(n);
		this.at += n;
		return this.file.subarray(this.at - n, this.at);
	}
	rest(): Uint8Array {
		return this.take(this.file.length - this.at);
	}
	text(): string {
		const end = this.file.indexOf(0, this.at);
		if (end < 0 || end - this.at > 255) throw new ExrError("A name in the EXR file does not end.");
		const s = new TextDecoder().decode(this.file.subarray(this.at, end));
		this.at = end + 1;
		return s;
	}
}
