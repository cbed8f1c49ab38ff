/** For tests and the bench: how high land and meshes of it stand before a lens. */
import type { Ground } from "../doc/schema.ts";
import { DEG } from "../maths/functions.ts";
import type { Mesh } from "../maths/mesh.ts";
import { groundHeight } from "./height.ts";
import { radiusOf, sunkM } from "./planet.ts";
import { FRAME_PX, type LensFootprint } from "./sight.ts";

/** A lens of the usual field, so high over the ground at a place. */
export function footOver(
	ground: Ground,
	overM: number,
	{ x = 3, z = 4, headingDeg = 0, halfFieldDeg = 33 }: Partial<LensFootprint> = {},
): LensFootprint {
	const y = groundHeight(ground, x, z) + overM;
	return { x, y, z, headingDeg, halfFieldDeg, pixel: (2 * Math.tan(30 * DEG)) / FRAME_PX };
}

/** Rise over run to the highest of a mesh beyond a distance, by headings (degrees); the mesh lies about the lens's foot. */
export function outlineOf(mesh: Mesh, foot: LensFootprint, headings: readonly number[], beyondM = 2): Float64Array {
	const { positions, indices } = mesh;
	const rises = new Float64Array(headings.length).fill(-Infinity);
	const step = headings.length > 1 ? headings[1] - headings[0] : 1;
	const headingOf = (i: number) => {
		const off = Math.atan2(positions[3 * i], -positions[3 * i + 2]) / DEG - headings[0];
		return off - 360 * Math.round(off / 360);
	};
	for (let k = 0; k < indices.length; k++) {
		const [a, b] = [indices[k], indices[k % 3 === 2 ? k - 2 : k + 1]];
		const [ha, hb] = [headingOf(a), headingOf(b)];
		if (Math.abs(ha - hb) > 90) continue;
		const last = Math.min(headings.length - 1, Math.floor(Math.max(ha, hb) / step));
		for (let h = Math.max(0, Math.ceil(Math.min(ha, hb) / step)); h <= last; h++) {
			const heading = headings[h] * DEG;
			const [dx, dz] = [Math.sin(heading), -Math.cos(heading)];
			// Where the edge crosses the plane of the heading.
			const [sa, sb] = [a, b].map((i) => positions[3 * i] * dz - positions[3 * i + 2] * dx);
			const t = sa === sb ? 0 : Math.min(1, Math.max(0, sa / (sa - sb)));
			const [x, y, z] = [0, 1, 2].map((c) => positions[3 * a + c] + t * (positions[3 * b + c] - positions[3 * a + c]));
			const far = Math.hypot(x, z);
			if (far > beyondM) rises[h] = Math.max(rises[h], (y - foot.y) / far);
		}
	}
	return rises;
}

/** Rise over run to the highest of the land itself, by headings (degrees), looked for ever more closely. */
export function outlineOfLand(ground: Ground, foot: LensFootprint, headings: readonly number[], outerM = 60_000) {
	return Float64Array.from(headings, (deg) => {
		const [dx, dz] = [Math.sin(deg * DEG), -Math.cos(deg * DEG)];
		const rise = (far: number) => {
			const height = groundHeight(ground, foot.x + dx * far, foot.z + dz * far);
			return (height - sunkM(radiusOf(ground), far) - foot.y) / far;
		};
		let most = -Infinity;
		const looked: [far: number, rise: number][] = [];
		for (let far = 2; far < outerM; far *= 1.002) looked.push([far, rise(far)]);
		looked.sort((p, q) => q[1] - p[1]);
		for (const [far] of looked.slice(0, 8))
			for (let k = -20; k <= 20; k++) most = Math.max(most, rise(far * (1 + 0.0001 * k)));
		return most;
	});
}
