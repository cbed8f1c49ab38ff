/**
 * Lines drawn point by point: each press sets one, on what the pointer meets, or upright on the face that the first one is
 * on. A press on the first point closes the line; a second quick press, or Enter, ends it.
 */
import type { PointerEvent as ReactPointerEvent } from "react";
import { newPiece } from "../../../core/doc/defaults.ts";
import type { Piece, ShapeKind, ShotDocument, Stands } from "../../../core/doc/schema.ts";
import { levelUnder, type Point } from "../../../core/ground/underPoint.ts";
import { type FrameOfView, project, rayThrough } from "../../../core/lens/camera.ts";
import { atan2, DEG } from "../../../core/maths/functions.ts";
import { add, cross, dot, length, normalize, scale, sub, type Vec3 } from "../../../core/maths/vec.ts";
import { drawnLinePiece, LineError, type SetPoint } from "../../../core/shape/handPoints.ts";
import { footing } from "../../../core/shape/place.ts";
import { drawnOf } from "../../../core/shape/shapes.ts";
import { pieceUnder, spotFromAbove, spotUnder } from "../../../core/shape/underPoint.ts";
import type { MarkProps } from "../../frame/marks.ts";
import { pressedAgain, startDrag } from "../../parts/pointer.ts";
import { newId } from "../../parts/words.ts";
import type { FromAbove } from "../../plan/Plan.tsx";
import { shownDocument, useShot } from "../../store/shotStore.ts";
import type { DrawnSoFar } from "../../store/slices/hand.ts";
import { useStudio } from "../../store/studio.ts";

/** How near to the first point a press closes the line, in pixels of the screen. */
const CLOSE_PX = 12;
/** What is raised upright is so deep by itself, metres. */
const UPRIGHT_M = 0.2;
/** What lies is raised by this part of how far it goes. */
const RAISED = 0.35;
/** Pixels beside a place at which the face there is felt. */
const FEEL_PX = 3;
/** What looks up by more is no wall (sine). */
const LEVEL = 0.7;

const outOf = (headingDeg: number): Vec3 => [-Math.sin(headingDeg * DEG), 0, Math.cos(headingDeg * DEG)];

/** Height, or upright depth, of what is drawn: that of the last one of its kind and lie. */
function heightOf(kind: ShapeKind, { upright, points }: DrawnSoFar, pieces: readonly Piece[]): number {
	const like = pieces.findLast(
		(p) => p.shape.kind === kind && (p.pitchDeg === 90) === (upright && !drawnOf({ kind })?.upright),
	);
	if (like) return like.size[1];
	const own = drawnOf({ kind })?.heightM;
	if (own !== undefined) return own;
	if (upright) return UPRIGHT_M;
	const far = Math.max(...points.map((p) => length(sub(p.world, points[0].world))));
	return Math.max(0.1, Math.round(far * RAISED * 10) / 10);
}

const footingOf = (stands: Stands, doc: ShotDocument) => (x: number, z: number) =>
	footing(newPiece("", "box", { stands }), x, z, doc);

/** What has been drawn so far as a piece; null while it is none. Throws {@link LineError}. */
function pieceOf(id: string, line: DrawnSoFar, closed: boolean) {
	const doc = useShot.getState().document;
	const of = drawnOf(line);
	if (!of || line.points.length < of.least) return null;
	return drawnLinePiece(
		id,
		line.kind,
		{ ...line, closed, heightM: heightOf(line.kind, line, doc.pieces), footing: footingOf(line.stands, doc) },
		doc.pieces,
	);
}

/** Shows what has been drawn so far; what is none yet is not shown. */
function showLine(line: DrawnSoFar): void {
	const { show } = useShot.getState();
	try {
		show(pieceOf("drawn", line, false));
	} catch (error) {
		if (!(error instanceof LineError)) throw error;
		show(null);
	}
}

function put(line: DrawnSoFar | null): void {
	useStudio.getState().set({ sketch: line });
	if (line) showLine(line);
	else useShot.getState().show(null);
}

/** Ends the line that is being drawn: it becomes a piece. False when none is. */
export function endLine(closed = false): boolean {
	const { sketch: line, set, select } = useStudio.getState();
	const { commit, say } = useShot.getState();
	if (!line) return false;
	try {
		const edit = pieceOf(newId(), line, closed);
		if (!edit) throw new LineError("It has too few points: set more, or leave it with Esc.");
		put(null);
		if (commit(edit)) {
			select([edit.pieces[0].id]);
			set({ drawing: null });
		}
	} catch (error) {
		if (!(error instanceof LineError)) throw error;
		say(error.message);
	}
	return true;
}

/** Takes back the last point that was set. False when no line is drawn. */
export function takeBackPoint(): boolean {
	const { sketch: line } = useStudio.getState();
	if (!line) return false;
	put(line.points.length > 1 ? { ...line, points: line.points.slice(0, -1) } : null);
	return true;
}

export function leaveLine(): void {
	if (useStudio.getState().sketch) put(null);
}

/** The heading from which a face is looked at: felt by rays beside a place; the lens's own where it is no wall. */
function facing(view: FrameOfView, doc: ShotDocument, at: Point, width: number, height: number): number {
	const own = atan2(view.right[2], view.right[0]) / DEG;
	const hits = [
		[0, 0],
		[FEEL_PX / width, 0],
		[0, FEEL_PX / height],
	].map(([x, y]) => pieceUnder(view, doc, { x: at.x + x, y: at.y + y }));
	const [a, b, c] = hits;
	if (!a || !b || !c || b.piece !== a.piece || c.piece !== a.piece) return own;
	const n = normalize(cross(sub(c.place, a.place), sub(b.place, a.place)));
	const out = dot(n, sub(view.position, a.place)) < 0 ? scale(n, -1) : n;
	if (Math.abs(out[1]) > LEVEL) return own;
	// A face that looks towards heading h + 180 is looked at along h.
	return atan2(-out[0], out[2]) / DEG;
}

