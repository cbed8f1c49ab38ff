import { beforeEach, describe, expect, it } from "vitest";
import {
	type Axis,
	CENTRE_X,
	CENTRE_Y,
	type Drawn,
	HEADING,
	LOG_EYE,
	LOG_F,
	PITCH,
	ROLL,
	type Segment,
} from "./drawn.ts";
import { refit } from "./fitCamera.ts";
import { MADE_UP_FILM as film, MADE_UP_IMAGE as image, MadeUp, type TrueCamera } from "./madeUp.ts";
import { PerspectiveError, type PerspectiveInput, solvePerspective } from "./solvePerspective.ts";

const median = (v: number[]) => v.sort((a, b) => a - b)[Math.floor(v.length / 2)];
const turn = (a: number, b: number) => Math.abs(((((a - b) % 180) + 270) % 180) - 90);
let made: MadeUp;
beforeEach(() => {
	made = new MadeUp(20);
});

interface Case {
	truth: TrueCamera;
	input: PerspectiveInput;
	/** The same without the line that is wrong. */
	told: PerspectiveInput;
	wrong?: [number, number];
}

/** Draws until the camera sees all that is asked of it. */
function until<T>(draw: () => T | null): T {
	for (;;) {
		const made = draw();
		if (made) return made;
	}
}

/** The likeliest fit that is told which line is wrong: least squares from the true camera, without search. */
function likeliest(
	{ directions, heights = [], ellipses = [], focalMm, principal }: PerspectiveInput,
	t: TrueCamera,
): { focalMm: number; pitchDeg: number } | null {
	const centred = ([x, y]: readonly [number, number]): [number, number] => [x - image.width / 2, image.height / 2 - y];
	const drawn: Drawn = {
		lines: directions.flatMap(({ axis, segments }) =>
			segments.map(([a, b, c, d]) => ({ axis, ends: [...centred([a, b]), ...centred([c, d])] as const })),
		),
		ellipses: ellipses.map((e) => ({
			centre: centred(e.centre),
			axes: e.axes,
			angleRad: (-e.angleDeg * Math.PI) / 180,
			plane: e.plane,
		})),
		horizon: null,
		heights: heights.map((h) => ({ base: centred(h.base), top: centred(h.top), metres: h.heightM })),
		lengths: [],
	};
	const perMm = image.width / film.widthMm;
	const start = new Float64Array(7);
	start.set([
		Math.log(t.focalMm * perMm),
		t.pitchDeg,
		t.rollDeg,
		t.headingDeg,
		...(principal === "solve" ? t.centre : [0, 0]),
		Math.log(t.eyeHeightM),
	]);
	const free = [
		...(focalMm ? [] : [LOG_F, ROLL]),
		PITCH,
		HEADING,
		...(principal === "solve" ? [CENTRE_X, CENTRE_Y] : []),
		...(heights.length ? [LOG_EYE] : []),
	];
	const fit = refit(drawn, free, [start], image.width);
	return fit && { focalMm: Math.exp(fit.at[LOG_F]) / perMm, pitchDeg: fit.at[PITCH] };
}

const plain = (truth: TrueCamera, input: PerspectiveInput): Case => ({ truth, input, told: input });

function withWrong(axes: Axis[], noise: number, count: number, focal: boolean): Case {
	const truth = made.camera();
	if (focal) truth.rollDeg = 0;
	const right = made.directions(axes, truth, noise, count);
	const wrong: [number, number] = [Math.floor(made.between(0, axes.length)), Math.floor(made.between(0, count))];
	const isWrong = (d: number, s: number) => d === wrong[0] && s === wrong[1];
	const rest = { image, film, ...(focal ? { focalMm: truth.focalMm } : {}) };
	return {
		truth,
		wrong,
		input: {
			...rest,
			robust: true,
			directions: right.map((q, d) => ({
				...q,
				segments: q.segments.map((s, i) => (isWrong(d, i) ? made.wrong(s) : s)),
			})),
		},
		told: {
			...rest,
			directions: right.map((q, d) => ({ ...q, segments: q.segments.filter((_, i) => !isWrong(d, i)) })),
		},
	};
}

