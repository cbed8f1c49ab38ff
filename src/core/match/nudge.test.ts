import { describe, expect, it } from "vitest";
import type { Match } from "../doc/schema.ts";
import { nudgeLineEnd, nudgeMark } from "./nudge.ts";

const match: Match = {
	lines: [{ id: "l", axis: "along", x1: 10, y1: 20, x2: 110, y2: 60 }],
	focalGivenMm: null,
	eyeHeightM: 1.6,
	measures: [{ id: "m", kind: "height", x1: 5, y1: 90, x2: 5, y2: 40, metres: 1.7 }],
	circles: [{ id: "c", x: 50, y: 60, a: 20, b: 10, angleDeg: 0, plane: "ground" }],
	horizon: { yLeft: 30, yRight: 34 },
};

describe("what is drawn", () => {
	it("is moved by an end of a line", () => {
		expect(nudgeLineEnd(match, "l", 1, 1, -2)).toMatchObject({ line: { x1: 11, y1: 18, x2: 110, y2: 60 } });
		expect(nudgeLineEnd(match, "l", 2, 0.1, 0)).toMatchObject({ line: { x1: 10, x2: 110.1, y2: 60 } });
		expect(nudgeLineEnd(match, "none", 2, 1, 0)).toBeNull();
	});
	it("is moved by the top of a known size, a circle as a whole, the horizon by its height and its tilt", () => {
		expect(nudgeMark(match, "m", 0, -1)).toMatchObject({ measure: { y1: 90, y2: 39 } });
		expect(nudgeMark(match, "c", 3, 0)).toMatchObject({ circle: { x: 53, y: 60, a: 20 } });
		expect(nudgeMark(match, "horizon", 0, 2)).toMatchObject({ horizon: { yLeft: 32, yRight: 36 } });
		expect(nudgeMark(match, "horizon", 1, 0)).toMatchObject({ horizon: { yLeft: 31, yRight: 33 } });
		expect(nudgeMark({ ...match, horizon: null }, "horizon", 1, 0)).toBeNull();
	});
});