/** Where a pointer sets a point of the line; null where it meets nothing. */
function placeOf(line: DrawnSoFar, view: FrameOfView, doc: ShotDocument, at: Point): Vec3 | null {
	const [first] = line.points;
	if (line.upright) {
		const out = outOf(line.headingDeg);
		const along = rayThrough(view, at.x, at.y);
		const t = dot(sub(first.world, view.position), out) / dot(along, out);
		return t > 0 ? add(view.position, scale(along, t)) : null;
	}
	// What has heights of its own goes over what it meets; all else lies in one level.
	if (drawnOf(line)?.inSpace) return spotUnder(view, doc, at)?.foot ?? null;
	return levelUnder(view, first.world[1], at);
}

/** Sets a point while the pointer is down; it follows until that is let go. */
function set(
	event: ReactPointerEvent,
	line: DrawnSoFar,
	placed: (e: { clientX: number; clientY: number }) => Vec3 | null,
): void {
	const before = line.points.slice(0, -1);
	const last = line.points[line.points.length - 1];
	const moved = (e: { clientX: number; clientY: number }): DrawnSoFar => {
		const world = placed(e);
		return { ...line, points: [...before, world ? { ...last, world } : last] };
	};
	put(line);
	startDrag(event, {
		move: (e) => put(before.length ? moved(e) : line),
		end: (e, did) => did && before.length > 0 && put(moved(e)),
		cancel: () => put(before.length ? { ...line, points: before } : null),
	});
}

/** What a press that is near the first point, or the second of two quick ones, does. True when it has ended the line. */
function ends(event: ReactPointerEvent, line: DrawnSoFar, offPx: number): boolean {
	const again = pressedAgain(event);
	const canClose = line.points.length >= 3 && offPx < CLOSE_PX;
	if (!canClose && !(again && line.points.length >= 2)) return false;
	event.preventDefault();
	return endLine(canClose);
}

const newPoint = (world: Vec3): SetPoint => ({ world, soft: useStudio.getState().sketchSoft });

export function pressLine(event: ReactPointerEvent, kind: ShapeKind, frame: MarkProps): void {
	const { view, width, height, k, place } = frame;
	const doc = useShot.getState().document;
	const { sketch: line, sketchUpright } = useStudio.getState();
	const at = place(event);
	if (line) {
		const first = project(view, line.points[0].world);
		if (ends(event, line, Math.hypot((first.x - at.x) * width, (first.y - at.y) * height) * k)) return;
		const world = placeOf(line, view, doc, at);
		if (!world) {
			useShot.getState().say("Nothing is met here: points are set on what lies under the pointer.");
			return;
		}
		set(event, { ...line, points: [...line.points, newPoint(world)] }, (e) => placeOf(line, view, doc, place(e)));
		return;
	}
	pressedAgain(event);
	const of = drawnOf({ kind });
	const upright = !!of?.upright || (sketchUpright && !of?.lies);
	const hit = upright ? pieceUnder(view, doc, at) : null;
	const spot = spotUnder(view, doc, at);
	if (!spot) {
		useShot.getState().say("Lines are drawn on the ground or on a piece: begin below the horizon.");
		return;
	}
	// Upright on the side of a piece the line begins where that is met; all else at a foot.
	const onFace = hit && !of?.upright && spot.stands === "ground" ? hit.place : null;
	const headingDeg = upright
		? Math.round((onFace ? facing(view, doc, at, width, height) : atan2(view.right[2], view.right[0]) / DEG) * 100) /
			100
		: doc.camera.locked
			? 0
			: Math.round(atan2(view.right[2], view.right[0]) / DEG);
	const begun: DrawnSoFar = { kind, points: [newPoint(onFace ?? spot.foot)], stands: spot.stands, upright, headingDeg };
	set(event, begun, (e) => placeOf(begun, view, doc, place(e)));
}

/** The same in the plan, where all lines lie; a turned one cannot be drawn there. */
export function pressLineFromAbove(
	event: ReactPointerEvent,
	kind: ShapeKind,
	{ worldAt, headingDeg, pxPerMetre }: FromAbove,
): void {
	const { document: doc, say } = useShot.getState();
	const { sketch: line } = useStudio.getState();
	if (drawnOf({ kind })?.upright) {
		say("What is turned about an upright axis is drawn in the frame.");
		return;
	}
	if (line?.upright) {
		say("This line stands upright: it is drawn in the frame.");
		return;
	}
	const [x, z] = worldAt(event);
	const placed = (e: { clientX: number; clientY: number }): Vec3 => {
		const [px, pz] = worldAt(e);
		const y =
			line && !drawnOf({ kind })?.inSpace ? line.points[0].world[1] : spotFromAbove(shownDocument(), px, pz).foot[1];
		return [px, y, pz];
	};
	if (line) {
		const [fx, , fz] = line.points[0].world;
		if (ends(event, line, Math.hypot(fx - x, fz - z) * pxPerMetre)) return;
		set(event, { ...line, points: [...line.points, newPoint(placed(event))] }, placed);
		return;
	}
	pressedAgain(event);
	const spot = spotFromAbove(doc, x, z);
	const begun: DrawnSoFar = {
		kind,
		points: [newPoint(spot.foot)],
		stands: spot.stands,
		upright: false,
		headingDeg: doc.camera.locked ? 0 : Math.round(headingDeg),
	};
	set(event, begun, placed);
}
