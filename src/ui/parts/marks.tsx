"use client";
/** Marks over the picture: white inside black, so that they show on any picture and tint nothing. */
import type { ReactNode } from "react";

/** A path drawn twice. */
export function Double({ d, dashed, k = 1 }: { d: string; dashed?: boolean; k?: number }) {
	const dash = dashed ? `${6 / k} ${4 / k}` : undefined;
	return (
		<>
			<path d={d} className="outer" style={{ strokeWidth: 4 / k }} strokeDasharray={dash} />
			<path d={d} className="inner" style={{ strokeWidth: 1.6 / k }} strokeDasharray={dash} />
		</>
	);
}

/** A point of a line: a small square for a corner, a round for a soft one. */
export function Dot({ x, y, k, soft, chosen }: { x: number; y: number; k: number; soft: boolean; chosen?: boolean }) {
	const r = (chosen ? 5.5 : 4) / k;
	const look = { fill: chosen ? "#000" : "#fff", stroke: chosen ? "#fff" : "#000", strokeWidth: 1.4 / k };
	return soft ? (
		<circle cx={x} cy={y} r={r} {...look} />
	) : (
		<rect x={x - r} y={y - r} width={2 * r} height={2 * r} {...look} />
	);
}

/** White words on a black slip. `k` is the enlargement, so that words keep their size. */
export function Tag({
	x,
	y,
	children,
	k = 1,
	anchor = "start",
}: {
	x: number;
	y: number;
	children: ReactNode;
	k?: number;
	anchor?: "start" | "middle";
}) {
	const text = String(children);
	const w = text.length * 6.7 + 12;
	return (
		<g transform={`translate(${x} ${y}) scale(${1 / k})`} pointerEvents="none">
			<rect className="tag" x={anchor === "middle" ? -w / 2 : 0} y={-10} width={w} height={20} rx={1} />
			<text className="tag-text" x={anchor === "middle" ? 0 : 6} y={4.5} textAnchor={anchor}>
				{text}
			</text>
		</g>
	);
}

/** Text on a drawing, with an edge of paper so that it reads over lines and shapes. */
export const haloed = {
	fontSize: 12,
	fill: "#57544e",
	stroke: "#f3f1ec",
	strokeWidth: 3.5,
	paintOrder: "stroke",
	strokeLinejoin: "round",
	pointerEvents: "none",
} as const;
