import { useShot } from "../../store/shotStore.ts";
import { useStudio } from "../../store/studio.ts";
import { putsDown, type TicketStep } from "../step.ts";
import { pressBrush, pressBrushFromAbove, setBrush } from "./brush.ts";
import { GroundBody } from "./GroundBody.tsx";
import { LedgerFromAbove, LedgerMarks } from "./LedgerMarks.tsx";

/** The entry of the ledger in hand while ground is worked on. */
const held = (): string | null => {
	const { step, landEntry } = useStudio.getState();
	return step === "Ground" ? landEntry : null;
};

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
		if (useShot.getState().commit({ name: "ground.removeEntry", id })) useStudio.getState().set({ landEntry: null });
		return true;
	},
	holds: () => useStudio.getState().step === "Ground" && useStudio.getState().brush !== null,
	press: pressBrush,
	pressFromAbove: pressBrushFromAbove,
	keys: [
		{
			keys: "+  −",
			does: "With a brush in hand: its ring wider, narrower; with Alt stronger, weaker",
			on: ["+", "=", "-"],
			act: (e) => setBrush(e.key !== "-", e.altKey ? "strength" : "radius"),
			repeats: true,
		},
	],
	putDown: putsDown({ landEntry: null, brush: null, brushAt: null }),
};
