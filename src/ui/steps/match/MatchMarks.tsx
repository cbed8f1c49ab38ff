"use client";
import type { PointerEvent as ReactPointerEvent } from "react";
import { useEffect, useState } from "react";
/** Lines drawn over the reference, their ends, the horizon and the meeting points, and the staff and rings that check a match. */
import type { Edit } from "../../../core/doc/edits.ts";
import type { MatchCircle, MatchCurve, MatchLine, MatchMeasure } from "../../../core/doc/schema.ts";
import type { Point } from "../../../core/ground/underPoint.ts";
import { project } from "../../../core/lens/camera.ts";
import type { MarkProps } from "../../frame/marks.ts";
import { Double, Tag } from "../../parts/marks.tsx";
import { startDrag } from "../../parts/pointer.ts";
import { newId } from "../../parts/words.ts";
import { useMatchResult } from "../../reference/MatchResult.tsx";
import { inPicture, type Matched, matchImage, matchView } from "../../reference/match.ts";
import { useShot, useShown } from "../../store/shotStore.ts";
import { useStudio, useStudioOf } from "../../store/studio.ts";
import { MatchShapes } from "./MatchShapes.tsx";

/** Reach of the ends of the line that is picked, and of those that are not, in pixels of the screen. */
const PICKED_PX = 11;
const TAKEN_PX = 3;

/** Reach of the pointer to the lines that say who they are, and error from which the worst of them does, pixels. */
const NEAR_PX = 28;
const SAID_PX = 1;

/** Distance from a place to a segment. */
function toSegment(x: number, y: number, x1: number, y1: number, x2: number, y2: number): number {
	const [ex, ey] = [x2 - x1, y2 - y1];
	const t = Math.max(0, Math.min(1, ((x - x1) * ex + (y - y1) * ey) / (ex * ex + ey * ey || 1)));
	return Math.hypot(x - x1 - t * ex, y - y1 - t * ey);
}

const onLens = (magnified: Point | null) => useStudio.getState().set({ magnified });

