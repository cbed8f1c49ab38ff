"use client";
/** A box over the frame: taken hold of by its edge and its name, resized by its corners. */
import type { ReactNode, PointerEvent as ReactPointerEvent } from "react";
import { Tag } from "../../parts/marks.tsx";

const CORNERS = [
	[0, 0],
	[1, 0],
	[1, 1],
	[0, 1],
] as const;

export const boxPath = ({ x, y, width, height }: Omit<BoxProps["box"], "k">): string =>
	`M${x} ${y}h${width}v${height}h${-width}z`;

interface BoxProps {
	/** In pixels of the frame, at its zoom `k`. */
	box: { x: number; y: number; width: number; height: number; k: number };
	/** What it is called in the test of the page. */
	name: string;
	title: string;
	/** Row of its title, so that several do not lie over each other. */
	row?: number;
	onMove: (event: ReactPointerEvent) => void;
	/** Null where its corners are not to be had. */
	onResize: ((event: ReactPointerEvent, right: 0 | 1, low: 0 | 1) => void) | null;
	/** What is drawn of it. */
	children: ReactNode;
}

export function BoxMark({ box, name, title, row = 0, onMove, onResize, children }: BoxProps) {
	const { x, y, width, height, k } = box;
	return (
		<g data-testid={name}>
			{children}
			<path
				d={boxPath(box)}
				fill="none"
				stroke="transparent"
				strokeWidth={14 / k}
				style={{ cursor: "move" }}
				onPointerDown={onMove}
				data-testid={`${name}-edge`}
			/>
			<g style={{ cursor: "move" }} onPointerDown={onMove}>
				<rect x={x + 8 / k} y={y + (6 + 26 * row) / k} width={110 / k} height={24 / k} fill="transparent" />
				<Tag k={k} x={x + 10 / k} y={y + (18 + 26 * row) / k}>
					{title}
				</Tag>
			</g>
			{onResize &&
				CORNERS.map(([right, low]) => (
					<circle
						key={`${right}${low}`}
						cx={x + right * width}
						cy={y + low * height}
						r={14 / k}
						fill="transparent"
						style={{ cursor: right === low ? "nwse-resize" : "nesw-resize" }}
						onPointerDown={(e) => onResize(e, right, low)}
						data-testid={`${name}-corner-${right}${low}`}
					/>
				))}
		</g>
	);
}
