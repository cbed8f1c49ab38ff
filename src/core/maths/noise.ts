/** Seeded gradient noise and its sums (Perlin 2002 for the fade and the gradients; hashes are our own). */
import { hash32 } from "./hash.ts";

function gradient(ix: number, row: number, fx: number, fy: number): number {
	const h = hash32(ix ^ row);
	const a = (h & 0xffff) / 32768 - 1;
	const b = (h >>> 16) / 32768 - 1;
	return a * fx + b * fy;
}

function wrap(i: number, period: number): number {
	return ((i % period) + period) % period;
}

const fade = (t: number) => t * t * t * (t * (t * 6 - 15) + 10);

/** Gradient noise over the plane, about −1 to 1, of mean 0. `period`, when given, makes it repeat (whole number). */
export function noise2(x: number, y: number, seed: number, period = 0): number {
	const x0 = Math.floor(x);
	const y0 = Math.floor(y);
	const fx = x - x0;
	const fy = y - y0;
	const ax = period ? wrap(x0, period) : x0;
	const bx = period ? wrap(x0 + 1, period) : x0 + 1;
	const salt = hash32(seed);
	const upper = hash32((period ? wrap(y0, period) : y0) ^ salt);
	const lower = hash32((period ? wrap(y0 + 1, period) : y0 + 1) ^ salt);
	const u = fade(fx);
	const v = fade(fy);
	const top = gradient(ax, upper, fx, fy) * (1 - u) + gradient(bx, upper, fx - 1, fy) * u;
	const bottom = gradient(ax, lower, fx, fy - 1) * (1 - u) + gradient(bx, lower, fx - 1, fy - 1) * u;
	return (top * (1 - v) + bottom * v) * 1.5;
}

/** Sum of `octaves` noises, each twice as fine and `gain` times as strong as the one before. */
export function fractal2(x: number, y: number, seed: number, octaves: number, gain = 0.5, period = 0): number {
	let sum = 0;
	let amplitude = 1;
	let total = 0;
	let frequency = 1;
	for (let i = 0; i < octaves; i++) {
		sum += amplitude * noise2(x * frequency, y * frequency, seed + i * 101, period * frequency);
		total += amplitude;
		amplitude *= gain;
		frequency *= 2;
	}
	return sum / total;
}

/** Ridged sum in 0 to 1: sharp crests where the noise changes sign (after Musgrave 1994). */
export function ridged2(x: number, y: number, seed: number, octaves: number, gain = 0.5): number {
	let sum = 0;
	let amplitude = 1;
	let total = 0;
	let frequency = 1;
	let weight = 1;
	for (let i = 0; i < octaves; i++) {
		let n = 1 - Math.abs(noise2(x * frequency, y * frequency, seed + i * 101));
		n = n * n * weight;
		weight = n < 0 ? 0 : Math.min(n, 1);
		sum += amplitude * n;
		total += amplitude;
		amplitude *= gain;
		frequency *= 2.03;
	}
	return sum / total;
}
