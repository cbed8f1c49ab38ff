import { describe, expect, it } from "vitest";
import { halves, madeOfEach } from "./same.ts";

describe("what is made of each of a list", () => {
	const asked: string[] = [];
	const make = ({ name }: { name: string }) => {
		asked.push(name);
		return name === "hidden" ? null : { name };
	};
	const leans = ({ name }: { name: string }) => name === "leaning";
	const things = ["a", "hidden", "leaning", "b"].map((name) => ({ name }));
	const first = madeOfEach(null, things, make, [1], leans);
	const again = (now: { name: string }[], by: readonly unknown[]) => {
		asked.length = 0;
		return madeOfEach(first, now, make, by, leans);
	};

	it("is made once for what stays, and anew for what has changed or leans on others", () => {
		const changed = things.with(3, { name: "c" });
		const next = again(changed, [1]);
		expect(asked).toEqual(["leaning", "c"]);
		expect(next.each[0]).toBe(first.each[0]);
		expect(next.each.map((m) => m?.name)).toEqual(["a", undefined, "leaning", "c"]);
	});
	it("is all made anew by something else, and of a list that has moved on", () => {
		again(things, [2]);
		expect(asked).toHaveLength(4);
		expect(again(things.slice(1), [1]).each.map((m) => m?.name)).toEqual([undefined, "leaning", "b"]);
	});
	it("parts in two, each in its order", () => {
		expect(halves([1, 2, 3, 4], (n) => n % 2 === 0)).toEqual([
			[2, 4],
			[1, 3],
		]);
	});
});
