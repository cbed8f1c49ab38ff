"use client";
/** Patches over the frame, dragged by hand: the two of a colour match, and the one that surfaces are to look like. */
import type { PointerEvent as ReactPointerEvent } from "react";
import type { MarkProps } from "../../frame/marks.ts";
import { Double, Tag } from "../../parts/marks.tsx";
import { startDrag } from "../../parts/pointer.ts";
import { useStudio } from "../../store/studio.ts";
import { GRAIN_PATCH, PATCH } from "./colourPatches.ts";

const inside = (v: number) => Math.min(1, Math.max(0, v));

/** Sets the patch of what is aimed at where the frame is pressed, and drags it on; false while no colour is matched. */
export function pressColour(
	event: ReactPointerEvent,
	frame: Pick<MarkProps, "place">,
	which: "from" | "to" = "to",
): boolean {
	const { colouring } = useStudio.getState();
	if (!colouring) return false;
	const move = (e: { clientX: number; clientY: number }) => {
		const now = useStudio.getState().colouring;
		const { x, y } = frame.place(e);
		if (now) useStudio.setState({ colouring: { ...now, [which]: [inside(x), inside(y)] } });
	};
	if (event.button !== 0) return true;
	if (which === "to") move(event);
	startDrag(event, {
		move,
		end: () => {},
		cancel: () => useStudio.setState({ colouring }),
	});
	return true;
}

export function ColourMarks(frame: MarkProps) {
	const { width, height, k } = frame;
	const colouring = useStudio((s) => s.colouring);
	if (!colouring) return null;
	const half = PATCH * width;
	return (
		<g>
			{(["from", "to"] as const).map((which) => {
				const [x, y] = [colouring[which][0] * width, colouring[which][1] * height];
				return (
					<g
						key={which}
						data-testid={`colour-${which}`}
						style={{ cursor: "move" }}
						onPointerDown={(e) => pressColour(e, frame, which)}
					>
						<rect
							x={x - half - 8 / k}
							y={y - half - 8 / k}
							width={2 * half + 16 / k}
							height={2 * half + 16 / k}
							fill="transparent"
						/>
						<Double k={k} d={`M${x - half} ${y - half}h${2 * half}v${2 * half}h${-2 * half}Z`} />
						<Tag k={k} x={x + half + 4 / k} y={y}>
							{which === "from" ? "it" : "like this"}
						</Tag>
					</g>
				);
			})}
		</g>
	);
}

/** The patch of a reference that surfaces are to look like. */
export function LikeMarks(frame: MarkProps) {
	const { width, height, k } = frame;
	const at = useStudio((s) => s.likePatch);
	if (!at) return null;
	const half = GRAIN_PATCH * width;
	const [x, y] = [at[0] * width, at[1] * height];
	const drag = (event: ReactPointerEvent) => {
		if (event.button !== 0) return;
		const move = (e: { clientX: number; clientY: number }) => {
			const to = frame.place(e);
			useStudio.setState({ likePatch: [inside(to.x), inside(to.y)] });
		};
		startDrag(event, { move, end: () => {}, cancel: () => useStudio.setState({ likePatch: at }) });
	};
	return (
		<g data-testid="like-patch" style={{ cursor: "move" }} onPointerDown={drag}>
			<rect x={x - half} y={y - half} width={2 * half} height={2 * half} fill="transparent" />
			<Double k={k} d={`M${x - half} ${y - half}h${2 * half}v${2 * half}h${-2 * half}Z`} />
			<Tag k={k} x={x + half + 4 / k} y={y}>
				like this
			</Tag>
		</g>
	);
}
