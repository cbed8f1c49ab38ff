import type { TicketStep } from "../step.ts";
import { FinishBody } from "./FinishBody.tsx";

export const finish: TicketStep = {
	stands: ({ doc: { finish } }) => {
		const { curve, exposureEv: ev } = finish;
		return `${curve} curve${ev ? `, ${ev > 0 ? "+" : ""}${ev.toFixed(1)} EV` : ""}`;
	},
	Body: FinishBody,
};
