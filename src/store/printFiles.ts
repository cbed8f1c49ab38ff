/** Reads the EXR of a print a few lines at a time, for it may be larger than memory, and makes files for others from it. */
import { open } from "node:fs/promises";
import sharp from "sharp";
import type { Camera, Finish, LensCharacter } from "../core/doc/schema.ts";
import { type Lines as BentLine, BentLines } from "../core/finish/bentLines.ts";
import { type FinishedBy, finishPicture } from "../core/finish/finish.ts";
import { SKY_M } from "../core/finish/layers.ts";
import { type ExrChannel, type ExrLines, type ExrWindow, openExrLines } from "../core/formats/exr.ts";
import { frameOfView, rayThrough } from "../core/lens/camera.ts";
import { characterOf } from "../core/lens/character.ts";
import type { Area, Size } from "../core/maths/area.ts";
import { greyPng } from "./greyPng.ts";
import { ExrFileWriter, type Rgb } from "./printWriter.ts";

export type Plane = Float32Array | Uint32Array;
/** Bytes [from, to) of a file. */
export type BytesAt = (from: number, to: number) => Promise<Uint8Array>;

/** Lines of some channels. */
export interface Lines {
	y: number;
	rows: number;
	planes: Map<string, Plane>;
}

/** A print's file. */
export interface PrintFile {
	width: number;
	height: number;
	/** Where it lies in the whole picture, and the size of that. */
	window: ExrWindow;
	/** Pixels of the frame that it is to show; it may have more than these. */
	part: Area;
	names: string[];
	halves: string[];
	text: Record<string, string>;
	/** Channels of all lines from the top, some lines at a time. */
	lines(names: readonly string[]): AsyncGenerator<Lines>;
	/** All channels of one line. */
	line(y: number): Promise<Map<string, Plane>>;
}

const START = 1 << 20;
const MOST_PIXELS = 1_000_000_000;

/** Opens a print's file of so many bytes. Throws ExrError. */
export async function openPrintFile(bytesAt: BytesAt, size: number): Promise<PrintFile> {
	const exr: ExrLines = openExrLines(await bytesAt(0, Math.min(size, START)), size, MOST_PIXELS);
	const { width, height, rows, names, halves, text } = exr;
	// A pointer that moves over a print asks for many pixels of the same lines.
	let last: { block: number; planes: Map<string, Plane> } | null = null;
	const read = async (block: number, wanted: readonly string[]) =>
		exr.unpack(block, await bytesAt(...exr.range(block)), wanted);
	const window = exr.window ?? { x: 0, y: 0, width, height };
	return {
		width,
		height,
		window,
		part: shownPart(text.part, window, { width, height }),
		names,
		halves,
		text,
		async *lines(wanted) {
			for (let block = 0; block * rows < height; block++)
				yield { y: block * rows, rows: Math.min(rows, height - block * rows), planes: await read(block, wanted) };
		},
		async line(y) {
			const block = Math.floor(y / rows);
			if (last?.block !== block) last = { block, planes: await read(block, names) };
			const from = (y - block * rows) * width;
			return new Map([...last.planes].map(([name, plane]) => [name, plane.subarray(from, from + width) as Plane]));
		},
	};
}

/** What is shown of a file: what it says itself, or what of it lies in the frame. */
function shownPart(told: string | undefined, window: ExrWindow, { width, height }: Size): Area {
	const [x, y, w, h] = (told ?? "").split(" ").map(Number);
	if (w > 0 && h > 0) return { x, y, width: w, height: h };
	const [left, top] = [Math.max(0, window.x), Math.max(0, window.y)];
	return {
		x: left,
		y: top,
		width: Math.min(window.width, window.x + width) - left,
		height: Math.min(window.height, window.y + height) - top,
	};
}

