"use client";
/**
 * Handles of several pieces, or of a group: the foot slides them over the ground; about their pivot a ring turns them, the
 * rim of the crown leans them, its arrow makes them larger and smaller. A group's own pivot is a diamond that is dragged.
 */
import type { PointerEvent as ReactPointerEvent } from "react";
import { groupOfAll } from "../../../core/doc/groups.ts";
import type { Piece } from "../../../core/doc/schema.ts";
import { groundHeight } from "../../../core/ground/height.ts";
import { groundUnder, levelUnder } from "../../../core/ground/underPoint.ts";
import { rayThrough } from "../../../core/lens/camera.ts";
import { atan2, cos, DEG, millimetres } from "../../../core/maths/functions.ts";
import { add, normalize, scale, sub, type Vec3 } from "../../../core/maths/vec.ts";
import { slidePieces } from "../../../core/shape/handPieces.ts";
import {
	leanTogether,
	middleOfFeet,
	pivotInWorld,
	pivotOf,
	scaleTogether,
	turnTogether,
} from "../../../core/shape/together.ts";
import { footHeight } from "../../frame/geometry.ts";
import { useGesture } from "../../frame/gesture.ts";
import type { MarkProps } from "../../frame/marks.ts";
import { Double } from "../../parts/marks.tsx";
import { useShot, useShown } from "../../store/shotStore.ts";
import { snapped } from "../../store/snap.ts";
import { type At, Crown, Foot, SnapTag, TurnRing } from "./handles.tsx";

/** What is leaned by less is upright. */
const UPRIGHT_DEG = 1.5;
/** A hand makes pieces no smaller than this part of what they are. */
const LEAST = 0.02;
const TICK = 1.15;

export function ManyMarks({ pieces, width, height, k, view, place, at }: MarkProps & { pieces: Piece[]; at: At }) {
	const doc = useShot((s) => s.document);
	const shown = useShown();
	const gesture = useGesture();
	const chosen = new Set(pieces.map((p) => p.id));
	const all = doc.pieces.filter((p) => chosen.has(p.id));
	const originals = all.filter((p) => !p.held);
	const group = groupOfAll(pieces, shown);
	const pivot = pivotOf(pieces, shown);
	const centre = pivotInWorld(pivot, shown);
	const [mx, , mz] = middleOfFeet(pieces);
	const my = groundHeight(shown.ground, mx, mz);
	const foot = at([mx, my, mz]);
	const middle = at(centre);
	if (!foot || originals.length === 0) return null;
	const radius = Math.max(
		0.4,
		...pieces.map(
			(p) => Math.hypot(p.position[0] - centre[0], p.position[2] - centre[2]) + Math.max(p.size[0], p.size[2]) / 2,
		),
	);
	const high = Math.max(0.2, ...pieces.map((p) => footHeight(p, shown) + p.size[1] - centre[1]));
	const crown = at([centre[0], centre[1] + high, centre[2]]);
	// Where the lens stands, there the ring is nearest to it.
	const near = atan2(view.position[2] - centre[2], view.position[0] - centre[0]);

	const from = pivotOf(all, doc);
	const about = pivotInWorld(from, doc);
	const slide = (event: ReactPointerEvent) => {
		const begin = levelUnder(view, my, place(event));
		gesture(event, (e) => {
			const to = levelUnder(view, my, place(e));
			if (!begin || !to) return null;
			return snapped(slidePieces(originals, to[0] - begin[0], to[2] - begin[2]), width / (2 * view.tanX * foot.depthM));
		});
	};
	const turn = (event: ReactPointerEvent) => {
		const bearing = (p: Vec3) => atan2(p[0] - about[0], -(p[2] - about[2])) / DEG;
		const begin = levelUnder(view, about[1], place(event));
		gesture(event, (e) => {
			const to = levelUnder(view, about[1], place(e));
			return begin && to ? turnTogether(originals, Math.round(bearing(to) - bearing(begin)), from) : null;
		});
	};
	const lean = (event: ReactPointerEvent) =>
		gesture(event, (e) => {
			const { x, y } = place(e);
			const to = add(sub(view.position, about), scale(rayThrough(view, x, y), middle?.depthM ?? foot.depthM));
			const towards = normalize(to);
			const upright = towards[1] > cos(UPRIGHT_DEG * DEG);
			return leanTogether(originals, about, upright ? [0, 1, 0] : towards, doc);
		});
	const size = (event: ReactPointerEvent) => {
		const begin = place(event);
		const tall = crown && middle ? Math.max(8, Math.abs(crown.y - middle.y)) : 60;
		gesture(event, (e) => {
			const by = Math.max(LEAST, 1 + ((begin.y - place(e).y) * height) / tall);
			return scaleTogether(originals, Math.round(by * 100) / 100, from);
		});
	};
	const movePivot = (event: ReactPointerEvent) =>
		gesture(event, (e) => {
			const to = groundUnder(view, doc.ground, place(e));
			if (!group || !to) return null;
			return { name: "group.setPivot", id: group.id, pivot: [millimetres(to[0]), pivot[1], millimetres(to[2])] };
		});
	return (
		<g>
			<TurnRing {...{ at, k, centre, turn }} radiusM={radius} tickAt={near} tickTo={TICK} />
			{crown && <Crown crown={crown} k={k} lean={lean} size={size} told={`${high.toFixed(2)} m`} />}
			{group?.pivot && middle && (
				<g style={{ cursor: "move" }} onPointerDown={movePivot} data-testid="handle-pivot">
					<Double k={k} d={diamond(middle, 24 / k, 15 / k)} />
					<path d={diamond(middle, 28 / k, 18 / k)} fill="transparent" />
				</g>
			)}
			<Foot foot={foot} k={k} onPointerDown={slide} />
			<SnapTag {...foot} k={k} />
		</g>
	);
}

const diamond = ({ x, y }: { x: number; y: number }, rx: number, ry: number) =>
	`M${x - rx} ${y}L${x} ${y - ry}L${x + rx} ${y}L${x} ${y + ry}z`;
