import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../doc/defaults.ts";
import { applyEdit } from "../doc/edits.ts";
import { candidatesFor, exchangedFor } from "./exchange.ts";

const rock = newPiece("rock", "blob", {
	position: [3, 0.2, -8],
	headingDeg: 40,
	pitchDeg: 5,
	size: [2, 1.5, 1],
	group: "g",
});
const tower = newPiece("tower", "tube", { name: "Tower", size: [4, 12, 4] });
const doc = { ...blankShot(), pieces: [rock, tower] };

describe("a piece exchanged in place", () => {
	it("keeps foot, turn, height and name, and takes shape and proportions", () => {
		const [own] = applyEdit(doc, exchangedFor(rock, tower)).document.pieces;
		expect(own).toMatchObject({
			id: "rock",
			name: "blob",
			position: rock.position,
			headingDeg: 40,
			pitchDeg: 5,
			group: "g",
		});
		expect(own.size).toEqual([0.5, 1.5, 0.5]);
		expect(own.shape).toMatchObject({ kind: "tube", wallM: 0.1 * (1.5 / 12) });
	});
	it("has six to twelve candidates: seeds, sizes, other pieces, other shapes, no two alike, others at another turn", () => {
		for (const count of [6, 9, 12]) {
			const all = candidatesFor(rock, doc.pieces, count);
			expect(all).toHaveLength(count);
			const made = all.map(({ edit }) => JSON.stringify(applyEdit(doc, edit).document.pieces[0]));
			expect(new Set([...made, JSON.stringify(rock)]).size).toBe(count + 1);
			expect(candidatesFor(rock, doc.pieces, count)).toEqual(all);
			expect(candidatesFor(rock, doc.pieces, count, 1)).not.toEqual(all);
		}
		const titles = candidatesFor(rock, doc.pieces, 12).map((c) => c.title);
		expect(titles).toEqual(expect.arrayContaining(["wider", "as Tower", "box"]));
		expect(titles.filter((t) => t.startsWith("seed"))).toHaveLength(4);
	});
});
