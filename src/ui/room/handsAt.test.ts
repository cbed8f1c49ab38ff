import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { watchHands } from "./handsAt.ts";

const pointer = (kind: string, buttons: number) => Object.assign(new Event(kind), { buttons });

describe("a hand at work", () => {
	let page: EventTarget;
	let heavy = false;
	let told: boolean[];
	let stop: () => void;
	beforeEach(() => {
		vi.useFakeTimers();
		page = new EventTarget();
		told = [];
		heavy = false;
		stop = watchHands(
			page,
			() => heavy,
			(at) => told.push(at),
		);
	});
	afterEach(() => {
		stop();
		vi.useRealTimers();
	});

	it("is at it from its press until a while after its release, told once each", () => {
		page.dispatchEvent(pointer("pointerdown", 1));
		page.dispatchEvent(pointer("pointermove", 1));
		vi.advanceTimersByTime(5000);
		expect(told).toEqual([true]);
		page.dispatchEvent(pointer("pointerup", 0));
		expect(told).toEqual([true]);
		vi.advanceTimersByTime(1000);
		expect(told).toEqual([true, false]);
	});
	it("only moves where drawing is swift, and is at it where it is slow", () => {
		page.dispatchEvent(pointer("pointermove", 0));
		expect(told).toEqual([]);
		heavy = true;
		page.dispatchEvent(pointer("pointermove", 0));
		vi.advanceTimersByTime(200);
		page.dispatchEvent(pointer("pointermove", 0));
		vi.advanceTimersByTime(200);
		expect(told).toEqual([true]);
		vi.advanceTimersByTime(200);
		expect(told).toEqual([true, false]);
	});
	it("whose release was missed is let go by its next move, or by the page that is left", () => {
		page.dispatchEvent(pointer("pointerdown", 1));
		page.dispatchEvent(pointer("pointermove", 0));
		vi.advanceTimersByTime(1000);
		expect(told).toEqual([true, false]);
		page.dispatchEvent(pointer("pointerdown", 1));
		page.dispatchEvent(new Event("blur"));
		vi.advanceTimersByTime(1000);
		expect(told).toEqual([true, false, true, false]);
	});
	it("is not heard any more once it is called off", () => {
		stop();
		page.dispatchEvent(pointer("pointerdown", 1));
		vi.advanceTimersByTime(1000);
		expect(told).toEqual([]);
	});
});
