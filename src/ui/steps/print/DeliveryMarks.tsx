"use client";
/** Deliveries over the frame: outlines with their names; the one in hand is moved by its edge, resized by its corners. */
import type { PointerEvent as ReactPointerEvent } from "react";
import type { Delivery } from "../../../core/doc/schema.ts";
import { deliveryArea } from "../../../core/lens/delivery.ts";
import { useGesture } from "../../frame/gesture.ts";
import type { MarkProps } from "../../frame/marks.ts";
import { Double } from "../../parts/marks.tsx";
import { useShown } from "../../store/shotStore.ts";
import { useStudioOf } from "../../store/studio.ts";
import { BoxMark, boxPath } from "./BoxMark.tsx";

export function DeliveryMarks(frame: Pick<MarkProps, "width" | "height" | "k" | "place">) {
	const { deliveries = [], camera } = useShown();
	const { delivery, free, print } = useStudioOf("delivery", "free", "print");
	if (free || print) return null;
	// The one in hand lies over the others.
	const order = [...deliveries].sort((a, b) => Number(a.id === delivery) - Number(b.id === delivery));
	return (
		<>
			{order.map((d, i) => (
				<Mark key={d.id} {...{ ...frame, delivery: d, ratio: camera.ratio, chosen: d.id === delivery, row: i }} />
			))}
		</>
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
			const middle = deliveryArea(
				{ ...d, middle: [a.x + a.width / 2 + to.x - from.x, a.y + a.height / 2 + to.y - from.y] },
				ratio,
			);
			return edit({ middle: [middle.x + middle.width / 2, middle.y + middle.height / 2] });
		});
	};
	const resize = (event: ReactPointerEvent, right: 0 | 1) => {
		const whole = deliveryArea({ ...d, share: 1 }, ratio).width;
		const middle: [number, number] = [a.x + a.width / 2, a.y + a.height / 2];
		gesture(event, (e) => {
			const half = Math.max(0, (2 * right - 1) * (place(e).x - middle[0]));
			return edit({ share: Math.min(1, Math.max(0.05, (2 * half) / whole)), middle });
		});
	};
	return (
		<BoxMark box={box} name="delivery-mark" title={d.name} row={row} onMove={move} onResize={chosen ? resize : null}>
			<Double k={k} d={boxPath(box)} />
		</BoxMark>
	);
}
