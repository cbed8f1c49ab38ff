"use client";
/** The brush where the pointer is: as wide as what it reaches. */
import { useEffect, useRef } from "react";
import { project } from "../../../core/lens/camera.ts";
import { add, scale } from "../../../core/maths/vec.ts";
import type { MarkProps } from "../../frame/marks.ts";
import { Double, Tag } from "../../parts/marks.tsx";
import { metres } from "../../parts/words.ts";
import { useShot } from "../../store/shotStore.ts";
import { useStudio, useStudioOf } from "../../store/studio.ts";
import { paintedUnder } from "./paintBrush.ts";

export function PaintMarks({ width, height, k, view, place }: MarkProps) {
	const { painting, paintRadiusM, paintStrength, paintAt } = useStudioOf(
		"painting",
		"paintRadiusM",
		"paintStrength",
		"paintAt",
	);
	const group = useRef<SVGGElement>(null);
	const frame = useRef({ view, place });
	frame.current = { view, place };
	useEffect(() => {
		const svg = group.current?.ownerSVGElement;
		if (!svg || !painting) return;
		const move = (e: PointerEvent) => {
			// While a stroke is drawn it tells by itself where it is.
			if (useShot.getState().preview) return;
			useStudio.setState({ paintAt: paintedUnder(frame.current, e)?.world ?? null });
		};
		const leave = () => useStudio.setState({ paintAt: null });
		svg.addEventListener("pointermove", move);
		svg.addEventListener("pointerleave", leave);
		return () => {
			svg.removeEventListener("pointermove", move);
			svg.removeEventListener("pointerleave", leave);
		};
	}, [painting]);
	if (!painting) return null;
	const middle = paintAt && project(view, paintAt);
	const rim = paintAt && project(view, add(paintAt, scale(view.right, paintRadiusM)));
	if (!middle || !rim || middle.depthM < 0.05) return <g ref={group} />;
	const [x, y] = [middle.x * width, middle.y * height];
	const r = Math.hypot(rim.x * width - x, rim.y * height - y);
	return (
		<g ref={group} pointerEvents="none" data-testid="paint-brush">
			<Double k={k} d={`M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0`} />
			<Tag k={k} x={x + r + 6 / k} y={y}>
				{`${metres(paintRadiusM)}, ${Math.round(100 * paintStrength)} %`}
			</Tag>
		</g>
	);
}
