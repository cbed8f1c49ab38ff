import { tellsHeights } from "../../../core/formats/landPicture.ts";
import { lineOf, withLine } from "../../../core/ground/ledger/places.ts";
import { useShot } from "../../store/shotStore.ts";
import { useStudio } from "../../store/studio.ts";
import { pressColour } from "../laid/ColourMarks.tsx";
import { nudgePlace } from "../laid/nudgePlace.ts";
import { pressPaint, setPaintBrush } from "../laid/paintBrush.ts";
import { putsDown, type TicketStep } from "../step.ts";
import { pressBrush, pressBrushFromAbove, setBrush } from "./brush.ts";
import { layAsEntry } from "./FileLines.tsx";
import { GroundBody } from "./GroundBody.tsx";
import { LedgerFromAbove, LedgerMarks } from "./LedgerMarks.tsx";
import { pressSkyline } from "./skyline.ts";

/** The entry of the ledger in hand while ground is worked on. */
const held = (): string | null => {
	const { step, landEntry } = useStudio.getState();
	return step === "Ground" ? landEntry : null;
};

/** Takes the point that is worked on out of the line of an entry. */
function dropPoint(id: string): boolean {
	const { landPoint, set } = useStudio.getState();
	const { document, commit } = useShot.getState();
	const entry = document.ground.ledger?.find((e) => e.id === id);
	const line = entry && lineOf(entry);
	if (landPoint === null || !line || !line[landPoint]) return false;
	if (line.length <= 2) {
		useShot.getState().say("A line has two points at least: take it out of the ledger as a whole.");
		return true;
	}
	set({ landPoint: null });
	const left = line.filter((_, n) => n !== landPoint);
	return commit({ name: "ground.setEntry", entry: withLine(entry, left) });
}

export const ground: TicketStep = {
	stands: ({ doc: { ground, water } }) =>
		[ground.preset, ...(ground.ledger ? [`${ground.ledger.length} since`] : []), ...(water.on ? ["water"] : [])].join(
			", ",
		),
	Body: GroundBody,
	Marks: LedgerMarks,
	MarksFromAbove: LedgerFromAbove,
	remove: () => {
		const id = held();
		if (!id) return false;
		if (dropPoint(id)) return true;
		if (useShot.getState().commit({ name: "ground.removeEntry", id })) useStudio.getState().set({ landEntry: null });
		return true;
	},
	holds: () => {
		const { step, brush, skylining, painting, colouring, heldPlace } = useStudio.getState();
		return (
			step === "Ground" &&
			(brush !== null || skylining || painting !== null || colouring !== null || heldPlace !== null)
		);
	},
	press: (event, frame) =>
		pressPaint(event, frame) || pressColour(event, frame) || pressSkyline(event, frame) || pressBrush(event, frame),
	pressFromAbove: pressBrushFromAbove,
	takes: async (file) => {
		const heights = tellsHeights(new Uint8Array(await file.slice(0, 32).arrayBuffer()));
		if (heights) await layAsEntry("map", file);
		return heights;
	},
	keys: [
		{
			keys: "+  −",
			does: "With a brush in hand: its ring wider, narrower; with Alt stronger, weaker",
			on: ["+", "=", "-"],
			act: (e) => {
				const [up, what] = [e.key !== "-", e.altKey ? "strength" : "radius"] as const;
				return setPaintBrush(up, what) || setBrush(up, what);
			},
			repeats: true,
		},
	],
	arrow: nudgePlace,
	putDown: putsDown({
		landEntry: null,
		landPoint: null,
		brush: null,
		brushAt: null,
		skylining: false,
		painting: null,
		heldPlace: null,
		colouring: null,
	}),
};
