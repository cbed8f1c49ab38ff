import type { LandEntry } from "../../../doc/schema.ts";
import { atan2, cos, DEG, sin, smoothstep } from "../../../maths/functions.ts";
import type { Land, LandMaker } from "../entry.ts";

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

function shaped(entry: Own, land: Land) {
	const { eye, distanceM, depth } = entry;
	const [ex, ey, ez] = eye;
	const at = lineAt(entry);
	const front = depth * distanceM;
	return (before: number, x: number, z: number): number => {
		const [dx, dz] = [x - ex, z - ez];
		const far = Math.sqrt(dx * dx + dz * dz);
		if (far < FOREGROUND * distanceM) return before;
		const heading = atan2(dx, -dz) / DEG;
		const { rise, holds } = at(heading);
		if (holds <= 0) return before;
		const off = far - distanceM;
		const q = off / (off < 0 ? front : 2 * front);
		let height = before;
		if (q > -1 && q < 1) {
			const [px, pz] = [ex + (dx / far) * distanceM, ez + (dz / far) * distanceM];
			// All of the land's own form stays, lifted so that its place at the distance meets the line.
			height += (ey + rise * distanceM - land(px, pz)) * (1 - q * q) ** 2;
		}
		const ceiling = ey + rise * far - UNDER * Math.abs(off);
		// Triangles have places every few per cent of the way: one of them has to lie where the line is met.
		const crest = 1 - smoothstep(CREST, 2.5 * CREST, Math.abs(off) / distanceM);
		if (height < ceiling) height += (ceiling - height) * crest;
		const under = smoothstep(FOREGROUND * distanceM, 1.5 * FOREGROUND * distanceM, far);
		if (height > ceiling) height += (ceiling - height) * under;
		return before + (height - before) * holds;
	};
}

/** Land far off that is shaped to meet a line which was drawn over the picture. */
export const skyline: LandMaker<Own> = {
	usual: (x, z) => ({
		kind: "skyline",
		eye: [x, 2, z + 40],
		line: [
			[-12, 0.03],
			[-4, 0.09],
			[3, 0.06],
			[12, 0.11],
		],
		distanceM: 800,
		depth: 0.25,
		fadeDeg: 6,
	}),
	act: "Skyline",
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
	tells: (entry, land) => {
		const made = shaped(entry, land);
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
				for (const r of k === TOLD_ALONG ? [far, distanceM] : [far]) {
					const [x, z] = [eye[0] + dx * r, eye[2] + dz * r];
					seen = Math.max(seen, (made(land(x, z), x, z) - eye[1]) / r);
				}
			}
			worst = Math.max(worst, Math.abs(seen - at(heading).rise));
		}
		return `meets the line within ${(worst * distanceM).toFixed(1)} m at its distance`;
	},
};
