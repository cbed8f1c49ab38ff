/** A picture that is brought in stood up in the frame, as a card of its measures. */
import { newPiece } from "../../../core/doc/defaults.ts";
import type { ImageSurface } from "../../../core/doc/schema.ts";
import { headingToLens } from "../../../core/shape/place.ts";
import { spotUnder } from "../../../core/shape/underPoint.ts";
import { laidAsBrought } from "../../../core/surface/brought.ts";
import { shownView } from "../../frame/geometry.ts";
import { newId } from "../../parts/words.ts";
import { shownDocument, useShot } from "../../store/shotStore.ts";
import { useStudio } from "../../store/studio.ts";

/** Where a place to stand is looked for in the frame, down from its middle: first on what lies before all that stands there. */
const DOWN = [0.82, 0.9, 0.98, 0.7, 0.58];

export function standUp(own: ImageSurface): void {
	const doc = shownDocument();
	const { free, select } = useStudio.getState();
	const view = shownView(doc.camera, doc.finish, free);
	const spot = DOWN.map((y) => spotUnder(view, doc, { x: 0.5, y })).find((found) => found !== null);
	if (!spot) {
		useShot
			.getState()
			.say("There is nothing in the middle of the frame to stand it on. Look at some ground, or lay it on a card.");
		return;
	}
	const id = newId();
	const [x, , z] = spot.foot;
	const piece = newPiece(id, "card", {
		name: own.name,
		position: [x, 0, z],
		stands: spot.stands,
		headingDeg: Number(headingToLens([x, 0, z], view.position).toFixed(1)),
		size: [own.sideM, own.highM ?? own.sideM, 1],
		surface: { colour: [0.5, 0.5, 0.5], roughness: 0.8, metal: 0, laid: laidAsBrought(own) },
	});
	if (useShot.getState().commit({ name: "piece.add", pieces: [piece] })) select([id]);
}
