/** A shape drawn on what the pointer meets: across for its width, upwards for its height. */
import type { PointerEvent as ReactPointerEvent } from "react";
import type { ShapeKind } from "../../../core/doc/schema.ts";
import { project } from "../../../core/lens/camera.ts";
import { drawnPiece } from "../../../core/shape/handPieces.ts";
import { spotUnder } from "../../../core/shape/underPoint.ts";
import type { MarkProps } from "../../frame/marks.ts";
import { startDrag } from "../../parts/pointer.ts";
import { newId } from "../../parts/words.ts";
import { shownDocument, useShot } from "../../store/shotStore.ts";
import { useStudio } from "../../store/studio.ts";

export function drawShape(event: ReactPointerEvent, kind: ShapeKind, { width, height, view, place }: MarkProps): void {
	const { show, commit, say } = useShot.getState();
	const { select, set } = useStudio.getState();
	const doc = shownDocument();
	const start = place(event);
	const spot = spotUnder(view, doc, start);
	if (!spot) {
		say("Shapes are drawn on the ground or on a piece: begin below the horizon.");
		return;
	}
	const { foot, stands } = spot;
	// Once a match is taken, what is built stands along the directions of the place.
	const headingDeg = doc.camera.locked ? 0 : undefined;
	const perMetre = width / (2 * view.tanX * project(view, foot).depthM);
	const id = newId();
	const make = (e: { clientX: number; clientY: number }) => {
		const to = place(e);
		const acrossM = ((to.x - start.x) * width) / perMetre;
		const upM = ((start.y - to.y) * height) / perMetre;
		return drawnPiece(id, kind, { foot, stands, right: view.right, acrossM, upM, headingDeg }, doc.pieces);
	};
	startDrag(event, {
		move: (e) => show(make(e)),
		end: (e, moved) => {
			if (!moved) return show(null);
			if (!commit(make(e))) return;
			if (spot.on) say(`It stands on ${spot.on.name}, ${foot[1].toFixed(2)} m up.`);
			select([id]);
			set({ drawing: null });
		},
		cancel: () => show(null),
	});
}
