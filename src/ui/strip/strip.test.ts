import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../../core/doc/defaults.ts";
import { usualMove } from "../../core/doc/edits/move.ts";
import type { ShotDocument } from "../../core/doc/schema.ts";
import { keepables, keysOf, seenFrom } from "./keepable.ts";
import { rowWords } from "./MoveTable.tsx";
import { keptWords, notchesOf } from "./notches.ts";
import { frameAfter } from "./player.ts";
import { frameOfX, xOfFrame } from "./TimeStrip.tsx";

const ease = (...times: number[]) => times.map((timeS) => ({ timeS, value: 35, leave: "ease" as const }));
const shot = (): ShotDocument => ({
	...blankShot(),
	pieces: ["a", "b", "c"].map((id) => newPiece(id, "box", { name: id.toUpperCase() })),
	move: {
		...usualMove(),
		tracks: [
			{ value: "camera.focal", keys: ease(0, 2) },
			...["a", "b", "c"].map((of) => ({
				value: "piece.place" as const,
				of,
				keys: [{ timeS: 0, value: [0, 0, 0], leave: "hold" as const }],
			})),
		],
	},
});

describe("notches", () => {
	it("stand at each time at which something is keyed, with the word of the camera before that of others", () => {
		const { move } = shot();
		const [first, second] = notchesOf(move as NonNullable<ShotDocument["move"]>);
		expect([first.frame, first.tracks.length, first.leave, first.going.length]).toEqual([0, 4, "ease", 1]);
		expect([second.frame, second.tracks.length, second.leave]).toEqual([48, 1, null]);
	});
	it("tell many pieces by their number", () => {
		const doc = shot();
		expect(keptWords(doc, doc.move?.tracks ?? [])).toBe("focal length, place of 3 pieces");
		expect(keptWords(doc, [{ value: "piece.place", of: "b" }])).toBe("place of B");
	});
});

describe("the strip", () => {
	it("leads from frames to places and back", () => {
		const scale = { frames: 96, width: 700 };
		for (const frame of [0, 1, 50, 95]) expect(frameOfX(xOfFrame(frame, scale), scale)).toBe(frame);
		expect([frameOfX(-50, scale), frameOfX(900, scale)]).toEqual([0, 95]);
	});
	it("plays round in its range at the true rate, from where it stands", () => {
		const range = { from: 10, to: 19 };
		expect(frameAfter(0, 24, 12, range)).toBe(12);
		expect(frameAfter(0.25, 24, 12, range)).toBe(18);
		expect(frameAfter(0.5, 24, 12, range)).toBe(14);
		expect(frameAfter(0, 24, 40, range)).toBe(10);
		expect(frameAfter(1001 / 24000, 24000 / 1001, 10, range)).toBe(11);
	});
});

describe("what can be kept", () => {
	const nothing = { free: null, selected: [], lamp: null };
	it("is the camera's, that of what is selected, of the air and of the finish, and what is keyed already", () => {
		const words = keepables({ ...shot(), move: null }, { ...nothing, selected: ["b"] }).map((k) => k.words);
		expect(words).toContain("place");
		expect(words).toContain("size of B");
		expect(words).not.toContain("size of A");
		expect(words).toContain("visibility of the fog");
		expect(keepables(shot(), nothing).filter((k) => k.value === "piece.place" && k.keyed)).toHaveLength(3);
	});
	it("is what a free view sees, where one is walked in", () => {
		const free = { position: [4, 2, 1] as [number, number, number], headingDeg: 30, pitchDeg: -5 };
		const [place] = keepables(seenFrom(shot(), null), { ...nothing, free }).filter((k) => k.value === "camera.place");
		expect(keysOf([place], 1.5)).toEqual([{ value: "camera.place", timeS: 1.5, is: [4, 2, 1] }]);
	});
});

describe("rows of the table", () => {
	it("say what they mean for the picture", () => {
		expect(rowWords({ what: "near", frame: 3, pxPerS: 212.4, acrossPx: 640 }).says).toBe(
			"212 px a second at most, 640 px across the move",
		);
		expect(rowWords({ what: "fastest", frame: 3, stepPx: 14.2, strobes: true, name: "Rail" })).toMatchObject({
			name: "fastest: Rail",
			warns: expect.stringContaining("strobe"),
		});
		expect(rowWords({ what: "focus", frame: 0, focusM: [3, 9], sharpFromM: 2.1 }).says).toBe(
			"from 3.00 m to 9.00 m, sharp from 2.10 m",
		);
		expect(rowWords({ what: "hole", frame: 9, frames: 4, percent: 1.25 }).warns).toContain("4 of the frames");
		expect(rowWords({ what: "sky", frame: 9, frames: 2, percent: 8 })).toMatchObject({
			name: "past the edge of the sky picture",
			says: "8.0 % of the frame at most",
		});
	});
});
