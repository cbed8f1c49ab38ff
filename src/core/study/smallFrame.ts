/** Small frames of a move: what they are traced with, what tells one from another, and how they are kept. */
import { unzlibSync, zlibSync } from "fflate";
import type { Area } from "../maths/area.ts";
import { keyOf } from "../maths/hash.ts";
import type { Scene } from "../scene/scene.ts";
import type { Probe } from "./moveTable.ts";

export interface SmallFrame {
	frame: number;
	/** Of all that it was traced from: another one when an edit has changed it. */
	sign: string;
	width: number;
	height: number;
	/** What its pixels cover, as shares of the frame. */
	part: Area;
	/** Linear picture, cd/m², without its noise. */
	rgb: [Float32Array, Float32Array, Float32Array];
	ev100: number;
	/** What lies there, and how far. */
	probe: Probe;
}

/** With the noise taken out these are enough for a picture as small as this. */
export const SMALL = { widthPx: 192, samples: 8, seed: 1, most: 240 };

/** Pixels of a small frame. */
export const smallSize = ({ root }: Scene): { width: number; height: number } => ({
	width: SMALL.widthPx,
	height: Math.max(2, Math.round(SMALL.widthPx / root.camera.ratio)),
});

/** What a traced picture depends on: all of the scene but its finish, its exposure and the lock. */
export function tracedFrom({ root }: Scene): string {
	const { finish: _, camera, ...rest } = root;
	return JSON.stringify({ ...rest, camera: { ...camera, ev100: 0, locked: true } });
}

export const smallSign = (scene: Scene): string => keyOf("small", tracedFrom(scene));

export class SmallFrameError extends Error {}

type Head = Omit<SmallFrame, "rgb" | "probe"> & Pick<Probe, "across" | "down">;

/** Bytes of a pixel: three mantissas and the exponent that they share (Ward 1991, "Real Pixels", Graphics Gems II). */
const BYTES = 4;
const BIAS = 128;
/** Bits of a mantissa. */
const BITS = 7;
const MOST_SIDE = 1024;
const MOST_CELLS = 1 << 14;

/** Packs a small frame; its light is told apart to a percent. */
export function packSmall({ rgb, probe, ...head }: SmallFrame): Uint8Array {
	const n = head.width * head.height;
	const light = new Uint8Array(n * BYTES);
	for (let i = 0; i < n; i++) {
		const most = Math.max(rgb[0][i], rgb[1][i], rgb[2][i]);
		if (!(most > 1e-30)) continue;
		const exponent = Math.min(127, Math.floor(Math.log2(most)) + 1);
		const scale = 2 ** (BITS - exponent);
		for (let c = 0; c < 3; c++) light[c * n + i] = Math.min(2 ** BITS - 1, Math.max(0, Math.floor(rgb[c][i] * scale)));
		light[3 * n + i] = exponent + BIAS;
	}
	// Neighbours are alike, and so are colours: what they differ by packs better.
	for (let i = light.length - 1; i > 0; i--) light[i] = light[i] - light[i - 1];
	for (let i = 0; i < n; i++) for (const c of [0, 2]) light[c * n + i] = light[c * n + i] - light[n + i];
	const words = new TextEncoder().encode(JSON.stringify({ ...head, across: probe.across, down: probe.down }));
	const cells = probe.across * probe.down;
	const out = new Uint8Array(4 + words.length + light.length + cells * 8);
	const view = new DataView(out.buffer);
	view.setUint32(0, words.length, true);
	out.set(words, 4);
	out.set(light, 4 + words.length);
	let at = 4 + words.length + light.length;
	for (const id of probe.ids) at = (view.setUint32(at, id, true), at + 4);
	for (const d of probe.distancesM) at = (view.setFloat32(at, d, true), at + 4);
	return zlibSync(out, { level: 9 });
}

const whole = (v: unknown, most: number): v is number =>
	typeof v === "number" && Number.isInteger(v) && v >= 0 && v <= most;

/** Throws SmallFrameError for bytes that are no small frame. */
export function unpackSmall(packed: Uint8Array): SmallFrame {
	try {
		const bytes = unzlibSync(packed);
		const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
		const words = view.getUint32(0, true);
		const head: Head = JSON.parse(new TextDecoder().decode(bytes.subarray(4, 4 + words)));
		const { across, down, ...rest } = head;
		const n = rest.width * rest.height;
		const cells = across * down;
		const sides = [rest.width, rest.height].every((v) => whole(v, MOST_SIDE));
		if (!sides || !whole(cells, MOST_CELLS) || !whole(rest.frame, 1e6) || typeof rest.sign !== "string")
			throw new SmallFrameError("its head says what cannot be");
		if (bytes.length !== 4 + words + n * BYTES + cells * 8) throw new SmallFrameError("it is cut");
		const light = bytes.slice(4 + words, 4 + words + n * BYTES);
		for (let i = 0; i < n; i++) for (const c of [0, 2]) light[c * n + i] = light[c * n + i] + light[n + i];
		for (let i = 1; i < light.length; i++) light[i] = light[i] + light[i - 1];
		const rgb: SmallFrame["rgb"] = [new Float32Array(n), new Float32Array(n), new Float32Array(n)];
		for (let i = 0; i < n; i++) {
			if (light[3 * n + i] === 0) continue;
			const scale = 2 ** (light[3 * n + i] - BIAS - BITS);
			for (let c = 0; c < 3; c++) rgb[c][i] = (light[c * n + i] + 0.5) * scale;
		}
		let at = 4 + words + n * BYTES;
		const ids = Uint32Array.from({ length: cells }, (_, i) => view.getUint32(at + 4 * i, true));
		at += 4 * cells;
		const distancesM = Float64Array.from({ length: cells }, (_, i) => view.getFloat32(at + 4 * i, true));
		return { ...rest, rgb, probe: { frame: rest.frame, across, down, ids, distancesM } };
	} catch (error) {
		throw new SmallFrameError(`This is no small frame: ${(error as Error).message}`);
	}
}

/** Several packed ones behind each other, each after its length. */
export function joined(all: readonly Uint8Array[]): Uint8Array {
	const out = new Uint8Array(all.reduce((sum, b) => sum + 4 + b.length, 0));
	const view = new DataView(out.buffer);
	let at = 0;
	for (const bytes of all) {
		view.setUint32(at, bytes.length, true);
		out.set(bytes, at + 4);
		at += 4 + bytes.length;
	}
	return out;
}

/** Those again. */
export function* parted(bytes: Uint8Array): Generator<Uint8Array> {
	const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
	for (let at = 0; at + 4 <= bytes.length; ) {
		const length = view.getUint32(at, true);
		if (at + 4 + length > bytes.length) throw new SmallFrameError("Small frames are cut.");
		yield bytes.subarray(at + 4, at + 4 + length);
		at += 4 + length;
	}
}
