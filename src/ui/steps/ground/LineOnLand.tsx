"use client";
/** The line of the ledger's entry in hand, lying on the land: its points are dragged, a press on the line sets a new one. */
import type { PointerEvent as ReactPointerEvent } from "react";
import type { LandEntry } from "../../../core/doc/schema.ts";
import { curveThrough } from "../../../core/ground/ledger/path/curve.ts";
import { withLine } from "../../../core/ground/ledger/places.ts";
import { useGesture } from "../../frame/gesture.ts";
import { Double } from "../../parts/marks.tsx";
import { Grip, PointHandle } from "../../parts/points.tsx";
import { useStudioOf } from "../../store/studio.ts";
import type { LandView } from "./ring.ts";

type Spot = readonly [number, number];

interface Props extends LandView {
	entry: LandEntry;
	points: readonly Spot[];
}

/** Places of the curve that are drawn, at most about. */
const DRAWN = 160;

/** Number of the stretch between two points that a place lies nearest to. */
function nearest(points: readonly Spot[], [x, z]: Spot): number {
	let [best, least] = [0, Number.POSITIVE_INFINITY];
	for (let i = 0; i + 1 < points.length; i++) {
		const [[ax, az], [bx, bz]] = [points[i], points[i + 1]];
		const [ex, ez] = [bx - ax, bz - az];
		const t = Math.max(0, Math.min(1, ((x - ax) * ex + (z - az) * ez) / (ex * ex + ez * ez || 1)));
		const far = Math.hypot(x - ax - t * ex, z - az - t * ez);
		if (far < least) [best, least] = [i, far];
	}
	return best;
}

export function LineOnLand({ entry, points, at, land, k, view }: Props) {
	const gesture = useGesture();
	const { landPoint, set } = useStudioOf("landPoint", "set");
	let long = 0;
	for (let i = 1; i < points.length; i++)
		long += Math.hypot(points[i][0] - points[i - 1][0], points[i][1] - points[i - 1][1]);
	let pen = "M";
	let d = "";
	for (const [x, z] of curveThrough(points, long / DRAWN)) {
		const p = at(x, z);
		if (p) d += `${pen}${p.x.toFixed(1)} ${p.y.toFixed(1)}`;
		pen = p ? "L" : "M";
	}
	const edit = (to: readonly Spot[]) => ({ name: "ground.setEntry" as const, entry: withLine(entry, to) });
	const drag = (event: ReactPointerEvent, n: number, from: readonly Spot[]) => {
		const begin = land(event);
		set({ landPoint: n });
		gesture(event, (e) => {
			const to = land(e);
			if (!begin || !to) return null;
			return edit(from.map(([x, z], i) => (i === n ? [x + to[0] - begin[0], z + to[1] - begin[1]] : [x, z])));
		});
	};
	const insert = (event: ReactPointerEvent) => {
		const spot = land(event);
		if (!spot) return;
		const n = nearest(points, spot) + 1;
		drag(event, n, [...points.slice(0, n), spot, ...points.slice(n)]);
	};
	return (
		<g>
			{d && <Double k={k} d={d} />}
			{d && <Grip k={k} d={d} cursor="copy" onPointerDown={insert} testId={`${view}-line`} />}
			{points.map(([x, z], n) => {
				const p = at(x, z);
				return (
					p && (
						<PointHandle
							key={n}
							{...{ ...p, k }}
							soft={landPoint !== n}
							onPointerDown={(e) => drag(e, n, points)}
							title="Drag it over the land; Delete takes it out"
							testId={`${view}-point-${n}`}
						/>
					)
				);
			})}
		</g>
	);
}
