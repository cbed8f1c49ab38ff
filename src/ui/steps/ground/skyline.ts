/** A skyline drawn over the frame or over the reference in it: far land rises to meet it; and its points, dragged afterwards. */
import type { PointerEvent as ReactPointerEvent } from "react";
import type { Edit } from "../../../core/doc/edits.ts";
import { type LandEntry, MOST_SKYLINE_POINTS } from "../../../core/doc/schema.ts";
import { newEntry } from "../../../core/ground/ledger/ledger.ts";
import { skylineOf } from "../../../core/ground/ledger/skyline/drawn.ts";
import type { Point } from "../../../core/ground/underPoint.ts";
import { millimetres } from "../../../core/maths/functions.ts";
import type { MarkProps } from "../../frame/marks.ts";
import { startDrag } from "../../parts/pointer.ts";
import { newId } from "../../parts/words.ts";
import { useShot } from "../../store/shotStore.ts";
import { useStudio } from "../../store/studio.ts";

type Skyline = Extract<LandEntry, { kind: "skyline" }>;

/** Of the frame's width: how near places of a stroke may lie. */
const APART = 0.002;
const round = (v: number): number => Math.round(v * 1e5) / 1e5;

/** The eye of a view, its height counted as a ledger counts heights. */
function eyeOf({ position: [x, y, z] }: MarkProps["view"]): [number, number, number] {
	const { levelM = 0 } = useShot.getState().document.ground;
	return [millimetres(x), millimetres(y - levelM), millimetres(z)];
}

/** Begins a skyline where the frame is pressed; false while none is to be drawn. */
export function pressSkyline(event: ReactPointerEvent, { view, place }: MarkProps): boolean {
	const { skylining, set } = useStudio.getState();
	if (!skylining) return false;
	const { commit, show, say } = useShot.getState();
	const id = newId();
	const last = useShot.getState().document.ground.ledger?.findLast((e): e is Skyline => e.kind === "skyline");
	const usual = newEntry("skyline", id, 0, 0) as Skyline;
	const points: Point[] = [place(event)];
	const edit = (): Edit | null => {
		const line = skylineOf(view, points, MOST_SKYLINE_POINTS)?.map(([a, b]): [number, number] => [round(a), round(b)]);
		return line
			? {
					name: "ground.addEntry",
					entry: { ...usual, distanceM: last?.distanceM ?? usual.distanceM, eye: eyeOf(view), line },
				}
			: null;
	};
	startDrag(event, {
		move: (e) => {
			const to = place(e);
			const from = points[points.length - 1];
			if (Math.hypot(to.x - from.x, to.y - from.y) > APART) points.push(to);
			show(edit());
		},
		end: () => {
			const made = edit();
			set({ skylining: false });
			if (!made) {
				show(null);
				say("A skyline goes across the frame: draw it from side to side.");
			} else if (commit(made)) set({ landEntry: id });
		},
		cancel: () => show(null),
	});
	return true;
}

/** A skyline one of whose points has been dragged to a place of the frame; null where it would pass its neighbours. */
export function withSkylinePoint(entry: Skyline, n: number, view: MarkProps["view"], to: Point): Skyline | null {
	const found = skylineOf(view, [to, { x: to.x + 0.05, y: to.y }], 2);
	if (!found) return null;
	const middle = entry.line[n][0];
	const off = ((((found[0][0] - middle + 180) % 360) + 360) % 360) - 180;
	const heading = round(middle + off);
	const [before, after] = [entry.line[n - 1]?.[0] ?? -720, entry.line[n + 1]?.[0] ?? 720];
	if (heading <= before || heading >= after) return null;
	return { ...entry, line: entry.line.map((p, i) => (i === n ? [heading, round(found[0][1])] : p)) };
}
