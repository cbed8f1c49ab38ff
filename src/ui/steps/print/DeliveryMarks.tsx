"use client";
/** Deliveries over the frame: outlines with their names; the one in hand is moved by its edge, resized by its corners. */
import type { PointerEvent as ReactPointerEvent } from "react";
import type { Delivery } from "../../../core/doc/schema.ts";
import { type FrameOfView, project, rayThrough } from "../../../core/lens/camera.ts";
import { aimedFor, deliveryArea } from "../../../core/lens/delivery.ts";
import { clamp, DEG } from "../../../core/maths/functions.ts";
import { add } from "../../../core/maths/vec.ts";
import { shownView } from "../../frame/geometry.ts";
import { useGesture } from "../../frame/gesture.ts";
import type { MarkProps } from "../../frame/marks.ts";
import { Double, Tag } from "../../parts/marks.tsx";
import { Grip } from "../../parts/points.tsx";
import { useShown } from "../../store/shotStore.ts";
import { useStudioOf } from "../../store/studio.ts";
import { BoxMark, boxPath } from "./BoxMark.tsx";

export function DeliveryMarks(frame: Pick<MarkProps, "width" | "height" | "k" | "place">) {
	const { deliveries = [], camera, finish } = useShown();
	const { delivery, free, print } = useStudioOf("delivery", "free", "print");
	if (free || print) return null;
	// The one in hand lies over the others.
	const order = [...deliveries].sort((a, b) => Number(a.id === delivery) - Number(b.id === delivery));
	const view = shownView(camera, finish, null);
	return (
		<>
			{order.map((d, i) => {
				const mark = { ...frame, delivery: d, chosen: d.id === delivery, row: i };
				const { camera: own } = aimedFor({ camera }, d);
				return own === camera ? (
					<Mark key={d.id} {...mark} ratio={camera.ratio} />
				) : (
					<AimedMark key={d.id} {...mark} view={view} own={shownView(own, finish, null)} />
				);
			})}
		</>
	);
}

/** Places along each side of the outline of a turned delivery. */
const ALONG = 12;

/** The outline of a delivery whose lens is turned, as the frame sees it; dragged by its edge it is turned on. */
function AimedMark({
	delivery: d,
	chosen,
	row,
	width,
	height,
	k,
	place,
	view,
	own,
}: Pick<MarkProps, "width" | "height" | "k" | "place" | "view"> & {
	delivery: Delivery;
	chosen: boolean;
	row: number;
	own: FrameOfView;
}) {
	const gesture = useGesture();
	const { set } = useStudioOf("set");
	const a = deliveryArea(d, own.tanX / own.tanY);
	const corners: [number, number][] = [
		[a.x, a.y],
		[a.x + a.width, a.y],
		[a.x + a.width, a.y + a.height],
		[a.x, a.y + a.height],
	];
	const places = corners.flatMap(([x, y], i) => {
		const [toX, toY] = corners[(i + 1) % 4];
		return Array.from({ length: ALONG }, (_, j) => {
			const t = j / ALONG;
			const ray = rayThrough(own, x + (toX - x) * t, y + (toY - y) * t);
			return project(view, add(view.position, ray));
		});
	});
	if (places.some((p) => p.depthM < 0.05)) return null;
	const path = `M${places.map((p) => `${p.x * width} ${p.y * height}`).join("L")}Z`;
	const [heading, tilt] = d.aim ?? [0, 0];
	const turn = (event: ReactPointerEvent) => {
		if (event.button !== 0) return;
		set({ delivery: d.id });
		const from = place(event);
		gesture(event, (e) => {
			const to = place(e);
			const aim: [number, number] = [
				clamp(heading + (2 * view.tanX * (to.x - from.x)) / DEG, -90, 90),
				clamp(tilt - (2 * view.tanY * (to.y - from.y)) / DEG, -60, 60),
			];
			return { name: "delivery.set", id: d.id, change: { aim } };
		});
	};
	const left = places.reduce((best, p) => (p.x + p.y < best.x + best.y ? p : best));
	return (
		<g data-testid="delivery-mark">
			<Double k={k} d={path} />
			<Grip k={k} d={path} cursor="move" onPointerDown={turn} testId="delivery-mark-edge" />
			<g style={{ cursor: "move", opacity: chosen ? 1 : 0.85 }} onPointerDown={turn}>
				<Tag k={k} x={Math.max(2, left.x * width + 10 / k)} y={Math.max(14 / k, left.y * height + (18 + 26 * row) / k)}>
					{d.name}
				</Tag>
			</g>
		</g>
	);
}

function Mark({
	delivery: d,
	ratio,
	chosen,
	row,
	width,
	height,
	k,
	place,
}: Pick<MarkProps, "width" | "height" | "k" | "place"> & {
	delivery: Delivery;
	ratio: number;
	chosen: boolean;
	row: number;
}) {
	const gesture = useGesture();
	const { set } = useStudioOf("set");
	const a = deliveryArea(d, ratio);
	const [x, y, w, h] = [a.x * width, a.y * height, a.width * width, a.height * height];
	const box = { x, y, width: w, height: h, k };
	const edit = (change: Partial<Delivery>) => ({ name: "delivery.set" as const, id: d.id, change });
	const move = (event: ReactPointerEvent) => {
		if (event.button !== 0) return;
		set({ delivery: d.id });
		const from = place(event);
		gesture(event, (e) => {
			const to = place(e);
			const [across, up] = d.shift ?? [0, 0];
			const middle = deliveryArea(
				{
					...d,
					shift: undefined,
					middle: [a.x - across + a.width / 2 + to.x - from.x, a.y + up + a.height / 2 + to.y - from.y],
				},
				ratio,
			);
			return edit({ middle: [middle.x + middle.width / 2, middle.y + middle.height / 2] });
		});
	};
	const resize = (event: ReactPointerEvent, right: 0 | 1) => {
		const whole = deliveryArea({ ...d, share: 1 }, ratio).width;
		const [across, up] = d.shift ?? [0, 0];
		const unit = (v: number) => clamp(v, 0, 1);
		const middle: [number, number] = [unit(a.x - across + a.width / 2), unit(a.y + up + a.height / 2)];
		gesture(event, (e) => {
			const half = Math.max(0, (2 * right - 1) * (place(e).x - across - middle[0]));
			return edit({ share: clamp((2 * half) / whole, 0.05, Math.max(1, d.share)), middle });
		});
	};
	return (
		<BoxMark box={box} name="delivery-mark" title={d.name} row={row} onMove={move} onResize={chosen ? resize : null}>
			<Double k={k} d={boxPath(box)} />
		</BoxMark>
	);
}
