/** The brush over the land: a press begins a stroke, in the frame, in a free view and in the plan; each stroke is one edit. */
import type { PointerEvent as ReactPointerEvent } from "react";
import type { Edit } from "../../../core/doc/edits.ts";
import { type LandEntry, MOST_STROKE_POINTS, MOST_STROKES, type Stroke } from "../../../core/doc/schema.ts";
import { groundHeight } from "../../../core/ground/height.ts";
import { wornAlong, wornFurther } from "../../../core/ground/ledger/brushedWear.ts";
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
const LEAST_WEAR = 0.02;

const between = (least: number, most: number, v: number) => Math.min(most, Math.max(least, Number(v.toPrecision(3))));

/** Makes the brush wider or narrower, or stronger and weaker; false while none is in hand. */
export function setBrush(up: boolean, what: "radius" | "strength"): boolean {
	const { brush, brushRadiusM } = useStudio.getState();
	if (!brush) return false;
	const by = up ? STEP : 1 / STEP;
	if (what === "radius") setRadius(brushRadiusM * by);
	else strengthen(by);
	return true;
}

/** Makes the ring so wide, metres. */
export const setRadius = (m: number): void =>
	useStudio.setState({ brushRadiusM: between(LEAST_RADIUS_M, MOST_RADIUS_M, m) });

/** Makes the brush so many times as strong. */
export function strengthen(times: number): void {
	const { brush, brushByM, brushWear, set } = useStudio.getState();
	if (brush === WEARS) set({ brushWear: between(LEAST_WEAR, 1, brushWear * times) });
	else set({ brushByM: between(LEAST_BY_M, MOST_BY_M, brushByM * times) });
}

/** What the brush is called that lets rain wear the land: its strokes are places of an entry that wears. */
export const WEARS = "wear";

type Hand = Extract<LandEntry, { kind: "hand" }>;

/** The entry that strokes go to: the one in hand, else the last of the ledger if that is one; null where one is to begin. */
function entryFor(): Hand | null {
	const { ledger = [] } = useShot.getState().document.ground;
	const { landEntry } = useStudio.getState();
	const own = ledger.find((e) => e.id === landEntry) ?? ledger.at(-1);
	return own?.kind === "hand" && !own.out && own.strokes.length < MOST_STROKES ? own : null;
}

/** What a stroke that goes on begins to hide, in words. */
function told(points: readonly Spot[], radiusM: number): string {
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
	const { brush: tool, brushRadiusM: radiusM, brushByM: byM } = useStudio.getState();
	if (!tool) return false;
	const first = land(event);
	if (!first) return true;
	if (tool === WEARS) return draw(event, land, first, wearing());
	const { ground } = useShot.getState().document;
	const entry = entryFor();
	const id = entry?.id ?? newId();
	const level = tool === "flatten" && { levelM: millimetres(groundHeight(ground, ...first) - (ground.levelM ?? 0)) };
	const seed = tool === "relief" && { seed: (entry?.strokes.length ?? 0) + 1 };
	return draw(event, land, first, {
		id,
		edit: (points) => {
			const stroke: Stroke = { tool, points, radiusM, byM, ...level, ...seed };
			return entry
				? { name: "ground.stroke", id, stroke }
				: { name: "ground.addEntry", entry: { kind: "hand", id, out: false, where: [], strokes: [stroke] } };
		},
	});
}

/** What a stroke makes of the land, by its places; and the entry that it goes to. */
interface Stroking {
	id: string;
	edit: (points: [number, number][]) => Edit;
}

/** Strokes of the wearing brush: lines along which an entry wears, the one in hand or the last where it is as fine. */
function wearing(): Stroking {
	const { ledger = [] } = useShot.getState().document.ground;
	const { landEntry, brushRadiusM, brushWear } = useStudio.getState();
	const last = ledger.find((e) => e.id === landEntry) ?? ledger.at(-1);
	const own = last && wornFurther(last, brushRadiusM, brushWear) ? last : null;
	const id = own?.id ?? newId();
	return {
		id,
		edit: (line) => {
			const entry = wornAlong(own, id, line, brushRadiusM, brushWear);
			return own ? { name: "ground.setEntry", entry } : { name: "ground.addEntry", entry };
		},
	};
}

/** A stroke from its first place on, until the pointer is let go. */
function draw(event: ReactPointerEvent, land: LandUnder, first: Spot, { id, edit: editOf }: Stroking): true {
	const { brushRadiusM: radiusM, set } = useStudio.getState();
	const { commit, show } = useShot.getState();
	let points = withPoint([], first, radiusM, MOST_STROKE_POINTS);
	const edit = () => editOf([...points]);
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
			set({ brushTold: told(points, radiusM) });
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
