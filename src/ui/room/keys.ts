/** All keys of the room in one table, which acts and documents itself. They are chosen by our own words; "?" shows them. */
import { walked } from "../../core/ground/walk.ts";
import { zoomAt } from "../frame/Frame.tsx";
import type { Key } from "../parts/keys.ts";
import type { Arrow } from "../steps/step.ts";
import { inTurn, putAllDown, TICKET } from "../steps/steps.ts";
import { leaveGroup } from "../store/pick.ts";
import { useShot } from "../store/shotStore.ts";
import { type Studio, useStudio } from "../store/studio.ts";
import { halt, playOrHalt, stepFrames } from "../strip/player.ts";
import { undo } from "./back.ts";
import { keep } from "./keep.ts";

/** Metres that a step in a free view may have. */
const STRIDES_M = [0.1, 0.25, 0.5, 1, 2, 5, 10, 25, 50, 100, 250];
/** Times as far with Shift. */
const FAR = 10;
const ZOOM = 1.25;

type Held = "grey" | "mirrored" | "small" | "blinking" | "snapping";

const set: Studio["set"] = (change) => useStudio.getState().set(change);

const hold = (key: string, name: Held, does: string): Key => ({
	keys: `hold ${key.toUpperCase()}`,
	does,
	on: [key],
	act: () => set({ [name]: true }),
	release: () => set({ [name]: false }),
});

/** Moves the free view by steps; false at the lens. */
function walk(right: number, ahead: number, up: number, shift: boolean): boolean {
	const { free, flying, strideM } = useStudio.getState();
	if (!free) return false;
	const by = strideM * (shift ? FAR : 1);
	const { ground } = useShot.getState().document;
	const position = walked(free, { right: right * by, ahead: ahead * by, up: up * by }, flying, ground);
	set({ free: { ...free, position } });
	return true;
}

/** Another length of a step in a free view. */
function stride(by: number): boolean {
	const { free, strideM } = useStudio.getState();
	const at = STRIDES_M.indexOf(strideM) + by;
	if (free) set({ strideM: STRIDES_M[Math.min(STRIDES_M.length - 1, Math.max(0, at))] });
	return free !== null;
}

function arrow(e: KeyboardEvent): boolean {
	const by: Arrow = {
		right: e.key === "ArrowRight" ? 1 : e.key === "ArrowLeft" ? -1 : 0,
		down: e.key === "ArrowDown" ? 1 : e.key === "ArrowUp" ? -1 : 0,
		shift: e.shiftKey,
		alt: e.altKey,
	};
	if (inTurn().some((step) => step.arrow?.(by)) || walk(by.right, -by.down, 0, by.shift)) return true;
	if (useShot.getState().timeS === null || by.right === 0) return false;
	stepFrames(by.right * (by.shift ? FAR : 1));
	return true;
}

const zoomBy = (factor: number) => {
	const { x, y } = useStudio.getState().zoom;
	zoomAt(factor, { x, y });
};

const redo = () => useShot.getState().moveHead("redo");

