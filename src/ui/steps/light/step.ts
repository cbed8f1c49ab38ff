import { alongHeading } from "../../../core/ground/walk.ts";
import { slideLamp } from "../../../core/light/lampPlacing.ts";
import { shownDocument, useShot } from "../../store/shotStore.ts";
import { useStudio, useStudioOf } from "../../store/studio.ts";
import { putsDown, type TicketStep } from "../step.ts";
import { duplicateLamp } from "./LampLines.tsx";
import { placeLamp } from "./LampMarks.tsx";
import { LightBody } from "./LightBody.tsx";
import { LightMarks } from "./LightMarks.tsx";

/** The lamp in hand while light is worked on. */
const held = (): string | null => {
	const { step, lamp } = useStudio.getState();
	return step === "Light" ? lamp : null;
};

export const light: TicketStep = {
	stands: ({ doc: { air, lamps } }) => {
		const { sun, picture } = air;
		const sky = picture
			? picture.name
			: sun.elevationDeg < -0.5
				? "sun is down"
				: `sun ${sun.elevationDeg.toFixed(1)}° high`;
		return [sky, ...(lamps.length ? [lamps.length === 1 ? "1 lamp" : `${lamps.length} lamps`] : [])].join(", ");
	},
	Body: LightBody,
	useAct: () => {
		const { placing, set } = useStudioOf("placing", "set");
		return {
			word: placing ? `Placing a ${placing}` : "Place a lamp",
			go: () => set({ placing: placing ? null : "sphere" }),
		};
	},
	Marks: LightMarks,
	holds: () => held() !== null,
	press: (event, { view, place, height }) => {
		const { placing } = useStudio.getState();
		if (placing) placeLamp(event, placing, view, place, height);
		return placing !== null;
	},
	picked: (id) => {
		if (!id || !shownDocument().lamps.some((l) => l.id === id)) return false;
		useStudio.getState().set({ lamp: id, step: "Light", selected: [] });
		return true;
	},
	arrow: ({ right, down, shift }) => {
		const { document: doc, commit } = useShot.getState();
		const lamp = doc.lamps.find((l) => l.id === held());
		if (!lamp) return false;
		const by = shift ? 1 : 0.1;
		const { free } = useStudio.getState();
		return commit(slideLamp(lamp, doc, ...alongHeading((free ?? doc.camera).headingDeg, right * by, -down * by)));
	},
	remove: () => {
		const id = held();
		if (!id) return false;
		if (useShot.getState().commit({ name: "lamp.remove", id })) useStudio.getState().set({ lamp: null });
		return true;
	},
	keys: [
		{
			keys: "Y",
			does: "Another of the lamp in hand",
			on: ["y"],
			act: () => (held() ? (duplicateLamp(), true) : false),
		},
	],
	putDown: putsDown({ placing: null }),
};
