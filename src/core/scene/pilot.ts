/**
 * A pilot tells before a print what it will take: small tiles all over the picture are traced with 16 samples at the
 * print's size; their time gives the rate, their noise the samples that are needed where noise decides.
 */
import { nextLook, type Tile } from "./picture.ts";

export interface Pilot {
	/** Time of one sample of one pixel on one thread, milliseconds. */
	msPerSample: number;
	/** Threads that will trace the print. */
	threads: number;
	/** Relative noise of each tile after {@link PILOT_SAMPLES}, as shares. */
	noises: number[];
	/** Power of the samples that the noise falls by; a half for light that every sample finds. */
	fall: number;
}

export const PILOT_SAMPLES = 16;
/** Samples that are traced before and not counted: a worker that has just been started is slower at first. */
export const WARM_SAMPLES = 4;
const ACROSS = 8;
const DOWN = 6;
const SIDE = 12;
/** What taking the noise out of a pixel costs, in samples of it; measured on the demo shots. */
export const CLEANING = 4;

/** Tiles of a pilot, spread evenly over the part that is printed. */
export function pilotTiles(part: Tile): Tile[] {
	const out: Tile[] = [];
	const width = Math.min(SIDE, part.width);
	const height = Math.min(SIDE, part.height);
	for (let j = 0; j < DOWN; j++) {
		for (let i = 0; i < ACROSS; i++) {
			const x = part.x + Math.floor(((i + 0.5) / ACROSS) * part.width - width / 2);
			const y = part.y + Math.floor(((j + 0.5) / DOWN) * part.height - height / 2);
			out.push({
				x: Math.min(part.x + part.width - width, Math.max(part.x, x)),
				y: Math.min(part.y + part.height - height, Math.max(part.y, y)),
				width,
				height,
			});
		}
	}
	return out;
}

/** The slowest fall that is believed of so few samples. */
const SLOWEST_FALL = 0.3;

/**
 * Power by which noise falls between two numbers of samples, from the means over the pilot's tiles. Of light that few
 * samples find, few samples do not yet show the noise: what is measured falls slower than their root, and goes on so.
 */
export function fallOf(
	few: readonly number[],
	fewSamples: number,
	many: readonly number[],
	manySamples: number,
): number {
	const sum = (v: readonly number[]) => v.reduce((s, x) => s + x, 0);
	const fall = Math.log(sum(few) / sum(many)) / Math.log(manySamples / fewSamples);
	return Number.isFinite(fall) ? Math.min(0.5, Math.max(SLOWEST_FALL, fall)) : 0.5;
}

/** Samples that a tile takes until its noise is low enough: noise falls by a power of them and is looked at in few places only. */
export function samplesNeeded(noise: number, at: number, aimPercent: number, most: number, fall = 0.5): number {
	const needed = at * ((noise * 100) / aimPercent) ** (1 / fall);
	let samples = nextLook(0);
	while (samples < Math.min(most, needed)) samples = nextLook(samples);
	return Math.min(most, samples);
}

/** What is known of a picture's noise: that of tiles, as shares, after a number of samples. */
export interface NoiseNow {
	samples: number;
	noises: number[];
	/** As of a {@link Pilot}; a half when it is not known. */
	fall?: number;
}

/** Seconds that a print takes at a rate (samples of a pixel in a second): if it takes all its samples, and as is likely when noise decides. */
export function foretell(
	order: { samples: number; noisePercent?: number | null },
	pixels: number,
	rate: number,
	now: NoiseNow | null,
): { likely: number; most: number } {
	const seconds = (samples: number) => (pixels * (samples + CLEANING)) / rate;
	const most = seconds(order.samples);
	const aim = order.noisePercent;
	if (!aim || !now || now.noises.length === 0) return { likely: most, most };
	const mean =
		now.noises.reduce((sum, noise) => sum + samplesNeeded(noise, now.samples, aim, order.samples, now.fall), 0) /
		now.noises.length;
	return { likely: seconds(mean), most };
}

/** Samples of a pixel in a second that a pilot promises. */
export const rateOf = (p: Pilot): number => (p.threads * 1000) / p.msPerSample;
