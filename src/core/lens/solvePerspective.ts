/**
 * Solves a camera from what is drawn over a reference: lines along edges that are parallel in the place, circles seen as
 * ellipses, a horizon, known heights and lengths, curves that are straight in the place.
 *
 * Model: a pinhole whose axis meets the picture's centre, unless that is solved too; unknown are the focal length, pitch,
 * roll, heading and, from known measures, the eye height. `drawn.ts` tells how far each drawn thing is from what such a
 * camera sees, `fitCamera.ts` how the likeliest camera is found. One wrong line is found by leaving each out in turn: the
 * fit must gain more by it than noise gives (Student's t, at 1 % for all lines together) and more than by any other line.
 */

import { straightened } from "../maths/division.ts";
import { atan2, DEG, exp, log } from "../maths/functions.ts";
import { type Bend, estimateBend } from "./bend.ts";
import {
	type Axis,
	CENTRE_X,
	CENTRE_Y,
	type CirclePlane,
	countOf,
	type Drawn,
	eyeOf,
	HEADING,
	heightInEyes,
	horizonAt,
	LOG_EYE,
	LOG_F,
	lengthInEyes,
	lineResidual,
	logMeasure,
	meetingPoint,
	PITCH,
	type Pixel,
	ROLL,
	type Segment,
	STEPS,
} from "./drawn.ts";
import { covarianceOf, fitCamera, refit } from "./fitCamera.ts";
import { AXIS_NAME, nextLine } from "./nextLine.ts";

export type { Axis, CirclePlane, Pixel, Segment } from "./drawn.ts";

export interface PerspectiveInput {
	image: { width: number; height: number };
	film: { widthMm: number };
	focalMm?: number;
	directions: { axis: Axis; segments: Segment[] }[];
	/** Whether the lens's axis meets the picture's centre, or where it does is solved too. */
	principal?: "centre" | "solve";
	/** Things of known height that stand upright on level ground. */
	heights?: { base: Pixel; top: Pixel; heightM: number }[];
	/** Known distances between two places of level ground. */
	lengths?: { from: Pixel; to: Pixel; lengthM: number }[];
	/** Circles seen as ellipses: half axes in pixels; the angle of the first counts from right towards down. */
	ellipses?: { centre: Pixel; axes: Pixel; angleDeg: number; plane: CirclePlane }[];
	/** Height of the horizon, in pixels from the top, at the left and right edge. */
	horizon?: { yLeft: number; yRight: number };
	/** Places along edges that are straight in the place and bent in the picture. */
	curves?: Pixel[][];
	/** One wrong line is found and left out. */
	robust?: boolean;
	/** What messages call each segment of each direction; without it "line 2 along". */
	names?: string[][];
}

export interface PerspectiveSolution {
	focalMm: number;
	focalMmSd: number;
	pitchDeg: number;
	pitchDegSd: number;
	rollDeg: number;
	rollDegSd: number;
	/** Lines have no sense: of the two headings that see them so, the one that looks along z's own way, −90 to 90. */
	headingDeg: number;
	headingDegSd: number;
	/** Height of the horizon, in pixels from the top, at x = 0 and x = width. */
	horizon: { yLeft: number; yRight: number };
	/** RMS distance in pixels of the two ends to the best line through the meeting point, per segment per direction. */
	residualsPx: number[][];
	/** Meeting point of each direction in pixels, null where its edges stay parallel in the picture, and its spread (one sd). */
	meeting: ({ x: number; y: number; spreadPx: number } | null)[];
	warnings: string[];
	/** Where the lens's axis meets the picture, and how well that is known (0 when it is taken as the centre). */
	principalPoint: [number, number];
	principalPointSd: [number, number];
	/** From known heights and lengths. */
	eyeHeightM?: number;
	eyeHeightMSd?: number;
	/** Of each known height and length: what the camera makes of it, metres. */
	heightsM?: number[];
	lengthsM?: number[];
	/** Direction and segment of each line that is found wrong; with `robust` it does not count. */
	outliers: [number, number][];
	/** Focal length without each segment, null where the rest does not determine it; of one that does not count, with it. */
	influence: (number | null)[][];
	bend?: Bend;
	/** What would tell most if it were drawn next. */
	advice?: string;
}

