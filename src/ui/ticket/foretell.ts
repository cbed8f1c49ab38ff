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

/** When each print that waits or is traced will be done, in the order of the queue; none after one that cannot be told. */
export function readyTimes(prints: readonly PrintLine[], rate: number | null, now = Date.now()): Map<string, Date> {
	const out = new Map<string, Date>();
	let at = now;
	const order = prints.filter((p) => p.state === "queued" || p.state === "tracing").sort((a, b) => (a.createdAt < b.createdAt ? -1 : 1));
	for (const p of order) {
		const whole = rate ? (p.width * p.height * p.samples) / rate : null;
		const seconds = p.secondsLeft ?? (whole === null ? null : whole * (1 - p.done));
		if (seconds === null) break;
		at += seconds * 1000;
		out.set(p.id, new Date(at));
	}
	return out;
}
