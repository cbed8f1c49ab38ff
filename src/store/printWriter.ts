/** Writes a finished picture strip by strip: its EXR into a file, the digest of its pixels, and a small picture of it. */
import { createHash, type Hash } from "node:crypto";
import { type FileHandle, open } from "node:fs/promises";
import { deflateSync } from "node:zlib";
import sharp from "sharp";
import type { Finish } from "../core/doc/schema.ts";
import { BentLines } from "../core/finish/bentLines.ts";
import { type FinishedBy, finishPicture } from "../core/finish/finish.ts";
import type { ExrChannel, ExrWindow } from "../core/formats/exr.ts";
import { BLOCK_ROWS, blocksOf, exrBlock, exrHead, exrTable } from "../core/formats/exrWrite.ts";
import { characterOf } from "../core/lens/character.ts";
import type { Area, Size } from "../core/maths/area.ts";
import { emptyPicture, namedPlanes, type Picture } from "../core/scene/picture.ts";

export type Rgb = [Float32Array, Float32Array, Float32Array];

/** Light without its noise: the picture, and its layers in their order, fog as the last. */
export interface CleanLight {
	rgb: Rgb;
	layers: Rgb[];
}

/** How hard files are packed, 1 to 9: a print is not to be waited for. */
const USUAL_LEVEL = 4;

/**
 * Channels of a print: what was traced, the same without its noise as the layer `clean` (layers of light as `clean.light.` with their name, and `clean.fog`), the variance of a pixel's
 * luminance, the samples it has taken, and masks: the pieces that lie in a pixel with the share of each. A lean one has
 * the picture and the clean one as half floats, depth and numbers.
 */
export function printChannels(picture: Picture, { rgb, layers }: CleanLight, lean = false): ExrChannel[] {
	const colours = (name: string, planes: Rgb) =>
		["R", "G", "B"].map((c, i) => ({ name: `${name}.${c}`, data: planes[i], half: lean }));
	const names = picture.light ? [...picture.light.lights.map(({ name }) => `light.${name}`), "fog"] : [];
	const cleaned = [
		...colours("clean", rgb),
		...(lean ? [] : layers.flatMap((layer, k) => colours(`clean.${names[k]}`, layer))),
	];
	if (lean)
		return [
			...["R", "G", "B"].map((name, i) => ({ name, data: picture.rgb[i], half: true })),
			...cleaned,
			{ name: "Z", data: picture.depth },
			{ name: "id", data: picture.id },
		];
	return [
		...namedPlanes(picture),
		...cleaned,
		{ name: "variance.Y", data: picture.error.map((e) => e * e) },
		{ name: "samples", data: picture.counts },
		...picture.masks.flatMap(({ id, cover }, i) => [
			{ name: `mask${i}.id`, data: id },
			{ name: `mask${i}.cover`, data: cover, half: true },
		]),
	];
}

/** An EXR that is written block by block: its head, room for its table, then blocks; the table last. */
export class ExrFileWriter {
	private lengths: number[] = [];
	private file: FileHandle;
	private head: Uint8Array;
	private size: { width: number; height: number; top: number };
	private level: number;

	private constructor(
		file: FileHandle,
		head: Uint8Array,
		size: { width: number; height: number; top: number },
		level: number,
	) {
		this.file = file;
		this.head = head;
		this.size = size;
		this.level = level;
	}

	/** Of the channels only names and types are looked at. */
	static async create(
		path: string,
		channels: ExrChannel[],
		width: number,
		height: number,
		text: Record<string, string>,
		window?: ExrWindow,
		level = USUAL_LEVEL,
	): Promise<ExrFileWriter> {
		const head = exrHead({ width, height, channels, text, window });
		const file = await open(path, "w");
		await file.write(head);
		await file.write(new Uint8Array(8 * blocksOf(height)));
		return new ExrFileWriter(file, head, { width, height, top: window?.y ?? 0 }, level);
	}

	/** Writes lines that follow those before; their number is a multiple of a block's, but for the last ones. */
	async lines(channels: ExrChannel[], rows: number): Promise<void> {
		const { width, top } = this.size;
		const pack = (raw: Uint8Array): Uint8Array => deflateSync(raw, { level: this.level, memLevel: 9 });
		for (let from = 0; from < rows; from += BLOCK_ROWS) {
			const y = top + this.lengths.length * BLOCK_ROWS;
			const block = exrBlock(channels, width, from, Math.min(BLOCK_ROWS, rows - from), y, pack);
			this.lengths.push(block.length);
			await this.file.write(block);
		}
	}

	async end(): Promise<void> {
		const { length } = this.head;
		await this.file.write(exrTable(length + 8 * this.lengths.length, this.lengths), 0, undefined, length);
		await this.file.close();
	}

	async close(): Promise<void> {
		await this.file.close().catch(() => {});
	}
}

/** Digest of a picture's pixels that come in strips. */
class PixelDigest {
	private planes = new Map<string, Hash>();

	take(picture: Picture): void {
		for (const { name, data } of namedPlanes(picture)) {
			let hash = this.planes.get(name);
			if (!hash) {
				hash = createHash("sha256");
				this.planes.set(name, hash);
			}
			hash.update(new Uint8Array(data.buffer as ArrayBuffer, data.byteOffset, data.byteLength));
		}
	}

