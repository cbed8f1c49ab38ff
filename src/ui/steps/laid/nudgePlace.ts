/** What is laid in one place and held in the frame, moved by the keys: two centimetres along its own right and up, with Shift twenty. */
import { cameraAxes } from "../../../core/maths/axes.ts";
import { millimetres } from "../../../core/maths/functions.ts";
import { useStudio } from "../../store/studio.ts";
import type { Here } from "./seenPlace.ts";

const [STEP_M, LONG_M] = [0.02, 0.2];

/** False while none is held. */
export function nudgePlace({ right, down, shift }: { right: number; down: number; shift: boolean }): boolean {
	const { heldPlace } = useStudio.getState();
	if (!heldPlace) return false;
	const { where, commit } = heldPlace;
	const axes = cameraAxes(where.headingDeg, where.pitchDeg, where.turnDeg);
	const by = shift ? LONG_M : STEP_M;
	const at = where.at.map((v, c) => millimetres(v + by * (right * axes.right[c] - down * axes.up[c])));
	commit({ ...where, at: at as Here["at"] });
	return true;
}
