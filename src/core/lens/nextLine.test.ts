import { describe, expect, it } from "vitest";
import { CENTRE_X, type Drawn, HEADING, LOG_EYE, LOG_F, PITCH, ROLL } from "./drawn.ts";
import { MADE_UP_FILM, MADE_UP_IMAGE, MadeUp } from "./madeUp.ts";
import { nextLine } from "./nextLine.ts";
import { solvePerspective } from "./solvePerspective.ts";

const { width, height } = MADE_UP_IMAGE;
const free = [LOG_F, PITCH, ROLL, HEADING];

/** The unknowns of a camera of 30 mm that looks along a heading. */
function unknowns(headingDeg: number, pitchDeg = 2): Float64Array {
	const u = new Float64Array(Math.max(LOG_F, PITCH, ROLL, HEADING, CENTRE_X, LOG_EYE) + 2);
	u[LOG_F] = Math.log((30 / MADE_UP_FILM.widthMm) * width);
	u[PITCH] = pitchDeg;
	u[HEADING] = headingDeg;
	return u;
}

const lines = (axis: "x" | "y" | "z", ...ends: [number, number, number, number][]): Drawn["lines"] =>
	ends.map((e) => ({ axis, ends: e }));
const drawn = (l: Drawn["lines"]): Drawn => ({ lines: l, ellipses: [], horizon: null, heights: [], lengths: [] });

describe("what to draw next", () => {
	it("is another direction when only one is drawn, and it names where", () => {
		const along = drawn(lines("z", [-600, 400, -100, 60], [600, 400, 100, 60]));
		const told = nextLine(along, unknowns(30), free, { width, height }, 1);
		expect(told).toMatch(/^An edge (across|that stands upright), .* and .*, would (settle|tell most of) the lens\.$/);
	});

	it("is nothing where the lens is known as well as one more line could tell", () => {
		const made = new MadeUp(3);
		const truth = { ...made.camera(), focalMm: 30, headingDeg: 40, pitchDeg: 4, rollDeg: 0 };
		const many = made.directions(["z", "x", "y"], truth, 0.1, 12).flatMap(({ axis, segments }) =>
			segments.map(([x1, y1, x2, y2]) => ({
				axis,
				ends: [x1 - width / 2, y1 - height / 2, x2 - width / 2, y2 - height / 2] as [number, number, number, number],
			})),
		);
		expect(
			nextLine(drawn(Array.from({ length: 30 }, () => many).flat()), unknowns(40, 4), free, { width, height }, 0.01),
		).toBe("");
	});

	it("says nothing of a lens that is given", () => {
		expect(nextLine(drawn(lines("z", [-600, 400, -100, 60])), unknowns(0), [PITCH, ROLL], { width, height }, 1)).toBe(
			"",
		);
	});

	it("does what it promises: with the line drawn where it says, the lens is known several times better", () => {
		const made = new MadeUp(11);
		const truth = { ...made.camera(), focalMm: 30, headingDeg: 28, pitchDeg: 3, rollDeg: 0 };
		const directions = made
			.directions(["z", "x"], truth, 0.5, 4)
			.map(({ axis, segments }) => ({ axis, segments: segments as (readonly [number, number, number, number])[] }));
		// Two lines along, and across two that lie close together: the lens is hardly known.
		const [along, across] = directions;
		const near = across.segments[0];
		const poor = [
			{ axis: along.axis, segments: along.segments.slice(0, 2) },
			{ axis: across.axis, segments: [near, [near[0] + 3, near[1] + 6, near[2] + 3, near[3] + 6] as const] },
		];
		const film = { widthMm: MADE_UP_FILM.widthMm };
		const solve = (d: typeof poor) => {
			try {
				return solvePerspective({ image: MADE_UP_IMAGE, film, directions: d }).focalMmSd;
			} catch {
				return Number.POSITIVE_INFINITY;
			}
		};
		const before = solve(poor);
		const after = solve([poor[0], { axis: across.axis, segments: [near, ...across.segments.slice(1, 4)] }]);
		expect(after).toBeLessThan(before / 2);
	});
});
