"use client";
/** Air: fog by what it does. */
import { contrastKept, fogShape, visibilityForContrast } from "../../../core/air/fog.ts";
import type { Air, Piece, ShotDocument } from "../../../core/doc/schema.ts";
import { keptView } from "../../../core/lens/camera.ts";
import { footHeight, keptInFrame } from "../../frame/geometry.ts";
import { Act, Swatch, YesNo } from "../../parts/controls.tsx";
import { metres } from "../../parts/words.ts";
import { useShot, useShown } from "../../store/shotStore.ts";
import { useStudioOf } from "../../store/studio.ts";
import { EditRule } from "../EditRule.tsx";

/** Line of sight from the lens to a piece, as long as to its nearest point in the frame: heights of its ends, and its length. */
function sight(doc: ShotDocument, piece: Piece) {
	const [lx, ly, lz] = doc.camera.position;
	const y = footHeight(piece, doc) + piece.size[1] / 2;
	const nearM = keptInFrame(piece, doc, keptView(doc.camera))?.nearM;
	const toMiddle = Math.hypot(piece.position[0] - lx, y - ly, piece.position[2] - lz);
	return { ya: ly, yb: y, length: Math.max(0.1, nearM ?? toMiddle), to: nearM ? "Its nearest point" : "Its middle" };
}

export function AirBody() {
	const doc = useShown();
	const { selected, pickingFogPiece, set } = useStudioOf("selected", "pickingFogPiece", "set");
	const { commit, show } = useShot.getState();
	const { fog } = doc.air;
	const edit = (change: Partial<Air["fog"]>) => ({ name: "air.setFog" as const, ...change });
	const piece = doc.pieces.find((p) => p.id === selected[0]) ?? null;
	const line = piece ? sight(doc, piece) : null;
	const shape = fogShape({ ...fog, on: true });
	const kept = line ? contrastKept(shape, line.ya, line.yb, line.length) : 0;
	const byContrast = (percent: number) =>
		line
			? Math.min(500_000, Math.max(5, visibilityForContrast(fog, line.ya, line.yb, line.length, percent / 100)))
			: fog.visibilityM;
	const far = [50, 200, 1000, 5000].map(
		(m) =>
			`${metres(m)} keeps ${Math.round(contrastKept(shape, doc.camera.position[1], doc.camera.position[1], m) * 100)} %`,
	);
	return (
		<div>
			<YesNo label="Fog" value={fog.on} yes="lies" no="none" onPick={(on) => commit(edit({ on }))} />
			{fog.on && (
				<>
					{piece && line ? (
						<EditRule
							label={`${piece.name} keeps`}
							value={kept * 100}
							unit="% contrast"
							min={1}
							max={99}
							step={0.5}
							digits={0}
							edit={(v) => edit({ visibilityM: byContrast(v) })}
							says={`${line.to} lies ${metres(line.length)} away.`}
						/>
					) : (
						<div className="flex items-baseline justify-between py-1">
							<span className="text-second text-small">
								{pickingFogPiece ? "Click a piece in the frame." : "By what a piece keeps"}
							</span>
							<Act onClick={() => set({ pickingFogPiece: !pickingFogPiece })}>
								{pickingFogPiece ? "Leave" : "Pick a piece"}
							</Act>
						</div>
					)}
					<EditRule
						label="Visibility"
						value={fog.visibilityM}
						unit="m"
						min={20}
						max={200_000}
						logarithmic
						digits={0}
						edit={(visibilityM) => edit({ visibilityM })}
						says={`${far.join(", ")}.`}
					/>
					<YesNo
						label="Fills"
						value={fog.belowM !== null}
						yes="the low ground"
						no="all the air"
						onPick={(v) => commit(edit({ belowM: v ? 60 : null }))}
					/>
					{fog.belowM !== null && (
						<EditRule
							label="Lies below"
							value={fog.belowM}
							unit="m"
							min={0.5}
							max={5000}
							logarithmic
							digits={1}
							edit={(belowM) => edit({ belowM })}
						/>
					)}
					<EditRule
						label="Towards the sun"
						value={fog.forward}
						unit="forward"
						min={-0.5}
						max={0.95}
						edit={(forward) => edit({ forward })}
					/>
					<Swatch
						label="Scatters"
						value={fog.colour}
						onPreview={(colour) => show(edit({ colour }))}
						onCommit={(colour) => commit(edit({ colour }))}
					/>
					<YesNo
						label="Sky stays clear of fog"
						value={fog.skyClear}
						onPick={(skyClear) => commit(edit({ skyClear }))}
					/>
				</>
			)}
		</div>
	);
}