/** The lines do not determine a camera, or are not lines. */
export class PerspectiveError extends Error {
	readonly code: string;
	constructor(code: string, message: string) {
		super(message);
		this.code = code;
	}
}

/** Weight, in observations, and size in pixels of what is known of a hand before it draws. */
const PRIOR = { observations: 3, sdPx: 0.7 };
const MOST_RELATIVE_SD = 0.3;
/** A wrong line must gain this many times as much likelihood as any other line left out (e to the half of it). */
const TOLD_APART = 6;
/** Two more unknowns gain a chi-squared of two degrees; 1 in 1,000 gains this by noise alone. */
const CROP_GAIN = 13.8;

type Size = PerspectiveInput["image"];

function fairPixels(values: readonly number[], where: string): void {
	if (!values.every((v) => Number.isFinite(v) && Math.abs(v) < 1e7))
		throw new PerspectiveError("bad-input", `${where} has an end that is not a number of pixels.`);
}

/** What is drawn, relative to the picture's centre and straightened; `from` names the direction and segment of each line. */
function readDrawing(input: PerspectiveInput): { drawn: Drawn; from: [number, number][]; bend: Bend | null } {
	const { image, film } = input;
	const fair = (v: number) => Number.isFinite(v) && v > 0;
	if (!fair(image.width) || !fair(image.height))
		throw new PerspectiveError("bad-input", "The picture needs a width and a height in pixels.");
	if (!fair(film.widthMm)) throw new PerspectiveError("bad-input", "The film back needs a width in millimetres.");
	if (input.focalMm !== undefined && !(input.focalMm >= 1 && input.focalMm <= 5000))
		throw new PerspectiveError("bad-input", "The focal length must lie between 1 and 5,000 mm.");
	const cx = image.width / 2;
	const cy = image.height / 2;
	const centred = ([x, y]: Pixel): [number, number] => [x - cx, cy - y];
	for (const [i, c] of (input.curves ?? []).entries()) for (const p of c) fairPixels(p, `Curve ${i + 1}`);
	const radius = Math.hypot(cx, cy);
	const bend = input.curves?.length
		? estimateBend(
				input.curves.map((c) => c.map(centred)),
				radius,
			)
		: null;
	const straight = (p: Pixel): [number, number] => (bend ? straightened(centred(p), bend.k, radius) : centred(p));

	const from: [number, number][] = [];
	const lines: Drawn["lines"] = [];
	input.directions.forEach((d, direction) => {
		d.segments.forEach(([x1, y1, x2, y2], i) => {
			const where = `Line ${i + 1} of direction ${d.axis}`;
			fairPixels([x1, y1, x2, y2], where);
			if (Math.hypot(x2 - x1, y2 - y1) < 1) throw new PerspectiveError("bad-input", `${where} has no length.`);
			lines.push({ axis: d.axis, ends: [...straight([x1, y1]), ...straight([x2, y2])] });
			from.push([direction, i]);
		});
	});
	const measure = (a: Pixel, b: Pixel, metres: number, where: string) => {
		fairPixels([...a, ...b], where);
		if (Math.hypot(a[0] - b[0], a[1] - b[1]) < 1)
			throw new PerspectiveError("bad-input", `${where} has no length in the picture.`);
		if (!(metres > 0 && metres < 1e6))
			throw new PerspectiveError("bad-input", `${where} needs a size in metres above 0.`);
		return { a: straight(a), b: straight(b), metres };
	};
	const heights = (input.heights ?? []).map((h, i) => {
		const { a, b, metres } = measure(h.base, h.top, h.heightM, `Height ${i + 1}`);
		return { base: a, top: b, metres };
	});
	const lengths = (input.lengths ?? []).map((l, i) => {
		const { a, b, metres } = measure(l.from, l.to, l.lengthM, `Length ${i + 1}`);
		return { from: a, to: b, metres };
	});
	const ellipses = (input.ellipses ?? []).map((e, i) => {
		const where = `Ellipse ${i + 1}`;
		fairPixels([...e.centre, ...e.axes], where);
		if (!Number.isFinite(e.angleDeg)) throw new PerspectiveError("bad-input", `${where} needs an angle in degrees.`);
		if (!(e.axes[0] >= 1 && e.axes[1] >= 1))
			throw new PerspectiveError("bad-input", `${where} needs half axes of a pixel at least.`);
		const centre = straight(e.centre);
		const scale = bend ? Math.hypot(...straight([e.centre[0] + 1, e.centre[1]]).map((v, k) => v - centre[k])) : 1;
		return {
			centre,
			axes: [e.axes[0] * scale, e.axes[1] * scale] as const,
			angleRad: -e.angleDeg * DEG,
			plane: e.plane,
		};
	});
	const { horizon } = input;
	if (horizon) fairPixels([horizon.yLeft, horizon.yRight], "The horizon");
	return {
		drawn: {
			lines,
			ellipses,
			horizon: horizon ? { left: cy - horizon.yLeft, right: cy - horizon.yRight, halfWidth: cx } : null,
			heights,
			lengths,
		},
		from,
		bend,
	};
}

