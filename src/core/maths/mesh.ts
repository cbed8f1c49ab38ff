/** A triangle mesh as plain arrays. Colours are optional: RGB as square roots of linear values in bytes, then wetness. */
export interface Mesh {
	positions: Float32Array;
	normals: Float32Array;
	/** Of the body that it was shaped from, where what lies on it lies by that: its normals then lean as it does. */
	under?: Float32Array;
	indices: Uint32Array;
	colours?: Uint8Array;
}

/** Byte of a linear value in [0, 1] by its square root, so that dark tones keep their steps. */
export const tintByte = (linear: number): number => Math.round(Math.sqrt(Math.min(1, Math.max(0, linear))) * 255);

/** Bounds as [min x, y, z, max x, y, z]. */
export function meshBounds(mesh: Mesh): [number, number, number, number, number, number] {
	const b: [number, number, number, number, number, number] = [1e30, 1e30, 1e30, -1e30, -1e30, -1e30];
	for (let i = 0; i < mesh.positions.length; i += 3) {
		for (let c = 0; c < 3; c++) {
			b[c] = Math.min(b[c], mesh.positions[i + c]);
			b[c + 3] = Math.max(b[c + 3], mesh.positions[i + c]);
		}
	}
	return b;
}

/** Signed volume by the divergence theorem, in cubic units of the mesh: above 0 where a closed one looks outwards. */
export function meshVolume({ positions: p, indices }: Pick<Mesh, "positions" | "indices">): number {
	let sum = 0;
	for (let t = 0; t < indices.length; t += 3) {
		const [a, b, c] = [3 * indices[t], 3 * indices[t + 1], 3 * indices[t + 2]];
		sum +=
			p[a] * (p[b + 1] * p[c + 2] - p[b + 2] * p[c + 1]) +
			p[a + 1] * (p[b + 2] * p[c] - p[b] * p[c + 2]) +
			p[a + 2] * (p[b] * p[c + 1] - p[b + 1] * p[c]);
	}
	return sum / 6;
}
