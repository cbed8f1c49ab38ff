import { contrastKept, fogShape } from "../../../core/air/fog.ts";
import { pickPiece } from "../../store/pick.ts";
import { shownDocument } from "../../store/shotStore.ts";
import { useStudio } from "../../store/studio.ts";
import { putsDown, type TicketStep } from "../step.ts";
import { AirBody } from "./AirBody.tsx";

/** Distance at which the line on the ticket tells what the fog keeps. */
const TOLD_M = 1000;

export const air: TicketStep = {
	stands: ({ doc: { air, camera } }) => {
		const [, eye] = camera.position;
		const kept = contrastKept(fogShape(air.fog), eye, eye, TOLD_M);
		return air.fog.on ? `${Math.round(kept * 100)} % kept at 1 km` : "no fog";
	},
	Body: AirBody,
	picked: (id, more, deeper) => {
		const { step, pickingFogPiece, set } = useStudio.getState();
		if (pickingFogPiece) {
			if (id) set({ selected: [id], pickingFogPiece: false });
			return true;
		}
		// Pieces are picked here to be asked about, without leaving the step.
		if (step !== "Air" || !id || !shownDocument().pieces.some((p) => p.id === id)) return false;
		pickPiece(id, more, deeper);
		return true;
	},
	putDown: putsDown({ pickingFogPiece: false }),
};
