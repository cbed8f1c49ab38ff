"use client";
/**
 * Lamps in the frame, while light is worked on: each by its own body as the lens sees it. A lamp is dragged at its distance;
 * the bob of its plumb line slides it over the ground; the stroke at the end of its beam aims it; a bar sets its size, a ring
 * about the beam's end the cone of a spot.
 */
import type { PointerEvent as ReactPointerEvent } from "react";
import type { Edit } from "../../../core/doc/edits.ts";
import type { Lamp, LampKind } from "../../../core/doc/schema.ts";
import { groundHeight } from "../../../core/ground/height.ts";
import { groundUnder, levelUnder, type Point } from "../../../core/ground/underPoint.ts";
import { type FrameOfView, project, rayThrough } from "../../../core/lens/camera.ts";
import { LAMPS, newLamp } from "../../../core/light/lamp.ts";
import {
	aimAt,
	coneRim,
	coneThrough,
	lampMeasuresBy,
	ownPosition,
	placesOf,
	targetOf,
} from "../../../core/light/lampPlacing.ts";
import { bodyTransform, halfMeasures, type LampPlace } from "../../../core/light/lamps.ts";
import type { Mesh } from "../../../core/maths/mesh.ts";
import { add, cross, length, normalize, scale, sub, type Vec3 } from "../../../core/maths/vec.ts";
import { outlineOf } from "../../../core/shape/silhouette.ts";
import { useGesture } from "../../frame/gesture.ts";
import type { MarkProps } from "../../frame/marks.ts";
import { Double, Tag } from "../../parts/marks.tsx";
import { startDrag } from "../../parts/pointer.ts";
import { newId } from "../../parts/words.ts";
import { shownDocument, useShot, useShown } from "../../store/shotStore.ts";
import { useStudio, useStudioOf } from "../../store/studio.ts";

/** A click waits this long for what it has met; then the ground alone counts. */
const PATIENCE_MS = 600;

const kindName = (kind: LampKind) => `${kind[0].toUpperCase()}${kind.slice(1)} lamp`;

/** Places a lamp where the pointer goes down: over what it points at, two metres high or as high as it is dragged. */
export function placeLamp(
	event: ReactPointerEvent,
	kind: LampKind,
	view: FrameOfView,
	place: MarkProps["place"],
	height: number,
): void {
	const { show, commit, say } = useShot.getState();
	const { set, stage } = useStudio.getState();
	const doc = shownDocument();
	const start = place(event);
	const foot = groundUnder(view, doc.ground, start);
	const id = newId();
	const name = `${kindName(kind)} ${doc.lamps.filter((l) => l.kind === kind).length + 1}`;
	const tall = LAMPS[kind].hangsM;
	const make = (e: { clientX: number; clientY: number } | null): Edit | null => {
		if (!foot) return null;
		const perMetre = height / (2 * view.tanY * project(view, foot).depthM);
		const up = e ? Math.max(0.05, ((start.y - place(e).y) * height) / perMetre) : tall;
		const position: [number, number, number] = [foot[0], up, foot[2]].map((v) => Math.round(v * 1000) / 1000) as [
			number,
			number,
			number,
		];
		return { name: "lamp.add", lamps: [newLamp(id, kind, { name, position })] };
	};
	startDrag(event, {
		move: (e) => show(make(e)),
		end: async (e, moved) => {
			let edit = make(moved ? e : null);
			if (!moved) {
				// A click hangs it before what it has met; the open ground carries it on a post that nobody sees.
				const hit = await Promise.race([
					stage?.pick(start.x, start.y),
					new Promise<null>((r) => setTimeout(() => r(null), PATIENCE_MS)),
				]);
				if (hit && shownDocument().pieces.some((p) => p.id === hit.thing)) {
					const d = normalize(rayThrough(view, start.x, start.y));
					const at = add(view.position, scale(d, Math.max(0.1, hit.distanceM - 0.25)));
					const lamp = newLamp(id, kind, { name, headingDeg: Math.round((Math.atan2(d[0], -d[2]) * 180) / Math.PI) });
					edit = { name: "lamp.add", lamps: [{ ...lamp, position: ownPosition(lamp, doc, at) }] };
				}
			}
			if (!edit) return say("Lamps are placed on the ground or at a piece: begin below the horizon.");
			if (commit(edit)) set({ lamp: id, placing: null });
		},
		cancel: () => show(null),
	});
}

