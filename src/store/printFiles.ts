/** A finished picture as files: EXR with named channels, PNG with a finish, and the digest of its pixels. */
import { createHash } from "node:crypto";
import sharp from "sharp";
import type { Finish } from "../core/doc/schema.ts";
import { finishPicture } from "../core/finish/finish.ts";
import { readExr, writeExr } from "../core/formats/exr.ts";
import { namedPlanes, type Picture } from "../core/scene/picture.ts";

/** SHA-256 over the planes of a picture: float32 or uint32, little-endian, top row first, channels by name. */
export function pixelsSha256(picture: Picture): string {
	const hash = createHash("sha256");
	for (const plane of namedPlanes(picture)) hash.update(new Uint8Array(plane.data.buffer as ArrayBuffer, plane.data.byteOffset, plane.data.byteLength));
	return hash.digest("hex");
}

export type Rgb = [Float32Array, Float32Array, Float32Array];

/** EXR of a picture: what was traced, the same without its noise as the layer `clean`, the variance of a
 * pixel's luminance and the samples it has taken. */
export function exrFile(picture: Picture, clean: Rgb, text: Record<string, string>): Uint8Array {
	const channels = [
		...namedPlanes(picture),
		...["R", "G", "B"].map((c, i) => ({ name: `clean.${c}`, data: clean[i] })),
		{ name: "variance.Y", data: picture.error.map((e) => e * e) },
		{ name: "samples", data: picture.counts },
	].sort((a, b) => (a.name < b.name ? -1 : 1));
	return writeExr({ width: picture.width, height: picture.height, channels, text });
}

/** A print's file, read: its planes by name. */
export interface PrintFile {
	width: number;
	height: number;
	rgb: Rgb;
	/** The picture without its noise; files of before do not have it. */
	clean: Rgb | null;
	plane: (name: string) => Float32Array | Uint32Array | undefined;
}

export function readPrintFile(file: Uint8Array): PrintFile {
	const exr = readExr(file, 300_000_000);
	const any = (name: string) => exr.channels.find((c) => c.name === name)?.data;
	const plane = (name: string) => any(name) as Float32Array;
	return {
		width: exr.width,
		height: exr.height,
		rgb: [plane("R"), plane("G"), plane("B")],
		clean: plane("clean.R") ? [plane("clean.R"), plane("clean.G"), plane("clean.B")] : null,
		plane: any,
	};
}

/** PNG of linear planes with a finish, as large as they are or `widthPx` wide. */
export async function pngFile(rgb: Rgb, width: number, height: number, ev100: number, finish: Finish, widthPx?: number): Promise<Buffer> {
	const pixels = finishPicture(rgb, width, height, ev100, finish);
	let image = sharp(Buffer.from(pixels.buffer as ArrayBuffer), { raw: { width, height, channels: 4 } }).removeAlpha();
	if (widthPx && widthPx < width) image = image.resize(widthPx);
	return image.png({ compressionLevel: 7 }).toBuffer();
}
