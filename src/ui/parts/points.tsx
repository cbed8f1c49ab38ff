"use client";
/** Points of lines and of places that are dragged in the frame and in the plan. */
import type { PointerEvent as ReactPointerEvent } from "react";
import type { Point } from "../../core/ground/underPoint.ts";
import { Dot } from "./marks.tsx";

type Press = (event: ReactPointerEvent) => void;

interface PointProps extends Point {
	k: number;
	/** How far about it a hand takes it, in pixels of the screen. */
	reachPx?: number;
	onPointerDown: Press;
	testId: string;
}

/** A point of a line that is dragged. */
export function PointHandle({
	k,
	x,
	y,
	reachPx = 10,
	soft,
	chosen,
	title,
	onPointerDown,
	testId,
}: PointProps & { soft: boolean; chosen?: boolean; title?: string }) {
	return (
		<g style={{ cursor: "move" }} onPointerDown={onPointerDown} data-testid={testId}>
			{title && <title>{title}</title>}
			<Dot {...{ x, y, k, soft, chosen }} />
			<circle cx={x} cy={y} r={reachPx / k} fill="transparent" />
		</g>
	);
}

/** A line that a hand takes hold of beside it as well. */
export function Grip({
	k,
	d,
	cursor,
	onPointerDown,
	testId,
}: {
	k: number;
	d: string;
	cursor: string;
	onPointerDown: Press;
	testId: string;
}) {
	return (
		<path
			d={d}
			fill="none"
			stroke="transparent"
			strokeWidth={12 / k}
			style={{ cursor }}
			onPointerDown={onPointerDown}
			data-testid={testId}
		/>
	);
}

/** A place between two points of a line that becomes one when it is dragged. */
export function BetweenHandle({ k, x, y, reachPx = 8, onPointerDown, testId }: PointProps) {
	return (
		<g style={{ cursor: "copy" }} onPointerDown={onPointerDown} data-testid={testId}>
			<circle cx={x} cy={y} r={2.4 / k} fill="#fff" stroke="#000" strokeWidth={1 / k} />
			<circle cx={x} cy={y} r={reachPx / k} fill="transparent" />
		</g>
	);
}