const counts = (drawn: Drawn): Map<Axis, number> => {
	const n = new Map<Axis, number>();
	for (const l of drawn.lines) n.set(l.axis, (n.get(l.axis) ?? 0) + 1);
	return n;
};

/** Which unknowns the drawing can tell; refuses when it plainly cannot, and says what it takes for granted instead. */
function freeUnknowns(input: PerspectiveInput, drawn: Drawn, warnings: string[]): number[] {
	const n = counts(drawn);
	const fixing = [...n.values()].filter((c) => c >= 2).length;
	const others = drawn.ellipses.length + (drawn.horizon ? 1 : 0);
	const given = input.focalMm !== undefined;
	const refuse = (message: string) => {
		throw new PerspectiveError("not-determined", message);
	};
	if (!given) {
		if (drawn.horizon && drawn.ellipses.length === 0 && !n.has("y") && n.size < 2)
			refuse(
				"A horizon and one level direction do not determine the lens. Give the focal length, or draw edges across or upright.",
			);
		if (n.size + others < 2)
			refuse(
				"One direction does not determine the lens. Draw lines along a second direction, or give the focal length.",
			);
		if (others === 0 && (fixing < 1 || drawn.lines.length < 4))
			refuse("These are too few lines. Two lines fix a direction; two directions fix the lens.");
	} else if (others === 0 && (drawn.lines.length < 2 || fixing < 1))
		refuse("Two lines fix a direction. Draw at least two along one direction.");
	const free = given ? [PITCH] : [LOG_F, PITCH];
	const walls = drawn.ellipses.some((e) => e.plane !== "ground");
	if (n.has("x") || n.has("z") || walls) free.push(HEADING);
	else
		warnings.push(
			drawn.lines.length
				? "Upright lines do not tell the heading; it is taken as 0."
				: "Nothing drawn tells the heading; it is taken as 0.",
		);
	if (n.size > 1 || n.has("y") || others > 0) free.push(ROLL);
	else warnings.push("One level direction does not tell the roll; it is taken as level.");
	if (input.principal === "solve") {
		const open = (["z", "x", "y"] as const).find((a) => (n.get(a) ?? 0) < 2);
		if (open)
			refuse(
				`The picture's centre shows only with two lines or more along each of three directions. Draw edges ${open === "y" ? "that stand upright" : AXIS_NAME[open]}, or take it as the middle.`,
			);
		free.push(CENTRE_X, CENTRE_Y);
	}
	const told = countOf(drawn) - drawn.heights.length - drawn.lengths.length;
	if (told < free.length) refuse(`These are too few lines: ${free.length} are needed at least.`);
	return free;
}

const degreesOfNoise = (cost: number, count: number, free: number): number =>
	(PRIOR.observations * PRIOR.sdPx ** 2 + cost) / (PRIOR.observations + Math.max(0, count - free));

