"use client";
/** What could stand in a piece's place, each drawn in this frame, beside each other; one is taken by a click. */
import { useEffect, useMemo, useState } from "react";
import { candidatesFor } from "../../../core/shape/exchange.ts";
import { frameCanvas } from "../../frame/thumbnail.ts";
import { Act } from "../../parts/controls.tsx";
import { OverFrame } from "../../parts/OverFrame.tsx";
import { useShot } from "../../store/shotStore.ts";
import { useStudio, useStudioOf } from "../../store/studio.ts";

const COUNT = 9;
const WIDTH = 300;
/** A scene that has not come after so long will not, for it is the one that is there. */
const PATIENCE_MS = 8000;

const nextFrame = () => new Promise((r) => requestAnimationFrame(r));

/** Waits until another scene has been made and drawn; false when it is not wanted any more. */
function drawnAfter(number: number, wanted: () => boolean): Promise<boolean> {
	return new Promise((resolve) => {
		const end = (good: boolean) => {
			clearTimeout(late);
			stop();
			resolve(good);
		};
		const late = setTimeout(() => end(wanted()), PATIENCE_MS);
		const stop = useStudio.subscribe((s) => {
			if (!wanted()) end(false);
			else if (s.sceneNumber > number) end(true);
		});
	});
}

export function ExchangeSheet() {
	const { exchanging, set } = useStudioOf("exchanging", "set");
	const doc = useShot((s) => s.document);
	const [turn, setTurn] = useState(0);
	const [pictures, setPictures] = useState<readonly string[]>([]);
	const piece = doc.pieces.find((p) => p.id === exchanging);
	const candidates = useMemo(
		() => (piece ? candidatesFor(piece, doc.pieces, COUNT, turn) : []),
		[piece, doc.pieces, turn],
	);
	useEffect(() => {
		if (candidates.length === 0) return;
		let wanted = true;
		const { show } = useShot.getState();
		const draw = async () => {
			setPictures([]);
			for (const { edit } of candidates) {
				const { sceneNumber } = useStudio.getState();
				show(edit);
				if (!(await drawnAfter(sceneNumber, () => wanted))) return;
				// The scene is taken in one frame and seen in the next.
				await nextFrame();
				await nextFrame();
				const canvas = await frameCanvas(WIDTH);
				if (!wanted) return;
				setPictures((all) => [...all, canvas?.toDataURL("image/jpeg", 0.9) ?? ""]);
			}
			show(null);
		};
		void draw();
		return () => {
			wanted = false;
			show(null);
		};
	}, [candidates]);
	const close = () => set({ exchanging: null });
	const take = (k: number) => {
		useShot.getState().show(null);
		if (useShot.getState().commit(candidates[k].edit)) close();
	};
	return (
		<OverFrame
			open={!!piece}
			onOpenChange={(open) => !open && close()}
			title={`In the place of ${piece?.name}`}
			head={
				<>
					<span className="text-second text-small" role="status">
						{pictures.length < candidates.length
							? `${pictures.length} of ${candidates.length} drawn`
							: "Foot, height and turn stay."}
					</span>
					<Act onClick={() => setTurn(turn + 1)}>Others</Act>
				</>
			}
			testId="exchange-sheet"
			className="overflow-y-auto"
		>
			<ul className="flex flex-wrap gap-x-4 gap-y-4 pt-4">
				{candidates.map(({ title }, k) => (
					<li key={`${turn} ${title}`} style={{ width: WIDTH }}>
						<button
							type="button"
							className="block w-full text-left"
							disabled={!pictures[k]}
							onClick={() => take(k)}
							data-testid="exchange"
						>
							{pictures[k] ? (
								// biome-ignore lint/performance/noImgElement: a picture of the page's own
								<img src={pictures[k]} alt="" className="block w-full" />
							) : (
								<span className="block bg-hair/40" style={{ aspectRatio: doc.camera.ratio }} />
							)}
							<span className="block pt-1 text-small">{title}</span>
						</button>
					</li>
				))}
			</ul>
		</OverFrame>
	);
}
