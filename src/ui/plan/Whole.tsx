"use client";
/** The way back from an enlarged plan or section to all of it. */
import type { Zoomed } from "./zoom.ts";

export function Whole({ k, x, y, whole }: Zoomed & { whole: () => void }) {
	if (k === 1 && x === 0 && y === 0) return null;
	return (
		<button
			type="button"
			className="absolute right-2 bottom-1 bg-paper/80 text-second text-small underline underline-offset-4"
			onClick={whole}
		>
			whole
		</button>
	);
}
