import { describe, expect, it } from "vitest";
import { blankShot } from "../../../core/doc/defaults.ts";
import type { PrintLine } from "../../../core/doc/records.ts";
import { NO_CHARACTER, tracedArea } from "../../../core/lens/character.ts";
import { beyondWords, lossWords } from "./Deliveries.tsx";
import { reachesBeyond } from "./PrintBody.tsx";

describe("what a delivery has beyond the frame, in words", () => {
	it("is how far it reaches, and how its lens is turned", () => {
		const d = { id: "a", name: "Tall", ratio: 0.5, widthPx: 500, share: 1, middle: [0.5, 0.5] as [number, number] };
		expect(beyondWords(d, 2)).toBe("");
		expect(beyondWords({ ...d, share: 1.5, aim: [-4, 2] }, 2)).toBe(
			" It reaches 25 % of the frame beyond it. Its lens is turned 4.0° to the left and 2.0° up.",
		);
	});
});

describe("what a delivery loses, in words", () => {
	it("names what it cuts and leaves out, and tells of the focal point", () => {
		expect(lossWords({ cut: [], outside: [], focalKept: null })).toBe("It loses nothing that is spoken of.");
		expect(lossWords({ cut: ["Gate"], outside: ["Heap", "Shed", "Cart", "Post"], focalKept: 0.62 })).toBe(
			"It cuts Gate; leaves out Heap, Shed, Cart and 1 more; keeps 62 % of what lies about the focal point.",
		);
		expect(lossWords({ cut: [], outside: [], focalKept: 1 })).not.toContain("focal");
	});
});

describe("a print whose finish has changed", () => {
	const print = { width: 1920, height: 1038, part: null } as PrintLine;
	const finish = { ...blankShot().finish, lens: { ...NO_CHARACTER, bend: -0.1 } };
	it("is said to have stretched edges where more is bent in than was traced about it", () => {
		const whole = { ...print, area: { x: 0, y: 0, width: 1920, height: 1038 } };
		expect(reachesBeyond(whole, blankShot().finish)).toBe(false);
		expect(reachesBeyond(whole, finish)).toBe(true);
		const wide = { ...print, area: tracedArea(null, print, finish) };
		expect(reachesBeyond(wide, finish)).toBe(false);
		expect(reachesBeyond(wide, { ...finish, lens: { ...finish.lens, bend: -0.05 } })).toBe(false);
		expect(reachesBeyond(wide, { ...finish, lens: { ...finish.lens, bend: -0.15 } })).toBe(true);
		// A part in the middle has what it needs about it.
		const part = { x: 900, y: 500, width: 120, height: 60 };
		expect(reachesBeyond({ ...whole, part }, finish)).toBe(false);
	});
});