const KINDS: Record<string, (noise: number) => Case> = {
	"one direction, lens known": (noise) => {
		const truth = { ...made.camera(), rollDeg: 0 };
		return plain(truth, { image, film, focalMm: truth.focalMm, directions: made.directions(["z"], truth, noise, 4) });
	},
	"two directions": (noise) => {
		const truth = made.camera();
		return plain(truth, { image, film, directions: made.directions(["z", "x"], truth, noise, 3) });
	},
	"three directions": (noise) => {
		const truth = made.camera();
		return plain(truth, { image, film, directions: made.directions(["z", "x", "y"], truth, noise, 3) });
	},
	"one direction and a wrong line": (noise) => withWrong(["z"], noise, 5, true),
	"two directions and a wrong line": (noise) => withWrong(["z", "x"], noise, 5, false),
	"three directions and a wrong line": (noise) => withWrong(["z", "x", "y"], noise, 4, false),
	"a crop": (noise) => {
		const truth = made.camera(0.2);
		return plain(truth, {
			image,
			film,
			principal: "solve",
			directions: made.directions(["z", "x", "y"], truth, noise, 4),
		});
	},
	"one direction and two circles": (noise) =>
		until(() => {
			const truth = made.camera();
			const level = made.ellipse("ground", truth, noise);
			const wall = made.ellipse("x", truth, noise);
			return (
				level &&
				wall &&
				plain(truth, { image, film, directions: made.directions(["z"], truth, noise, 3), ellipses: [level, wall] })
			);
		}),
	"two directions and heights": (noise) =>
		until(() => {
			const truth = made.camera();
			const [a, b, c] = [0, 1, 2].map(() => made.height(truth, noise));
			return (
				a &&
				b &&
				c &&
				plain(truth, { image, film, directions: made.directions(["z", "x"], truth, noise, 3), heights: [a, b, c] })
			);
		}),
};

