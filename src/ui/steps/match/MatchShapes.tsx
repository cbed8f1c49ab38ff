"use client";
/** Known sizes, circles and the horizon over the reference, with their handles. */
import type { PointerEvent as ReactPointerEvent } from "react";
import type { MatchCircle, MatchCurve, MatchMeasure } from "../../../core/doc/schema.ts";
import type { Point } from "../../../core/ground/underPoint.ts";
import { useGesture } from "../../frame/gesture.ts";
import { Double, Tag } from "../../parts/marks.tsx";
import { type Matched, matchImage } from "../../reference/match.ts";
import { useShot, useShown } from "../../store/shotStore.ts";
import { useStudioOf } from "../../store/studio.ts";

interface Props {
	width: number;
	height: number;
	k: number;
	place: (e: { clientX: number; clientY: number }) => Point;
	result: Matched | null;
	fresh: MatchMeasure | MatchCircle | MatchCurve | null;
}

/** Ends of the half axes of a circle's ellipse: the first, its other side, the second, its other side. */
export function ellipseEnds(c: MatchCircle): [number, number][] {
	const [cos, sin] = [Math.cos((c.angleDeg * Math.PI) / 180), Math.sin((c.angleDeg * Math.PI) / 180)];
	return [
		[c.x + c.a * cos, c.y + c.a * sin],
		[c.x - c.a * cos, c.y - c.a * sin],
		[c.x - c.b * sin, c.y + c.b * cos],
		[c.x + c.b * sin, c.y - c.b * cos],
	];
}

/** The ellipse with one end of a half axis drawn to a place. */
export function withEnd(c: MatchCircle, end: number, x: number, y: number): MatchCircle {
	const half = Math.max(2, Math.hypot(x - c.x, y - c.y));
	const angle = (Math.atan2(y - c.y, x - c.x) * 180) / Math.PI - [0, 180, 90, -90][end];
	const angleDeg = ((((angle + 180) % 360) + 360) % 360) - 180;
	return end < 2 ? { ...c, a: half, angleDeg } : { ...c, b: half, angleDeg };
}

/** A smooth path through places (Catmull and Rom 1974). */
function smooth(p: [number, number][]): string {
	let d = `M${p[0][0]} ${p[0][1]}`;
	for (let i = 0; i < p.length - 1; i++) {
		const [a, b, c, e] = [p[Math.max(0, i - 1)], p[i], p[i + 1], p[Math.min(p.length - 1, i + 2)]];
		d += `C${b[0] + (c[0] - a[0]) / 6} ${b[1] + (c[1] - a[1]) / 6} ${c[0] - (e[0] - b[0]) / 6} ${c[1] - (e[1] - b[1]) / 6} ${c[0]} ${c[1]}`;
	}
	return d;
}

