/**
 * What a move does to the picture: how fast near, middle and far go across it, the fastest place and whether it will strobe,
 * how the focus stands, and where one would see past the end of the ground. From rays through the frames of the move: each
 * tells what lies there and how far, and where that lies one frame later follows from the cameras and the pieces' poses.
 */
import { skyEdgeDeg } from "../air/skyPicture.ts";
import type { Piece, ShotDocument } from "../doc/schema.ts";
import { focusDistanceM, frameOfView, project, rayThrough, sharpRange } from "../lens/camera.ts";
import { DEG, sin } from "../maths/functions.ts";
import { invert, transformPoint, type Vec3 } from "../maths/vec.ts";
import { FIRST_PIECE, ID_SKY, ID_WATER } from "../scene/ids.ts";
import { pieceTransforms } from "../shape/place.ts";
import { documentAt, withFocusMeasured } from "../time/documentAt.ts";
import { framesPerSecond, shutterSeconds, timeOfFrame } from "../time/frames.ts";
import { BANDS, type Band } from "./bands.ts";

/** Rays through a frame in the middle of its shutter's time, row by row from the top left, through the middles of their cells. */
export interface Probe {
	frame: number;
	across: number;
	down: number;
	/** Numbers of the id layer. */
	ids: Uint32Array;
	/** Metres along the rays, infinite for the sky. */
	distancesM: Float64Array;
}

export const PROBE_ACROSS = 40;

/** Places of the frame that a probe looks at, x and y by turns. */
export function probePlaces(ratio: number): { across: number; down: number; places: Float64Array } {
	const across = PROBE_ACROSS;
	const down = Math.max(4, Math.round(across / ratio));
	const places = new Float64Array(across * down * 2);
	for (let i = 0; i < across * down; i++) {
		places[2 * i] = ((i % across) + 0.5) / across;
		places[2 * i + 1] = (Math.floor(i / across) + 0.5) / down;
	}
	return { across, down, places };
}

export interface MoveRow {
	what: Band | "fastest" | "focus" | "hole" | "sky";
	/** The frame that shows it. */
	frame: number;
	/** Pixels a second, in the median of what lies there, where it is fastest. */
	pxPerS?: number;
	/** Pixels that it goes across the whole move, in the median. */
	acrossPx?: number;
	/** Of the fastest: pixels from frame to frame, and the name of what it is. */
	stepPx?: number;
	name?: string;
	/** It goes so far from frame to frame that it is seen several times, for the shutter does not close the gap. */
	strobes?: boolean;
	/** Of the focus: its distance at the beginning and at the end, and the nearest that is sharp where that is farthest. */
	focusM?: [number, number];
	sharpFromM?: number;
	/** Of a hole, or of the edge of a narrow sky picture: how many of the frames looked at show it, and the largest share of a frame, in percent. */
	frames?: number;
	percent?: number;
}

/**
 * Seconds that a thing should take across the frame at 24 frames a second and half open, lest it strobe (the rule of thumb of
 * camera operators' manuals for panning). What is seen several times is what the gap leaves in which the shutter is closed.
 */
const CROSSING_S = 7;

/** Most pixels from frame to frame that the eye still joins, at a width and a shutter. */
export function mostStepPx(widthPx: number, shutter: number): number {
	const atHalf = widthPx / (CROSSING_S * 24);
	return (atHalf * 0.5) / Math.max(0.1, 1 - shutter);
}

const median = (values: number[]): number => {
	const sorted = [...values].sort((a, b) => a - b);
	return sorted[Math.floor(sorted.length / 2)];
};

/** Where a place of a piece goes from one moment to the next: with the copy that it is nearest to. */
function carried(at: Vec3, before: Piece, from: ShotDocument, after: Piece, to: ShotDocument): Vec3 {
	if (before === after) return at;
	const [a, b] = [pieceTransforms(before, from), pieceTransforms(after, to)];
	let best = 0;
	let nearest = Number.POSITIVE_INFINITY;
	a.forEach((m, i) => {
		const d = Math.hypot(m[3] - at[0], m[7] - at[1], m[11] - at[2]);
		if (d < nearest) [nearest, best] = [d, i];
	});
	return b[best] ? transformPoint(b[best], transformPoint(invert(a[best]), at)) : at;
}

/** A row of what should not be seen, with a frame that shows so much of it. */
const seen = (row: MoveRow, frame: number, percent: number): MoveRow =>
	percent === 0
		? row
		: { ...row, frames: (row.frames ?? 0) + 1, ...(percent > (row.percent ?? 0) && { frame, percent }) };

