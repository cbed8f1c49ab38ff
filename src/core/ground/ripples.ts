/**
 * Ripples of still water as a sum of straight waves about a wind. Each runs as waves of its length do, by its weight and by
 * the tension of the surface: ω² = g·k + (σ/ρ)·k³ (Lamb, "Hydrodynamics", § 267).
 */
import { cos, DEG, pow, sin } from "../maths/functions.ts";
import { randomStream } from "../maths/hash.ts";

export interface Wave {
	/** Wave vector in radians per metre. */
	kx: number;
	kz: number;
	phase: number;
	/** Amplitude times wave number: the greatest slope. */
	slope: number;
	lengthM: number;
}

/** Where they run when nothing is said of it. */
export const RIPPLES = { headingDeg: 60 } as const;

const COUNT = 14;
const LONGEST_M = 0.9;
const SHORTEST_M = 0.035;

export const GRAVITY = 9.81;
/** Surface tension over density, m³/s². */
export const TENSION = 7.28e-5;

/** Waves at a time whose heights add up to `rippleMm` from trough to crest (three standard deviations to each side). */
export function ripples(
	rippleMm: number,
	seed: number,
	timeS = 0,
	windHeadingDeg: number = RIPPLES.headingDeg,
): Wave[] {
	if (rippleMm <= 0) return [];
	const random = randomStream(seed + 77);
	const raw: Wave[] = [];
	let variance = 0;
	for (let i = 0; i < COUNT; i++) {
		const lengthM = LONGEST_M * pow(SHORTEST_M / LONGEST_M, i / (COUNT - 1)) * (0.9 + 0.2 * random());
		const heading = (windHeadingDeg + (random() - 0.5) * 130) * DEG;
		const k = (2 * Math.PI) / lengthM;
		const amplitude = pow(lengthM, 1.25);
		variance += 0.5 * amplitude * amplitude;
		raw.push({
			kx: k * sin(heading),
			kz: -k * cos(heading),
			phase: random() * 2 * Math.PI - Math.sqrt(GRAVITY * k + TENSION * k * k * k) * timeS,
			slope: amplitude * k,
			lengthM,
		});
	}
	const scale = rippleMm / 1000 / 6 / Math.sqrt(variance);
	return raw.map((w) => ({ ...w, slope: w.slope * scale }));
}
