import type { LandEntry } from "../../../doc/schema.ts";
import { clamp, cos, DEG, exp, log, millimetres, sin, smoothstep } from "../../../maths/functions.ts";
import { surfaceMesh, type WaterBody } from "../../water/body.ts";
import type { LandMaker } from "../entry.ts";
import { grainAlong } from "../grain.ts";
import { besidePath, curveThrough, type PathSample } from "../path/curve.ts";
import { acrossOf, courseOver, ledOn } from "./course.ts";

type Own = Extract<LandEntry, { kind: "river" }>;

/** How far from its shore it may cut into the land, metres; from a share of it on it gives way. */
const BANK_M = 60;
const GIVES_WAY = 0.75;
/** Its shore rises by this over its water before the bank begins, metres, on a way of its own. */
const SHORE_M = 0.2;
const TOLD_M = 0.5;

/** Roughness of a bed of stones by Manning's formula, s/m^⅓ (Chow 1959). */
const BED = 0.035;

/** How fast water of a depth runs for a slope of 1, m/s (Manning 1891): twice as steep it is 1.4 times as fast. */
export const runsAt = (depthM: number): number => exp((2 / 3) * log(Math.max(1e-3, depthM))) / BED;

const shoreOf = ({ depthM }: Own): number => 0.3 + 0.25 * depthM;

const shallow = (far: number): number => 1 - far * far;

/** The surface of its water between both of its shores. */
function surfaceOf(entry: Own, course: readonly PathSample[]): Omit<WaterBody, "told"> {
	const [{ x: ox, z: oz }] = course;
	const whole = ledOn(course, entry.widthM);
	const across = acrossOf(whole);
	const half = entry.widthM / 2 + 0.7 * shoreOf(entry);
	const positions: number[] = [];
	const indices: number[] = [];
	whole.forEach(({ x, z, heightM }, i) => {
		const [ax, az] = across[i];
		for (const side of [-1, 0, 1]) positions.push(x + side * half * ax - ox, heightM, z + side * half * az - oz);
		if (i === 0) return;
		const a = 3 * (i - 1);
		for (const k of [a, a + 1]) indices.push(k, k + 1, k + 3, k + 1, k + 4, k + 3);
	});
	const beside = besidePath(course, half + SHORE_M);
	return { mesh: surfaceMesh(positions, indices), x: ox, z: oz, levelAt: (x, z) => beside(x, z)?.heightM ?? null };
}

/** A river that is led along a curve, cuts its bed into the land and runs down it. */
export const river: LandMaker<Own> = {
	usual: (x, z, headingDeg) => ({
		kind: "river",
		// From far in the picture to beside the eye.
		points: [
			[-6, -40],
			[4, -12],
			[-3, 6],
			[-9, 28],
		].map(([right, towards]): [number, number] => [
			millimetres(x + right * cos(headingDeg * DEG) - towards * sin(headingDeg * DEG)),
			millimetres(z + right * sin(headingDeg * DEG) + towards * cos(headingDeg * DEG)),
		]),
		widthM: 4,
		depthM: 0.6,
		fall: 0.004,
		underM: 0.3,
		bankDeg: 28,
	}),
	act: "Lead a river",
	by: "weather",
	sentence: ({ widthM, depthM }) => `a river of ${widthM.toFixed(1)} m, ${depthM.toFixed(1)} m deep, ran through it`,
	fields: [
		{
			label: "Wide",
			value: "widthM",
			unit: "m",
			min: 0.3,
			max: 200,
			step: 0.1,
			digits: 1,
			ruled: true,
			logarithmic: true,
		},
		{
			label: "Deep",
			value: "depthM",
			unit: "m",
			min: 0.02,
			max: 20,
			step: 0.05,
			digits: 2,
			ruled: true,
			logarithmic: true,
		},
		{ label: "Falls at least", value: "fall", unit: "%", min: 0, max: 50, step: 0.1, digits: 1, times: 100 },
		{ label: "Sunk by", value: "underM", unit: "m", min: 0, max: 20, step: 0.05, digits: 2 },
		{ label: "Banks at", value: "bankDeg", unit: "°", min: 5, max: 80, step: 1, digits: 0 },
	],
	made: (entry, land) => {
		const { widthM, depthM, bankDeg } = entry;
		const half = widthM / 2;
		const edge = half + shoreOf(entry);
		const reach = edge + BANK_M;
		const steep = sin(bankDeg * DEG) / cos(bankDeg * DEG);
		// Not before heights are asked for: what has worn the land under it may not have been made until then.
		let beside: ReturnType<typeof besidePath> | null = null;
		return (before, x, z) => {
			beside ??= besidePath(courseOver(entry, land), reach);
			const near = beside(x, z);
			if (!near) return before;
			const { farM, heightM } = near;
			if (farM <= half) return heightM - depthM * shallow(farM / half);
			const top = heightM + SHORE_M;
			// The shore is as steep as the bed where they meet.
			if (farM <= edge) return heightM + SHORE_M * smoothstep(0, 1, (farM - half) / (edge - half));
			const bank = clamp(before, top - steep * (farM - edge), top + steep * (farM - edge));
			return bank + (before - bank) * smoothstep(edge + GIVES_WAY * BANK_M, reach, farM);
		};
	},
	grain: (entry) => {
		const narrow = Math.min(entry.widthM / 2, shoreOf(entry));
		return grainAlong(curveThrough(entry.points, entry.widthM), entry.widthM / 2 + 2 * shoreOf(entry), narrow / 2);
	},
	water: (entry, _land, _weight, before) => {
		const course = courseOver(entry, before);
		return { ...surfaceOf(entry, course), runs: runsAt(entry.depthM), told: toldOf(course) };
	},
};

function toldOf(course: readonly PathSample[]): string {
	const [first, last] = [course[0], course[course.length - 1]];
	const words = [`${Math.round(last.alongM)} m long, falls ${(first.heightM - last.heightM).toFixed(1)} m`];
	const cut = course.reduce((a, b) => (b.landM - b.heightM > a.landM - a.heightM ? b : a));
	if (cut.landM - cut.heightM > TOLD_M)
		words.push(`cuts ${(cut.landM - cut.heightM).toFixed(1)} m deep at ${Math.round(cut.alongM)} m`);
	if (last.landM > first.landM + TOLD_M)
		words.push(`it is led uphill by ${(last.landM - first.landM).toFixed(1)} m: water runs the other way`);
	return `${words.join("; ")}.`;
}
