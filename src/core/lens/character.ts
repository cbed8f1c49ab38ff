/**
 * What the lens's character asks of the picture that is traced: light comes through straight and is bent in the finish, so
 * more of it is traced than the frame shows. Places are pixels of the frame from its top-left corner; beyond the frame they
 * go on below 0 and above its size.
 *
 * Bend by the division model (`core/maths/division.ts`) about the frame's middle, as a match finds it in a reference. Fringe:
 * lateral colour, a magnification of its own for red and blue (Kingslake and Johnson, Lens Design Fundamentals, 2010, ch. 11).
 */
import type { Camera, Finish, LensCharacter, ShotDocument } from "../doc/schema.ts";
import { type Area, lies, type Size } from "../maths/area.ts";
import { straightened } from "../maths/division.ts";
import { focusDistanceM, usedFilm } from "./camera.ts";
import { deliveryArea, reachBeyond } from "./delivery.ts";

export const NO_CHARACTER: LensCharacter = { bend: 0, fringe: 0, falloff: 0, tint: [1, 1, 1] };

export const characterOf = ({ lens }: Pick<Finish, "lens">): LensCharacter => lens ?? NO_CHARACTER;

/** Whether it draws anything at another place. */
export const displaces = ({ bend, fringe }: Pick<LensCharacter, "bend" | "fringe">): boolean =>
	bend !== 0 || fringe !== 0;

/** The bend that a picture of a camera takes to agree with a reference that is bent by `k`: their diagonals may differ, the film does not. */
export function handedBend({ film, ratio }: Pick<Camera, "film" | "ratio">, referenceRatio: number, k: number): number {
	const used = usedFilm(film, ratio);
	const reference = film.widthMm ** 2 * (1 + 1 / referenceRatio ** 2);
	return (k * (used.widthMm ** 2 + used.heightMm ** 2)) / reference;
}

export const RED = 0;
export const GREEN = 1;
export const BLUE = 2;

/** Magnification of red, green and blue. */
const magnified = (fringe: number, channel: number): number => 1 + (1 - channel) * fringe;

/** Where in the straight picture the light of a place of the bent one comes from. */
export function sourceOf(
	x: number,
	y: number,
	channel: number,
	{ bend, fringe }: Pick<LensCharacter, "bend" | "fringe">,
	{ width, height }: Size,
): [number, number] {
	const [u, v] = straightened([x - width / 2, y - height / 2], bend, Math.sqrt(width * width + height * height) / 2);
	// What is drawn larger comes from nearer to the middle.
	const m = magnified(fringe, channel);
	return [width / 2 + u / m, height / 2 + v / m];
}

/** Pixels about a place that its light is gathered from. */
export const TAPS = 2;
/** Places along an edge at which it is looked where its light comes from. */
const ALONG = 33;

/** Pixels of the straight picture that an area of the bent one is made from. */
export function sourceArea(area: Area, size: Size, lens: Pick<LensCharacter, "bend" | "fringe">): Area {
	if (!displaces(lens)) return area;
	let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
	const look = (x: number, y: number) => {
		for (const channel of [RED, BLUE]) {
			const [u, v] = sourceOf(x, y, channel, lens, size);
			x0 = Math.min(x0, u);
			x1 = Math.max(x1, u);
			y0 = Math.min(y0, v);
			y1 = Math.max(y1, v);
		}
	};
	// The frame's own middle lines are where a bulging edge goes farthest.
	const over = (from: number, length: number, middle: number) => [
		...Array.from({ length: ALONG }, (_, i) => from + (length * i) / (ALONG - 1)),
		...(middle > from && middle < from + length ? [middle] : []),
	];
	for (const x of over(area.x, area.width, size.width / 2)) for (const y of [0, 1]) look(x, area.y + y * area.height);
	for (const y of over(area.y, area.height, size.height / 2)) for (const x of [0, 1]) look(area.x + x * area.width, y);
	const [left, top] = [Math.floor(x0) - TAPS, Math.floor(y0) - TAPS];
	return { x: left, y: top, width: Math.ceil(x1) + TAPS - left, height: Math.ceil(y1) + TAPS - top };
}

