import { describe, expect, it } from "vitest";
import { bent, straightened } from "../maths/division.ts";
import { type Pixels, straightenRows } from "./straighten.ts";

const width = 240;
const height = 160;
const radius = Math.hypot(width, height) / 2;
type Shade = (x: number, y: number) => number;

/** A picture of one channel as a lens of bend `k` would have it. */
function seenThrough(shade: Shade, k: number): Pixels {
	const data = new Uint8Array(width * height);
	for (let y = 0; y < height; y++)
		for (let x = 0; x < width; x++) {
			const [u, v] = straightened([x + 0.5 - width / 2, y + 0.5 - height / 2], k, radius);
			data[y * width + x] = Math.round(shade(u + width / 2, v + height / 2));
		}
	return { data, width, height, channels: 1 };
}

const straight = (from: Pixels, k: number): Uint8Array => {
	const out = new Uint8Array(from.data.length);
	straightenRows(from, k, out, 0, from.height);
	return out;
};

describe("a picture without the bend of its lens", () => {
	const waves: Shade = (x, y) => 128 + 60 * Math.sin(x / 9) + 50 * Math.cos(y / 11);
	it.each([-0.18, -0.05, 0.04])("is the straight one again, between the grey steps, for a bend of %d", (k) => {
		const out = straight(seenThrough(waves, k), k);
		let worst = 0;
		for (let y = 8; y < height - 8; y++)
			for (let x = 8; x < width - 8; x++) {
				const [u, v] = bent([x + 0.5 - width / 2, y + 0.5 - height / 2], k, radius);
				// What the lens did not see cannot come back.
				if (Math.abs(u) > width / 2 - 1 || Math.abs(v) > height / 2 - 1) continue;
				worst = Math.max(worst, Math.abs(out[y * width + x] - waves(x + 0.5, y + 0.5)));
			}
		expect(worst).toBeLessThan(3);
	});
	it("is the very same without a bend", () => {
		const from = seenThrough(waves, 0);
		expect(straight(from, 0)).toEqual(from.data);
	});
	it("is seen through beyond the edges of one bent like a cushion, and filled to the corners of a barrel", () => {
		const rgba = (k: number) => {
			const data = new Uint8Array(width * height * 4).fill(255);
			const out = new Uint8Array(data.length);
			straightenRows({ data, width, height, channels: 4 }, k, out, 0, height);
			return [out[3], out[(((height / 2) | 0) * width + width / 2) * 4 + 3]];
		};
		expect(rgba(0.2)).toEqual([0, 255]);
		expect(rgba(-0.2)).toEqual([255, 255]);
	});
	it("is made by rows, whichever come first", () => {
		const from = seenThrough(waves, -0.1);
		const whole = straight(from, -0.1);
		const parts = new Uint8Array(whole.length);
		straightenRows(from, -0.1, parts, 90, height);
		straightenRows(from, -0.1, parts, 0, 90);
		expect(parts).toEqual(whole);
	});
});
