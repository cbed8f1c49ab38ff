import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../doc/defaults.ts";
import type { Ground } from "../doc/schema.ts";
import { newEntry } from "../ground/ledger/ledger.ts";
import { beginsToHide } from "./beginsToHide.ts";

const flat: Ground = { preset: "plain", seed: 1, heightM: 0 };
/** A bank across the way, so high. */
const bank = (byM: number): Ground => ({
	...flat,
	ledger: [
		{
			...newEntry("hand", "h", 0, 0),
			kind: "hand",
			strokes: [
				{
					tool: "raise",
					points: [
						[-30, -10],
						[30, -10],
					],
					radiusM: 2,
					byM,
				},
			],
		} as never,
	],
});
const shed = newPiece("shed", "box", { name: "Shed", position: [0, 0, -20], size: [3, 4, 3] });
const aside = newPiece("aside", "box", { position: [30, 0, -20], size: [3, 4, 3] });
const near = newPiece("near", "box", { position: [0, 0, -5], size: [1, 1, 1] });
const shot = {
	camera: { ...blankShot().camera, position: [0, 2, 0] as [number, number, number] },
	pieces: [shed, aside, near],
};
const place = { x: 0, z: -10, radiusM: 3 };

describe("what land begins to hide", () => {
	it("is told from the foot up to where the line of sight passes over it", () => {
		// From 2 m over a bank of 1.5 m half way: 1 m of what stands behind.
		const [{ piece, upToM }, ...more] = beginsToHide(shot, flat, bank(1.5), place);
		expect(piece.name).toBe("Shed");
		expect(upToM).toBeCloseTo(1, 1);
		expect(more).toEqual([]);
	});
	it("is no more than all of it, and nothing that was hidden before, stands before it or beside the place", () => {
		expect(beginsToHide(shot, flat, bank(9), place)[0].upToM).toBe(4);
		expect(beginsToHide(shot, bank(1.5), bank(1.5), place)).toEqual([]);
		expect(beginsToHide(shot, bank(1.5), flat, place)).toEqual([]);
		expect(beginsToHide(shot, flat, bank(0.4), place)).toEqual([]);
	});
});
