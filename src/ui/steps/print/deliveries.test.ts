import { describe, expect, it } from "vitest";
import { beyondWords, lossWords } from "./Deliveries.tsx";

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
