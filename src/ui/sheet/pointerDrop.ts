/**
 * Where a dragged thing is let go. The package that moves things about learns of the pointer only as fast as the page
 * is drawn; a quick hand lets go before that. So the drop itself is read from the pointer's own events: what is marked
 * `data-drag` where it went down, what is marked `data-drop` where it was let go.
 */
import { type PointerEvent as Pressed, useEffect, useRef } from "react";

/** Pointer movement that begins a drag, in CSS pixels. */
export const DRAG_PX = 5;

interface Drag {
	what: string;
	x: number;
	y: number;
	moved: boolean;
}

/** Innermost place to drop at a point; never the dragged thing's own. */
function placeAt(x: number, y: number, what: string): string | null {
	for (const element of document.elementsFromPoint(x, y)) {
		const place = element.closest<HTMLElement>("[data-drop]");
		if (place && place.dataset.drop !== `card:${what}`) return place.dataset.drop ?? null;
	}
	return null;
}

/** @returns A handler for pointers going down, in capture, about all that can be dragged. Escape lets go without a drop. */
export function usePointerDrop(onDrop: (what: string, place: string) => void): (e: Pressed) => void {
	const drag = useRef<Drag | null>(null);
	const drop = useRef(onDrop);
	drop.current = onDrop;
	useEffect(() => {
		const away = (d: Drag, e: PointerEvent) => Math.hypot(e.clientX - d.x, e.clientY - d.y) > DRAG_PX;
		const move = (e: PointerEvent) => {
			if (drag.current && away(drag.current, e)) drag.current.moved = true;
		};
		const up = (e: PointerEvent) => {
			const d = drag.current;
			drag.current = null;
			if (!d || !(d.moved || away(d, e))) return;
			const place = placeAt(e.clientX, e.clientY, d.what);
			if (place) drop.current(d.what, place);
		};
		const cancel = () => {
			drag.current = null;
		};
		const key = (e: KeyboardEvent) => e.key === "Escape" && cancel();
		window.addEventListener("pointermove", move, true);
		window.addEventListener("pointerup", up, true);
		window.addEventListener("pointercancel", cancel, true);
		window.addEventListener("keydown", key, true);
		return () => {
			window.removeEventListener("pointermove", move, true);
			window.removeEventListener("pointerup", up, true);
			window.removeEventListener("pointercancel", cancel, true);
			window.removeEventListener("keydown", key, true);
		};
	}, []);
	return (e) => {
		const what = e.button === 0 ? (e.target as Element).closest<HTMLElement>("[data-drag]")?.dataset.drag : undefined;
		drag.current = what ? { what, x: e.clientX, y: e.clientY, moved: false } : null;
	};
}
