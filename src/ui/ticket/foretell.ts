/** Times of prints, told before and while they are made. */
import type { PrintLine } from "../../core/doc/records.ts";

/** Noise that a proof has at a number of samples, as a share. */
export interface NoiseNow {
	samples: number;
	noise: number;
}

/**
 * Seconds that a print takes at a rate (samples of a pixel in a second): if it takes all its samples, and as is likely
 * when tiles stop at a noise. Noise falls with the root of the samples, so what a proof shows tells how many are needed.
 */
export function foretell(order: { samples: number; noisePercent?: number | null }, pixels: number, rate: number, now: NoiseNow | null): { likely: number; most: number } {
	const most = (pixels * order.samples) / rate;
	if (!order.noisePercent || !now) return { likely: most, most };
	const needed = Math.max(32, now.samples * ((now.noise * 100) / order.noisePercent) ** 2);
	return { likely: (pixels * Math.min(order.samples, needed)) / rate, most };
}

/** When a waiting print will be done at the latest: after all that were ordered before it, of any shot, and its own samples. */
export const readyBy = (print: Pick<PrintLine, "samplesLeft" | "samplesAhead">, rate: number, now = Date.now()): Date =>
	new Date(now + ((print.samplesAhead + print.samplesLeft) / rate) * 1000);
