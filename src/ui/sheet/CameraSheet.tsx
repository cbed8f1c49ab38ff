"use client";
/** Cameras that are kept, beside the reference that they are held against; one of them is taken and locked. */
import { shownSize } from "../../core/doc/look.ts";
import { ReferencePicture } from "../frame/ReferencePicture.tsx";
import { Act } from "../parts/controls.tsx";
import { OverFrame } from "../parts/OverFrame.tsx";
import { matchReference } from "../reference/match.ts";
import { useShown } from "../store/shotStore.ts";
import { useStudioOf } from "../store/studio.ts";
import { isOf, lookThrough, takeAndLock } from "./Candidates.tsx";

/** Pixels of the page that each picture is wide: two stand side by side at 1280, four at 2000. */
const WIDTH = 436;

export function CameraSheet() {
	const { camerasOpen, set, grey } = useStudioOf("camerasOpen", "set", "grey");
	const doc = useShown();
	const { candidates = [], camera } = doc;
	const reference = matchReference(doc);
	return (
		<OverFrame
			open={camerasOpen}
			onOpenChange={(open) => set({ camerasOpen: open })}
			title={`Cameras kept${reference ? `, beside ${reference.name}` : ""}`}
			head={<Act onClick={() => set({ grey: !grey })}>{grey ? "In colour" : "In grey"}</Act>}
			testId="camera-sheet"
			className="overflow-y-auto"
		>
			<ul className="flex flex-wrap gap-x-6 gap-y-5 pt-4">
				{reference && (
					<li style={{ width: WIDTH }}>
						<ReferencePicture
							reference={reference}
							alt="The reference"
							width={Math.min(
								WIDTH,
								(WIDTH / camera.ratio) * (shownSize(reference).width / shownSize(reference).height),
							)}
							filter={grey ? "grayscale(1)" : ""}
						/>
						<p className="pt-1 font-medium">{reference.name}</p>
					</li>
				)}
				{candidates.map((c) => {
					const taken = isOf(c, camera);
					return (
						<li key={c.id} style={{ width: WIDTH }} data-testid="camera-beside">
							{c.thumbnail ? (
								// biome-ignore lint/performance/noImgElement: the blob is served by this application as it is
								<img
									src={`/api/blobs/${c.thumbnail}`}
									alt={`Through ${c.name}`}
									className="block w-full"
									style={{ filter: grey ? "grayscale(1)" : undefined }}
								/>
							) : (
								<span className="block bg-hair" style={{ aspectRatio: c.camera.ratio }} />
							)}
							<div className="flex items-baseline gap-3 pt-1">
								<span className="font-medium">{c.name}</span>
								<span className="flex-1 text-second text-small">
									{c.camera.focalMm.toFixed(0)} mm, eye {c.camera.position[1].toFixed(2)} m
									{taken ? (camera.locked ? ", locked" : ", the shot's") : ""}
								</span>
								<button
									type="button"
									className="text-small underline"
									aria-label={`See from ${c.name}`}
									onClick={() => lookThrough(c)}
								>
									see from it
								</button>
								{!camera.locked && (
									<button
										type="button"
										className="text-small underline"
										aria-label={`Take ${c.name} and lock it`}
										onClick={() => takeAndLock(c)}
									>
										take and lock
									</button>
								)}
							</div>
						</li>
					);
				})}
			</ul>
			{candidates.length === 0 && (
				<p className="pt-4 text-second">No camera is kept yet. Keep one in Match, or walk off and keep the view.</p>
			)}
		</OverFrame>
	);
}