/** Planes of some channels as the lens draws them, of what a file is to show. */
export async function* shownLines(
	file: PrintFile,
	names: readonly string[],
	lens: Pick<LensCharacter, "bend" | "fringe">,
	nearest = false,
): AsyncGenerator<BentLine> {
	const { window, part, width, height } = file;
	const from = { x: window.x, y: window.y, width, height };
	const idle = BentLines.idle(lens, from, part);
	const bent = new BentLines(lens, window, from, part, nearest);
	for await (const { y, rows, planes } of file.lines(names)) {
		const own = names.map((n) => planes.get(n) as Float32Array);
		if (idle) yield { y, rows, planes: own };
		else yield* bent.take({ rows, planes: own });
	}
}

/** A file that is in memory. */
export const openPrintBytes = (file: Uint8Array): Promise<PrintFile> =>
	openPrintFile(async (from, to) => file.subarray(from, to), file.length);

/** Works on a file on disk, which is closed afterwards. */
export async function withPrintAt<T>(path: string, work: (file: PrintFile) => Promise<T>): Promise<T> {
	const file = await open(path);
	try {
		const bytesAt = async (from: number, to: number) =>
			(await file.read(Buffer.alloc(to - from), 0, to - from, from)).buffer;
		return await work(await openPrintFile(bytesAt, (await file.stat()).size));
	} finally {
		await file.close();
	}
}

/** A frame's file and, as if it were a part of it, the picture with its neighbours taken in. */
export function withSteady(file: PrintFile, steady: PrintFile): PrintFile {
	return {
		...file,
		names: [...file.names, ...steady.names],
		halves: [...file.halves, ...steady.halves],
		async *lines(wanted) {
			// Of a file of which nothing is wanted nothing is read. Both have as many lines a block, for both were written here.
			const parts = [file, steady]
				.map((one) => ({ one, names: wanted.filter((n) => one.names.includes(n)) }))
				.filter(({ names }) => names.length > 0);
			const [first, second] = parts.map(({ one, names }) => one.lines(names));
			if (!first) return;
			for await (const lines of first) {
				const beside = await second?.next();
				yield { ...lines, planes: new Map([...lines.planes, ...(beside?.value?.planes ?? [])]) };
			}
		},
		async line(y) {
			return new Map([...(await file.line(y)), ...(await steady.line(y))]);
		},
	};
}

/**
 * Names of the channels of the picture, or of the light of one source or of the fog: as traced, or without its noise where the file has that,
 * with its neighbours taken in where the file was opened with these.
 */
export function pictureNames(file: PrintFile, clean: boolean, light?: string): string[] {
	const names = ["R", "G", "B"].map((c) => (light ? `${light}.${c}` : c));
	const cleaned = light ? ["clean"] : ["steady", "clean"];
	for (const layer of clean ? cleaned : []) {
		const those = names.map((n) => `${layer}.${n}`);
		if (those.every((n) => file.names.includes(n))) return those;
	}
	return names;
}

/** Channels that lose nothing that an eye could see as half floats. Depth, places, ids and counts stay as they are. */
const HALVES = /^(R|G|B|clean\.|light\.|fog\.|openness|N\.|albedo\.|facing)/;

/**
 * Writes a print's file for others: `half` stores light, colours and directions as half floats; `places` adds the place of
 * what each pixel shows, in world metres (P.X P.Y P.Z), and how much it faces the lens (facing, 1 straight on).
 */
export async function exrForOthers(
	path: string,
	file: PrintFile,
	camera: Camera,
	{ half, places }: { half: boolean; places: boolean },
): Promise<void> {
	const { width, height, window, names } = file;
	const added = places && ["Z", "N.X", "N.Y", "N.Z"].every((n) => names.includes(n));
	const asHalf = (name: string) => file.halves.includes(name) || (half && HALVES.test(name));
	const channelsOf = (planes: Map<string, Plane>): ExrChannel[] =>
		[...planes].map(([name, data]) => ({ name, data, half: asHalf(name) }));
	let writer: ExrFileWriter | null = null;
	try {
		for await (const { y, rows, planes } of file.lines(names)) {
			if (added) for (const [name, plane] of placesOf(planes, camera, window, y, width, rows)) planes.set(name, plane);
			const channels = channelsOf(planes);
			writer ??= await ExrFileWriter.create(path, channels, width, height, file.text, window);
			await writer.lines(channels, rows);
		}
		await writer?.end();
	} finally {
		await writer?.close();
	}
}