export function MatchMarks({ width, height, k, place }: MarkProps) {
	const doc = useShown();
	const result = useMatchResult();
	const { commit, show } = useShot.getState();
	const {
		line: chosen,
		axis,
		tool,
		placingStaff,
		staff,
		proposals,
		set,
	} = useStudioOf("line", "axis", "tool", "placingStaff", "staff", "proposals", "set");
	const image = matchImage(doc);
	const sx = width / image.width;
	const sy = height / image.height;
	const [near, setNear] = useState<string | null>(null);
	const [fresh, setFresh] = useState<MatchLine | null>(null);
	const [shape, setShape] = useState<MatchMeasure | MatchCircle | MatchCurve | null>(null);

	const toImage = (p: Point) => ({ x: p.x * image.width, y: p.y * image.height });

	const draw = (event: ReactPointerEvent, over?: MatchLine) => {
		if (event.button !== 0) return;
		const from = toImage(place(event));
		if (placingStaff) {
			const view = result?.ok ? matchView(doc, result) : null;
			const at = view?.ground(place(event));
			if (at) set({ staff: at, placingStaff: false });
			return;
		}
		if (tool !== "line") return drawShape(event);
		const id = newId();
		startDrag(event, {
			move: (e) => {
				const to = toImage(place(e));
				setFresh({ id, axis, x1: from.x, y1: from.y, x2: to.x, y2: to.y });
				onLens(place(e));
			},
			end: (e, moved) => {
				onLens(null);
				setFresh(null);
				const to = toImage(place(e));
				if (!moved) return set({ line: over ? { id: over.id, end: 1, held: true } : null, mark: null });
				if (commit({ name: "match.addLine", line: { id, axis, x1: from.x, y1: from.y, x2: to.x, y2: to.y } }))
					set({ line: { id, end: 2 } });
			},
			cancel: () => (setFresh(null), onLens(null)),
		});
	};

	/** A known size from end to end; a circle from one side of it to the other. */
	const drawShape = (event: ReactPointerEvent) => {
		const from = toImage(place(event));
		const id = newId();
		const make = (e: { clientX: number; clientY: number }): MatchMeasure | MatchCircle | MatchCurve => {
			const to = toImage(place(e));
			if (tool === "circle") {
				const [a, b] = [Math.max(4, Math.abs(to.x - from.x) / 2), Math.max(4, Math.abs(to.y - from.y) / 2)];
				return { id, x: (from.x + to.x) / 2, y: (from.y + to.y) / 2, a, b, angleDeg: 0, plane: "ground" };
			}
			if (tool === "curve") {
				return {
					id,
					points: [
						[from.x, from.y],
						[(from.x + to.x) / 2, (from.y + to.y) / 2],
						[to.x, to.y],
					],
				};
			}
			return {
				id,
				kind: tool === "length" ? "length" : "height",
				x1: from.x,
				y1: from.y,
				x2: to.x,
				y2: to.y,
				metres: tool === "length" ? 2 : 1.7,
			};
		};
		startDrag(event, {
			move: (e) => {
				setShape(make(e));
				onLens(place(e));
			},
			end: (e, moved) => {
				onLens(null);
				setShape(null);
				if (!moved) return;
				const made = make(e);
				const edit: Edit =
					"plane" in made
						? { name: "match.putCircle", circle: made }
						: "points" in made
							? { name: "match.putCurve", curve: made }
							: { name: "match.putMeasure", measure: made };
				if (commit(edit)) set({ mark: id, line: null });
			},
			cancel: () => (setShape(null), onLens(null)),
		});
	};

	const dragEnd = (event: ReactPointerEvent, line: MatchLine, end: 1 | 2 | 0) => {
		if (event.button !== 0) return;
		// Edges of a place meet in corners, where people begin: what was not picked before stays where it is. An end that
		// shows itself as taken under the pointer moves, unless it is of another direction than the one in hand.
		const picked = chosen?.id === line.id && !!chosen.held;
		if (tool !== "line" || !(picked || (end !== 0 && line.axis === axis))) return draw(event, line);
		set({ mark: null, line: { id: line.id, end: end === 0 ? 1 : end, held: true } });
		const from = toImage(place(event));
		const moved = (e: { clientX: number; clientY: number }): MatchLine => {
			const to = toImage(place(e));
			const dx = to.x - from.x;
			const dy = to.y - from.y;
			return {
				...line,
				...(end !== 2 ? { x1: line.x1 + dx, y1: line.y1 + dy } : {}),
				...(end !== 1 ? { x2: line.x2 + dx, y2: line.y2 + dy } : {}),
			};
		};
		startDrag(event, {
			move: (e) => {
				show({ name: "match.changeLine", line: moved(e) });
				onLens(place(e));
			},
			end: (e, did) => {
				onLens(null);
				if (did) commit({ name: "match.changeLine", line: moved(e) });
			},
			cancel: () => (show(null), onLens(null)),
		});
	};

	useEffect(() => () => onLens(null), []);

	const lines = fresh ? [...doc.match.lines, fresh] : doc.match.lines;
	const residualOf = (l: MatchLine) => (result?.ok ? result.residual.get(l.id) : undefined);
	const worst = lines.reduce<MatchLine | null>(
		(most, l) => ((residualOf(l) ?? 0) > (most ? (residualOf(most) ?? 0) : SAID_PX) ? l : most),
		null,
	);
	/** Line near the pointer: over a reference full of lines only that one, the worst and the chosen say who they are. */
	const look = (event: ReactPointerEvent) => {
		const { x, y } = place(event);
		let [id, least]: [string | null, number] = [null, NEAR_PX / k];
		for (const l of lines) {
			const d = toSegment(x * width, y * height, l.x1 * sx, l.y1 * sy, l.x2 * sx, l.y2 * sy);
			if (d < least) [id, least] = [l.id, d];
		}
		if (id !== near) setNear(id);
	};
	return (
		<g onPointerMove={look} onPointerLeave={() => setNear(null)}>
			<rect
				width={width}
				height={height}
				fill="transparent"
				style={{ cursor: "crosshair" }}
				onPointerDown={(e) => draw(e)}
				data-testid="match-sheet"
			/>
			{result?.ok && <Solved result={result} width={width} height={height} sx={sx} sy={sy} k={k} lines={lines} />}
			{result?.ok && <Check width={width} height={height} k={k} result={result} staff={staff} />}
			{proposals && <Proposals width={width} k={k} s={sx} />}
			{lines.map((l, i) => {
				const [x1, y1, x2, y2] = [l.x1 * sx, l.y1 * sy, l.x2 * sx, l.y2 * sy];
				const length = Math.hypot(x2 - x1, y2 - y1) || 1;
				const nx = (-(y2 - y1) / length) * (8 / k);
				const ny = ((x2 - x1) / length) * (8 / k);
				const on = chosen?.id === l.id;
				const held = on && !!chosen.held;
				return (
					<g key={l.id}>
						<Double
							k={k}
							dashed={l.out || (result?.ok && result.wrong === l.id && !doc.match.allCount)}
							d={`M${x1} ${y1}L${x2} ${y2}M${x1 - nx} ${y1 - ny}L${x1 + nx} ${y1 + ny}M${x2 - nx} ${y2 - ny}L${x2 + nx} ${y2 + ny}`}
						/>
						{on && (
							<circle
								cx={chosen.end === 1 ? x1 : x2}
								cy={chosen.end === 1 ? y1 : y2}
								r={9 / k}
								className="inner"
								style={{ strokeWidth: 1.6 / k }}
							/>
						)}
						<path
							d={`M${x1} ${y1}L${x2} ${y2}`}
							stroke="transparent"
							strokeWidth={(held ? 2 * PICKED_PX : 2 * TAKEN_PX) / k}
							style={{ cursor: held ? "move" : "crosshair" }}
							onPointerDown={(e) => dragEnd(e, l, 0)}
						/>
						{([1, 2] as const).map((end) => (
							<circle
								key={end}
								cx={end === 1 ? x1 : x2}
								cy={end === 1 ? y1 : y2}
								r={(held ? PICKED_PX : TAKEN_PX) / k}
								className={held || l.axis !== axis || tool !== "line" ? "" : "taken"}
								fill="transparent"
								strokeWidth={2 / k}
								style={{ cursor: held || l.axis === axis ? "grab" : "crosshair" }}
								data-testid={`line-${i + 1}-end-${end}`}
								onPointerDown={(e) => dragEnd(e, l, end)}
							/>
						))}
					</g>
				);
			})}
			{lines.map((l, i) => {
				// Words lie over all lines.
				if (l.id !== near && l.id !== worst?.id && l.id !== chosen?.id && l.id !== fresh?.id) return null;
				const [x1, y1, x2, y2] = [l.x1 * sx, l.y1 * sy, l.x2 * sx, l.y2 * sy];
				const length = Math.hypot(x2 - x1, y2 - y1) || 1;
				const [nx, ny] = [(-(y2 - y1) / length) * (8 / k), ((x2 - x1) / length) * (8 / k)];
				const residual = residualOf(l);
				return (
					<Tag key={l.id} k={k} x={(x1 + x2) / 2 + nx * 1.6} y={(y1 + y2) / 2 + ny * 1.6}>
						{l.out
							? `${i + 1} · left out`
							: residual === undefined
								? `${i + 1}`
								: `${i + 1} · ${residual.toFixed(1)} px`}
					</Tag>
				);
			})}
			<MatchShapes
				width={width}
				height={height}
				k={k}
				place={place}
				result={result?.ok ? result : null}
				fresh={shape}
			/>
		</g>
	);
}

