/**
 * PIZ compression of OpenEXR: values are renumbered by a table of those that occur, taken through a wavelet transform of
 * sums and differences, and Huffman coded ("OpenEXR: technical introduction" and the reference code of the standard,
 * Academy Software Foundation). Reading only. All lengths are checked: a damaged block ends in an error.
 */

/** A block that does not hold what it says. */
export class PizError extends Error {}

const SYMBOLS = 65_537;
const LONGEST = 58;
const SHORT_RUN = 59;
const LONG_RUN = 63;

class Bits {
	private hold = 0n;
	private held = 0;
	private at: number;
	private bytes: Uint8Array;
	private end: number;
	constructor(bytes: Uint8Array, at: number, end: number) {
		this.bytes = bytes;
		this.at = at;
		this.end = end;
	}
	take(count: number): number {
		while (this.held < count) {
			if (this.at >= this.end) throw new PizError("its code table ends early");
			this.hold = (this.hold << 8n) | BigInt(this.bytes[this.at++]);
			this.held += 8;
		}
		this.held -= count;
		const value = Number(this.hold >> BigInt(this.held));
		this.hold &= (1n << BigInt(this.held)) - 1n;
		return value;
	}
	/** Where the next whole byte lies. */
	get place(): number {
		return this.at;
	}
}

/** Lengths of the codes of symbols first … last. */
function readLengths(bits: Bits, first: number, last: number): Uint8Array {
	const lengths = new Uint8Array(SYMBOLS);
	for (let i = first; i <= last; ) {
		const length = bits.take(6);
		if (length < SHORT_RUN) {
			if (length > LONGEST) throw new PizError("its code table is damaged");
			lengths[i++] = length;
			continue;
		}
		const zeros = length === LONG_RUN ? bits.take(8) + 6 : length - SHORT_RUN + 2;
		if (i + zeros > last + 1) throw new PizError("its code table is damaged");
		i += zeros;
	}
	return lengths;
}

interface Codes {
	/** First code of each length, counted from the longest as the standard does, and the symbols in order of code. */
	first: bigint[];
	count: number[];
	start: number[];
	symbols: Int32Array;
}

function canonical(lengths: Uint8Array): Codes {
	const count = new Array<number>(LONGEST + 1).fill(0);
	for (const l of lengths) if (l > 0) count[l]++;
	const first = new Array<bigint>(LONGEST + 1).fill(0n);
	let code = 0n;
	for (let l = LONGEST; l > 0; l--) {
		first[l] = code;
		code = (code + BigInt(count[l])) >> 1n;
	}
	const start = new Array<number>(LONGEST + 2).fill(0);
	for (let l = 1; l <= LONGEST; l++) start[l + 1] = start[l] + count[l];
	const symbols = new Int32Array(start[LONGEST + 1]);
	const next = start.slice();
	for (let s = 0; s < lengths.length; s++) if (lengths[s] > 0) symbols[next[lengths[s]]++] = s;
	return { first, count, start, symbols };
}

/** Codes of at most this many bits are looked up at once. */
const QUICK = 14;

/** Decodes `bitCount` bits into exactly `out.length` values; the symbol `run` repeats the value before. */
function decode(bytes: Uint8Array, begin: number, bitCount: number, codes: Codes, run: number, out: Uint16Array): void {
	const quick = new Int32Array(1 << QUICK).fill(-1);
	const quickLength = new Uint8Array(1 << QUICK);
	for (let l = 1; l <= QUICK; l++) {
		for (let k = 0; k < codes.count[l]; k++) {
			const code = Number(codes.first[l]) + k;
			if (code >= 1 << l) throw new PizError("its code table is damaged");
			const from = code << (QUICK - l);
			quick.fill(codes.symbols[codes.start[l] + k], from, from + (1 << (QUICK - l)));
			quickLength.fill(l, from, from + (1 << (QUICK - l)));
		}
	}
	let at = 0;
	let bit = 0;
	const peek = (from: number, n: number): number => {
		let v = 0;
		for (let i = 0; i < n; ) {
			const place = from + i;
			const inByte = place & 7;
			const part = Math.min(8 - inByte, n - i);
			const byte = place < bitCount ? bytes[begin + (place >> 3)] : 0;
			v = v * 2 ** part + ((byte >> (8 - inByte - part)) & ((1 << part) - 1));
			i += part;
		}
		return v;
	};
	while (bit < bitCount) {
		const head = peek(bit, QUICK);
		let symbol = quick[head];
		let length = quickLength[head];
		for (length = symbol < 0 ? QUICK + 1 : length; symbol < 0; length++) {
			if (length > LONGEST || bit + length > bitCount) throw new PizError("its codes are damaged");
			if (codes.count[length] === 0) continue;
			const k =
				BigInt(peek(bit, Math.min(length, 32))) * (length > 32 ? 2n ** BigInt(length - 32) : 1n) +
				(length > 32 ? BigInt(peek(bit + 32, length - 32)) : 0n) -
				codes.first[length];
			if (k >= 0n && k < BigInt(codes.count[length])) {
				symbol = codes.symbols[codes.start[length] + Number(k)];
				break;
			}
		}
		bit += length;
		if (bit > bitCount) throw new PizError("its codes end early");
		if (symbol === run) {
			const times = peek(bit, 8);
			bit += 8;
			if (bit > bitCount || at === 0 || at + times > out.length) throw new PizError("its codes are damaged");
			out.fill(out[at - 1], at, at + times);
			at += times;
		} else {
			if (at >= out.length) throw new PizError("it holds more values than it should");
			out[at++] = symbol;
		}
	}
	if (at !== out.length) throw new PizError("it holds fewer values than it should");
}

