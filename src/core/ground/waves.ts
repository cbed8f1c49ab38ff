/**
 * Waves of wind on open water: the JONSWAP spectrum (Hasselmann and others 1973) of a wind speed and a fetch, the way over which the wind
 * has blown, as straight waves that run about the wind's way, the short ones less strictly (Mitsuyasu and others 1975 tell by how
 * much; here a width of angles that grows with frequency). Half of them share the energy about the peak alike, so that no crest comes
 * back soon; the others are the short waves by which water glitters.
 */
import type { Water } from "../doc/schema.ts";
import { cos, DEG, exp, pow, sin } from "../maths/functions.ts";
import { randomStream } from "../maths/hash.ts";
import { GRAVITY, RIPPLES, ripples, TENSION, type Wave } from "./ripples.ts";

const ABOUT_PEAK = 16;
const SHORT = 16;
/** The shortest wave, metres. */
const SHORTEST_M = 0.04;
/** Steps by which the spectrum is summed. */
const STEPS = 600;
/** Share of the peak's frequency up to which it is summed. */
const ALL = 8;
/** Waves about the peak reach from and to these shares of its frequency. */
const FROM = 0.6;
const TO = 3;
/** Degrees to both sides at the peak, and at most. */
const NARROW_DEG = 22;
const WIDE_DEG = 75;

export interface WindSea {
	/** Wind at 10 m over the water, m/s, and metres over which it blows. */
	windMs: number;
	fetchM: number;
}

/** Circular frequency at which most of the energy lies, 1/s. */
const peakOf = ({ windMs, fetchM }: WindSea): number => 22 * pow((GRAVITY * GRAVITY) / (windMs * fetchM), 1 / 3);

/** Variance of the water's height, m², by the fetch. */
const varianceOf = ({ windMs, fetchM }: WindSea): number => (1.6e-7 * windMs * windMs * fetchM) / GRAVITY;

/** Energy of a frequency, m²s: the spectrum's form with the variance of the fetch, of which its own scale differs by up to a third. */
function spectrumOf(of: WindSea): (w: number) => number {
	const peak = peakOf(of);
	const form = (w: number) => {
		const r = exp(-((w - peak) ** 2) / (2 * (w <= peak ? 0.07 : 0.09) ** 2 * peak * peak));
		return (exp(-1.25 * pow(peak / w, 4)) * pow(3.3, r)) / pow(w, 5);
	};
	const step = (ALL * peak) / STEPS;
	let sum = 0;
	for (let i = 1; i <= STEPS; i++) sum += form(i * step) * step;
	const scale = varianceOf(of) / sum;
	return (w) => scale * form(w);
}

/** Significant height, the mean of the highest third, and length of the waves at the peak, metres. */
export function seaOf(of: WindSea): { heightM: number; lengthM: number } {
	const peak = peakOf(of);
	return { heightM: 4 * Math.sqrt(varianceOf(of)), lengthM: (2 * Math.PI * GRAVITY) / (peak * peak) };
}

/** Wave number of a frequency: ω² = g·k + (σ/ρ)·k³, by Newton's steps from deep water without tension. */
function numberOf(w: number): number {
	let k = (w * w) / GRAVITY;
	for (let i = 0; i < 12; i++) k -= (GRAVITY * k + TENSION * k * k * k - w * w) / (GRAVITY + 3 * TENSION * k * k);
	return k;
}

const frequencyOf = (k: number): number => Math.sqrt(GRAVITY * k + TENSION * k * k * k);

/** Waves of a wind at a time, that run towards a heading. */
export function windWaves(of: WindSea, seed: number, timeS: number, headingDeg: number): Wave[] {
	const random = randomStream(seed + 177);
	const energy = spectrumOf(of);
	const peak = peakOf(of);
	const waves: Wave[] = [];
	const add = (w: number, variance: number) => {
		const k = numberOf(w);
		const wide = Math.min(WIDE_DEG, NARROW_DEG * Math.max(1, w / peak));
		const heading = (headingDeg + (random() + random() - 1) * wide) * DEG;
		waves.push({
			kx: k * sin(heading),
			kz: -k * cos(heading),
			phase: random() * 2 * Math.PI - w * timeS,
			slope: Math.sqrt(2 * variance) * k,
			lengthM: (2 * Math.PI) / k,
		});
	};
	const step = ((TO - FROM) * peak) / STEPS;
	const about = Array.from({ length: STEPS }, (_, i) => energy(FROM * peak + (i + 0.5) * step) * step);
	const share = about.reduce((a, b) => a + b, 0) / ABOUT_PEAK;
	let [sum, moment] = [0, 0];
	for (const [i, part] of about.entries()) {
		sum += part;
		moment += part * (FROM * peak + (i + 0.5) * step);
		if (sum < share && i + 1 < STEPS) continue;
		add(moment / sum, sum);
		[sum, moment] = [0, 0];
	}
	const last = frequencyOf((2 * Math.PI) / SHORTEST_M);
	const first = TO * peak;
	if (last <= first) return waves;
	const ratio = pow(last / first, 1 / SHORT);
	for (let i = 0; i < SHORT; i++) {
		const low = first * pow(ratio, i);
		const wide = low * (ratio - 1);
		const w = low * pow(ratio, 0.3 + 0.4 * random());
		add(w, energy(w) * wide);
	}
	return waves;
}

/** Waves of a shot's water at a time. */
export function wavesOf(
	{ rippleMm, windMs = 0, fetchM = USUAL_FETCH_M, headingDeg }: Water,
	seed: number,
	timeS = 0,
): Wave[] {
	if (windMs > 0) return windWaves({ windMs, fetchM }, seed, timeS, headingDeg ?? RIPPLES.headingDeg);
	return ripples(rippleMm, seed, timeS, headingDeg);
}

export const USUAL_FETCH_M = 2000;

/** Height of waves over their level at a place, metres. */
export function heightOfWaves(waves: readonly Wave[], x: number, z: number): number {
	let height = 0;
	for (const { kx, kz, phase, slope, lengthM } of waves)
		height += ((slope * lengthM) / (2 * Math.PI)) * sin(kx * x + kz * z + phase);
	return height;
}
