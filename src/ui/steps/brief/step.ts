import type { TicketStep } from "../step.ts";
import { BriefBody } from "./BriefBody.tsx";

export const brief: TicketStep = {
	stands: ({ doc: { references } }) =>
		references.length === 0
			? "no reference"
			: references.length === 1
				? "1 reference"
				: `${references.length} references`,
	Body: BriefBody,
};
