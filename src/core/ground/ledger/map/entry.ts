import type { LandEntry, LandFile } from "../../../doc/schema.ts";
import type { LandPicture } from "../../../formats/landPicture.ts";
import { cos, DEG, millimetres, sin, smoothstep } from "../../../maths/functions.ts";
import { colourOf, heldPicture, type LandRead, shareIn } from "../../pictures.ts";
import type { LandMaker } from "../entry.ts";
import { laid, layingField } from "../laying.ts";

type Own = Extract<LandEntry, { kind: "map" }>;

/** Share of its heights within which it goes over into land that it is higher than. */
const SOFT = 0.004;
const LEAST_FEATHER_M = 0.05;
/** Share of its shorter side on which it goes over into the land at most: its middle is always itself. */
const MOST_FEATHER = 0.4;

type Which = keyof Own["files"];

/** What is read of each of its pictures. */
const AS: Record<Which, (entry: Own) => LandRead["as"]> = {
	heights: ({ steps }) => (steps === "smoothed" ? "smoothed" : "heights"),
	colours: () => "colours",
	mask: () => "heights",
};

const readOf = (entry: Own, which: Which, { file, name }: LandFile): LandRead => ({ file, name, as: AS[which](entry) });

/** A picture as soon as it is held; null until then, and where there is none. */
function pictureOf(entry: Own, which: Which): () => LandPicture | null {
	const own = entry.files[which];
	if (!own) return () => null;
	const read = readOf(entry, which, own);
	let found: LandPicture | null = null;
	return () => {
		found ??= heldPicture(read);
		return found;
	};
}

/** Its depth, metres. */
export const deepM = ({ acrossM, files: { heights } }: Own): number =>
	heights ? (acrossM * heights.heightPx) / heights.widthPx : acrossM;

/** Where a place lies on the map, shares from its upper left corner; and metres from it to the nearest edge within. */
function onMap(entry: Own): (x: number, z: number) => { u: number; v: number; inM: number } {
	const { x: ox, z: oz, acrossM, headingDeg } = entry;
	const deep = deepM(entry);
	const [c, s] = [cos(headingDeg * DEG), sin(headingDeg * DEG)];
	return (x, z) => {
		const [dx, dz] = [x - ox, z - oz];
		const [right, down] = [dx * c + dz * s, dz * c - dx * s];
		return {
			u: right / acrossM + 0.5,
			v: down / deep + 0.5,
			inM: Math.min(acrossM / 2 - Math.abs(right), deep / 2 - Math.abs(down)),
		};
	};
}

/** How far the map holds at a place: nothing at its edges and beyond them, and as its mask tells. */
function sharing(entry: Own): (u: number, v: number, inM: number) => number {
	const mask = pictureOf(entry, "mask");
	const most = MOST_FEATHER * Math.min(entry.acrossM, deepM(entry));
	const feather = Math.max(LEAST_FEATHER_M, Math.min(most, entry.featherM));
	return (u, v, inM) => {
		if (inM <= 0) return 0;
		const own = mask();
		return smoothstep(0, feather, inM) * (own ? Math.min(1, Math.max(0, shareIn(own, u, v))) : 1);
	};
}

/** Heights out of a picture, where they lie on the land. */
export const map: LandMaker<Own> = {
	usual: (x, z, headingDeg) => ({
		kind: "map",
		files: { heights: null, colours: null, mask: null },
		x: millimetres(x),
		z: millimetres(z),
		headingDeg: Math.round(headingDeg),
		acrossM: 1000,
		leastM: 0,
		mostM: 100,
		featherM: 100,
		how: "over",
		steps: "kept",
	}),
	act: "Lay a height map",
	by: "files",
	sentence: ({ files: { heights }, acrossM, leastM, mostM }) =>
		heights
			? `${heights.name} was laid over ${acrossM.toFixed(0)} m, ${leastM.toFixed(0)} to ${mostM.toFixed(0)} m high`
			: "a height map is to be laid",
	files: [
		{ label: "Heights", value: "heights", as: "heights" },
		{ label: "Colours", value: "colours", as: "colours" },
		{ label: "Where it holds", value: "mask", as: "heights" },
	],
	picks: [
		layingField(),
		{
			label: "Steps of few bits",
			value: "steps",
			options: [
				["kept", "as they are"],
				["smoothed", "smoothed"],
			],
			matters: ({ files: { heights } }) => !!heights && heights.bits <= 8,
		},
	],
	fields: [
		{
			label: "Across",
			value: "acrossM",
			unit: "m",
			min: 10,
			max: 100_000,
			step: 10,
			digits: 1,
			ruled: true,
			logarithmic: true,
		},
		{ label: "Highest at", value: "mostM", unit: "m", min: -12_000, max: 12_000, step: 1, digits: 2 },
		{ label: "Lowest at", value: "leastM", unit: "m", min: -12_000, max: 12_000, step: 1, digits: 2 },
		{ label: "Goes over in", value: "featherM", unit: "m", min: 0, max: 1e5, step: 10, digits: 0 },
		{ label: "Heading of its top", value: "headingDeg", unit: "°", min: -360, max: 360, step: 1, digits: 1 },
		{ label: "Right", value: "x", unit: "m", min: -1e6, max: 1e6, step: 1, digits: 1 },
		{ label: "Away", value: "z", unit: "m", min: -1e6, max: 1e6, step: 1, digits: 1, times: -1 },
	],
	reads: (entry) =>
		(Object.keys(AS) as Which[]).flatMap((which) => {
			const own = entry.files[which];
			return own ? [readOf(entry, which, own)] : [];
		}),
	tells: (entry) => {
		const { heights } = entry.files;
		if (!heights) return "";
		const { widthPx, heightPx, bits } = heights;
		const px = entry.acrossM / widthPx;
		const each = px < 10 ? px.toFixed(2) : px.toFixed(0);
		const stepM = Math.abs(entry.mostM - entry.leastM) / (2 ** bits - 1);
		const told = `${widthPx} × ${heightPx} px, one every ${each} m.`;
		if (bits > 8) return told;
		return `${told} Its ${bits} bits have steps of ${stepM.toFixed(2)} m${entry.steps === "kept" ? ", which will show: they can be smoothed" : ", smoothed within half of one"}.`;
	},
	made: (entry) => {
		const heights = pictureOf(entry, "heights");
		const place = onMap(entry);
		const share = sharing(entry);
		const { leastM, mostM, how } = entry;
		const softM = SOFT * Math.abs(mostM - leastM);
		return (before, x, z) => {
			const { u, v, inM } = place(x, z);
			const own = inM > 0 ? heights() : null;
			const part = own ? share(u, v, inM) : 0;
			if (!own || part <= 0) return before;
			return before + part * (laid(how, before, leastM + (mostM - leastM) * shareIn(own, u, v), softM) - before);
		};
	},
	colour: (entry) => {
		const colours = pictureOf(entry, "colours");
		const place = onMap(entry);
		const share = sharing(entry);
		return (x, _y, z) => {
			const { u, v, inM } = place(x, z);
			const own = inM > 0 ? colours() : null;
			const part = own ? share(u, v, inM) : 0;
			return own && part > 0 ? { colour: colourOf(own, u, v), share: part } : null;
		};
	},
};
