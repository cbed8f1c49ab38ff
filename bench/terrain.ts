import { randomStream } from "../src/core/maths/hash.ts";
import type { PlainMesh } from "./rayFile.ts";

/** A field of n × n heights with boxes on it; 700 and 2,000 are 1,001,202 triangles. */
export function terrain(n: number, boxes: number): PlainMesh {
	const random = randomStream(5);
	const positions = new Float32Array((n * n + boxes * 8) * 3);
	const indices = new Uint32Array((n - 1) * (n - 1) * 6 + boxes * 36);
	const height = (x: number, z: number) =>
		6 * Math.sin(x * 0.05) * Math.cos(z * 0.04) + 0.6 * Math.sin(x * 0.9 + z * 0.7) - 3;
	let at = 0;
	for (let j = 0; j < n; j++)
		for (let i = 0; i < n; i++) {
			const x = (i / (n - 1)) * 400 - 200;
			const z = (j / (n - 1)) * 400 - 200;
			positions.set([x, height(x, z), z], (j * n + i) * 3);
			if (i + 1 === n || j + 1 === n) continue;
			const a = j * n + i;
			indices.set([a, a + n, a + 1, a + 1, a + n, a + n + 1], at);
			at += 6;
		}
	const faces = [
		0, 1, 3, 0, 3, 2, 4, 6, 7, 4, 7, 5, 0, 4, 5, 0, 5, 1, 2, 3, 7, 2, 7, 6, 0, 2, 6, 0, 6, 4, 1, 5, 7, 1, 7, 3,
	];
	for (let b = 0; b < boxes; b++) {
		const [x, z] = [random() * 380 - 190, random() * 380 - 190];
		const [s, h, y] = [0.3 + 2 * random() ** 3, 0.3 + 5 * random() ** 3, height(x, z)];
		const v = n * n + b * 8;
		for (let c = 0; c < 8; c++)
			positions.set([x + (c & 1 ? s : -s), y + (c & 2 ? h : -0.5), z + (c & 4 ? s : -s)], (v + c) * 3);
		for (const f of faces) indices[at++] = v + f;
	}
	return { positions, indices };
}
