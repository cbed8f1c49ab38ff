import { useEffect, useState } from "react";
import { isLight } from "../../core/finish/layers.ts";
import { frameAt } from "../../core/time/frames.ts";
import { useShot } from "../store/shotStore.ts";
import { useStudioOf } from "../store/studio.ts";
import type { ProofPicture } from "../view/finishPass.ts";

/** The print that lies over the frame, as linear pixels. */
export function usePrint(): ProofPicture | null {
	const { print, clean, steady, layer, set } = useStudioOf("print", "clean", "steady", "layer", "set");
	const sequenceOf = (s: ReturnType<typeof useShot.getState>) => s.prints.find((p) => p.id === print)?.sequence;
	// Of printed frames that at the moment in hand is shown, or the first.
	const frame = useShot((s) => {
		const sequence = sequenceOf(s);
		if (!sequence) return null;
		const now = s.timeS === null ? sequence.first : frameAt(s.timeS, sequence.rate);
		return Math.min(sequence.last, Math.max(sequence.first, now));
	});
	/** Its neighbours are wanted and have been taken in: it is fetched anew once they are. */
	const taken = useShot((s) => clean && steady && frame !== null && !!sequenceOf(s)?.steadied.includes(frame));
	const [picture, setPicture] = useState<{ id: string; picture: ProofPicture } | null>(null);
	useEffect(() => {
		if (!print) return setPicture(null);
		const ending = new AbortController();
		fetch(
			`/api/prints/${print}/pixels?${frame === null ? "" : `frame=${frame}&`}${layer === "picture" ? "" : `layer=${encodeURIComponent(layer)}&`}${clean ? "clean=1" : ""}${taken ? "&steady=1" : ""}`,
			{ signal: ending.signal },
		)
			.then(async (r) => {
				if (!r.ok) throw new Error((await r.json()).error.message);
				const bytes = await r.arrayBuffer();
				const [width, height, x, y, w, h, wide, high] = new Int32Array(bytes, 0, 8);
				const [white, dark] = new Float32Array(bytes, 32, 2);
				set({ depthRange: layer === "depth" ? [white, dark] : null });
				const part = { x: x / wide, y: y / high, width: w / wide, height: h / high };
				const ev = useShot.getState().prints.find((p) => p.id === print)?.ev100 ?? 0;
				setPicture({
					id: print,
					picture: {
						width,
						height,
						part,
						pixels: new Uint16Array(bytes, 40),
						scale: 2 ** -ev,
						share: 1,
						plain: layer !== "picture" && !isLight(layer),
					},
				});
			})
			.catch(
				(error) => ending.signal.aborted || useShot.getState().say(`The print could not be shown: ${error.message}`),
			);
		return () => ending.abort();
	}, [print, clean, taken, layer, frame, set]);
	return print && picture?.id === print ? picture.picture : null;
}
