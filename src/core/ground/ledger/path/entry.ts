import type { LandEntry } from "../../../doc/schema.ts";
import { clamp, cos, DEG, millimetres, sin, smoothstep } from "../../../maths/functions.ts";
import { noise2 } from "../../../maths/noise.ts";
import type { Rgb } from "../../preset.ts";
import { blend } from "../../presets/tones.ts";
import type { Land, LandMaker } from "../entry.ts";
import { grainAlong } from "../grain.ts";
import { type Beside, besidePath, curveThrough, pathOver } from "./curve.ts";
import { PathLaid } from "./schema.ts";

type Own = Extract<LandEntry, { kind: "path" }>;

/** How far from its edge a path may cut into the land and lie on it, metres; from a share of it on it gives way. */
const BANK_M = 60;
const GIVES_WAY = 0.75;
/** How far beyond its edge the foot of its bank is looked for, as shares of what is narrowest in it. */
const ROUNDED = 1;
/** How far from a path others may ask how far it is, metres. */
export const FAR_M = 200;
/** What it cuts or fills is told from here on, metres. */
const TOLD_M = 0.5;

const samplesOf = ({ points, widthM, grade }: Own, land: Land) => pathOver(points, land, { apartM: widthM / 3, grade });

/** Wheels go so far from the middle, and wear ruts so far to their sides, metres; a narrower path is worn in its middle. */
const WHEELS_M = 0.72;
const RUT_M = 0.24;
const NARROW_M = 1.9;
/** A rut is not as deep everywhere: by this share, over so many metres. */
const UNEVEN = 0.35;
const UNEVEN_M = 5;
const WORN_SEED = 811;

/** How deep a path is worn so far from its middle, metres; round like the biweight of Beaton and Tukey (1974). */
function wornIn({ widthM, rutM = 0 }: Own, farM: number, x: number, z: number): number {
	if (rutM === 0) return 0;
	const off = widthM < NARROW_M ? (2 * farM) / widthM : Math.abs(farM - WHEELS_M) / RUT_M;
	if (off >= 1) return 0;
	return rutM * (1 - off * off) ** 2 * (1 - UNEVEN + UNEVEN * noise2(x / UNEVEN_M, z / UNEVEN_M, WORN_SEED));
}

/** Sleepers: how wide and high each is, how long at most and as a share of the path's width, and how round its edges are, metres. */
const SLEEPER_M = 0.24;
const STANDS_M = 0.1;
const LONG_M = 2.5;
const LONG_SHARE = 0.85;
const ROUND_M = 0.035;

/** How far a place of a path is a sleeper of it, 0 to 1. */
function sleeperAt({ widthM, sleepersM = 0 }: Own, { farM, alongM }: Beside): number {
	if (sleepersM === 0) return 0;
	const half = Math.min(LONG_M, LONG_SHARE * widthM) / 2;
	if (farM >= half + ROUND_M) return 0;
	const turns = alongM / sleepersM;
	const off = Math.abs(turns - Math.floor(turns) - 0.5) * sleepersM;
	const wide = Math.min(SLEEPER_M, 0.5 * sleepersM) / 2;
	return (1 - smoothstep(wide - ROUND_M, wide + ROUND_M, off)) * (1 - smoothstep(half - ROUND_M, half + ROUND_M, farM));
}

/** Where two paths meet about as high, the one that was there before goes on over the other: from one height apart to the other. */
const MEET_M = 0.35;
const APART_M = 0.9;

/** Colours, linear, and how much of its colour a path shows: what lay there before is under it in places. */
const LAID: Record<NonNullable<Own["laid"]>, Rgb> = {
	earth: [0.165, 0.125, 0.088],
	gravel: [0.245, 0.225, 0.195],
	stone: [0.2, 0.195, 0.185],
	ash: [0.07, 0.068, 0.066],
};
const SHARE = 0.85;
const TIMBER: Rgb = [0.075, 0.056, 0.042];