/** Student's t that noise exceeds, in either sense, with probability p: by Hill (1970). */
function studentT(p: number, freedom: number): number {
	const a = 1 / (freedom - 0.5);
	const b = 48 / (a * a);
	let c = (((20700 * a) / b - 98) * a - 16) * a + 96.36;
	const d = ((94.5 / (b + c) - 3) / b + 1) * Math.sqrt((a * Math.PI) / 2) * freedom;
	let x = d * p;
	let y = x ** (2 / freedom);
	if (y > 0.05 + a) {
		x = -normalQuantile(p / 2);
		y = x * x;
		if (freedom < 5) c += 0.3 * (freedom - 4.5) * (x + 0.6);
		c = (((0.05 * d * x - 5) * x - 7) * x - 2) * x + b + c;
		y = (((((0.4 * y + 6.3) * y + 36) * y + 94.5) / c - y - 3) / b + 1) * x;
		y = a * y * y;
		y = y > 0.002 ? Math.expm1(y) : 0.5 * y * y + y;
	} else
		y =
			((1 / (((freedom + 6) / (freedom * y) - 0.089 * d - 0.822) * (freedom + 2) * 3) + 0.5 / (freedom + 4)) * y - 1) *
				((freedom + 1) / (freedom + 2)) +
			1 / y;
	return Math.sqrt(freedom * y);
}

/** Quantile of the normal distribution below one half (Abramowitz and Stegun 26.2.23). */
function normalQuantile(p: number): number {
	const t = Math.sqrt(-2 * Math.log(p));
	return -(
		t -
		(2.515517 + 0.802853 * t + 0.010328 * t * t) / (1 + 1.432788 * t + 0.189269 * t * t + 0.001308 * t * t * t)
	);
}

interface Wrong {
	/** Lines that may be the wrong one: one when it is told apart, several when not, none when there is none. */
	suspects: number[];
	/** The fit without it when it is told apart. */
	without: Float64Array | null;
	/** Cost without the likeliest of them. */
	cost: number;
}

const NONE: Wrong = { suspects: [], without: null, cost: Number.POSITIVE_INFINITY };

/** Looks for one line that does not belong with the rest. */
function findWrong(
	drawn: Drawn,
	free: readonly number[],
	plain: Float64Array,
	plainCost: number,
	fixed: Float64Array,
	widthPx: number,
): Wrong {
	const n = drawn.lines.length;
	const count = countOf(drawn);
	const freedom = count - 1 - free.length;
	if (freedom < 1) return NONE;
	const most = studentT(0.01 / n, PRIOR.observations + freedom);
	// Even if a line left out took all of the cost with it, it would not be more than noise.
	if (plainCost / degreesOfNoise(0, count - 1, free.length) < most * most) return NONE;
	const bound = fitCamera(drawn, free, fixed, widthPx, true);
	const starts = bound ? [bound.at] : [plain];
	const fits = drawn.lines.map((_, i) =>
		refit({ ...drawn, lines: drawn.lines.filter((_, k) => k !== i) }, free, starts, widthPx),
	);
	const costs = fits.map((f) => f?.cost ?? Number.POSITIVE_INFINITY);
	const order = costs.map((_, i) => i).sort((a, b) => costs[a] - costs[b]);
	const [first, second] = order;
	const noise = degreesOfNoise(costs[first], count - 1, free.length);
	if (Math.sqrt(Math.max(0, plainCost - costs[first]) / noise) < most) return NONE;
	if ((costs[second] - costs[first]) / noise >= TOLD_APART)
		return { suspects: [first], without: fits[first]?.at ?? null, cost: costs[first] };
	return {
		suspects: order.filter((i) => (costs[i] - costs[first]) / noise < TOLD_APART),
		without: null,
		cost: costs[first],
	};
}

/**
 * Focal length, pitch, roll and heading of the camera that sees the drawing so, each with one standard deviation; the eye
 * height when a height or length is known. Pixels count from the top-left corner; the picture's width spans the film's
 * width. With the focal length given, one direction suffices and roll is taken as level; a horizon alone suffices as well.
 * Throws {@link PerspectiveError} when the drawing does not determine it.
 */
