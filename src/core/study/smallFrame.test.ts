import { describe, expect, it } from "vitest";
import { blankShot } from "../doc/defaults.ts";
import { compile } from "../scene/compile.ts";
import { NO_BLOBS, NO_MAKERS } from "../scene/inputs.ts";
import { PartCache } from "../scene/partCache.ts";
import { STILL } from "../time/frames.ts";
import { joined, packSmall, parted, type SmallFrame, SmallFrameError, smallSign, unpackSmall } from "./smallFrame.ts";

const plane = (k: number) =>
	Float32Array.from({ length: 12 * 7 }, (_, i) => (i === 5 ? 0 : k * 1.7 ** (i % 40) * 1e-4));
const small: SmallFrame = {
	frame: 31,
	sign: "small:abc",
	width: 12,
	height: 7,
	part: { x: -0.1, y: 0, width: 1.2, height: 1 },
	rgb: [plane(1), plane(0.8), plane(0.5)],
	ev100: 12.9,
	probe: {
		frame: 31,
		across: 3,
		down: 2,
		ids: Uint32Array.from([0, 1, 2, 3, 70_000, 5]),
		distancesM: Float64Array.from([Infinity, 1.5, 20, 300, 4000, 7]),
	},
};

describe("a small frame", () => {
	it("is kept to a percent of its light, with what lies in it and how far", () => {
		const back = unpackSmall(packSmall(small));
		expect({ ...back, rgb: null }).toEqual({ ...small, rgb: null });
		for (let c = 0; c < 3; c++)
			small.rgb[c].forEach((v, i) => {
				const most = Math.max(...small.rgb.map((p) => p[i]));
				expect(Math.abs(back.rgb[c][i] - v)).toBeLessThanOrEqual(most / 120);
			});
		expect(back.rgb[0][5]).toBe(0);
	});
	it("cut or changed anywhere is refused, never taken for another", () => {
		const packed = packSmall(small);
		for (let n = 0; n < packed.length; n += 9)
			expect(() => unpackSmall(packed.subarray(0, n))).toThrow(SmallFrameError);
		expect(() => unpackSmall(packSmall({ ...small, width: 5000 }))).toThrow(SmallFrameError);
		expect(() => unpackSmall(packSmall({ ...small, frame: -1 }))).toThrow(SmallFrameError);
	});
	it("lies with others behind each other", () => {
		const all = [0, 1, 2].map((frame) => packSmall({ ...small, frame }));
		expect([...parted(joined(all))].map((b) => unpackSmall(b).frame)).toEqual([0, 1, 2]);
		expect(() => [...parted(joined(all).subarray(0, -1))]).toThrow(SmallFrameError);
		expect([...parted(new Uint8Array(0))]).toEqual([]);
	});
	it("is told from others by all that is traced, and not by finish, exposure and lock", () => {
		const doc = blankShot();
		const cache = new PartCache();
		const signOf = (d: typeof doc) => smallSign(compile(d, STILL, NO_BLOBS, NO_MAKERS, cache));
		const sign = signOf(doc);
		const other = {
			...doc,
			finish: { ...doc.finish, contrast: 1.5 },
			camera: { ...doc.camera, ev100: 3, locked: true },
		};
		expect(signOf(other)).toBe(sign);
		expect(signOf({ ...doc, camera: { ...doc.camera, focalMm: 31 } })).not.toBe(sign);
	});
});
