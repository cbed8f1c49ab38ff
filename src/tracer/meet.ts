/** What single rays through the frame meet, on the thread that owns the tracer's memory. */

import { seaAhead } from "../core/ground/planet.ts";
import { frameOfView, rayThrough } from "../core/lens/camera.ts";
import { sub } from "../core/maths/vec.ts";
import { ID_SKY, ID_WATER } from "../core/scene/ids.ts";
import type { Scene } from "../core/scene/scene.ts";
import type { Kernel, TracerMemory } from "./memory.ts";
import type { SceneStore } from "./sceneStore.ts";

export interface Met {
	/** Numbers in the id layer, one for each place. */
	ids: Uint32Array;
	/** Metres along the ray; infinite for the sky. */
	distancesM: Float64Array;
}

/** Bytes of a ray (origin, direction, farthest), and of a hit (distance, number, triangle). */
const RAY = 28;
const HIT = 12;
/** How far a ray goes, metres. */
const FAR_M = 1e9;
/** Rays that are cast at a time. */
const MOST = 4096;

/**
 * What lies under places of the frame (x and y by turns, 0 to 1). The scene has been loaded into the store. Lens and focus
 * are left out: rays begin at the lens's middle.
 */
export function meet(
	{ kernel, memory, store }: { kernel: Kernel; memory: TracerMemory; store: SceneStore },
	scene: Scene,
	places: ArrayLike<number>,
): Met {
	const count = places.length / 2;
	const view = frameOfView(scene.root.camera);
	const { water, camera, origin, planet } = scene.root;
	const eye = sub(camera.position, origin);
	const ids = new Uint32Array(count);
	const distancesM = new Float64Array(count);
	const some = Math.min(count, MOST);
	const rays = memory.allocate(some * RAY);
	const hits = memory.allocate(some * HIT);
	kernel.takeScene(store.header, store.scratch);
	for (let first = 0; first < count; first += some) {
		const n = Math.min(some, count - first);
		const { f32, u32 } = memory;
		for (let i = 0; i < n; i++) {
			const [x, y, z] = rayThrough(view, places[2 * (first + i)], places[2 * (first + i) + 1]);
			const l = Math.sqrt(x * x + y * y + z * z);
			const ray = (rays + i * RAY) >> 2;
			f32[ray] = eye[0];
			f32[ray + 1] = eye[1];
			f32[ray + 2] = eye[2];
			f32[ray + 3] = x / l;
			f32[ray + 4] = y / l;
			f32[ray + 5] = z / l;
			f32[ray + 6] = FAR_M;
		}
		kernel.castRays(rays, n, hits, 0);
		for (let i = 0; i < n; i++) {
			const hit = (hits + i * HIT) >> 2;
			let far = f32[hit];
			let id = Number.isFinite(far) ? u32[hit + 1] : ID_SKY;
			const at = ((rays + i * RAY) >> 2) + 3;
			const level = water?.levelM ?? null;
			const t = level === null ? far : seaAhead(planet, level, camera.position, [f32[at], f32[at + 1], f32[at + 2]]);
			if (t < far) [far, id] = [t, ID_WATER];
			ids[first + i] = id;
			distancesM[first + i] = far;
		}
	}
	memory.release(rays);
	memory.release(hits);
	return { ids, distancesM };
}