const ROOM: readonly Key[] = [
	hold("v", "grey", "Frame in grey: its values"),
	hold("o", "mirrored", "Frame turned over, left for right: does it hold?"),
	hold("s", "small", "Frame as small as a stamp: does it read?"),
	hold("a", "snapping", "What is moved comes to sides, middles, whole metres"),
	hold("b", "blinking", "Reference over the frame, or away from it"),
	{
		keys: "P",
		does: "Pin-up sheet",
		on: ["p"],
		act: () => set({ pinsOpen: !useStudio.getState().pinsOpen }),
		overSheets: true,
	},
	{
		keys: "G",
		does: "Thirds over the frame, or no guides",
		on: ["g"],
		act: () => {
			const { document, commit } = useShot.getState();
			commit({ name: "guides.set", guides: document.guides?.length ? [] : ["thirds"] });
		},
	},
	{
		keys: "W",
		does: "Walk off: a free view of the set; the camera stays",
		on: ["w"],
		act: () => {
			const { position, headingDeg, pitchDeg } = useShot.getState().document.camera;
			if (!useStudio.getState().free) set({ free: { position, headingDeg, pitchDeg }, print: null });
		},
	},
	{
		keys: "F",
		does: "In a free view: fly along the view, or walk on the ground",
		on: ["f"],
		act: () => {
			const { free, flying } = useStudio.getState();
			if (free) set({ flying: !flying });
		},
	},
	{
		keys: "Page up, down",
		does: "In a free view: higher, lower by a step",
		on: ["pageup", "pagedown"],
		act: (e) => walk(0, 0, e.key === "PageUp" ? 1 : -1, e.shiftKey),
		repeats: true,
	},
	{
		keys: ",  .",
		does: "In a free view: shorter, longer steps",
		on: [",", "."],
		act: (e) => stride(e.key === "." ? 1 : -1),
		repeats: true,
	},
	{
		keys: "L",
		does: "Back at the lens",
		on: ["l"],
		act: () => set({ free: null, print: null, exchanged: false }),
	},
	{
		keys: "X",
		does: "Exchange the frame with the plan or the section",
		on: ["x"],
		act: () => set({ exchanged: !useStudio.getState().exchanged }),
	},
	{
		keys: "M",
		does: "Move: the time strip in the ribbon's place, or the still again",
		on: ["m"],
		act: () => {
			const { timeS, goTo } = useShot.getState();
			halt();
			goTo(timeS === null ? 0 : null);
		},
	},
	{
		keys: "R",
		does: "Run the move, or halt it",
		on: ["r"],
		act: () => {
			if (useShot.getState().timeS === null) return false;
			playOrHalt();
		},
	},
	{ keys: "K", does: "Keep: a checkpoint of the shot as it stands", on: ["k"], act: () => void keep() },
	{
		keys: "T",
		does: "Contact sheet",
		on: ["t"],
		act: () => set({ sheetOpen: !useStudio.getState().sheetOpen }),
		overSheets: true,
	},
	{
		keys: "Arrows",
		does: "Move what is selected by 0.1 m (with Shift 1 m); a line's end, the top of a known size, a circle or the horizon by 1 px (with Alt 0.1); walk in a free view",
		on: ["arrowleft", "arrowright", "arrowup", "arrowdown"],
		act: arrow,
		repeats: true,
	},
	{ keys: "+  −", does: "Enlarge and reduce the frame", on: ["+", "="], act: () => zoomBy(ZOOM), repeats: true },
	{ keys: "", does: "", on: ["-"], act: () => zoomBy(1 / ZOOM), repeats: true },
	{ keys: "0", does: "Whole frame", on: ["0"], act: () => set({ zoom: { k: 1, x: 0.5, y: 0.5 } }) },
	{
		keys: "Delete",
		does: "Delete what is selected",
		on: ["delete"],
		act: () => inTurn().some((step) => step.remove?.()),
	},
	{ keys: "Ctrl Z", does: "Undo", on: ["z"], control: true, shift: false, act: undo, repeats: true },
	{ keys: "Ctrl Shift Z", does: "Redo", on: ["z"], control: true, shift: true, act: redo, repeats: true },
	{ keys: "Ctrl Y", does: "Redo", on: ["y"], control: true, act: redo, repeats: true },
	{
		keys: "Esc",
		does: "Leave what is under way",
		on: ["escape"],
		act: () => {
			// What a step has in hand is laid down first; what is selected stays for it.
			const held = Object.values(TICKET).some((step) => step.holds?.());
			putAllDown();
			if (held || leaveGroup()) return;
			set({ selected: [], lamp: null, print: null });
		},
	},
	{
		keys: "?",
		does: "These keys",
		on: ["?"],
		act: () => set({ helpOpen: !useStudio.getState().helpOpen }),
		overSheets: true,
	},
];

/** All keys: those of the steps, the open one first, for what they have in hand; then those of the room. */
export const keysInTurn = (): Key[] => [...inTurn().flatMap((step) => step.keys ?? []), ...ROOM];

/** All of them as they are shown. */
export const SHOWN_KEYS: readonly Key[] = [
	...ROOM.filter((k) => k.keys),
	...Object.values(TICKET).flatMap((step) => step.keys ?? []),
];

const tagged = (at: Element | null, ...tags: string[]) => at !== null && tags.includes(at.tagName);

/** Where keys are words or choices, not acts of the room. */
function isTyping(at: Element | null): boolean {
	if (tagged(at, "INPUT", "TEXTAREA", "SELECT") || (at instanceof HTMLElement && at.isContentEditable)) return true;
	return at?.closest("[role=menu], [role=listbox]") != null;
}

/** Takes a key that was pressed. True when it has done something. */
export function pressKey(e: KeyboardEvent): boolean {
	const at = e.target instanceof Element ? e.target : null;
	if (e.defaultPrevented || isTyping(at)) return false;
	const sheet = document.querySelector("[role=dialog], [role=alertdialog]") !== null;
	const name = e.key.toLowerCase();
	const control = e.ctrlKey || e.metaKey;
	for (const key of keysInTurn()) {
		if (!key.on.includes(name) || (key.control ?? false) !== control) continue;
		if (key.shift !== undefined && key.shift !== e.shiftKey) continue;
		if ((sheet && !key.overSheets) || (e.repeat && !key.repeats)) continue;
		if (key.act(e) !== false) return true;
	}
	return false;
}

/** Takes a key that was let go. */
export function releaseKey(e: KeyboardEvent): void {
	for (const key of ROOM) if (key.release && key.on.includes(e.key.toLowerCase())) key.release();
}

/** Lets go of all keys that are held. */
export function releaseAll(): void {
	for (const key of ROOM) key.release?.();
}
