/** While its key is held, what is moved comes to sides, middles and whole metres, and it is told what to. */
import type { Edit } from "../../core/doc/edits.ts";
import { snapMove } from "../../core/shape/snap.ts";
import { useShot } from "./shotStore.ts";
import { useStudio } from "./studio.ts";

/** Pixels within which it comes to something. */
const REACH_PX = 14;

type Move = Extract<Edit, { name: "piece.move" }>;

/** A move as it is, or, while the key is held, brought to what is near. */
export function snapped(edit: Move, pxPerMetre: number): Move {
	const { snapping, snapTold, set } = useStudio.getState();
	const { edit: next, told } = snapping
		? snapMove(edit, useShot.getState().document, REACH_PX / pxPerMetre)
		: { edit, told: [] };
	const words = told.join(", ");
	if (words !== snapTold) set({ snapTold: words });
	return next;
}
