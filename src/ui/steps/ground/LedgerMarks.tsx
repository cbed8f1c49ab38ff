"use client";
/** Places of the ledger's entry in hand, lying on the land: dragged by their middle, made wider by their ring. */
import { type PointerEvent as ReactPointerEvent, useMemo } from "react";
import type { LandEntry } from "../../../core/doc/schema.ts";
import { coarseGround, groundHeight, waterInLand } from "../../../core/ground/height.ts";
import { type LandPlace, lineOf, placesOf, withPlace } from "../../../core/ground/ledger/places.ts";
import { groundUnder } from "../../../core/ground/underPoint.ts";
import { project } from "../../../core/lens/camera.ts";
import { millimetres } from "../../../core/maths/functions.ts";
import { useGesture } from "../../frame/gesture.ts";
import type { MarkProps } from "../../frame/marks.ts";
import { Double, Tag } from "../../parts/marks.tsx";
import { Grip, PointHandle } from "../../parts/points.tsx";
import type { PlanMarkProps } from "../../plan/Plan.tsx";
import { useShot, useShown } from "../../store/shotStore.ts";
import { useStudio, useStudioOf } from "../../store/studio.ts";
import { ColourMarks } from "../laid/ColourMarks.tsx";
import { PaintMarks } from "../laid/PaintMarks.tsx";
import { PlaceMarks } from "../laid/PlaceMarks.tsx";
import { BrushFromAbove, BrushMarks } from "./BrushMarks.tsx";
import { LineOnLand } from "./LineOnLand.tsx";
import { QuadOnLand } from "./QuadOnLand.tsx";
import { type LandView, ringOnLand } from "./ring.ts";
import { SkylineMarks } from "./SkylineMarks.tsx";

const LEAST_M = 0.5;

/** The entry in hand as it stands and as it is shown, and its places. */
function useInHand(): { standing: LandEntry; shown: LandEntry; places: LandPlace[] } | null {
	const chosen = useStudio((s) => s.landEntry);
	const standing = useShot((s) => s.document.ground.ledger?.find((e) => e.id === chosen));
	const shown = useShown().ground.ledger?.find((e) => e.id === chosen);
	return standing && shown ? { standing, shown, places: placesOf(shown) } : null;
}

const edit = (entry: LandEntry) => ({ name: "ground.setEntry" as const, entry });

function Places({ at, land, k, view }: LandView) {
	const gesture = useGesture();
	const inHand = useInHand();
	if (!inHand) return null;
	const { standing, shown, places } = inHand;
	const line = lineOf(shown);
	return (
		<g>
			<QuadOnLand {...{ standing, shown, at, land, k, view }} />
			{line && <LineOnLand entry={standing} points={line} {...{ at, land, k, view }} />}
			{places.map((place) => {
				const { n, x, z, radiusM, featherM } = place;
				const middle = at(x, z);
				const ring = (r: number) => ringOnLand(at, x, z, r);
				const edge = at(x + radiusM, z);
				const drag = (event: ReactPointerEvent) => {
					const begin = land(event);
					gesture(event, (e) => {
						const to = land(e);
						return begin && to
							? edit(
									withPlace(standing, n, {
										x: millimetres(x + to[0] - begin[0]),
										z: millimetres(z + to[1] - begin[1]),
									}),
								)
							: null;
					});
				};
				const widen = (event: ReactPointerEvent) =>
					gesture(event, (e) => {
						const to = land(e);
						const far = to && Math.hypot(to[0] - x, to[1] - z);
						return far ? edit(withPlace(standing, n, { radiusM: Math.max(LEAST_M, Math.round(far * 10) / 10) })) : null;
					});
				const d = ring(radiusM);
				return (
					<g key={n}>
						{d && <Double k={k} d={d} />}
						{d && featherM > 0 && <Double k={k} dashed d={ring(radiusM + featherM)} />}
						{d && <Grip k={k} d={d} cursor="nesw-resize" onPointerDown={widen} testId={`${view}-ring-${n}`} />}
						{middle && (
							<PointHandle
								{...{ ...middle, k }}
								soft
								onPointerDown={drag}
								title="Drag it over the land"
								testId={`${view}-place-${n}`}
							/>
						)}
						{edge && <Tag k={k} x={edge.x + 8 / k} y={edge.y}>{`${radiusM.toFixed(1)} m`}</Tag>}
					</g>
				);
			})}
		</g>
	);
}

export function LedgerMarks(frame: MarkProps) {
	const { width, height, k, view, place } = frame;
	const { ground } = useShown();
	// Marks have no need of every cell of a pond, and do not wait for its hollows while a hand drags.
	const standing = useShot((s) => s.document.ground);
	const waters = useMemo(() => coarseGround(standing), [standing]);
	// A brush in hand has the land to itself.
	const { brush, painting, colouring, heldPlace } = useStudioOf("brush", "painting", "colouring", "heldPlace");
	const inHand = useInHand();
	if (heldPlace) return <PlaceMarks {...frame} />;
	if (painting) return <PaintMarks {...frame} />;
	if (colouring) return <ColourMarks {...frame} />;
	if (brush) return <BrushMarks {...frame} />;
	if (inHand?.standing.kind === "skyline" && inHand.shown.kind === "skyline")
		return <SkylineMarks {...frame} standing={inHand.standing} shown={inHand.shown} />;
	return (
		<Places
			view="land"
			k={k}
			at={(x, z) => {
				// Over water marks lie on it: its bed is seen elsewhere.
				const y = Math.max(groundHeight(ground, x, z), waterInLand(waters, x, z) ?? -Infinity);
				const q = project(view, [x, y, z]);
				return q.depthM > 0.05 ? { x: q.x * width, y: q.y * height } : null;
			}}
			land={(e) => {
				const spot = groundUnder(view, ground, place(e));
				return spot && [spot[0], spot[2]];
			}}
		/>
	);
}

export function LedgerFromAbove(plan: PlanMarkProps) {
	const { at, worldAt } = plan;
	if (useStudio((s) => s.brush)) return <BrushFromAbove {...plan} />;
	return <Places view="plan" k={1} at={at} land={worldAt} />;
}
