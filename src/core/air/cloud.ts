/** One layer of high thin cloud: a repeating tile of optical depth, and how it looks from below. */
import { clamp, exp, mix, smoothstep } from "../maths/functions.ts";
import { fractal2 } from "../maths/noise.ts";

export const CLOUD_TILE = 512;
/** Length of the tile's side and height of the layer, kilometres. */
export const CLOUD_TILE_KM = 48;
export const CLOUD_HEIGHT_KM = 7;

/** Vertical optical depth of the layer, CLOUD_TILE² values. Streaks lie across the first direction. */
export function cloudTile(cover: number, seed: number): Float32Array {
	const out = new Float32Array(CLOUD_TILE * CLOUD_TILE);
	if (cover <= 0) return out;
	const threshold = mix(0.62, -0.35, cover);
	for (let j = 0; j < CLOUD_TILE; j++) {
		for (let i = 0; i < CLOUD_TILE; i++) {
			const x = i / CLOUD_TILE;
			const y = j / CLOUD_TILE;
			const warp = 0.35 * fractal2(x * 4, y * 4, seed + 17, 3, 0.5, 4);
			const broad = fractal2(x * 3 + warp, y * 6 + warp, seed, 3, 0.55, 3);
			const streak = fractal2(x * 5 + warp * 2, y * 22 + warp * 6, seed + 5, 5, 0.55, 1);
			const density = broad * 0.9 + streak * 0.75;
			out[j * CLOUD_TILE + i] = 0.75 * smoothstep(threshold, threshold + 0.75, density) * (0.35 + 0.65 * cover);
		}
	}
	return out;
}

/** Optical depth of the layer in a direction above the horizon, along the line of sight. */
export function cloudDepth(tile: Float32Array, dx: number, dy: number, dz: number): number {
	if (dy <= 0.005) return 0;
	const along = CLOUD_HEIGHT_KM / dy / CLOUD_TILE_KM;
	const u = dx * along * CLOUD_TILE;
	const v = dz * along * CLOUD_TILE;
	const x0 = Math.floor(u);
	const y0 = Math.floor(v);
	const fx = u - x0;
	const fy = v - y0;
	const mask = CLOUD_TILE - 1;
	const at = (x: number, y: number) => tile[(y & mask) * CLOUD_TILE + (x & mask)];
	const depth =
		(at(x0, y0) * (1 - fx) + at(x0 + 1, y0) * fx) * (1 - fy) +
		(at(x0, y0 + 1) * (1 - fx) + at(x0 + 1, y0 + 1) * fx) * fy;
	return depth * Math.min(6, 1 / dy) * fadeByDistance(dy);
}

/** Far cloud dissolves in the air before it: share left at a given sine of elevation. */
const fadeByDistance = (dy: number): number => exp(-CLOUD_HEIGHT_KM / dy / 120);

/** Phase function of ice and droplets towards the sun, a forward and a broad lobe. */
export function cloudPhase(cosine: number): number {
	const lobe = (g: number) => {
		const d = 1 + g * g - 2 * g * cosine;
		return (1 - g * g) / (4 * Math.PI * d * Math.sqrt(d));
	};
	return 0.45 * lobe(0.82) + 0.55 * lobe(0.12);
}

/** Share of the sky behind that a depth covers. */
export const cloudOpacity = (depth: number): number => clamp(1 - exp(-depth), 0, 1);
