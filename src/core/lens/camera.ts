/** The frame of a camera: its field, its axes, and where world points land in it. */
import type { Camera } from "../doc/schema.ts";
import { cameraAxes } from "../maths/axes.ts";
import { bent, straightened } from "../maths/division.ts";
import { sin } from "../maths/functions.ts";
import type { Vec3 } from "../maths/vec.ts";
import { dot, sub } from "../maths/vec.ts";

export interface FrameOfView {
	/** Half extents of the frame at distance 1 along the axis (tangents of the half angles). */
	tanX: number;
	tanY: number;
	right: Vec3;
	up: Vec3;
	/** Unit vector along the camera's axis, into the picture. */
	forward: Vec3;
	/** The frame's middle beside the axis, right and up, as tangents: the film shifted behind the lens. */
	shiftX: number;
	shiftY: number;
	/** Direction of depth 1 through the frame's middle; `forward` where nothing is shifted. */
	middle: Vec3;
	position: Vec3;
	/** Bend with which the picture is shown, by the division model for half of its diagonal; none of what is traced. */
	bend?: number;
}

/** Width and height in millimetres of the part of the film back that a ratio uses. It crops and never changes the lens. */
export function usedFilm(film: Camera["film"], ratio: number): { widthMm: number; heightMm: number } {
	return ratio >= film.widthMm / film.heightMm
		? { widthMm: film.widthMm, heightMm: film.widthMm / ratio }
		: { widthMm: film.heightMm * ratio, heightMm: film.heightMm };
}

/** Height of a picture of the frame that is so many pixels wide. */
export function frameHeight({ film, ratio }: Pick<Camera, "film" | "ratio">, widthPx: number): number {
	const { widthMm, heightMm } = usedFilm(film, ratio);
	return Math.max(1, Math.round((widthPx * heightMm) / widthMm));
}

/** What a lens and its film make of the frame, wherever it looks. */
export function fieldOf({
	film,
	ratio,
	focalMm,
	shiftMm: [right, rise] = [0, 0],
}: Pick<Camera, "film" | "ratio" | "focalMm" | "shiftMm">): Pick<FrameOfView, "tanX" | "tanY" | "shiftX" | "shiftY"> {
	const { widthMm, heightMm } = usedFilm(film, ratio);
	return {
		tanX: widthMm / (2 * focalMm),
		tanY: heightMm / (2 * focalMm),
		shiftX: right / focalMm,
		shiftY: rise / focalMm,
	};
}

export function frameOfView(camera: Camera): FrameOfView {
	const axes = cameraAxes(camera.headingDeg, camera.pitchDeg, camera.rollDeg);
	const field = fieldOf(camera);
	const { shiftX, shiftY } = field;
	const { forward: f, right: r, up: u } = axes;
	return {
		...axes,
		...field,
		middle: [
			f[0] + shiftX * r[0] + shiftY * u[0],
			f[1] + shiftX * r[1] + shiftY * u[1],
			f[2] + shiftX * r[2] + shiftY * u[2],
		],
		position: camera.position,
	};
}

const views = new WeakMap<Camera, FrameOfView>();

/** {@link frameOfView}, one for each camera object, so that what is kept by view is kept for all who look through it. */
export function keptView(camera: Camera): FrameOfView {
	let view = views.get(camera);
	if (!view) {
		view = frameOfView(camera);
		views.set(camera, view);
	}
	return view;
}

/**
 * Where a world point lands: x and y in [0, 1] of the frame from its top-left corner, depth along the axis in metres.
 * Points behind the lens have a depth below 0 and no meaningful place.
 * @example project(frameOfView(doc.camera), [0, doc.camera.position[1], -20]) // straight ahead: on the horizon's row
 */
export function project(view: FrameOfView, point: Vec3): { x: number; y: number; depthM: number } {
	const d = sub(point, view.position);
	const depthM = dot(d, view.forward);
	const [a, b] = [dot(d, view.right) / depthM - view.shiftX, dot(d, view.up) / depthM - view.shiftY];
	return { ...bentPlace(view, 0.5 + a / (2 * view.tanX), 0.5 - b / (2 * view.tanY)), depthM };
}

