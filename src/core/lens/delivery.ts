/** Where a delivery lies in the frame, and how it is printed from it. */
import type { Camera, Delivery, ShotDocument } from "../doc/schema.ts";
import type { Area } from "../maths/area.ts";
import { clamp } from "../maths/functions.ts";
import { frameHeight } from "./camera.ts";

type Placed = Pick<Delivery, "ratio" | "share" | "middle" | "shift">;

/** The area of a delivery as shares of a frame of a ratio; only its shift and a share above 1 bring it beyond the frame. */
export function deliveryArea({ ratio, share, middle, shift = [0, 0] }: Placed, frameRatio: number): Area {
	const width = share * Math.min(1, ratio / frameRatio);
	const height = share * Math.min(1, frameRatio / ratio);
	const from = (at: number, side: number) => (side > 1 ? (1 - side) / 2 : clamp(at - side / 2, 0, 1 - side));
	return { x: from(middle[0], width) + shift[0], y: from(middle[1], height) - shift[1], width, height };
}

/** How far beyond the frame an area reaches at most, as a share of it; 0 for one within it. */
export const reachBeyond = ({ x, y, width, height }: Area): number =>
	Math.max(0, -x, -y, x + width - 1, y + height - 1);

/** Widest frame that is traced for a delivery. */
export const MOST_FRAME_PX = 16_384;

/**
 * How a delivery is printed: how wide the whole frame is of which it is an area, and that area in its pixels, so that its
 * picture has its own size exactly. Null when the frame would be wider than can be printed.
 */
export function deliveryOrder(
	delivery: Placed & Pick<Delivery, "widthPx">,
	{ film, ratio }: Pick<Camera, "film" | "ratio">,
): { width: number; height: number; part: Area } | null {
	const area = deliveryArea(delivery, ratio);
	const width = delivery.widthPx;
	const height = Math.max(1, Math.round(width / delivery.ratio));
	const heightOf = (w: number) => frameHeight({ film, ratio }, w);
	const within = reachBeyond(area) < 1e-9;
	let whole = Math.max(1, Math.round(width / area.width));
	// Rounded to whole pixels the frame may be a line or a column too small for it.
	while (within && (heightOf(whole) < height || whole < width)) whole++;
	if (whole > MOST_FRAME_PX) return null;
	const high = heightOf(whole);
	const kept = (at: number, side: number, all: number) => (within ? clamp(at, 0, all - side) : at);
	const x = kept(Math.round(area.x * whole), width, whole);
	const y = kept(Math.round((area.y + area.height / 2) * high - height / 2), height, high);
	return { width: whole, height: high, part: { x, y, width, height } };
}

type Looking = Pick<Camera, "headingDeg" | "pitchDeg" | "rollDeg">;

const turned = <T extends Looking>(camera: T, [heading, tilt]: readonly [number, number]): T => ({
	...camera,
	headingDeg: camera.headingDeg + heading - 360 * Math.round((camera.headingDeg + heading) / 360),
	pitchDeg: clamp(camera.pitchDeg + tilt, -89, 89),
});

const turnedCameras = new WeakMap<Camera, Map<string, Camera>>();

/** The same one for the same camera and aim, so that what is kept by it is found again. */
function turnedCamera(camera: Camera, aim: readonly [number, number]): Camera {
	const known = turnedCameras.get(camera) ?? new Map<string, Camera>();
	turnedCameras.set(camera, known);
	const key = aim.join();
	const made = known.get(key) ?? turned(camera, aim);
	known.set(key, made);
	return made;
}

/** A shot with its lens turned as a delivery has it, over its whole move; the shot itself where it has not. */
export function aimedFor<D extends Pick<ShotDocument, "camera"> & { move?: ShotDocument["move"] }>(
	doc: D,
	{ aim }: Pick<Delivery, "aim">,
): D {
	if (!aim || (aim[0] === 0 && aim[1] === 0)) return doc;
	const { move } = doc;
	const tracks = move?.tracks.map((track) =>
		track.value === "camera.direction"
			? { ...track, keys: track.keys.map((k) => ({ ...k, value: turned(k.value as Looking, aim) })) }
			: track,
	);
	return { ...doc, camera: turnedCamera(doc.camera, aim), ...(move && tracks ? { move: { ...move, tracks } } : {}) };
}