/** Pixels that are traced for an area of the frame, or for all of it: what its lens needs, and an overscan as a share of the frame on each side. */
export function tracedArea(area: Area | null, size: Size, finish: Pick<Finish, "lens">, overscan = 0): Area {
	const { x, y, width, height } = sourceArea(area ?? { x: 0, y: 0, ...size }, size, characterOf(finish));
	const across = Math.ceil(overscan * size.width);
	const down = Math.ceil(overscan * size.height);
	return { x: x - across, y: y - down, width: width + 2 * across, height: height + 2 * down };
}

/** Whether a finish brings in light from beyond what was traced of a frame's area, so that its outermost pixels are repeated. */
export const isStretched = (traced: Area, area: Area | null, size: Size, finish: Pick<Finish, "lens">): boolean =>
	!lies(tracedArea(area, size, finish), traced, 2 * TAPS);

/** How many times as wide and as high as the frame what is traced is at most. */
function lensOver(finish: Pick<Finish, "lens">, ratio: number, overscan = 0): number {
	const lens = characterOf(finish);
	if (!displaces(lens) && overscan === 0) return 1;
	// Of a picture so fine that whole pixels do not count.
	const size = { width: 4096, height: Math.max(1, Math.round(4096 / ratio)) };
	const { x, y } = tracedArea(null, size, finish, overscan);
	return 1 - 2 * Math.min(x / size.width, y / size.height);
}

/** Multiples of the frame that are made room for: few, so that a bend in the hand does not make everything anew. */
const ROOMS = [1, 1.03, 1.07, 1.15, 1.3, 1.5, 1.8, 2.2, 2.8, 3.6];

/** Multiple of the frame's width and height that is made room for about it: what the lens needs, deliveries that reach beyond it, and the overscan, rounded up. */
export function roomAbout(
	{ finish, camera, print, deliveries = [] }: Pick<ShotDocument, "finish" | "camera" | "print" | "deliveries">,
	overscan = print.overscan ?? 0,
): number {
	const beyond = Math.max(0, ...deliveries.map((d) => reachBeyond(deliveryArea(d, camera.ratio))));
	const over = lensOver(finish, camera.ratio, overscan) + 2 * beyond;
	return ROOMS.find((room) => room >= over) ?? over;
}

/** A picture of a size with so much room about it. */
export function areaWithRoom({ width, height }: Size, room: number): Area {
	const across = Math.ceil(((room - 1) / 2) * width);
	const down = Math.ceil(((room - 1) / 2) * height);
	return { x: -across, y: -down, width: width + 2 * across, height: height + 2 * down };
}

const wide = new WeakMap<Camera, { over: number; camera: Camera }>();

/** A camera that sees so many times as much about the same middle, through the same lens with the same focus; the same one for the same camera. */
export function widened(camera: Camera, over: number): Camera {
	if (over === 1) return camera;
	const known = wide.get(camera);
	if (known?.over === over) return known.camera;
	const { widthMm, heightMm } = usedFilm(camera.film, camera.ratio);
	const film = { widthMm: widthMm * over, heightMm: heightMm * over };
	const made = { ...camera, film, focusM: focusDistanceM(camera) };
	wide.set(camera, { over, camera: made });
	return made;
}

const wideWays = new WeakMap<readonly Camera[], { over: number; way: readonly Camera[] }>();

/** All cameras of a way widened; the same list for the same way. */
export function widenedWay(way: readonly Camera[], over: number): readonly Camera[] {
	if (over === 1) return way;
	const known = wideWays.get(way);
	if (known?.over === over) return known.way;
	const made = way.map((camera) => widened(camera, over));
	wideWays.set(way, { over, way: made });
	return made;
}
