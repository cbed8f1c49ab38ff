/** A ring that lies on the land, as the outline of a path. */
import { cos, sin, TAU } from "../../../core/maths/functions.ts";

/** Where a place of the land lies in a view; null behind the lens. */
export type OnLand = (x: number, z: number) => { x: number; y: number } | null;

/** A view of the land in which something lies on it. */
export interface LandView {
	at: OnLand;
	/** Place of the land under a pointer, right and towards; null where there is none. */
	land: (e: { clientX: number; clientY: number }) => readonly [number, number] | null;
	k: number;
	/** What its handles are called in tests. */
	view: "land" | "plan";
}

const RING = 72;

/** What lies behind the lens is left out. */
export function ringOnLand(at: OnLand, x: number, z: number, radiusM: number): string {
	let pen = "M";
	let d = "";
	for (let i = 0; i <= RING; i++) {
		const p = at(x + radiusM * cos((i * TAU) / RING), z + radiusM * sin((i * TAU) / RING));
		if (p) d += `${pen}${p.x.toFixed(1)} ${p.y.toFixed(1)}`;
		pen = p ? "L" : "M";
	}
	return d;
}
