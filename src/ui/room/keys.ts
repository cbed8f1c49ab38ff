/** All keys of the room in one table, named by our own words. Shown to the person by "?". */
export interface KeyLine {
	keys: string;
	does: string;
}

export const KEYS: KeyLine[] = [
	{ keys: "hold V", does: "Frame in grey: its values" },
	{ keys: "hold M", does: "Frame mirrored" },
	{ keys: "hold S", does: "Frame as small as a stamp: does it read?" },
	{ keys: "hold B", does: "Reference over the frame, or away from it" },
	{ keys: "P", does: "Pin-up sheet" },
	{ keys: "G", does: "Thirds over the frame, or no guides" },
	{ keys: "W", does: "Walk off: a free view of the set; the camera stays" },
	{ keys: "F", does: "In a free view: fly along the view, or walk on the ground" },
	{ keys: "Page up, down", does: "In a free view: higher, lower by a step" },
	{ keys: ",  .", does: "In a free view: shorter, longer steps" },
	{ keys: "L", does: "Back at the lens" },
	{ keys: "X", does: "Exchange the frame with the plan or the section" },
	{ keys: "K", does: "Keep: a checkpoint of the shot as it stands" },
	{ keys: "T", does: "Contact sheet" },
	{ keys: "Y", does: "Another of the selected pieces, or of the lamp" },
	{
		keys: "Arrows",
		does: "Move what is selected by 0.1 m (with Shift 1 m); a line's end, the top of a known size, a circle or the horizon by 1 px (with Alt 0.1); walk in a free view",
	},
	{ keys: "+  −", does: "Enlarge and reduce the frame" },
	{ keys: "0", does: "Whole frame" },
	{ keys: "Delete", does: "Delete what is selected" },
	{ keys: "Ctrl Z", does: "Undo" },
	{ keys: "Ctrl Shift Z", does: "Redo" },
	{ keys: "Esc", does: "Leave what is under way" },
	{ keys: "?", does: "These keys" },
];
