/** How large the land is in the frames of one lens or of all lenses of a way: metres of it that a pixel covers, at a place. */

import { asin, atan2, cos, DEG, exp, log, sin, TAU } from "../maths/functions.ts";
import { horizonM, type Planet } from "./planet.ts";

/** How far flat ground reaches about the lens at least, metres. */
export const OUTER_M = 60_000;
/** Land of a planet is looked at as far as hills of this height stand over the horizon, metres. */
const HIGHEST_M = 4000;

/** A lens over the land. */
export interface LensFootprint {
	x: number;
	/** Height of the lens, metres. */
	y: number;
	z: number;
	headingDeg: number;
	/** Half of the horizontal field to be meshed finely, degrees. */
	halfFieldDeg: number;
	/** Share of its distance that a pixel of a frame {@link FRAME_PX} wide covers. */
	pixel: number;
}

/** How far land is looked at from a lens, metres. */
export const reachOf = (planet: Pick<Planet, "radiusM"> | null, { y }: LensFootprint): number =>
	planet ? horizonM(planet.radiusM, Math.max(y, 1)) + horizonM(planet.radiusM, HIGHEST_M) : OUTER_M;

/** Width of the frame by whose pixels the land is meshed. */
export const FRAME_PX = 1920;

/** What lies outside the frame is seen in shadows and mirrors alone: so many times coarser. */
const OUTSIDE = 24;

/** No place is looked at from nearer than this, metres. */
const NEAREST_M = 0.1;

/** Lenses of a way by which it is looked at, at most. */
const MOST_FEET = 48;

/** What the lens that sees most of a place sees of it. */
export interface Seen {
	/** Metres that a pixel covers there, across the line of sight. */
	metresPerPixel: number;
	/** Some of it may lie in the frame. */
	inView: boolean;
	/** It may stand before what is far behind it, or before the sky. */
	outline: boolean;
	foot: LensFootprint;
}

/** The first radius at which a lens's horizon is told; from there on they grow by this for a degree between headings. */
const FIRST_M = 2;
const FARTHER = 0.15;
/** Headings at which it is told, of all lenses together. */
const MOST_HEADINGS = 900;
/** What is not this much below what stands before it, as a share of its distance, counts as seen. */
const BELOW = 0.004;
/** What stands in front of land that is higher, and farther by no more than this share, is no outline. */
const BEHIND = 0.25;
/** No land rises above its corners by a larger share of its size. */
const RISES = 0.3;

/** How high the land stands before a lens: the rise over run to the highest that is nearer than a radius, by headings. */
class Horizon {
	private rises: Float32Array;
	private headings: number;
	private first: number;
	private step: number;
	private foot: LensFootprint;
	private radii: number;
	private growth: number;

	constructor(
		foot: LensFootprint,
		feet: number,
		lookDeg: number,
		heightAt: (x: number, z: number) => number,
		planet: Pick<Planet, "radiusM"> | null,
	) {
		this.foot = foot;
		const sinks = planet ? 0.5 / planet.radiusM : 0;
		const half = Math.min(180, foot.halfFieldDeg + 2);
		const stepDeg = Math.max(lookDeg, (2 * half * feet) / MOST_HEADINGS);
		this.growth = log(1 + FARTHER * lookDeg);
		this.radii = Math.ceil(log(reachOf(planet, foot) / FIRST_M) / this.growth);
		this.headings = Math.ceil((2 * half) / stepDeg) + 1;
		this.step = stepDeg * DEG;
		this.first = (foot.headingDeg - half) * DEG;
		this.rises = new Float32Array(this.headings * this.radii);
		for (let h = 0; h < this.headings; h++) {
			const heading = this.first + h * this.step;
			const [dx, dz] = [sin(heading), -cos(heading)];
			let most = -Infinity;
			for (let r = 0; r < this.radii; r++) {
				const radius = FIRST_M * exp(r * this.growth);
				const rises = heightAt(foot.x + dx * radius, foot.z + dz * radius) - foot.y;
				most = Math.max(most, rises / radius - sinks * radius);
				this.rises[h * this.radii + r] = most;
			}
		}
	}

