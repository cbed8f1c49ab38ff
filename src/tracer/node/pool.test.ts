import { afterEach, describe, expect, it } from "vitest";
import { emptyPicture, type Picture, tilesOf } from "../../core/scene/picture.ts";
import { cleanHere } from "../clean.ts";
import { PRINT_REACH } from "../denoise.ts";
import { tracerForTest, weightsForTest } from "../testing.ts";
import { testScene } from "../testScene.ts";
import { TracePool, tracePicture, traceStrips } from "./pool.ts";

const build = new URL("../../../build/", import.meta.url);
const scene = () =>
	testScene(
		[
			{ kind: "sphere", position: [0, -1, -5], size: [2, 2, 2], material: { colour: [0.7, 0.4, 0.2], roughness: 0.4 } },
			{ kind: "box", position: [0, -2, -5], size: [20, 1, 20] },
		],
		{ sunLux: [900, 850, 800], sunDirection: [0.36, 0.8, 0.48] },
	);
const size = { width: 70, height: 50, seed: 3, uniformSky: [3, 4, 5] as [number, number, number] };

const pools: TracePool[] = [];
const open = (threads: number) => {
	const pool = new TracePool(build, threads);
	pools.push(pool);
	return pool;
};
afterEach(async () => {
	for (const pool of pools.splice(0)) await pool.close();
});

const same = (a: Picture, b: Picture) => {
	for (let c = 0; c < 3; c++) {
		expect(a.rgb[c]).toEqual(b.rgb[c]);
		expect(a.halves[c]).toEqual(b.halves[c]);
	}
	expect(a.id).toEqual(b.id);
	expect(a.nearness).toEqual(b.nearness);
};

describe("threads that trace one scene", () => {
	it("give the same picture however many they are, and tell how far they are", async () => {
		const told: number[] = [];
		const one = await tracePicture(open(1), scene(), size, 32, (done) => told.push(done));
		const three = await tracePicture(open(3), scene(), size, 32);
		same(one.picture, three.picture);
		expect(one.rays).toBe(three.rays);
		expect(told[told.length - 1]).toBe(1);
		expect([...told].sort((a, b) => a - b)).toEqual(told);
	});

	it("give samples where noise is, the same for any number of them, and as many in all", async () => {
		const picture = async (threads: number, spread: "even" | "noise") => {
			const pool = open(threads);
			const told: number[] = [];
			const all = emptyPicture(size.width, size.height);
			const { strips, rays } = traceStrips(pool, scene(), size, 32, (d) => told.push(d), null, [], undefined, spread);
			for await (const strip of strips) for (let c = 0; c < 3; c++) all.rgb[c].set(strip.rgb[c]);
			const counts: number[] = [];
			for await (const strip of traceStrips(pool, scene(), size, 32, undefined, null, [], undefined, spread).strips)
				counts.push(...strip.counts);
			return { all, counts, rays: rays(), told };
		};
		const [one, three, even] = [await picture(1, "noise"), await picture(3, "noise"), await picture(2, "even")];
		expect(one.all.rgb).toEqual(three.all.rgb);
		expect(one.counts).toEqual(three.counts);
		expect(new Set(even.counts)).toEqual(new Set([32]));
		const mean = one.counts.reduce((s, n) => s + n, 0) / one.counts.length;
		expect(mean).toBeGreaterThan(30);
		expect(mean).toBeLessThanOrEqual(32);
		expect(Math.max(...one.counts)).toBeGreaterThanOrEqual(64);
		expect(one.told[one.told.length - 1]).toBeGreaterThan(0.94);
		// Where samples were not added the picture is that of the first of them.
		const first = (await tracePicture(open(2), scene(), size, 16)).picture;
		const kept = one.counts.indexOf(16);
		expect(one.all.rgb[0][kept]).toBe(first.rgb[0][kept]);
	});

	it("build a large mesh together, into the same tree but for its place, and take no more memory", async () => {
		// A hilly field of 300,000 triangles in place of the sphere.
		const n = 390;
		const [positions, normals, indices] = [
			new Float32Array(n * n * 3),
			new Float32Array(n * n * 3),
			new Uint32Array((n - 1) * (n - 1) * 6),
		];
		for (let j = 0, at = 0; j < n; j++)
			for (let i = 0; i < n; i++) {
				positions.set([i / n - 0.5, 0.05 * Math.sin(i * 0.3) * Math.cos(j * 0.21), j / n - 0.5], (j * n + i) * 3);
				normals.set([0, 1, 0], (j * n + i) * 3);
				if (i + 1 === n || j + 1 === n) continue;
				const a = j * n + i;
				indices.set([a, a + n, a + 1, a + 1, a + n, a + n + 1], at);
				at += 6;
			}
		const large = scene();
		const key = large.root.draws[0].mesh;
		const part = large.parts.get(key);
		if (part?.kind !== "mesh") throw new Error("no mesh");
		large.parts.set(key, { ...part, mesh: { ...part.mesh, positions, normals, indices } });
		const one = await tracePicture(open(1), large, size, 16);
		const three = await tracePicture(open(3), large, size, 16);
		same(one.picture, three.picture);
		expect(one.picture.rgb[0].some((v, i) => v !== one.picture.rgb[0][0] && i > 0)).toBe(true);
	});

	it("take one scene after another", async () => {
		const pool = open(2);
		const first = await tracePicture(pool, scene(), size, 16);
		await tracePicture(pool, testScene([]), size, 16);
		same((await tracePicture(pool, scene(), size, 16)).picture, first.picture);
	});

	it("end at once when they are told to, and work on with the next scene", async () => {
		const pool = open(1);
		pool.load(scene(), { ...size, width: 2000, height: 2000 });
		const [tile] = tilesOf(2000, 2000);
		const long = pool.trace(tile, 0, 4096);
		await new Promise((r) => setTimeout(r, 150));
		expect(() => pool.load(scene(), size)).toThrow(/while it is traced/);
		await expect(pool.trace(tile, 0, 16)).rejects.toThrow(/busy/);
		pool.abort();
		// Traced to its end it would have sums.
		expect((await long).sums).toBeNull();
		expect((await tracePicture(pool, scene(), size, 16)).picture.samples).toBe(16);
	});

	it("stop by tile at a noise, after agreed numbers of samples", async () => {
		const { picture } = await tracePicture(open(2), scene(), { ...size, width: 200 }, 256, undefined, 6);
		const counts = new Set(picture.counts);
		for (const n of counts) expect([32, 64, 128, 256]).toContain(n);
		expect(Math.min(...counts)).toBeLessThan(256);
	});

	it("take the noise out of a picture as one thread does", async () => {
		const pool = open(3);
		const { picture } = await tracePicture(pool, scene(), { ...size, height: 150 }, 16);
		const { kernel, memory } = tracerForTest();
		const alone = await cleanHere(kernel, memory, picture, { exposure: 0.02, reach: PRINT_REACH }, weightsForTest());
		const together = await pool.clean(picture, 0.02);
		together.rgb.forEach((plane, c) => {
			expect(Buffer.compare(Buffer.from(plane.buffer), Buffer.from(alone.rgb[c].buffer))).toBe(0);
		});
	});
});
