/**
 * A shape drawn on what the pointer meets: across for its width, upwards for its height; from corner to corner where it lies
 * flat, and in the plan. A tap sets another one as large as the last.
 */
import type { PointerEvent as ReactPointerEvent } from "react";
import type { Edit } from "../../../core/doc/edits.ts";
import type { ShapeKind } from "../../../core/doc/schema.ts";
import { levelUnder } from "../../../core/ground/underPoint.ts";
import { project } from "../../../core/lens/camera.ts";
import { DEG } from "../../../core/maths/functions.ts";
import { drawnPiece, laidPiece, tappedPiece } from "../../../core/shape/handPieces.ts";
import { isFlat } from "../../../core/shape/shapes.ts";
import { type Spot, spotFromAbove, spotUnder } from "../../../core/shape/underPoint.ts";
import type { MarkProps } from "../../frame/marks.ts";
import { startDrag } from "../../parts/pointer.ts";
import { newId } from "../../parts/words.ts";
import type { FromAbove } from "../../plan/Plan.tsx";
import { shownDocument, useShot } from "../../store/shotStore.ts";
import { useStudio } from "../../store/studio.ts";

type Added = Extract<Edit, { name: "piece.add" }>;
type At = { clientX: number; clientY: number };

/** Draws while the pointer is down: what a drag makes, or a tap. */
function draw(event: ReactPointerEvent, spot: Spot, dragged: (e: At) => Added | null, tapped: () => Added): void {
	const { show, commit, say } = useShot.getState();
	const { select, set } = useStudio.getState();
	startDrag(event, {
		move: (e) => show(dragged(e)),
		end: (e, moved) => {
			const added = moved ? dragged(e) : tapped();
			if (!added || !commit(added)) return show(null);
			if (spot.on) say(`It stands on ${spot.on.name}, ${spot.foot[1].toFixed(2)} m up.`);
			select([added.pieces[0].id]);
			set({ drawing: null });
		},
		cancel: () => show(null),
	});
}

/** Once a match is taken, what is built stands along the directions of the place. */
const headingIn = (locked: boolean, facingDeg: number): number => (locked ? 0 : Math.round(facingDeg));

export function drawShape(event: ReactPointerEvent, kind: ShapeKind, { width, height, view, place }: MarkProps): void {
	const doc = shownDocument();
	const start = place(event);
	const spot = spotUnder(view, doc, start);
	if (!spot) {
		useShot.getState().say("Shapes are drawn on the ground or on a piece: begin below the horizon.");
		return;
	}
	const { foot, stands } = spot;
	const { right } = view;
	const facing = Math.atan2(right[2], right[0]) / DEG;
	const headingDeg = headingIn(doc.camera.locked, facing);
	const perMetre = width / (2 * view.tanX * project(view, foot).depthM);
	const id = newId();
	const put = { foot, stands, headingDeg };
	const raised = (e: At) => {
		const to = place(e);
		const acrossM = ((to.x - start.x) * width) / perMetre;
		const upM = ((start.y - to.y) * height) / perMetre;
		return drawnPiece(id, kind, { ...put, right, acrossM, upM }, doc.pieces);
	};
	const laid = (e: At) => {
		const to = levelUnder(view, foot[1], place(e));
		return to && laidPiece(id, kind, put, to, doc.pieces);
	};
	draw(event, spot, isFlat(kind) ? laid : raised, () => tappedPiece(id, kind, put, doc.pieces));
}

/** The same in the plan. */
export function drawFromAbove(
	event: ReactPointerEvent,
	kind: ShapeKind,
	{ worldAt, headingDeg: facingDeg }: FromAbove,
): void {
	const doc = shownDocument();
	const spot = spotFromAbove(doc, ...worldAt(event));
	const id = newId();
	const put = { ...spot, headingDeg: headingIn(doc.camera.locked, facingDeg) };
	const laid = (e: At) => {
		const [x, z] = worldAt(e);
		return laidPiece(id, kind, put, [x, 0, z], doc.pieces);
	};
	draw(event, spot, laid, () => tappedPiece(id, kind, put, doc.pieces));
}
