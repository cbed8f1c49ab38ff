"use client";
/** What hangs in the frame's place until it is drawn: the latest print, or the frame with its horizon, as a sketch. */
import type { Camera } from "../../core/doc/schema.ts";
import { frameOfView, horizonPercent } from "../../core/lens/camera.ts";

const WIDE = 1000;

export function Waiting({ camera, print, says }: { camera: Camera; print?: string | null; says?: string }) {
	if (print)
		// biome-ignore lint/performance/noImgElement: the blob is served by this application as it is
		return <img src={`/api/blobs/${print}`} alt="The latest print" className="h-full w-full object-contain" />;
	const high = WIDE / camera.ratio;
	const percent = horizonPercent(frameOfView(camera));
	const horizon = Number.isFinite(percent) ? high * (1 - percent / 100) : null;
	const thirds = [1, 2].map((i) => `M${(WIDE * i) / 3} 0V${high}M0 ${(high * i) / 3}H${WIDE}`).join("");
	return (
		<svg viewBox={`0 0 ${WIDE} ${high}`} className="h-full w-full" role="img" aria-label="The frame is being drawn">
			<rect width={WIDE} height={high} fill="#d9d4c9" />
			{horizon !== null && <rect y={horizon} width={WIDE} height={Math.max(0, high - horizon)} fill="#c8c2b4" />}
			<path d={thirds} stroke="#1d1c1a" strokeOpacity={0.14} fill="none" />
			{horizon !== null && <path d={`M0 ${horizon}H${WIDE}`} stroke="#a03c2a" strokeWidth={1.5} />}
			<text x={28} y={high - 30} className="font-title" fontSize={30} fontStyle="italic" fill="#1d1c1a">
				{says ?? "The frame is being drawn"}
			</text>
		</svg>
	);
}
