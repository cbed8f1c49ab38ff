/** The brush over the land: a press begins a stroke, in the frame, in a free view and in the plan; each stroke is one edit. */
import type { PointerEvent as ReactPointerEvent } from "react";
import type { Edit } from "../../../core/doc/edits.ts";
import { type LandEntry, MOST_STROKE_POINTS, MOST_STROKES, type Stroke } from "../../../core/doc/schema.ts";
import { groundHeight } from "../../../core/ground/height.ts";
import { withPoint } from "../../../core/ground/ledger/hand/strokes.ts";
import { groundUnder } from "../../../core/ground/underPoint.ts";
import { millimetres } from "../../../core/maths/functions.ts";
import { beginsToHide } from "../../../core/study/beginsToHide.ts";
import type { MarkProps } from "../../frame/marks.ts";
import { startDrag } from "../../parts/pointer.ts";
import { metres, newId } from "../../parts/words.ts";
import type { FromAbove } from "../../plan/Plan.tsx";
import { useShot } from "../../store/shotStore.ts";
import { useStudio } from "../../store/studio.ts";

type Spot = readonly [number, number];
/** Place of the land under a pointer, right and towards; null where there is none. */
type LandUnder = (e: { clientX: number; clientY: number }) => Spot | null;

/** Radius and strength go up and down by these. */
const STEP = 1.2;
const [LEAST_RADIUS_M, MOST_RADIUS_M] = [0.2, 5000];
const [LEAST_BY_M, MOST_BY_M] = [0.02, 500];

const between = (least: number, most: number, v: number) => Math.min(most, Math.max(least, Number(v.toPrecision(3))));

/** Makes the brush wider or narrower, or stronger and weaker; false while none is in hand. */
export function setBrush(up: boolean, what: "radius" | "strength"): boolean {
	const { brush, brushRadiusM, brushByM, set } = useStudio.getState();
	if (!brush) return false;
	const by = up ? STEP : 1 / STEP;
	if (what === "radius") set({ brushRadiusM: between(LEAST_RADIUS_M, MOST_RADIUS_M, brushRadiusM * by) });
	else set({ brushByM: between(LEAST_BY_M, MOST_BY_M, brushByM * by) });
	return true;
}

type Hand = Extract<LandEntry, { kind: "hand" }>;

/** The entry that strokes go to: the one in hand, else the last of the ledger if that is one; null where one is to begin. */
function entryFor(): Hand | null {
	const { ledger = [] } = useShot.getState().document.ground;
	const { landEntry } = useStudio.getState();
	const own = ledger.find((e) => e.id === landEntry) ?? ledger.at(-1);
	return own?.kind === "hand" && !own.out && own.strokes.length < MOST_STROKES ? own : null;
}

/** What a stroke that goes on begins to hide, in words. */
function told({ points, radiusM }: Stroke): string {
	const { document, preview } = useShot.getState();
	if (!preview) return "";
	const [x, z] = points[points.length - 1];
	const hidden = beginsToHide(document, document.ground, preview.ground, { x, z, radiusM });
	return hidden
		.slice(0, 2)
		.map(({ piece, upToM }) => `hides ${piece.name} from its foot up to ${metres(upToM)}`)
		.join(", ");
}

/** Begins a stroke where the land is pressed; false while no brush is in hand. */
function press(event: ReactPointerEvent, land: LandUnder): boolean {
	const { brush: tool, brushRadiusM: radiusM, brushByM: byM, set } = useStudio.getState();
	if (!tool) return false;
	const first = land(event);
	if (!first) return true;
	const { ground } = useShot.getState().document;
	const { commit, show } = useShot.getState();
	const entry = entryFor();
	const id = entry?.id ?? newId();
	const level = tool === "flatten" && { levelM: millimetres(groundHeight(ground, ...first) - (ground.levelM ?? 0)) };
	const seed = tool === "relief" && { seed: (entry?.strokes.length ?? 0) + 1 };
	let points = withPoint([], first, radiusM, MOST_STROKE_POINTS);
	const stroke = (): Stroke => ({ tool, points: [...points], radiusM, byM, ...level, ...seed });
	const edit = (): Edit =>
		entry
			? { name: "ground.stroke", id, stroke: stroke() }
			: { name: "ground.addEntry", entry: { kind: "hand", id, out: false, where: [], strokes: [stroke()] } };
	const goOn = (e: PointerEvent) => {
		const to = land(e);
		if (to) points = withPoint(points, to, radiusM, MOST_STROKE_POINTS);
		if (to) set({ brushAt: to });
	};
	show(edit());
	startDrag(event, {
		move: (e) => {
			goOn(e);
			show(edit());
			set({ brushTold: told(stroke()) });
		},
		end: () => {
			if (commit(edit())) set({ landEntry: id });
			set({ brushTold: "" });
		},
		cancel: () => {
			show(null);
			set({ brushTold: "" });
		},
	});
	return true;
}

/** What lies under a pointer in a frame, of the land as it stood when it was asked: a stroke does not climb on itself. */
export function landUnder({ view, place }: Pick<MarkProps, "view" | "place">): LandUnder {
	const { ground } = useShot.getState().document;
	return (e) => {
		const spot = groundUnder(view, ground, place(e));
		return spot && [spot[0], spot[2]];
	};
}

export const pressBrush = (event: ReactPointerEvent, frame: MarkProps): boolean => press(event, landUnder(frame));

export const pressBrushFromAbove = (event: ReactPointerEvent, { worldAt }: FromAbove): boolean => press(event, worldAt);
