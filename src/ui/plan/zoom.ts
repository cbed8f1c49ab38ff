/** Enlarging plan and section: the wheel about the pointer, a drag of the bare paper. */
import { type PointerEvent as ReactPointerEvent, type RefObject, useEffect, useState } from "react";
import { startDrag } from "../parts/pointer.ts";

/** Times as large as the whole, and where the whole's top-left corner then lies, pixels. */
export interface Zoomed {
	k: number;
	x: number;
	y: number;
}

export const WHOLE: Zoomed = { k: 1, x: 0, y: 0 };
const LEAST = 0.2;
const MOST = 200;

/** Enlarged by a factor about a place, which stays where it is. */
export function zoomedAt(z: Zoomed, factor: number, px: number, py: number): Zoomed {
	const k = Math.min(MOST, Math.max(LEAST, z.k * factor));
	const by = k / z.k;
	return { k, x: px - (px - z.x) * by, y: py - (py - z.y) * by };
}

/** A round number of metres near one: 1, 2 or 5 of a power of ten. */
export function roundMetres(m: number): number {
	const power = 10 ** Math.floor(Math.log10(Math.max(1e-3, m)));
	const digit = m / power;
	return (digit < 1.5 ? 1 : digit < 3.5 ? 2 : digit < 7.5 ? 5 : 10) * power;
}

export function useZoom(
	box: RefObject<Element | null>,
	width: number,
): Zoomed & { pan: (event: ReactPointerEvent) => void; whole: () => void } {
	const [zoom, setZoom] = useState(WHOLE);
	useEffect(() => {
		const element = box.current;
		if (!element) return;
		const onWheel = (event: Event) => {
			const e = event as WheelEvent;
			e.preventDefault();
			const r = element.getBoundingClientRect();
			const px = width / r.width;
			setZoom((z) => zoomedAt(z, Math.exp(-e.deltaY * 0.002), (e.clientX - r.left) * px, (e.clientY - r.top) * px));
		};
		element.addEventListener("wheel", onWheel, { passive: false });
		return () => element.removeEventListener("wheel", onWheel);
	}, [box, width]);
	const pan = (event: ReactPointerEvent) => {
		if (event.button !== 0) return;
		const from = zoom;
		startDrag(event, {
			move: (e) => setZoom({ k: from.k, x: from.x + e.clientX - event.clientX, y: from.y + e.clientY - event.clientY }),
			end: () => {},
			cancel: () => setZoom(from),
		});
	};
	return { ...zoom, pan, whole: () => setZoom(WHOLE) };
}
