/** The sky's light as nine spherical harmonics (Ramamoorthi and Hanrahan 2001), for the working view's shade. */

import { skyLuminance } from "../../core/air/dome.ts";
import { SMALL } from "../../core/air/skyPicture.ts";
import { luminance } from "../../core/colour/linear.ts";
import type { Vec3 } from "../../core/maths/vec.ts";
import type { ScenePart, SceneRoot } from "../../core/scene/scene.ts";

type Sky = (d: Vec3) => readonly number[];

/** The scene's sky, computed or hung, without its sun. */
export function skyWithoutSun(dome: SceneRoot["dome"], parts: Map<string, ScenePart>): Sky {
	const table = (key: string) => (parts.get(key) as Extract<ScenePart, { kind: "table" }>).data;
	const p = dome.picture;
	if (!p) {
		const whole = { ...dome, sky: table(dome.sky), cloud: table(dome.cloud) };
		return (d) => skyLuminance(whole, d);
	}
	const small = table(p.small);
	return (d) => {
		const u = Math.atan2(d[0], -d[2]) / (2 * Math.PI) + 0.5 - p.turn;
		const x = Math.min(SMALL - 1, Math.floor((u - Math.floor(u)) * SMALL));
		const y = Math.min(SMALL / 2 - 1, Math.floor((Math.acos(d[1]) / Math.PI) * (SMALL / 2)));
		const at = (y * SMALL + x) * 3;
		const grey = luminance(small, at);
		return [0, 1, 2].map((c) => Math.max(0, grey + (small[at + c] - grey) * p.saturation) * p.gain);
	};
}

/** Nine RGB coefficients of the light from all around: sky above, what the ground or the water sends back below. */
export function skyHarmonics(
	sky: Sky,
	sun: Pick<SceneRoot["dome"], "sunDirection" | "sunLux">,
	water: SceneRoot["water"],
): number[][] {
	const out = Array.from({ length: 9 }, () => [0, 0, 0]);
	const rows = 14;
	const columns = 28;
	const sunUp = Math.max(0, sun.sunDirection[1]);
	let floor = [0, 0, 0];
	for (const below of [false, true]) {
		for (let j = 0; j < rows; j++) {
			for (let i = 0; i < columns; i++) {
				const y = ((j + 0.5) / rows) * (below ? -1 : 1);
				const s = Math.sqrt(1 - y * y);
				const a = ((i + 0.5) / columns) * 2 * Math.PI;
				const d: [number, number, number] = [s * Math.sin(a), y, -s * Math.cos(a)];
				const weight = (2 * Math.PI) / (rows * columns);
				const L = below ? (water ? sky([d[0], -y, d[2]]).map((v, c) => 0.25 * v + 0.6 * floor[c]) : floor) : sky(d);
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
		if (!below) floor = floor.map((v, c) => v + (sun.sunLux[c] * sunUp * 0.3) / Math.PI);
	}
	return out;
}