	end(): string {
		const all = createHash("sha256");
		for (const name of [...this.planes.keys()].sort()) all.update(this.planes.get(name)?.digest() as Buffer);
		return all.digest("hex");
	}
}

/** SHA-256 over the SHA-256 of each plane of a picture in the order of their names: float32 or uint32, little-endian, top row first. */
export function pixelsSha256(picture: Picture): string {
	const digest = new PixelDigest();
	digest.take(picture);
	return digest.end();
}

/** Eight bits of what has been finished, rows from the top, made smaller by a whole number as they come. */
class SmallPicture {
	readonly width: number;
	readonly height: number;
	private step: number;
	private sums: Float32Array;
	private from: { width: number; height: number };

	constructor(width: number, height: number, mostWidth: number) {
		this.from = { width, height };
		this.step = Math.max(1, Math.floor(width / mostWidth));
		this.width = Math.ceil(width / this.step);
		this.height = Math.ceil(height / this.step);
		this.sums = new Float32Array(this.width * this.height * 3);
	}

	take(rgba: Uint8ClampedArray, y: number): void {
		const { width, height } = this.from;
		const { step } = this;
		const rows = rgba.length / (4 * width);
		for (let j = 0; j < rows; j++) {
			const to = Math.floor((y + j) / step);
			const high = Math.min(step, height - to * step);
			for (let x = 0; x < width; x++) {
				const column = Math.floor(x / step);
				const k = 1 / (high * Math.min(step, width - column * step));
				const at = (to * this.width + column) * 3;
				const i = (j * width + x) * 4;
				for (let c = 0; c < 3; c++) this.sums[at + c] += rgba[i + c] * k;
			}
		}
	}

	png(widthPx: number): Promise<Buffer> {
		let image = sharp(Buffer.from(Uint8Array.from(this.sums, Math.round)), {
			raw: { width: this.width, height: this.height, channels: 3 },
		});
		if (widthPx < this.width) image = image.resize(widthPx);
		return image.png({ compressionLevel: 7 }).toBuffer();
	}
}

const THUMBNAIL_PX = 640;

export interface PrintPlan {
	/** Size of the frame. */
	frame: Size;
	/** Pixels of it that are traced, and those that are shown of it; all of the frame when null or nothing. */
	area: Area;
	part?: Area | null;
	text: Record<string, string>;
	/** Names of its layers of light. */
	lights: string[];
	camera: FinishedBy;
	finish: Finish;
	/** With few channels. */
	lean?: boolean;
	/** How hard it is packed, 1 to 9. */
	level?: number;
}

/** Takes strips of a print from the top. */
export class PrintWriter {
	private plan: PrintPlan;
	private exr: ExrFileWriter;
	private digest = new PixelDigest();
	private small: SmallPicture;
	private part: Area;
	private bent: BentLines;

	private constructor(plan: PrintPlan, exr: ExrFileWriter) {
		this.plan = plan;
		this.exr = exr;
		const { frame, area, finish, part } = plan;
		this.part = part ?? { x: 0, y: 0, ...frame };
		this.bent = new BentLines(characterOf(finish), frame, area, this.part);
		this.small = new SmallPicture(this.part.width, this.part.height, 2 * THUMBNAIL_PX);
	}

	static async create(path: string, plan: PrintPlan): Promise<PrintWriter> {
		const none = emptyPicture(0, 0, plan.lights);
		const { area, frame, part, text } = plan;
		const exr = await ExrFileWriter.create(
			path,
			printChannels(
				none,
				{ rgb: none.rgb, layers: plan.lights.length > 0 ? [...plan.lights, "fog"].map(() => none.rgb) : [] },
				plan.lean,
			),
			area.width,
			area.height,
			{ ...text, ...(part ? { part: [part.x, part.y, part.width, part.height].join(" ") } : {}) },
			{ x: area.x, y: area.y, ...frame },
			plan.level,
		);
		return new PrintWriter(plan, exr);
	}

	async strip(y: number, picture: Picture, clean: CleanLight): Promise<void> {
		const { camera, finish, frame, area, lean } = this.plan;
		const { part } = this;
		this.digest.take(picture);
		const light = BentLines.idle(characterOf(finish), area, part)
			? [{ y, rows: picture.height, planes: clean.rgb }]
			: this.bent.take({ rows: picture.height, planes: clean.rgb });
		for (const { y: at, rows, planes } of light) {
			const whole = { ...frame, x: part.x, y: part.y + at };
			this.small.take(finishPicture(planes as Rgb, part.width, rows, camera, finish, whole), at);
		}
		await this.exr.lines(printChannels(picture, clean, lean), picture.height);
	}

	/** Ends the file; the digest of the pixels and a small PNG. */
	async end(): Promise<{ pixelsSha256: string; thumbnail: Buffer }> {
		await this.exr.end();
		return { pixelsSha256: this.digest.end(), thumbnail: await this.small.png(THUMBNAIL_PX) };
	}

	/** Lets go of the file when it will not be ended. */
	close(): Promise<void> {
		return this.exr.close();
	}
}
