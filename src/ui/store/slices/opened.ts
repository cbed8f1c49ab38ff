/** What of the room is open. */
import type { Step } from "./names.ts";

export interface Opened {
	step: Step | null;
	listOpen: boolean;
	sheetOpen: boolean;
	helpOpen: boolean;
	/** The pin-up sheet lies over the mat. */
	pinsOpen: boolean;
	/** Cameras that are kept lie beside the reference. */
	camerasOpen: boolean;
	/** Plan and frame have changed places. */
	exchanged: boolean;
	/** The section stands in the plan's place. */
	section: boolean;
	/** Files that are being brought in: how many are done, of how many, and the one that is under way. */
	bringing: { done: number; all: number; name: string } | null;
	/** Name of the sky picture that is being kept. */
	hanging: string | null;
	/** Name of the land picture that is being kept. */
	laying: string | null;
	/** What the land is to be saved as: pixels and metres of a side, and its files by their words. */
	landAs: { size: number; metres: number; words: readonly string[]; packed: boolean };
	/** The land that is being saved: how much of it is done. */
	savingLand: { share: number; giveUp: () => void } | null;
}

export const opened: Opened = {
	step: "Match",
	listOpen: false,
	sheetOpen: false,
	helpOpen: false,
	pinsOpen: false,
	camerasOpen: false,
	exchanged: false,
	section: false,
	bringing: null,
	hanging: null,
	laying: null,
	landAs: { size: 1024, metres: 1000, words: ["heights", "slope", "flow"], packed: false },
	savingLand: null,
};
