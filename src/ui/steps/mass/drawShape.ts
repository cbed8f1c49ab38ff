/** A shape drawn on the ground: across for its width, upwards for its height. */
import type { PointerEvent as ReactPointerEvent } from "react";
import type { ShapeKind } from "../../../core/doc/schema.ts";
import { groundUnder } from "../../../core/ground/underPoint.ts";
import { project } from "../../../core/lens/camera.ts";
import { drawnPiece } from "../../../core/shape/handPieces.ts";
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
	const foot = groundUnder(view, doc.ground, start);
	if (!foot) {
		say("Shapes are drawn on the ground: begin below the horizon.");
		return;
	}
	const perMetre = width / (2 * view.tanX * project(view, foot).depthM);
	const id = newId();
	const make = (e: { clientX: number; clientY: number }) => {
		const to = place(e);
		const acrossM = ((to.x - start.x) * width) / perMetre;
		const upM = ((start.y - to.y) * height) / perMetre;
		return drawnPiece(id, kind, { foot, right: view.right, acrossM, upM }, doc.pieces);
	};
	startDrag(event, {
		move: (e) => show(make(e)),
		end: (e, moved) => {
			if (!moved) return show(null);
			if (!commit(make(e))) return;
			select([id]);
			set({ drawing: null });
		},
		cancel: () => show(null),
	});
}