export function LampMarks({ width, height, k, view, place }: MarkProps) {
	const doc = useShown();
	const { lamp: chosen, set } = useStudioOf("lamp", "set");
	const at = (p: Vec3) => {
		const q = project(view, p);
		return q.depthM > 0.05 ? { x: q.x * width, y: q.y * height, depthM: q.depthM } : null;
	};
	return (
		<g>
			{doc.lamps.map((lamp) => {
				const places = placesOf(lamp, doc);
				const own = lamp.id === chosen;
				return (
					<g key={lamp.id}>
						{places.slice(0, 40).map((p, i) => {
							const c = at(p.position);
							if (!c || (own && i === 0)) return null;
							return (
								<g
									key={i}
									style={{ cursor: "pointer" }}
									onPointerDown={(e) => (e.stopPropagation(), set({ lamp: lamp.id, selected: [] }))}
									data-testid={i === 0 ? `lamp-${lamp.name}` : undefined}
								>
									<Body {...{ ...c, k, view, width, height, lamp }} spot={p} />
								</g>
							);
						})}
						{own && places[0] && <Handles lamp={lamp} spot={places[0]} {...{ width, height, k, view, place, at }} />}
					</g>
				);
			})}
		</g>
	);
}

/** Half the size below which a lamp is drawn as a dot: of a body that is too small to be seen, and of a place without one. */
const DOT_PX = 5;

const bodies = new Map<LampKind, Mesh | null>();

function bodyOf(kind: LampKind): Mesh | null {
	let body = bodies.get(kind);
	if (body === undefined) {
		body = LAMPS[kind].body?.() ?? null;
		bodies.set(kind, body);
	}
	return body;
}

/** The lamp as the lens sees it: the outline of its disc, rectangle or ball; struck out while it is left out. */
function Body({ lamp, spot, x, y, k, view, width, height }: BodyProps) {
	const mesh = bodyOf(lamp.kind);
	const lines = mesh
		? outlineOf(mesh, bodyTransform(lamp, spot), view).map(([x1, y1, x2, y2]) => [
				x1 * width,
				y1 * height,
				x2 * width,
				y2 * height,
			])
		: [];
	const far = lines.flatMap(([x1, y1]) => [Math.hypot(x1 - x, y1 - y)]);
	const dot = Math.max(0, ...far) < DOT_PX / k;
	const r = dot ? DOT_PX / k : Math.max(...far);
	const body = dot
		? `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0`
		: lines
				.map((l) => l.map((v) => v.toFixed(1)))
				.map(([x1, y1, x2, y2]) => `M${x1} ${y1}L${x2} ${y2}`)
				.join("");
	return (
		<>
			<circle cx={x} cy={y} r={r + 7 / k} fill="transparent" />
			<Double k={k} d={body} />
			{dot && !lamp.muted && <circle cx={x} cy={y} r={2 / k} fill="#fff" />}
			{lamp.muted && <Double k={k} d={`M${x - r - 4 / k} ${y + r + 4 / k}L${x + r + 4 / k} ${y - r - 4 / k}`} />}
		</>
	);
}

interface BodyProps extends Point, Pick<MarkProps, "k" | "view" | "width" | "height"> {
	lamp: Lamp;
	spot: LampPlace;
}

/** A plumb line from a lamp to the ground under it: a bob at its end, its height on a slip beside it. */
function Plumb({ from, to, k, says }: { from: Point; to: Point; k: number; says: string }) {
	const [w, h] = [5 / k, 13 / k];
	return (
		<>
			<path d={`M${from.x} ${from.y}L${to.x} ${to.y - h}`} stroke="#000" strokeWidth={2.4 / k} />
			<path d={`M${from.x} ${from.y}L${to.x} ${to.y - h}`} stroke="#fff" strokeWidth={1 / k} />
			<path
				d={`M${to.x} ${to.y}L${to.x - w} ${to.y - 0.62 * h}L${to.x - w / 2} ${to.y - h}H${to.x + w / 2}L${to.x + w} ${to.y - 0.62 * h}z`}
				fill="#fff"
				stroke="#000"
				strokeWidth={1.4 / k}
			/>
			<Tag k={k} x={to.x} y={to.y + 16 / k} anchor="middle">
				{says}
			</Tag>
		</>
	);
}

type At = (p: Vec3) => (Point & { depthM: number }) | null;

