/** A finished picture as files: EXR with named channels, PNG with a finish, and the digest of its pixels. */
import { createHash } from "node:crypto";
import sharp from "sharp";
import type { Camera, Finish } from "../core/doc/schema.ts";
import { finishPicture } from "../core/finish/finish.ts";
import { SKY_M } from "../core/finish/layers.ts";
import { type ExrChannel, type ExrFile, type ExrWindow, openExr, writeExr } from "../core/formats/exr.ts";
import { frameOfView, rayThrough } from "../core/lens/camera.ts";
import { namedPlanes, type Picture } from "../core/scene/picture.ts";

/** SHA-256 over the planes of a picture: float32 or uint32, little-endian, top row first, channels by name. */
export function pixelsSha256(picture: Picture): string {
	const hash = createHash("sha256");
	for (const plane of namedPlanes(picture)) hash.update(new Uint8Array(plane.data.buffer as ArrayBuffer, plane.data.byteOffset, plane.data.byteLength));
	return hash.digest("hex");
}

export type Rgb = [Float32Array, Float32Array, Float32Array];

/** EXR of a picture: what was traced, the same without its noise as the layer `clean`, the variance of a
 * pixel's luminance, the samples it has taken, and masks: the pieces that lie in a pixel with the share of each. `window` says where it lies
 * when it is a part. */
export function exrFile(picture: Picture, clean: Rgb, text: Record<string, string>, window?: ExrWindow): Uint8Array {
	const channels = [
		...namedPlanes(picture),
		...["R", "G", "B"].map((c, i) => ({ name: `clean.${c}`, data: clean[i] })),
		{ name: "variance.Y", data: picture.error.map((e) => e * e) },
		{ name: "samples", data: picture.counts },
		...picture.masks.flatMap(({ id, cover }, i) => [
			{ name: `mask${i}.id`, data: id },
			{ name: `mask${i}.cover`, data: cover, half: true },
		]),
	].sort((a, b) => (a.name < b.name ? -1 : 1));
	return writeExr({ width: picture.width, height: picture.height, channels, text, window });
}

/** A print's file. Its planes are unpacked when they are asked for, for a large print has gigabytes of them. */
export interface PrintFile {
	exr: ExrFile;
	width: number;
	height: number;
	/** Where it lies in the whole picture, and the size of that. */
	window: ExrWindow;
	rgb: () => Rgb;
	/** The picture without its noise; files of before do not have it. */
	clean: () => Rgb | null;
	plane: (name: string) => Float32Array | Uint32Array | undefined;
}

/** Groups of planes (a colour, a direction) that stay unpacked. */
const MOST_GROUPS = 4;
const groupOf = (name: string): string => (/^[RGB]$/.test(name) ? "RGB" : name.includes(".") ? name.slice(0, name.lastIndexOf(".")) : name);

export function readPrintFile(file: Uint8Array): PrintFile {
	const exr = openExr(file, 300_000_000);
	const held = new Map<string, ExrChannel[]>();
	const plane = (name: string) => {
		const group = groupOf(name);
		const channels = held.get(group) ?? exr.planes(exr.names.filter((n) => groupOf(n) === group));
		held.delete(group);
		held.set(group, channels);
		for (const old of held.keys()) if (held.size > MOST_GROUPS) held.delete(old);
		return channels.find((c) => c.name === name)?.data;
	};
	const colour = (before: string) => ["R", "G", "B"].map((c) => plane(`${before}${c}`)) as Rgb;
	return {
		exr,
		width: exr.width,
		height: exr.height,
		window: exr.window ?? { x: 0, y: 0, width: exr.width, height: exr.height },
		rgb: () => colour(""),
		clean: () => (exr.names.includes("clean.R") ? colour("clean.") : null),
		plane,
	};
}

/** Channels that lose nothing that an eye could see as half floats. Depth, places, ids and counts stay as they are. */
const HALVES = /^(R|G|B|clean\.|light\.|fog\.|openness|N\.|albedo\.|facing)/;

/**
 * A print's file for others: `half` stores light, colours and directions as half floats; `places` adds the place of what
 * each pixel shows, in world metres (P.X P.Y P.Z), and how much it faces the lens (facing, 1 straight on).
 */
export function exrForOthers(file: PrintFile, camera: Camera, { half, places }: { half: boolean; places: boolean }): Uint8Array {
	const { width, height, window } = file;
	const channels: ExrChannel[] = file.exr.planes(file.exr.names).map((c) => ({ ...c, half: c.half || (half && HALVES.test(c.name)) }));
	const [z, nx, ny, nz] = ["Z", "N.X", "N.Y", "N.Z"].map((name) => channels.find((c) => c.name === name)?.data);
	if (places && z && nx && ny && nz) {
		const view = frameOfView(camera);
		const out = [0, 1, 2].map(() => new Float32Array(width * height));
		const facing = new Float32Array(width * height);
		for (let i = 0; i < width * height; i++) {
			if (z[i] >= SKY_M) continue;
			const d = rayThrough(view, (window.x + (i % width) + 0.5) / window.width, (window.y + Math.floor(i / width) + 0.5) / window.height);
			for (let c = 0; c < 3; c++) out[c][i] = view.position[c] + d[c] * z[i];
			const l = Math.hypot(...d) * (Math.hypot(nx[i], ny[i], nz[i]) || 1);
			facing[i] = Math.max(0, -(nx[i] * d[0] + ny[i] * d[1] + nz[i] * d[2]) / l);
		}
		channels.push(...out.map((data, c) => ({ name: `P.${"XYZ"[c]}`, data })), { name: "facing", data: facing, half });
	}
	return writeExr({ width, height, channels: channels.sort((a, b) => (a.name < b.name ? -1 : 1)), text: file.exr.text, window });
}

/** Depth as grey of 16 bits: white at `nearM`, black at `farM` and beyond, even steps of metres between. */
export function depthPng(file: PrintFile, nearM: number, farM: number): Promise<Buffer> | null {
	const z = file.plane("Z");
	if (!z) return null;
	const grey = Uint16Array.from(z, (v) => Math.round(65_535 * Math.min(1, Math.max(0, (farM - v) / (farM - nearM)))));
	return sharp(grey, { raw: { width: file.width, height: file.height, channels: 1 } })
		.toColourspace("grey16")
		.png()
		.toBuffer();
}

/** PNG of linear planes with a finish, as large as they are or `widthPx` wide; `window` says where they lie when they are a part. */
export async function pngFile(rgb: Rgb, width: number, height: number, ev100: number, finish: Finish, widthPx?: number, window?: ExrWindow): Promise<Buffer> {
	const pixels = finishPicture(rgb, width, height, ev100, finish, window);
	let image = sharp(Buffer.from(pixels.buffer as ArrayBuffer), { raw: { width, height, channels: 4 } }).removeAlpha();
	if (widthPx && widthPx < width) image = image.resize(widthPx);
	return image.png({ compressionLevel: 7 }).toBuffer();
}
