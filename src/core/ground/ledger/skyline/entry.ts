import type { LandEntry } from "../../../doc/schema.ts";
import { atan2, clamp, cos, DEG, millimetres, sin, smoothstep } from "../../../maths/functions.ts";
import { noise2, ridged2 } from "../../../maths/noise.ts";
import { radiusOf, sunkM } from "../../planet.ts";
import type { Land, LandBefore, LandMaker } from "../entry.ts";

type Own = Extract<LandEntry, { kind: "skyline" }>;

/** Land nearer than this share of the distance is left alone: it is the foreground. */
const FOREGROUND = 0.08;
/** Land before and behind the ridge stays under the line of sight by this share of how far off it lies. */
const UNDER = 0.004;
/** Land so near the distance, as a share of it, lies in the line of sight. */
const CREST = 0.018;
/** Headings, and places along each, at which it is told how near the line is met. */
const [TOLD_ACROSS, TOLD_ALONG] = [64, 60];

const wrapped = (deg: number): number => ((((deg + 180) % 360) + 360) % 360) - 180;

/**
 * Rise over run of a line at a heading, and how far it holds there, 0 to 1. Between two points it is straight in every picture
 * that is taken from the eye: it lies in a plane through that.
 */
export function lineAt({
	line,
	fadeDeg,
}: Pick<Own, "line" | "fadeDeg">): (headingDeg: number) => { rise: number; holds: number } {
	const [from, to] = [line[0][0], line[line.length - 1][0]];
	const middle = (from + to) / 2;
	return (headingDeg) => {
		const at = middle + wrapped(headingDeg - middle);
		const beyond = Math.max(0, from - at, at - to);
		const holds = 1 - smoothstep(0, fadeDeg, beyond);
		const heading = Math.min(to, Math.max(from, at));
		let i = 0;
		while (i + 2 < line.length && line[i + 1][0] < heading) i++;
		const [[a, low], [b, high]] = [line[i], line[i + 1]];
		const across = sin((b - a) * DEG);
		const rise = across > 1e-9 ? (low * sin((b - heading) * DEG) + high * sin((heading - a) * DEG)) / across : low;
		return { rise, holds };
	};
}

/** Places of the line that are summed up, and headings at which the land under the ridge is looked at. */
const [SUMMED, LOOKED] = [1024, 96];

/** The line's mean rise over degrees about a heading, by sums along it. */
function meansOf(
	at: ReturnType<typeof lineAt>,
	from: number,
	to: number,
): (headingDeg: number, aboutDeg: number) => number {
	const step = (to - from) / SUMMED;
	const sums = new Float64Array(SUMMED + 1);
	for (let i = 0; i < SUMMED; i++) sums[i + 1] = sums[i] + at(from + (i + 0.5) * step).rise;
	/** The sum up to a heading; beyond its ends the line goes on level. */
	const upTo = (heading: number): number => {
		const u = (heading - from) / step;
		if (u <= 0) return u * at(from).rise;
		if (u >= SUMMED) return sums[SUMMED] + (u - SUMMED) * at(to).rise;
		const i = Math.floor(u);
		return sums[i] + (u - i) * (sums[i + 1] - sums[i]);
	};
	return (heading, about) =>
		about < step ? at(heading).rise : ((upTo(heading + about) - upTo(heading - about)) * step) / (2 * about);
}

/** How much the ridge goes nearer and farther, as a share of its distance, and over how many degrees. */
const [WANDERS, WANDER_DEG] = [0.14, 9];
/** Away from the crest the line is heard over so many degrees, and bent aside by as many, where the ridge ends. */
const [HEARD_DEG, BENT_DEG] = [7, 5];
/** Spurs on its sides: how large, as shares of the distance and of what it was lifted. */
const [SPUR, SPUR_HIGH] = [0.11, 0.5];

/** How far off the ridge lies in a heading, metres. */
const crestOf = ({ distanceM }: Own, heading: number): number =>
	distanceM * (1 + WANDERS * noise2(heading / WANDER_DEG, 0.5, 811));