/** Places and facing of lines from y, from their depth and normals. */
function placesOf(
	planes: Map<string, Plane>,
	camera: Camera,
	window: ExrWindow,
	y: number,
	width: number,
	rows: number,
): [string, Float32Array][] {
	const view = frameOfView(camera);
	const [z, nx, ny, nz] = ["Z", "N.X", "N.Y", "N.Z"].map((name) => planes.get(name) as Plane);
	const place = [0, 1, 2].map(() => new Float32Array(width * rows));
	const facing = new Float32Array(width * rows);
	for (let i = 0; i < width * rows; i++) {
		if (z[i] >= SKY_M) continue;
		const d = rayThrough(
			view,
			(window.x + (i % width) + 0.5) / window.width,
			(window.y + y + Math.floor(i / width) + 0.5) / window.height,
		);
		for (let c = 0; c < 3; c++) place[c][i] = view.position[c] + d[c] * z[i];
		const l = Math.hypot(...d) * (Math.hypot(nx[i], ny[i], nz[i]) || 1);
		facing[i] = Math.max(0, -(nx[i] * d[0] + ny[i] * d[1] + nz[i] * d[2]) / l);
	}
	return [...place.map((data, c): [string, Float32Array] => [`P.${"XYZ"[c]}`, data]), ["facing", facing]];
}

/** Depth as grey of 16 bits, bent as the picture is: white at `nearM`, black at `farM` and beyond, even steps of metres between. */
export async function depthPng(file: PrintFile, nearM: number, farM: number, finish: Finish): Promise<Buffer | null> {
	if (!file.names.includes("Z")) return null;
	const { width, height } = file.part;
	const shares = new Float64Array(width * height);
	for await (const { y, planes } of shownLines(file, ["Z"], characterOf(finish), true)) {
		const [z] = planes;
		for (let i = 0; i < z.length; i++) shares[y * width + i] = (farM - z[i]) / (farM - nearM);
	}
	return greyPng(shares, width, height);
}

/** A print with a finish: eight bits, RGB, rows from the top. */
export async function finishedPixels(
	file: PrintFile,
	clean: boolean,
	camera: FinishedBy,
	finish: Finish,
): Promise<Buffer> {
	const { window, part } = file;
	const { width, height } = part;
	const out = Buffer.alloc(width * height * 3);
	for await (const { y, rows, planes } of shownLines(file, pictureNames(file, clean), characterOf(finish))) {
		const whole = { x: part.x, y: part.y + y, width: window.width, height: window.height };
		const rgba = finishPicture(planes as unknown as Rgb, width, rows, camera, finish, whole);
		for (let i = 0, to = y * width * 3; i < rgba.length; i += 4, to += 3) {
			out[to] = rgba[i];
			out[to + 1] = rgba[i + 1];
			out[to + 2] = rgba[i + 2];
		}
	}
	return out;
}

/** PNG of a print with a finish, as large as it is or `widthPx` wide. */
export async function printPng(
	file: PrintFile,
	clean: boolean,
	camera: FinishedBy,
	finish: Finish,
	widthPx?: number,
): Promise<Buffer> {
	const { width, height } = file.part;
	const out = await finishedPixels(file, clean, camera, finish);
	let image = sharp(out, { raw: { width, height, channels: 3 }, limitInputPixels: false });
	if (widthPx && widthPx < width) image = image.resize(widthPx);
	return image.png({ compressionLevel: 7 }).toBuffer();
}
