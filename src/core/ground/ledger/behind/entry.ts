import { GroundPreset, type LandEntry } from "../../../doc/schema.ts";
import { millimetres, smoothstep } from "../../../maths/functions.ts";
import { PRESETS } from "../../preset.ts";
import type { LandMaker } from "../entry.ts";
import { laid, layingField } from "../laying.ts";

type Own = Extract<LandEntry, { kind: "behind" }>;

/** Share of its height within which it goes over into land that it is higher than. */
const SOFT = 0.008;

const farFrom = ({ x: ox, z: oz }: Own, x: number, z: number): number =>
	Math.sqrt((x - ox) * (x - ox) + (z - oz) * (z - oz));

const shareAt = (entry: Own, x: number, z: number): number =>
	smoothstep(entry.radiusM, entry.radiusM + entry.featherM, farFrom(entry, x, z));

const heightAt = ({ preset, seed, heightM, footM, times, x: ox, z: oz }: Own, x: number, z: number): number =>
	footM + times * PRESETS[preset].height((x - ox) / times, (z - oz) / times, seed, heightM / times);

/** Another ground behind the land, at its own distance and scale. */
export const behind: LandMaker<Own> = {
	usual: (x, z) => ({
		kind: "behind",
		preset: "ridges",
		seed: 1,
		heightM: 600,
		footM: 0,
		times: 3,
		x: millimetres(x),
		z: millimetres(z),
		radiusM: 1500,
		featherM: 1500,
		how: "higher",
	}),
	act: "Another ground behind",
	by: "rock",
	sentence: ({ preset, heightM, radiusM }) =>
		`beyond ${radiusM.toFixed(0)} m lies ${preset}, ${heightM.toFixed(0)} m high`,
	picks: [
		{ label: "What lies there", value: "preset", options: GroundPreset.options.map((p) => [p, p]) },
		layingField(),
	],
	fields: [
		{ label: "Height", value: "heightM", unit: "m", min: 0, max: 4000, step: 10, digits: 0, ruled: true },
		{
			label: "Begins at",
			value: "radiusM",
			unit: "m",
			min: 10,
			max: 50_000,
			step: 10,
			digits: 0,
			ruled: true,
			logarithmic: true,
		},
		{ label: "Times as large", value: "times", unit: "×", min: 0.1, max: 20, step: 0.1, digits: 1 },
		{ label: "Its foot at", value: "footM", unit: "m", min: -1000, max: 1000, step: 1, digits: 1 },
		{ label: "Goes over in", value: "featherM", unit: "m", min: 1, max: 50_000, step: 10, digits: 0 },
		{ label: "Seed", value: "seed", unit: "", min: 0, max: 99_999, step: 1, digits: 0, whole: true },
		{ label: "Right", value: "x", unit: "m", min: -1e6, max: 1e6, step: 1, digits: 1 },
		{ label: "Away", value: "z", unit: "m", min: -1e6, max: 1e6, step: 1, digits: 1, times: -1 },
	],
	made: (entry) => {
		const softM = SOFT * entry.heightM;
		return (before, x, z) => {
			const share = shareAt(entry, x, z);
			return share > 0 ? before + share * (laid(entry.how, before, heightAt(entry, x, z), softM) - before) : before;
		};
	},
	colour: (entry, land) => (x, y, z, steep) => {
		let share = shareAt(entry, x, z);
		// Where the land before is the higher one, it is that which is seen.
		if (share > 0 && entry.how === "higher") {
			const over = heightAt(entry, x, z) - land(x, z);
			share *= smoothstep(-SOFT * entry.heightM, SOFT * entry.heightM, over);
		}
		if (!(share > 0)) return null;
		const { preset, seed, footM, times, x: ox, z: oz } = entry;
		const colour = PRESETS[preset].colour((x - ox) / times, (y - footM) / times, (z - oz) / times, seed, steep);
		return { colour, share };
	},
};
