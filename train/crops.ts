/**
 * What the filter of noise learns from: parts of made-up shots, each traced with two seeds. A part is a file of half floats: for either
 * seed and each of {@link LEVELS} samples (fewer where samples are dear), {@link PLANES} planes of {@link SIDE} × {@link SIDE} values, exposed. What one seed shows after
 * all samples is what the other is asked for (Lehtinen et al. 2018: noise that is not one's own is as good as the truth).
 */
import { existsSync, mkdirSync, renameSync, writeFileSync } from "node:fs";
import { luminanceOf } from "../src/core/colour/linear.ts";
import { lightToHalf } from "../src/core/formats/exrWrite.ts";
import { randomStream } from "../src/core/maths/hash.ts";
import { compileWhenMade } from "../src/core/scene/compile.ts";
import { NO_BLOBS, NO_MAKERS } from "../src/core/scene/inputs.ts";
import { PartCache } from "../src/core/scene/partCache.ts";
import {
	emptyPicture,
	type Picture,
	placeTile,
	type Tile,
	type TileSums,
	tilesOfPart,
} from "../src/core/scene/picture.ts";
import type { Scene } from "../src/core/scene/scene.ts";
import { STILL } from "../src/core/time/frames.ts";
import { nodeSheets } from "../src/makers/sheets/node.ts";
import type { PictureSize } from "../src/tracer/headerStore.ts";
import type { TracePool } from "../src/tracer/node/pool.ts";
import { spreadSpecks } from "../src/tracer/specks.ts";
import { madeUpShot } from "./shots.ts";

export const LEVELS = [2, 4, 8, 16, 32] as const;
export const SIDE = 192;
const SEEDS = [1, 2] as const;
/** Widths of the pictures that parts are of: a proof's, a print's. */
const WIDTHS = [256, 320, 320, 480, 480, 640, 960, 1600] as const;
/** Places that are looked at to find the one where most is to be seen. */
const LOOKS = 5;
/** Middle grey, as the geometric mean of a picture's light is exposed. */
const GREY = 0.16;
const DARK = 0.02;
const TILE = 64;
/** Rays of one seed, after which a part takes no more samples: many cheap parts teach more than a few dear ones. */
const MOST_RAYS = 7e6;

const PLANES = 18;

/** Planes of a picture: even and odd samples, the other filter's picture, error, colour, normal, nearness, share of the first piece. */
function planesOf(p: Picture, filtered: readonly Float32Array[], k: number): Float32Array[] {
	const halves = (sign: number) => p.rgb.map((plane, c) => plane.map((v, i) => (v + sign * p.halves[c][i]) * k));
	return [
		...halves(-1),
		...halves(1),
		...filtered.map((plane) => plane.map((v) => v * k)),
		p.error.map((v) => v * k),
		...p.albedo,
		...p.normal,
		p.nearness,
		p.masks[0].cover,
	];
}

/** What brings the geometric mean of a picture's light to grey; what no sample has found yet counts as a little. */
function exposureOf({ rgb: [r, g, b] }: Picture): number {
	const light = r.map((v, i) => luminanceOf(v, g[i], b[i]));
	const mean = light.reduce((s, v) => s + v, 0) / light.length;
	return GREY / Math.exp(light.reduce((s, v) => s + Math.log(v + DARK * mean + 1e-9), 0) / light.length);
}

/** The pictures of a part after each of some numbers of samples, as far as rays go. */
async function* pictures(
	pool: TracePool,
	part: Tile,
	levels: readonly number[],
	most: number,
): AsyncGenerator<Picture> {
	const tiles = tilesOfPart(part, TILE);
	const before: TileSums[] = [];
	let [from, rays] = [0, 0];
	for (const to of levels) {
		if (from > 0 && (rays * to) / from > most) return;
		const picture = emptyPicture(part.width, part.height);
		let next = 0;
		await Promise.all(
			Array.from({ length: pool.threads }, async () => {
				while (next < tiles.length) {
					const i = next++;
					const done = await pool.trace(tiles[i], from, to, before[i]);
					if (!done.sums) throw new Error("A tile was broken off.");
					rays += done.rays;
					before[i] = done.sums;
					placeTile(picture, { ...tiles[i], x: tiles[i].x - part.x, y: tiles[i].y - part.y }, done.sums);
				}
			}),
		);
		from = to;
		yield picture;
	}
}

