/**
 * Whether the focus makes a large place look like a toy. Blur tells the eye how large things are: an eye with a pupil of
 * 4 mm sees a place at a distance d with blur of 4 mm over d, so a lens whose opening is wider shows it as if it were as much
 * smaller and nearer (Held, Cooper, O'Brien and Banks 2010, "Using blur to affect perceived distance and size").
 */
import type { Camera } from "../doc/schema.ts";
import { blurMm, focusDistanceM, hyperfocalM } from "../lens/camera.ts";

const PUPIL_M = 0.004;
/** A place is large from here on, metres. */
const LARGE_M = 15;
/** Blur that is seen as such, and blur that is not, in pixels of a picture 1920 wide. */
const SEEN_PX = 4;
const CALM_PX = 1.5;
const WIDTH_PX = 1920;

/** Diameter of the blur of a point at a planar distance, in pixels of a picture so many wide. */
export const blurPx = (camera: Camera, zM: number, widthPx: number): number =>
	(blurMm(camera, zM) / camera.film.widthMm) * widthPx;

export interface Toy {
	/** How many times smaller the place seems. */
	smaller: number;
	/** The largest blur of what is seen, in pixels of 1920, and at which distance. */
	blurPx: number;
	atM: number;
	/** Closing the lens to this f-stop takes it away; null when no lens closes so far. */
	fStop: number | null;
	/** Focusing here takes it away at the present f-stop; null when that is not enough. */
	focusM: number | null;
}

/** f-stops by thirds, as lenses have them. */
const STOPS = Array.from({ length: 40 }, (_, i) => Number((0.7 * 2 ** (i / 6)).toPrecision(2))).filter((n) => n <= 64);

/** Null where the place is small, or the blur is not seen. `nearM` and `farM` are planar distances of what the frame shows. */
export function toyLook(camera: Camera, nearM: number, farM: number): Toy | null {
	if (!(farM >= LARGE_M)) return null;
	const ends = [Math.max(0.1, nearM), farM];
	const worst = (c: Camera): [number, number] =>
		ends.map((m): [number, number] => [blurPx(c, m, WIDTH_PX), m]).reduce((a, b) => (b[0] > a[0] ? b : a));
	const focus = focusDistanceM(camera);
	const [blur, atM] = worst(camera);
	const opening = camera.focalMm / camera.fStop / 1000;
	const smaller = opening / PUPIL_M;
	// What is focused close by is a small thing before a large place: that is no toy.
	if (blur < SEEN_PX || smaller < 1.5 || focus < 2) return null;
	const fStop = STOPS.find((n) => n > camera.fStop && worst({ ...camera, fStop: n })[0] <= CALM_PX) ?? null;
	// Blur at both ends is least at their harmonic mean; beyond the hyperfocal distance all is sharp as well.
	const between = (2 * ends[0] * ends[1]) / (ends[0] + ends[1]);
	const best = [between, hyperfocalM(camera, camera.film.widthMm / 1500)].find(
		(m) => worst({ ...camera, focusM: m, focusOn: undefined })[0] <= CALM_PX,
	);
	return { smaller, blurPx: blur, atM, fStop, focusM: best ?? null };
}
