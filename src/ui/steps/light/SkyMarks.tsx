"use client";
/** Sun, moon and the sun of a sky picture in the frame, dragged where they shall stand. */
import { SUN_RADIUS, sunDirection } from "../../../core/air/dome.ts";
import type { Edit } from "../../../core/doc/edits.ts";
import type { Point } from "../../../core/ground/underPoint.ts";
import { type FrameOfView, project, rayThrough } from "../../../core/lens/camera.ts";
import { useGesture } from "../../frame/gesture.ts";
import { useShownSun } from "../../frame/shownSun.ts";
import { Double, Tag } from "../../parts/marks.tsx";
import { useShown } from "../../store/shotStore.ts";

type Make = (e: { clientX: number; clientY: number }) => Edit;

interface SkyProps {
	width: number;
	height: number;
	k: number;
	view: FrameOfView;
	/** Place of the frame under the pointer, both from 0 to 1. */
	place: (e: { clientX: number; clientY: number }) => Point;
}

/** Rings about a disc in the sky, with a word beside it. */
function Disc({
	at,
	width,
	k,
	view,
	word,
	id,
	make,
}: Pick<SkyProps, "width" | "k" | "view"> & { at: Point; word: string; id: string; make: Make }) {
	const gesture = useGesture();
	const radius = Math.max(12, SUN_RADIUS * (width / (2 * view.tanX))) / k;
	return (
		<g style={{ cursor: "grab" }} data-testid={id} onPointerDown={(event) => gesture(event, make)}>
			<circle cx={at.x} cy={at.y} r={radius + 8 / k} fill="transparent" />
			<circle cx={at.x} cy={at.y} r={radius} className="outer" style={{ strokeWidth: 4 / k }} />
			<circle cx={at.x} cy={at.y} r={radius} className="inner" style={{ strokeWidth: 1.6 / k }} />
			<Double k={k} d={`M${at.x - radius - 7 / k} ${at.y}h${5 / k}M${at.x + radius + 2 / k} ${at.y}h${5 / k}`} />
			<Tag k={k} x={at.x + radius + 12 / k} y={at.y}>
				{word}
			</Tag>
		</g>
	);
}

/** Where a direction lies in the picture of the frame; null outside it. */
function placeOf(view: FrameOfView, d: readonly number[], width: number, height: number): Point | null {
	const p = project(view, [view.position[0] + d[0], view.position[1] + d[1], view.position[2] + d[2]]);
	if (p.depthM <= 0.02 || p.x < -0.02 || p.x > 1.02 || p.y < -0.02 || p.y > 1.02) return null;
	return { x: p.x * width, y: p.y * height };
}

const headingOf = (r: readonly number[]) => (Math.atan2(r[0], -r[2]) * 180) / Math.PI;

/** The sun of a sky picture: dragged, it turns the picture. */
export function PictureSunMark({ width, height, k, view, place }: SkyProps) {
	const sun = useShownSun();
	const at = sun?.ofPicture ? placeOf(view, sunDirection(sun), width, height) : null;
	if (!sun || !at) return null;
	const make: Make = (e) => {
		const q = place(e);
		return sun.turnTo(headingOf(rayThrough(view, Math.min(1, Math.max(0, q.x)), Math.min(1, Math.max(0, q.y)))));
	};
	return <Disc at={at} width={width} k={k} view={view} id="picture-sun" word="sun of the picture" make={make} />;
}

/** Sun or moon in the frame: dragged, it takes heading and height from where it is put. */
export function DiscMark({ body, width, height, k, view, place }: SkyProps & { body: "sun" | "moon" }) {
	const doc = useShown();
	const stands = doc.air[body];
	const at = stands && placeOf(view, sunDirection(stands), width, height);
	if (!at) return null;
	const make: Make = (e) => {
		const q = place(e);
		const r = rayThrough(view, Math.min(1, Math.max(0, q.x)), Math.min(1, Math.max(0, q.y)));
		const l = Math.hypot(...r);
		return {
			name: body === "sun" ? ("air.setSun" as const) : ("air.setMoon" as const),
			headingDeg: Math.round(headingOf(r) * 10) / 10,
			elevationDeg: Math.round(Math.min(90, Math.max(-18, (Math.asin(r[1] / l) * 180) / Math.PI)) * 10) / 10,
		};
	};
	return (
		<Disc
			at={at}
			width={width}
			k={k}
			view={view}
			id={body}
			word={`${body} ${stands.elevationDeg.toFixed(1)}° high`}
			make={make}
		/>
	);
}
