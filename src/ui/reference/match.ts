/** The match of the shot as it stands: the solver's answer to what is drawn, in terms of the shot. */
import { isSeen } from "../../core/doc/acts.ts";
import { shownSize } from "../../core/doc/look.ts";
import type { MatchAxis, MatchCircle, Reference, ShotDocument } from "../../core/doc/schema.ts";
import { levelUnder, type Point } from "../../core/ground/underPoint.ts";
import { type FrameOfView, frameOfView, project } from "../../core/lens/camera.ts";
import {
	type Axis,
	type CirclePlane,
	foldHeading,
	PerspectiveError,
	type PerspectiveSolution,
	solvePerspective,
} from "../../core/lens/solvePerspective.ts";
import { bent } from "../../core/maths/division.ts";

const AXIS: Record<MatchAxis, Axis> = { along: "z", across: "x", upright: "y" };
const AXES: MatchAxis[] = ["along", "across", "upright"];
/** A wall that runs along the place stands across its own right, the x axis. */
const PLANE: Record<MatchCircle["plane"], CirclePlane> = { ground: "ground", along: "x", across: "z" };

export interface Matched {
	ok: true;
	solution: PerspectiveSolution;
	axes: MatchAxis[];
	/** Residual of each line in pixels, by its id. */
	residual: Map<string, number>;
	/** Focal length without each line (of one that does not count: with it), by its id. */
	without: Map<string, number>;
	/** Line that does not belong with the rest. */
	wrong: string | null;
	/** What the camera makes of each known size, metres. */
	measured: Map<string, number>;
	ratio: number;
}

export type MatchResult = Matched | { ok: false; message: string; empty: boolean };

/** The reference that the match is drawn over. */
export const matchReference = (doc: ShotDocument): Reference | null =>
	doc.references.find((r) => r.id === (doc.match.reference ?? doc.shown.reference)) ??
	doc.references.find((r) => r.id === doc.shown.reference) ??
	null;

/** Size of the picture that is matched, in its own pixels. */
export function matchImage(doc: ShotDocument): { width: number; height: number } {
	const reference = matchReference(doc);
	return reference ? shownSize(reference) : { width: 1920, height: Math.round(1920 / doc.camera.ratio) };
}

export function solveMatch(doc: ShotDocument): MatchResult {
	const { match } = doc;
	const { focalGivenMm, horizon, centre, allCount } = match;
	const measures = match.measures ?? [];
	const circles = match.circles ?? [];
	const lines = match.lines.filter((l) => !l.out);
	if (lines.length === 0 && circles.length === 0 && !horizon)
		return {
			ok: false,
			empty: true,
			message:
				"Draw along edges that are parallel in the place. Two lines fix a direction; two directions fix the lens.",
		};
	const image = matchImage(doc);
	const axes = AXES.filter((a) => lines.some((l) => l.axis === a));
	const of = (a: MatchAxis) => lines.filter((l) => l.axis === a);
	const heights = measures.filter((m) => m.kind === "height");
	const lengths = measures.filter((m) => m.kind === "length");
	try {
		const solution = solvePerspective({
			image,
			film: { widthMm: doc.camera.film.widthMm },
			...(focalGivenMm === null ? {} : { focalMm: focalGivenMm }),
			directions: axes.map((a) => ({ axis: AXIS[a], segments: of(a).map((l) => [l.x1, l.y1, l.x2, l.y2] as const) })),
			names: axes.map((a) => of(a).map((l) => `line ${match.lines.indexOf(l) + 1}`)),
			principal: centre === "solved" ? "solve" : "centre",
			heights: heights.map((m) => ({ base: [m.x1, m.y1], top: [m.x2, m.y2], heightM: m.metres })),
			lengths: lengths.map((m) => ({ from: [m.x1, m.y1], to: [m.x2, m.y2], lengthM: m.metres })),
			ellipses: circles.map((c) => ({
				centre: [c.x, c.y],
				axes: [c.a, c.b],
				angleDeg: c.angleDeg,
				plane: PLANE[c.plane],
			})),
			...(horizon ? { horizon } : {}),
			...(match.curves?.length ? { curves: match.curves.map((c) => c.points) } : {}),
			robust: !allCount,
		});
		const residual = new Map<string, number>();
		const without = new Map<string, number>();
		const measured = new Map<string, number>();
		axes.forEach((a, d) => {
			of(a).forEach((l, i) => {
				residual.set(l.id, solution.residualsPx[d][i]);
				const focal = solution.influence[d][i];
				if (focal !== null) without.set(l.id, focal);
			});
		});
		heights.forEach((m, i) => {
			measured.set(m.id, solution.heightsM?.[i] ?? m.metres);
		});
		lengths.forEach((m, i) => {
			measured.set(m.id, solution.lengthsM?.[i] ?? m.metres);
		});
		const [wrong] = solution.outliers;
		return {
			ok: true,
			solution,
			axes,
			residual,
			without,
			wrong: wrong ? of(axes[wrong[0]])[wrong[1]].id : null,
			measured,
			ratio: image.width / image.height,
		};
	} catch (error) {
		if (error instanceof PerspectiveError) return { ok: false, empty: false, message: error.message };
		throw error;
	}
}

/** Where the picture's middle lies off the lens's axis, right and up on a film that its width spans; a crop's, as solved. */
function shiftOf(
	{ principalPoint: [x, y] }: PerspectiveSolution,
	image: { width: number; height: number },
	filmMm: number,
): [number, number] | undefined {
	const mm = filmMm / image.width;
	const right = (image.width / 2 - x) * mm;
	const up = (y - image.height / 2) * mm;
	return Math.hypot(right, up) < 1e-9 ? undefined : [right, up];
}

/**
 * The way that a match looks: along *along*. Where pieces have been set under a camera that was taken looking the other way,
 * it stays theirs.
 */
