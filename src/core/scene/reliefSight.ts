/** How large bodies are in the frames of lenses, for what is shaped by how large it is seen: in the metres of each body. */
import { FRAME_PX } from "../ground/sight.ts";
import { frameOfView } from "../lens/camera.ts";
import { atan, cos, DEG, sin } from "../maths/functions.ts";
import type { Mat34, Vec3 } from "../maths/vec.ts";
import type { Making } from "./making.ts";

/** How many times smaller what is outside the frame counts: it is seen in mirrors and shadows alone. */
const OUTSIDE = 12;
/** No place is looked at from nearer than this, metres. */
export const NEAREST_M = 0.1;
/** Degrees by which the headings and pitches of lenses are rounded, and how far about the frame counts as in it. */
const TURN_DEG = 6;
/** Lenses of a way at most. */
const MOST_LENSES = 24;

/** A lens as a body sees it, in the body's metres. */
export interface Lens {
	eye: Vec3;
	/** Normals of the four planes through it that hold what is in the frame, inwards. */
	sides: readonly Vec3[];
	/** Share of its distance that a pixel covers. */
	pixel: number;
}

/** Columns of a transform without their lengths, and these. */
export function partedOf(m: Mat34): { turn: readonly Vec3[]; size: Vec3 } {
	const size = [0, 1, 2].map((c) => Math.hypot(m[c], m[4 + c], m[8 + c])) as unknown as Vec3;
	const turn = [0, 1, 2].map((c) => [m[c], m[4 + c], m[8 + c]].map((v) => v / size[c]) as unknown as Vec3);
	return { turn, size };
}

const dotted = (a: Vec3, x: number, y: number, z: number) => a[0] * x + a[1] * y + a[2] * z;

/** Lenses as a body of a transform and bounds in the world sees them, rounded: by an eighth to a quarter of how far they are, and by {@link TURN_DEG}. */
export function lensesOf({ way }: Making, m: Mat34, bounds: readonly number[]): Lens[] {
	const { turn } = partedOf(m);
	const every = Math.ceil(way.length / MOST_LENSES);
	return way
		.filter((_, i) => i % every === 0)
		.map((camera) => {
			const off = camera.position.map((v, c) => Math.max(0, bounds[c] - v, v - bounds[c + 3]));
			const grid = 2 ** Math.floor(Math.log2(Math.max(0.5, Math.hypot(...off)) / 4));
			const round = (v: number, step: number) => Math.round(v / step) * step;
			const [dx, dy, dz] = camera.position.map((v, c) => round(v - m[4 * c + 3], grid));
			const [headingDeg, pitchDeg] = [camera.headingDeg, camera.pitchDeg].map((v) => round(v, TURN_DEG));
			const { tanX, tanY, shiftX, shiftY, forward, right, up } = frameOfView({ ...camera, headingDeg, pitchDeg });
			/** The plane through an edge of the frame, so far from its middle, a little farther out. */
			const side = (tan: number, out: Vec3, sign: number): Vec3 => {
				const angle = atan(sign * tan) + 0.75 * TURN_DEG * DEG;
				const n = forward.map((v, c) => sin(angle) * v - sign * cos(angle) * out[c]) as unknown as Vec3;
				return turn.map((axis) => dotted(axis, ...n)) as unknown as Vec3;
			};
			return {
				eye: turn.map((axis) => dotted(axis, dx, dy, dz)) as unknown as Vec3,
				sides: [
					side(shiftX + tanX, right, 1),
					side(shiftX - tanX, right, -1),
					side(shiftY + tanY, up, 1),
					side(shiftY - tanY, up, -1),
				],
				pixel: (2 * tanX) / FRAME_PX,
			};
		});
}

/** What the lens that sees something largest sees of it. */
export interface Seen {
	/** Metres that a pixel covers there. */
	pixelM: number;
	/** From the lens, metres. */
	x: number;
	y: number;
	z: number;
}

/** How what is within a radius about a place is seen. The answer is one object, which the next overwrites. */
const seen: Seen = { pixelM: 0, x: 0, y: 0, z: 0 };
export function look(lenses: readonly Lens[], x: number, y: number, z: number, radius: number): Seen {
	seen.pixelM = Infinity;
	for (let l = 0; l < lenses.length; l++) {
		const { eye, sides, pixel } = lenses[l];
		const dx = x - eye[0];
		const dy = y - eye[1];
		const dz = z - eye[2];
		const far = Math.sqrt(dx * dx + dy * dy + dz * dz);
		const px = Math.max(NEAREST_M, far - radius) * pixel;
		if (px >= seen.pixelM) continue;
		let inView = true;
		for (let k = 0; k < 4 && inView; k++) {
			const side = sides[k];
			inView = side[0] * dx + side[1] * dy + side[2] * dz >= -radius;
		}
		const covers = inView ? px : px * OUTSIDE;
		if (covers >= seen.pixelM) continue;
		seen.pixelM = covers;
		seen.x = dx;
		seen.y = dy;
		seen.z = dz;
	}
	return seen;
}
