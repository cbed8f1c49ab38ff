"use client";
/** Handles that one piece and several have in common: the foot, and the crown with its rim. */
import type { PointerEvent as ReactPointerEvent } from "react";
import type { Point } from "../../../core/ground/underPoint.ts";
import { cos, sin, TAU } from "../../../core/maths/functions.ts";
import type { Vec3 } from "../../../core/maths/vec.ts";
import { Double, Tag } from "../../parts/marks.tsx";
import { useShot } from "../../store/shotStore.ts";
import { useStudioOf } from "../../store/studio.ts";

/** Where a place of the world lies in the frame, in pixels; null behind the lens. */
export type At = (p: Vec3) => { x: number; y: number; depthM: number } | null;

type Press = (event: ReactPointerEvent) => void;

const RIM_PX = 22;

/** The rim of the crown: half an ellipse to both sides of the place where the height is drawn. */
const rimAt = ({ x, y }: Point, k: number): string => {
	const [rx, ry] = [RIM_PX / k, 8 / k];
	return `M${x - rx} ${y}A${rx} ${ry} 0 0 0 ${x + rx} ${y}`;
};

export function Foot({ foot, k, onPointerDown }: { foot: Point; k: number; onPointerDown: Press }) {
	return (
		<g style={{ cursor: "move" }} onPointerDown={onPointerDown} data-testid="handle-foot">
			<ellipse cx={foot.x} cy={foot.y} rx={9 / k} ry={4 / k} fill="#fff" stroke="#000" strokeWidth={1.6 / k} />
			<ellipse cx={foot.x} cy={foot.y} rx={3 / k} ry={1.5 / k} fill="#000" />
			<ellipse cx={foot.x} cy={foot.y} rx={16 / k} ry={11 / k} fill="transparent" />
		</g>
	);
}

/** What is moved came to, below its foot. */
export function SnapTag({ x, y, k }: Point & { k: number }) {
	const { snapping, snapTold } = useStudioOf("snapping", "snapTold");
	const moving = useShot((s) => s.preview !== null);
	return (
		snapping &&
		moving &&
		snapTold !== "" && (
			<Tag k={k} x={x} y={y + 26 / k} anchor="middle">
				{snapTold}
			</Tag>
		)
	);
}

/** Corners of a ring on the ground. */
const SIDES = 64;

interface RingProps {
	at: At;
	k: number;
	centre: Vec3;
	radiusM: number;
	/** Where its tick points, in radians from the east to the south; and how far, in radii. */
	tickAt: number;
	tickTo: number;
	turn: Press;
	/** Said beside the tick. */
	told?: string;
}

/** The ring by which something is turned about a place on the ground, with a tick where it can be seen and taken. */
export function TurnRing({ at, k, centre: [x, y, z], radiusM, tickAt, tickTo, turn, told }: RingProps) {
	const on = (angle: number, far = radiusM) => at([x + far * cos(angle), y, z + far * sin(angle)]);
	const ring = Array.from({ length: SIDES + 1 }, (_, i) => on((i / SIDES) * TAU));
	const path = ring.every((p) => p) ? `M${ring.map((p) => `${p?.x.toFixed(1)} ${p?.y.toFixed(1)}`).join("L")}z` : "";
	const [from, to] = [on(tickAt), on(tickAt, radiusM * tickTo)];
	return (
		<g style={{ cursor: "grab" }} onPointerDown={turn}>
			{path && (
				<>
					<Double k={k} d={path} />
					<path d={path} fill="none" stroke="transparent" strokeWidth={9 / k} />
				</>
			)}
			{from && to && (
				<g data-testid="handle-heading">
					<Double k={k} d={`M${from.x} ${from.y}L${to.x} ${to.y}`} />
					<circle cx={to.x} cy={to.y} r={12 / k} fill="transparent" />
					{told && (
						<Tag k={k} x={to.x + 8 / k} y={to.y}>
							{told}
						</Tag>
					)}
				</g>
			)}
		</g>
	);
}

interface CrownProps {
	crown: Point;
	k: number;
	/** By its rim. */
	lean: Press;
	/** By its arrow. */
	size: Press;
	told: string;
}

export function Crown({ crown, k, lean, size, told }: CrownProps) {
	return (
		<g>
			<g style={{ cursor: "move" }} onPointerDown={lean}>
				<Double k={k} d={rimAt(crown, k)} />
				<path d={rimAt(crown, k)} fill="none" stroke="transparent" strokeWidth={10 / k} />
				{[-1, 1].map((side) => (
					<circle
						key={side}
						cx={crown.x + (side * RIM_PX) / k}
						cy={crown.y}
						r={8 / k}
						fill="transparent"
						data-testid={`handle-lean-${side < 0 ? "left" : "right"}`}
					/>
				))}
			</g>
			<g style={{ cursor: "ns-resize" }} onPointerDown={size} data-testid="handle-height">
				<Double
					k={k}
					d={`M${crown.x - 9 / k} ${crown.y - 8 / k}L${crown.x} ${crown.y - 15 / k}L${crown.x + 9 / k} ${crown.y - 8 / k}`}
				/>
				<rect x={crown.x - 13 / k} y={crown.y - 22 / k} width={26 / k} height={20 / k} fill="transparent" />
				<Tag k={k} x={crown.x} y={crown.y - 32 / k} anchor="middle">
					{told}
				</Tag>
			</g>
		</g>
	);
}
