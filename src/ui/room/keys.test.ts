import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { blankShot } from "../../core/doc/defaults.ts";
import { useShot } from "../store/shotStore.ts";
import { useStudio } from "../store/studio.ts";
import { keysInTurn, pressKey, releaseAll, releaseKey, SHOWN_KEYS } from "./keys.ts";

class FakeElement {
	tagName: string;
	isContentEditable: boolean;
	private within: string;
	constructor(tagName = "DIV", within = "", isContentEditable = false) {
		this.tagName = tagName;
		this.within = within;
		this.isContentEditable = isContentEditable;
	}
	closest(selector: string): FakeElement | null {
		return this.within && selector.includes(this.within) ? this : null;
	}
}

/** Whether a sheet lies over the room. */
let sheet = false;
const press = (key: string, over: object = {}): boolean =>
	pressKey({
		key,
		target: new FakeElement(),
		ctrlKey: false,
		metaKey: false,
		shiftKey: false,
		altKey: false,
		repeat: false,
		defaultPrevented: false,
		...over,
	} as unknown as KeyboardEvent);
const release = (key: string) => releaseKey({ key } as KeyboardEvent);

const first = useStudio.getState();
const shot = useShot.getState();
beforeEach(() => {
	sheet = false;
	useShot.setState({ document: blankShot() });
	vi.stubGlobal("Element", FakeElement);
	vi.stubGlobal("HTMLElement", FakeElement);
	vi.stubGlobal("document", { querySelector: () => (sheet ? {} : null) });
});
afterEach(() => {
	vi.unstubAllGlobals();
	useStudio.setState(first, true);
	useShot.setState(shot, true);
});

describe("the table of keys", () => {
	it("tells of each key what it does, and of none twice", () => {
		for (const { keys, does, on } of SHOWN_KEYS) expect([keys, does, ...on]).not.toContain("");
		const acts = SHOWN_KEYS.map((k) => `${k.keys}: ${k.does}`);
		expect(new Set(acts).size).toBe(acts.length);
	});

	it("has a key once in the room and once in a step at most", () => {
		const told = keysInTurn().map((k) => `${k.control ? "ctrl " : ""}${k.shift ?? ""} ${k.on.join()}`);
		for (const key of told) expect(told.filter((other) => other === key).length).toBeLessThanOrEqual(2);
	});
});

describe("a key", () => {
	it("acts once when it is held, unless it repeats", () => {
		expect(press("x")).toBe(true);
		expect(useStudio.getState().exchanged).toBe(true);
		expect(press("x", { repeat: true })).toBe(false);
		expect(useStudio.getState().exchanged).toBe(true);
		const k = useStudio.getState().zoom.k;
		expect(press("+", { repeat: true })).toBe(true);
		expect(useStudio.getState().zoom.k).toBeGreaterThan(k);
	});

	it("that is held lasts until it is let go, or the window is left", () => {
		press("v");
		press("o");
		expect(useStudio.getState()).toMatchObject({ grey: true, mirrored: true });
		release("V");
		expect(useStudio.getState()).toMatchObject({ grey: false, mirrored: true });
		releaseAll();
		expect(useStudio.getState().mirrored).toBe(false);
	});

	it("does nothing behind a sheet but what opens and closes sheets", () => {
		sheet = true;
		for (const key of ["x", "g", "w", "Delete", "ArrowLeft", "Escape"]) expect(press(key)).toBe(false);
		expect(press("z", { ctrlKey: true })).toBe(false);
		expect(press("t")).toBe(true);
		expect(useStudio.getState().sheetOpen).toBe(true);
	});

	it.each([
		["a field", new FakeElement("INPUT")],
		["a text", new FakeElement("TEXTAREA")],
		["a list of the browser's own", new FakeElement("SELECT")],
		["a line that is typed over", new FakeElement("DIV", "", true)],
		["an open menu", new FakeElement("DIV", "[role=menu]")],
		["an open list", new FakeElement("DIV", "[role=listbox]")],
	])("is left to %s", (_what, target) => {
		for (const key of ["x", "Delete", "ArrowLeft", "Escape"]) expect(press(key, { target })).toBe(false);
		expect(useStudio.getState().exchanged).toBe(false);
	});

	it("is left to whoever has taken it before", () => {
		expect(press("x", { defaultPrevented: true })).toBe(false);
	});

	it("with Control is another: undo and redo, both ways of it", () => {
		const moveHead = vi.fn();
		useShot.setState({ moveHead });
		expect(press("x", { ctrlKey: true })).toBe(false);
		press("z", { ctrlKey: true });
		press("Z", { metaKey: true, shiftKey: true });
		press("y", { ctrlKey: true });
		expect(moveHead.mock.calls.flat()).toEqual(["undo", "redo", "redo"]);
	});

	it("that finds nothing in hand is left to the page", () => {
		for (const key of ["Delete", "ArrowLeft", "PageUp", ","]) expect(press(key)).toBe(false);
	});

	it("walks and strides in a free view", () => {
		useStudio.setState({ free: { position: [0, 1.6, 0], headingDeg: 0, pitchDeg: 0 }, strideM: 1 });
		expect(press("ArrowUp")).toBe(true);
		expect(useStudio.getState().free?.position[2]).toBeCloseTo(-1, 6);
		press(".");
		expect(useStudio.getState().strideM).toBe(2);
		press("ArrowRight", { shiftKey: true });
		expect(useStudio.getState().free?.position[0]).toBeCloseTo(20, 6);
		press("l");
		expect(useStudio.getState().free).toBeNull();
	});
});
