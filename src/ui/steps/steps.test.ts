import { describe, expect, it } from "vitest";
import { blankShot } from "../../core/doc/defaults.ts";
import { STEPS, useStudio } from "../store/studio.ts";
import { inTurn, putAllDown, TICKET } from "./steps.ts";

describe.each(STEPS)("the step %s", (name) => {
	const step = TICKET[name];

	it("tells where a blank shot stands, in a few words, and unfolds", () => {
		const said = step.stands({ doc: blankShot(), root: null, prints: [], match: null });
		expect(said).not.toBe("");
		expect(said.length).toBeLessThan(60);
		expect(step.Body).toBeTypeOf("function");
	});

	it("tells what its keys do", () => {
		for (const { keys, does, on } of step.keys ?? []) expect([keys, does, ...on]).not.toContain("");
	});

	it("is asked first while it is open, takes nothing when it has nothing in hand, and puts down", () => {
		useStudio.getState().set({ step: name });
		expect(inTurn()[0]).toBe(step);
		expect(inTurn()).toHaveLength(STEPS.length);
		putAllDown();
		expect(step.holds?.() ?? false).toBe(false);
		expect(step.remove?.() ?? false).toBe(false);
	});
});

describe("the ticket", () => {
	it("has a step for each name and a name for each step", () => {
		expect(Object.keys(TICKET).sort()).toEqual([...STEPS].sort());
	});
});
