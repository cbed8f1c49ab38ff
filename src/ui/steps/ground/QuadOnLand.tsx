"use client";
/** The rectangle over which a picture is laid on the land: dragged by its middle, made larger and turned by its corners. */
import type { PointerEvent as ReactPointerEvent } from "react";
import type { LandEntry } from "../../../core/doc/schema.ts";
import { cornersOf, quadOf, withCorner } from "../../../core/ground/ledger/places.ts";
import { millimetres } from "../../../core/maths/functions.ts";
import { useGesture } from "../../frame/gesture.ts";
import { Double, Tag } from "../../parts/marks.tsx";
import { PointHandle } from "../../parts/points.tsx";
import type { LandView } from "./ring.ts";

/** Places of an edge that are looked up on the land. */
const STEPS = 24;

const edit = (entry: LandEntry) => ({ name: "ground.setEntry" as const, entry });

export function QuadOnLand({
	standing,
	shown,
	at,
	land,
	k,
	view,
}: LandView & { standing: LandEntry; shown: LandEntry }) {
	const gesture = useGesture();
	const quad = quadOf(shown);
	if (!quad || !("acrossM" in standing)) return null;
	const corners = cornersOf(quad);
	let d = "";
	let pen = "M";
	for (let n = 0; n <= 4 * STEPS; n++) {
		const [a, b] = [corners[Math.floor(n / STEPS) % 4], corners[(Math.floor(n / STEPS) + 1) % 4]];
		const t = (n % STEPS) / STEPS;
		const p = at(a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1]));
		if (p) d += `${pen}${p.x.toFixed(1)} ${p.y.toFixed(1)}`;
		pen = p ? "L" : "M";
	}
	const move = (event: ReactPointerEvent) => {
		const begin = land(event);
		gesture(event, (e) => {
			const to = land(e);
			if (!begin || !to) return null;
			const [x, z] = [quad.x + to[0] - begin[0], quad.z + to[1] - begin[1]].map(millimetres);
			return edit({ ...standing, x, z });
		});
	};
	const lead = (corner: number) => (event: ReactPointerEvent) => {
		const begin = land(event);
		const [x, z] = corners[corner];
		gesture(event, (e) => {
			const to = land(e);
			return begin && to ? edit(withCorner(standing, corner, [x + to[0] - begin[0], z + to[1] - begin[1]])) : null;
		});
	};
	const middle = at(quad.x, quad.z);
	const upper = at((corners[0][0] + corners[1][0]) / 2, (corners[0][1] + corners[1][1]) / 2);
	return (
		<g>
			{d && <Double k={k} d={d} />}
			{corners.map(([x, z], n) => {
				const p = at(x, z);
				return (
					p && (
						<PointHandle
							key={n}
							{...{ ...p, k }}
							soft={false}
							title="Drag it to make the picture larger, and to turn it"
							onPointerDown={lead(n)}
							testId={`${view}-corner-${n}`}
						/>
					)
				);
			})}
			{middle && (
				<PointHandle
					{...{ ...middle, k }}
					soft
					title="Drag it over the land"
					onPointerDown={move}
					testId={`${view}-middle`}
				/>
			)}
			{upper && (
				<Tag
					k={k}
					x={upper.x}
					y={upper.y}
					anchor="middle"
				>{`${quad.acrossM.toFixed(0)} × ${quad.deepM.toFixed(0)} m`}</Tag>
			)}
		</g>
	);
}
