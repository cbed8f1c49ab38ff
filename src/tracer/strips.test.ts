import { describe, expect, it } from "vitest";
import { randomStream } from "../core/maths/hash.ts";
import { emptyPicture, type Picture } from "../core/scene/picture.ts";
import { type Cleaned, Cleaner, doCleanJob } from "./clean.ts";
import { layersOf } from "./learned.ts";
import { cleanStrips, STRIP } from "./strips.ts";
import { tracerForTest, weightsForTest } from "./testing.ts";

/** Layers of light, and what each has of all; fog, the last, is a part of them. */
const LIGHTS = ["sun", "lamp"];
const SHARES = [0.7, 0.3, 0.1];

/** A noisy wall with specks of all sizes, some of them at the edges of strips. */
function wall(width: number, height: number): Picture {
	const random = randomStream(11);
	const p = emptyPicture(width, height, LIGHTS);
	p.samples = 16;
	for (let i = 0; i < width * height; i++) {
		for (let c = 0; c < 3; c++) {
			p.rgb[c][i] = 10 + 0.02 * Math.floor(i / width) + random();
			p.halves[c][i] = 2 * random() - 1;
			p.albedo[c][i] = 0.5;
		}
		p.normal[2][i] = 1;
		p.nearness[i] = 0.2;
		p.error[i] = 0.8;
		p.counts[i] = 16;
		p.masks[0].cover[i] = 1;
	}
	for (let y = 5; y < height; y += 41)
		for (let c = 0; c < 3; c++) {
			const i = y * width + ((y * 7) % width);
			p.rgb[c][i] = 200 * (1 + (y % 5) * 4);
			p.halves[c][i] = p.rgb[c][i] - 10;
		}
	for (const [k, rgb] of layersOf(p).entries())
		for (const [c, plane] of rgb.entries()) for (let i = 0; i < plane.length; i++) plane[i] = p.rgb[c][i] * SHARES[k];
	return p;
}

async function* stripsOf(p: Picture): AsyncGenerator<Picture> {
	for (let y = 0; y < p.height; y += STRIP) {
		const rows = Math.min(STRIP, p.height - y);
		const strip = emptyPicture(p.width, rows, LIGHTS);
		const cut = (to: Float32Array | Uint32Array, from: Float32Array | Uint32Array) =>
			to.set(from.subarray(y * p.width, (y + rows) * p.width));
		for (const key of ["rgb", "halves", "albedo", "normal"] as const)
			for (let c = 0; c < 3; c++) cut(strip[key][c], p[key][c]);
		for (const key of ["error", "nearness", "counts"] as const) cut(strip[key], p[key]);
		cut(strip.masks[0].cover, p.masks[0].cover);
		layersOf(strip).forEach((rgb, k) => {
			rgb.forEach((plane, c) => cut(plane, layersOf(p)[k][c]));
		});
		yield strip;
	}
}

const planesOf = ({ rgb, layers }: Cleaned): Float32Array[] => [...rgb, ...layers.flat()];

describe("a picture that comes in strips", () => {
	for (const height of [100, 128, 200, 256, 512, 530]) {
		it(`of ${height} rows has its noise taken out as if it came as a whole`, async () => {
			const p = wall(48, height);
			const { memory, kernel } = tracerForTest();
			const cleaner = new Cleaner(kernel, memory, weightsForTest(), async (_, job) =>
				doCleanJob(kernel, memory.memory.buffer, job),
			);
			const on = (view: Picture, part?: { y: number; rows: number }): Promise<Cleaned> =>
				cleaner.clean(1, view, { exposure: 0.02, reach: 10, rows: part });
			const all = planesOf(await on(p));
			let rows = 0;
			for await (const { y, strip, clean } of cleanStrips(stripsOf(p), on)) {
				expect(y).toBe(rows);
				rows += strip.height;
				planesOf(clean).forEach((plane, c) => {
					expect(Buffer.compare(Buffer.from(plane.buffer), Buffer.from(all[c].slice(y * 48, rows * 48).buffer))).toBe(
						0,
					);
				});
			}
			expect(rows).toBe(height);
		});
	}
});
