/** The brush over surfaces: a press begins a stroke over what it is held for; each stroke is one edit. */
import type { PointerEvent as ReactPointerEvent } from "react";
import type { Edit } from "../../../core/doc/edits.ts";
import { type MaskStroke, MOST_MASK_POINTS } from "../../../core/doc/schema.ts";
import { millimetres } from "../../../core/maths/functions.ts";
import type { Vec3 } from "../../../core/maths/vec.ts";
import { placeOn, placeUnder } from "../../../core/shape/underPoint.ts";
import type { MarkProps } from "../../frame/marks.ts";
import type { Key } from "../../parts/keys.ts";
import { startDrag } from "../../parts/pointer.ts";
import { useShot } from "../../store/shotStore.ts";
import { useStudio } from "../../store/studio.ts";

const STEP = 1.2;
const [LEAST_RADIUS_M, MOST_RADIUS_M] = [0.005, 500];
const LEAST_STRENGTH = 0.01;

const between = (least: number, most: number, v: number) => Math.min(most, Math.max(least, Number(v.toPrecision(3))));

/** Makes the brush wider or narrower, or stronger and weaker; false while none is in hand. */
export function setPaintBrush(up: boolean, what: "radius" | "strength"): boolean {
	const { painting, paintRadiusM, paintStrength, set } = useStudio.getState();
	if (!painting) return false;
	const by = up ? STEP : 1 / STEP;
	if (what === "radius") set({ paintRadiusM: between(LEAST_RADIUS_M, MOST_RADIUS_M, paintRadiusM * by) });
	else set({ paintStrength: between(LEAST_STRENGTH, 1, paintStrength * by) });
	return true;
}

export const paintKey: Key = {
	keys: "+  −",
	does: "With a brush of a surface in hand: wider, narrower; with Alt stronger, weaker",
	on: ["+", "=", "-"],
	act: (e) => setPaintBrush(e.key !== "-", e.altKey ? "strength" : "radius"),
	repeats: true,
};

/** What lies under a pointer of what the brush is held for: in the world, and in the metres in which strokes are told. */
export function paintedUnder(
	{ view, place }: Pick<MarkProps, "view" | "place">,
	e: { clientX: number; clientY: number },
): { world: Vec3; own: Vec3 } | null {
	const { painting } = useStudio.getState();
	const { document } = useShot.getState();
	if (!painting) return null;
	if (painting.on !== null) {
		const piece = document.pieces.find((p) => p.id === painting.on);
		const met = piece && placeOn(piece, view, document, place(e));
		return met ? { world: met.world.at, own: met.own.at } : null;
	}
	const world = placeUnder(view, document, place(e))?.at;
	return world ? { world, own: world } : null;
}

/** How near a place of a stroke has to be to the last one to be left out, in radii. */
const NEAR = 0.3;

/** A stroke's places with one more; when they are too many, every other one goes. */
export function withPlace(points: readonly Vec3[], to: Vec3, radiusM: number): Vec3[] {
	const last = points.at(-1);
	if (last && Math.hypot(...to.map((v, c) => v - last[c])) < NEAR * radiusM) return [...points];
	const kept = points.length < MOST_MASK_POINTS ? points : points.filter((_, n) => n % 2 === 0);
	return [...kept, to.map(millimetres) as unknown as Vec3];
}

/** Begins a stroke where it is pressed; false while no brush is in hand. */
export function pressPaint(event: ReactPointerEvent, frame: MarkProps): boolean {
	const { painting, paintRadiusM: radiusM, paintStrength: strength, paintSoft: soft, paintAway } = useStudio.getState();
	if (!painting) return false;
	const first = paintedUnder(frame, event);
	if (!first || event.button !== 0) return true;
	const { commit, show } = useShot.getState();
	const { mask: id, on } = painting;
	const away = paintAway !== event.shiftKey;
	let points = withPlace([], first.own, radiusM);
	const edit = (): Edit => {
		const stroke: MaskStroke = { points: points.map((p) => [...p]), radiusM, strength, soft, away };
		return { name: "mask.stroke", id, on, stroke };
	};
	show(edit());
	startDrag(event, {
		move: (e) => {
			const to = paintedUnder(frame, e);
			if (!to) return;
			points = withPlace(points, to.own, radiusM);
			useStudio.setState({ paintAt: to.world });
			show(edit());
		},
		end: () => void commit(edit()),
		cancel: () => show(null),
	});
	return true;
}
