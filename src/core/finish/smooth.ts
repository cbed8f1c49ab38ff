/**
 * A simple filter for noise, guided by albedo, normal and depth: an edge-avoiding à-trous wavelet (Dammertz et al. 2010)
 * over the light that falls on surfaces, so that their own colour stays sharp.
 */
type Planes = [Float32Array, Float32Array, Float32Array];

export interface Guided {
	width: number;
	height: number;
	rgb: Planes;
	albedo: Planes;
	normal: Planes;
	depth: Float32Array;
}

const KERNEL = [1 / 16, 1 / 4, 3 / 8, 1 / 4, 1 / 16];
const ROUNDS = 4;

/** Smoothed linear RGB. Pictures of any size; five rounds' reach is 31 pixels. */
export function smooth(p: Guided): Planes {
	const { width, height, albedo, normal, depth } = p;
	const n = width * height;
	const base = albedo.map((a) => a.map((v) => Math.max(0.02, v))) as Planes;
	let light = p.rgb.map((c, k) => c.map((v, i) => v / base[k][i])) as Planes;
	for (let round = 0; round < ROUNDS; round++) {
		const step = 1 << round;
		const out = [new Float32Array(n), new Float32Array(n), new Float32Array(n)] as Planes;
		for (let y = 0; y < height; y++) {
			for (let x = 0; x < width; x++) {
				const i = y * width + x;
				const own = Math.log(1e-3 + light[0][i] + light[1][i] + light[2][i]);
				let total = 0;
				let r = 0;
				let g = 0;
				let b = 0;
				for (let dy = -2; dy <= 2; dy++) {
					const yy = y + dy * step;
					if (yy < 0 || yy >= height) continue;
					for (let dx = -2; dx <= 2; dx++) {
						const xx = x + dx * step;
						if (xx < 0 || xx >= width) continue;
						const j = yy * width + xx;
						const facing = normal[0][i] * normal[0][j] + normal[1][i] * normal[1][j] + normal[2][i] * normal[2][j];
						const bothSky = depth[i] > 1e9 && depth[j] > 1e9;
						let w = bothSky ? 1 : Math.max(0, facing) ** 24;
						if (w < 1e-3) continue;
						w *= Math.exp(-Math.abs(Math.log(depth[i] / depth[j])) * 40);
						const colour = Math.abs(albedo[0][i] - albedo[0][j]) + Math.abs(albedo[1][i] - albedo[1][j]) + Math.abs(albedo[2][i] - albedo[2][j]);
						w *= Math.exp(-colour * 12);
						const other = Math.log(1e-3 + light[0][j] + light[1][j] + light[2][j]);
						w *= Math.exp(-Math.abs(own - other) * (1.4 + round * 0.7));
						w *= KERNEL[dx + 2] * KERNEL[dy + 2];
						total += w;
						r += w * light[0][j];
						g += w * light[1][j];
						b += w * light[2][j];
					}
				}
				out[0][i] = total > 0 ? r / total : light[0][i];
				out[1][i] = total > 0 ? g / total : light[1][i];
				out[2][i] = total > 0 ? b / total : light[2][i];
			}
		}
		light = out;
	}
	return light.map((c, k) => c.map((v, i) => v * base[k][i])) as Planes;
}
