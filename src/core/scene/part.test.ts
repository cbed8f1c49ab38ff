import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { fittedPart, LEAST_PART, partInPixels } from "./part.ts";

describe("a part of the frame", () => {
	it("covers the pixels that it touches, at least one, and is nothing when it is all", () => {
		expect(partInPixels({ x: 0.25, y: 0.5, width: 0.5, height: 0.25 }, 200, 100)).toEqual({
			x: 50,
			y: 50,
			width: 100,
			height: 25,
		});
		expect(partInPixels({ x: 0.999, y: 0.999, width: 0.001, height: 0.001 }, 16, 16)).toEqual({
			x: 15,
			y: 15,
			width: 1,
			height: 1,
		});
		expect(partInPixels({ x: 0, y: 0, width: 1, height: 1 }, 64, 36)).toBeNull();
		expect(partInPixels(null, 64, 36)).toBeNull();
	});
	it("lies in the frame however its corners are dragged", () => {
		const share = fc.double({ min: -0.5, max: 1.5, noNaN: true });
		fc.assert(
			fc.property(share, share, share, share, fc.integer({ min: 1, max: 5000 }), (x0, y0, x1, y1, size) => {
				const p = fittedPart(x0, y0, x1, y1);
				expect(p.width).toBeGreaterThanOrEqual(LEAST_PART - 1e-9);
				expect(p.x + p.width).toBeLessThanOrEqual(1.0005);
				expect(p.y + p.height).toBeLessThanOrEqual(1.0005);
				const px = partInPixels(p, size, size) ?? { x: 0, y: 0, width: size, height: size };
				expect(px.width).toBeGreaterThan(0);
				expect(px.x + px.width).toBeLessThanOrEqual(size);
			}),
		);
	});
});