/** Edges that were found in the picture, each family by its number; a click in the ticket takes or refuses one. */
function Proposals({ width, k, s }: { width: number; k: number; s: number }) {
	const { proposals, proposalOver } = useStudioOf("proposals", "proposalOver");
	if (!proposals) return null;
	return (
		<g pointerEvents="none">
			{proposals.map((family, i) => {
				const dim = proposalOver !== null && proposalOver !== i;
				const d = family.segments.map(([x1, y1, x2, y2]) => `M${x1 * s} ${y1 * s}L${x2 * s} ${y2 * s}`).join("");
				const [x1, y1, x2, y2] = family.segments[0];
				return (
					<g key={family.id} opacity={dim ? 0.25 : 1}>
						<Double k={k} d={d} />
						<Tag
							k={k}
							x={Math.min(width - 30 / k, ((x1 + x2) / 2) * s)}
							y={((y1 + y2) / 2) * s - 14 / k}
						>{`family ${i + 1}`}</Tag>
					</g>
				);
			})}
		</g>
	);
}

function Solved({
	result,
	width,
	height,
	sx,
	sy,
	k,
	lines,
}: {
	result: Matched;
	width: number;
	height: number;
	sx: number;
	sy: number;
	k: number;
	lines: MatchLine[];
}) {
	const { horizon } = result.solution;
	const image = { width: width / sx, height: height / sy };
	// A bent lens bends the horizon too.
	const steps = result.solution.bend ? 32 : 1;
	const horizonPath = Array.from({ length: steps + 1 }, (_, i) => {
		const t = i / steps;
		const [x, y] = inPicture(result, image, t * image.width, horizon.yLeft + (horizon.yRight - horizon.yLeft) * t);
		return `${i ? "L" : "M"}${x * sx} ${y * sy}`;
	}).join("");
	const percent = 100 - ((horizon.yLeft + horizon.yRight) / 2 / (height / sy)) * 100;
	return (
		<g pointerEvents="none">
			<path d={horizonPath} fill="none" stroke="#a03c2a" strokeWidth={1.8 / k} />
			<text
				x={8 / k}
				y={horizon.yLeft * sy - 6 / k}
				fill="#a03c2a"
				fontSize={13 / k}
				fontWeight={600}
				stroke="#f3f1ec"
				strokeWidth={3 / k}
				paintOrder="stroke"
			>
				horizon {percent.toFixed(0)} %
			</text>
			{result.solution.meeting.map((m, i) => {
				if (!m) return null;
				const axis = result.axes[i];
				const x = m.x * sx;
				const y = m.y * sy;
				const seen = x > -width && x < 2 * width && y > -height && y < 2 * height;
				if (!seen) return null;
				return (
					<g key={axis}>
						{lines
							.filter((l) => l.axis === axis)
							.map((l) => {
								const near = Math.hypot(l.x1 * sx - x, l.y1 * sy - y) < Math.hypot(l.x2 * sx - x, l.y2 * sy - y);
								return (
									<path
										key={l.id}
										d={`M${near ? l.x1 * sx : l.x2 * sx} ${near ? l.y1 * sy : l.y2 * sy}L${x} ${y}`}
										stroke="#1d1c1a"
										strokeOpacity={0.8}
										strokeWidth={1 / k}
										strokeDasharray={`${4 / k} ${4 / k}`}
										fill="none"
									/>
								);
							})}
						<ellipse
							cx={x}
							cy={y}
							rx={Math.max(3 / k, m.spreadPx * sx)}
							ry={Math.max(3 / k, m.spreadPx * sy)}
							className="outer"
							style={{ strokeWidth: 3 / k }}
						/>
						<ellipse
							cx={x}
							cy={y}
							rx={Math.max(3 / k, m.spreadPx * sx)}
							ry={Math.max(3 / k, m.spreadPx * sy)}
							className="inner"
							style={{ strokeWidth: 1.2 / k }}
						/>
					</g>
				);
			})}
		</g>
	);
}

