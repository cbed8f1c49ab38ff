/**
 * Whether a move swims, pops or flickers: neighbouring frames, without their noise, laid over each other by depth and camera,
 * beside one frame traced twice with another noise. What goes by itself (water, keyed pieces, the sky) and what comes into view
 * does not count. A move that is still but for its noise has a ratio of about 1.
 */

import type { ShotDocument } from "../src/core/doc/schema.ts";
import { type FrameOfView, frameOfView, project, rayThrough } from "../src/core/lens/camera.ts";
import { FIRST_PIECE, ID_SKY, ID_WATER } from "../src/core/scene/ids.ts";
import { PartCache } from "../src/core/scene/partCache.ts";
import type { Picture } from "../src/core/scene/picture.ts";
import { momentOfFrame, seedOfFrame } from "../src/core/time/frames.ts";
import { meanLight, nearestDepth, STEADY_REACH, steadyRows } from "../src/core/time/steady.ts";
import { exposureOf } from "../src/tracer/clean.ts";
import type { Planes } from "../src/tracer/denoise.ts";
import { type TracePool, tracePicture } from "../src/tracer/node/pool.ts";
import { compiled } from "./compiled.ts";
import { median } from "./median.ts";

type Say = (name: string, value: number, unit: string, reference?: number) => void;

const WIDTH = 320;
const SAMPLES = 8;
const PAIRS = [0, 23, 47, 71, 93];
const MIDDLE = 47;
/** Depths that differ by more are another thing: it was hidden, or will be. */
const SAME = 0.02;

interface Seen {
	view: FrameOfView;
	picture: Picture;
	light: Planes;
}

/** Mean difference of green light, as a share, between a frame and another laid over it. */
function difference(a: Seen, b: Seen, counts: (id: number) => boolean): number {
	const { width, height } = a.picture;
	let [sum, n] = [0, 0];
	for (let i = 0; i < width * height; i++) {
		if (!counts(a.picture.id[i])) continue;
		const d = rayThrough(a.view, ((i % width) + 0.5) / width, (Math.floor(i / width) + 0.5) / height);
		const z = a.picture.depth[i];
		const at = project(b.view, [0, 1, 2].map((c) => a.view.position[c] + d[c] * z) as [number, number, number]);
		const [x, y] = [at.x * width - 0.5, at.y * height - 0.5];
		const [x0, y0] = [Math.floor(x), Math.floor(y)];
		if (x0 < 0 || y0 < 0 || x0 + 1 >= width || y0 + 1 >= height) continue;
		let other = 0;
		let whole = true;
		for (const [dx, dy] of [
			[0, 0],
			[1, 0],
			[0, 1],
			[1, 1],
		]) {
			const j = (y0 + dy) * width + x0 + dx;
			if (b.picture.id[j] !== a.picture.id[i] || Math.abs(b.picture.depth[j] / at.depthM - 1) > SAME) whole = false;
			other += b.light[1][j] * (dx ? x - x0 : 1 - x + x0) * (dy ? y - y0 : 1 - y + y0);
		}
		if (!whole) continue;
		const own = a.light[1][i];
		sum += Math.abs(own - other) / Math.max(1e-3, 0.5 * (own + other));
		n++;
	}
	return sum / Math.max(1, n);
}

export async function flicker(pool: TracePool, doc: ShotDocument, say: Say): Promise<void> {
	const { move } = doc;
	if (!move) return;
	const cache = new PartCache();
	const seen = async (frame: number, again = 0): Promise<Seen> => {
		const scene = compiled(doc, momentOfFrame(frame, move), cache);
		const size = {
			width: WIDTH,
			height: Math.round(WIDTH / doc.camera.ratio),
			seed: seedOfFrame(1 + again, frame, false),
		};
		const { picture } = await tracePicture(pool, scene, size, SAMPLES);
		return {
			view: frameOfView(scene.root.camera),
			picture,
			light: (await pool.clean(picture, exposureOf(scene.root.camera))).rgb,
		};
	};
	const keyed = new Set(move.tracks.flatMap((t) => t.of ?? []));
	const counts = (id: number) => id !== ID_SKY && id !== ID_WATER && !keyed.has(doc.pieces[id - FIRST_PIECE]?.id ?? "");
	const [moved, still]: number[][] = [[], []];
	for (const frame of PAIRS) {
		const a = await seen(frame);
		moved.push(difference(a, await seen(frame + 1), counts));
		still.push(difference(a, await seen(frame, 1), counts));
	}
	// Two frames with their neighbours taken in, as frames of a print are.
	const about = new Map<number, Seen>();
	for (let k = -STEADY_REACH; k <= 1 + STEADY_REACH; k++) about.set(MIDDLE + k, await seen(MIDDLE + k));
	const at = (frame: number) => about.get(frame) as Seen;
	const steadied = (frame: number): Seen => {
		const { picture, light, view } = at(frame);
		const { width, height } = picture;
		const near = (of: Seen) => nearestDepth(of.picture.depth, width, height);
		const planes = { x: 0, y: 0, width, height, frame: { width, height } };
		const own = { view, traced: picture.rgb, clean: light, depth: near(at(frame)), light: meanLight(light) };
		const beside = [...about.keys()]
			.filter((f) => f !== frame && Math.abs(f - frame) <= STEADY_REACH)
			.map((f) => ({ view: at(f).view, clean: at(f).light, depth: near(at(f)), away: Math.abs(f - frame) }));
		return { ...at(frame), light: steadyRows(own, beside, planes, 0, height) };
	};
	say(
		"light of two frames with their neighbours taken in, laid over each other, differs by; of the same without",
		100 * difference(steadied(MIDDLE), steadied(MIDDLE + 1), counts),
		"%",
		100 * difference(at(MIDDLE), at(MIDDLE + 1), counts),
	);
	say(
		`light of neighbouring frames of ${SAMPLES} samples, laid over each other, differs by; of one frame traced twice`,
		100 * median(moved),
		"%",
		100 * median(still),
	);
}
