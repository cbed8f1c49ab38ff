/** A drag of the pointer from press to release, with Escape leaving everything as before. */
import type { PointerEvent as ReactPointerEvent } from "react";

export interface Drag {
	move: (event: PointerEvent) => void;
	/** Called once at the end; `moved` is false for a click. */
	end: (event: PointerEvent, moved: boolean) => void;
	cancel?: () => void;
}

const CLICK_PX = 3;

export function startDrag(event: ReactPointerEvent, drag: Drag): void {
	event.preventDefault();
	event.stopPropagation();
	(document.activeElement as HTMLElement | null)?.blur?.();
	const { clientX, clientY, pointerId } = event;
	let moved = false;
	const onMove = (e: PointerEvent) => {
		if (e.pointerId !== pointerId) return;
		if (!moved && Math.hypot(e.clientX - clientX, e.clientY - clientY) < CLICK_PX) return;
		moved = true;
		drag.move(e);
	};
	const stop = () => {
		window.removeEventListener("pointermove", onMove);
		window.removeEventListener("pointerup", onUp);
		window.removeEventListener("pointercancel", onCancel);
		window.removeEventListener("keydown", onKey, true);
	};
	const onUp = (e: PointerEvent) => {
		if (e.pointerId !== pointerId) return;
		stop();
		drag.end(e, moved);
	};
	const onCancel = () => {
		stop();
		drag.cancel?.();
	};
	const onKey = (e: KeyboardEvent) => {
		if (e.key !== "Escape") return;
		e.stopPropagation();
		onCancel();
	};
	window.addEventListener("pointermove", onMove);
	window.addEventListener("pointerup", onUp);
	window.addEventListener("pointercancel", onCancel);
	window.addEventListener("keydown", onKey, true);
}

const TWICE_MS = 500;
const TWICE_PX = 6;

let last = { timeStamp: Number.NEGATIVE_INFINITY, clientX: 0, clientY: 0 };

/** Whether a press is the second of two quick ones at one place. To be asked once of each press. */
export function pressedAgain({ timeStamp, clientX, clientY }: ReactPointerEvent): boolean {
	const again =
		timeStamp - last.timeStamp < TWICE_MS && Math.hypot(clientX - last.clientX, clientY - last.clientY) < TWICE_PX;
	// A third press begins anew.
	last = { timeStamp: again ? Number.NEGATIVE_INFINITY : timeStamp, clientX, clientY };
	return again;
}
