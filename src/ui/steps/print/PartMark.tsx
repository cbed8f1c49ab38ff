"use client";
/** The part of the frame that is to be printed: moved by its edge and its name, resized by its corners. */
import type { PointerEvent as ReactPointerEvent } from "react";
import type { FramePart } from "../../../core/doc/schema.ts";
import type { Point } from "../../../core/ground/underPoint.ts";
import { fittedPart } from "../../../core/scene/part.ts";
import { useGesture } from "../../frame/gesture.ts";
import type { MarkProps } from "../../frame/marks.ts";
import { Double } from "../../parts/marks.tsx";
import { useShown } from "../../store/shotStore.ts";
import { useStudioOf } from "../../store/studio.ts";
import { BoxMark, boxPath } from "./BoxMark.tsx";
import { DeliveryMarks } from "./DeliveryMarks.tsx";

interface PartProps {
	part: FramePart;
	width: number;
	height: number;
	k: number;
	place: (e: { clientX: number; clientY: number }) => Point;
}

/** Marks outside the corners, as the frame itself has them. */
function cropMarks(x: number, y: number, w: number, h: number, k: number): string {
	const [gap, arm] = [4 / k, 12 / k];
	return [
		[x, -1, y, -1],
		[x + w, 1, y, -1],
		[x + w, 1, y + h, 1],
		[x, -1, y + h, 1],
	]
		.map(([cx, right, cy, down]) => `M${cx + right * gap} ${cy}h${right * arm}M${cx} ${cy + down * gap}v${down * arm}`)
		.join("");
}

function PartMark({ part, width, height, k, place }: PartProps) {
	const gesture = useGesture();
	const [x, y, w, h] = [part.x * width, part.y * height, part.width * width, part.height * height];
	const set = (x0: number, y0: number, x1: number, y1: number) => ({
		name: "print.set" as const,
		part: fittedPart(x0, y0, x1, y1),
	});
	const move = (event: ReactPointerEvent) => {
		const from = place(event);
		gesture(event, (e) => {
			const to = place(e);
			const left = Math.min(1 - part.width, Math.max(0, part.x + to.x - from.x));
			const top = Math.min(1 - part.height, Math.max(0, part.y + to.y - from.y));
			return set(left, top, left + part.width, top + part.height);
		});
	};
	const resize = (event: ReactPointerEvent, right: 0 | 1, low: 0 | 1) => {
		// The corner across stays.
		const still = { x: part.x + (right ? 0 : part.width), y: part.y + (low ? 0 : part.height) };
		gesture(event, (e) => {
			const to = place(e);
			return set(still.x, still.y, Math.min(1, Math.max(0, to.x)), Math.min(1, Math.max(0, to.y)));
		});
	};
	const box = { x, y, width: w, height: h, k };
	return (
		<BoxMark box={box} name="part" title="printed part" onMove={move} onResize={resize}>
			<path
				d={`M0 0H${width}V${height}H0z${boxPath(box)}`}
				fill="#1d1c1a"
				fillOpacity={0.28}
				fillRule="evenodd"
				pointerEvents="none"
			/>
			<Double k={k} d={cropMarks(x, y, w, h, k)} />
		</BoxMark>
	);
}

/** The part that is to be printed, over the frame as the lens sees it. */
export function PrintMarks({ width, height, k, place }: MarkProps) {
	const { part } = useShown().print;
	const { free, print } = useStudioOf("free", "print");
	const frame = { width, height, k, place };
	return (
		<>
			<DeliveryMarks {...frame} />
			{part && !free && !print && <PartMark {...{ part, ...frame }} />}
		</>
	);
}