function shaped(entry: Own, land: Land, of: LandBefore) {
	const radiusM = radiusOf(of);
	const { eye, distanceM, depth, line } = entry;
	const [ex, ey, ez] = eye;
	const [from, to] = [line[0][0], line[line.length - 1][0]];
	const middle = (from + to) / 2;
	const at = lineAt(entry);
	const meanAt = meansOf(at, from, to);
	// Not before heights are asked for: what has worn the land under it may not have been made until then.
	let base: Float64Array | null = null;
	const spread = to - from + 2 * entry.fadeDeg;
	const baseAt = (heading: number): number => {
		base ??= Float64Array.from({ length: LOOKED }, (_, i) => {
			const h = middle + spread * (i / (LOOKED - 1) - 0.5);
			return land(ex + distanceM * sin(h * DEG), ez - distanceM * cos(h * DEG));
		});
		const u = clamp(((heading - middle) / spread + 0.5) * (LOOKED - 1), 0, LOOKED - 1.001);
		const i = Math.floor(u);
		return base[i] + (base[i + 1] - base[i]) * smoothstep(0, 1, u - i);
	};
	return (before: number, x: number, z: number): number => {
		const [dx, dz] = [x - ex, z - ez];
		const far = Math.sqrt(dx * dx + dz * dz);
		if (far < FOREGROUND * distanceM) return before;
		const heading = middle + wrapped(atan2(dx, -dz) / DEG - middle);
		const { rise, holds } = at(heading);
		if (holds <= 0) return before;
		const crestM = crestOf(entry, heading);
		const off = far - crestM;
		const front = depth * crestM;
		const q = Math.min(1, Math.abs(off) / (off < 0 ? front : 2 * front));
		let height = before;
		if (q < 1) {
			const [u, v] = [x / (SPUR * distanceM), z / (SPUR * distanceM)];
			const bent = heading + BENT_DEG * q * noise2(u, v, 812);
			const lift = ey + meanAt(bent, HEARD_DEG * q) * crestM + sunkM(radiusM, crestM) - baseAt(bent);
			const share = (1 - q * q) ** 2;
			// Spurs and gullies between crest and foot; the land's own form stays on all of it.
			const spurs = 1 + SPUR_HIGH * 4 * share * (1 - share) * (ridged2(u, v, 813, 5) - 0.6);
			height += lift * share * spurs;
		}
		const ceiling = ey + rise * far + sunkM(radiusM, far) - UNDER * Math.abs(off);
		// Triangles have places every few per cent of the way: one of them has to lie where the line is met.
		const crest = 1 - smoothstep(CREST, 2.5 * CREST, Math.abs(off) / crestM);
		if (height < ceiling) height += (ceiling - height) * crest;
		const under = smoothstep(FOREGROUND * distanceM, 1.5 * FOREGROUND * distanceM, far);
		if (height > ceiling) height += (ceiling - height) * under;
		return before + (height - before) * holds;
	};
}

/** Land far off that is shaped to meet a line which was drawn over the picture. */
export const skyline: LandMaker<Own> = {
	usual: (x, z, headingDeg) => ({
		kind: "skyline",
		// Some way before the place, as high as eyes are.
		eye: [millimetres(x - 40 * sin(headingDeg * DEG)), 2, millimetres(z + 40 * cos(headingDeg * DEG))],
		line: [
			[headingDeg - 12, 0.03],
			[headingDeg - 4, 0.09],
			[headingDeg + 3, 0.06],
			[headingDeg + 12, 0.11],
		],
		distanceM: 800,
		depth: 0.25,
		fadeDeg: 6,
	}),
	act: "Skyline",
	by: "hand",
	sentence: ({ distanceM }) =>
		`it rose to meet a line, ${distanceM < 1000 ? `${distanceM.toFixed(0)} m` : `${(distanceM / 1000).toFixed(1)} km`} off`,
	fields: [
		{
			label: "Far",
			value: "distanceM",
			unit: "m",
			min: 20,
			max: 60_000,
			step: 10,
			digits: 0,
			ruled: true,
			logarithmic: true,
		},
		{ label: "Reaches", value: "depth", unit: "%", min: 2, max: 100, step: 1, digits: 0, times: 100 },
		{ label: "Fades on", value: "fadeDeg", unit: "°", min: 0.2, max: 60, step: 0.5, digits: 1 },
	],
	made: shaped,
	tells: (entry, land, of) => {
		const made = shaped(entry, land, of);
		const { eye, line, distanceM } = entry;
		const at = lineAt(entry);
		const [from, to] = [line[0][0], line[line.length - 1][0]];
		let worst = 0;
		for (let i = 0; i <= TOLD_ACROSS; i++) {
			const heading = from + ((to - from) * i) / TOLD_ACROSS;
			const [dx, dz] = [sin(heading * DEG), -cos(heading * DEG)];
			let seen = Number.NEGATIVE_INFINITY;
			for (let k = 0; k <= TOLD_ALONG; k++) {
				// From the foreground to four times as far, the ridge itself among them.
				const far = distanceM * FOREGROUND * (4 / FOREGROUND) ** (k / TOLD_ALONG);
				for (const r of k === TOLD_ALONG ? [far, crestOf(entry, heading)] : [far]) {
					const [x, z] = [eye[0] + dx * r, eye[2] + dz * r];
					seen = Math.max(seen, (made(land(x, z), x, z) - sunkM(radiusOf(of), r) - eye[1]) / r);
				}
			}
			worst = Math.max(worst, Math.abs(seen - at(heading).rise));
		}
		return `meets the line within ${(worst * distanceM).toFixed(1)} m at its distance`;
	},
};
