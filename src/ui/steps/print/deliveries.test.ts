import { describe, expect, it } from "vitest";
import { lossWords } from "./Deliveries.tsx";

describe("what a delivery loses, in words", () => {
	it("names what it cuts and leaves out, and tells of the focal point", () => {
		expect(lossWords({ cut: [], outside: [], focalKept: null })).toBe("It loses nothing that is spoken of.");
		expect(lossWords({ cut: ["Gate"], outside: ["Heap", "Shed", "Cart", "Post"], focalKept: 0.62 })).toBe(
			"It cuts Gate; leaves out Heap, Shed, Cart and 1 more; keeps 62 % of what lies about the focal point.",
		);
		expect(lossWords({ cut: [], outside: [], focalKept: 1 })).not.toContain("focal");
	});
});
