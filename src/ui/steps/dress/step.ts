import { shownDocument } from "../../store/shotStore.ts";
import { useStudio } from "../../store/studio.ts";
import type { TicketStep } from "../step.ts";
import { DressBody } from "./DressBody.tsx";

export const dress: TicketStep = {
	stands: ({ doc: { covers }, root }) => {
		if (covers.length === 0) return "bare";
		// Land in the hand is bare, and so is what is made first: what has not been counted is not told.
		if (!root?.covers.length) return "";
		return `${root.covers.reduce((n, c) => n + c.count, 0).toLocaleString("en")} plants`;
	},
	Body: DressBody,
	picked: (id) => {
		if (!id || !shownDocument().covers.some((c) => c.id === id)) return false;
		useStudio.getState().set({ cover: id, step: "Dress", selected: [] });
		return true;
	},
};