/** A place of the frame by its shares, moved by one of the two directions of the bend. */
function moved(move: typeof bent, { bend, tanX, tanY }: FrameOfView, x: number, y: number): { x: number; y: number } {
	if (!bend) return { x, y };
	const [u, v] = move([(x - 0.5) * tanX, (y - 0.5) * tanY], bend, Math.hypot(tanX, tanY) / 2);
	return { x: 0.5 + u / tanX, y: 0.5 + v / tanY };
}

/** Where a place of the straight picture is shown, and where one that is shown lies in the straight picture; both as shares of the frame. */
export const bentPlace = (view: FrameOfView, x: number, y: number): { x: number; y: number } => moved(bent, view, x, y);
export const straightPlace = (view: FrameOfView, x: number, y: number): { x: number; y: number } =>
	moved(straightened, view, x, y);

/** Direction (not normalised, of depth 1) through a place of the frame, x and y in [0, 1] from the top left. */
export function rayThrough(view: FrameOfView, x: number, y: number): Vec3 {
	const at = straightPlace(view, x, y);
	const a = (2 * at.x - 1) * view.tanX;
	const b = (1 - 2 * at.y) * view.tanY;
	return [
		view.middle[0] + a * view.right[0] + b * view.up[0],
		view.middle[1] + a * view.right[1] + b * view.up[1],
		view.middle[2] + a * view.right[2] + b * view.up[2],
	];
}

/**
 * Row of a straight frame, 0 at its top and 1 at its bottom, where a column of it meets directions that lie `dip` radians below the
 * level: the level line itself for 0. NaN where it does not.
 */
export function horizonRow({ middle, right, up, tanX, tanY }: FrameOfView, column: number, dip = 0): number {
	// Along the column the ray is m + b·up.
	const a = (2 * column - 1) * tanX;
	const m: Vec3 = [middle[0] + a * right[0], middle[1] + a * right[1], middle[2] + a * right[2]];
	if (Math.abs(up[1]) <= 1e-9) return Number.NaN;
	const s2 = sin(dip) ** 2;
	const [k, l, n] = [up[1] * up[1] - s2, m[1] * up[1] - s2 * dot(m, up), m[1] * m[1] - s2 * dot(m, m)];
	const d = dip === 0 ? 0 : l * l - k * n;
	if (d < 0) return Number.NaN;
	// Of the two that are as steep the one that lies below the level; the other one is its mirror above.
	const root = Math.sqrt(d);
	const b = (-l - Math.sign(up[1]) * root) / k;
	return 0.5 - (0.5 * b) / tanY;
}

/**
 * Height of the horizon in percent from the bottom of the frame, at its middle column. On a planet it lies `dip` radians below the
 * level; without, the level line is meant, to which lines of a picture go.
 */
export const horizonPercent = (view: FrameOfView, dip = 0): number =>
	100 * (1 - bentPlace(view, 0.5, horizonRow(view, 0.5, dip)).y);

/** Hyperfocal distance in metres for a circle of confusion of `circleMm` on the film: f²/(N·c). */
export function hyperfocalM(camera: Camera, circleMm: number): number {
	return (camera.focalMm * camera.focalMm) / (camera.fStop * circleMm) / 1000;
}

/** Distance that the lens is focused at, metres: as set, or hyperfocal for a circle of 1/1500 of the film's width. */
export function focusDistanceM(camera: Camera): number {
	return camera.focusM ?? hyperfocalM(camera, camera.film.widthMm / 1500);
}

/** Hyperfocal distance for a circle of 1/1500 of the film's width, and the nearest and farthest that are sharp by it, metres. */
export function sharpRange(camera: Camera): { hyperfocalM: number; fromM: number; toM: number } {
	const H = hyperfocalM(camera, camera.film.widthMm / 1500);
	const focus = focusDistanceM(camera);
	return {
		hyperfocalM: H,
		fromM: (H * focus) / (H + focus),
		toM: focus >= H ? Number.POSITIVE_INFINITY : (H * focus) / (H - focus),
	};
}

/** Diameter on the film, in millimetres, of the blur of a point at depth z: f²·|z − focus| / (N·z·focus). */
export function blurMm(camera: Camera, zM: number): number {
	const focus = focusDistanceM(camera) * 1000;
	const z = zM * 1000;
	return (camera.focalMm * camera.focalMm * Math.abs(z - focus)) / (camera.fStop * z * focus);
}