export function solvePerspective(input: PerspectiveInput): PerspectiveSolution {
	const { drawn: all, from, bend } = readDrawing(input);
	const { width } = input.image;
	const perMm = width / input.film.widthMm;
	const warnings: string[] = [];
	const fixed = new Float64Array(STEPS.length);
	fixed[LOG_F] = input.focalMm === undefined ? log(width) : log(input.focalMm * perMm);
	const free = freeUnknowns(input, all, warnings);
	const measured = all.heights.length + all.lengths.length > 0;
	const seen: Drawn = { ...all, heights: [], lengths: [] };
	const inPicture = free.filter((k) => k < CENTRE_X);
	const centred = free.length > inPicture.length;

	const first = fitCamera(seen, inPicture, fixed, width);
	if (!first)
		throw new PerspectiveError(
			"not-determined",
			"No upright camera sees these lines so. Check which line belongs to which direction.",
		);
	const plain = centred ? (refit(seen, free, centreStarts(first.at, input.image), width) ?? first) : first;

	let wrong = seen.lines.length > 3 ? findWrong(seen, free, plain.at, plain.cost, fixed, width) : NONE;
	const cropped =
		!centred && input.focalMm === undefined && cropTold(seen, plain.at, plain.cost, input.image, wrong.cost);
	if (cropped) wrong = NONE;
	const left = input.robust && wrong.without ? wrong.suspects[0] : -1;
	const counted: Drawn = left < 0 ? all : { ...all, lines: all.lines.filter((_, i) => i !== left) };
	const start = left < 0 || !wrong.without ? plain.at : wrong.without;
	const unknown = measured ? [...free, LOG_EYE] : free;
	if (measured) start[LOG_EYE] = startingEye(all, start);
	const { at, cost } = measured
		? (refit(counted, unknown, [start], width) ?? { at: start, cost: 0 })
		: left < 0
			? plain
			: { at: start, cost: refit(counted, free, [start], width)?.cost ?? 0 };

	const covariance = covarianceOf(counted, at, unknown, width);
	const noise = degreesOfNoise(cost, countOf(counted), unknown.length);
	const sdOf = (u: number): number => {
		const k = unknown.indexOf(u);
		return k < 0 || !covariance ? 0 : Math.sqrt(Math.max(0, covariance[k][k]) * noise);
	};
	const focalMm = exp(at[LOG_F]) / perMm;
	const relative = sdOf(LOG_F);
	const name = (i: number) =>
		input.names?.[from[i][0]]?.[from[i][1]] ?? `line ${from[i][1] + 1} ${AXIS_NAME[all.lines[i].axis]}`;
	const doubt =
		wrong.suspects.length > 1
			? `One of these does not belong with the rest: ${listed(wrong.suspects.map(name))}. One more line in that direction would tell which.`
			: "";
	const alone =
		wrong.suspects.length === 1 && left < 0
			? `Without ${name(wrong.suspects[0])}, which does not belong with the rest, it may be.`
			: "";
	const advice = relative > 0.03 || !covariance ? nextLine(counted, at, unknown, input.image, noise) : "";
	if (!covariance || relative > MOST_RELATIVE_SD)
		refuseOpen(counted, focalMm, covariance ? relative : null, doubt || alone || advice);

	const eye = eyeOf(at);
	const halfHeight = input.image.height / 2;
	const residualsPx: number[][] = input.directions.map(() => []);
	all.lines.forEach(({ axis, ends }, i) => {
		const m = meetingPoint(axis, eye);
		residualsPx[from[i][0]][from[i][1]] =
			Math.abs(lineResidual(ends[0] - eye.cx, ends[1] - eye.cy, ends[2] - eye.cx, ends[3] - eye.cy, m[0], m[1], m[2])) /
			Math.SQRT2;
	});
	if (doubt) warnings.push(doubt);
	const worst = Math.max(0, ...residualsPx.flat().filter((_, i) => i !== left));
	if (left < 0 && wrong.suspects.length === 0 && worst > 6)
		warnings.push(`One line is off by ${worst.toFixed(0)} px. It may belong to another direction.`);
	if (relative > 0.1)
		warnings.push(
			`The lens is only known to ${(relative * 100).toFixed(0)} %. Longer lines farther apart would tell more.`,
		);
	const principalSd: [number, number] = [sdOf(CENTRE_X), sdOf(CENTRE_Y)];
	if (Math.max(...principalSd) > 0.08 * width)
		warnings.push(`The picture's centre is only weakly known: within ${Math.round(Math.max(...principalSd))} px.`);
	if (cropped)
		warnings.push(
			"The lines fit better about another centre: this picture may be cropped. Its centre can be solved too.",
		);

	const inMetres = (p: Pixel, q: Pixel, measure: typeof heightInEyes) => measure(eye, p, q) * exp(at[LOG_EYE]);
	return {
		focalMm,
		focalMmSd: focalMm * relative,
		pitchDeg: at[PITCH],
		pitchDegSd: sdOf(PITCH),
		rollDeg: at[ROLL],
		rollDegSd: sdOf(ROLL),
		headingDeg: foldHeading(at[HEADING]),
		headingDegSd: sdOf(HEADING),
		horizon: { yLeft: halfHeight - horizonAt(eye, -width / 2), yRight: halfHeight - horizonAt(eye, width / 2) },
		residualsPx,
		meeting: input.directions.map((d) => meetingOf(d.axis, at, unknown, covariance, noise, input.image)),
		warnings,
		principalPoint: [width / 2 + at[CENTRE_X], halfHeight - at[CENTRE_Y]],
		principalPointSd: principalSd,
		...(measured
			? {
					eyeHeightM: exp(at[LOG_EYE]),
					eyeHeightMSd: exp(at[LOG_EYE]) * sdOf(LOG_EYE),
					heightsM: all.heights.map((h) => inMetres(h.base, h.top, heightInEyes)),
					lengthsM: all.lengths.map((l) => inMetres(l.from, l.to, lengthInEyes)),
				}
			: {}),
		outliers: wrong.suspects.length === 1 ? [from[wrong.suspects[0]]] : [],
		influence: influenceOf(input, counted, all, left, from, at, unknown, plain.at, perMm),
		...(bend ? { bend } : {}),
		...(advice ? { advice } : {}),
	};
}

