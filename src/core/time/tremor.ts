/**
 * The tremor of a hand that holds the camera: a sum of sines whose frequencies have no common period, so that no loop is
 * ever seen. Their amplitudes are even up to a corner at 1 Hz and fall with the square of the frequency above it, as the
 * displacement of a held hand does (Marshall and Walsh 1956, "Physiological tremor").
 */
import type { ShotDocument, Tremor } from "../doc/schema.ts";
import { cos, DEG, exp, log, sin, TAU } from "../maths/functions.ts";
import { randomStream } from "../maths/hash.ts";

const SINES = 28;
const LOWEST_HZ = 0.12;
const HIGHEST_HZ = 14;
export const CORNER_HZ = 1;
/** The hand rolls less than it turns. */
const ROLL = 0.4;

interface Sine {
	hz: number;
	amplitude: number;
	phase: number;
}

/** Amplitude of a sine, of frequencies that lie apart by a constant factor: the power of a band grows with its width. */
const amplitudeAt = (hz: number): number => Math.sqrt(hz) / (1 + (hz / CORNER_HZ) ** 2);

/** Sines of one axis, their mean square 1. */
function sinesOf(seed: number): Sine[] {
	const random = randomStream(seed);
	const step = log(HIGHEST_HZ / LOWEST_HZ) / SINES;
	const sines = Array.from({ length: SINES }, (_, i) => {
		const hz = LOWEST_HZ * exp(step * (i + random()));
		return { hz, amplitude: amplitudeAt(hz), phase: random() * TAU };
	});
	const square = sines.reduce((sum, s) => sum + 0.5 * s.amplitude * s.amplitude, 0);
	return sines.map((s) => ({ ...s, amplitude: s.amplitude / Math.sqrt(square) }));
}

const made = new Map<number, Sine[][]>();

function axesOf(seed: number): Sine[][] {
	const known = made.get(seed) ?? [0, 1, 2].map((axis) => sinesOf(seed * 3 + axis + 1));
	if (made.size > 8) made.clear();
	made.set(seed, known);
	return known;
}

/** Turn of the camera by its tremor at a time, degrees: to the right, up, clockwise. */
export function tremorAt({ amountDeg, speed, seed }: Tremor, timeS: number): [number, number, number] {
	const [right, up, roll] = axesOf(seed).map((sines) =>
		sines.reduce((sum, s) => sum + s.amplitude * sin(TAU * s.hz * speed * timeS + s.phase), 0),
	);
	// The mean square of right and up together is that of the amount.
	const each = amountDeg / Math.SQRT2;
	return [right * each, up * each, roll * each * ROLL];
}

/** The document with its camera as the hand holds it at a time. */
export function shaken(doc: ShotDocument, timeS: number): ShotDocument {
	const tremor = doc.move?.tremor;
	if (!tremor || tremor.amountDeg === 0) return doc;
	const [right, up, roll] = tremorAt(tremor, timeS);
	const { camera } = doc;
	return {
		...doc,
		camera: {
			...camera,
			headingDeg: camera.headingDeg + right / Math.max(0.05, cos(camera.pitchDeg * DEG)),
			pitchDeg: Math.min(89, Math.max(-89, camera.pitchDeg + up)),
			rollDeg: camera.rollDeg + roll,
		},
	};
}
