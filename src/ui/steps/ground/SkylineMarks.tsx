"use client";
/** The line that far land meets, over the frame of the eye that drew it; its points are dragged. */
import type { LandEntry } from "../../../core/doc/schema.ts";
import { project } from "../../../core/lens/camera.ts";
import { cos, DEG, sin } from "../../../core/maths/functions.ts";
import { useGesture } from "../../frame/gesture.ts";
import type { MarkProps } from "../../frame/marks.ts";
import { Double } from "../../parts/marks.tsx";
import { PointHandle } from "../../parts/points.tsx";
import { useShot } from "../../store/shotStore.ts";
import { withSkylinePoint } from "./skyline.ts";

type Skyline = Extract<LandEntry, { kind: "skyline" }>;

/** More points than these are not taken hold of one by one. */
const MOST_HANDLES = 40;

export function SkylineMarks({
	standing,
	shown,
	width,
	height,
	k,
	view,
	place,
}: MarkProps & { standing: Skyline; shown: Skyline }) {
	const gesture = useGesture();
	const levelM = useShot((s) => s.document.ground.levelM ?? 0);
	const { eye, distanceM, line } = shown;
	const spots = line.map(([heading, rise]) => {
		const p = project(view, [
			eye[0] + distanceM * sin(heading * DEG),
			eye[1] + levelM + distanceM * rise,
			eye[2] - distanceM * cos(heading * DEG),
		]);
		return p.depthM > 0.05 ? { x: p.x * width, y: p.y * height } : null;
	});
	const seen = spots.flatMap((p) => p ?? []);
	return (
		<g data-testid="skyline">
			{seen.length > 1 && <Double k={k} d={`M${seen.map((p) => `${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join("L")}`} />}
			{line.length <= MOST_HANDLES &&
				spots.map(
					(p, n) =>
						p && (
							<PointHandle
								key={n}
								{...{ ...p, k }}
								soft
								onPointerDown={(event) =>
									gesture(event, (e) => {
										const entry = withSkylinePoint(standing, n, view, place(e));
										return entry && { name: "ground.setEntry", entry };
									})
								}
								title="Drag it: the land follows"
								testId={`skyline-point-${n}`}
							/>
						),
				)}
		</g>
	);
}