/**
 * Of the headings that differ by half a turn, the one within a quarter turn of `towards`: away then grows with distance, and
 * right to the right, in the frame too.
 */
export function foldHeading(headingDeg: number, towards = 0): number {
	const off = (((headingDeg - towards) % 180) + 180) % 180;
	return towards + (off > 90 ? off - 180 : off);
}

const listed = (names: string[]): string =>
	names.length < 2 ? names.join("") : `${names.slice(0, -1).join(", ")} or ${names[names.length - 1]}`;

/** Where the search for the picture's centre begins: in the middle and a quarter of the way out on each side. */
function centreStarts(at: Float64Array, { width, height }: Size): Float64Array[] {
	return [
		[0, 0],
		[0.25, 0],
		[-0.25, 0],
		[0, 0.25],
		[0, -0.25],
	].map(([x, y]) => {
		const start = at.slice();
		start[CENTRE_X] = x * width;
		start[CENTRE_Y] = y * height;
		return start;
	});
}

/** Logarithm of the eye height that the measures tell one by one, weighed by how well each does. */
function startingEye(drawn: Drawn, at: Float64Array): number {
	const eye = eyeOf(at);
	let sum = 0;
	let weights = 0;
	const add = (kind: string, i: number, m: { log: number; spread: number }, metres: number) => {
		if (Number.isNaN(m.log))
			throw new PerspectiveError(
				"bad-measure",
				`${kind} ${i + 1} does not lie on the level ground that the lens stands over: its foot must be below the horizon, its top above its foot.`,
			);
		sum += (log(metres) - m.log) / m.spread ** 2;
		weights += 1 / m.spread ** 2;
	};
	drawn.heights.forEach((h, i) => add("Height", i, logMeasure(heightInEyes, eye, h.base, h.top), h.metres));
	drawn.lengths.forEach((l, i) => add("Length", i, logMeasure(lengthInEyes, eye, l.from, l.to), l.metres));
	return sum / weights;
}

/** Lenses that are made. */
const SHORTEST_MM = 8;
const LONGEST_MM = 600;