/** A path with its verges and ditches, which cuts into the land and lies on it by banks. */
export const path: LandMaker<Own> = {
	usual: (x, z, headingDeg) => ({
		kind: "path",
		// From near the eye into the picture.
		points: [
			[-3, 25],
			[3, 5],
			[-2, -30],
		].map(([right, towards]): [number, number] => [
			millimetres(x + right * cos(headingDeg * DEG) - towards * sin(headingDeg * DEG)),
			millimetres(z + right * sin(headingDeg * DEG) + towards * cos(headingDeg * DEG)),
		]),
		widthM: 3,
		crown: 0.04,
		vergeM: 0.8,
		ditchM: 0,
		rutM: 0,
		bankDeg: 35,
		grade: 0.12,
	}),
	act: "Lay a path",
	by: "people",
	sentence: ({ widthM, grade }) =>
		`a path of ${widthM.toFixed(1)} m was laid, no steeper than ${Math.round(grade * 100)} %`,
	fields: [
		{
			label: "Wide",
			value: "widthM",
			unit: "m",
			min: 0.3,
			max: 60,
			step: 0.1,
			digits: 1,
			ruled: true,
			logarithmic: true,
		},
		{ label: "Climbs at most", value: "grade", unit: "%", min: 0.5, max: 100, step: 1, digits: 1, times: 100 },
		{ label: "Crown", value: "crown", unit: "%", min: 0, max: 30, step: 1, digits: 0, times: 100 },
		{ label: "Worn in", value: "rutM", unit: "m", min: 0, max: 0.6, step: 0.01, digits: 2, ruled: true },
		{ label: "Sleepers", value: "sleepersM", unit: "m", min: 0, max: 3, step: 0.05, digits: 2 },
		{ label: "Verge", value: "vergeM", unit: "m", min: 0, max: 30, step: 0.1, digits: 1 },
		{ label: "Ditch", value: "ditchM", unit: "m", min: 0, max: 5, step: 0.05, digits: 2 },
		{ label: "Banks at", value: "bankDeg", unit: "°", min: 5, max: 80, step: 1, digits: 0 },
	],
	picks: [{ label: "Laid with", value: "laid", options: PathLaid.options.map((p) => [p, p]) }],
	made: (entry, land, { onPaths }) => {
		const { widthM, crown, vergeM, ditchM, bankDeg } = entry;
		const half = widthM / 2;
		const edge = half + vergeM;
		const reach = edge + BANK_M;
		const steep = sin(bankDeg * DEG) / cos(bankDeg * DEG);
		// Not before heights are asked for: what has worn the land under it may not have been made until then.
		let beside: ReturnType<typeof besidePath> | null = null;
		return (before, x, z) => {
			beside ??= besidePath(samplesOf(entry, land), reach);
			const near = beside(x, z);
			if (!near) return before;
			const { farM, heightM } = near;
			if (farM <= edge) {
				const own =
					farM <= half
						? heightM +
							crown * half * (1 - (farM / half) ** 2) -
							wornIn(entry, farM, x, z) +
							STANDS_M * sleeperAt(entry, near)
						: heightM - ditchM * sin((Math.PI * (farM - half)) / vergeM);
				const other = onPaths ? onPaths(x, z) : 0;
				if (other <= 0) return own;
				return own + other * (before - own) * (1 - smoothstep(MEET_M, APART_M, Math.abs(before - heightM)));
			}
			const bank = clamp(before, heightM - steep * (farM - edge), heightM + steep * (farM - edge));
			return bank + (before - bank) * smoothstep(edge + GIVES_WAY * BANK_M, reach, farM);
		};
	},
	grain: ({ points, widthM, vergeM, ditchM, rutM = 0, sleepersM = 0 }) => {
		const beside = ditchM > 0 || vergeM > 0 ? Math.max(vergeM, 0.1) : Infinity;
		const narrow = Math.min(
			widthM / 2,
			beside,
			rutM > 0 && widthM >= NARROW_M ? 2 * RUT_M : Infinity,
			sleepersM > 0 ? SLEEPER_M : Infinity,
		);
		return grainAlong(curveThrough(points, widthM), widthM / 2 + vergeM + ROUNDED * narrow, narrow / 2);
	},
	surface: (entry, land) => {
		const half = entry.widthM / 2;
		let beside: ReturnType<typeof besidePath> | null = null;
		return (x, z) => {
			beside ??= besidePath(samplesOf(entry, land), half * 1.4);
			const near = beside(x, z);
			return near ? 1 - smoothstep(0.75 * half, 1.25 * half, near.farM) : 0;
		};
	},
	colour: (entry, land, { onPaths }) => {
		const half = entry.widthM / 2;
		const colour = LAID[entry.laid ?? "earth"];
		let beside: ReturnType<typeof besidePath> | null = null;
		return (x, _y, z) => {
			beside ??= besidePath(samplesOf(entry, land), half * 1.4);
			const near = beside(x, z);
			if (!near) return null;
			const share = SHARE * (1 - smoothstep(0.75 * half, 1.25 * half, near.farM)) * (1 - (onPaths ? onPaths(x, z) : 0));
			if (share <= 0) return null;
			const timber = sleeperAt(entry, near);
			return { colour: timber > 0 ? blend(colour, TIMBER, timber) : colour, share };
		};
	},
	far: ({ points, widthM }) => {
		const line = pathOver(points, () => 0, { apartM: widthM, grade: 1 });
		const beside = besidePath(line, widthM / 2 + FAR_M);
		return (x, z) => Math.max(0, (beside(x, z)?.farM ?? Infinity) - widthM / 2);
	},
	tells: (entry, land) => {
		const samples = samplesOf(entry, land);
		const cut = samples.reduce((a, b) => (b.landM - b.heightM > a.landM - a.heightM ? b : a));
		const fill = samples.reduce((a, b) => (b.heightM - b.landM > a.heightM - a.landM ? b : a));
		const words = [`${Math.round(samples[samples.length - 1].alongM)} m long`];
		if (cut.landM - cut.heightM > TOLD_M)
			words.push(`cuts ${(cut.landM - cut.heightM).toFixed(1)} m deep at ${Math.round(cut.alongM)} m`);
		if (fill.heightM - fill.landM > TOLD_M)
			words.push(`lies ${(fill.heightM - fill.landM).toFixed(1)} m high at ${Math.round(fill.alongM)} m`);
		return words.join(", ");
	},
};