const DOOR_M = { width: 0.9, height: 2.1 };
/** Distances from the lens's foot and bearings off its heading at which plumb lines stand, and their height. */
const PLUMB = [4, 10, 25];
const PLUMB_DEG = [-22, -7, 8, 23];
const PLUMB_M = 5;

/** Metre rings about the lens's foot, plumb lines, and a staff or a door: they stand true when the match is. */
function Check({
	width,
	height,
	k,
	result,
	staff,
}: {
	width: number;
	height: number;
	k: number;
	result: Matched;
	staff: [number, number] | null;
}) {
	const doc = useShown();
	const { staffKind, plumb } = useStudioOf("staffKind", "plumb");
	const view = matchView(doc, result);
	const at = (p: [number, number, number]) => {
		const q = project(view.frame, p);
		if (q.depthM <= 0.05 || Math.abs(q.x) > 5 || Math.abs(q.y) > 5) return null;
		const image = matchImage(doc);
		const [x, y] = inPicture(result, image, q.x * image.width, q.y * image.height);
		return [(x / image.width) * width, (y / image.height) * height];
	};
	const path = (points: (number[] | null)[]) => {
		let d = "";
		let pen = false;
		for (const p of points) {
			if (!p || Math.abs(p[0]) > 4 * width || Math.abs(p[1]) > 4 * height) {
				pen = false;
				continue;
			}
			d += `${pen ? "L" : "M"}${p[0].toFixed(1)} ${p[1].toFixed(1)}`;
			pen = true;
		}
		return d;
	};
	return (
		<g pointerEvents="none">
			{[2, 5, 10, 20, 50].map((r) => {
				const points = Array.from({ length: 121 }, (_, i) =>
					at([r * Math.sin((i * Math.PI) / 60), 0, -r * Math.cos((i * Math.PI) / 60)]),
				);
				const front = at([r * Math.sin(view.headingRad), 0, -r * Math.cos(view.headingRad)]);
				return (
					<g key={r} opacity={0.75}>
						<path d={path(points)} fill="none" stroke="#000" strokeWidth={2 / k} />
						<path d={path(points)} fill="none" stroke="#fff" strokeWidth={0.9 / k} />
						{front && front[1] < height && <Tag k={k} x={front[0]} y={front[1]} anchor="middle">{`${r} m`}</Tag>}
					</g>
				);
			})}
			{plumb &&
				PLUMB.flatMap((r, ring) =>
					PLUMB_DEG.map((deg) => {
						const a = view.headingRad + ((deg + 4 * ring) * Math.PI) / 180;
						const line = path(
							Array.from({ length: 13 }, (_, i) => at([r * Math.sin(a), (i * PLUMB_M) / 12, -r * Math.cos(a)])),
						);
						return <Double key={`${r} ${deg}`} k={k} d={line} dashed />;
					}),
				)}
			{staff && staffKind === "staff" && <Staff at={at} staff={staff} k={k} />}
			{staff && staffKind !== "staff" && <Door {...{ at, path, staff, k }} along={staffKind === "door along"} />}
		</g>
	);
}

