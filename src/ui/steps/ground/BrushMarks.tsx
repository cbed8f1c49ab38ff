"use client";
/** The ring of the brush, lying on the land where the pointer is: the same in frame, free view and plan. */
import { useEffect, useRef } from "react";
import { groundHeight } from "../../../core/ground/height.ts";
import { project } from "../../../core/lens/camera.ts";
import type { MarkProps } from "../../frame/marks.ts";
import { Double, Tag } from "../../parts/marks.tsx";
import { metres } from "../../parts/words.ts";
import type { PlanMarkProps } from "../../plan/Plan.tsx";
import { useShot, useShown } from "../../store/shotStore.ts";
import { useStudio, useStudioOf } from "../../store/studio.ts";
import { landUnder, setRadius, strengthen, WEARS } from "./brush.ts";
import { type LandView, ringOnLand } from "./ring.ts";

/** How many times stronger for a pixel that the pointer goes up. */
const STRONGER_PX = 1.012;

function Ring({ at, land, k, view }: LandView) {
	const { brush, brushRadiusM, brushByM, brushWear, brushAt, brushTold } = useStudioOf(
		"brush",
		"brushRadiusM",
		"brushByM",
		"brushWear",
		"brushAt",
		"brushTold",
	);
	const group = useRef<SVGGElement>(null);
	const under = useRef(land);
	under.current = land;
	useEffect(() => {
		const svg = group.current?.ownerSVGElement;
		if (!svg || !brush) return;
		const move = (e: PointerEvent) => {
			// While a stroke is drawn it tells by itself where it is.
			if (useShot.getState().preview) return;
			const { brushAt: at } = useStudio.getState();
			const to = under.current(e);
			// The rim is what the hand holds, or the strength; the ring stays where it lies.
			if (e.shiftKey && at) {
				if (to) setRadius(Math.hypot(to[0] - at[0], to[1] - at[1]));
			} else if (e.altKey && at) strengthen(STRONGER_PX ** -e.movementY);
			else useStudio.setState({ brushAt: to });
		};
		const leave = () => useStudio.setState({ brushAt: null });
		svg.addEventListener("pointermove", move);
		svg.addEventListener("pointerleave", leave);
		return () => {
			svg.removeEventListener("pointermove", move);
			svg.removeEventListener("pointerleave", leave);
		};
	}, [brush]);
	if (!brush) return null;
	const strength = brush === WEARS ? `${Math.round(brushWear * 100)} %` : metres(brushByM);
	const d = brushAt && ringOnLand(at, ...brushAt, brushRadiusM);
	const edge = brushAt && at(brushAt[0] + brushRadiusM, brushAt[1]);
	return (
		<g ref={group} pointerEvents="none">
			{d && (
				<g data-testid={`${view}-brush`}>
					<Double k={k} d={d} />
				</g>
			)}
			{d && edge && view === "land" && (
				<Tag k={k} x={edge.x + 8 / k} y={edge.y}>
					{brushTold || `${metres(brushRadiusM)}, ${strength}`}
				</Tag>
			)}
		</g>
	);
}

export function BrushMarks({ width, height, k, view, place }: MarkProps) {
	const { ground } = useShown();
	return (
		<Ring
			view="land"
			k={k}
			at={(x, z) => {
				const q = project(view, [x, groundHeight(ground, x, z), z]);
				return q.depthM > 0.05 ? { x: q.x * width, y: q.y * height } : null;
			}}
			land={(e) => landUnder({ view, place })(e)}
		/>
	);
}

export function BrushFromAbove({ at, worldAt }: PlanMarkProps) {
	return <Ring view="plan" k={1} at={at} land={worldAt} />;
}
