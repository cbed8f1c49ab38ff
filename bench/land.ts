/**
 * The land: its coarse form while a hand drags an entry of its ledger, and all of it when the hand rests, with none, three and
 * one of each kind of entry. Goals of the hand: 100 ms and 2 s.
 */
import { blankShot } from "../src/core/doc/defaults.ts";
import type { LandEntry } from "../src/core/doc/schema.ts";
import { COARSE_DETAIL, GROUND_DETAIL } from "../src/core/ground/fan.ts";
import { ENTRIES, newEntry } from "../src/core/ground/ledger/ledger.ts";
import { groundMeshForLens } from "../src/core/ground/meshForLens.ts";
import { median } from "./median.ts";

type Say = (name: string, value: number, unit: string, reference?: number) => void;
type Kind = LandEntry["kind"];

const ROUNDS = 5;
const FEET = [{ x: 0, z: 0, headingDeg: 0, halfFieldDeg: 35, nearM: 3 }];

export function land(say: Say): void {
	const { water } = blankShot();
	const time = (kinds: readonly Kind[], detail: typeof GROUND_DETAIL) => {
		const ledger = kinds.map((kind) => newEntry(kind, kind, 0, -40));
		const ground = { preset: "river valley" as const, seed: 1, heightM: 120, ledger };
		return median(
			Array.from({ length: ROUNDS }, () => {
				const at = performance.now();
				groundMeshForLens(ground, water, FEET, detail);
				return performance.now() - at;
			}),
		);
	};
	const some: readonly (readonly [string, readonly Kind[]])[] = [
		["no entry", []],
		["three entries", ["fold", "fracture", "bed"]],
		["one entry of each kind", Object.keys(ENTRIES) as Kind[]],
	];
	for (const [name, kinds] of some) {
		say(`land with ${name}, coarse, goal beside it`, time(kinds, COARSE_DETAIL), "ms", 100);
		say(`land with ${name}, all of it, goal beside it`, time(kinds, GROUND_DETAIL), "ms", 2000);
	}
}