export function MatchShapes({ width, height, k, place, result, fresh }: Props) {
	const doc = useShown();
	const { mark, set } = useStudioOf("mark", "set");
	const { commit } = useShot.getState();
	const gesture = useGesture();
	const image = matchImage(doc);
	const s = width / image.width;
	const toImage = (e: { clientX: number; clientY: number }) => {
		const p = place(e);
		return { x: p.x * image.width, y: p.y * image.height };
	};
	/** A drag of a mark by how far the pointer has gone in the picture. */
	const drag = (
		event: ReactPointerEvent,
		id: string,
		make: (dx: number, dy: number, to: Point) => Parameters<typeof commit>[0],
	) => {
		event.stopPropagation();
		set({ mark: id, line: null });
		const from = toImage(event);
		gesture(event, (e) => {
			const to = toImage(e);
			return make(to.x - from.x, to.y - from.y, to);
		});
	};
	const measures = [...(doc.match.measures ?? []), ...(fresh && "metres" in fresh ? [fresh] : [])];
	const circles = [...(doc.match.circles ?? []), ...(fresh && "plane" in fresh ? [fresh] : [])];
	const curves = [...(doc.match.curves ?? []), ...(fresh && "points" in fresh ? [fresh] : [])];
	const dot = (key: string, x: number, y: number, testId: string, onDown: (e: ReactPointerEvent) => void) => (
		<circle
			key={key}
			cx={x * s}
			cy={y * s}
			r={10 / k}
			fill="transparent"
			style={{ cursor: "grab" }}
			data-testid={testId}
			onPointerDown={onDown}
		/>
	);
	const { horizon } = doc.match;
	return (
		<g>
			{circles.map((c, i) => {
				const ends = ellipseEnds(c);
				return (
					<g key={c.id}>
						{["outer", "inner"].map((line) => (
							<ellipse
								key={line}
								cx={c.x * s}
								cy={c.y * s}
								rx={c.a * s}
								ry={c.b * s}
								transform={`rotate(${c.angleDeg} ${c.x * s} ${c.y * s})`}
								className={line}
								style={{ strokeWidth: (line === "outer" ? 4 : 1.6) / k }}
							/>
						))}
						<Double
							k={k}
							d={ends
								.map(([x, y]) => `M${x * s - 4 / k} ${y * s}h${8 / k}M${x * s} ${y * s - 4 / k}v${8 / k}`)
								.join("")}
						/>
						{mark === c.id && (
							<circle cx={c.x * s} cy={c.y * s} r={5 / k} className="inner" style={{ strokeWidth: 1.6 / k }} />
						)}
						{dot(`${c.id}-middle`, c.x, c.y, `circle-${i + 1}-middle`, (e) =>
							drag(e, c.id, (dx, dy) => ({ name: "match.putCircle", circle: { ...c, x: c.x + dx, y: c.y + dy } })),
						)}
						{ends.map(([x, y], end) =>
							dot(`${c.id}-${x}-${y}`, x, y, `circle-${i + 1}-end-${end + 1}`, (e) =>
								drag(e, c.id, (_dx, _dy, to) => ({ name: "match.putCircle", circle: withEnd(c, end, to.x, to.y) })),
							),
						)}
						<Tag
							k={k}
							x={c.x * s + 10 / k}
							y={c.y * s}
						>{`circle ${i + 1}, ${c.plane === "ground" ? "level" : `upright, ${c.plane}`}`}</Tag>
					</g>
				);
			})}
			{curves.map((c, i) => (
				<g key={c.id}>
					<Double k={k} d={smooth(c.points.map(([x, y]) => [x * s, y * s]))} dashed={mark !== c.id} />
					{c.points.map(([x, y], at) => (
						<g key={at}>
							<Double k={k} d={`M${x * s - 4 / k} ${y * s}h${8 / k}M${x * s} ${y * s - 4 / k}v${8 / k}`} />
							{dot(`${c.id}-${at}`, x, y, `curve-${i + 1}-place-${at + 1}`, (e) =>
								drag(e, c.id, (_dx, _dy, to) => ({
									name: "match.putCurve",
									curve: { ...c, points: c.points.map((p, n) => (n === at ? [to.x, to.y] : p)) },
								})),
							)}
						</g>
					))}
					<Tag k={k} x={c.points[0][0] * s + 10 / k} y={c.points[0][1] * s}>{`bent edge ${i + 1}`}</Tag>
				</g>
			))}
			{measures.map((m, i) => {
				const [x1, y1, x2, y2] = [m.x1 * s, m.y1 * s, m.x2 * s, m.y2 * s];
				const l = Math.hypot(x2 - x1, y2 - y1) || 1;
				const [nx, ny] = [((y1 - y2) / l) * (7 / k), ((x2 - x1) / l) * (7 / k)];
				// The foot of a height is a short level stroke, its top a point: so foot and head are told apart.
				const foot =
					m.kind === "height" ? `M${x1 - 12 / k} ${y1}h${24 / k}` : `M${x1 - nx} ${y1 - ny}L${x1 + nx} ${y1 + ny}`;
				const top = `M${x2 - nx} ${y2 - ny}L${x2 + nx} ${y2 + ny}`;
				const told = result?.measured.get(m.id);
				const off =
					told === undefined || Math.abs(told - m.metres) < 0.005 * m.metres ? "" : `, here ${told.toFixed(2)} m`;
				return (
					<g key={m.id}>
						<Double k={k} d={`M${x1} ${y1}L${x2} ${y2}${foot}${top}`} dashed={m.kind === "length"} />
						{mark === m.id && <circle cx={x2} cy={y2} r={9 / k} className="inner" style={{ strokeWidth: 1.6 / k }} />}
						<path
							d={`M${x1} ${y1}L${x2} ${y2}`}
							stroke="transparent"
							strokeWidth={12 / k}
							style={{ cursor: "move" }}
							onPointerDown={(e) =>
								drag(e, m.id, (dx, dy) => ({
									name: "match.putMeasure",
									measure: { ...m, x1: m.x1 + dx, y1: m.y1 + dy, x2: m.x2 + dx, y2: m.y2 + dy },
								}))
							}
						/>
						{dot(`${m.id}-1`, m.x1, m.y1, `measure-${i + 1}-foot`, (e) =>
							drag(e, m.id, (dx, dy) => ({
								name: "match.putMeasure",
								measure: { ...m, x1: m.x1 + dx, y1: m.y1 + dy },
							})),
						)}
						{dot(`${m.id}-2`, m.x2, m.y2, `measure-${i + 1}-top`, (e) =>
							drag(e, m.id, (dx, dy) => ({
								name: "match.putMeasure",
								measure: { ...m, x2: m.x2 + dx, y2: m.y2 + dy },
							})),
						)}
						<Tag k={k} x={x2 + 10 / k} y={y2}>{`${m.metres.toFixed(2)} m${off}`}</Tag>
					</g>
				);
			})}
			{horizon && (
				<g>
					<Double k={k} d={`M0 ${horizon.yLeft * s}L${width} ${horizon.yRight * s}`} dashed />
					<path
						d={`M0 ${horizon.yLeft * s}L${width} ${horizon.yRight * s}`}
						stroke="transparent"
						strokeWidth={14 / k}
						style={{ cursor: "ns-resize" }}
						data-testid="horizon-drag"
						onPointerDown={(e) =>
							drag(e, "horizon", (_dx, dy) => ({
								name: "match.setHorizon",
								horizon: { yLeft: horizon.yLeft + dy, yRight: horizon.yRight + dy },
							}))
						}
					/>
					{(["yLeft", "yRight"] as const).map((side) => (
						<g key={side}>
							<circle
								cx={side === "yLeft" ? 14 / k : width - 14 / k}
								cy={horizon[side] * s}
								r={6 / k}
								className="inner"
								style={{ strokeWidth: 1.6 / k }}
							/>
							<circle
								cx={side === "yLeft" ? 14 / k : width - 14 / k}
								cy={horizon[side] * s}
								r={13 / k}
								fill="transparent"
								style={{ cursor: "ns-resize" }}
								data-testid={`horizon-${side === "yLeft" ? "left" : "right"}`}
								onPointerDown={(e) =>
									drag(e, "horizon", (_dx, dy) => ({
										name: "match.setHorizon",
										horizon: { ...horizon, [side]: horizon[side] + dy },
									}))
								}
							/>
						</g>
					))}
					<Tag k={k} x={width / 2} y={((horizon.yLeft + horizon.yRight) / 2) * s - 14 / k} anchor="middle">
						horizon, dragged
					</Tag>
				</g>
			)}
			<rect width={width} height={height} fill="none" pointerEvents="none" />
		</g>
	);
}
