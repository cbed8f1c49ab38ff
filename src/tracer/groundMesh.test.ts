import { expect, it } from "vitest";
import { blankShot } from "../core/doc/defaults.ts";
import { groundMeshForLens, IN_HAND } from "../core/ground/meshForLens.ts";
import { footOver } from "../core/ground/testing.ts";
import { randomStream } from "../core/maths/hash.ts";
import { castAtOnce } from "./testing.ts";

it("the ground lets no ray through, wherever it falls: 10,000 places, near, far and on its edges", () => {
	const ground = { preset: "ridges" as const, seed: 4, heightM: 200 };
	const foot = footOver(ground, 1.7);
	const { mesh } = groundMeshForLens(ground, blankShot().water, [foot], IN_HAND);
	const { positions, indices } = mesh;
	const random = randomStream(7);
	const rays: number[] = [];
	for (let n = 0; n < 11_000; n++) {
		const t = 3 * Math.floor((random() * indices.length) / 3);
		// On an edge, or within a triangle; from above, leaning a little.
		const [u, v] = n % 2 ? [random(), 0] : [random() / 2, random() / 2];
		const to = [0, 1, 2].map((c) => {
			const [p, q, r] = [0, 1, 2].map((k) => positions[3 * indices[t + k] + c]);
			return p + u * (q - p) + v * (r - p);
		});
		// The rim has nothing beside it.
		if (Math.max(Math.abs(to[0]), Math.abs(to[2])) > 60_000) continue;
		const lean = [0.6 * (random() - 0.5), -1, 0.6 * (random() - 0.5)];
		rays.push(...to.map((p, c) => Math.fround(p - 2000 * lean[c])), ...lean, 1e6);
	}
	const met = castAtOnce(mesh, rays);
	expect(met.length).toBeGreaterThan(10_000);
	expect(met.filter((far) => !Number.isFinite(far))).toHaveLength(0);
});
