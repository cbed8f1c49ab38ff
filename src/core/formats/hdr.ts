/**
 * Radiance pictures (.hdr): a text header, then lines of RGBE, each pixel three mantissas of 8 bits and a shared exponent
 * (G. Ward, "Real Pixels", Graphics Gems II, 1991; the layout of the Radiance reference manual). Reads flat lines and
 * both run-length codings, all eight orders of lines; writes the newer coding. The reader treats a file as hostile: sizes
 * are checked before anything is reserved.
 */
import { PictureFileError } from "./exr.ts";

export interface HdrImage {
	width: number;
	height: number;
	/** RGB, rows from the top, in the file's own unit. */
	rgb: Float32Array;
}

/** A file that is not a Radiance picture that can be read: what is wrong and where. */
export class HdrError extends PictureFileError {
	override readonly code = "bad-hdr";
}

const LONGEST_LINE = 1024;
const MOST_HEADER_LINES = 2000;

/** Whether bytes begin like a Radiance picture. */
export const isHdr = (file: Uint8Array): boolean => file[0] === 0x23 && file[1] === 0x3f;

/** Reads a Radiance picture. Throws {@link HdrError}. `mostPixels` bounds what is reserved. */
export function readHdr(file: Uint8Array, mostPixels = 140_000_000): HdrImage {
	if (!isHdr(file)) throw new HdrError("This is not an HDR picture: its first two bytes are others.");
	let at = 0;
	const line = (): string => {
		const end = file.indexOf(10, at);
		if (end < 0 || end - at > LONGEST_LINE)
			throw new HdrError(`The header of the HDR picture does not end (byte ${at}).`);
		const text = new TextDecoder("latin1").decode(file.subarray(at, end)).replace(/\r$/, "");
		at = end + 1;
		return text;
	};
	let exposure = 1;
	line();
	for (let n = 0; ; n++) {
		const text = line();
		if (text === "") break;
		if (n > MOST_HEADER_LINES) throw new HdrError("The header of the HDR picture does not end.");
		if (text.startsWith("FORMAT=") && text.slice(7).trim() !== "32-bit_rle_rgbe")
			throw new HdrError(`The HDR picture is kept as ${text.slice(7, 40)}; only 32-bit_rle_rgbe can be read.`);
		// Each line multiplies: what was done to the pixels is taken back.
		if (text.startsWith("EXPOSURE=")) exposure *= Number(text.slice(9));
	}
	if (!(exposure > 1e-20 && exposure < 1e20))
		throw new HdrError("The EXPOSURE line of the HDR picture is not a number that can be used.");
	const size = /^([+-])([XY]) +(\d{1,9}) +([+-])([XY]) +(\d{1,9}) *$/.exec(line());
	if (!size || size[2] === size[5]) throw new HdrError("The HDR picture does not say its size.");
	const lines = Number(size[3]);
	const across = Number(size[6]);
	if (!(lines > 0 && across > 0 && lines * across <= mostPixels))
		throw new HdrError(`The HDR picture claims ${across} × ${lines} pixels.`);
	// The shortest coding of a line is one run of four bytes for at most 127 × 256³ pixels; a hundredth of a byte a pixel is far below any real file.
	if ((file.length - at) * 200 < lines * across)
		throw new HdrError(`The HDR picture claims ${across} × ${lines} pixels and ends after ${file.length} bytes.`);
	const upright = size[2] === "Y";
	const width = upright ? across : lines;
	const height = upright ? lines : across;
	const rgb = new Float32Array(width * height * 3);
	const pixels = new Uint8Array(across * 4);
	for (let j = 0; j < lines; j++) {
		at = readLine(file, at, pixels, across, j);
		// Lines that run "-Y" go from the top down, "+X" from left to right.
		const main = (size[1] === "-") === upright ? j : lines - 1 - j;
		for (let i = 0; i < across; i++) {
			const side = (size[4] === "+") === upright ? i : across - 1 - i;
			const e = pixels[i * 4 + 3];
			const k = e === 0 ? 0 : 2 ** (e - 136) / exposure;
			const to = (upright ? main * width + side : side * width + main) * 3;
			for (let c = 0; c < 3; c++) rgb[to + c] = (pixels[i * 4 + c] + 0.5) * k;
		}
	}
	return { width, height, rgb };
}