/** Share of the pixels beside which something else is met, or the same faces another way. */
function detailOf({ width, id, normal, albedo }: Picture): number {
	const differs = (i: number, j: number) =>
		id[i] !== id[j] ||
		normal.some((plane) => Math.abs(plane[i] - plane[j]) > 0.3) ||
		albedo.some((plane) => Math.abs(plane[i] - plane[j]) > 0.1);
	let count = 0;
	for (let i = width + 1; i < id.length; i++) if (differs(i, i - 1) || differs(i, i - width)) count++;
	return count / id.length;
}

/** Takes a scene at a size, and finds the part of the frame where most is to be seen. */
async function partOf(
	pool: TracePool,
	scene: Scene,
	seed: number,
): Promise<{ size: Omit<PictureSize, "seed">; part: Tile }> {
	const next = randomStream(seed ^ 0x5eed);
	const width = WIDTHS[Math.floor(next() * WIDTHS.length)];
	const size = { width, height: Math.max(SIDE, Math.round((width * 9) / 16)) };
	pool.load(scene, { ...size, seed: SEEDS[0] });
	let best = { part: { x: 0, y: 0, width: SIDE, height: SIDE }, detail: -1 };
	for (let i = 0; i < LOOKS; i++) {
		const at = (room: number) => Math.round(room * next());
		const part = { x: at(size.width - SIDE), y: at(size.height - SIDE), width: SIDE, height: SIDE };
		for await (const picture of pictures(pool, part, [1], Infinity)) {
			const detail = detailOf(picture);
			if (detail > best.detail) best = { part, detail };
		}
	}
	return { size, part: best.part };
}

export const cropFile = (folder: string, seed: number): string => `${folder}/${String(seed).padStart(6, "0")}.crop`;

/** Makes the parts of so many shots from a seed on, as far as they are missing. */
export async function makeCrops(pool: TracePool, folder: string, from: number, count: number): Promise<void> {
	mkdirSync(folder, { recursive: true });
	const makers = { ...NO_MAKERS, ...nodeSheets() };
	const cache = new PartCache();
	const made = (seed: number) => compileWhenMade(madeUpShot(seed), STILL, NO_BLOBS, makers, cache);
	const missing = Array.from({ length: count }, (_, i) => from + i).filter((s) => !existsSync(cropFile(folder, s)));
	let coming = missing.length > 0 ? made(missing[0]) : null;
	for (const [i, seed] of missing.entries()) {
		const scene = await coming;
		if (!scene) return;
		const planes = await cropOf(pool, scene, seed, () => {
			coming = i + 1 < missing.length ? made(missing[i + 1]) : null;
		});
		// Whole or not at all, for the sitting may end at any time.
		const file = cropFile(folder, seed);
		writeFileSync(`${file}.part`, Buffer.concat(planes.map((plane) => Buffer.from(plane.buffer))));
		renameSync(`${file}.part`, file);
		process.stderr.write(`${seed}: ${planes.length / (2 * PLANES)} levels\n`);
	}
}

/** Planes of both seeds' pictures of a part, as they are written; the next scene may be compiled once this one is `loaded`. */
async function cropOf(pool: TracePool, scene: Scene, seed: number, loaded: () => void): Promise<Uint16Array[]> {
	const { part, size } = await partOf(pool, scene, seed);
	const out: Uint16Array[] = [];
	let k = 0;
	let [levels, most] = [LEVELS as readonly number[], MOST_RAYS];
	for (const noise of SEEDS) {
		pool.load(scene, { ...size, seed: noise });
		if (noise === SEEDS[0]) loaded();
		let done = 0;
		for await (const picture of pictures(pool, part, levels, most)) {
			k ||= exposureOf(picture);
			const planes = planesOf(spreadSpecks(picture), await pool.averaged(picture), k);
			if (planes.length !== PLANES) throw new Error(`${planes.length} planes in place of ${PLANES}.`);
			for (const plane of planes) out.push(Uint16Array.from(plane, lightToHalf));
			done++;
		}
		// Both have as many.
		[levels, most] = [LEVELS.slice(0, done), Infinity];
	}
	return out;
}