function Handles({
	lamp,
	spot,
	width,
	height,
	k,
	view,
	place,
	at,
}: MarkProps & { lamp: Lamp; spot: ReturnType<typeof placesOf>[number]; at: At }) {
	const doc = useShown();
	const gesture = useGesture();
	const c = at(spot.position);
	if (!c) return null;
	const change = (part: Partial<Omit<Lamp, "id">>): Edit => ({ name: "lamp.set", id: lamp.id, change: part });
	const ground = groundHeight(doc.ground, spot.position[0], spot.position[2]);
	const foot = at([spot.position[0], ground, spot.position[2]]);
	const perMetre = width / (2 * view.tanX * c.depthM);
	const { aims, cone, measures } = LAMPS[lamp.kind];
	const target = aims ? targetOf(spot, doc) : null;
	const end = target && at(target);

	// A short stroke across the beam, lying on the level surface that it meets.
	const across = normalize(cross(spot.axis, Math.abs(spot.axis[1]) > 0.98 ? view.forward : [0, 1, 0]));
	const strokeM = end ? (11 * 2 * view.tanX * end.depthM) / width / k : 0;
	const ends = target ? [-strokeM, strokeM].map((m) => at(add(target, scale(across, m)))) : [];
	const lying = ends[0] && ends[1] ? [ends[0], ends[1]] : null;

	/** At the same distance from the lens. */
	const move = (event: ReactPointerEvent) => {
		const from = place(event);
		gesture(event, (e) => {
			const to = place(e);
			const right = scale(view.right, ((to.x - from.x) * width) / perMetre);
			const up = scale(view.up, ((from.y - to.y) * height) / perMetre);
			return change({ position: ownPosition(lamp, doc, add(spot.position, add(right, up))) });
		});
	};
	const slide = (event: ReactPointerEvent) => {
		const from = levelUnder(view, ground, place(event));
		gesture(event, (e) => {
			const to = levelUnder(view, ground, place(e));
			if (!from || !to) return null;
			const x = spot.position[0] + to[0] - from[0];
			const z = spot.position[2] + to[2] - from[2];
			return change({
				position: ownPosition(lamp, doc, [x, groundHeight(doc.ground, x, z) + spot.position[1] - ground, z]),
			});
		});
	};
	const aim = (event: ReactPointerEvent) =>
		gesture(event, (e) => {
			const q = place(e);
			// On the ground when the pointer is over it and it is not far away, else at the lamp's own distance.
			const under = groundUnder(view, doc.ground, q);
			const near = under && length(sub(under, spot.position)) < 60 ? under : null;
			const d = rayThrough(view, q.x, q.y);
			return change(aimAt(lamp, doc, near ?? add(view.position, scale(d, c.depthM))));
		});
	const open = (event: ReactPointerEvent) =>
		gesture(event, (e) => {
			if (!target) return null;
			const q = place(e);
			const d = rayThrough(view, q.x, q.y);
			const coneDeg = coneThrough(spot, target, view.position, d);
			return coneDeg === null ? null : change({ coneDeg });
		});
	const size = (event: ReactPointerEvent) => {
		const from = place(event);
		gesture(event, (e) => {
			const to = place(e);
			const dx = (2 * (to.x - from.x) * width) / perMetre;
			const dy = (2 * (from.y - to.y) * height) / perMetre;
			return change({ sizeM: lampMeasuresBy(lamp, dx, dy) });
		});
	};
	const half = halfMeasures(lamp).map((m) => m * perMetre);
	const grip = { x: c.x + Math.max(half[0], 16 / k), y: c.y - Math.max(half[1], 16 / k) };
	// Under a lamp that shines straight down the foot is held beside the beam's end.
	const grasp =
		foot && end && Math.hypot(foot.x - end.x, foot.y - end.y) < 30 / k ? { x: foot.x - 34 / k, y: foot.y } : foot;
	const ring = target && cone ? coneRim(spot, target, lamp.coneDeg) : [];
	const rim = ring.map(at);
	const knob = rim[6];
	return (
		<g>
			{foot && grasp && (
				<g style={{ cursor: "move" }} onPointerDown={slide}>
					<Plumb from={{ x: grasp.x, y: c.y }} to={grasp} k={k} says={`${(spot.position[1] - ground).toFixed(2)} m`} />
					<circle cx={grasp.x} cy={grasp.y - 5 / k} r={14 / k} fill="transparent" data-testid="lamp-foot" />
				</g>
			)}
			{end && (
				<>
					<Double k={k} d={`M${c.x} ${c.y}L${end.x} ${end.y}`} />
					{rim.every((p) => p) && rim.length > 0 && (
						<Double k={k} dashed d={`M${rim.map((p) => `${p?.x.toFixed(1)} ${p?.y.toFixed(1)}`).join("L")}z`} />
					)}
					<g style={{ cursor: "crosshair" }} onPointerDown={aim} data-testid="lamp-aim">
						<Double k={k} d={lying ? `M${lying[0].x} ${lying[0].y}L${lying[1].x} ${lying[1].y}` : ""} />
						<circle cx={end.x} cy={end.y} r={14 / k} fill="transparent" />
					</g>
				</>
			)}
			{knob && (
				<g style={{ cursor: "ew-resize" }} onPointerDown={open} data-testid="lamp-cone">
					<circle cx={knob.x} cy={knob.y} r={5 / k} fill="#fff" stroke="#000" strokeWidth={1.5 / k} />
					<circle cx={knob.x} cy={knob.y} r={12 / k} fill="transparent" />
				</g>
			)}
			{measures > 0 && (
				<g style={{ cursor: "nesw-resize" }} onPointerDown={size} data-testid="lamp-size">
					<Double k={k} d={`M${grip.x - 7 / k} ${grip.y}H${grip.x}V${grip.y + 7 / k}`} />
					<circle cx={grip.x} cy={grip.y} r={12 / k} fill="transparent" />
				</g>
			)}
			<g style={{ cursor: "move" }} onPointerDown={move} data-testid="lamp-place">
				<Body {...{ ...c, k, view, width, height, lamp, spot }} />
			</g>
			<Tag k={k} x={c.x + 18 / k} y={c.y}>
				{lamp.name}
			</Tag>
		</g>
	);
}
