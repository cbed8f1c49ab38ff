/** The sky's light as nine spherical harmonics (Ramamoorthi and Hanrahan 2001), for the working view's shade. */
import { type makeDome, skyLuminance } from "../../core/air/dome.ts";
import type { SceneRoot } from "../../core/scene/scene.ts";

type Dome = ReturnType<typeof makeDome>;

/** Nine RGB coefficients of the light from all around: sky above, what the ground or the water sends back below. */
export function skyHarmonics(dome: Dome, water: SceneRoot["water"]): number[][] {
	const out = Array.from({ length: 9 }, () => [0, 0, 0]);
	const rows = 14;
	const columns = 28;
	const sunUp = Math.max(0, dome.sunDirection[1]);
	let floor = [0, 0, 0];
	for (const below of [false, true]) {
		for (let j = 0; j < rows; j++) {
			for (let i = 0; i < columns; i++) {
				const y = ((j + 0.5) / rows) * (below ? -1 : 1);
				const s = Math.sqrt(1 - y * y);
				const a = ((i + 0.5) / columns) * 2 * Math.PI;
				const d: [number, number, number] = [s * Math.sin(a), y, -s * Math.cos(a)];
				const weight = (2 * Math.PI) / (rows * columns);
				const L = below ? (water ? skyLuminance(dome, [d[0], -y, d[2]]).map((v, c) => 0.25 * v + 0.6 * floor[c]) : floor) : skyLuminance(dome, d);
				const basis = [
					0.282095,
					0.488603 * d[1],
					0.488603 * d[2],
					0.488603 * d[0],
					1.092548 * d[0] * d[1],
					1.092548 * d[1] * d[2],
					0.315392 * (3 * d[2] * d[2] - 1),
					1.092548 * d[0] * d[2],
					0.546274 * (d[0] * d[0] - d[1] * d[1]),
				];
				for (let k = 0; k < 9; k++) for (let c = 0; c < 3; c++) out[k][c] += basis[k] * L[c] * weight;
				if (!below) for (let c = 0; c < 3; c++) floor[c] += (L[c] * y * weight * 0.3) / Math.PI;
			}
		}
		if (!below) floor = floor.map((v, c) => v + (dome.sunLux[c] * sunUp * 0.3) / Math.PI);
	}
	return out;
}
