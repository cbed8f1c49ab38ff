"use client";
/** The reference under the pointer, four times as large, with a cross at the very place. */
import type { Reference } from "../../core/doc/schema.ts";
import { useStudio } from "../store/studio.ts";
import { ReferencePicture } from "./ReferencePicture.tsx";

const SIDE = 148;
const TIMES = 4;

export function Magnifier({ reference, size }: { reference: Reference; size: { width: number; height: number } }) {
	const at = useStudio((s) => s.magnified);
	if (!at) return null;
	const right = at.x < 0.5;
	return (
		<div
			aria-hidden
			className="pointer-events-none absolute top-2 overflow-hidden border-2 border-paper outline outline-1 outline-ink"
			style={{ width: SIDE, height: SIDE, [right ? "right" : "left"]: 8 }}
		>
			<ReferencePicture
				reference={reference}
				width={size.width * TIMES}
				style={{
					position: "absolute",
					left: SIDE / 2 - at.x * size.width * TIMES,
					top: SIDE / 2 - at.y * size.height * TIMES,
				}}
			/>
			<i className="absolute top-0 left-1/2 h-full w-px bg-ink/80 outline outline-1 outline-paper/70" />
			<i className="absolute top-1/2 left-0 h-px w-full bg-ink/80 outline outline-1 outline-paper/70" />
		</div>
	);
}
