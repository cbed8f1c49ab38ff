"use client";
/** The bare frame under all marks: picking, moving an enlarged part, looking and walking about in a free view. */
import type { PointerEvent as ReactPointerEvent } from "react";
import { groundUnder } from "../../core/ground/underPoint.ts";
import { DEG } from "../../core/maths/functions.ts";
import { pieceUnder } from "../../core/shape/underPoint.ts";
import { pressedAgain, startDrag } from "../parts/pointer.ts";
import { pickPiece } from "../store/pick.ts";
import { useShown } from "../store/shotStore.ts";
import { useStudio, useStudioOf } from "../store/studio.ts";
import type { MarkProps } from "./marks.ts";

export interface BareProps {
	/** A press of something in hand that is to be set here. True when it was taken. */
	press: (event: ReactPointerEvent, frame: MarkProps) => boolean;
	/** What was pointed at, by its id; null for nothing. The second of two quick presses goes deeper. */
	picked: (id: string | null, more: boolean, deeper: boolean) => void;
}

export function Bare({ press, picked, ...frame }: MarkProps & BareProps) {
	const { width, height, k, view, place } = frame;
	const doc = useShown();
	const { zoom, free, set, stage } = useStudioOf("zoom", "free", "set", "stage");

	const look = (event: ReactPointerEvent) => {
		const pose = useStudio.getState().free;
		if (!pose) return;
		const { clientX, clientY } = event;
		const perPx = (view.tanX * 2) / width / DEG;
		startDrag(event, {
			move: (e) =>
				set({
					free: {
						...pose,
						headingDeg: (((pose.headingDeg - (e.clientX - clientX) * perPx) % 360) + 360) % 360,
						pitchDeg: Math.min(85, Math.max(-85, pose.pitchDeg + (e.clientY - clientY) * perPx)),
					},
				}),
			end: (e, moved) => {
				if (moved) return;
				const to = groundUnder(view, doc.ground, place(e));
				if (to) set({ free: { ...pose, position: [to[0], to[1] + (doc.camera.position[1] || 1.65), to[2]] } });
			},
			cancel: () => set({ free: pose }),
		});
	};

	const pick = async (event: ReactPointerEvent) => {
		const at = place(event);
		const more = event.shiftKey;
		const deeper = pressedAgain(event);
		const from = { x: zoom.x, y: zoom.y };
		startDrag(event, {
			move: (e) => {
				if (k === 1) return;
				const half = 0.5 / k;
				const clampTo = (v: number) => Math.min(1 - half, Math.max(half, v));
				set({
					zoom: {
						k,
						x: clampTo(from.x - (e.clientX - event.clientX) / width / k),
						y: clampTo(from.y - (e.clientY - event.clientY) / height / k),
					},
				});
			},
			end: async (_e, moved) => {
				if (moved) return;
				const hit = await stage?.pick(at.x, at.y);
				picked(hit?.thing ?? null, more, deeper);
			},
		});
	};

	const down = (event: ReactPointerEvent) => {
		if (event.button !== 0 || press(event, frame)) return;
		if (free) {
			const under = event.shiftKey ? pieceUnder(view, doc, place(event)) : null;
			return under ? pickPiece(under.piece.id, false, pressedAgain(event)) : look(event);
		}
		void pick(event);
	};

	return <rect width={width} height={height} fill="transparent" onPointerDown={down} data-testid="ground" />;
}