/** A door's opening, 0.9 by 2.1 m, about the spot, with the height of its latch. */
function Door({
	at,
	path,
	staff: [x, z],
	along,
	k,
}: {
	at: (p: [number, number, number]) => number[] | null;
	path: (points: (number[] | null)[]) => string;
	staff: [number, number];
	along: boolean;
	k: number;
}) {
	const place = (aside: number, up: number) => at(along ? [x, up, z + aside] : [x + aside, up, z]);
	const edge = (from: [number, number], to: [number, number]) =>
		Array.from({ length: 9 }, (_, i) =>
			place(from[0] + ((to[0] - from[0]) * i) / 8, from[1] + ((to[1] - from[1]) * i) / 8),
		);
	const [half, tall] = [DOOR_M.width / 2, DOOR_M.height];
	const frame = [
		...edge([-half, 0], [-half, tall]),
		...edge([-half, tall], [half, tall]),
		...edge([half, tall], [half, 0]),
	];
	const top = place(half, tall);
	return (
		<g data-testid="door">
			<Double k={k} d={path(frame)} />
			<Double k={k} d={path(edge([half - 0.15, 1.05], [half, 1.05]))} />
			{top && <Tag k={k} x={top[0] + 6 / k} y={top[1]}>{`${DOOR_M.width} × ${DOOR_M.height} m`}</Tag>}
		</g>
	);
}

function Staff({
	at,
	staff,
	k,
}: {
	at: (p: [number, number, number]) => number[] | null;
	staff: [number, number];
	k: number;
}) {
	const [x, z] = staff;
	return (
		<g>
			{[0, 1, 2, 3].map((m) => {
				const a = at([x, m, z]);
				const b = at([x, m + 1, z]);
				if (!a || !b) return null;
				return (
					<g key={m}>
						<path d={`M${a[0]} ${a[1]}L${b[0]} ${b[1]}`} stroke="#000" strokeWidth={6 / k} />
						<path d={`M${a[0]} ${a[1]}L${b[0]} ${b[1]}`} stroke={m % 2 ? "#fff" : "#a03c2a"} strokeWidth={4 / k} />
						<Tag k={k} x={b[0] + 6 / k} y={b[1]}>{`${m + 1} m`}</Tag>
					</g>
				);
			})}
		</g>
	);
}