	/** Whether what is no higher than `top` about a place is hidden by what stands before it, or has nothing near behind it that is higher. */
	about(dx: number, dz: number, flat: number, top: number, radiusM: number): "hidden" | "outline" | "within" {
		const nearest = flat - radiusM;
		const r = Math.floor(log(nearest / FIRST_M) / this.growth) - 1;
		if (!(r >= 0)) return "within";
		const { first, step, headings, rises, radii } = this;
		const off = atan2(dx, -dz) - first;
		const at = (off - TAU * Math.floor(off / TAU)) / step;
		const wide = asin(Math.min(1, radiusM / flat)) / step;
		const [from, to] = [Math.floor(at - wide), Math.ceil(at + wide)];
		if (from < 0 || to >= headings) return "within";
		const rise = top - this.foot.y;
		// Seen from below it is the lower the farther off, from above the higher.
		const steepest = rise / (rise > 0 ? nearest : flat + radiusM) + BELOW;
		const near = Math.min(r, radii - 1);
		let hidden = true;
		let outline = false;
		const behind = Math.min(radii - 1, Math.ceil(log(((1 + BEHIND) * (flat + radiusM)) / FIRST_M) / this.growth));
		for (let h = from; h <= to; h++) {
			if (rises[h * radii + near] <= steepest) hidden = false;
			if (rises[h * radii + behind] <= steepest) outline = true;
		}
		return hidden ? "hidden" : outline ? "outline" : "within";
	}
}

/** Tells how a place of a radius is seen whose corners are no higher than `highest`. The answer is one object, which the next overwrites. */
export type Sight = (x: number, y: number, z: number, radiusM: number, highest: number) => Seen;

/** How lenses see land; what hides what is told by headings about `lookDeg` apart. */
export function sightOf(
	feet: readonly LensFootprint[],
	lookDeg: number,
	heightAt: (x: number, z: number) => number,
	planet: Pick<Planet, "radiusM"> | null = null,
): Sight {
	const sinks = planet ? 0.5 / planet.radiusM : 0;
	const every = Math.ceil(feet.length / MOST_FEET);
	const chosen = feet.filter((_, i) => i % every === 0 || i === feet.length - 1);
	const some = chosen.map((foot) => {
		const [heading, half] = [foot.headingDeg * DEG, Math.min(foot.halfFieldDeg, 179) * DEG];
		const horizon = new Horizon(foot, chosen.length, lookDeg, heightAt, planet);
		return { foot, aheadX: sin(heading), aheadZ: -cos(heading), cosHalf: cos(half), sinHalf: sin(half), horizon };
	});
	const seen: Seen = { metresPerPixel: 0, inView: false, outline: false, foot: some[0].foot };
	return (x, y, z, radiusM, highest) => {
		seen.metresPerPixel = Infinity;
		for (const { foot, aheadX, aheadZ, cosHalf, sinHalf, horizon } of some) {
			const [dx, dz] = [x - foot.x, z - foot.z];
			const flat = Math.sqrt(dx * dx + dz * dz);
			const dy = y - sinks * flat * flat - foot.y;
			const near = Math.max(Math.sqrt(flat * flat + dy * dy) - radiusM, NEAREST_M);
			if (near * foot.pixel >= seen.metresPerPixel) continue;
			let inView = flat <= radiusM;
			let outline = false;
			if (!inView) {
				// Its middle is off by the half field and by the angle that it fills itself, at most.
				const fills = radiusM / flat;
				const edge = cosHalf * Math.sqrt(1 - fills * fills) - sinHalf * fills;
				const whole = sinHalf * Math.sqrt(1 - fills * fills) + cosHalf * fills <= 0 && cosHalf < 0;
				inView = whole || dx * aheadX + dz * aheadZ >= edge * flat;
				if (inView) {
					// Of what is large the nearest has sunk least.
					const sunk = sinks * Math.max(0, flat - radiusM) ** 2;
					const stands = horizon.about(dx, dz, flat, highest + RISES * radiusM - sunk, radiusM);
					inView = stands !== "hidden";
					outline = stands === "outline";
				}
			}
			const metresPerPixel = near * foot.pixel * (inView ? 1 : OUTSIDE);
			if (metresPerPixel >= seen.metresPerPixel) continue;
			seen.metresPerPixel = metresPerPixel;
			seen.inView = inView;
			seen.outline = outline;
			seen.foot = foot;
		}
		return seen;
	};
}

/** The place that the ground of lenses is meshed about: the middle of their feet. */
export const footOfWay = (feet: readonly Pick<LensFootprint, "x" | "z">[]): [number, number] => [
	feet.reduce((s, f) => s + f.x, 0) / feet.length,
	feet.reduce((s, f) => s + f.z, 0) / feet.length,
];