function huffman(bytes: Uint8Array, out: Uint16Array): void {
	if (bytes.length < 20) throw new PizError("it ends early");
	const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
	const first = view.getUint32(0, true);
	const last = view.getUint32(4, true);
	const bitCount = view.getUint32(12, true);
	if (first >= SYMBOLS || last >= SYMBOLS || first > last) throw new PizError("its code table is damaged");
	const bits = new Bits(bytes, 20, bytes.length);
	const codes = canonical(readLengths(bits, first, last));
	if (bitCount > (bytes.length - bits.place) * 8) throw new PizError("it ends early");
	decode(bytes, bits.place, bitCount, codes, last, out);
}

/** Sum and difference back to two values; 14 bits as they are, 16 bits modulo their range. */
function part14(l: number, h: number, to: [number, number]): void {
	const ls = (l << 16) >> 16;
	const hs = (h << 16) >> 16;
	const a = ls + (hs & 1) + (hs >> 1);
	to[0] = a & 0xffff;
	to[1] = (a - hs) & 0xffff;
}

function part16(l: number, h: number, to: [number, number]): void {
	const b = (l - (h >> 1)) & 0xffff;
	to[1] = b;
	to[0] = (h + b - 0x8000) & 0xffff;
}

/** Takes back the wavelet transform of nx × ny values that lie `ox` and `oy` apart. */
function unwave(data: Uint16Array, begin: number, nx: number, ox: number, ny: number, oy: number, most: number): void {
	const part = most < 1 << 14 ? part14 : part16;
	const pair: [number, number] = [0, 0];
	let p = 1;
	while (p <= Math.min(nx, ny)) p <<= 1;
	p >>= 1;
	let p2 = p;
	p >>= 1;
	while (p >= 1) {
		const [ox1, oy1] = [ox * p, oy * p];
		let y = 0;
		for (; y + p2 <= ny; y += p2) {
			let x = 0;
			const row = begin + y * oy;
			for (; x + p2 <= nx; x += p2) {
				const a = row + x * ox;
				const [b, c] = [a + ox1, a + oy1];
				const d = c + ox1;
				part(data[a], data[c], pair);
				const [l0, l1] = pair;
				part(data[b], data[d], pair);
				const [h0, h1] = pair;
				part(l0, h0, pair);
				[data[a], data[b]] = pair;
				part(l1, h1, pair);
				[data[c], data[d]] = pair;
			}
			if (nx & p) {
				const a = row + x * ox;
				part(data[a], data[a + oy1], pair);
				[data[a], data[a + oy1]] = pair;
			}
		}
		if (ny & p) {
			const row = begin + y * oy;
			for (let x = 0; x + p2 <= nx; x += p2) {
				const a = row + x * ox;
				part(data[a], data[a + ox1], pair);
				[data[a], data[a + ox1]] = pair;
			}
		}
		p2 = p;
		p >>= 1;
	}
}

/**
 * Unpacks a block: `lines` lines of `width` pixels, channels of `halves` 16-bit words a pixel each. Returns the bytes line
 * by line, channel by channel, as blocks without compression have them. Throws {@link PizError}.
 */
export function unpackPiz(body: Uint8Array, width: number, lines: number, halves: readonly number[]): Uint8Array {
	if (body.length < 4) throw new PizError("it ends early");
	const view = new DataView(body.buffer, body.byteOffset, body.byteLength);
	const low = view.getUint16(0, true);
	const high = view.getUint16(2, true);
	let at = 4;
	const occurs = new Uint8Array(8192);
	if (low <= high) {
		if (high >= 8192 || at + high - low + 1 > body.length) throw new PizError("its table is damaged");
		occurs.set(body.subarray(at, at + high - low + 1), low);
		at += high - low + 1;
	}
	const values = new Uint16Array(65_536);
	let count = 0;
	for (let v = 0; v < 65_536; v++) if (v === 0 || occurs[v >> 3] & (1 << (v & 7))) values[count++] = v;
	if (at + 4 > body.length) throw new PizError("it ends early");
	const length = view.getInt32(at, true);
	at += 4;
	if (length < 0 || at + length > body.length) throw new PizError("it ends early");
	const data = new Uint16Array(halves.reduce((n, h) => n + h, 0) * width * lines);
	huffman(body.subarray(at, at + length), data);
	let begin = 0;
	for (const h of halves) {
		for (let k = 0; k < h; k++) unwave(data, begin + k, width, h, lines, width * h, count - 1);
		begin += width * lines * h;
	}
	const out = new Uint16Array(data.length);
	let to = 0;
	for (let y = 0; y < lines; y++) {
		let from = 0;
		for (const h of halves) {
			const row = from + y * width * h;
			for (let i = 0; i < width * h; i++) out[to++] = values[data[row + i]];
			from += width * lines * h;
		}
	}
	return new Uint8Array(out.buffer);
}