function refuseOpen(drawn: Drawn, focalMm: number, relative: number | null, advice: string): never {
	const names = [...counts(drawn).keys()].map((a) => AXIS_NAME[a]).join(" and ");
	const spread = Math.min(1.4, relative ?? 1.4);
	const [low, high] = [focalMm * exp(-spread), focalMm * exp(spread)];
	const could =
		low < SHORTEST_MM && high > LONGEST_MM
			? ""
			: high > LONGEST_MM
				? ` It could be ${low.toFixed(0)} mm or any longer one.`
				: low < SHORTEST_MM
					? ` It could be ${high.toFixed(0)} mm or any shorter one.`
					: ` It could be anything from ${low.toFixed(0)} to ${high.toFixed(0)} mm.`;
	throw new PerspectiveError(
		"not-determined",
		`The lines ${names} do not determine the lens: one of these directions runs nearly parallel in the picture, or the lines are too short.${could} ${advice || "Draw longer lines farther apart, a third direction, or give the focal length."}`,
	);
}

/** Whether three directions meet clearly better about a centre other than the picture's, and better than without a line. */
function cropTold(drawn: Drawn, at: Float64Array, cost: number, image: Size, costWithout: number): boolean {
	const n = counts(drawn);
	if (!(["x", "y", "z"] as const).every((a) => (n.get(a) ?? 0) >= 2)) return false;
	const free = [LOG_F, PITCH, HEADING, ROLL, CENTRE_X, CENTRE_Y];
	const count = countOf(drawn);
	if (count < free.length || cost / degreesOfNoise(0, count, free.length) < CROP_GAIN) return false;
	const fit = refit(drawn, free, centreStarts(at, image), image.width);
	if (!fit) return false;
	const noise = degreesOfNoise(fit.cost, count, free.length);
	return fit.cost < costWithout && (cost - fit.cost) / noise > CROP_GAIN;
}

/** Focal length without each line in turn; of the line that does not count, with it. */
function influenceOf(
	input: PerspectiveInput,
	counted: Drawn,
	all: Drawn,
	left: number,
	from: [number, number][],
	at: Float64Array,
	free: readonly number[],
	plain: Float64Array,
	perMm: number,
): (number | null)[][] {
	const { width } = input.image;
	const out: (number | null)[][] = input.directions.map((d) => d.segments.map(() => null));
	all.lines.forEach((line, i) => {
		const [d, s] = from[i];
		if (input.focalMm !== undefined) out[d][s] = input.focalMm;
		else if (i === left) out[d][s] = exp(plain[LOG_F]) / perMm;
		else {
			const rest = { ...counted, lines: counted.lines.filter((l) => l !== line) };
			if (countOf(rest) < free.length) return;
			const fit = refit(rest, free, [at], width);
			const covariance = fit && covarianceOf(rest, fit.at, free, width);
			const k = free.indexOf(LOG_F);
			if (!fit || !covariance) return;
			const noise = degreesOfNoise(fit.cost, countOf(rest), free.length);
			if (Math.sqrt(covariance[k][k] * noise) <= MOST_RELATIVE_SD) out[d][s] = exp(fit.at[LOG_F]) / perMm;
		}
	});
	return out;
}

function meetingOf(
	axis: Axis,
	at: Float64Array,
	free: readonly number[],
	covariance: number[][],
	noise: number,
	image: Size,
) {
	const place = (u: Float64Array) => {
		const eye = eyeOf(u);
		const [x, y, w] = meetingPoint(axis, eye);
		return Math.abs(w) < 1e-6 ? null : [image.width / 2 + eye.cx + x / w, image.height / 2 - eye.cy - y / w];
	};
	const here = place(at);
	if (!here || Math.hypot(here[0], here[1]) > 1e6) return null;
	const J = free.map((k) => {
		const u = at.slice();
		u[k] += STEPS[k];
		const there = place(u) ?? here;
		return [(there[0] - here[0]) / STEPS[k], (there[1] - here[1]) / STEPS[k]];
	});
	let variance = 0;
	for (let i = 0; i < free.length; i++)
		for (let j = 0; j < free.length; j++) variance += covariance[i][j] * (J[i][0] * J[j][0] + J[i][1] * J[j][1]);
	return { x: here[0], y: here[1], spreadPx: Math.sqrt(Math.max(0, variance * noise) / 2) };
}

/** Pitch, in degrees, at which a level camera of focal length f (pixels) has its horizon `offsetPx` below the middle. */
export const pitchForHorizon = (offsetPx: number, f: number): number => atan2(offsetPx, f) / DEG;