describe("perspective from drawn lines", () => {
	it("recovers the truth exactly from exact lines", () => {
		for (let i = 0; i < 40; i++) {
			const t = made.camera();
			const s = solvePerspective({
				image,
				film,
				directions: made.directions(i % 2 ? ["z", "x"] : ["z", "x", "y"], t, 0, 3),
			});
			expect(s.focalMm / t.focalMm).toBeCloseTo(1, 4);
			expect(Math.abs(s.pitchDeg - t.pitchDeg)).toBeLessThan(0.005);
			expect(Math.abs(s.rollDeg - t.rollDeg)).toBeLessThan(0.005);
			expect(turn(s.headingDeg, t.headingDeg)).toBeLessThan(0.01);
			expect(Math.max(...s.residualsPx.flat())).toBeLessThan(0.01);
			expect(s.outliers).toEqual([]);
		}
	});

	for (const [kind, make] of Object.entries(KINDS))
		it(`comes within 1.15 of the likeliest fit, and is honest of its spread: ${kind}`, () => {
			const focal = { own: [] as number[], told: [] as number[] };
			const pitch = { own: [] as number[], told: [] as number[] };
			const within = { focal: 0, pitch: 0, roll: 0, heading: 0, centre: 0, eye: 0 };
			let found = 0;
			let solved = 0;
			for (let i = 0; i < 250; i++) {
				const { truth, input, told, wrong } = make(made.between(0.25, 2));
				try {
					const s = solvePerspective(input);
					const best = likeliest(told, truth);
					if (!best) continue;
					solved++;
					focal.own.push(Math.abs(Math.log(s.focalMm / truth.focalMm)));
					focal.told.push(Math.abs(Math.log(best.focalMm / truth.focalMm)));
					pitch.own.push(Math.abs(s.pitchDeg - truth.pitchDeg));
					pitch.told.push(Math.abs(best.pitchDeg - truth.pitchDeg));
					const near = (own: number, real: number, sd: number) => Number(Math.abs(own - real) <= 2 * sd + 1e-9);
					within.focal += near(s.focalMm, truth.focalMm, s.focalMmSd);
					within.pitch += near(s.pitchDeg, truth.pitchDeg, s.pitchDegSd);
					within.roll += near(s.rollDeg, truth.rollDeg, s.rollDegSd);
					within.heading += near(turn(s.headingDeg, truth.headingDeg), 0, s.headingDegSd);
					within.centre += near(s.principalPoint[0], image.width / 2 + truth.centre[0], s.principalPointSd[0]);
					within.eye += near(s.eyeHeightM ?? truth.eyeHeightM, truth.eyeHeightM, s.eyeHeightMSd ?? 0);
					if (wrong && s.outliers.length === 1 && s.outliers[0].join() === wrong.join()) found++;
				} catch (error) {
					expect((error as PerspectiveError).code).toBe("not-determined");
				}
			}
			expect(solved).toBeGreaterThan(220);
			expect(median(focal.own)).toBeLessThanOrEqual(1.15 * median(focal.told));
			expect(median(pitch.own)).toBeLessThanOrEqual(1.15 * median(pitch.told));
			if (kind.includes("wrong")) expect(found / solved).toBeGreaterThan(0.95);
			// Noise between 0.25 and 2 px is not known beforehand, and few lines tell little of it.
			for (const share of Object.values(within)) expect(share / solved).toBeGreaterThan(0.8);
		});

	it("is honest of its spread at half a pixel of noise", () => {
		for (const axes of [
			["z", "x"],
			["z", "x", "y"],
		] as Axis[][]) {
			const within = { focal: 0, pitch: 0, roll: 0, heading: 0 };
			let solved = 0;
			for (let i = 0; i < 500; i++) {
				const t = made.camera();
				try {
					const s = solvePerspective({ image, film, directions: made.directions(axes, t, 0.5, 3) });
					solved++;
					within.focal += Number(Math.abs(s.focalMm - t.focalMm) <= 2 * s.focalMmSd);
					within.pitch += Number(Math.abs(s.pitchDeg - t.pitchDeg) <= 2 * s.pitchDegSd);
					within.roll += Number(Math.abs(s.rollDeg - t.rollDeg) <= 2 * s.rollDegSd);
					within.heading += Number(turn(s.headingDeg, t.headingDeg) <= 2 * s.headingDegSd);
				} catch (error) {
					expect((error as PerspectiveError).code).toBe("not-determined");
				}
			}
			for (const share of Object.values(within)) {
				expect(share / solved).toBeGreaterThan(0.9);
				expect(share / solved).toBeLessThanOrEqual(0.995);
			}
		}
	});

	it("needs one direction when the focal length is given, and says that roll is taken as level", () => {
		const t = { ...made.camera(), focalMm: 35, pitchDeg: 3, rollDeg: 0, headingDeg: 30 };
		const s = solvePerspective({ image, film, focalMm: 35, directions: made.directions(["z"], t, 0, 3) });
		expect(s.pitchDeg).toBeCloseTo(3, 3);
		expect(s.headingDeg).toBeCloseTo(30, 2);
		expect(s.focalMmSd).toBe(0);
		expect(s.warnings.join()).toMatch(/taken as level/);
	});

	it("needs a horizon alone when the focal length is given", () => {
		const s = solvePerspective({ image, film, focalMm: 36, directions: [], horizon: { yLeft: 640, yRight: 600 } });
		expect(s.horizon.yLeft).toBeCloseTo(640, 3);
		expect(s.horizon.yRight).toBeCloseTo(600, 3);
		expect(s.rollDeg).toBeCloseTo((Math.atan2(40, 1920) * 180) / Math.PI, 3);
		expect(s.pitchDeg).toBeGreaterThan(0);
		expect(s.warnings.join()).toMatch(/heading/);
		expect(() => solvePerspective({ image, film, directions: [], horizon: { yLeft: 640, yRight: 600 } })).toThrow(
			/focal length/,
		);
	});

	it("solves from upright edges and a horizon", () => {
		const t = { ...made.camera(), pitchDeg: -7, rollDeg: 1 };
		const at = solvePerspective({
			image,
			film,
			focalMm: t.focalMm,
			directions: made.directions(["y", "z"], t, 0, 3),
		}).horizon;
		const s = solvePerspective({ image, film, directions: made.directions(["y"], t, 0, 4), horizon: at });
		expect(s.focalMm).toBeCloseTo(t.focalMm, 1);
		expect(s.pitchDeg).toBeCloseTo(-7, 2);
	});

	it("says which lines may be wrong when it cannot tell which is", () => {
		const t = { ...made.camera(), focalMm: 35, headingDeg: 35 };
		const directions = made.directions(["z", "x"], t, 0.3, 3);
		const bad = directions.map((d, i) => ({
			...d,
			segments: d.segments.map((s, k) => (i === 0 && k === 1 ? ([s[0], s[1] + 12, s[2], s[3] - 12] as const) : s)),
		}));
		const s = solvePerspective({ image, film, directions: bad, robust: true });
		expect(s.outliers).toEqual([]);
		expect(s.warnings.join()).toMatch(/does not belong with the rest: line \d along, line \d along or line \d along/);
	});

	it("tells what each line does to the lens", () => {
		const { input, told, wrong } = until(() => {
			const c = withWrong(["z", "x"], 0.5, 5, false);
			try {
				solvePerspective({ ...c.input, robust: false });
				return c;
			} catch (error) {
				expect((error as Error).message).toMatch(/Without line|Draw longer|edge/);
				return null;
			}
		});
		const [d, i] = wrong as [number, number];
		const kept = solvePerspective({ ...input, robust: false });
		expect(kept.influence[d][i]).toBeCloseTo(solvePerspective(told).focalMm, 2);
		expect(kept.outliers).toEqual([wrong]);
		const left = solvePerspective(input);
		expect(left.influence[d][i]).toBeCloseTo(kept.focalMm, 2);
	});

	it("recognises a cropped picture", () => {
		const t = { ...made.camera(), focalMm: 28, pitchDeg: 6, headingDeg: 40, centre: [400, -150] as const };
		const directions = made.directions(["z", "x", "y"], t, 0.4, 5);
		expect(solvePerspective({ image, film, directions }).warnings.join()).toMatch(/may be cropped/);
		const s = solvePerspective({ image, film, directions, principal: "solve" });
		expect(Math.abs(s.principalPoint[0] - 1360)).toBeLessThan(3 * s.principalPointSd[0]);
		expect(Math.abs(s.principalPoint[1] - 690)).toBeLessThan(3 * s.principalPointSd[1]);
		expect(Math.abs(s.focalMm - 28)).toBeLessThan(3 * s.focalMmSd);
		expect(() => solvePerspective({ image, film, directions: directions.slice(0, 2), principal: "solve" })).toThrow(
			/upright/,
		);
	});

	it("reconciles heights and lengths with each other", () => {
		const { truth, input } = KINDS["two directions and heights"](0);
		const s = solvePerspective(input);
		expect(s.eyeHeightM).toBeCloseTo(truth.eyeHeightM, 3);
		const doubled = solvePerspective({
			...input,
			heights: input.heights?.map((h) => ({ ...h, heightM: 2 * h.heightM })),
		});
		expect(doubled.eyeHeightM).toBeCloseTo(2 * truth.eyeHeightM, 3);
		const [h] = input.heights ?? [];
		expect(() => solvePerspective({ ...input, heights: [{ ...h, base: [h.base[0], -2000] }] })).toThrow(/Height 1/);
		const level = solvePerspective({
			...input,
			heights: [],
			lengths: [{ from: h.base, to: [h.base[0] + 60, h.base[1]], lengthM: 2 }],
		});
		expect(level.lengthsM?.[0]).toBeCloseTo(2, 3);
	});

	it("straightens what a bent lens has drawn", () => {
		const t = { ...made.camera(), focalMm: 24, headingDeg: 40 };
		const R = Math.hypot(960, 540);
		const bendIt = ([x, y]: readonly [number, number]): [number, number] => {
			// The division model the other way round, k = −0.12, by iteration.
			let [u, v] = [x - 960, y - 540];
			for (let i = 0; i < 60; i++) {
				const s = 1 + (-0.12 * (u * u + v * v)) / (R * R);
				[u, v] = [(x - 960) * s, (y - 540) * s];
			}
			return [u + 960, v + 540];
		};
		const along = (s: Segment, n: number) =>
			Array.from({ length: n }, (_, i) =>
				bendIt([s[0] + ((s[2] - s[0]) * i) / (n - 1), s[1] + ((s[3] - s[1]) * i) / (n - 1)]),
			);
		const directions = made.directions(["z", "x"], t, 0, 4);
		const bentLines = directions.map((d) => ({
			...d,
			segments: d.segments.map((s) => [...bendIt([s[0], s[1]]), ...bendIt([s[2], s[3]])] as unknown as Segment),
		}));
		const s = solvePerspective({
			image,
			film,
			directions: bentLines,
			curves: directions.flatMap((d) => d.segments.map((q) => along(q, 6))),
		});
		expect(s.bend?.k).toBeCloseTo(-0.12, 4);
		expect(s.focalMm).toBeCloseTo(24, 2);
	});

	it("puts the horizon where the meeting points of level directions lie", () => {
		const t = made.camera();
		const s = solvePerspective({ image, film, directions: made.directions(["z", "x"], t, 0, 3) });
		for (const m of s.meeting) {
			const at = s.horizon.yLeft + ((s.horizon.yRight - s.horizon.yLeft) * (m?.x ?? 0)) / image.width;
			expect(Math.abs((m?.y ?? 0) - at)).toBeLessThan(1);
		}
	});

	it("refuses in plain words what the lines do not determine, and says what to draw", () => {
		const refused = (seed: number) => () => {
			made = new MadeUp(seed);
			const ahead = { ...made.camera(), focalMm: 35, pitchDeg: 1, rollDeg: 0, headingDeg: 0.01 };
			solvePerspective({ image, film, directions: made.directions(["z", "x"], ahead, 0.5, 3) });
		};
		expect(refused(46)).toThrow(/could be \d+ mm or any longer one\. Draw longer lines/);
		expect(refused(20)).toThrow(/could be \d+ mm or any shorter one\. An edge that stands upright, .* lens\./);
		expect(refused(1)).toThrow(/could be anything from \d+ to \d+ mm\. An edge that stands upright, .* lens\./);
		expect(() => solvePerspective({ image, film, directions: made.directions(["z"], made.camera(), 0, 3) })).toThrow(
			/second direction/,
		);
		expect(() => solvePerspective({ image, film, directions: [] })).toThrow(PerspectiveError);
		const lines = (...segments: Segment[]) => ({ image, film, directions: [{ axis: "z" as const, segments }] });
		expect(() => solvePerspective(lines([5, 5, 5, 5], [0, 0, 9, 9]))).toThrow(/no length/);
		expect(() => solvePerspective(lines([5, Number.NaN, 5, 5]))).toThrow(/not a number/);
		expect(() =>
			solvePerspective({
				...lines([0, 0, 99, 9]),
				ellipses: [{ centre: [5, 5], axes: [0, 4], angleDeg: 0, plane: "ground" }],
			}),
		).toThrow(/half axes/);
		expect(() =>
			solvePerspective({ ...lines([0, 0, 99, 9]), heights: [{ base: [5, 5], top: [5, 1], heightM: -1 }] }),
		).toThrow(/above 0/);
	});
});
