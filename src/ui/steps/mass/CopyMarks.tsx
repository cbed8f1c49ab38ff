"use client";
/** Marks of a repeated piece's copies: a foot each, to be picked and moved by itself, and the middle of a ring. */
import type { PointerEvent as ReactPointerEvent } from "react";
import type { Edit } from "../../../core/doc/edits.ts";
import type { Piece } from "../../../core/doc/schema.ts";
import { levelUnder, type Point } from "../../../core/ground/underPoint.ts";
import { stretches } from "../../../core/maths/curve.ts";
import type { Vec3 } from "../../../core/maths/vec.ts";
import { copiesOf, countOf, everyCopy } from "../../../core/shape/copies.ts";
import {
	insertLinePoint,
	moveCopy,
	moveLinePoint,
	moveRingCentre,
	turnLinePoint,
} from "../../../core/shape/handPieces.ts";
import { beside, footing } from "../../../core/shape/place.ts";
import { useGesture } from "../../frame/gesture.ts";
import type { MarkProps } from "../../frame/marks.ts";
import { Double } from "../../parts/marks.tsx";
import { pressedAgain } from "../../parts/pointer.ts";
import { BetweenHandle, PointHandle } from "../../parts/points.tsx";
import { useShot, useShown } from "../../store/shotStore.ts";
import { useStudioOf } from "../../store/studio.ts";

/** Copies with a mark of their own; more of them would hide the picture. */
const MOST_MARKED = 120;

export function CopyMarks({
	piece,
	original,
	k,
	view,
	place,
	at,
}: Pick<MarkProps, "k" | "view" | "place"> & {
	piece: Piece;
	/** As the document has it, without what is being dragged. */
	original: Piece;
	at: (p: Vec3) => (Point & { depthM: number }) | null;
}) {
	const doc = useShown();
	const { copy: picked, set } = useStudioOf("copy", "set");
	const gesture = useGesture();
	const { repeat } = piece;
	if (!repeat) return null;
	const there = new Set(copiesOf(repeat).map((c) => c.copy));
	const footOf = (right: number, up: number, away: number): Vec3 => {
		const [x, z] = beside(piece, right, away);
		return [x, piece.position[1] + up + footing(piece, x, z, doc), z];
	};
	const drag = (event: ReactPointerEvent, copy: number, foot: Vec3) => {
		const from = levelUnder(view, foot[1], place(event));
		const make = (e: { clientX: number; clientY: number }) => {
			const to = levelUnder(view, foot[1], place(e));
			return from && to ? moveCopy(original, copy, to[0] - from[0], to[2] - from[2]) : null;
		};
		gesture(event, make, () => set({ copy: { of: piece.id, copy } }));
	};
	const marked = countOf(repeat) <= MOST_MARKED ? everyCopy(repeat).slice(1) : [];
	const middle = repeat.kind === "ring" ? footOf(repeat.centre[0], 0, repeat.centre[1]) : null;
	const middleAt = middle && at(middle);
	return (
		<g>
			{marked.map(({ copy, right, up, away }) => {
				const foot = footOf(right, up, away);
				const p = at(foot);
				if (!p) return null;
				const own = picked?.of === piece.id && picked.copy === copy;
				const out = !there.has(copy);
				return (
					<g
						key={copy}
						style={{ cursor: "move" }}
						onPointerDown={(e) => drag(e, copy, foot)}
						data-testid={`copy-${copy}`}
					>
						<title>{`Number ${copy + 1}${out ? ", left out" : ""}`}</title>
						<ellipse
							cx={p.x}
							cy={p.y}
							rx={(own ? 7 : 4) / k}
							ry={(own ? 3.4 : 2) / k}
							fill={out ? "none" : own ? "#000" : "#fff"}
							stroke={out || !own ? "#000" : "#fff"}
							strokeWidth={1.2 / k}
							strokeDasharray={out ? `${2 / k} ${2 / k}` : undefined}
						/>
						<ellipse cx={p.x} cy={p.y} rx={11 / k} ry={8 / k} fill="transparent" />
					</g>
				);
			})}
			{repeat.kind === "along" && <LineOfCopies {...{ piece, original, k, view, place, at, footOf }} />}
			{middle && middleAt && (
				<g
					style={{ cursor: "move" }}
					data-testid="handle-ring"
					onPointerDown={(event) => {
						const from = levelUnder(view, middle[1], place(event));
						gesture(event, (e) => {
							const to = levelUnder(view, middle[1], place(e));
							return from && to ? moveRingCentre(original, to[0] - from[0], to[2] - from[2]) : null;
						});
					}}
				>
					<Double
						k={k}
						d={`M${middleAt.x - 9 / k} ${middleAt.y}H${middleAt.x + 9 / k}M${middleAt.x} ${middleAt.y - 6 / k}V${middleAt.y + 6 / k}`}
					/>
					<circle cx={middleAt.x} cy={middleAt.y} r={12 / k} fill="transparent" />
				</g>
			)}
		</g>
	);
}

/** The line that copies stand along: its points are dragged, made soft or hard by two quick presses, put in between. */
function LineOfCopies({
	piece,
	original,
	k,
	view,
	place,
	at,
	footOf,
}: Parameters<typeof CopyMarks>[0] & { footOf: (right: number, up: number, away: number) => Vec3 }) {
	const gesture = useGesture();
	const commit = useShot((s) => s.commit);
	if (piece.repeat?.kind !== "along") return null;
	const { points } = piece.repeat;
	const places = stretches(points, false).map((s) => s.spots.map(([right, away]) => footOf(right, 0, away)));
	const drag = (event: ReactPointerEvent, from: Vec3, make: (dx: number, dz: number) => Edit | null) => {
		const begin = levelUnder(view, from[1], place(event));
		gesture(event, (e) => {
			const to = levelUnder(view, from[1], place(e));
			return begin && to ? make(to[0] - begin[0], to[2] - begin[2]) : null;
		});
	};
	return (
		<g>
			{places.map((line, i) => {
				const { n } = points[i];
				const seen = line.map(at).filter((p) => p !== null);
				const [a, b] = [points[i].at, points[i + 1].at];
				const between = footOf((a[0] + b[0]) / 2, 0, (a[1] + b[1]) / 2);
				const m = at(between);
				return (
					<g key={n}>
						{seen.length === line.length && (
							<Double k={k} dashed d={`M${seen.map((p) => `${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join("L")}`} />
						)}
						{m && (
							<BetweenHandle
								{...{ ...m, k }}
								onPointerDown={(e) => drag(e, between, (dx, dz) => insertLinePoint(original, n, dx, dz))}
								testId={`line-between-${n}`}
							/>
						)}
					</g>
				);
			})}
			{points.slice(1).map(({ n, at: [right, away], soft }) => {
				const foot = footOf(right, 0, away);
				const p = at(foot);
				if (!p) return null;
				const down = (event: ReactPointerEvent) => {
					const turned = pressedAgain(event) ? turnLinePoint(original, n) : null;
					if (!turned) return drag(event, foot, (dx, dz) => moveLinePoint(original, n, dx, dz));
					event.preventDefault();
					event.stopPropagation();
					commit(turned);
				};
				return <PointHandle key={n} {...{ ...p, k }} soft={!!soft} onPointerDown={down} testId={`line-point-${n}`} />;
			})}
		</g>
	);
}
