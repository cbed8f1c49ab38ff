"use client";
/** A small frame of the move with the present finish. */
import { memo, useEffect, useRef } from "react";
import type { ShotDocument } from "../../core/doc/schema.ts";
import { finishedWhole } from "../../core/finish/bentLines.ts";
import type { SmallFrame } from "../../core/study/smallFrame.ts";
import { documentOf } from "../../core/time/documentAt.ts";
import { momentOfFrame } from "../../core/time/frames.ts";

export const SmallPicture = memo(function SmallPicture({
	small,
	doc,
	width,
	height,
}: {
	small: SmallFrame | undefined;
	doc: ShotDocument;
	width: number;
	height: number;
}) {
	const canvas = useRef<HTMLCanvasElement>(null);
	useEffect(() => {
		const context = canvas.current?.getContext("2d");
		if (!small || !context || !canvas.current) return;
		const { camera, finish } = doc.move ? documentOf(doc, momentOfFrame(small.frame, doc.move)) : doc;
		const { pixels, width, height } = finishedWhole(small.rgb, small, small.part, camera, finish);
		canvas.current.width = width;
		canvas.current.height = height;
		context.putImageData(new ImageData(pixels as Uint8ClampedArray<ArrayBuffer>, width, height), 0, 0);
	}, [small, doc]);
	return (
		<span className="block shrink-0 bg-hair/60" style={{ width, height }}>
			{small && <canvas ref={canvas} className="block h-full w-full object-cover" aria-hidden />}
		</span>
	);
});
