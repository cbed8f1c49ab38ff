import { describe, expect, it } from "vitest";
import { framePlanes } from "../core/finish/bentLines.ts";
import { NO_CHARACTER, tracedArea } from "../core/lens/character.ts";
import { sharesOf } from "../core/maths/area.ts";
import { bent } from "../core/maths/division.ts";
import { traceAtOnce } from "./testing.ts";
import { testScene } from "./testScene.ts";

const size = { width: 192, height: 192 };

/** Upright beams that glow, 100 m off, where a metre is 1.92 px. */
const BEAMS = [-42, -20, 15, 40];
const scene = testScene(
	BEAMS.map((x) => ({ kind: "box", position: [x, -70, -100], size: [4, 140, 0.01], glow: [1, 1, 1] })),
);

describe("what is traced beyond the frame", () => {
	it("leaves the frame's own pixels as they are, bit by bit", () => {
		const settings = { ...size, seed: 3, uniformSky: [0.2, 0.2, 0.2] as [number, number, number] };
		const own = traceAtOnce(scene, settings, 16);
		const area = { x: -21, y: -9, width: 230, height: 207 };
		const wide = traceAtOnce(scene, settings, 16, [], area);
		for (let y = 0; y < size.height; y++)
			for (let c = 0; c < 3; c++) {
				const from = (y + 9) * 230 + 21;
				expect(wide.rgb[c].subarray(from, from + 192)).toEqual(own.rgb[c].subarray(y * 192, (y + 1) * 192));
			}
		// And beyond it the place goes on.
		expect(wide.depth.subarray(0, 21).every((d) => d > 0)).toBe(true);
	});

	it.each([-0.2, -0.06, 0.15])("lies where a reference bent by %d has it, within half a pixel", (bend) => {
		const lens = { ...NO_CHARACTER, bend };
		const area = tracedArea(null, size, { lens });
		const { rgb } = traceAtOnce(scene, { ...size, seed: 3, uniformSky: [0, 0, 0] }, 64, [], area);
		const { planes } = framePlanes(rgb, area, sharesOf(area, size), lens);
		const radius = Math.hypot(size.width, size.height) / 2;
		let seen = 0;
		for (let y = 4; y < size.height; y += 8)
			for (const x of BEAMS) {
				// The middle of the beam, drawn straight and bent as a reference's own pixels are.
				let down = y + 0.5 - 96;
				let at = 0;
				for (let k = 0; k < 30; k++) {
					const p = bent([x * 1.92, down], bend, radius);
					down += y + 0.5 - 96 - p[1];
					at = 96 + p[0];
				}
				if (at < 6 || at > 186) continue;
				let [sum, weight] = [0, 0];
				for (let i = Math.round(at) - 6; i < Math.round(at) + 6; i++) {
					sum += (i + 0.5) * planes[1][y * 192 + i];
					weight += planes[1][y * 192 + i];
				}
				expect(Math.abs(sum / weight - at)).toBeLessThan(0.5);
				seen++;
			}
		expect(seen).toBeGreaterThan(40);
	});
});