/** Reads one line of pixels; returns where the next begins. */
function readLine(file: Uint8Array, start: number, pixels: Uint8Array, across: number, j: number): number {
	let at = start;
	const short = () => new HdrError(`The HDR picture ends early, in line ${j}.`);
	if (across >= 8 && across < 32768 && file[at] === 2 && file[at + 1] === 2 && file[at + 2] < 128) {
		if (((file[at + 2] << 8) | file[at + 3]) !== across)
			throw new HdrError(`Line ${j} of the HDR picture has another length.`);
		at += 4;
		for (let c = 0; c < 4; c++) {
			for (let i = 0; i < across; ) {
				if (at + 1 >= file.length) throw short();
				const code = file[at++];
				const run = code > 128;
				const n = run ? code - 128 : code;
				if (n === 0 || i + n > across) throw new HdrError(`Line ${j} of the HDR picture is damaged.`);
				if (!run && at + n > file.length) throw short();
				for (let k = 0; k < n; k++) pixels[(i + k) * 4 + c] = run ? file[at] : file[at + k];
				at += run ? 1 : n;
				i += n;
			}
		}
		return at;
	}
	// Flat pixels; three ones in a row repeat the pixel before (the older coding).
	let shift = 0;
	for (let i = 0; i < across; ) {
		if (at + 4 > file.length) throw short();
		if (file[at] === 1 && file[at + 1] === 1 && file[at + 2] === 1) {
			const n = file[at + 3] * 2 ** shift;
			if (i === 0 || n > across - i) throw new HdrError(`Line ${j} of the HDR picture is damaged.`);
			for (let k = 0; k < n; k++, i++) pixels.copyWithin(i * 4, i * 4 - 4, i * 4);
			shift += 8;
			if (shift > 16) throw new HdrError(`Line ${j} of the HDR picture is damaged.`);
		} else {
			pixels.set(file.subarray(at, at + 4), i * 4);
			i++;
			shift = 0;
		}
		at += 4;
	}
	return at;
}

/** Bytes of a Radiance picture. Values below zero are written as zero. */
export function writeHdr({ width, height, rgb }: HdrImage): Uint8Array {
	const head = new TextEncoder().encode(`#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y ${height} +X ${width}\n`);
	const coded = width >= 8 && width < 32768;
	const out = new Uint8Array(head.length + height * (coded ? 4 + 4 * (width + Math.ceil(width / 127)) : 4 * width));
	out.set(head);
	let at = head.length;
	const pixels = new Uint8Array(width * 4);
	for (let y = 0; y < height; y++) {
		for (let x = 0; x < width; x++) pixels.set(toRgbe(rgb, (y * width + x) * 3), x * 4);
		if (!coded) {
			out.set(pixels, at);
			at += pixels.length;
			continue;
		}
		out.set([2, 2, width >> 8, width & 255], at);
		at += 4;
		for (let c = 0; c < 4; c++) at = writeRuns(pixels, c, width, out, at);
	}
	return out.slice(0, at);
}

const LEAST_RUN = 4;

function writeRuns(pixels: Uint8Array, c: number, width: number, out: Uint8Array, start: number): number {
	let at = start;
	const runAt = (i: number): number => {
		let n = 1;
		while (i + n < width && n < 127 && pixels[(i + n) * 4 + c] === pixels[i * 4 + c]) n++;
		return n;
	};
	for (let i = 0; i < width; ) {
		const n = runAt(i);
		if (n >= LEAST_RUN) {
			out[at++] = 128 + n;
			out[at++] = pixels[i * 4 + c];
			i += n;
			continue;
		}
		let end = i + 1;
		while (end < width && end - i < 127 && runAt(end) < LEAST_RUN) end++;
		out[at++] = end - i;
		for (; i < end; i++) out[at++] = pixels[i * 4 + c];
	}
	return at;
}

function toRgbe(rgb: Float32Array, at: number): [number, number, number, number] {
	const most = Math.max(rgb[at], rgb[at + 1], rgb[at + 2]);
	if (!(most > 1e-32)) return [0, 0, 0, 0];
	const e = Math.min(127, Math.floor(Math.log2(most)) + 1);
	const k = 2 ** (8 - e);
	const m = (v: number) => Math.min(255, Math.max(0, Math.floor(v * k)));
	return [m(rgb[at]), m(rgb[at + 1]), m(rgb[at + 2]), e + 128];
}
