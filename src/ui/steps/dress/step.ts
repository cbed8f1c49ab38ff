import { shownDocument } from "../../store/shotStore.ts";
import { useStudio } from "../../store/studio.ts";
import type { TicketStep } from "../step.ts";
import { DressBody } from "./DressBody.tsx";

export const dress: TicketStep = {
	stands: ({ doc: { covers }, root }) => {
		const plants = root?.covers.reduce((n, c) => n + c.count, 0) ?? 0;
		return covers.length ? `${plants.toLocaleString("en")} plants` : "bare";
	},
	Body: DressBody,
	picked: (id) => {
		if (!id || !shownDocument().covers.some((c) => c.id === id)) return false;
		useStudio.getState().set({ cover: id, step: "Dress", selected: [] });
		return true;
	},
};