function headingOf({ camera, pieces }: ShotDocument, { headingDeg }: PerspectiveSolution): number {
	const turned = Math.abs(foldHeading(camera.headingDeg) - headingDeg) < 90 && Math.abs(camera.headingDeg) > 90;
	return turned && pieces.length > 0 ? foldHeading(headingDeg, camera.headingDeg) : headingDeg;
}

/** The camera that a match would take: at the place's origin, eye height over the ground. */
export function matchedCamera(doc: ShotDocument, result: Matched) {
	const s = result.solution;
	return {
		position: [0, s.eyeHeightM ?? doc.match.eyeHeightM, 0] as [number, number, number],
		headingDeg: headingOf(doc, s),
		pitchDeg: s.pitchDeg,
		rollDeg: s.rollDeg,
		focalMm: s.focalMm,
		shiftMm: shiftOf(s, matchImage(doc), doc.camera.film.widthMm),
		ratio: result.ratio,
	};
}

/** Where a place of the straight picture lies in the one that is drawn over, pixels of it. */
export function inPicture(
	result: Matched,
	{ width, height }: { width: number; height: number },
	x: number,
	y: number,
): [number, number] {
	const { bend } = result.solution;
	if (!bend) return [x, y];
	const [u, v] = bent([x - width / 2, y - height / 2], bend.k, Math.hypot(width, height) / 2);
	return [u + width / 2, v + height / 2];
}

export function matchView(
	doc: ShotDocument,
	result: Matched,
): { frame: FrameOfView; headingRad: number; ground: (p: Point) => [number, number] | null } {
	const pose = matchedCamera(doc, result);
	// The picture's width spans the film's width, so the used film is as wide as the back whatever the ratio.
	const film = { widthMm: doc.camera.film.widthMm, heightMm: doc.camera.film.widthMm / result.ratio };
	const frame = frameOfView({ ...doc.camera, ...pose, film });
	return {
		frame,
		headingRad: (pose.headingDeg * Math.PI) / 180,
		ground: (p) => {
			const at = levelUnder(frame, 0, p);
			return at ? [at[0], at[2]] : null;
		},
	};
}

/** Names of pieces that stand in the frame now and would not be under a match's camera. */
export function matchLoses(doc: ShotDocument, result: Matched): string[] {
	const now = frameOfView(doc.camera);
	const then = matchView(doc, result).frame;
	const sees = (view: FrameOfView, p: [number, number, number]) => {
		const { x, y, depthM } = project(view, p);
		return depthM > 0.1 && x >= 0 && x <= 1 && y >= 0 && y <= 1;
	};
	return doc.pieces
		.filter(({ hidden, position: [x, y, z], size }) => {
			const middle: [number, number, number] = [x, y + size[1] / 2, z];
			return !hidden && sees(now, middle) && !sees(then, middle);
		})
		.map((p) => p.name);
}

/** Pixels of a line's error above which a match is said to have become worse, and how many times worse. */
const WORSE = { px: 2, times: 3 };

const rms = (result: Matched): number => {
	const all = [...result.residual].filter(([id]) => id !== result.wrong).map(([, px]) => px * px);
	return all.length ? Math.sqrt(all.reduce((a, b) => a + b, 0) / all.length) : 0;
};

/** What one act on a line did to a match, when it has become much worse by it: which line, and how much. */
export function becameWorse(
	before: { doc: ShotDocument; result: MatchResult },
	after: { doc: ShotDocument; result: MatchResult },
): string | null {
	if (!before.result.ok) return null;
	const known = new Map(before.doc.match.lines.map((l) => [l.id, l]));
	const touched = after.doc.match.lines.filter((l) => known.get(l.id) !== l);
	if (touched.length !== 1 || after.doc.match.lines.length < before.doc.match.lines.length) return null;
	const name = `Line ${after.doc.match.lines.indexOf(touched[0]) + 1}`;
	const did = known.has(touched[0].id) ? "as it lies now" : `drawn ${touched[0].axis}`;
	if (!after.result.ok) return `${name}, ${did}, leaves no match: ${after.result.message} Undo takes it back.`;
	if (after.result.wrong === touched[0].id && !after.doc.match.allCount)
		return `${name}, ${did}, does not belong with the rest and is not counted. Undo takes it back.`;
	const [was, is] = [rms(before.result), rms(after.result)];
	if (is < WORSE.px || is < WORSE.times * was) return null;
	return `${name}, ${did}, makes the match worse: ${was.toFixed(1)} px before, ${is.toFixed(1)} px now. Undo takes it back.`;
}

/** What a match would do to what stands in the frame: the piece that would move farthest in it, in pixels of the frame. */
export function matchMoves(
	doc: ShotDocument,
	result: Matched,
	frameWidth: number,
): { name: string; px: number; all: number } | null {
	const now = frameOfView(doc.camera);
	const then = matchView(doc, result).frame;
	let worst: { name: string; px: number } | null = null;
	let all = 0;
	for (const piece of doc.pieces) {
		if (!isSeen(piece)) continue;
		const point: [number, number, number] = [
			piece.position[0],
			piece.position[1] + piece.size[1] / 2,
			piece.position[2],
		];
		const a = project(now, point);
		const b = project(then, point);
		if (a.depthM < 0.1 || a.x < 0 || a.x > 1 || a.y < 0 || a.y > 1) continue;
		const px =
			b.depthM < 0.1
				? frameWidth
				: Math.min(frameWidth, Math.hypot(b.x - a.x, (b.y - a.y) / result.ratio) * frameWidth);
		if (px > 1) all++;
		if (!worst || px > worst.px) worst = { name: piece.name, px };
	}
	return worst && worst.px > 1 ? { ...worst, all } : null;
}