/** Rows of the table, from probes of frames of a move; none without a move or probes. `widthPx` is the picture that pixels are told of. */
export function moveTable(doc: ShotDocument, probes: readonly Probe[], widthPx: number): MoveRow[] {
	const { move } = doc;
	if (!move || probes.length === 0) return [];
	const rate = framesPerSecond(move.rate);
	const bands = BANDS.map(() => ({ fastest: 0, frame: 0, speeds: [] as number[] }));
	let fastest: MoveRow = { what: "fastest", frame: 0, stepPx: 0 };
	let hole: MoveRow = { what: "hole", frame: 0, frames: 0, percent: 0 };
	let sky: MoveRow = { what: "sky", frame: 0, frames: 0, percent: 0 };
	const edge = doc.air.picture ? sin(skyEdgeDeg(doc.air.picture) * DEG) : 1;
	let sharp: MoveRow = { what: "focus", frame: 0, sharpFromM: 0 };
	const late = shutterSeconds(move) / 2;
	const at = (frame: number) => withFocusMeasured(documentAt(doc, timeOfFrame(frame, move.rate) + late));
	for (const { frame, across, down, ids, distancesM } of [...probes].sort((a, b) => a.frame - b.frame)) {
		const [now, next] = [at(frame), at(frame + 1)];
		const [view, then] = [frameOfView(now.camera), frameOfView(next.camera)];
		const heightPx = (widthPx * view.tanY) / view.tanX;
		const speeds = BANDS.map((): number[] => []);
		let [below, above] = [0, 0];
		for (let i = 0; i < across * down; i++) {
			const [x, y] = [((i % across) + 0.5) / across, (Math.floor(i / across) + 0.5) / down];
			const d = rayThrough(view, x, y);
			const length = Math.hypot(...d);
			if (ids[i] === ID_SKY) {
				if (d[1] / length < -0.002) below++;
				if (d[1] / length > edge) above++;
				continue;
			}
			const far = distancesM[i] / length;
			let place: Vec3 = [0, 1, 2].map((c) => view.position[c] + d[c] * far) as unknown as Vec3;
			const piece = now.pieces[ids[i] - FIRST_PIECE];
			if (piece && ids[i] !== ID_WATER) place = carried(place, piece, now, next.pieces[ids[i] - FIRST_PIECE], next);
			const p = project(then, place);
			if (p.depthM <= 0) continue;
			const step = Math.hypot((p.x - x) * widthPx, (p.y - y) * heightPx);
			const band = BANDS.findIndex((b) => distancesM[i] >= b.fromM && distancesM[i] < b.toM);
			speeds[band].push(step * rate);
			if (step > (fastest.stepPx ?? 0))
				fastest = { what: "fastest", frame, stepPx: step, pxPerS: step * rate, name: piece?.name };
		}
		speeds.forEach((all, b) => {
			if (all.length < 3) return;
			const speed = median(all);
			bands[b].speeds.push(speed);
			if (speed > bands[b].fastest) Object.assign(bands[b], { fastest: speed, frame });
		});
		hole = seen(hole, frame, (100 * below) / (across * down));
		sky = seen(sky, frame, (100 * above) / (across * down));
		const { fromM: from } = sharpRange(now.camera);
		if (from > (sharp.sharpFromM ?? 0)) sharp = { what: "focus", frame, sharpFromM: from };
	}
	const lastFrame = Math.max(...probes.map((p) => p.frame));
	const focuses = [probes.reduce((a, p) => Math.min(a, p.frame), lastFrame), lastFrame].map((f) =>
		focusDistanceM(at(f).camera),
	) as [number, number];
	const seconds = timeOfFrame(move.frames - 1, move.rate);
	const rows: MoveRow[] = bands.flatMap(({ fastest: pxPerS, frame, speeds }, b): MoveRow[] =>
		speeds.length === 0
			? []
			: [
					{
						what: BANDS[b].band,
						frame,
						pxPerS,
						acrossPx: (speeds.reduce((s, v) => s + v, 0) / speeds.length) * seconds,
					},
				],
	);
	if ((fastest.stepPx ?? 0) > 0.01)
		rows.push({ ...fastest, strobes: (fastest.stepPx as number) > mostStepPx(widthPx, move.shutter) });
	rows.push({ ...sharp, focusM: focuses });
	for (const row of [hole, sky]) if ((row.frames ?? 0) > 0) rows.push(row);
	return rows;
}
